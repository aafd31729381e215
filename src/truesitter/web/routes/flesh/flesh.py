"""Flesh: mixtures for groups, spots and strings, and how much of them."""

from __future__ import annotations

from typing import Literal

from fastapi import APIRouter, Response
from pydantic import BaseModel

from truesitter.core.graph.results import OWN_PACE
from truesitter.core.light.mirrored.polish import Polish
from truesitter.core.paint.tubes.cautions import cautions_for
from truesitter.core.stages.flesh_stage import DRYING
from truesitter.core.usecases.batch import BATCH, batch_of
from truesitter.formats.documents.tables import mixtures_csv
from truesitter.formats.print.mixing_sheet import mixing_pdf
from truesitter.formats.words.pace_words import pace_words
from truesitter.web.http.answers import BenchRoute, answered
from truesitter.web.http.dependencies import CountedAs, CurrentSitter, CurrentStudy, download
from truesitter.web.models.mixture import MixtureOut, mixture_out

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["flesh"], route_class=BenchRoute)


class FleshOut(BaseModel):
    """All mixtures of the skin, the palette's reach, and cautions for the tubes used."""

    mixtures: list[MixtureOut]
    darkest: float
    lightest: float
    skin_share: float
    cautions: list[str]


class ToneOut(BaseModel):
    """One tone of a string."""

    mixture: MixtureOut
    base: int
    added: dict[str, int]
    stepped_hex: str
    stepped_value: float


class SurfaceOut(BaseModel):
    """How cloth, metal or a wall carries the light."""

    darkest: float
    lightest: float
    hard: float
    """Share of its edges that are hard, 0–1."""
    polished: bool
    lights: str | None
    """What its lights take their colour from."""
    darks: str | None


def surface_out(polish: Polish | None) -> SurfaceOut | None:
    """A surface as the browser is told."""
    if polish is None:
        return None
    return SurfaceOut(
        darkest=polish.darkest, lightest=polish.lightest, hard=polish.hard, polished=polish.polished,
        lights=polish.lights, darks=polish.darks,
    )  # fmt: skip


class StringOut(BaseModel):
    """A string, lightest tone last; no tones where the family is missing or too small."""

    surface: SurfaceOut | None

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
    made_ml: float
    """More than `ml` where less could not be measured; of a wash the whole puddle."""
    thinner_ml: float
    """Water in that."""


class BatchTubeOut(BaseModel):
    """How much of one tube."""

    tube: str
    ml: float
    cm: float


class BatchOut(BaseModel):
    """The batch for a sitting."""

    lines: list[BatchLineOut]
    tubes: list[BatchTubeOut]
    pace: str
    """What was learned of the painter's own use of paint; empty for nothing."""


@router.get(
    "/flesh",
    dependencies=[answered("flesh", ("flesh.tubes", "flesh.own", *DRYING), ("flesh", "regions"))],
)
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


@router.get(
    "/flesh/board",
    dependencies=[
        answered(
            "flesh/board",
            (*DRYING, "flesh.own", "flesh.pins"),
            ("string", "colour families", "pins", "polish"),
        )
    ],
)
def board(study: CurrentStudy) -> BoardOut:
    """Strings of every family, and the pinned mixtures."""
    flesh = study.settings.flesh
    pins = zip(flesh.pins, study.flesh.pinned(), strict=True)
    return BoardOut(
        strings=[
            StringOut(
                family=family,
                surface=surface_out(study.flesh.polish(family)),
                tones=[
                    ToneOut(
                        mixture=mixture_out(flesh, t.seen_lab, t.recipe), base=t.base, added=t.added,
                        stepped_hex=t.stepped.hex, stepped_value=t.stepped.value,
                    )
                    for t in study.flesh.string(family)
                ],
            )
            for family in study.flesh.families()
        ],
        pins=[
            PinOut(name=name, locked=pin.locked, mixture=mixture_out(flesh, recipe.target_lab, recipe))
            for pin, (name, recipe) in pins
        ],
    )  # fmt: skip


@router.get(
    "/flesh/batch",
    dependencies=[
        answered(
            "flesh/batch",
            (*BATCH, "values.names", "values.groups"),
            ("flesh", "string", "colour families", "regions", "lab", OWN_PACE),
        )
    ],
)
def batch(study: CurrentStudy) -> BatchOut:
    """How much to mix for a sitting."""
    reckoned = batch_of(study)
    strands = reckoned.tubes_cm()
    return BatchOut(
        lines=[
            BatchLineOut(
                family=line.family, name=line.name, parts=line.parts, area_cm2=line.area_cm2, ml=line.ml,
                made_ml=line.made_ml, thinner_ml=line.thinner_ml,
            )
            for line in reckoned.lines
        ],
        tubes=[
            BatchTubeOut(tube=key, ml=ml, cm=strands[key])
            for key, ml in reckoned.tubes_ml.items()
        ],
        pace=pace_words(reckoned.paint, "You take", "You take the usual amount of paint"),
    )  # fmt: skip


@router.get("/files/mixtures.pdf", response_class=Response)
def mixing_sheet(
    study: CurrentStudy, sitter: CurrentSitter, counting: CountedAs, paper: Literal["A4", "Letter"] = "A4"
) -> Response:
    """Swatches and parts of the whole palette board, to print."""
    return download(mixing_pdf(study, sitter.name, paper, counting), "application/pdf", "mixtures.pdf")


@router.get("/files/mixtures.csv", response_class=Response)
def mixing_table(study: CurrentStudy) -> Response:
    """The palette board as a table."""
    return download(mixtures_csv(study), "text/csv; charset=utf-8", "mixtures.csv")
