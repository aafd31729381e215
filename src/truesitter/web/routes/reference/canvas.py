"""The canvas that every new sitter is framed on."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

from truesitter.core.sitter.framing import on_canvas
from truesitter.store.settings.edits import Edit
from truesitter.store.settings.usual import CanvasSize
from truesitter.web.http.answers import BenchRoute, WritingRoute
from truesitter.web.http.dependencies import Bench, By, CurrentSitter, CurrentStudy
from truesitter.web.routes.studio.sitters import SitterOut, sitter_out

router = APIRouter(prefix="/api/canvas", tags=["reference"], route_class=WritingRoute)
framed = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["reference"], route_class=BenchRoute)


class CanvasChoice(BaseModel):
    """Which canvas is the usual one."""

    usual: CanvasSize | None
    """None where each sitter has the proportions of its own photograph."""


@router.get("")
def usual_canvas(bench: Bench) -> CanvasChoice:
    """The canvas that new sitters are framed on."""
    return CanvasChoice(usual=bench.repository.canvas.get())


@router.put("")
def keep_usual_canvas(given: CanvasChoice, bench: Bench) -> CanvasChoice:
    """Frame every sitter that is added from now on on this canvas, or on its photograph's own proportions."""
    bench.repository.canvas.keep(given.usual)
    return usual_canvas(bench)


@framed.post("/reference/usual-canvas")
def frame_on_usual_canvas(sitter: CurrentSitter, study: CurrentStudy, bench: Bench, by: By) -> SitterOut:
    """Frame a sitter on the usual canvas, its whole head with air above; nothing where there is none."""
    usual = bench.repository.canvas.get()
    if usual is None:
        return sitter_out(sitter, bench)
    framing = on_canvas(
        study.sitter.heads_in_photograph(), study.picture.photograph().shape,
        (usual.width_mm, usual.height_mm),
    )  # fmt: skip
    (width, height), (x, y) = framing.canvas_mm, framing.centre
    fields = {
        "canvas_width_mm": width, "canvas_height_mm": height, "centre_x": x, "centre_y": y,
        "zoom": framing.zoom, "straighten": 0.0,
    }  # fmt: skip
    edit = Edit("Your usual canvas", fields)
    return sitter_out(bench.repository.change(sitter.id, "reference", edit, by=by), bench)
