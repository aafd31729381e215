"""What the painter draws on the hair, and how its lines, locks and strokes are made."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field, model_validator

from truesitter.core.hair.field.guides import DrawnWhorl, Guide, Handles
from truesitter.core.hair.layers.job import GlazePurpose
from truesitter.core.hair.locks.light_forms import FormMove
from truesitter.core.hair.locks.lock_strokes import LockStroke
from truesitter.core.hair.strokes.stroke_types import HairType
from truesitter.core.settings.base import Settings
from truesitter.core.settings.setting_kinds import Spot


class GuideSettings(Settings):
    """One guide stroke, root first."""

    points: tuple[Spot, ...] = Field(min_length=2, max_length=2000)
    reach: float = Field(0.04, gt=0, le=0.5)

    def guide(self) -> Guide:
        """For the core."""
        return Guide(self.points, self.reach)


class WhorlSettings(Settings):
    """A whorl set by hand."""

    x: float = Field(ge=0, le=1)
    y: float = Field(ge=0, le=1)
    radius: float = Field(0.08, gt=0, le=0.5)
    turns: Literal["clockwise", "anticlockwise", "straight"] = "clockwise"

    def whorl(self) -> DrawnWhorl:
        """For the core."""
        return DrawnWhorl(self.x, self.y, self.radius, self.turns)


class RootLineSettings(Settings):
    """A line that hair grows from: a parting or a hairline."""

    points: tuple[Spot, ...] = Field(min_length=2, max_length=2000)


class LockStrokeSettings(Settings):
    """A stroke that joins, cuts or draws locks."""

    does: Literal["join", "cut", "draw"]
    points: tuple[Spot, ...] = Field(min_length=2, max_length=2000)

    def stroke(self) -> LockStroke:
        """For the core."""
        return LockStroke(self.does, self.points)


class LockTypeSettings(Settings):
    """The type of the lock under a spot, as the painter sees it."""

    x: float = Field(ge=0, le=1)
    y: float = Field(ge=0, le=1)
    type: HairType


class FormMoveSettings(Settings):
    """Where a light-form of the beard was found, and where the painter wants it."""

    x: float = Field(ge=0, le=1)
    y: float = Field(ge=0, le=1)
    to_x: float = Field(ge=0, le=1)
    to_y: float = Field(ge=0, le=1)

    def move(self) -> FormMove:
        """For the core."""
        return (self.x, self.y), (self.to_x, self.to_y)


class HairSettings(Settings):
    """Handles of the direction, the spacing of the growth lines, locks, and how the hair is stroked."""

    ROWS: ClassVar[tuple[str, ...]] = (
        "guides", "whorls", "partings", "hairlines", "lock_strokes", "lock_types", "form_moves",
    )  # fmt: skip

    guides: tuple[GuideSettings, ...] = Field((), max_length=500)
    whorls: tuple[WhorlSettings, ...] = Field((), max_length=8)
    partings: tuple[RootLineSettings, ...] = Field((), max_length=8)
    hairlines: tuple[RootLineSettings, ...] = Field((), max_length=8)
    spacing_mm: float = Field(6, ge=1, le=100)
    lock_mm: float | None = Field(None, ge=2, le=200, description="Width of a lock; None fits it to the face")
    lock_strokes: tuple[LockStrokeSettings, ...] = Field((), max_length=200)
    lock_types: tuple[LockTypeSettings, ...] = Field((), max_length=200)
    form_size: float = Field(1, ge=0.5, le=2, description="Of the light-forms of a beard, beside the usual")
    form_moves: tuple[FormMoveSettings, ...] = Field((), max_length=100)
    type: HairType | None = Field(None, description="Of every lock; None for what each looks like")
    disorder: float | None = Field(
        None, ge=0, le=60, description="Degrees that strokes may leave their lock by; None for the type's own"
    )
    way: Literal["masses", "strands"] | None = Field(None, description="None for what fits the hours")
    hours: float | None = Field(None, gt=0, le=1000)
    layers: int | None = Field(None, ge=3, le=9, description="None for what the way usually has")
    early_lights: bool = False
    glaze: GlazePurpose | None = Field(None, description="What a glaze over the hair shall do; None for none")
    hand: Literal["right", "left"] = "right"

    @model_validator(mode="before")
    @classmethod
    def _named_glaze(cls, data: object) -> object:
        """Studies of before glazes had purposes: theirs tied."""
        if not isinstance(data, dict) or "tying_glaze" not in data:
            return data
        kept = {k: v for k, v in data.items() if k != "tying_glaze"}
        return kept | ({"glaze": "tie"} if data["tying_glaze"] else {})

    def handles(self) -> Handles:
        """All that was drawn, for the core."""
        return Handles(
            tuple(g.guide() for g in self.guides),
            tuple(w.whorl() for w in self.whorls),
            tuple(p.points for p in self.partings),
            tuple(h.points for h in self.hairlines),
        )
