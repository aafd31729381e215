"""Layers of strokes, and the check of strokes that were drawn for practice."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from fastapi import APIRouter, Query, Request, Response, UploadFile

from truesitter.core.hair.checks.practice import PracticeReport
from truesitter.core.plan.painted_hair import hair_numbers
from truesitter.core.reference.decode import decode
from truesitter.core.refusal import Refusal
from truesitter.core.usecases.practised import practised
from truesitter.formats.documents.plan_hair import (
    approach_of,
    kinds_of_study,
    layers_of,
    shine_of_study,
)
from truesitter.formats.pictures.png import encode_png
from truesitter.web.http.answers import BenchRoute, answered, picture_response
from truesitter.web.http.dependencies import CurrentStudy, photograph_bytes
from truesitter.web.models.hair_answers import (
    FaultOut,
    HairLayersOut,
    LayerOut,
    PaperOut,
    PracticeIn,
    PracticeOut,
)
from truesitter.web.models.mixture import mixture_out

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["hair"], route_class=BenchRoute)

Paper = Annotated[Literal["A4", "Letter"], Query()]
MIXED = ("flesh.own", "flesh.medium", "flesh.drying")


@router.get(
    "/hair/layers",
    dependencies=[
        answered(
            "hair/layers",
            (*MIXED, "values.names", "values.groups", "passes.school", "passes.own"),
            (
                "passes", "paced passes", "hair errors", "approach", "stroke types", "hair shine",
                "directed hair",
            ),
        )
    ],
)  # fmt: skip
def get_layers(study: CurrentStudy) -> HairLayersOut:
    """Masses or strands, and every layer."""
    flesh, told = study.settings.flesh, layers_of(study)
    passes = study.passes.paced().passes if told else ()
    return HairLayersOut(
        approach=approach_of(study),
        kinds=kinds_of_study(study),
        layers=[
            LayerOut(**one.model_dump(), mixed=mixture_out(flesh, recipe.target_lab, recipe))
            for one in told
            for recipe in [passes[one.number - 1].recipe]
        ],
        shine=shine_of_study(study),
        refused=study.passes.refused(),
    )


@router.get("/hair/layers/{number}/picture", response_class=Response)
def layer_picture(number: int, study: CurrentStudy, request: Request) -> Response:
    """The hair as painted after layer `number`, counted from 1."""
    numbers = [] if study.passes.refused() else hair_numbers(study.passes.plan())
    if not 1 <= number <= len(numbers):
        raise Refusal(f"there is no layer {number}; the hair has {len(numbers)}")

    def make() -> tuple[bytes, str]:
        return encode_png(study.passes.hair_picture(numbers[number - 1])), "image/png"

    return picture_response(request, f"hair-{number}-{study.source.key('painted')}", make)


@router.post("/hair/practice")
def practise(study: CurrentStudy, drawn: PracticeIn) -> PracticeOut:
    """Check strokes that were drawn for practice."""
    if any(len(stroke) < 2 for stroke in drawn.strokes):
        raise Refusal("a stroke needs at least two points")
    if drawn.widths_mm and len(drawn.widths_mm) != len(drawn.strokes):
        raise Refusal("every stroke has widths, or none has")
    strokes = [tuple(stroke) for stroke in drawn.strokes]
    widths = [np.array(one) if one else None for one in drawn.widths_mm] or None
    return _practice_out(practised(study, strokes, widths, drawn.planes))


def _practice_out(report: PracticeReport) -> PracticeOut:
    return PracticeOut(
        faults=[FaultOut(stroke=f.stroke, kind=f.kind, said=f.said, x=f.x, y=f.y) for f in report.faults],
        right=report.right,
        strokes=report.strokes,
    )


@router.post("/hair/practice/photograph")
def practise_on_paper(study: CurrentStudy, photo: UploadFile) -> PaperOut:
    """Find strokes on a photograph cropped to the canvas, and check them."""
    across = study.settings.reference.canvas_width_mm
    strokes, report = study.hair_layers.practised_on_paper(decode(photograph_bytes(photo)))
    return PaperOut(
        strokes=[[(round(x, 4), round(y, 4)) for x, y in stroke.points] for stroke in strokes],
        widths_mm=[np.round(stroke.widths * across, 2).tolist() for stroke in strokes],
        report=_practice_out(report),
    )
