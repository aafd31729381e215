"""Hair: growth lines, whorls and guide strokes."""

from __future__ import annotations

from fastapi import APIRouter, Response
from pydantic import BaseModel

from truesitter.formats.plan import PlanWhorl
from truesitter.formats.svg import hair_svg
from truesitter.web.answers import answered
from truesitter.web.bench import CurrentStudy, download

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["hair"])


class HairOut(BaseModel):
    """Growth lines, root first, as flat lists x, y, x, y … in fractions of the picture."""

    lines: list[list[float]]
    whorls: list[PlanWhorl]
    coherence: float
    hair_share: float


@router.get("/hair", dependencies=[answered("hair", needs=("hair", "regions"))])
def get_hair(study: CurrentStudy) -> HairOut:
    """Growth lines of the hair."""
    hair = study.hair.map()
    return HairOut(
        lines=[[round(v, 4) for v in line.points.ravel().tolist()] for line in hair.lines],
        whorls=[PlanWhorl(x=w.x, y=w.y, index=w.index) for w in hair.whorls],
        coherence=hair.coherence,
        hair_share=float(study.sitter.hair_mask().mean()),
    )


@router.get("/files/hair_lines.svg", response_class=Response)
def hair_file(study: CurrentStudy) -> Response:
    """Growth lines in canvas millimetres."""
    reference = study.settings.reference
    canvas = (reference.canvas_width_mm, reference.canvas_height_mm)
    return download(hair_svg(study.hair.map().lines, canvas), "image/svg+xml", "hair_lines.svg")
