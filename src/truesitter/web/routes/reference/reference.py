"""Reference: the frame, the ways of looking, and the pictures."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Query, Request, Response
from pydantic import BaseModel

from truesitter.core.reference.frame import place
from truesitter.core.reference.grid import Grid
from truesitter.core.reference.measure import levelling_turn
from truesitter.core.stages.picture_stage import FRAME
from truesitter.formats.pictures.views import VIEWS
from truesitter.web.http.answers import BenchRoute, QuickRoute, answered, picture_response
from truesitter.web.http.dependencies import CurrentSitter, CurrentStudy

Part = Annotated[float, Query(ge=0, le=1)]

GRID = tuple(f"reference.{name}" for name in ("grid", "grid_square_mm", "grid_columns", "grid_rows"))
router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["reference"], route_class=QuickRoute)
heavy = APIRouter(route_class=BenchRoute)

ViewName = Literal[
    "photograph", "square", "colour", "grey", "squint", "groups", "colour-groups", "regions",
    "zones", "value-codes", "shadows", "clipped", "masses", "risk",
    "form", "form-grey", "metal", "shine", "recesses", "turns", "ball", "eye-left", "eye-right",
    "solid-dome", "solid-upright", "solid-lying", "solid-bowl",
    "skull", "relief", "lock-volume", "hair-surface", "lock-tones", "locks", "hair-band",
    "thumbnail-2", "thumbnail-3", "thumbnail-4", "thumbnail-5",
]  # fmt: skip


class GridOut(BaseModel):
    """Grid lines (x1, y1, x2, y2) and margin numbers (position, text), in canvas mm."""

    lines: list[tuple[float, float, float, float]]
    columns: list[tuple[float, str]]
    rows: list[tuple[float, str]]
    cell_mm: tuple[float, float] | None


class BalanceOut(BaseModel):
    """Gains of red, green and blue in linear light."""

    balance: tuple[float, float, float]


class LevelOut(BaseModel):
    """Degrees to straighten by, all told."""

    straighten: float


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
    grid: GridOut


@router.get("/reference", dependencies=[answered("reference", (*FRAME, *GRID), ("framed",))])
def get_frame(study: CurrentStudy, sitter: CurrentSitter) -> FrameOut:
    """Where the frame lies on the photograph."""
    frame = study.settings.reference.frame()
    wide, high = frame.upright(sitter.width, sitter.height)
    crop = place(frame, sitter.width, sitter.height)
    height, width = study.picture.shape
    return FrameOut(
        corners=[(x / wide, y / high) for x, y in crop.corners().tolist()],
        photograph_aspect=high / wide,
        width=width,
        height=height,
        mm_per_px=study.picture.mm_per_px,
        grid=grid_out(study.settings.reference.canvas_grid()),
    )


def grid_out(grid: Grid) -> GridOut:
    """A grid as JSON."""
    return GridOut(
        lines=list(grid.lines), columns=list(grid.columns), rows=list(grid.rows), cell_mm=grid.cell_mm
    )


@router.get("/reference/neutral")
def get_neutral(study: CurrentStudy, x: Part, y: Part) -> BalanceOut:
    """Gains that make a spot of the framed picture neutral grey."""
    return BalanceOut(balance=study.picture.balance_at(x, y))


@router.get("/reference/level")
def get_level(study: CurrentStudy, x1: Part, y1: Part, x2: Part, y2: Part) -> LevelOut:
    """How to straighten so that a line drawn on the framed picture becomes level or plumb."""
    reference = study.settings.reference
    turn = levelling_turn((x1, y1), (x2, y2), (reference.canvas_width_mm, reference.canvas_height_mm))
    total = reference.straighten + (-turn if reference.mirror else turn)
    return LevelOut(straighten=round(max(-45.0, min(45.0, total)), 2))


@heavy.get("/pictures/{view}", response_class=Response)
def get_picture(view: ViewName, study: CurrentStudy, request: Request) -> Response:
    """A way of looking at the sitter."""
    found = VIEWS[view]
    return picture_response(request, study.key(found.declaration), lambda: found.make(study))


router.include_router(heavy)
