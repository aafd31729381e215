"""How the values are grouped."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field, model_validator

from truesitter.core.refusal import Refusal
from truesitter.core.settings.base import Settings
from truesitter.core.settings.setting_kinds import Fraction, Value
from truesitter.core.values.cuts import check_own_cuts
from truesitter.core.values.names import group_names

GroupName = Annotated[str, Field(max_length=30)]


class JoinSettings(Settings):
    """A shape given to another group by hand: a spot inside it, and the group."""

    x: Fraction
    y: Fraction
    group: int = Field(ge=0, le=8)


class ValueSettings(Settings):
    """How the values are grouped."""

    ROWS: ClassVar[tuple[str, ...]] = ("joins",)

    mode: Literal["even", "fit", "own"] = "fit"
    groups: int = Field(5, ge=2, le=9)
    cuts: tuple[Value, ...] = Field((), max_length=8)
    locked: tuple[Value, ...] = Field((), max_length=8)
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
                raise Refusal(f"{self.groups} groups need {self.groups - 1} cuts")
        if self.locked:
            check_own_cuts(tuple(sorted(self.locked)))
            if len(self.locked) >= self.groups:
                raise Refusal(f"{self.groups} groups have only {self.groups - 1} cuts to lock")
        return self

    def group_names(self) -> tuple[str, ...]:
        """Names of the groups, the painter's own where there is one."""
        usual = group_names(self.groups)
        own = (*self.names, *[""] * self.groups)
        return tuple(o.strip() or u for o, u in zip(own, usual, strict=False))
