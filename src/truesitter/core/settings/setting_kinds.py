"""Kinds of numbers that settings are made of."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from truesitter.core.paint.tubes.rack import KEY_PATTERN

Fraction = Annotated[float, Field(ge=0, le=1)]
Spot = tuple[Annotated[float, Field(ge=-0.5, le=1.5)], Annotated[float, Field(ge=-0.5, le=1.5)]]
"""A point in fractions of the framed picture; a stroke may run a little over its edge."""

Value = Annotated[float, Field(ge=0, le=10)]
LabNumbers = tuple[
    Annotated[float, Field(ge=0, le=100)],
    Annotated[float, Field(ge=-128, le=128)],
    Annotated[float, Field(ge=-128, le=128)],
]
TubeKey = Annotated[str, Field(pattern=KEY_PATTERN)]
