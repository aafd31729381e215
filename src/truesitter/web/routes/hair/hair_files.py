"""Hair to take along: drawings and prints at true size."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Query, Response

from truesitter.core.stages import Study
from truesitter.formats.print.hair_files import (
    brush_svg,
    growth_pdf,
    growth_svg,
    hair_practice_pdf,
    hairline_svg,
    strokes_svg,
)
from truesitter.web.http.answers import BenchRoute
from truesitter.web.http.dependencies import CurrentSitter, CurrentStudy, download

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["hair"], route_class=BenchRoute)

Paper = Annotated[Literal["A4", "Letter"], Query()]


def _canvas(study: Study) -> tuple[float, float]:
    reference = study.settings.reference
    return reference.canvas_width_mm, reference.canvas_height_mm


@router.get("/files/hair_lines.svg", response_class=Response)
def growth_drawing(study: CurrentStudy) -> Response:
    """Growth lines in canvas millimetres."""
    return download(growth_svg(study.hair.drawn_lines(), _canvas(study)), "image/svg+xml", "hair_lines.svg")


@router.get("/files/hair_lines.pdf", response_class=Response)
def growth_print(
    study: CurrentStudy, sitter: CurrentSitter, paper: Paper = "A4", mirrored: bool = False
) -> Response:
    """Growth lines at true size, to be traced on."""
    return download(growth_pdf(study, sitter.name, paper, mirrored), "application/pdf", "hair_lines.pdf")


@router.get("/files/hairline.svg", response_class=Response)
def hairline_drawing(study: CurrentStudy) -> Response:
    """Every reading of the hairline."""
    return download(hairline_svg(study), "image/svg+xml", "hairline.svg")


@router.get("/files/strokes.svg", response_class=Response)
def stroke_drawing(study: CurrentStudy) -> Response:
    """Every stroke of every layer."""
    return download(strokes_svg(study), "image/svg+xml", "strokes.svg")


@router.get("/files/hair_practice.pdf", response_class=Response)
def hair_practice(study: CurrentStudy, sitter: CurrentSitter, paper: Paper = "A4") -> Response:
    """Growth lines and sample strokes to draw over."""
    return download(hair_practice_pdf(study, sitter.name, paper), "application/pdf", "hair_practice.pdf")


@router.get("/files/brush.svg", response_class=Response)
def brush_drawing(study: CurrentStudy, across: bool = False) -> Response:
    """Arrows of the brush in canvas millimetres."""
    return download(brush_svg(study, across), "image/svg+xml", "brush.svg")
