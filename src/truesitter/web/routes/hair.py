"""Hair: mapping lines, whorls and guide strokes."""

from __future__ import annotations

from fastapi import APIRouter, Response
from pydantic import BaseModel

from truesitter.core.settings import HairSettings
from truesitter.formats.plan import PlanWhorl
from truesitter.formats.svg import hair_svg
from truesitter.web.bench import Bench, CurrentSitter, CurrentStudy, download
from truesitter.web.routes.sitters import SitterOut, sitter_out

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["hair"])


class HairOut(BaseModel):
    """Mapping lines, root first, as flat lists x, y, x, y … in fractions of the picture."""

    lines: list[list[float]]
    whorls: list[PlanWhorl]
    coherence: float
    hair_share: float


@router.get("/hair")
def get_hair(study: CurrentStudy) -> HairOut:
    """Mapping lines of the hair."""
    hair = study.hair.map()
    return HairOut(
        lines=[[round(v, 4) for v in line.points.ravel().tolist()] for line in hair.lines],
        whorls=[PlanWhorl(x=w.x, y=w.y, index=w.index) for w in hair.whorls],
        coherence=hair.coherence,
        hair_share=float(study.sitter.hair_mask().mean()),
    )


@router.put("/hair")
def set_hair(sitter: CurrentSitter, settings: HairSettings, bench: Bench, change: str = "Hair") -> SitterOut:
    """Change guide strokes or the spacing of the lines."""
    return sitter_out(bench.shelf.change(sitter.id, "hair", settings, change), bench)


@router.get("/files/hair_lines.svg", response_class=Response)
def hair_file(study: CurrentStudy) -> Response:
    """Mapping lines in canvas millimetres."""
    reference = study.settings.reference
    canvas = (reference.canvas_width_mm, reference.canvas_height_mm)
    return download(hair_svg(study.hair.map().lines, canvas), "image/svg+xml", "hair_lines.svg")
