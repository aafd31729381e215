"""The frame on the canvas, the photograph's colour, and the measures."""

from __future__ import annotations

from typing import Annotated, ClassVar, Self

from pydantic import Field, model_validator

from truesitter.core.reference.frame import Frame, keystone_matrix, whole_canvas
from truesitter.core.reference.grid import Grid, GridKind, make_grid
from truesitter.core.reference.tone import PictureTone
from truesitter.core.reference.tuning import MOST_GAIN
from truesitter.core.refusal import Refusal
from truesitter.core.settings.base import Settings
from truesitter.core.settings.setting_kinds import Fraction, Spot

Gain = Annotated[float, Field(ge=1 / MOST_GAIN, le=MOST_GAIN)]


class MeasureSettings(Settings):
    """One measure of the callipers, kept under a name."""

    name: str = Field(min_length=1, max_length=60)
    start: Spot
    end: Spot


class ReferenceSettings(Settings):
    """The frame on the canvas, the photograph's colour, and how it is looked at."""

    ROWS: ClassVar[tuple[str, ...]] = ("measures",)

    canvas_width_mm: float = Field(300, ge=10, le=5000)
    canvas_height_mm: float = Field(400, ge=10, le=5000)
    centre_x: Fraction = 0.5
    centre_y: Fraction = 0.5
    zoom: float = Field(1, ge=1, le=20)
    straighten: float = Field(0, ge=-45, le=45)
    keystone: tuple[Spot, Spot, Spot, Spot] | None = None
    mirror: bool = False
    quarter_turns: int = Field(
        0, ge=0, le=3, description="The photograph turned counter-clockwise, first of all"
    )
    balance: tuple[Gain, Gain, Gain] = (1.0, 1.0, 1.0)
    exposure: float = Field(0, ge=-3, le=3)
    black: float = Field(0, ge=0, le=4)
    white: float = Field(10, ge=6, le=10)
    untinted: bool = Field(False, description="The tint of a photograph without colour taken out")
    grid: GridKind = "count"
    grid_square_mm: float = Field(50, ge=5, le=1000)
    grid_columns: int = Field(3, ge=1, le=40)
    grid_rows: int = Field(4, ge=1, le=40)
    squint: float = Field(0.012, ge=0, le=0.1)
    measures: tuple[MeasureSettings, ...] = Field((), max_length=100)
    unit: int | None = Field(None, ge=0, description="Which of the measures is the unit")

    @model_validator(mode="after")
    def _possible(self) -> Self:
        if self.keystone is not None:
            keystone_matrix(self.keystone, 1000, 1000)
        if self.unit is not None and self.unit >= len(self.measures):
            raise Refusal("the unit is one of the measures")
        return self

    @classmethod
    def of_photograph(cls, width: int, height: int) -> Self:
        """What a new sitter begins with: all of the photograph, on a canvas of its own proportions.

        Parameters
        ----------
        width, height
            Of the upright photograph.

        Examples
        --------
        >>> begun = ReferenceSettings.of_photograph(1600, 2000)
        >>> begun.canvas_width_mm, begun.canvas_height_mm
        (320.0, 400.0)
        """
        usual = cls()
        wide, high = whole_canvas(width, height, max(usual.canvas_width_mm, usual.canvas_height_mm))
        return cls(canvas_width_mm=wide, canvas_height_mm=high)

    def turned(self, turns: int) -> Self:
        """The photograph turned by so many more quarter turns; what was framed on it begins anew.

        Examples
        --------
        >>> upright = ReferenceSettings(canvas_width_mm=400, canvas_height_mm=320, zoom=2).turned(3)
        >>> upright.quarter_turns, upright.canvas_width_mm, upright.zoom
        (3, 320.0, 1)
        """
        canvas = (self.canvas_width_mm, self.canvas_height_mm)
        wide, high = canvas[::-1] if turns % 2 else canvas
        fields = {"centre_x", "centre_y", "zoom", "straighten", "keystone"}
        anew = ReferenceSettings().model_dump(include=fields)
        return self.model_copy(
            update={
                "quarter_turns": (self.quarter_turns + turns) % 4,
                "canvas_width_mm": wide,
                "canvas_height_mm": high,
                **anew,
            }
        )

    def frame(self) -> Frame:
        """The part that changes the picture."""
        return Frame(
            canvas_mm=(self.canvas_width_mm, self.canvas_height_mm),
            centre=(self.centre_x, self.centre_y),
            zoom=self.zoom,
            straighten=self.straighten,
            keystone=self.keystone,
            mirror=self.mirror,
            quarter_turns=self.quarter_turns,
        )

    def tone(self) -> PictureTone:
        """The part that corrects the colour."""
        return PictureTone(self.balance, self.exposure, self.black, self.white, self.untinted)

    def canvas_grid(self) -> Grid:
        """The grid over the canvas."""
        canvas = (self.canvas_width_mm, self.canvas_height_mm)
        return make_grid(canvas, self.grid, self.grid_columns, self.grid_rows, self.grid_square_mm)
