"""The log across all pictures: search, the month, what dries, own pace, trials, paintings side by side."""

from __future__ import annotations

from collections import defaultdict
from datetime import date, datetime, timedelta
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from truesitter.core.log.days import days_of, zone_of
from truesitter.core.log.drying_clocks import clocks_of
from truesitter.core.log.entry import Entry
from truesitter.core.log.events import QUALITIES, Judged, Tried
from truesitter.core.log.log_document import as_utc
from truesitter.core.log.logged_swatches import swatches_of
from truesitter.core.log.search import found_in
from truesitter.core.log.sittings import progress_of, sittings_of
from truesitter.core.pace.own_pace import Learned, Level, OwnPace
from truesitter.core.pace.tuning import FEWEST_SITTINGS
from truesitter.formats.words.pace_words import level_words
from truesitter.store.rows.clock import now
from truesitter.store.settings.facts import Fact
from truesitter.web.http.answers import WritingRoute
from truesitter.web.http.dependencies import Bench, By
from truesitter.web.routes.log.log import (
    ClockOut,
    EntryOut,
    HappenedIn,
    SittingOut,
    clock_out,
    entry_out,
    sitting_out,
)

router = APIRouter(prefix="/api/log", tags=["log"], route_class=WritingRoute)
_Day = Annotated[date, Query(ge=date(1990, 1, 1), le=date(9000, 1, 1))]
_Text = Annotated[str, Query(max_length=200)]


class BookOut(BaseModel):
    """What was found in all logs."""

    names: dict[str, str] = Field(description="Of the sitters, by key")
    entries: list[EntryOut] = Field(description="Newest first")
    found: int = Field(description="How many there are; no more than asked for are listed")


class ShelfLogOut(BaseModel):
    """What goes on at all pictures."""

    sittings: list[SittingOut] = Field(description="That go on")
    clocks: list[ClockOut] = Field(description="What is not dry yet")
    minutes: dict[str, float] = Field(description="Of work so far, by sitter")


class DayOut(BaseModel):
    """One day."""

    day: date
    minutes: dict[str, float] = Field(description="Of work, by sitter")
    dry: list[ClockOut] = Field(description="What becomes dry on it")
    drying: int = Field(description="Layers that are wet at its end")


class RateOut(BaseModel):
    """What was learned of one kind of work."""

    what: Literal["time", "paint", "film"]
    words: str
    kind: str
    place: str
    brush: str
    school: str
    factor: float = Field(description="In parts of what is reckoned")
    spread: float = Field(description="Standard deviation as a factor")
    sittings: int
    per_cm2: float = Field(description="Minutes, ml, or of the film its thickness in mm")


class RatesOut(BaseModel):
    """Own pace."""

    fewest: int = Field(description="Sittings that anything is learned from")
    rates: list[RateOut]
    loss: float | None = Field(description="Part of the paint that is scraped off again, 0–1")
    loss_spread: float | None
    loss_sittings: int


class TrialOut(BaseModel):
    """A trial of a material."""

    entry: EntryOut
    shift: float | None = Field(description="Value steps by which it dried lighter")
    mean: float | None = Field(description="Of its marks")


class SwatchesOut(BaseModel):
    """How paint dried on one paper in one medium."""

    paper: str
    medium: str
    pairs: list[tuple[float, float]] = Field(description="Values wet and dry")


class TrialsOut(BaseModel):
    """Trials, what each kind is marked on, and the drying swatches among them."""

    trials: list[TrialOut]
    qualities: dict[str, list[str]]
    swatches: list[SwatchesOut]


class PaintedOut(BaseModel):
    """One painting's figures."""

    sitter: str
    name: str
    minutes: float
    sittings: int
    by_place: dict[str, float] = Field(description="Minutes, by where the work was")
    passes: int = Field(description="Done")
    liked: float | None = Field(description="Mean of 1–5")
    judgements: list[EntryOut]


@router.get("")
def search(
    bench: Bench,
    words: _Text = "",
    kind: _Text = "",
    painter: _Text = "",
    sitter: _Text = "",
    since: _Day | None = None,
    until: _Day | None = None,
    zone: _Text = "UTC",
    most: Annotated[int, Query(ge=1, le=1000)] = 200,
) -> BookOut:
    """Entries of all logs that say some words, of a kind, a painter, a sitter, between two days."""
    names = {s.id: s.name for s in bench.repository.all()}
    found = found_in(
        bench.repository.log.all(), names, words, kind=kind, painter=painter, sitter=sitter, since=since,
        until=until, zone=zone_of(zone),
    )  # fmt: skip
    return BookOut(names=names, entries=[entry_out(e) for e in found[:most]], found=len(found))


@router.post("", status_code=201)
def write_down(happened: HappenedIn, bench: Bench, by: By) -> EntryOut:
    """Write down something that belongs to no picture: a trial, a note, that own pace is learned anew."""
    at = None if happened.at is None else as_utc(happened.at)
    return entry_out(bench.repository.log.add(happened.what, None, at, by))


