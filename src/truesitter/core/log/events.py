"""What can happen: entries of the log, as they are written down and never changed."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter, ValidationError, model_validator

from truesitter.core.pace.own_pace import Level, brush_size
from truesitter.core.refusal import Refusal
from truesitter.core.settings.base import first_fault

Id = Annotated[str, Field(pattern="^[0-9a-f]{32}$")]
Words = Annotated[str, Field(max_length=2000)]
Short = Annotated[str, Field(max_length=120)]
Mark = Annotated[int, Field(ge=1, le=5)]
Degrees = Annotated[float, Field(ge=-20, le=60)]
Damp = Annotated[float, Field(ge=0, le=100)]
Share = Annotated[float, Field(ge=0, le=1)]

TrialSubject = Literal["masking fluid", "paper", "medium", "mixture", "dilution", "drying", "tool", "other"]
QUALITIES: dict[TrialSubject, tuple[str, ...]] = {
    "masking fluid": ("goes on finely", "comes off cleanly", "spares the paper", "keeps"),
    "paper": ("takes washes", "lifts", "bears scrubbing", "stays flat"),
    "medium": ("handling", "dries in time", "evenness", "smell"),
    "mixture": ("likeness", "handling", "dries as mixed", "easily mixed again"),
    "dilution": ("strength", "evenness", "edges"),
    "drying": ("dries in time", "keeps its value", "keeps its hue"),
    "tool": ("precision", "handling", "keeps its shape"),
    "other": ("does what it should", "would use again"),
}
"""What each kind of trial is marked on, unless the painter names something else (common practice)."""


class _Part(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Work(_Part):
    """What is worked on, with what the plan said of it at that time."""

    name: str = Field(min_length=1, max_length=120)
    school: str = Field("", max_length=60)
    key: str = Field("", max_length=60, description="Of the pass in the plan; empty for work beside it")
    kind: str = Field("", max_length=20)
    place: Short = ""
    mixture: str = Field("", max_length=300)
    brush_mm: float = Field(0, ge=0, le=500)
    area_cm2: float = Field(0, ge=0, le=400_000)
    minutes: float = Field(0, ge=0, le=100_000, description="As reckoned for all of it, without own pace")
    ml: float = Field(0, ge=0, le=100_000, description="Likewise")
    dries_minutes: float = Field(0, ge=0, le=1_000_000)

    def level(self) -> Level:
        """What its time and paint are learned under."""
        return Level(self.kind, self.place, brush_size(self.brush_mm), self.school)


class _OfSitting(_Part):
    """Something within a sitting."""

    sitting: Id


class _Beside(_Part):
    """Something that may belong to a sitting."""

    sitting: Id | None = None


class Began(_Part):
    """The painter sat down; the entry's own id is that of the sitting."""

    kind: Literal["began"] = "began"
    work: Work | None = None


class Turned(_OfSitting):
    """The painter turned to other work."""

    kind: Literal["turned"] = "turned"
    done: Share | None = Field(None, description="How much of the work before is done now; None when unsaid")
    work: Work


class Paused(_OfSitting):
    """A break began."""

    kind: Literal["paused"] = "paused"


class Resumed(_OfSitting):
    """The break ended."""

    kind: Literal["resumed"] = "resumed"


class Ended(_OfSitting):
    """The painter got up."""

    kind: Literal["ended"] = "ended"
    done: Share | None = Field(None, description="How much of the last work is done now; None when unsaid")


class AirRead(_Beside):
    """How warm and damp it was."""

    kind: Literal["air"] = "air"
    temperature: Degrees
    humidity: Damp
    simulated: bool = False


class Used(_Beside):
    """Paint that was taken from a tube, and how much of it was scraped off again."""

    kind: Literal["used"] = "used"
    tube: str = Field(min_length=1, max_length=60, description="Key on the rack")
    name: Short = ""
    ml: float = Field(gt=0, le=5000)
    left_ml: float = Field(0, ge=0, le=5000)
    off_rack_ml: float = Field(0, ge=0, le=5000, description="By how much the tube on the rack went down")

    @model_validator(mode="after")
    def _no_more_left(self) -> Self:
        if self.left_ml > self.ml:
            raise ValueError("no more can be left over than was taken")
        return self


class Photographed(_Beside):
    """A photograph of the painting."""

    kind: Literal["photograph"] = "photograph"
    sha256: str = Field(pattern="^[0-9a-f]{64}$")
    words: Words = ""


class Noted(_Beside):
    """A note."""

    kind: Literal["note"] = "note"
    words: Words = Field(min_length=1)


class NextTime(_Beside):
    """Something to do next time."""

    kind: Literal["next time"] = "next time"
    words: Words = Field(min_length=1)


class Settled(_Part):
    """Something that was to be done next time is done."""

    kind: Literal["settled"] = "settled"
    entry: Id


class Tried(_Part):
    """A trial of a material."""

    kind: Literal["trial"] = "trial"
    subject: TrialSubject
    name: str = Field(min_length=1, max_length=120)
    paper: Short = ""
    medium: Short = ""
    marks: Annotated[dict[Annotated[str, Field(min_length=1, max_length=60)], Mark], Field(max_length=12)] = (
        Field(default_factory=dict)
    )
    words: Words = ""
    sha256: str | None = Field(None, pattern="^[0-9a-f]{64}$", description="Of a photograph")
    wet: float | None = Field(None, ge=0, le=10, description="Value when wet")
    dry: float | None = Field(None, ge=0, le=10, description="Value when dry")
    minutes: float | None = Field(None, gt=0, le=1_000_000, description="Until it was dry")
    water: float | None = Field(None, ge=0, le=50, description="Parts of thinner to one of paint")

    @property
    def shift(self) -> float | None:
        """Value steps by which it dried lighter; None when it was not read."""
        return None if self.wet is None or self.dry is None else self.dry - self.wet


class Judged(_Part):
    """How well a painting is liked, and by whom."""

    kind: Literal["judged"] = "judged"
    liked: Mark
    why: Words = ""
    by: str = Field("", max_length=60)


class PaceReset(_Part):
    """Own pace is learned anew from here."""

    kind: Literal["pace reset"] = "pace reset"


Happening = Annotated[
    Began | Turned | Paused | Resumed | Ended | AirRead | Used | Photographed | Noted | NextTime | Settled
    | Tried | Judged | PaceReset,
    Field(discriminator="kind"),
]  # fmt: skip
"""Anything that can be written down."""

ADAPTER: TypeAdapter[Happening] = TypeAdapter(Happening)
OF_NO_SITTER = ("trial", "pace reset", "note")
"""Kinds that may belong to no sitter."""
OF_SITTING = (Turned, Paused, Resumed, Ended)


def read_happening(document: object) -> Happening:
    """What happened, from its document.

    Raises
    ------
    Refusal
        Saying what is wrong with it.
    """
    try:
        return ADAPTER.validate_python(document)
    except ValidationError as error:
        raise Refusal(first_fault(error)) from None
