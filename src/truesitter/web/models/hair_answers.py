"""What the browser is told of the hair, and what it sends."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from truesitter.core.settings.setting_kinds import Spot
from truesitter.formats.documents.plan_hair import (
    PlanApproach,
    PlanHairKind,
    PlanHairLayer,
    PlanHairlineSpot,
    PlanShine,
    PlanWhorl,
)
from truesitter.formats.documents.plan_locks import PlanLockForm
from truesitter.web.models.mixture import MixtureOut


class GrowthLineOut(BaseModel):
    """A growth line, root first."""

    points: list[float] = Field(description="x, y, x, y … in fractions of the picture")
    root_end: int = Field(description="Number of the point at which the root part ends")
    sure: float
    kind: str


class HairSpotOut(BaseModel):
    """A place."""

    x: float
    y: float


class HairOut(BaseModel):
    """Growth lines in the order of painting."""

    lines: list[GrowthLineOut]
    whorls: list[PlanWhorl]
    knot: HairSpotOut | None = Field(description="Hair gathered up, where no stroke says which way it runs")
    coherence: float
    hair_share: float
    kinds: list[PlanHairKind]
    head: str = Field(description="Type of the head's hair as it looks or as it was set")


class LockToneOut(BaseModel):
    """The dark, middle or light of a lock with its mixture."""

    name: str
    mixed: MixtureOut


class LockShadowOut(BaseModel):
    """The shadow that a lock casts on one below it."""

    on: int = Field(description="Rank of that lock")
    steps: float
    width_mm: float


class LockOut(BaseModel):
    """One lock, in the order of painting."""

    place: str
    x: float
    y: float
    width_mm: float
    length_mm: float
    turns: str
    contrast: float
    over: list[int] = Field(description="Ranks in this list of the locks it lies over")
    shadows: list[LockShadowOut] = Field(description="That it casts on them, the darkest first")
    pull: str
    type: str
    typed: bool = Field(description="True for hair of the head, whose type a press corrects")
    pressed: int | None = Field(description="Which of `lock_types` says its type; None for none")
    brush_mm: float = Field(description="The widest brush that follows it")
    disorder: float = Field(description="Degrees by which its strands lie off its way on average")
    curl_mm: float | None = Field(description="Length of one curl; None where none is seen")
    swing_mm: float | None = Field(description="How far a curl swings to either side")
    form: PlanLockForm | None = Field(description="None for what is too small")
    tones: list[LockToneOut]


class MassOut(BaseModel):
    """How much the locks of a mass stand out."""

    mass: str
    contrast: float
    locks: int
    words: str


class LocksOut(BaseModel):
    """Locks."""

    locks: list[LockOut]
    masses: list[MassOut]
    width_mm: float = Field(description="Width that is looked for")


class LayerOut(PlanHairLayer):
    """One layer with its mixture."""

    mixed: MixtureOut


class HairLayersOut(BaseModel):
    """How the hair is painted."""

    approach: PlanApproach
    kinds: list[PlanHairKind]
    layers: list[LayerOut]
    shine: list[PlanShine]
    refused: str = Field(description="Why nothing can be planned; empty where it can")


class HairShapeOut(BaseModel):
    """A brow or half of a moustache."""

    widths_mm: list[float]
    length_mm: float
    full_at: float
    turns_at: list[float]
    slope: float


class PairOut(BaseModel):
    """Left against right; differences are right minus left."""

    left: HairShapeOut
    right: HairShapeOut
    length_mm: float
    width_mm: float
    slope: float
    height_mm: float
    alike: bool
    upper_mm: float | None = Field(description="How wide the passage from skin to hair is above, 10–90 %")
    lower_mm: float | None = Field(description="And below")
    firm_above: bool = Field(description="True where the upper edge is the firmer one")


class FormOut(BaseModel):
    """One light-form: two touches that follow the growth."""

    x: float
    y: float
    touches: list[list[float]] = Field(description="x, y, x, y of each, in fractions, root first")
    in_shadow: int | None = Field(description="Which of the two falls into a shadow; None where none is near")
    gain: float = Field(description="Steps that it stands above the beard around it")
    move: int | None = Field(description="Which of `form_moves` brought it here; None where it was found")


class FormsOut(BaseModel):
    """Light-forms of a grey beard, those that add most first."""

    forms: list[FormOut]
    long_mm: float
    wide_mm: float
    evenness: float
    light: MixtureOut | None = Field(description="What they are painted with")


class HairEdgesOut(BaseModel):
    """Hairline, brows, moustache and beard."""

    hairline: list[PlanHairlineSpot]
    first_hairs: int
    has_shadow: bool
    shadow: MixtureOut | None = Field(description="Of the skin in the shadow of the hair")
    brows: PairOut | None
    moustache: PairOut | None
    gap_mm: float | None
    cheek_line: list[PlanHairlineSpot] = Field(description="Where skin passes into the beard")
    beard_apart: bool | None = Field(description="Whether it stands apart; None without a beard beside skin")
    forms: FormsOut | None


class PracticeIn(BaseModel):
    """Strokes drawn for practice, root first."""

    strokes: list[list[Spot]] = Field(min_length=1, max_length=400)
    widths_mm: list[list[Annotated[float, Field(ge=0, le=500)]]] = Field(
        [], max_length=400, description="Width along each, evenly spaced; nothing where no brush drew them"
    )
    planes: Literal["along the form", "across the planes"] | None = Field(
        None, description="How strokes off the hair were meant; None when only hair is practised"
    )


class FaultOut(BaseModel):
    """What is wrong with a stroke; −1 for what is said of all."""

    stroke: int
    kind: str
    said: str
    x: float
    y: float


class PracticeOut(BaseModel):
    """What was found."""

    faults: list[FaultOut]
    right: int
    strokes: int


class PaperOut(BaseModel):
    """Strokes found on a photograph, root first, and what was found of them."""

    strokes: list[list[Spot]]
    widths_mm: list[list[float]]
    report: PracticeOut


class ArrowsOut(BaseModel):
    """Arrows of the brush by region, each x, y, x, y … in fractions."""

    along: dict[str, list[list[float]]]
    across: dict[str, list[list[float]]]
