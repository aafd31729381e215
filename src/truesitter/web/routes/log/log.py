"""The log of one picture: what happened, the sitting that goes on, what dries, what can be painted now."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Annotated

from fastapi import APIRouter, HTTPException
from pydantic import AwareDatetime, BaseModel, Field

from truesitter.core.log.drying_clocks import Clock, clocks_of
from truesitter.core.log.entry import Entry
from truesitter.core.log.events import Happening, NextTime, Settled, Used, Work
from truesitter.core.log.log_document import as_utc
from truesitter.core.log.possible import possible_now
from truesitter.core.log.sittings import Sitting, progress_of, sittings_of
from truesitter.core.log.works import work_of
from truesitter.core.refusal import Refusal
from truesitter.formats.words.wording import parts_sentence
from truesitter.store.rows.clock import now
from truesitter.web.http.answers import BenchRoute, WritingRoute, answered
from truesitter.web.http.dependencies import Bench, By, CurrentSitter, CurrentStudy
from truesitter.web.routes.easel.easel import NEEDS

router = APIRouter(prefix="/api/sitters/{sitter_id}/log", tags=["log"], route_class=WritingRoute)
planned = APIRouter(prefix="/api/sitters/{sitter_id}/log", tags=["log"], route_class=BenchRoute)
"""Routes that need the plan."""


class HappenedIn(BaseModel):
    """Something to write down."""

    what: Happening
    at: AwareDatetime | None = None
    """When it happened; now when left out."""


class EntryOut(BaseModel):
    """An entry; times are UTC."""

    id: str
    sitter: str
    at: datetime
    what: Happening
    painter: str
    struck_at: datetime | None


class IntervalOut(BaseModel):
    """Work on one thing."""

    work: Work | None
    minutes: float
    done: float | None


class SittingOut(BaseModel):
    """One sitting; times are UTC."""

    id: str
    sitter: str
    painter: str
    began: datetime
    ended: datetime | None
    paused: bool
    minutes: float
    intervals: list[IntervalOut]
    temperature: float | None
    humidity: float | None
    used: list[Used]
    notes: list[str]


class ClockOut(BaseModel):
    """Something that dries; times are UTC."""

    sitter: str
    key: str
    name: str
    laid_at: datetime
    dry_at: datetime


class AheadOut(BaseModel):
    """Something to do next time."""

    entry: str
    words: str
    at: datetime


class LogOut(BaseModel):
    """Everything that was written down of a picture."""

    entries: list[EntryOut]
    sittings: list[SittingOut]
    minutes: float
    open: SittingOut | None = Field(description="The sitting that goes on; of whoever asks")
    clocks: list[ClockOut] = Field(description="What is not dry yet")
    ahead: list[AheadOut]
    progress: dict[str, float] = Field(description="How much of each pass is done, by its key")


class PossibleOut(BaseModel):
    """What may be painted next."""

    number: int | None = Field(description="Of the pass, from 1; none when all are done")
    name: str
    since: datetime
    now: bool
    minutes: float = Field(description="Of work that are left of it")
    waits_for: list[str]
    left: int = Field(description="Passes that are not done")


def utc(at: datetime) -> datetime:
    """A moment as the browser reads it: with its zone."""
    return at.replace(tzinfo=UTC)


def entry_out(entry: Entry) -> EntryOut:
    """An entry, to be shown."""
    struck = None if entry.struck_at is None else utc(entry.struck_at)
    return EntryOut(
        id=entry.id, sitter=entry.sitter, at=utc(entry.at), what=entry.what, painter=entry.painter,
        struck_at=struck,
    )  # fmt: skip


def sitting_out(sitting: Sitting) -> SittingOut:
    """A sitting, to be shown."""
    return SittingOut(
        id=sitting.id, sitter=sitting.sitter, painter=sitting.painter, began=utc(sitting.began),
        ended=None if sitting.ended is None else utc(sitting.ended), paused=sitting.paused,
        minutes=sitting.minutes,
        intervals=[IntervalOut(work=b.work, minutes=b.minutes, done=b.done) for b in sitting.intervals],
        temperature=sitting.air[0] if sitting.air else None,
        humidity=sitting.air[1] if sitting.air else None,
        used=list(sitting.used), notes=list(sitting.notes),
    )  # fmt: skip


def clock_out(clock: Clock) -> ClockOut:
    """A clock, to be shown."""
    return ClockOut(
        sitter=clock.sitter, key=clock.key, name=clock.name, laid_at=utc(clock.laid_at),
        dry_at=utc(clock.dry_at),
    )  # fmt: skip


@router.get("")
def get_log(sitter: CurrentSitter, bench: Bench, by: By) -> LogOut:
    """What was written down, newest last."""
    moment = now()
    entries = bench.repository.log.of(sitter.id)
    sittings = sittings_of(entries, moment)
    settled = {e.what.entry for e in entries if e.stands and isinstance(e.what, Settled)}
    going = next((s for s in sittings if s.ended is None and s.painter == by), None)
    school = sitter.settings.passes.school
    return LogOut(
        entries=[entry_out(e) for e in entries],
        sittings=[sitting_out(s) for s in sittings],
        minutes=sum(s.minutes for s in sittings),
        open=sitting_out(going) if going else None,
        clocks=[clock_out(c) for c in clocks_of(sittings) if c.dry_at > moment],
        ahead=[
            AheadOut(entry=e.id, words=e.what.words, at=utc(e.at))
            for e in entries
            if e.stands and isinstance(e.what, NextTime) and e.id not in settled
        ],
        progress={key: share for (of, key), share in progress_of(sittings).items() if of == school},
    )


@router.post("", status_code=201)
def write_down(sitter_id: str, happened: HappenedIn, bench: Bench, by: By) -> EntryOut:
    """Write down that something happened."""
    at = None if happened.at is None else as_utc(happened.at)
    return entry_out(bench.repository.log.add(happened.what, sitter_id, at, by))


@router.delete("/entries/{entry}", status_code=204)
def strike_out(sitter_id: str, entry: Annotated[str, Field(max_length=64)], bench: Bench) -> None:
    """Strike an entry out; it stays visible."""
    bench.repository.get(sitter_id)
    bench.repository.log.strike(entry, sitter_id)


@planned.get(
    "/works",
    dependencies=[
        answered(
            "log/works",
            (
                "values.names",
                "values.groups",
                "flesh.transparent",
                "flesh.own",
                "passes.school",
                "passes.own",
            ),
            ("passes",),
        )
    ],
)
def works(study: CurrentStudy) -> list[Work]:
    """The passes of the plan, as they are written down when they are worked on."""
    if study.passes.refused():
        return []
    names, rack = study.settings.values.group_names(), study.flesh.palette().rack
    school = study.settings.passes.school
    return [
        work_of(p, school, names, parts_sentence(p.recipe.parts, rack) if p.recipe.parts else "")
        for p in study.passes.plan().passes
    ]


class FiguresOut(BaseModel):
    """What the newest photograph of a painting says of it."""

    taken_at: str | None = Field(description="None when there is no photograph that can be read")
    darkest: float | None = Field(description="Value that a fiftieth of the painting lies below")
    lightest: float | None = Field(description="Likewise above")
    findings: int | None
    worst: str


@planned.get(
    "/figures", dependencies=[answered("log/figures", ("easel", "flesh", "passes", "values.names"), NEEDS)]
)
def figures(study: CurrentStudy) -> FiguresOut:
    """Value range of the painting, and what was still off at its newest photograph."""
    for one in reversed(study.easel.in_order()):
        try:
            found = study.easel.compared(one)
        except Refusal:
            # One that cannot be read: the photograph before it may be.
            continue
        whole = found.whole
        return FiguresOut(
            taken_at=one.taken_at, darkest=whole.darkest[0], lightest=whole.lightest[0],
            findings=len(found.findings),
            worst=found.findings[0].words if found.findings else "",
        )  # fmt: skip
    return FiguresOut(taken_at=None, darkest=None, lightest=None, findings=None, worst="")


@planned.get("/possible")
def possible(study: CurrentStudy, sitter: CurrentSitter, bench: Bench) -> PossibleOut:
    """What can be painted now, or when something can be."""
    refused = study.passes.refused()
    if refused:
        raise HTTPException(404, refused)
    moment = now()
    sittings = sittings_of(bench.repository.log.of(sitter.id), moment)
    school = sitter.settings.passes.school
    done = [
        f.document["pass"]
        for f in bench.repository.facts.all(sitter.id, "pass done")
        if f.document["school"] == school
    ]
    passes, names = study.passes.paced().passes, study.settings.values.group_names()
    found = possible_now(passes, school, done, progress_of(sittings), clocks_of(sittings), moment)
    return PossibleOut(
        number=found.number,
        name=passes[found.number - 1].title(names) if found.number else "",
        since=utc(found.since),
        now=found.number is not None and found.since <= moment,
        minutes=found.minutes,
        waits_for=[passes[n - 1].title(names) for n in found.waits_for],
        left=found.left,
    )
