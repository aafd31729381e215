"""Regions: what was found, and the painter's corrections."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

from truesitter.core.settings import RegionSettings
from truesitter.web.bench import Bench, CurrentSitter, CurrentStudy
from truesitter.web.routes.sitters import SitterOut, sitter_out

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["regions"])


class RegionsOut(BaseModel):
    """What was found and how sure it is."""

    face_found: bool
    sureness: float
    shares: dict[str, float]
    sentence: str


@router.get("/regions")
def get_regions(study: CurrentStudy) -> RegionsOut:
    """Regions of the sitter."""
    regions, face = study.sitter.regions(), study.sitter.detection().has_face
    if face:
        sentence = f"A face was found; the regions are {regions.sureness:.0%} sure."
    elif study.settings.regions.scribbles:
        sentence = "No face was found; the regions follow your scribbles."
    else:
        sentence = (
            "No face was found (a back view, a profile or a drawing). "
            "Scribble over skin, hair and cloth to say what is where."
        )
    return RegionsOut(face_found=face, sureness=regions.sureness, shares=regions.shares(), sentence=sentence)


@router.put("/regions")
def set_regions(
    sitter: CurrentSitter, settings: RegionSettings, bench: Bench, change: str = "Scribble"
) -> SitterOut:
    """Change the scribbles."""
    return sitter_out(bench.shelf.change(sitter.id, "regions", settings, change), bench)
