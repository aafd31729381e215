"""Flesh: tubes, palettes, mixtures, and the mixture for a spot."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from fastapi import APIRouter, Query, Response
from pydantic import BaseModel

from truesitter.core.colour.spaces import lab_to_srgb, srgb_to_hex
from truesitter.core.flesh_settings import FleshSettings
from truesitter.core.paint.cautions import PROCESSES, cautions_for, off_by_default, safe_substitute
from truesitter.core.paint.mixing import as_lab, lab_value
from truesitter.core.paint.nudges import DIRECTIONS, nudge
from truesitter.core.paint.palettes import STARTERS, Palette
from truesitter.core.paint.pigments import Lab, pigment_curves, pigment_library
from truesitter.core.paint.rounding import Recipe
from truesitter.core.paint.solver import Suggestion
from truesitter.core.study.flesh import FAMILIES
from truesitter.formats.mixing_sheet import mixing_pdf
from truesitter.formats.tables import mixtures_csv
from truesitter.formats.wording import judgement
from truesitter.web.bench import Bench, CurrentSitter, CurrentStudy, download
from truesitter.web.routes.sitters import SitterOut, sitter_out

router = APIRouter(tags=["flesh"])
Part = Annotated[float, Query(ge=0, le=1)]


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
    off_because: str
    """Why it is not offered unless asked for; empty when it is."""


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
    process_cautions: dict[str, str]


class HeapOut(BaseModel):
    """A strong tube let down before it is counted out."""

    parts: dict[str, int]
    """Parts to count out; those of `tube` are of the heap."""
    tube: str
    sentence: str


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
    heap: HeapOut | None
    film_mm: float | None
    delta_e: float
    value_error: float
    judgement: str
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


class NudgeOut(BaseModel):
    """The smallest addition that moves a mixture one way."""

    direction: str
    tube: str
    pile: int
    predicted_hex: str
    moved: float
    side_effects: str


class SpotOut(BaseModel):
    """The mixtures for one spot or rectangle of the picture, the best first, and nudges of the best."""

    place: str
    region: str
    seen_lab: Lab
    target_lab: Lab
    mixture: MixtureOut
    alternatives: list[MixtureOut]
    nudges: list[NudgeOut]


class ToneOut(BaseModel):
    """One tone of a string."""

    mixture: MixtureOut
    base: int
    added: dict[str, int]
    stepped_hex: str
    stepped_value: float


class StringOut(BaseModel):
    """A string, lightest tone last; no tones where the family is missing or too small."""

    family: str
    tones: list[ToneOut]


class PinOut(BaseModel):
    """A pinned mixture."""

    name: str
    locked: bool
    mixture: MixtureOut


class BoardOut(BaseModel):
    """The palette board."""

    strings: list[StringOut]
    pins: list[PinOut]


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
        judgement=judgement(recipe.target_lab, recipe.predicted.lab, recipe.value_error),
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
                hazard=p.hazard, substitute=safe_substitute(p.key),
                off_because=off_by_default(p.hazard),
            )
            for p in pigment_library().values()
        ],
        palettes=[
            PaletteOut(key=p.key, name=p.name, tubes=list(p.tubes), transparent=p.transparent)
            for p in STARTERS
        ],
        process_cautions=PROCESSES,
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
        cautions=list(cautions_for(study.flesh.palette().tubes, study.flesh.palette().rack)),
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
    x: Part,
    y: Part,
    x2: Annotated[float | None, Query(ge=0, le=1)] = None,
    y2: Annotated[float | None, Query(ge=0, le=1)] = None,
) -> SpotOut:
    """Mixtures for the colour of a spot, or of the rectangle to a second one."""
    end = (x2, y2) if x2 is not None and y2 is not None else None
    seen = study.flesh.colour_at((x, y), end)
    middle = ((x + end[0]) / 2, (y + end[1]) / 2) if end else (x, y)
    (recipe, *rivals), suggestion = study.flesh.mix(seen)
    return SpotOut(
        place=study.sitter.place_at(*middle),
        region=study.sitter.region_at(*middle).name.lower().replace("_", " "),
        seen_lab=as_lab(seen),
        target_lab=recipe.target_lab,
        mixture=_mixture_out(as_lab(seen), recipe, suggestion),
        alternatives=[_mixture_out(as_lab(seen), r, None) for r in rivals],
        nudges=_nudges(recipe, study.flesh.palette()),
    )


def _nudges(recipe: Recipe, palette: Palette) -> list[NudgeOut]:
    if palette.transparent:
        return []
    found = [nudge(recipe.parts, palette, direction) for direction in DIRECTIONS]
    return [
        NudgeOut(
            direction=n.direction, tube=n.tube, pile=n.pile, predicted_hex=n.predicted.hex, moved=n.moved,
            side_effects=n.side_effects,
        )
        for n in found
        if n is not None
    ]  # fmt: skip


@router.get("/api/sitters/{sitter_id}/flesh/board")
def board(study: CurrentStudy) -> BoardOut:
    """Strings of every family, and the pinned mixtures."""
    pins = zip(study.settings.flesh.pins, study.flesh.pinned(), strict=True)
    return BoardOut(
        strings=[
            StringOut(
                family=family,
                tones=[
                    ToneOut(
                        mixture=_mixture_out(t.seen_lab, t.recipe, None), base=t.base, added=t.added,
                        stepped_hex=t.stepped.hex, stepped_value=t.stepped.value,
                    )
                    for t in study.flesh.string(family)
                ],
            )
            for family in FAMILIES
        ],
        pins=[
            PinOut(name=name, locked=pin.locked, mixture=_mixture_out(recipe.target_lab, recipe, None))
            for pin, (name, recipe) in pins
        ],
    )  # fmt: skip


@router.get("/api/sitters/{sitter_id}/files/mixtures.pdf", response_class=Response)
def mixing_sheet(
    study: CurrentStudy, sitter: CurrentSitter, paper: Literal["A4", "Letter"] = "A4"
) -> Response:
    """Swatches and parts of the whole palette board, to print."""
    return download(mixing_pdf(study, sitter.name, paper), "application/pdf", "mixtures.pdf")


@router.get("/api/sitters/{sitter_id}/files/mixtures.csv", response_class=Response)
def mixing_table(study: CurrentStudy) -> Response:
    """The palette board as a table."""
    return download(mixtures_csv(study), "text/csv; charset=utf-8", "mixtures.csv")
