"""Passes: the ordered plan, the canvas after each, and the sheet to print."""

from __future__ import annotations

from typing import Annotated, Literal
from urllib.parse import quote

from fastapi import APIRouter, HTTPException, Query, Request, Response
from pydantic import BaseModel, Field, TypeAdapter, ValidationError

from truesitter.core.canvas.taking_off import ToolName
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.refusal import Refusal
from truesitter.core.stages import Study
from truesitter.core.usecases.take_off import TakenOff, take_off
from truesitter.formats.documents.plan import plan_of
from truesitter.formats.documents.plan_heaps import PlanPaletteHeap, heaps_of
from truesitter.formats.documents.plan_passes import PlanPass, PlanTime, passes_of, plan_cautions, time_of
from truesitter.formats.pictures.png import encode_jpeg, encode_png, strip
from truesitter.formats.pictures.wash_pictures import charged_picture
from truesitter.formats.print.pdf import plan_pdf
from truesitter.formats.print.strokes import lines_svg, practice_pdf
from truesitter.formats.words.pass_words import taken_words
from truesitter.web.http.answers import BenchRoute, answered, picture_response
from truesitter.web.http.dependencies import CountedAs, CurrentSitter, CurrentStudy, download

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["passes"], route_class=BenchRoute)


class PassesOut(BaseModel):
    """Passes in order, with remarks and cautions."""

    key: str
    """Of the school: ticks hold on to it."""
    school: str
    about: str
    preparing: list[str]
    clearing: list[str]
    time: PlanTime | None
    heaps: list[PlanPaletteHeap]
    passes: list[PlanPass]
    remarks: list[str]
    cautions: list[str]


_Point = tuple[Annotated[float, Field(ge=0, le=1)], Annotated[float, Field(ge=0, le=1)]]
_POINTS: TypeAdapter[list[_Point]] = TypeAdapter(Annotated[list[_Point], Field(max_length=400)])


class TrialIn(BaseModel):
    """Where paint is taken off, with what and how hard."""

    number: int = Field(ge=1, le=1000)
    """Of the pass it comes after."""
    tool: ToolName
    pressure: float = Field(0.5, ge=0, le=1)
    dried: bool = False
    points: str = Field(max_length=20_000)
    """A JSON list of pairs x, y: one spot, or a line."""


@router.get(
    "/passes",
    dependencies=[
        answered(
            "passes",
            (
                "values.names",
                "values.groups",
                "flesh.transparent",
                "flesh.own",
                "passes.school",
                "passes.own",
                "regions.names",
            ),
            ("passes", "paced passes", "seams", "sittings"),
        )
    ],
)
def get_passes(study: CurrentStudy) -> PassesOut:
    """The passes of the chosen school."""
    if not study.passes.refused():
        study.passes.plan()
        # Whoever asks for the passes asks for the canvas after each of them next.
        study.source.ahead(study.passes.painted)
    passes, remarks = passes_of(study)
    school = study.settings.passes.followed()
    return PassesOut(
        key=study.settings.passes.school,
        school=school.name,
        about=school.about,
        preparing=list(school.preparing),
        clearing=list(school.clearing),
        time=time_of(study),
        heaps=heaps_of(study),
        passes=passes,
        remarks=remarks,
        cautions=list(plan_cautions(study, passes)),
    )


@router.get(
    "/passes/strip", dependencies=[answered("passes/strip", (), ("painted",))], response_class=Response
)
def canvases_small(study: CurrentStudy) -> Response:
    """The simulated canvas after every pass, small, in rows of eight: all of them in one answer."""
    if study.passes.refused():
        raise HTTPException(404, "There are no passes in this plan.")
    return Response(encode_jpeg(strip(study.passes.painted().frames()), 92), media_type="image/jpeg")


@router.get("/passes/canvas/{number}", response_class=Response)
def canvas_after(number: int, study: CurrentStudy, request: Request) -> Response:
    """The simulated canvas after pass `number`, counted from 1."""
    if study.passes.refused() or not 1 <= number <= len(study.passes.plan().passes):
        raise HTTPException(404, "There is no such pass in this plan.")

    def make() -> tuple[bytes, str]:
        picture = study.passes.painted().picture(number)
        return encode_png(picture), "image/png"

    return picture_response(request, f"canvas-{number}-{study.source.key('painted')}", make)


