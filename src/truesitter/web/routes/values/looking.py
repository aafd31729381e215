"""Looking closely: two spots compared, every shape, every edge, places at risk."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from fastapi import APIRouter, Query
from pydantic import BaseModel

from truesitter.core.brushes.laying import widest_brush
from truesitter.core.colour.spaces import lab_to_srgb, srgb_to_hex
from truesitter.core.colour.value import value_to_srgb
from truesitter.core.sitter.region_names import Region
from truesitter.core.values.contrast import largest_patches
from truesitter.core.values.edges import Sharpness
from truesitter.core.values.value_comparison import SpotValue, compare
from truesitter.web.http.answers import BenchRoute, QuickRoute, answered
from truesitter.web.http.dependencies import CurrentStudy

Part = Annotated[float, Query(ge=0, le=1)]
NAMES = ("regions.names",)
router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["looking"], route_class=BenchRoute)
quick = APIRouter(route_class=QuickRoute)


class SpotValueOut(BaseModel):
    """Value of a spot and of its surround, and their greys."""

    value: float
    surround: float
    hex: str
    surround_hex: str


class ComparisonOut(BaseModel):
    """Two spots in value steps, with the greys to show them by."""

    first: SpotValueOut
    second: SpotValueOut
    steps: float
    sentence: str


class ShapeOut(BaseModel):
    """One value shape; its centre in fractions of the picture."""

    number: int
    group: int
    region: str
    place: str
    area_mm2: float
    value: float
    hex: str
    brush_mm: float
    x: float
    y: float
    neighbours: list[int]


class EdgeOut(BaseModel):
    """A stretch of border: flat list x, y, x, y … in fractions of the picture."""

    kind: Literal["hard", "firm", "soft", "lost"]
    points: list[float]
    length_mm: float
    width_mm: float
    contrast: float
    softer: Literal["darker", "lighter"] | None
    """The soft side of an edge that is crisp on the other."""
    place: str


class EdgesOut(BaseModel):
    """All edges, longest first, and the length of each kind."""

    edges: list[EdgeOut]
    lengths_mm: dict[str, float]


class RiskOut(BaseModel):
    """A place likely to be overworked, and its part of the picture."""

    place: str
    share: float
    x: float
    y: float


def _grey(value: float) -> str:
    return srgb_to_hex(np.repeat(value_to_srgb(value), 3))


def _spot_out(spot: SpotValue) -> SpotValueOut:
    return SpotValueOut(
        value=spot.value, surround=spot.surround, hex=_grey(spot.value), surround_hex=_grey(spot.surround)
    )


@quick.get("/values/compare")
def compare_spots(study: CurrentStudy, x1: Part, y1: Part, x2: Part, y2: Part) -> ComparisonOut:
    """Two spots: steps apart, and how their surrounds fool the eye."""
    found = compare(study.picture.value(), (x1, y1), (x2, y2))
    return ComparisonOut(
        first=_spot_out(found.first),
        second=_spot_out(found.second),
        steps=found.steps,
        sentence=found.sentence(),
    )


@router.get(
    "/shapes",
    dependencies=[answered("shapes", ("regions.names",), needs=("shapes", "regions", "detection", "framed"))],
)
def get_shapes(study: CurrentStudy) -> list[ShapeOut]:
    """Every value shape, numbered as the outlines are."""
    return [
        ShapeOut(
            number=s.number, group=s.group, region=Region(s.region).name.lower().replace("_", " "),
            place=study.sitter.place_at(s.x, s.y), area_mm2=s.area_mm2, value=s.value,
            hex=srgb_to_hex(lab_to_srgb(np.array(s.lab))), brush_mm=widest_brush(s.circle_mm), x=s.x, y=s.y,
            neighbours=list(s.neighbours),
        )
        for s in study.values.shapes().shapes
    ]  # fmt: skip


@router.get(
    "/edges",
    dependencies=[answered("edges", ("regions.names",), needs=("edges", "regions", "detection", "framed"))],
)
def get_edges(study: CurrentStudy) -> EdgesOut:
    """Edges along every border, and the hardest and the lost ones by place."""
    edges = [
        EdgeOut(
            kind=e.kind.value, points=[round(v, 4) for v in e.points.ravel().tolist()],
            length_mm=e.length_mm, width_mm=e.width_mm, contrast=e.contrast,
            softer=e.softer, place=study.sitter.place_at(*e.middle),
        )
        for e in study.looking.edges()
    ]  # fmt: skip
    lengths = {kind.value: sum(e.length_mm for e in edges if e.kind == kind.value) for kind in Sharpness}
    return EdgesOut(edges=edges, lengths_mm=lengths)


@router.get(
    "/risks",
    dependencies=[
        answered("risks", ("regions.names",), needs=("contrast", "regions", "detection", "framed"))
    ],
)
def get_risks(study: CurrentStudy) -> list[RiskOut]:
    """Places where marks outweigh masses: likely to be overworked."""
    risk = study.looking.contrast().at_risk()
    return [
        RiskOut(place=study.sitter.place_at(x, y), share=area / risk.size, x=x, y=y)
        for area, x, y in largest_patches(risk, 6)
    ]


router.include_router(quick)
