"""Files to keep: drawings, pictures, tables and sheets of the measuring bench."""

from __future__ import annotations

from typing import Literal

from fastapi import APIRouter, Response

from truesitter.formats.documents.tables import shapes_csv
from truesitter.formats.pictures.full_size import full_picture
from truesitter.formats.pictures.png import encode_png
from truesitter.formats.pictures.views import VIEWS
from truesitter.formats.print.svg import outlines_svg
from truesitter.formats.print.transfer import thumbnails_pdf, transfer_pdf
from truesitter.web.http.answers import BenchRoute
from truesitter.web.http.dependencies import CurrentSitter, CurrentStudy, download

router = APIRouter(prefix="/api/sitters/{sitter_id}/files", tags=["files"], route_class=BenchRoute)
Paper = Literal["A4", "Letter"]


@router.get("/outlines.svg", response_class=Response)
def outlines_file(study: CurrentStudy, grid: bool = False, edges: bool = False) -> Response:
    """Outlines with numbers in canvas millimetres; grid and edges as groups of their own."""
    reference = study.settings.reference
    drawing = outlines_svg(
        study.values.outlines(),
        (reference.canvas_width_mm, reference.canvas_height_mm),
        reference.canvas_grid() if grid else None,
        study.looking.edges() if edges else (),
    )
    return download(drawing, "image/svg+xml", "outlines.svg")


@router.get("/groups.png", response_class=Response)
def groups_file(study: CurrentStudy) -> Response:
    """Groups in their own greys."""
    return download(VIEWS["groups"].make(study)[0], "image/png", "groups.png")


@router.get("/view.png", response_class=Response)
def view_file(study: CurrentStudy, view: Literal["colour", "grey", "squint", "groups"]) -> Response:
    """A view at the photograph's own resolution."""
    return download(encode_png(full_picture(study, view)), "image/png", f"{view}.png")


@router.get("/shapes.csv", response_class=Response)
def shapes_file(study: CurrentStudy) -> Response:
    """Every value shape, one to a line."""
    return download(shapes_csv(study), "text/csv; charset=utf-8", "shapes.csv")


@router.get("/transfer.pdf", response_class=Response)
def transfer_file(
    study: CurrentStudy,
    sitter: CurrentSitter,
    paper: Paper = "A4",
    mirrored: bool = False,
    upside_down: bool = False,
) -> Response:
    """Outlines and grid at true canvas size, in tiles."""
    return download(
        transfer_pdf(study, sitter.name, paper, mirrored, upside_down), "application/pdf", "transfer.pdf"
    )


@router.get("/thumbnails.pdf", response_class=Response)
def thumbnails_file(study: CurrentStudy, sitter: CurrentSitter, paper: Paper = "A4") -> Response:
    """Sketches in 2, 3, 4 and 5 values."""
    return download(thumbnails_pdf(study, sitter.name, paper), "application/pdf", "thumbnails.pdf")
