"""Working on from a photograph of the painting: planning again, sections, dabs, progress, habits, prints."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from typing import Annotated, Literal

import numpy as np
from fastapi import APIRouter, Query, Request, Response
from pydantic import BaseModel

from truesitter.core.canvas.painted import Painting, paint
from truesitter.core.easel.correct.painting_habits import Habit, Observed, find_habits
from truesitter.core.refusal import Refusal
from truesitter.core.usecases.habits_seen import observed_in
from truesitter.core.usecases.painted_again import plan_again
from truesitter.core.usecases.sections import Box, Order, needs_of, sections
from truesitter.formats.documents.plan_heaps import PlanMixPart, mix_of, mix_words
from truesitter.formats.documents.plan_passes import edge_of
from truesitter.formats.pictures.easel_pictures import EaselView, picture_of, squinted
from truesitter.formats.pictures.png import encode_jpeg, encode_png
from truesitter.formats.words.told import PlanHeap, heap_of
from truesitter.store.settings.sitter import Sitter
from truesitter.web.http.answers import BenchRoute, answered, picture_response
from truesitter.web.http.dependencies import Bench, CurrentSitter, CurrentStudy
from truesitter.web.routes.easel.easel import NEEDS, Key, painting_of

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["easel"], route_class=BenchRoute)
Fraction = Annotated[float, Query(ge=0, le=1)]
Paper = Literal["A4", "Letter"]


class LaidOut(BaseModel):
    """A pass in a line."""

    key: str
    name: str
    value: float
    hex: str
    parts: dict[str, int]
    minutes: float


class WayOut(BaseModel):
    """A way out."""

    kind: str
    minutes: float
    words: str


class BeyondOut(BaseModel):
    """A place out of reach."""

    place: str
    steps: float
    area_cm2: float
    ways: list[WayOut]


class AgainOut(BaseModel):
    """Old and new plan side by side."""

    laid: int
    old: list[LaidOut]
    new: list[LaidOut]
    dropped: list[str]
    beyond: list[BeyondOut]


@router.get(
    "/easel/again",
    dependencies=[answered("easel/again", ("easel", "flesh", "passes"), (*NEEDS, "paced passes"))],
)
def again(study: CurrentStudy, key: Key) -> AgainOut:
    """The passes that are left, planned on what is really on the canvas."""
    one = painting_of(study, key)
    found, names = plan_again(study, one), study.settings.values.group_names()
    old, new = (
        [
            LaidOut(
                key=p.key, name=p.title(names), value=p.recipe.predicted.value, hex=p.recipe.predicted.hex,
                parts=p.recipe.parts, minutes=p.work_minutes,
            )
            for p in passes
        ]
        for passes in (found.old, found.new)
    )  # fmt: skip
    return AgainOut(
        laid=one.after or 0, old=old, new=new, dropped=list(found.dropped),
        beyond=[
            BeyondOut(
                place=b.place, steps=b.steps, area_cm2=b.area_cm2,
                ways=[WayOut(kind=w.kind, minutes=w.minutes, words=w.words) for w in b.ways],
            )
            for b in found.beyond
        ],
    )  # fmt: skip


@router.get("/easel/again.png", response_class=Response)
def again_picture(study: CurrentStudy, key: Key, request: Request) -> Response:
    """The finished canvas by the new plan."""
    one = painting_of(study, key)

    def make() -> tuple[bytes, str]:
        plan = plan_again(study, one).plan
        done = (Painting(p.operations, p.into_wet) for p in plan.passes)
        painted = paint(study.passes.borders(), done, plan.support, plan.bare.rack)
        return encode_png(painted.picture(len(plan.passes))), "image/png"

    return picture_response(request, f"again-{one.fingerprint}-{study.source.key('plan again')}", make)


class ProgressOut(BaseModel):
    """How far off the painting was at one photograph."""

    painting: str
    taken_at: str
    after: int | None
    error: float


@router.get("/easel/progress", dependencies=[answered("easel/progress", ("easel", "flesh", "passes"), NEEDS)])
def progress(study: CurrentStudy) -> list[ProgressOut]:
    """Mean value error at each photograph, oldest first."""
    return [
        ProgressOut(painting=one.key, taken_at=p.taken_at, after=p.after, error=p.error)
        for one, p in study.easel.progress()
    ]


class HabitOut(BaseModel):
    """An error that keeps coming back."""

    place: str
    what: str
    mean: float
    error: float
    paintings: int
    words: str


class HabitsOut(BaseModel):
    """Habits over all paintings, and how many were looked at."""

    paintings: int
    habits: list[HabitOut]


LOOKED_AT = 24
"""Habits are those of the paintings photographed last; older ones were left behind [try]."""


def last_photographed(sitters: Sequence[Sitter], most: int = LOOKED_AT) -> list[Sitter]:
    """Those whose paintings were photographed last, the newest last."""
    with_any = [s for s in sitters if s.settings.easel.paintings]
    return sorted(with_any, key=lambda s: max(p.taken_at for p in s.settings.easel.paintings))[-most:]


def found_habits(bench: Bench) -> tuple[int, tuple[Habit, ...]]:
    """How many paintings were looked at, and what is wrong the same way in one after the other."""
    seen: list[Observed] = []
    paintings = 0
    for each in last_photographed(bench.repository.all()):
        study = bench.study(each)
        # What a comparison says of a painter is a few numbers: kept long after it is forgotten itself.
        taken = tuple(p.fingerprint for p in each.settings.easel.paintings)
        key = ("observed", each.id, study.source.key("comparison"), taken)
        observed = bench.memo.get(key, partial(observed_in, study, each.id))
        paintings += bool(observed)
        seen += observed
    return paintings, find_habits(tuple(seen))


@router.get("/easel/habits")
def habits(sitter: CurrentSitter, bench: Bench) -> HabitsOut:
    """What is wrong the same way in painting after painting, whoever sat for them."""
    del sitter
    paintings, found = found_habits(bench)
    return HabitsOut(
        paintings=paintings,
        habits=[
            HabitOut(
                place=h.place, what=h.what, mean=h.mean, error=h.error, paintings=h.paintings, words=h.words
            )
            for h in found
        ],
    )  # fmt: skip


class SectionOut(BaseModel):
    """One section of the painting."""

    key: str
    name: str
    x1: float
    y1: float
    x2: float
    y2: float
    value: float


class SectionPassOut(BaseModel):
    """A pass that covers some of a section."""

    number: int
    name: str
    part: float
    parts: dict[str, int]
    heap: PlanHeap | None
    mix: list[PlanMixPart]
    mix_words: str
    hex: str
    tool: str
    edge: str


class SectionCeilingOut(BaseModel):
    """A light in a section, and how light it may be."""

    place: str
    ceiling: float


class NeedsOut(BaseModel):
    """What a section takes."""

    passes: list[SectionPassOut]
    ceilings: list[SectionCeilingOut]
    edges: dict[str, float]


@router.get(
    "/easel/sections",
    dependencies=[
        answered(
            "easel/sections",
            ("reference.grid_rows", "reference.grid_columns", "passes.focus"),
            ("passes", "surround", "finish"),
        )
    ],
)
def all_sections(study: CurrentStudy, order: Order = "focus first") -> list[SectionOut]:
    """The fields of the grid in the order in which they are worked."""
    return [
        SectionOut(key=s.key, name=s.name, x1=s.box.x1, y1=s.box.y1, x2=s.box.x2, y2=s.box.y2, value=s.value)
        for s in sections(study, order)
    ]


@router.get(
    "/easel/section",
    dependencies=[answered("easel/section", ("values.names",), (*NEEDS, "paced passes", "seams"))],
)
def one_section(study: CurrentStudy, x1: Fraction, y1: Fraction, x2: Fraction, y2: Fraction) -> NeedsOut:
    """Mixtures, brushes, ceilings and edges of a rectangle of the painting."""
    needs, names = needs_of(study, _box(x1, y1, x2, y2)), study.settings.values.group_names()
    plan, rack, seams = study.passes.paced(), study.flesh.palette().rack, study.passes.seams()
    return NeedsOut(
        passes=[
            SectionPassOut(
                number=n, name=p.title(names), part=part, parts=p.recipe.parts, hex=p.recipe.predicted.hex,
                heap=heap_of(p.recipe.parts, rack), mix=(mix := mix_of(p, plan, rack)),
                mix_words=mix_words(mix),
                tool=p.tool, edge=edge_of(p, seams[n - 1]).words,
            )
            for n, p, part in needs.passes
        ],
        ceilings=[SectionCeilingOut(place=c.place, ceiling=c.ceiling) for c in needs.ceilings],
        edges=needs.edges,
    )  # fmt: skip


def _box(x1: float, y1: float, x2: float, y2: float) -> Box:
    box = Box(min(x1, x2), min(y1, y2), max(x1, x2), max(y1, y2))
    if min(box.x2 - box.x1, box.y2 - box.y1) < 0.01:
        raise Refusal("a section has a width and a height: draw it larger")
    return box


@router.get("/easel/section.jpg", response_class=Response)
def section_picture(
    study: CurrentStudy, request: Request, x1: Fraction, y1: Fraction, x2: Fraction, y2: Fraction,
    key: Annotated[str | None, Query(alias="painting", pattern="^[0-9a-f]{12}$")] = None,
    view: EaselView = "reference", squint: bool = False,
) -> Response:  # fmt: skip
    """A section of the reference, or of the painting."""
    box = _box(x1, y1, x2, y2)
    one = painting_of(study, key) if key else None

    def make() -> tuple[bytes, str]:
        whole = picture_of(study, one, view) if one else study.easel.template(None, "photograph")
        shown = squinted(whole) if squint else whole
        return encode_jpeg(np.ascontiguousarray(shown[box.slices(shown.shape)])), "image/jpeg"

    name = f"section-{x1}-{y1}-{x2}-{y2}-{view}-{squint}-{one.fingerprint if one else ''}"
    return picture_response(request, f"{name}-{study.source.key('comparison')}", make)
