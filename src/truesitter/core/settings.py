"""What the painter can set, stage by stage, with its ranges.

These are the parameters of every computation; the store keeps them, the web and the
command line send them. Points are fractions of the framed picture, lengths mm on the canvas.
"""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from truesitter.core.flesh_settings import FleshSettings
from truesitter.core.hair.field import Guide
from truesitter.core.passes.schools import LAYERED_OIL, school
from truesitter.core.reference.frame import Frame, keystone_matrix
from truesitter.core.reference.grid import Grid, GridKind, make_grid
from truesitter.core.reference.tone import MOST_GAIN, Tone
from truesitter.core.settings_base import Settings
from truesitter.core.sitter.region_names import Region
from truesitter.core.sitter.regions import Scribble
from truesitter.core.values.cuts import check_own_cuts
from truesitter.core.values.names import group_names

Fraction = Annotated[float, Field(ge=0, le=1)]
Gain = Annotated[float, Field(ge=1 / MOST_GAIN, le=MOST_GAIN)]
Spot = tuple[Annotated[float, Field(ge=-0.5, le=1.5)], Annotated[float, Field(ge=-0.5, le=1.5)]]
RegionName = Literal["background", "skin", "hair", "brows", "facial_hair", "lips", "eyes", "garment"]
ScribbleName = Literal[RegionName, "erase"]


class MeasureSettings(Settings):
    """One measure of the callipers, kept under a name."""

    name: str = Field(min_length=1, max_length=60)
    start: Spot
    end: Spot


class ReferenceSettings(Settings):
    """The frame on the canvas, the photograph's colour, and how it is looked at."""

    canvas_width_mm: float = Field(300, ge=10, le=5000)
    canvas_height_mm: float = Field(400, ge=10, le=5000)
    centre_x: Fraction = 0.5
    centre_y: Fraction = 0.5
    zoom: float = Field(1, ge=1, le=20)
    straighten: float = Field(0, ge=-45, le=45)
    keystone: tuple[Spot, Spot, Spot, Spot] | None = None
    mirror: bool = False
    balance: tuple[Gain, Gain, Gain] = (1.0, 1.0, 1.0)
    exposure: float = Field(0, ge=-3, le=3)
    black: float = Field(0, ge=0, le=4)
    white: float = Field(10, ge=6, le=10)
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
            raise ValueError("the unit is one of the measures")
        return self

    def frame(self) -> Frame:
        """The part that changes the picture."""
        return Frame(
            canvas_mm=(self.canvas_width_mm, self.canvas_height_mm),
            centre=(self.centre_x, self.centre_y),
            zoom=self.zoom,
            straighten=self.straighten,
            keystone=self.keystone,
            mirror=self.mirror,
        )

    def tone(self) -> Tone:
        """The part that corrects the colour."""
        return Tone(self.balance, self.exposure, self.black, self.white)

    def canvas_grid(self) -> Grid:
        """The grid over the canvas."""
        canvas = (self.canvas_width_mm, self.canvas_height_mm)
        return make_grid(canvas, self.grid, self.grid_columns, self.grid_rows, self.grid_square_mm)


GroupName = Annotated[str, Field(max_length=30)]


class JoinSettings(Settings):
    """A shape given to another group by hand: a spot inside it, and the group."""

    x: Fraction
    y: Fraction
    group: int = Field(ge=0, le=8)


class ValueSettings(Settings):
    """How the values are grouped."""

    mode: Literal["even", "fit", "own"] = "fit"
    groups: int = Field(5, ge=2, le=9)
    cuts: tuple[float, ...] = ()
    locked: tuple[float, ...] = Field((), max_length=8)
    names: tuple[GroupName, ...] = Field((), max_length=9)
    smallest_mm: float = Field(4, ge=0, le=60)
    features_mm: float = Field(1.3, ge=0, le=20)
    weigh_sitter: bool = True
    joins: tuple[JoinSettings, ...] = Field((), max_length=500)

    @model_validator(mode="after")
    def _own_cuts(self) -> Self:
        if self.mode == "own":
            check_own_cuts(self.cuts)
            if len(self.cuts) + 1 != self.groups:
                raise ValueError(f"{self.groups} groups need {self.groups - 1} cuts")
        if self.locked:
            check_own_cuts(tuple(sorted(self.locked)))
            if len(self.locked) >= self.groups:
                raise ValueError(f"{self.groups} groups have only {self.groups - 1} cuts to lock")
        return self

    def group_names(self) -> tuple[str, ...]:
        """Names of the groups, the painter's own where there is one."""
        usual = group_names(self.groups)
        own = (*self.names, *[""] * self.groups)
        return tuple(o.strip() or u for o, u in zip(own, usual, strict=False))


class ScribbleSettings(Settings):
    """One correcting stroke."""

    region: ScribbleName
    points: tuple[Spot, ...] = Field(min_length=1, max_length=2000)
    width: float = Field(0.02, gt=0, le=0.2)

    def scribble(self) -> Scribble:
        """For the core."""
        region = None if self.region == "erase" else Region[self.region.upper()]
        return Scribble(region, self.points, self.width)


class RegionSettings(Settings):
    """The painter's corrections of the regions, in the order they were drawn."""

    scribbles: tuple[ScribbleSettings, ...] = Field((), max_length=500)


class LightSettings(Settings):
    """How far the zones spread and how hard to squint before looking for lights."""

    zone_1_reach: float = Field(0.045, ge=0.01, le=0.2)
    squint: float = Field(0.006, ge=0.001, le=0.05)


class GuideSettings(Settings):
    """One guide stroke, root first."""

    points: tuple[Spot, ...] = Field(min_length=2, max_length=2000)
    reach: float = Field(0.04, gt=0, le=0.5)

    def guide(self) -> Guide:
        """For the core."""
        return Guide(self.points, self.reach)


class HairSettings(Settings):
    """Guide strokes and the spacing of the mapping lines."""

    guides: tuple[GuideSettings, ...] = Field((), max_length=500)
    spacing_mm: float = Field(6, ge=1, le=100)


class PassSettings(Settings):
    """The school followed, and which passes are done."""

    school: str = LAYERED_OIL.key
    done: tuple[str, ...] = Field((), max_length=200)

    @model_validator(mode="after")
    def _known_school(self) -> Self:
        school(self.school)
        return self


class StudySettings(Settings):
    """Everything the painter set for one sitter."""

    reference: ReferenceSettings = ReferenceSettings()
    values: ValueSettings = ValueSettings()
    regions: RegionSettings = RegionSettings()
    flesh: FleshSettings = FleshSettings()
    light: LightSettings = LightSettings()
    hair: HairSettings = HairSettings()
    passes: PassSettings = PassSettings()
