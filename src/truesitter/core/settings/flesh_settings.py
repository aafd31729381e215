"""What the painter can set for mixing: tubes, wishes, pins, how paint dries, how much is needed."""

from __future__ import annotations

from dataclasses import replace
from typing import ClassVar, Literal, Self

from pydantic import Field, model_validator

from truesitter.core.paint.media.dilution import Thinning
from truesitter.core.paint.media.drying import DryingShift
from truesitter.core.paint.media.media_table import MEDIA, Medium, MediumName
from truesitter.core.paint.media.supports import WHITE_PAPER
from truesitter.core.paint.media.thickness import DryMm, WetMm
from truesitter.core.paint.media.tuning import DEFAULT_LOSS, LEAST_STRENGTH, MOST_STRENGTH, NORMAL_FILM_MM
from truesitter.core.paint.recipes.pricing import Tolerance
from truesitter.core.paint.recipes.tuning import EASY_DELTA_E
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import STARTERS, Palette
from truesitter.core.paint.tubes.rack import OwnTube, Rack
from truesitter.core.paint.tubes.swatches import Swatches
from truesitter.core.refusal import Refusal
from truesitter.core.settings.base import Settings
from truesitter.core.settings.setting_kinds import LabNumbers, TubeKey, Value
from truesitter.core.settings.tuning import MOST_PARTS


class SwatchSettings(Settings):
    """L*a*b* (D65, 2°) read off the swatches of a tube."""

    masstone: LabNumbers
    tint: LabNumbers | None = None
    over_black: LabNumbers | None = None
    over_white: LabNumbers | None = None
    wash: LabNumbers | None = None

    @model_validator(mode="after")
    def _possible(self) -> Self:
        self.swatches()
        return self

    def swatches(self) -> Swatches:
        """For the core."""
        return Swatches(self.masstone, self.tint, self.over_black, self.over_white, self.wash)


class TubeSettings(Settings):
    """A tube of the painter's own, as it was when it was set out."""

    key: TubeKey
    name: str = Field(min_length=1, max_length=60)
    pigment: TubeKey
    swatches: SwatchSettings | None = None

    @model_validator(mode="after")
    def _possible(self) -> Self:
        self.tube()
        return self

    def tube(self) -> OwnTube:
        """For the core."""
        return OwnTube(self.key, self.name, self.pigment, self.swatches.swatches() if self.swatches else None)


class PinSettings(Settings):
    """A mixture kept on the palette board: its target, and its parts when they are locked."""

    name: str = Field(min_length=1, max_length=60)
    target_lab: LabNumbers
    parts: dict[TubeKey, int] = Field(max_length=8)
    locked: bool = False
    film_mm: float | None = Field(None, gt=0, le=1, description="Dry film, when it is a wash")

    @model_validator(mode="after")
    def _whole(self) -> Self:
        if any(not 1 <= count <= MOST_PARTS for count in self.parts.values()):
            raise Refusal(f"parts are whole numbers from 1 to {MOST_PARTS}")
        return self


class FleshSettings(Settings):
    """The tubes set out, how values are fitted to them, and how the paint is used."""

    ROWS: ClassVar[tuple[str, ...]] = ("pins",)

    palette: str = Field("earth-four", max_length=60)
    tubes: tuple[TubeKey, ...] = Field(STARTERS[0].tubes, min_length=1, max_length=14)
    own: tuple[TubeSettings, ...] = Field((), max_length=60)
    transparent: bool = False
    most_tubes: int = Field(4, ge=1, le=6)
    must: tuple[TubeKey, ...] = Field((), max_length=6)
    without: tuple[TubeKey, ...] = Field((), max_length=14)
    black: bool = True
    recipes: Literal["easy", "exact"] = Field(
        "easy", description="Easy to count out within the tolerance, or as near as the tubes come"
    )
    tolerance: float = Field(
        EASY_DELTA_E, ge=0.5, le=6, description="How far an easy recipe of flesh may be off, ΔE2000"
    )
    monochrome: bool = False
    clip: bool = False
    tones: int = Field(5, ge=3, le=9)
    pins: tuple[PinSettings, ...] = Field((), max_length=60)
    medium: MediumName = "oil"
    drying: tuple[tuple[Value, Value], ...] = Field(
        (), max_length=12, description="The painter's own wet and dry values; empty for the usual ones"
    )
    strength: float | None = Field(
        None,
        ge=LEAST_STRENGTH,
        le=MOST_STRENGTH,
        description="Of thin layers, by the painter's own swatch; none for the usual one",
    )
    wait_minutes: float | None = Field(
        None, ge=0, le=90 * 24 * 60, description="Own time before a next layer"
    )
    open_minutes: float | None = Field(
        None, ge=0, le=14 * 24 * 60, description="Own time an edge stays movable"
    )
    film_mm: float = Field(NORMAL_FILM_MM, ge=0.005, le=5, description="As it is laid, wet")
    coats: int = Field(1, ge=1, le=20)
    loss: float = Field(DEFAULT_LOSS, ge=0, le=0.9)

    @model_validator(mode="after")
    def _known_tubes(self) -> Self:
        rack = self.rack()
        rack.check(self.tubes)
        for pin in self.pins:
            rack.check(tuple(pin.parts))
        self.wishes().palette(self.as_palette())
        self.drying_shift()
        return self

    def rack(self) -> Rack:
        """The library's tubes and the painter's own."""
        return Rack(tuple(tube.tube() for tube in self.own))

    def wishes(self) -> Wishes:
        """What every recipe must keep to; of tubes that are not set out nothing is asked."""
        return Wishes(
            most_tubes=self.most_tubes,
            must=tuple(k for k in self.must if k in self.tubes),
            without=tuple(k for k in self.without if k in self.tubes),
            black=self.black,
            tolerance=Tolerance().times(self.tolerance / EASY_DELTA_E) if self.recipes == "easy" else None,
        )

    def as_palette(self) -> Palette:
        """For the core."""
        palette = Palette("set-out", "Tubes set out", self.tubes, rack=self.rack())
        if not self.transparent:
            return palette
        rack = palette.rack.for_washes()
        return replace(palette, rack=rack, washes_on=WHITE_PAPER, thinning=self.washes())

    def medium_used(self) -> Medium:
        """The medium, with the painter's own figures where there are any."""
        usual = MEDIA[self.medium]
        own_open = usual.open_minutes if self.open_minutes is None else (self.open_minutes, self.open_minutes)
        return replace(
            usual,
            thinning=self.thinning(),
            wait_minutes=usual.wait_minutes if self.wait_minutes is None else self.wait_minutes,
            open_minutes=own_open,
        )

    def thinning(self) -> Thinning:
        """How the medium is thinned, as strong as the painter found it."""
        usual = MEDIA[self.medium].thinning
        return replace(usual, strength=self.strength or usual.strength)

    def washes(self) -> Thinning:
        """How washes on paper are thinned: with water, whatever else the plan is painted in."""
        return self.thinning() if MEDIA[self.medium].watery else MEDIA["watercolour"].thinning

    def wet_film(self) -> WetMm:
        """The film that is laid."""
        return WetMm(self.film_mm)

    def dry_film(self) -> DryMm:
        """The film that is left of it once dry."""
        return MEDIA[self.medium].dry(self.wet_film())

    def drying_shift(self) -> DryingShift:
        """How much lighter or darker the paint dries: by the painter's own swatches, else as usual."""
        return DryingShift(tuple(sorted(self.drying))) if self.drying else MEDIA[self.medium].shift
