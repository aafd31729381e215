"""Values: groups, cuts under the hand, outlines, and their files."""

from __future__ import annotations

from typing import Annotated

import numpy as np
from fastapi import APIRouter, Query, Request, Response
from pydantic import BaseModel

from truesitter.core.graph.results import Declaration
from truesitter.core.refusal import Refusal
from truesitter.core.stages.picture_stage import CANVAS
from truesitter.core.values.cuts import check_own_cuts
from truesitter.core.values.posterise import paint_groups
from truesitter.formats.documents.plan import PlanValues, values_of
from truesitter.formats.pictures.png import encode_bmp, encode_png
from truesitter.formats.pictures.views import same_value_picture
from truesitter.formats.print.svg import polygon_path
from truesitter.web.http.answers import BenchRoute, QuickRoute, answered, picture_response
from truesitter.web.http.dependencies import CurrentStudy

_LONGEST = 200
"""Characters of eight cuts, with room to spare."""

_PREVIEW = Declaration("preview", needs=("smoothed",))
_SAME = Declaration("same", needs=("value",))
router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["values"], route_class=BenchRoute)
quick = APIRouter(route_class=QuickRoute)


class ValuesOut(BaseModel):
    """Groups, and the histogram that the ladder shows."""

    plan: PlanValues
    histogram: list[float]
    smallest_mm: float
    """The smallest shape in force: as exact as the picture is wanted."""


class OutlineOut(BaseModel):
    """One outline as an SVG path in grid pixels, its group and the number of its shape."""

    group: int
    shape: int
    path: str
    x: float
    y: float
    radius: float


class OutlinesOut(BaseModel):
    """All outlines on their grid."""

    width: int
    height: int
    outlines: list[OutlineOut]


@router.get(
    "/values",
    dependencies=[
        answered(
            "values",
            ("values.names", "values.groups", "values.smallest_mm", "passes.exactness", *CANVAS),
            ("values", "histogram"),
        )
    ],
)
def get_values(study: CurrentStudy) -> ValuesOut:
    """Value groups and histogram."""
    return ValuesOut(
        plan=values_of(study),
        histogram=list(study.picture.histogram()),
        smallest_mm=study.values.smallest_mm(),
    )


@quick.get("/ladder/sitter", dependencies=[answered("ladder/sitter", needs=("sitter histogram",))])
def get_sitter_ladder(study: CurrentStudy) -> list[float]:
    """Histogram of the sitter without the background, in equal steps of value."""
    return list(study.values.sitter_histogram())


@quick.get("/ladder", dependencies=[answered("ladder", needs=("histogram",))])
def get_ladder(study: CurrentStudy) -> list[float]:
    """Histogram of the picture in equal steps of value; quick, without grouping."""
    return list(study.picture.histogram())


@quick.get("/values/preview", response_class=Response)
def preview(study: CurrentStudy, cuts: str, request: Request) -> Response:
    """Groups for cuts under the painter's hand, comma-separated values; nothing is kept."""
    if len(cuts) > _LONGEST:
        raise Refusal("there are at most eight cuts")
    try:
        wanted = tuple(float(c) for c in cuts.split(","))
    except ValueError:
        raise Refusal("cuts are numbers with commas between them") from None
    check_own_cuts(wanted)

    def make() -> tuple[bytes, str]:
        labels = study.values.preview_labels(wanted)
        edges = np.array([0.0, *wanted, 10.0])
        greys = paint_groups(labels, (edges[:-1] + edges[1:]) / 2)
        return encode_bmp(greys), "image/bmp"

    key = f"preview-{study.key(_PREVIEW)}-{cuts}"
    return picture_response(request, key, make)


@router.get("/outlines", dependencies=[answered("outlines", needs=("outlines",))])
def get_outlines(study: CurrentStudy) -> OutlinesOut:
    """Outlines of all value shapes."""
    drawing = study.values.outlines()
    height, width = drawing.grid
    return OutlinesOut(
        width=width,
        height=height,
        outlines=[
            OutlineOut(
                group=o.group, shape=o.shape, path=polygon_path(o.polygon, 1.0), x=o.number_at[0],
                y=o.number_at[1], radius=o.radius,
            )
            for o in drawing.outlines
        ],
    )  # fmt: skip


@quick.get("/values/split")
def split(study: CurrentStudy, group: Annotated[int, Query(ge=0, le=8)]) -> list[float]:
    """Cuts with one more, where it parts a group best; nothing is kept."""
    return list(study.values.split(group))


@quick.get("/values/merge")
def merge(study: CurrentStudy, group: Annotated[int, Query(ge=0, le=8)]) -> list[float]:
    """Cuts without the one between a group and the next lighter; nothing is kept."""
    return list(study.values.merge(group))


@quick.get("/values/same", response_class=Response)
def same_value(
    study: CurrentStudy,
    request: Request,
    step: Annotated[float, Query(ge=0, le=10)],
    tolerance: Annotated[float, Query(gt=0, le=3)] = 0.25,
) -> Response:
    """A veil over everything that does not have one value."""
    key = f"same-{study.key(_SAME)}-{step}-{tolerance}"
    return picture_response(
        request,
        key,
        lambda: (encode_png(same_value_picture(study.picture.value(), step, tolerance)), "image/png"),
    )


router.include_router(quick)
