"""Which school is followed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Annotated, Any, ClassVar, Self

from pydantic import Field, model_validator

from truesitter.core.brushes.brush import (
    NUMBERS,
    STARTING_SET,
    STIFFNESS,
    Brush,
    Hair,
    Length,
    Point,
    Shape,
    Stiffness,
)
from truesitter.core.brushes.tuning import LARGEST_MM
from truesitter.core.design.background import Design, Hue
from truesitter.core.design.focus import Depth
from truesitter.core.design.shadow_family import ShadowFamily
from truesitter.core.pace.waiting import Room
from truesitter.core.paint.media.supports import SupportName
from truesitter.core.plan.size import with_fewer_washes
from truesitter.core.plan.subject import Exactness, Size
from truesitter.core.school.library import LAYERED_OIL, SCHOOLS, school
from truesitter.core.school.school_document import School, TonesOrder, UnlitName
from truesitter.core.school.switches import (
    BackgroundWhen,
    HairWhen,
    Layers,
    LightsWhen,
    Order,
    Sitting,
    Softening,
    Switches,
    WallStrokes,
    adapted,
)
from truesitter.core.settings.base import Document, Settings
from truesitter.core.settings.setting_kinds import LabNumbers, Spot, TubeKey
from truesitter.core.settings.tuning import MOST_PARTS


def _without_ticks(document: Document) -> Document:
    """Version 1 held the passes that were done; they are facts now."""
    return {name: value for name, value in document.items() if name != "done"}


def _with_single_hairs(document: Document) -> Document:
    """Version 2 drew a few strays in every tone; they are strokes of the hair's own layers now."""
    own = document.get("own")
    if not isinstance(own, list):
        return document
    return {**document, "own": [_single_hairs(school) for school in own]}


def _single_hairs(school: Any) -> Any:
    """A school whose strays are the light hairs."""
    if not isinstance(school, dict) or not isinstance(school.get("passes"), list):
        return school
    kind = "washed hair" if school.get("transparent") else "hair"

    def turned(one: Any) -> Any:
        if not isinstance(one, dict) or one.get("band") != "lines" or one.get("key") != "strays":
            return one
        return {**one, "band": "light hairs", "kind": kind if one.get("kind") == "lines" else one.get("kind")}

    return {**school, "passes": [turned(one) for one in school["passes"]]}


class LostSettings(Settings):
    """A stroke along an edge that is to be lost."""

    points: tuple[Spot, ...] = Field(min_length=2, max_length=2000)


class FocusSettings(Settings):
    """A place, and how near it is or how much it is looked at."""

    x: float = Field(ge=0, le=1)
    y: float = Field(ge=0, le=1)
    depth: Depth = "near"
    outline: tuple[Spot, ...] = Field((), max_length=400, description="Round a motif; none for a spot")


class BrushSettings(Settings):
    """A brush that is there: told by its number, by its width, or by both where the maker's differ."""

    shape: Shape
    number: str = Field("", max_length=6)
    mm: float | None = Field(None, gt=0, le=LARGEST_MM)
    hair: Hair = "synthetic"
    length: Length = "usual"
    point: Point = "usual"
    stiffness: Stiffness | None = Field(None, description="None as its hair usually is")

    @model_validator(mode="after")
    def _has_a_width(self) -> Self:
        self.brush()
        return self

    def brush(self) -> Brush:
        """For the core."""
        stiffness = self.stiffness or STIFFNESS[self.hair]
        if self.mm is None:
            usual = Brush.of_number(self.shape, self.number, self.hair, self.point)
            return replace(usual, length=self.length, stiffness=stiffness)
        return Brush(self.shape, self.mm, self.number, self.hair, self.length, self.point, stiffness)


def brush_settings(brush: Brush) -> BrushSettings:
    """A brush as a setting."""
    usual = NUMBERS[brush.shape].get(brush.number) == brush.mm
    return BrushSettings(
        shape=brush.shape, number=brush.number, mm=None if usual else brush.mm, hair=brush.hair,
        length=brush.length, point=brush.point,
        stiffness=None if brush.stiffness == STIFFNESS[brush.hair] else brush.stiffness,
    )  # fmt: skip


class BackdropSettings(Settings):
    """Two colours of one's own that pass into one another over the background."""

    first: LabNumbers = (35.0, 0.0, 0.0)
    last: LabNumbers = (60.0, 0.0, 0.0)
    turn: float = Field(0, ge=-360, le=360, description="Degrees clockwise from straight down")


