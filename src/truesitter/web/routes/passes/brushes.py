"""Brushes: what there are, and those every new sitter begins with."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel, Field

from truesitter.core.brushes.brush import NUMBERS, STARTING_SET, Shape
from truesitter.core.settings import BrushSettings, brush_settings
from truesitter.web.http.answers import WritingRoute
from truesitter.web.http.dependencies import Bench

router = APIRouter(prefix="/api/brushes", tags=["brushes"], route_class=WritingRoute)


class BrushesOut(BaseModel):
    """What brushes there are."""

    numbers: dict[Shape, dict[str, float]]
    """Usual width in mm of each number, by shape."""
    starting: list[BrushSettings]
    """What a painter may have who never said."""
    usual: list[BrushSettings] | None
    """What every new sitter begins with; None for the starting set."""


class BrushesIn(BaseModel):
    """Brushes to be kept."""

    brushes: list[BrushSettings] = Field(max_length=40)


@router.get("")
def all_brushes(bench: Bench) -> BrushesOut:
    """Numbers, the starting set, and the studio's own."""
    usual = bench.repository.brushes.get()
    return BrushesOut(
        numbers=NUMBERS,
        starting=[brush_settings(b) for b in STARTING_SET],
        usual=None if usual is None else list(usual),
    )


@router.put("")
def keep_brushes(given: BrushesIn, bench: Bench) -> BrushesOut:
    """Let every sitter that is added from now on begin with these."""
    bench.repository.brushes.keep(tuple(given.brushes))
    return all_brushes(bench)
