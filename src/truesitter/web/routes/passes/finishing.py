"""Focus and finish, and the texture of the skin."""

from __future__ import annotations

from fastapi import APIRouter, HTTPException, Request, Response
from pydantic import BaseModel

from truesitter.core.design.focus import Depth
from truesitter.formats.pictures.png import encode_png
from truesitter.formats.print.stencil import stencil_svg
from truesitter.web.http.answers import BenchRoute, answered, picture_response
from truesitter.web.http.dependencies import CurrentStudy, download

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["passes"], route_class=BenchRoute)


class FinishOut(BaseModel):
    """How far one place is finished."""

    place: str
    x: float
    y: float
    weight: float
    small: float
    """Small contrast of the photograph, in value steps."""
    allowed: float
    edge_mm: float
    words: str


class MarkOut(BaseModel):
    """What is looked at."""

    x: float
    y: float
    depth: Depth


class TextureOut(BaseModel):
    """Marks of the skin."""

    marks: int
    contrast: float
    gap_mm: float


class FocusOut(BaseModel):
    """Places from the most looked at to the least, and the texture of the skin."""

    marks: list[MarkOut]
    own: bool
    """False where the focus was found, not set."""
    places: list[FinishOut]
    texture: TextureOut


@router.get("/focus", dependencies=[answered("focus", ("passes.focus",), ("finish", "texture"))])
def get_focus(study: CurrentStudy) -> FocusOut:
    """What is finished how far."""
    texture = study.finish.texture()
    return FocusOut(
        marks=[MarkOut(x=m.x, y=m.y, depth=m.depth) for m in study.finish.marks()],
        own=bool(study.settings.passes.focus),
        places=[FinishOut(**vars(p)) for p in study.finish.places()],
        texture=TextureOut(marks=len(texture.darks), contrast=texture.contrast, gap_mm=texture.gap_mm),
    )


@router.get("/focus.png", response_class=Response)
def focus_picture(study: CurrentStudy, request: Request) -> Response:
    """The reference as it may be finished."""
    key = f"focus-{study.source.key('finish')}"
    return picture_response(request, key, lambda: (encode_png(study.finish.picture()), "image/png"))


@router.get("/files/stencil.svg", response_class=Response)
def stencil_file(study: CurrentStudy) -> Response:
    """Marks of the skin with their lights, at true size."""
    texture = study.finish.texture()
    if not texture.darks:
        raise HTTPException(404, "This skin is smooth: it gets no marks.")
    reference = study.settings.reference
    canvas = (reference.canvas_width_mm, reference.canvas_height_mm)
    return download(stencil_svg(texture, canvas), "image/svg+xml", "stencil.svg")
