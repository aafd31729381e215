"""What the routes of the light answer with."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from truesitter.core.settings.setting_kinds import Spot
from truesitter.formats.documents.plan_light import FormName, PlanCeiling, PlanDirection, PlanRecess
from truesitter.web.models.mixture import MixtureOut

Flat = list[float]
"""x, y, x, y … in fractions of the picture."""


class FormOut(BaseModel):
    """One class of the skin, with its mixture."""

    name: FormName
    share: float
    value: float
    hex: str
    mixture: MixtureOut


class CastOut(BaseModel):
    """A cast shadow, and what casts it where that is plain."""

    caster: str | None
    share: float
    x: float
    y: float


class PassageOut(BaseModel):
    """How colour moves from light to shadow."""

    words: str
    sides: str


class SideOut(BaseModel):
    """One thing that is no skin, parted into light and shadow."""

    region: str
    lit_share: float
    lit_value: float
    shadow_value: float


class SolidOut(BaseModel):
    """A part as a simple solid."""

    part: str
    view: str = Field(description="Name of its picture among the views")
    x: float = Field(description="Where it is lightest, −1 to 1 to the right")
    y: float = Field(description="And upwards")
    shadow: float = Field(description="Part of it that the light does not reach")
    words: str


class MetalToneOut(BaseModel):
    """One tone of a metal."""

    name: str
    share: float
    mixture: MixtureOut


class MetalOut(BaseModel):
    """Something polished, in its tones."""

    place: str
    words: str
    tones: list[MetalToneOut]


class FormReportOut(BaseModel):
    """The skin's form."""

    direction: PlanDirection | None
    key: tuple[float, float, float]
    classes: list[FormOut]
    passage: PassageOut | None
    casts: list[CastOut]
    terminator: list[Flat]
    sides: list[SideOut]
    solids: list[SolidOut] = Field(description="Parts of the sitter as simple solids under this light")
    metals: list[MetalOut]
    shadow_below: float


class PeakOut(BaseModel):
    """A light peak and how light it may become."""

    place: str
    x: float
    y: float
    value: float
    prominence: float


class PeaksOut(BaseModel):
    """Peaks, what is usual, and the rays of the zones."""

    peaks: list[PeakOut]
    missing: list[str]
    extra: list[str]
    rays: list[Flat]
    ceilings: list[PlanCeiling]
    face_mm: float | None


class RecessesOut(BaseModel):
    """Recesses and their two coats."""

    recesses: list[PlanRecess]
    first: MixtureOut | None
    dark: MixtureOut | None


class PlaceColourOut(BaseModel):
    """A place that differs in colour."""

    place: str
    turn: Literal["redder", "yellower", "greyer", "stronger in colour"]
    by: float
    x: float
    y: float


class BorrowedOut(BaseModel):
    """Shadows that take their colour from a neighbour."""

    shadow: str
    neighbour: str


class WhiteOut(BaseModel):
    """A nearly white thing and what is mixed for it."""

    place: str
    x: float
    y: float
    words: str
    mixture: MixtureOut


class ColourOut(BaseModel):
    """Where skin changes colour."""

    places: list[PlaceColourOut]
    borrowed: list[BorrowedOut]
    whites: list[WhiteOut]
    sides: str | None
    """The far side against the lit one."""


class EyePartOut(BaseModel):
    """A part of an eye; where it lies in the eye's own picture, in fractions."""

    name: str
    value: float | None
    x: float
    y: float


class CheckOut(BaseModel):
    """What painters check of an eye."""

    words: str
    holds: bool


class EyeOut(BaseModel):
    """One eye, in the order of painting."""

    side: Literal["left", "right"]
    parts: list[EyePartOut]
    checks: list[CheckOut]
    box: tuple[float, float, float, float]
    """Of its picture: left, top, right, bottom in fractions of the whole one."""


class LineIn(BaseModel):
    """A line over the picture."""

    points: tuple[Spot, ...] = Field(min_length=2, max_length=2000)


class StopOut(BaseModel):
    """A stop of a line of colour."""

    along: float
    x: float
    y: float
    mixture: MixtureOut
    base: int
    """Parts of the stop before to take, 0 for the first."""
    added: dict[str, int]
    """And what to add to them."""
