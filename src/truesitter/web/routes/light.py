"""Light: where it comes from, its peaks and zones."""

from __future__ import annotations

from fastapi import APIRouter

from truesitter.core.study.picture import WIDTH_MM
from truesitter.formats.plan import PlanLight, light_of
from truesitter.web.answers import answered
from truesitter.web.bench import CurrentStudy

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["light"])


@router.get(
    "/light",
    dependencies=[answered("light", (WIDTH_MM,), ("light", "light direction", "detection", "framed"))],
)
def get_light(study: CurrentStudy) -> PlanLight:
    """Peaks, and the direction of the light when a face shows it."""
    return light_of(study)