@router.delete("/entries/{entry}", status_code=204)
def strike_out(entry: Annotated[str, Field(max_length=64)], bench: Bench) -> None:
    """Strike such an entry out; it stays visible."""
    bench.repository.log.strike(entry)


@router.get("/shelf")
def repository(bench: Bench) -> ShelfLogOut:
    """Sittings that go on, what dries, and hours so far."""
    moment = now()
    sittings = sittings_of(bench.repository.log.all(), moment)
    minutes: dict[str, float] = defaultdict(float)
    for sitting in sittings:
        minutes[sitting.sitter] += sitting.minutes
    return ShelfLogOut(
        sittings=[sitting_out(s) for s in sittings if s.ended is None],
        clocks=[clock_out(c) for c in clocks_of(sittings) if c.dry_at > moment],
        minutes=dict(minutes),
    )


@router.get("/month")
def month(
    bench: Bench,
    year: Annotated[int, Query(ge=1990, le=9000)],
    number: Annotated[int, Query(alias="month", ge=1, le=12)],
    zone: _Text = "UTC",
) -> list[DayOut]:
    """Every day of a month with what was painted and what dries."""
    first = date(year, number, 1)
    last = date(year + number // 12, number % 12 + 1, 1) - timedelta(days=1)
    sittings = sittings_of(bench.repository.log.all(), now())
    days = days_of(sittings, clocks_of(sittings), first, last, zone_of(zone))
    return [
        DayOut(day=day, minutes=dict(d.minutes), dry=[clock_out(c) for c in d.dry], drying=d.drying)
        for day, d in days.items()
    ]


@router.get("/rates")
def rates(bench: Bench, by: By) -> RatesOut:
    """Own pace of whoever asks, and from how much it was learned."""
    return rates_out(bench.repository.log.pace(by))


def rates_out(pace: OwnPace) -> RatesOut:
    """Own pace, to be shown."""
    time = [_rate("time", level, learned) for level, learned in pace.time.items()]
    paint = [_rate("paint", level, learned) for level, learned in pace.paint.items()]
    film = [_rate("film", level, learned) for level, learned in pace.film.items()]
    loss, spread, sittings = pace.loss or (None, None, 0)
    return RatesOut(
        fewest=FEWEST_SITTINGS,
        rates=[*time, *paint, *film],
        loss=loss,
        loss_spread=spread,
        loss_sittings=sittings,
    )


def _rate(what: Literal["time", "paint", "film"], level: Level, learned: Learned) -> RateOut:
    return RateOut(
        what=what, words=level_words(level), kind=level.kind, place=level.place, brush=level.brush,
        school=level.school, factor=learned.factor, spread=learned.spread, sittings=learned.sittings,
        # A millilitre on a square centimetre is a centimetre thick.
        per_cm2=learned.per_cm2 * (10 if what == "film" else 1),
    )  # fmt: skip


@router.get("/trials")
def trials(bench: Bench) -> TrialsOut:
    """Trials of materials, newest first."""
    entries = bench.repository.log.all()
    tried = [(e, e.what) for e in entries if isinstance(e.what, Tried)]
    return TrialsOut(
        trials=[
            TrialOut(
                entry=entry_out(e), shift=what.shift,
                mean=sum(what.marks.values()) / len(what.marks) if what.marks else None,
            )
            for e, what in reversed(tried)
        ],
        qualities={subject: list(names) for subject, names in QUALITIES.items()},
        swatches=[
            SwatchesOut(paper=s.paper, medium=s.medium, pairs=list(s.pairs)) for s in swatches_of(entries)
        ],
    )  # fmt: skip


@router.get("/paintings")
def paintings(bench: Bench) -> list[PaintedOut]:
    """Figures of all paintings, side by side."""
    by_sitter: dict[str, list[Entry]] = defaultdict(list)
    for entry in bench.repository.log.all():
        by_sitter[entry.sitter].append(entry)
    ticked = bench.repository.facts.by_sitter("pass done")
    return [_painted(s.id, s.name, by_sitter[s.id], ticked.get(s.id, [])) for s in bench.repository.all()]


def _painted(sitter: str, name: str, entries: list[Entry], facts: list[Fact]) -> PaintedOut:
    moment: datetime = now()
    sittings = sittings_of(entries, moment)
    by_place: dict[str, float] = defaultdict(float)
    for sitting in sittings:
        for interval in sitting.intervals:
            by_place[(interval.work and interval.work.place) or "not said"] += interval.minutes
    judged = [e for e in entries if e.stands and isinstance(e.what, Judged)]
    ticked = {(f.document["school"], f.document["pass"]) for f in facts}
    done = ticked | {key for key, share in progress_of(sittings).items() if share >= 1}
    marks = [e.what.liked for e in judged if isinstance(e.what, Judged)]
    return PaintedOut(
        sitter=sitter, name=name, minutes=sum(s.minutes for s in sittings), sittings=len(sittings),
        by_place=dict(by_place), passes=len(done),
        liked=sum(marks) / len(marks) if marks else None, judgements=[entry_out(e) for e in judged],
    )  # fmt: skip