@router.get("/passes/without/{number}", response_class=Response)
def canvas_without(number: int, study: CurrentStudy, request: Request) -> Response:
    """The finished canvas had pass `number`, counted from 1, never been laid."""
    if study.passes.refused() or not 1 <= number <= len(study.passes.plan().passes):
        raise HTTPException(404, "There is no such pass in this plan.")

    def make() -> tuple[bytes, str]:
        last = len(study.passes.plan().passes)
        return encode_png(study.passes.without(number).picture(last)), "image/png"

    return picture_response(request, f"without-{number}-{study.source.key('painted without')}", make)


@router.get("/passes/charged/{number}", response_class=Response)
def canvas_charged(number: int, study: CurrentStudy, request: Request) -> Response:
    """The canvas after pass `number`, counted from 1, with the places that something is dropped into."""
    plan = None if study.passes.refused() else study.passes.plan()
    if plan is None or not 1 <= number <= len(plan.passes):
        raise HTTPException(404, "There is no such pass in this plan.")
    masks = tuple(plan.bare.patchwork.mask(charge.pieces) for charge in plan.passes[number - 1].charges)

    def make() -> tuple[bytes, str]:
        return encode_png(charged_picture(study.passes.painted().picture(number), masks)), "image/png"

    return picture_response(request, f"charged-{number}-{study.source.key('painted')}", make)


@router.get("/files/lines.svg", response_class=Response)
def lines_file(study: CurrentStudy) -> Response:
    """Every painted line with its widths."""
    return download(lines_svg(_planned(study), _canvas(study)), "image/svg+xml", "lines.svg")


@router.get("/files/practice.pdf", response_class=Response)
def practice_sheet(
    study: CurrentStudy, sitter: CurrentSitter, paper: Literal["A4", "Letter"] = "A4"
) -> Response:
    """The painted lines to draw over."""
    data = practice_pdf(_planned(study), _canvas(study), sitter.name, paper)
    return download(data, "application/pdf", "practice.pdf")


def _planned(study: Study) -> PassPlan:
    refused = study.passes.refused()
    if refused:
        raise HTTPException(404, refused)
    return study.passes.plan()


def _canvas(study: Study) -> tuple[float, float]:
    reference = study.settings.reference
    return reference.canvas_width_mm, reference.canvas_height_mm


class TakenOffOut(BaseModel):
    """What taking paint off comes to."""

    words: str
    share: float
    before: float
    after: float
    narrowed_mm: tuple[float, float] | None = Field(description="Width of a stroke that was narrowed")


@router.get(
    "/passes/taken", dependencies=[answered("passes/taken", ("passes.school",), ("painted", "seams"))]
)
def taken(study: CurrentStudy, query: Annotated[TrialIn, Query()]) -> TakenOffOut:
    """What comes back where paint is taken off after a pass; nothing is kept."""
    found = _trial(study, query)
    thin, said = found.relaid and found.relaid.width_mm, taken_words(found.share, query.pressure)
    if thin:
        said = "draw the bud along both sides of the stroke while it is wet"
    return TakenOffOut(
        words=f"{found.does.capitalize()}: {said}", share=found.share, before=found.before,
        after=found.after, narrowed_mm=thin,
    )  # fmt: skip


@router.get("/passes/taken.png", response_class=Response)
def taken_picture(study: CurrentStudy, request: Request, query: Annotated[TrialIn, Query()]) -> Response:
    """The canvas then."""
    key = f"{study.source.key('painted')}-{quote(query.model_dump_json())}"
    return picture_response(
        request, key, lambda: (encode_png(_trial(study, query).picture(study)), "image/png")
    )


def _trial(study: Study, query: TrialIn) -> TakenOff:
    try:
        points = _POINTS.validate_json(query.points)
    except ValidationError:
        raise Refusal("a place is given as pairs of x and y between 0 and 1") from None
    _planned(study)
    return take_off(study, query.number, query.tool, query.pressure, query.dried, tuple(points))


@router.get("/files/plan.pdf", response_class=Response)
def plan_sheet(
    study: CurrentStudy, sitter: CurrentSitter, counting: CountedAs, paper: Literal["A4", "Letter"] = "A4"
) -> Response:
    """The whole plan to print."""
    data = plan_pdf(study, plan_of(study, {}), sitter.name, paper, counting)
    return download(data, "application/pdf", "plan.pdf")


@router.get("/files/plan.json", response_class=Response)
def plan_data(study: CurrentStudy) -> Response:
    """The whole plan as data."""
    return download(plan_of(study, {}).model_dump_json(indent=1), "application/json", "plan.json")
