"""Measures: what the callipers read, and the face beside the usual proportions."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel

from truesitter.core.reference.measure import Point, Reading, read
from truesitter.core.settings import ReferenceSettings
from truesitter.core.stages.picture_stage import CANVAS
from truesitter.web.http.answers import BenchRoute, answered
from truesitter.web.http.dependencies import CurrentStudy

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["measures"], route_class=BenchRoute)
Part = Annotated[float, Query(ge=-0.5, le=1.5)]


class ReadingOut(BaseModel):
    """A distance on the canvas, its angle to the level, and how many units it makes."""

    name: str
    start: tuple[float, float]
    end: tuple[float, float]
    mm: float
    angle: float
    across: float
    down: float
    multiple: float | None


class ProportionOut(BaseModel):
    """A rule of thumb, common practice, beside this sitter."""

    name: str
    usual: float
    here: float
    line: tuple[tuple[float, float], tuple[float, float]]


class MeasuresOut(BaseModel):
    """Kept measures and the face's proportions; none of these without a face."""

    measures: list[ReadingOut]
    proportions: list[ProportionOut]


def _unit_mm(reference: ReferenceSettings, canvas: tuple[float, float]) -> float | None:
    if reference.unit is None:
        return None
    unit = reference.measures[reference.unit]
    return read(unit.start, unit.end, canvas).mm or None


def _reading(name: str, start: Point, end: Point, reading: Reading) -> ReadingOut:
    return ReadingOut(
        name=name, start=start, end=end, mm=reading.mm, angle=reading.angle, across=reading.across,
        down=reading.down, multiple=reading.multiple,
    )  # fmt: skip


@router.get(
    "/measures",
    dependencies=[
        answered(
            "measures", ("reference.measures", "reference.unit", *CANVAS), ("regions", "detection", "framed")
        )
    ],
)
def get_measures(study: CurrentStudy) -> MeasuresOut:
    """Kept measures, read off the canvas, and the face's proportions."""
    reference = study.settings.reference
    canvas = (reference.canvas_width_mm, reference.canvas_height_mm)
    unit = _unit_mm(reference, canvas)
    return MeasuresOut(
        measures=[
            _reading(m.name, m.start, m.end, read(m.start, m.end, canvas, unit)) for m in reference.measures
        ],
        proportions=[
            ProportionOut(name=p.name, usual=p.usual, here=p.here, line=p.line)
            for p in study.sitter.proportions()
        ],
    )


@router.get("/measures/read")
def read_measure(study: CurrentStudy, x1: Part, y1: Part, x2: Part, y2: Part) -> ReadingOut:
    """One distance that is not kept."""
    reference = study.settings.reference
    canvas = (reference.canvas_width_mm, reference.canvas_height_mm)
    reading = read((x1, y1), (x2, y2), canvas, _unit_mm(reference, canvas))
    return _reading("", (x1, y1), (x2, y2), reading)
