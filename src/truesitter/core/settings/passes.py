"""Which school is followed."""

from __future__ import annotations

from collections.abc import Callable
from typing import ClassVar, Self

from pydantic import Field, model_validator

from truesitter.core.paint.media.supports import SupportName
from truesitter.core.passes.school import School
from truesitter.core.passes.schools import LAYERED_OIL, SCHOOLS, school
from truesitter.core.settings.base import Document, Settings


def _without_ticks(document: Document) -> Document:
    """Version 1 held the passes that were done; they are facts now."""
    return {name: value for name, value in document.items() if name != "done"}


class PassSettings(Settings):
    """The school followed; which passes are done is a fact, not a setting."""

    VERSION: ClassVar[int] = 2
    UPGRADES: ClassVar[dict[int, Callable[[Document], Document]]] = {1: _without_ticks}

    school: str = Field(LAYERED_OIL.key, max_length=40)
    own: tuple[School, ...] = Field((), max_length=12, description="Schools of the painter's own")
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
        """The school that is followed."""
        return school(self.school, self.own)
