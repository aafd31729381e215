"""What the painter set for the paintings on the easel."""

from __future__ import annotations

import hashlib
from typing import ClassVar, Literal, Self

import numpy as np
from pydantic import Field, model_validator

from truesitter.core.easel.find.view import View
from truesitter.core.easel.lamp.printed_sheet import PrinterCurve
from truesitter.core.easel.lamp.rectified import MixtureMark, WhiteMark
from truesitter.core.settings.base import Settings
from truesitter.core.settings.setting_kinds import Fraction, LabNumbers, Spot, Value

Corner = tuple[float, float]


class WhiteSettings(Settings):
    """A rectangle on a white or grey card in the photograph, in fractions of it."""

    x1: Fraction
    y1: Fraction
    x2: Fraction
    y2: Fraction
    reflects: float = Field(0.9, ge=0.05, le=1, description="Part of the light it reflects")

    def mark(self) -> WhiteMark:
        """For the core."""
        return WhiteMark(self.x1, self.y1, self.x2, self.y2, self.reflects)


class MixtureSettings(Settings):
    """A spot of the painting whose colour is known."""

    x: Fraction
    y: Fraction
    lab: LabNumbers

    def mark(self) -> MixtureMark:
        """For the core."""
        return MixtureMark(self.x, self.y, self.lab)


class NoteSettings(Settings):
    """What a reviewer drew or wrote over a comparison."""

    points: tuple[Spot, ...] = Field((), max_length=400, description="A line; none for words alone")
    x: Fraction = 0.5
    y: Fraction = 0.5
    words: str = Field("", max_length=400)
    holds: bool = Field(False, description="True where it says what is well")
    by: str = Field("", max_length=60)

    @model_validator(mode="after")
    def _something(self) -> Self:
        if not self.points and not self.words.strip():
            raise ValueError("a note needs a line or words")
        return self


class PaintingSettings(Settings):
    """One photograph of the painting."""

    key: str = Field(pattern="^[0-9a-f]{12}$")
    sha256: str = Field(pattern="^[0-9a-f]{64}$")
    name: str = Field(max_length=120)
    taken_at: str = Field(pattern=r"^\d{4}-\d{2}-\d{2}$", description="Date, ISO 8601")
    after: int | None = Field(None, ge=1, le=1000, description="Passes laid by then; none for all")
    corners: tuple[Corner, Corner, Corner, Corner] | None = Field(
        None, description="In fractions of the photograph, top left and on clockwise; none to be found"
    )
    refine: bool = Field(True, description="Make the corners exact by the plan")
    against: Literal["plan", "photograph", "likelier", "drawing"] = Field(
        "likelier", description="What it is held to; `drawing` for one with no paint on it yet"
    )
    whites: tuple[WhiteSettings, ...] = Field((), max_length=8)
    mixture: MixtureSettings | None = None
    even: bool = Field(False, description="Take the light as even")
    wet: bool = Field(False, description="The paint was wet")
    notes: tuple[NoteSettings, ...] = Field((), max_length=200)

    @model_validator(mode="after")
    def _corners(self) -> Self:
        if self.corners is not None:
            if any(not -0.2 <= v <= 1.2 for corner in self.corners for v in corner):
                raise ValueError("corners lie in the photograph or just outside it")
            View.of_corners(np.array(self.corners), (1000, 1000))
        return self

    def reading(self) -> PaintingSettings:
        """The same without what is only remembered of it: what its comparison follows from."""
        return self.model_copy(update={"key": "0" * 12, "name": "", "taken_at": "2000-01-01", "notes": ()})

    @property
    def fingerprint(self) -> str:
        """Changes whenever its comparison may."""
        return hashlib.sha256(self.reading().model_dump_json().encode()).hexdigest()[:16]


class AllowanceSettings(Settings):
    """A habit that the plan allows for: the place is planned off by as much the other way."""

    place: str = Field(min_length=1, max_length=60)
    steps: float = Field(ge=-2, le=2, description="Value steps by which the painter tends to be too light")


class EaselSettings(Settings):
    """The paintings of one sitter."""

    ROWS: ClassVar[tuple[str, ...]] = ("paintings",)

    paintings: tuple[PaintingSettings, ...] = Field((), max_length=200)
    printer: tuple[tuple[Value, Value], ...] = Field(
        (), max_length=24, description="Steps of the printed wedge: asked for and read"
    )
    allowances: tuple[AllowanceSettings, ...] = Field(
        (), max_length=60, description="Own habits that the plan allows for"
    )

    @model_validator(mode="after")
    def _possible(self) -> Self:
        keys = [p.key for p in self.paintings]
        if len(set(keys)) < len(keys):
            raise ValueError("two paintings have one key")
        self.curve()
        return self

    def curve(self) -> PrinterCurve | None:
        """The printer's curve, where its wedge was read."""
        return PrinterCurve(self.printer) if self.printer else None

    def painting(self, key: str) -> PaintingSettings | None:
        """One painting by its key."""
        return next((p for p in self.paintings if p.key == key), None)
