"""Regions: what was found, and the painter's corrections."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

from truesitter.core.sitter.places import place_centres
from truesitter.core.sitter.region_names import Region
from truesitter.formats.print.svg import polygon_path
from truesitter.web.http.answers import BenchRoute, answered
from truesitter.web.http.dependencies import CurrentStudy

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["regions"], route_class=BenchRoute)


class RegionOutline(BaseModel):
    """One piece of a region as an SVG path in fractions of the width, and where its name stands."""

    region: str
    path: str
    x: float
    y: float
    radius: float


class PlaceOut(BaseModel):
    """A named place of the face, in fractions of the picture."""

    name: str
    x: float
    y: float


class RegionMapOut(BaseModel):
    """Outlines of the regions and named places of the face; paths 1000 wide."""

    outlines: list[RegionOutline]
    places: list[PlaceOut]


class RegionsOut(BaseModel):
    """What was found and how sure it is."""

    face_found: bool
    sureness: float
    shares: dict[str, float]
    sure: dict[str, float]
    sentence: str


@router.get(
    "/regions",
    dependencies=[answered("regions", ("regions.scribbles",), ("regions", "detection", "first guess"))],
)
def get_regions(study: CurrentStudy) -> RegionsOut:
    """Regions of the sitter."""
    regions, face = study.sitter.regions(), study.sitter.face is not None
    if face:
        sentence = f"A face was found; the regions are {regions.sureness:.0%} sure."
        if study.sitter.first_guess().colourless:
            sentence += " The photograph has no colour: regions are told by texture, place and value."
    elif study.settings.regions.scribbles:
        sentence = "No face was found; regions follow your scribbles, and colours where there are none."
    elif not study.sitter.detection().person.any():
        sentence = "No person was found. Where there is one, scribble over skin, hair and cloth."
    elif study.sitter.first_guess().posterior is not None:
        sentence = (
            "No face was found (a back view, a profile, a head cut off): skin, hair and cloth are guessed by "
            "colour. Skin in deep shadow is easily taken for hair: scribble over what is wrong."
        )
    else:
        sentence = (
            "No face was found, and nothing with the colour of skin. "
            "Scribble over skin, hair and cloth to say what is where."
        )
    return RegionsOut(
        face_found=face,
        sureness=regions.sureness,
        shares=regions.shares(),
        sure=regions.sure,
        sentence=sentence,
    )


@router.get(
    "/regions/map",
    dependencies=[answered("regions/map", needs=("region outlines", "detection", "framed"))],
)
def get_region_map(study: CurrentStudy) -> RegionMapOut:
    """Outlines of the regions with their names, and the places of the face."""
    width = study.sitter.map_width()
    scale = 1000 / width
    face = study.sitter.face
    places = [] if face is None else place_centres(face)
    return RegionMapOut(
        outlines=[
            RegionOutline(
                region=Region(o.group).name.lower(), path=polygon_path(o.polygon, scale),
                x=o.number_at[0] * scale, y=o.number_at[1] * scale, radius=o.radius * scale,
            )
            for o in study.sitter.outlines()
        ],
        places=[PlaceOut(name=name, x=x, y=y) for name, x, y in places],
    )  # fmt: skip
