"""The ground the sitter is painted on and the background it stands before."""

from __future__ import annotations

from typing import Literal

import numpy as np
from fastapi import APIRouter, HTTPException, Request, Response
from pydantic import BaseModel

from truesitter.core.colour.spaces import lab_to_srgb
from truesitter.core.design.background import Design
from truesitter.core.design.frames import frames_for
from truesitter.core.settings.setting_kinds import LabNumbers
from truesitter.core.types import Bytes, Floats
from truesitter.formats.pictures.png import encode_png
from truesitter.formats.words.frame_words import frame_words
from truesitter.web.http.answers import BenchRoute, answered, picture_response
from truesitter.web.http.dependencies import CurrentStudy
from truesitter.web.models.mixture import hex_of

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["passes"], route_class=BenchRoute)


class GroundOut(BaseModel):
    """One ground and what it does."""

    key: str
    name: str
    hex: str
    parts: dict[str, int]
    value: float
    area_cm2: float
    ml: float
    minutes: float
    serves: str
    warmer: float
    """b* of the flesh above its own."""


class GroundsOut(BaseModel):
    """Grounds to choose from, best first, and which is laid."""

    grounds: list[GroundOut]
    chosen: str
    paper: bool
    """True where the school leaves the support bare: nothing to choose."""


@router.get("/grounds", dependencies=[answered("grounds", ("passes.ground", "passes.school"), ("grounds",))])
def get_grounds(study: CurrentStudy) -> GroundsOut:
    """Grounds for this picture."""
    return GroundsOut(
        grounds=[
            GroundOut(
                key=g.key, name=g.name, hex=g.recipe.predicted.hex, parts=g.recipe.parts,
                value=g.recipe.predicted.value, area_cm2=g.area_cm2, ml=g.ml, minutes=g.minutes,
                serves=g.serves, warmer=g.warmer,
            )
            for g in study.surround.grounds()
        ],
        chosen=study.settings.passes.ground,
        paper=study.settings.passes.followed().transparent,
    )  # fmt: skip


@router.get("/grounds/{key}.png", response_class=Response)
def ground_picture(key: str, study: CurrentStudy, request: Request) -> Response:
    """Where a ground may stay: the rest of the picture covered (a veil with transparency)."""
    found = next((g for g in study.surround.grounds() if g.key == key), None)
    if found is None:
        raise HTTPException(404, "There is no such ground for this picture.")

    def make() -> tuple[bytes, str]:
        veil = np.full((*found.stays.shape, 4), 60, np.uint8)
        veil[..., 3] = np.where(found.stays, 255, 150)
        colour = np.round(lab_to_srgb(np.array(found.recipe.predicted.lab)) * 255)
        veil[found.stays, :3] = colour
        return encode_png(veil), "image/png"

    return picture_response(request, f"ground-{key}-{study.source.key('grounds')}", make)


class StretchOut(BaseModel):
    """A part of the outline of one kind."""

    kind: Literal["found", "soft", "lost"]
    place: str
    x: float
    y: float
    length_mm: float
    inside: float
    outside: float
    points: list[tuple[float, float]]


class OfferOut(BaseModel):
    """A colour of the sitter or of the board."""

    name: str
    lab: LabNumbers
    hex: str


class PictureFrameOut(BaseModel):
    """A frame beside the picture."""

    name: str
    hex: str
    words: str


class BackgroundOut(BaseModel):
    """The outline against the background."""

    stretches: list[StretchOut]
    found_share: float
    """Part of the outline that stands out, 0–1."""
    offers: list[OfferOut]
    """Colours that a background of one's own can be taken from."""
    steps: int
    """In how many tones one's own two colours pass into one another."""
    frames: list[PictureFrameOut]
    """The calmest first that closes the picture off."""


@router.get(
    "/background",
    dependencies=[
        answered(
            "background",
            ("regions.names", "flesh.pins", "passes.backdrop_own"),
            ("surround", "detection", "lab", "smoothed", "regions"),
        )
    ],
)
def get_background(study: CurrentStudy) -> BackgroundOut:
    """Found and lost stretches of the outline under the chosen design."""
    background = study.surround.surround().background
    stretches = background.stretches
    pins = [(pin.name, pin.target_lab) for pin in study.settings.flesh.pins]
    whole = sum(s.length_mm for s in stretches)
    return BackgroundOut(
        stretches=[
            StretchOut(
                kind=s.kind, place=study.sitter.place_at(s.x, s.y), x=s.x, y=s.y, length_mm=s.length_mm,
                inside=s.inside, outside=s.outside, points=list(s.points),
            )
            for s in stretches
        ],
        found_share=sum(s.length_mm for s in stretches if s.kind == "found") / whole if whole else 0.0,
        offers=[
            OfferOut(name=name, lab=lab, hex=hex_of(lab)) for name, lab in (*study.surround.offers(), *pins)
        ],
        steps=study.surround.own_tones().steps,
        frames=[
            PictureFrameOut(name=f.name, hex=hex_of(f.lab), words=frame_words(f))
            for f in frames_for(background.lab)
        ],
    )  # fmt: skip


@router.get("/background/{design}.png", response_class=Response)
def background_picture(design: Design, study: CurrentStudy, request: Request) -> Response:
    """The reference before a background of that design."""
    key = f"background-{design}-{study.source.key('surround')}"
    return picture_response(
        request,
        key,
        lambda: (encode_png(_shown(study.surround.designed(design).lab)), "image/png"),
    )


def _shown(lab: Floats) -> Bytes:
    return np.asarray(np.round(lab_to_srgb(lab) * 255), dtype=np.uint8)
