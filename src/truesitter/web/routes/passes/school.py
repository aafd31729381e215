"""The school of a sitter as a file; its sittings, its kit, its book, and what keeps the white."""

from __future__ import annotations

from datetime import datetime, time, timedelta
from typing import Annotated, Literal

from fastapi import APIRouter, HTTPException, Query, Response
from pydantic import BaseModel

from truesitter.core.design.reserve import Means
from truesitter.core.plan.subject import Size
from truesitter.core.refusal import Refusal
from truesitter.core.stages import Study
from truesitter.formats.documents.calendar import sittings_ics
from truesitter.formats.documents.plan_brushes import MissingBrush, missing_brushes
from truesitter.formats.documents.plan_heaps import PlanPaletteHeap, heaps_of
from truesitter.formats.documents.plan_wash import reserves_of
from truesitter.formats.documents.school_files import school_json
from truesitter.formats.pictures.openraster import passes_ora, passes_zip
from truesitter.formats.print.book import book_pdf
from truesitter.formats.print.masks import masks_svg
from truesitter.web.http.answers import BenchRoute, answered
from truesitter.web.http.dependencies import CountedAs, CurrentSitter, CurrentStudy, download

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["passes"], route_class=BenchRoute)


@router.get("/files/school.json", response_class=Response)
def school_file(study: CurrentStudy) -> Response:
    """The school that is followed, as a file."""
    one = study.settings.passes.followed()
    return download(school_json(one), "application/json", f"{one.key}.json")


class BrushOut(BaseModel):
    """A brush or tool."""

    name: str
    mm: float | None
    """None for another tool."""
    passes: int


class KitTubeOut(BaseModel):
    """A tube and what is used of it."""

    key: str
    ml: float
    cm: float
    most_in_a_sitting_ml: float


class TimerOut(BaseModel):
    """A wait that is sat out."""

    name: str
    minutes: float


class ReserveOut(BaseModel):
    """How one light is kept."""

    place: str
    means: Means
    why: str
    size_mm: float
    pools: bool


class KitOut(BaseModel):
    """What has to lie ready."""

    brushes: list[BrushOut]
    uses: list[int]
    """Passes of each of the brushes that are there."""
    missing: list[MissingBrush]
    tubes: list[KitTubeOut]
    heaps: list[PlanPaletteHeap]
    keeps: str
    """How long a heap can be used."""
    thinner: str
    thinner_ml: float
    timers: list[TimerOut]
    stir: list[str]
    reserves: list[ReserveOut]
    preparing: list[str]
    clearing: list[str]


@router.get(
    "/kit",
    dependencies=[
        answered(
            "kit",
            ("values.names", "passes.school", "passes.own", "passes.support", "passes.brushes", "flesh.own"),
            ("passes", "paced passes", "sittings", "highlights"),
        )
    ],
)
def get_kit(study: CurrentStudy) -> KitOut:
    """Brushes, paint, thinner, timers, and how lights are kept."""
    refused = study.passes.refused()
    if refused:
        raise Refusal(refused)
    kit = study.passes.kit(study.settings.values.group_names())
    school, plan = study.settings.passes.followed(), study.passes.paced()
    return KitOut(
        brushes=[
            BrushOut(name=b.name, mm=b.brush.mm if b.brush else None, passes=b.passes) for b in kit.brushes
        ],
        uses=[sum(p.brush == b.brush() for p in plan.passes) for b in study.settings.passes.brushes],
        missing=missing_brushes(study),
        tubes=[KitTubeOut(**vars(t)) for t in kit.tubes],
        heaps=heaps_of(study),
        keeps=plan.medium.keeps,
        thinner=plan.thinner,
        thinner_ml=kit.thinner_ml,
        timers=[TimerOut(name=name, minutes=minutes) for name, minutes in kit.timers],
        stir=list(kit.stir),
        reserves=[ReserveOut(**vars(r)) for r in reserves_of(study)] if school.transparent else [],
        preparing=list(school.preparing),
        clearing=list(school.clearing),
    )


class SizeOut(BaseModel):
    """What a plan of one size comes to."""

    size: Size
    passes: int
    heaps: int
    brushes: int
    hours: float
    value_error: float
    """Mean distance of the last canvas from the reference, in value steps."""


@router.get("/passes/sizes", dependencies=[answered("sizes", (), ("plan sizes",))])
def get_sizes(study: CurrentStudy) -> list[SizeOut]:
    """Passes, heaps, brushes, hours and error of every size of the plan."""
    refused = study.passes.refused()
    if refused:
        raise Refusal(refused)
    return [
        SizeOut(
            size=size,
            passes=len(plan.passes),
            heaps=len(plan.heaps),
            brushes=len(plan.brushes),
            hours=plan.hours.likely,
            value_error=plan.passes[-1].value_error if plan.passes else 0.0,
        )
        for size, plan in study.passes.sizes().items()
    ]


def _titles(study: Study) -> tuple[str, ...]:
    names = study.settings.values.group_names()
    return tuple(p.title(names) for p in study.passes.plan().passes)


def _planned(study: Study) -> None:
    refused = study.passes.refused()
    if refused:
        raise HTTPException(404, refused)


@router.get("/files/sittings.ics", response_class=Response)
def sittings_file(
    study: CurrentStudy, sitter: CurrentSitter, start: Annotated[datetime | None, Query()] = None
) -> Response:
    """The sittings as a calendar, from a day and hour of the painter's choice, else from tomorrow at nine."""
    _planned(study)
    tomorrow = datetime.combine(datetime.now() + timedelta(days=1), time(9))
    begin = (start or tomorrow).replace(tzinfo=None)
    data = sittings_ics(
        study.passes.paced(), study.passes.sittings(), study.settings.values.group_names(), sitter.name,
        sitter.id, begin,
    )  # fmt: skip
    return download(data, "text/calendar; charset=utf-8", "sittings.ics")


@router.get("/files/book.pdf", response_class=Response)
def book_file(
    study: CurrentStudy, sitter: CurrentSitter, counting: CountedAs, paper: Literal["A4", "Letter"] = "A4"
) -> Response:
    """The book: a page a pass."""
    return download(book_pdf(study, sitter.name, paper, counting), "application/pdf", "book.pdf")


@router.get("/files/passes.ora", response_class=Response)
def ora_file(study: CurrentStudy) -> Response:
    """Every pass as a layer."""
    _planned(study)
    return download(passes_ora(study.passes.painted(), _titles(study)), "image/openraster", "passes.ora")


@router.get("/files/passes.zip", response_class=Response)
def pictures_file(study: CurrentStudy) -> Response:
    """The canvas after each pass as pictures."""
    _planned(study)
    return download(passes_zip(study.passes.painted(), _titles(study)), "application/zip", "passes.zip")


@router.get("/files/masks.svg", response_class=Response)
def masks_file(study: CurrentStudy) -> Response:
    """Lights to be masked, at true size."""
    reference = study.settings.reference
    canvas = (reference.canvas_width_mm, reference.canvas_height_mm)
    return download(masks_svg(study, canvas), "image/svg+xml", "masks.svg")
