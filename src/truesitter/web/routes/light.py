"""Light: where it comes from, what it does to the skin, and every light and dark accent."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, Field

from truesitter.core.light.report import Passage
from truesitter.core.settings.kinds import Spot
from truesitter.core.study.picture import WIDTH_MM
from truesitter.formats.light_files import light_pdf, light_svg
from truesitter.formats.plan_light import (
    FormName,
    PlanCeiling,
    PlanDirection,
    PlanHighlight,
    PlanRecess,
    ceiling_of,
    direction_of,
    highlights_of,
    recess_of,
)
from truesitter.web.answers import answered
from truesitter.web.bench import CountedAs, CurrentSitter, CurrentStudy, download
from truesitter.web.mixture import MixtureOut, hex_of, mixture_out

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["light"])
Flat = list[float]
"""x, y, x, y … in fractions of the picture."""


class FormOut(BaseModel):
    """One class of the skin, with its mixture."""

    name: FormName
    share: float
    value: float
    hex: str
    mixture: MixtureOut


class CastOut(BaseModel):
    """A cast shadow, and what casts it where that is plain."""

    caster: str | None
    share: float
    x: float
    y: float


class PassageOut(BaseModel):
    """How colour moves from light to shadow."""

    words: str
    sides: str


class FormReportOut(BaseModel):
    """The skin's form."""

    direction: PlanDirection | None
    key: tuple[float, float, float]
    classes: list[FormOut]
    passage: PassageOut | None
    casts: list[CastOut]
    terminator: list[Flat]
    shadow_below: float


class PeakOut(BaseModel):
    """A light peak and how light it may become."""

    place: str
    x: float
    y: float
    value: float
    prominence: float


class PeaksOut(BaseModel):
    """Peaks, what is usual, and the rays of the zones."""

    peaks: list[PeakOut]
    missing: list[str]
    extra: list[str]
    rays: list[Flat]
    ceilings: list[PlanCeiling]
    face_mm: float | None


class RecessesOut(BaseModel):
    """Recesses and their two coats."""

    recesses: list[PlanRecess]
    first: MixtureOut | None
    dark: MixtureOut | None


class PlaceColourOut(BaseModel):
    """A place that differs in colour."""

    place: str
    turn: Literal["redder", "yellower", "greyer", "stronger in colour"]
    by: float
    x: float
    y: float


class BorrowedOut(BaseModel):
    """Shadows that take their colour from a neighbour."""

    form: str
    neighbour: str


class ColourOut(BaseModel):
    """Where skin changes colour."""

    places: list[PlaceColourOut]
    borrowed: list[BorrowedOut]
    sides: str | None
    """The far side against the lit one."""


class EyePartOut(BaseModel):
    """A part of an eye; where it lies in the eye's own picture, in fractions."""

    name: str
    value: float | None
    x: float
    y: float


class CheckOut(BaseModel):
    """What painters check of an eye."""

    words: str
    holds: bool


class EyeOut(BaseModel):
    """One eye, in the order of painting."""

    side: Literal["left", "right"]
    parts: list[EyePartOut]
    checks: list[CheckOut]
    box: tuple[float, float, float, float]
    """Of its picture: left, top, right, bottom in fractions of the whole one."""


class LineIn(BaseModel):
    """A line over the picture."""

    points: tuple[Spot, ...] = Field(min_length=2, max_length=2000)


class StopOut(BaseModel):
    """A stop of a line of colour."""

    along: float
    x: float
    y: float
    mixture: MixtureOut


def _passage_out(found: Passage | None) -> PassageOut | None:
    return None if found is None else PassageOut(words=found.in_words(), sides=found.sides())


@router.get(
    "/light/form",
    dependencies=[
        answered(
            "light/form",
            ("light.key", "flesh.own", "flesh.medium", "flesh.drying"),
            ("form report", "form", "light direction", "detection"),
        )
    ],
)
def get_form(study: CurrentStudy) -> FormReportOut:
    """Where the light comes from and the skin in six classes."""
    report, flesh = study.accents.form(), study.settings.flesh
    return FormReportOut(
        direction=direction_of(study),
        key=study.light.key(),
        classes=[
            FormOut(
                name=c.form.spoken,
                share=c.share,
                value=c.value,
                hex=hex_of((float(c.lab[0]), float(c.lab[1]), float(c.lab[2]))),
                mixture=mixture_out(flesh, (float(c.lab[0]), float(c.lab[1]), float(c.lab[2])), recipe),
            )
            for c, recipe in report.classes
        ],
        passage=_passage_out(report.passage),
        casts=[CastOut(caster=c.caster, share=c.share, x=c.x, y=c.y) for c in report.casts],
        terminator=[[round(v, 4) for v in line.ravel().tolist()] for line in report.terminator],
        shadow_below=study.light.shadow_value(),
    )


