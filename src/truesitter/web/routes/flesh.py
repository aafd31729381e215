"""Flesh: tubes, palettes, mixtures, and the mixture for a spot."""

from __future__ import annotations

from typing import Annotated

import numpy as np
from fastapi import APIRouter, Query
from pydantic import BaseModel

from truesitter.core.colour.spaces import lab_to_srgb, srgb_to_hex
from truesitter.core.flesh import mix_colour
from truesitter.core.paint.cautions import cautions_for
from truesitter.core.paint.mixing import as_lab, lab_value
from truesitter.core.paint.palettes import STARTERS
from truesitter.core.paint.pigments import Lab, pigment_curves, pigment_library
from truesitter.core.paint.rounding import Recipe
from truesitter.core.paint.solver import Suggestion
from truesitter.core.settings import FleshSettings
from truesitter.web.bench import Bench, CurrentSitter, CurrentStudy
from truesitter.web.routes.sitters import SitterOut, sitter_out

router = APIRouter(tags=["flesh"])
_SPOT = 0.006
"""Half the side of the square read under a spot, as a fraction of the picture's width."""


class Tube(BaseModel):
    """A tube of the library; all numbers are typical values from memory."""

    key: str
    name: str
    ci_name: str
    family: str
    hex: str
    opacity: str
    lightfastness: str
    hazard: str
    substitute: str


class PaletteOut(BaseModel):
    """A starter palette."""

    key: str
    name: str
    tubes: list[str]
    transparent: bool


class Library(BaseModel):
    """All tubes and starter palettes."""

    tubes: list[Tube]
    palettes: list[PaletteOut]


class MixtureOut(BaseModel):
    """A mixture with the colours to show."""

    group: int | None
    share: float | None
    seen_hex: str
    target_hex: str
    predicted_hex: str
    on_screen: bool
    target_value: float
    seen_value: float
    parts: dict[str, int]
    film_mm: float | None
    delta_e: float
    value_error: float
    reached: bool
    suggested_tube: str | None
    suggested_delta_e: float | None


class FleshOut(BaseModel):
    """All mixtures of the skin, the palette's reach, and cautions for the tubes used."""

    mixtures: list[MixtureOut]
    darkest: float
    lightest: float
    skin_share: float
    cautions: list[str]


class SpotOut(BaseModel):
    """The mixture for one spot of the picture."""

    place: str
    region: str
    mixture: MixtureOut


def _hex(lab: Lab) -> str:
    return srgb_to_hex(lab_to_srgb(np.array(lab)))


def _mixture_out(
    seen: Lab, recipe: Recipe, suggestion: Suggestion | None, group: int | None = None,
    share: float | None = None,
) -> MixtureOut:  # fmt: skip
    return MixtureOut(
        group=group,
        share=share,
        seen_hex=_hex(seen),
        target_hex=_hex(recipe.target_lab),
        predicted_hex=recipe.predicted.hex,
        on_screen=recipe.predicted.on_screen,
        target_value=float(lab_value(np.array(recipe.target_lab))),
        seen_value=float(lab_value(np.array(seen))),
        parts=recipe.parts,
        film_mm=recipe.film_mm,
        delta_e=recipe.delta_e,
        value_error=recipe.value_error,
        reached=recipe.reached,
        suggested_tube=suggestion.tube if suggestion else None,
        suggested_delta_e=suggestion.delta_e if suggestion else None,
    )


@router.get("/api/library")
def library() -> Library:
    """Tubes and starter palettes."""
    curves = pigment_curves()
    return Library(
        tubes=[
            Tube(
                key=p.key, name=p.name, ci_name=p.ci_name, family=p.family,
                hex=curves[p.key].masstone_hex(), opacity=p.opacity, lightfastness=p.lightfastness,
                hazard=p.hazard, substitute=p.substitute,
            )
            for p in pigment_library().values()
        ],
        palettes=[
            PaletteOut(key=p.key, name=p.name, tubes=list(p.tubes), transparent=p.transparent)
            for p in STARTERS
        ],
    )  # fmt: skip


@router.get("/api/sitters/{sitter_id}/flesh")
def get_flesh(study: CurrentStudy) -> FleshOut:
    """Mixtures for the value groups of the skin."""
    flesh = study.flesh.mixed()
    out = [_mixture_out(m.seen_lab, m.recipe, m.suggestion, m.group, m.share) for m in flesh.mixtures]
    return FleshOut(
        mixtures=out,
        darkest=flesh.reach.darkest,
        lightest=flesh.reach.lightest,
        skin_share=study.sitter.regions().shares()["skin"],
        cautions=list(cautions_for(study.flesh.palette().tubes)),
    )


@router.put("/api/sitters/{sitter_id}/flesh")
def set_flesh(
    sitter: CurrentSitter, settings: FleshSettings, bench: Bench, change: str = "Palette"
) -> SitterOut:
    """Change the tubes or how values are fitted to them."""
    return sitter_out(bench.shelf.change(sitter.id, "flesh", settings, change), bench)


@router.get("/api/sitters/{sitter_id}/flesh/spot")
def spot(
    study: CurrentStudy,
    x: Annotated[float, Query(ge=0, le=1)],
    y: Annotated[float, Query(ge=0, le=1)],
) -> SpotOut:
    """The mixture for the colour at a spot, given in fractions of the framed picture."""
    lab = study.picture.lab()
    height, width = lab.shape[:2]
    half = max(1, round(_SPOT * width))
    column, row = min(width - 1, int(x * width)), min(height - 1, int(y * height))
    patch = lab[max(0, row - half) : row + half + 1, max(0, column - half) : column + half + 1]
    seen = patch.reshape(-1, 3).mean(axis=0, dtype=np.float64)
    flesh = study.settings.flesh
    recipe, suggestion = mix_colour(seen, study.flesh.palette(), flesh.most_tubes, flesh.clip)
    return SpotOut(
        place=study.sitter.place_at(x, y),
        region=study.sitter.region_at(x, y).name.lower().replace("_", " "),
        mixture=_mixture_out(as_lab(seen), recipe, suggestion),
    )
