"""Light: where it comes from, what it does to the skin, and every light and dark accent."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from fastapi import APIRouter, Query, Response

from truesitter.core.light.light_report import Passage
from truesitter.core.stages.flesh_stage import MIXING
from truesitter.core.stages.picture_stage import WIDTH_MM
from truesitter.formats.documents.plan_light import (
    PlanHighlight,
    ceiling_of,
    direction_of,
    highlights_of,
    recess_of,
)
from truesitter.formats.pictures.views import SOLID_VIEWS
from truesitter.formats.print.light_files import light_pdf, light_svg
from truesitter.web.http.answers import BenchRoute, answered
from truesitter.web.http.dependencies import CountedAs, CurrentSitter, CurrentStudy, download
from truesitter.web.models.light_answers import (
    BorrowedOut,
    CastOut,
    CheckOut,
    ColourOut,
    EyeOut,
    EyePartOut,
    FormOut,
    FormReportOut,
    LineIn,
    MetalOut,
    MetalToneOut,
    PassageOut,
    PeakOut,
    PeaksOut,
    PlaceColourOut,
    RecessesOut,
    SideOut,
    SolidOut,
    StopOut,
    WhiteOut,
)
from truesitter.web.models.mixture import hex_of, mixture_out

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["light"], route_class=BenchRoute)


def _passage_out(found: Passage | None) -> PassageOut | None:
    return None if found is None else PassageOut(words=found.in_words(), sides=found.sides())


@router.get(
    "/light/form",
    dependencies=[
        answered(
            "light/form",
            ("light.key", *MIXING, "flesh.drying"),
            ("form report", "form", "sides", "light direction", "detection", "metals"),
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
        sides=[
            SideOut(
                region=s.region.spoken,
                lit_share=s.lit_share,
                lit_value=s.lit_value,
                shadow_value=s.shadow_value,
            )
            for s in study.light.sides().parts
        ],
        solids=[
            SolidOut(part=s.part, view=SOLID_VIEWS[s.solid], x=s.x, y=s.y, shadow=s.shadow, words=s.words)
            for s in study.light.solids()
        ],
        metals=[
            MetalOut(
                place=name,
                words=metal.words(name),
                tones=[
                    MetalToneOut(
                        name=tone.part.spoken,
                        share=tone.share,
                        mixture=mixture_out(flesh, tone.lab, study.flesh.mix(np.array(tone.lab), 1)[0][0]),
                    )
                    for tone in metal.tones
                ],
            )
            for name, metal in study.flesh.metals()
        ],
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
    dependencies=[
        answered(
            "light/colour",
            ("flesh.own", "flesh.medium", "flesh.drying"),
            ("skin colour", "borrowed colour", "form report", "whites"),
        )
    ],
)
def get_colour(study: CurrentStudy) -> ColourOut:
    """Where the skin changes colour."""
    passage = study.accents.form().passage
    return ColourOut(
        places=[
            PlaceColourOut(place=p.place, turn=p.turn.spoken, by=p.by, x=p.x, y=p.y)
            for p in study.accents.colour().places
        ],
        borrowed=[BorrowedOut(shadow=b.shadow, neighbour=b.neighbour) for b in study.accents.borrowed()],
        whites=[
            WhiteOut(
                place=w.place, x=w.x, y=w.y, words=w.words,
                mixture=mixture_out(study.settings.flesh, w.lab, recipe),
            )
            for w, recipe in study.accents.whites()
        ],
        sides=None if passage is None else passage.sides(),
    )  # fmt: skip


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
        StopOut(
            along=s.along,
            x=s.x,
            y=s.y,
            mixture=mixture_out(flesh, s.lab, tone.recipe),
            base=tone.base,
            added=tone.added,
        )
        for s, tone in study.accents.mixed_line(np.array(line.points, dtype=np.float64))
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
