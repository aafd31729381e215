"""Values: groups, cuts under the hand, outlines, and their files."""

from __future__ import annotations

import numpy as np
from fastapi import APIRouter, Request, Response
from pydantic import BaseModel

from truesitter.core.settings import ValueSettings
from truesitter.core.values.cuts import check_own_cuts
from truesitter.core.values.posterise import paint_groups
from truesitter.formats.pictures import VIEWS
from truesitter.formats.plan import PlanValues, values_of
from truesitter.formats.png import encode_png
from truesitter.formats.svg import outlines_svg, polygon_path
from truesitter.web.bench import Bench, CurrentSitter, CurrentStudy, download, picture_response
from truesitter.web.routes.sitters import SitterOut, sitter_out

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["values"])


class ValuesOut(BaseModel):
    """Groups, and the histogram that the ladder shows."""

    plan: PlanValues
    histogram: list[float]


class OutlineOut(BaseModel):
    """One outline as an SVG path in grid pixels, and its number."""

    group: int
    path: str
    x: float
    y: float
    radius: float


class OutlinesOut(BaseModel):
    """All outlines on their grid."""

    width: int
    height: int
    outlines: list[OutlineOut]


@router.get("/values")
def get_values(study: CurrentStudy) -> ValuesOut:
    """Value groups and histogram."""
    return ValuesOut(plan=values_of(study), histogram=list(study.picture.histogram()))


@router.get("/ladder")
def get_ladder(study: CurrentStudy) -> list[float]:
    """Histogram of the picture in equal steps of value; quick, without grouping."""
    return list(study.picture.histogram())


@router.put("/values")
def set_values(
    sitter: CurrentSitter, settings: ValueSettings, bench: Bench, change: str = "Value groups"
) -> SitterOut:
    """Change how values are grouped."""
    return sitter_out(bench.shelf.change(sitter.id, "values", settings, change), bench)


@router.get("/values/preview", response_class=Response)
def preview(study: CurrentStudy, cuts: str, request: Request) -> Response:
    """Groups for cuts under the painter's hand, comma-separated values; nothing is kept."""
    try:
        wanted = tuple(float(c) for c in cuts.split(","))
    except ValueError:
        raise ValueError("cuts are numbers with commas between them") from None
    check_own_cuts(wanted)

    def make() -> tuple[bytes, str]:
        labels = study.values.preview_labels(wanted)
        edges = np.array([0.0, *wanted, 10.0])
        greys = paint_groups(labels, (edges[:-1] + edges[1:]) / 2)
        return encode_png(greys, fast=True), "image/png"

    key = f"preview-{study.keys()['frame']}-{study.settings.values.smallest_mm}-{cuts}"
    return picture_response(request, key, make)


@router.get("/outlines")
def get_outlines(study: CurrentStudy) -> OutlinesOut:
    """Outlines of all value shapes."""
    drawing = study.values.outlines()
    height, width = drawing.grid
    return OutlinesOut(
        width=width,
        height=height,
        outlines=[
            OutlineOut(
                group=o.group, path=polygon_path(o.polygon, 1.0), x=o.number_at[0], y=o.number_at[1],
                radius=o.radius,
            )
            for o in drawing.outlines
        ],
    )  # fmt: skip


@router.get("/files/outlines.svg", response_class=Response)
def outlines_file(study: CurrentStudy) -> Response:
    """Outlines with numbers, in canvas millimetres."""
    drawing = study.values.outlines()
    reference = study.settings.reference
    canvas = (reference.canvas_width_mm, reference.canvas_height_mm)
    return download(outlines_svg(drawing.outlines, drawing.grid, canvas), "image/svg+xml", "outlines.svg")


@router.get("/files/groups.png", response_class=Response)
def groups_file(study: CurrentStudy) -> Response:
    """Groups in their own greys."""
    return download(VIEWS["groups"].make(study)[0], "image/png", "groups.png")
