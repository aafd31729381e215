"""Reference: the frame, the ways of looking, and the pictures."""

from __future__ import annotations

from typing import Literal

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel

from truesitter.core.reference.frame import place
from truesitter.core.settings import ReferenceSettings
from truesitter.formats.pictures import VIEWS
from truesitter.web.bench import Bench, CurrentSitter, CurrentStudy, picture_response
from truesitter.web.routes.sitters import SitterOut, sitter_out

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["reference"])

ViewName = Literal[
    "photograph", "colour", "grey", "squint", "groups", "colour-groups", "regions",
    "region-edges", "zones", "value-codes",
]  # fmt: skip


class FrameOut(BaseModel):
    """The frame as placed."""

    corners: list[tuple[float, float]]
    """Of the crop, in fractions of the photograph: top left and on clockwise."""
    photograph_aspect: float
    """Height / width of the upright photograph."""
    width: int
    height: int
    """Of the framed picture in pixels."""
    mm_per_px: float


@router.get("/reference")
def get_frame(study: CurrentStudy, sitter: CurrentSitter) -> FrameOut:
    """Where the frame lies on the photograph."""
    crop = place(study.settings.reference.frame(), sitter.width, sitter.height)
    height, width = study.picture.framed().shape[:2]
    return FrameOut(
        corners=[(x / sitter.width, y / sitter.height) for x, y in crop.corners().tolist()],
        photograph_aspect=sitter.height / sitter.width,
        width=width,
        height=height,
        mm_per_px=study.picture.mm_per_px,
    )


@router.put("/reference")
def set_reference(
    sitter: CurrentSitter, settings: ReferenceSettings, bench: Bench, change: str = "Frame"
) -> SitterOut:
    """Change the frame or the way of looking."""
    place(settings.frame(), sitter.width, sitter.height)
    return sitter_out(bench.shelf.change(sitter.id, "reference", settings, change), bench)


@router.get("/pictures/{view}", response_class=Response)
def get_picture(view: ViewName, study: CurrentStudy, request: Request) -> Response:
    """A way of looking at the sitter."""
    key = f"{view}-{study.keys()[VIEWS[view].depends]}"
    return picture_response(request, key, lambda: VIEWS[view].make(study))
