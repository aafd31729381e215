"""Flesh: mixtures for groups, spots and strings, and how much of them."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel

from truesitter.core.flesh_settings import FleshSettings
from truesitter.core.paint.cautions import cautions_for
from truesitter.core.paint.films import hiding
from truesitter.core.paint.mixing import as_lab
from truesitter.core.paint.nudges import DIRECTIONS, nudge
from truesitter.core.paint.palettes import Palette
from truesitter.core.paint.pigments import Lab
from truesitter.core.paint.rounding import Recipe
from truesitter.core.study.batch import batch_of
from truesitter.core.study.flesh import FAMILIES
from truesitter.formats.mixing_sheet import mixing_pdf
from truesitter.formats.tables import mixtures_csv
from truesitter.web.bench import Bench, CurrentSitter, CurrentStudy, download
from truesitter.web.mixture import MixtureOut, mixture_out
from truesitter.web.routes.sitters import SitterOut, sitter_out

router = APIRouter(tags=["flesh"])
Part = Annotated[float, Query(ge=0, le=1)]


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


class MadeOut(BaseModel):
    """What the best mixture is, in numbers."""

    lab: Lab
    chroma: float
    hue: float
    hiding: float | None
    """Part of black and white that one coat hides, 0–1; None for a wash."""
    film_mm: float


class SpotOut(BaseModel):
    """The mixtures for one spot or rectangle of the picture, the best first, and nudges of the best."""

    place: str
    region: str
    seen_lab: Lab
    target_lab: Lab
    mixture: MixtureOut
    made: MadeOut
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


class BatchLineOut(BaseModel):
    """How much of one mixture."""

    family: str
    name: str
    parts: dict[str, int]
    area_cm2: float
    ml: float


class BatchTubeOut(BaseModel):
    """How much of one tube, and what the rack says is left of it."""

    tube: str
    ml: float
    cm: float
    left_ml: float | None


class BatchOut(BaseModel):
    """The batch for a sitting."""

    lines: list[BatchLineOut]
    tubes: list[BatchTubeOut]


@router.get("/api/sitters/{sitter_id}/flesh")
def get_flesh(study: CurrentStudy) -> FleshOut:
    """Mixtures for the value groups of the skin."""
    mixed, flesh = study.flesh.mixed(), study.settings.flesh
    return FleshOut(
        mixtures=[
            mixture_out(flesh, m.seen_lab, m.recipe, m.suggestion, m.group, m.share) for m in mixed.mixtures
        ],
        darkest=mixed.reach.darkest,
        lightest=mixed.reach.lightest,
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
    what: Literal["spot", "shape", "group"] = "spot",
) -> SpotOut:
    """Mixtures for a spot, the rectangle to a second one, or the value shape or group it lies in."""
    end = (x2, y2) if x2 is not None and y2 is not None else None
    place = ""
    if what == "spot":
        seen = study.flesh.colour_at((x, y), end)
    elif what == "shape":
        number, seen = study.flesh.colour_of_shape((x, y))
        place = f"shape {number + 1}, "
    else:
        group, seen = study.flesh.colour_of_group((x, y))
        place = f"{study.values.settings.group_names()[group]}, everywhere; at "
    middle = ((x + end[0]) / 2, (y + end[1]) / 2) if end else (x, y)
    (recipe, *rivals), suggestion = study.flesh.mix(seen)
    flesh = study.settings.flesh
    return SpotOut(
        place=place + study.sitter.place_at(*middle),
        region=study.sitter.region_at(*middle).name.lower().replace("_", " "),
        seen_lab=as_lab(seen),
        target_lab=recipe.target_lab,
        mixture=mixture_out(flesh, as_lab(seen), recipe, suggestion),
        made=_made(recipe, flesh),
        alternatives=[mixture_out(flesh, as_lab(seen), r) for r in rivals],
        nudges=_nudges(recipe, study.flesh.palette()),
    )


def _made(recipe: Recipe, flesh: FleshSettings) -> MadeOut:
    colour, washed = recipe.predicted, recipe.film_mm is not None
    return MadeOut(
        lab=colour.lab,
        chroma=colour.chroma,
        hue=colour.hue,
        hiding=None if washed else hiding(recipe.parts, flesh.film_mm, flesh.rack()),
        film_mm=flesh.film_mm,
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
    flesh = study.settings.flesh
    pins = zip(flesh.pins, study.flesh.pinned(), strict=True)
    return BoardOut(
        strings=[
            StringOut(
                family=family,
                tones=[
                    ToneOut(
                        mixture=mixture_out(flesh, t.seen_lab, t.recipe), base=t.base, added=t.added,
                        stepped_hex=t.stepped.hex, stepped_value=t.stepped.value,
                    )
                    for t in study.flesh.string(family)
                ],
            )
            for family in FAMILIES
        ],
        pins=[
            PinOut(name=name, locked=pin.locked, mixture=mixture_out(flesh, recipe.target_lab, recipe))
            for pin, (name, recipe) in pins
        ],
    )  # fmt: skip


@router.get("/api/sitters/{sitter_id}/flesh/batch")
def batch(study: CurrentStudy, bench: Bench) -> BatchOut:
    """How much to mix for a sitting, and whether the rack holds enough."""
    reckoned = batch_of(study)
    left = {kept.tube.key: 0.0 if kept.empty else kept.amount_ml for kept in bench.shelf.tubes.all()}
    strands = reckoned.tubes_cm()
    return BatchOut(
        lines=[
            BatchLineOut(
                family=line.family, name=line.name, parts=line.parts, area_cm2=line.area_cm2, ml=line.ml,
            )
            for line in reckoned.lines
        ],
        tubes=[
            BatchTubeOut(tube=key, ml=ml, cm=strands[key], left_ml=left.get(key))
            for key, ml in reckoned.tubes_ml.items()
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