class HeapSettings(Settings):
    """A heap of the palette as the painter calls it: told by the parts it is mixed from."""

    name: str = Field(min_length=1, max_length=40)
    parts: dict[TubeKey, Annotated[int, Field(ge=1, le=MOST_PARTS)]] = Field(min_length=1, max_length=8)


class PassSettings(Settings):
    """The school followed; which passes are done is a fact, not a setting."""

    VERSION: ClassVar[int] = 3
    UPGRADES: ClassVar[dict[int, Callable[[Document], Document]]] = {
        1: _without_ticks, 2: _with_single_hairs,
    }  # fmt: skip

    school: str = Field(LAYERED_OIL.key, max_length=40)
    own: tuple[School, ...] = Field((), max_length=12, description="Schools of the painter's own")
    background: BackgroundWhen | None = Field(None, description="None as the school has it; so below")
    backdrop: Design = Field("photo", description="How light the background is beside the figure")
    backdrop_hue: Hue = Field("as photographed", description="Where its colour comes from")
    backdrop_own: BackdropSettings = BackdropSettings()
    lost: tuple[LostSettings, ...] = Field((), max_length=60, description="Strokes along edges to be lost")
    focus: tuple[FocusSettings, ...] = Field((), max_length=40, description="None for the eyes")
    ground: str = Field(
        "school", max_length=60, description="school, auto, own, or the key of a ground for this picture"
    )
    ground_lab: LabNumbers | None = Field(None, description="Colour of a ground of one's own")
    hair: HairWhen | None = None
    lights: LightsWhen | None = None
    order: Order | None = None
    softening: Softening | None = None
    tones: TonesOrder | None = None
    sitting: Sitting | None = Field(None, description="All in one: everything goes into wet paint")
    layers: Layers | None = None
    wall: WallStrokes | None = Field(None, description="How the background is stroked")
    shadows: ShadowFamily | None = Field(None, description="What flesh shadows are turned to")
    size: Size = Field("portrait", description="How many passes: what loses least is left out")
    brushes: tuple[BrushSettings, ...] = Field(
        tuple(map(brush_settings, STARTING_SET)), max_length=40,
        description="What there is to paint with; with none, what a shop has",
    )  # fmt: skip
    own_heaps: tuple[HeapSettings, ...] = Field(
        (), max_length=12, description="Mixtures that are heaps of the plan whatever it would mix itself"
    )
    heap_names: tuple[HeapSettings, ...] = Field((), max_length=60, description="Own names of other heaps")
    exactness: Exactness = "portrait"
    least_edge_mm: float = Field(0, ge=0, le=20, description="No border is painted harder than that")
    sitting_hours: float = Field(3, ge=0.25, le=24, description="Longest sitting")
    rest_days: int = Field(0, ge=0, le=30, description="Days between two sittings on which nobody paints")
    temperature: float = Field(20, ge=0, le=45, description="Of the studio, in °C")
    humidity: float = Field(50, ge=5, le=95, description="Of its air, in per cent")
    dryer: bool = Field(False, description="Waits are shortened with a hair dryer, where warm air helps")
    support: SupportName | None = Field(None, description="None for the school's usual one")

    @model_validator(mode="after")
    def _known_school(self) -> Self:
        keys = [one.key for one in self.own]
        taken = next((k for k in keys if k in SCHOOLS or keys.count(k) > 1), None)
        if taken:
            raise ValueError(f"there is a school with the key “{taken}” already")
        self.followed()
        return self

    def followed(self) -> School:
        """The school that is followed, as its document has it."""
        return school(self.school, self.own)

    @property
    def unlit(self) -> tuple[UnlitName, ...]:
        """Places that the school leaves without light: all that light zones need to know of it."""
        return self.followed().unlit

    def adapted(self) -> School:
        """The same in as many washes as the size has, its passes in the order that the switches ask for."""
        return adapted(with_fewer_washes(self.followed(), self.size), self.switches())

    def switches(self) -> Switches:
        """What was decided for this plan."""
        return Switches(
            self.background, self.hair, self.lights, self.order, self.softening, self.tones, self.sitting,
            self.layers, self.wall,
        )  # fmt: skip

    @property
    def smears(self) -> bool:
        """True where borders are painted tight first and smeared afterwards."""
        return any(p.kind == "smear" for p in self.adapted().passes)

    def room(self) -> Room:
        """The studio's air."""
        return Room(self.temperature, self.humidity, self.dryer)
