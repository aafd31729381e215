"""Light: points of maximum luminosity and zones."""

from __future__ import annotations

from fastapi import APIRouter

from truesitter.core.settings import LightSettings
from truesitter.formats.plan import PlanLight, light_of
from truesitter.web.bench import Bench, CurrentSitter, CurrentStudy
from truesitter.web.routes.sitters import SitterOut, sitter_out

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["light"])


@router.get("/light")
def get_light(study: CurrentStudy) -> PlanLight:
    """Points, and the direction of the light when a face shows it."""
    return light_of(study)


@router.put("/light")
def set_light(
    sitter: CurrentSitter, settings: LightSettings, bench: Bench, change: str = "Light zones"
) -> SitterOut:
    """Change how far the zones spread."""
    return sitter_out(bench.shelf.change(sitter.id, "light", settings, change), bench)