@router.get(
    "/light/peaks",
    dependencies=[answered("light/peaks", (WIDTH_MM,), ("light", "ceilings", "detection", "framed"))],
)
def get_peaks(study: CurrentStudy) -> PeaksOut:
    """Light peaks, what is usual, and ceilings."""
    zones, face = study.light.zones(), study.sitter.face
    missing, extra = study.accents.usual()
    return PeaksOut(
        peaks=[
            PeakOut(place=p.place, x=p.x, y=p.y, value=p.value, prominence=p.prominence) for p in zones.peaks
        ],
        missing=list(missing),
        extra=list(extra),
        rays=[[round(v, 4) for v in (*r.start, *r.end)] for r in zones.rays],
        ceilings=[ceiling_of(c) for c in study.accents.ceilings()],
        face_mm=None if face is None else face.height(study.picture.shape) * study.picture.mm_per_px,
    )


@router.get(
    "/light/highlights",
    dependencies=[answered("light/highlights", ("flesh.medium",), ("highlights",))],
)
def get_highlights(study: CurrentStudy) -> list[PlanHighlight]:
    """Every highlight and what to do for it."""
    return highlights_of(study)


@router.get(
    "/light/recesses",
    dependencies=[
        answered(
            "light/recesses",
            (WIDTH_MM, "flesh.own", "flesh.medium", "flesh.drying"),
            ("recesses", "recess coats", "skin luminance"),
        )
    ],
)
def get_recesses(study: CurrentStudy) -> RecessesOut:
    """The narrow darks and their two coats."""
    coats, flesh = study.accents.recess_coats(), study.settings.flesh
    mixtures = [mixture_out(flesh, r.target_lab, r) for r in coats] if coats else [None, None]
    mm_per_px = study.accents.mm_per_px()
    return RecessesOut(
        recesses=[recess_of(r, mm_per_px) for r in study.light.recesses().recesses],
        first=mixtures[0],
        dark=mixtures[1],
    )


@router.get(
    "/light/colour",
    dependencies=[answered("light/colour", needs=("skin colour", "borrowed colour", "form report"))],
)
def get_colour(study: CurrentStudy) -> ColourOut:
    """Where the skin changes colour."""
    passage = study.accents.form().passage
    return ColourOut(
        places=[
            PlaceColourOut(place=p.place, turn=p.turn.spoken, by=p.by, x=p.x, y=p.y)
            for p in study.accents.colour().places
        ],
        borrowed=[BorrowedOut(form=b.form.spoken, neighbour=b.neighbour) for b in study.accents.borrowed()],
        sides=None if passage is None else passage.sides(),
    )


@router.get("/light/eyes", dependencies=[answered("light/eyes", needs=("eyes",))])
def get_eyes(study: CurrentStudy) -> list[EyeOut]:
    """Both eyes part by part; none without a face."""
    found = []
    for eye in study.accents.eyes():
        left, top, right, bottom = eye.box
        parts = [
            EyePartOut(
                name=p.name,
                value=p.value,
                x=(p.x - left) / (right - left),
                y=(p.y - top) / (bottom - top),
            )
            for p in eye.parts
        ]
        checks = [CheckOut(words=c.words, holds=c.holds) for c in eye.checks]
        found.append(EyeOut(side=eye.side, parts=parts, checks=checks, box=eye.box))
    return found


@router.post("/light/line")
def colour_line(study: CurrentStudy, line: LineIn) -> list[StopOut]:
    """The fewest colours that describe a line, each with its mixture."""
    flesh = study.settings.flesh
    return [
        StopOut(along=s.along, x=s.x, y=s.y, mixture=mixture_out(flesh, s.lab, recipe))
        for s, recipe in study.accents.mixed_line(np.array(line.points, dtype=np.float64))
    ]


@router.get("/files/light.svg", response_class=Response)
def light_drawing(study: CurrentStudy) -> Response:
    """Peaks, zones, rays, limits, terminator and recesses in canvas millimetres."""
    return download(light_svg(study), "image/svg+xml", "light.svg")


@router.get("/files/light.pdf", response_class=Response)
def light_sheet(
    study: CurrentStudy,
    sitter: CurrentSitter,
    counting: CountedAs,
    paper: Annotated[Literal["A4", "Letter"], Query()] = "A4",
) -> Response:
    """The light as a sheet to work from."""
    return download(light_pdf(study, sitter.name, paper, counting), "application/pdf", "light.pdf")
