"""Drills: which are due, rounds made from a sitter's picture, and what an answer comes to."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from truesitter.core.drills.drill_habits import wanted_by
from truesitter.core.drills.drill_kinds import DRILLS, Answered, Drill, DrillName
from truesitter.core.drills.drill_picture import DrillPicture
from truesitter.core.drills.make import make_round
from truesitter.core.drills.rounds import Answer, NotHere, Question
from truesitter.core.drills.spacing import due
from truesitter.core.drills.staircase import estimate
from truesitter.core.drills.tuning import ROUNDS
from truesitter.store.log.drills import Asked, DrillRounds, KeptRound
from truesitter.store.rows.clock import now
from truesitter.web.http.answers import BenchRoute, QuickRoute
from truesitter.web.http.answers import answered as answered_by
from truesitter.web.http.dependencies import Bench, By, CurrentSitter, CurrentStudy
from truesitter.web.routes.easel.easel_work import found_habits
from truesitter.web.routes.log.log import utc

router = APIRouter(prefix="/api/drills", tags=["drills"])
rounds = APIRouter(prefix="/api/sitters/{sitter_id}/drills", tags=["drills"], route_class=QuickRoute)
"""Rounds, made once the picture is ready: they follow the hand."""
prepared = APIRouter(prefix="/api/sitters/{sitter_id}/drills", tags=["drills"], route_class=BenchRoute)
"""Routes that may have to compute everything of a picture."""

_Point = tuple[Annotated[float, Field(ge=-1, le=2)], Annotated[float, Field(ge=-1, le=2)]]
_Line = Annotated[list[_Point], Field(max_length=2000)]
_Seed = Annotated[int, Field(ge=0, lt=2**31)]
_Level = Annotated[float, Field(gt=0, le=1000)]
_Places = Annotated[list[Annotated[str, Field(max_length=60)]], Field(max_length=20)]


class GoOut(BaseModel):
    """How one go went (UTC)."""

    at: datetime
    rounds: int
    right: float = Field(description="Part of them")
    threshold: float = Field(description="Of this go alone, in the drill's unit")
    error: float = Field(description="Its standard error")


class DrillOut(BaseModel):
    """A drill and how far a painter is with it."""

    name: DrillName
    title: str
    asks: str
    unit: str
    answered: Answered
    choices: int
    rounds: int = Field(description="Answered so far")
    level: float = Field(description="At which the next round is best shown")
    threshold: float | None = Field(description="How good the eye is; none before the first round")
    error: float | None
    box: int = Field(description="From 1, the later the seldomer; 0 before the first go")
    due_at: datetime | None
    due: bool
    goes: list[GoOut]


class DrillsOut(BaseModel):
    """All drills, what is due first."""

    rounds: int = Field(description="In a go")
    drills: list[DrillOut]


class WantedOut(BaseModel):
    """A drill that habits at the easel ask for."""

    drill: DrillName
    places: list[str]
    words: list[str]


class QuestionOut(BaseModel):
    """A round as it is shown."""

    seed: int
    level: float
    patches: list[str]
    around: str
    tubes: list[tuple[str, str, str]] = Field(description="Key, name and colour")
    count: int
    at: tuple[float, float] | None
    line: list[tuple[float, float]]
    pictured: bool


class AnsweredIn(BaseModel):
    """An answer, with what the round was made from."""

    drill: DrillName
    go: str = Field(pattern="^[0-9a-f]{8,32}$", description="Rounds of one go have this in common")
    seed: _Seed
    level: _Level
    places: _Places = []
    number: float | None = Field(None, ge=-100, le=100)
    choice: int | None = Field(None, ge=0, le=100)
    parts: Annotated[dict[Annotated[str, Field(max_length=60)], int], Field(max_length=12)] = {}
    points: _Line = []
    widths: Annotated[list[Annotated[float, Field(ge=0, le=1000)]], Field(max_length=2000)] = []
    shapes: Annotated[list[_Line], Field(max_length=60)] = []


class ScoreOut(BaseModel):
    """What an answer comes to."""

    off: float
    right: bool
    words: str
    number: float | None
    choice: int | None
    patches: list[str]
    points: list[tuple[float, float]]
    lines: list[list[tuple[float, float]]]
    kept: bool = Field(description="False for a round of this go that was answered already")
    level: float = Field(description="At which the next round is best shown")


@router.get("")
def all_drills(bench: Bench, by: By) -> DrillsOut:
    """Drills of whoever asks: what is due first, the weakest box before the others."""
    moment = now()
    found = [_drill_out(drill, bench.repository.drills, by, moment) for drill in DRILLS.values()]
    return DrillsOut(rounds=ROUNDS, drills=sorted(found, key=lambda d: (not d.due, d.box)))


_SHOWN = 60
"""Goes whose progress is plotted [try]."""


def _drill_out(drill: Drill, rounds: DrillRounds, by: str, moment: datetime) -> DrillOut:
    kept = rounds.latest(drill.name, by, _SHOWN * ROUNDS)
    known = estimate(drill, [r.told for r in kept])
    lies = due(rounds.goes(drill.name, ROUNDS, by))
    return DrillOut(
        name=drill.name, title=drill.title, asks=drill.asks, unit=drill.unit, answered=drill.answered,
        choices=drill.choices, rounds=rounds.count(drill.name, by), level=known.level,
        threshold=known.threshold if kept else None, error=known.error if kept else None, box=lies.box,
        due_at=None if lies.at is None else utc(lies.at), due=lies.at is None or lies.at <= moment,
        goes=_goes_out(drill, kept),
    )  # fmt: skip


def _goes_out(drill: Drill, kept: list[KeptRound]) -> list[GoOut]:
    goes: dict[str, list[KeptRound]] = {}
    for one in kept:
        goes.setdefault(one.go, []).append(one)
    out = []
    for each in goes.values():
        alone = estimate(drill, [r.told for r in each])
        out.append(
            GoOut(
                at=utc(each[-1].at), rounds=len(each), right=sum(r.told.right for r in each) / len(each),
                threshold=alone.threshold, error=alone.error,
            )
        )  # fmt: skip
    return out


@prepared.get("/ready", dependencies=[answered_by("drills/ready", (), ("drill picture",))])
def ready(study: CurrentStudy) -> dict[DrillName, str]:
    """Why a picture has nothing for a drill, in a sentence; empty for those it has."""
    picture = study.drills.picture()
    return {name: _why_not(name, picture) for name in DRILLS}


def _why_not(drill: DrillName, picture: DrillPicture) -> str:
    try:
        make_round(drill, picture, DRILLS[drill].start, 0)
    except NotHere as refusal:
        return refusal.sentence
    return ""


@prepared.get("/wanted")
def wanted(sitter: CurrentSitter, bench: Bench) -> list[WantedOut]:
    """Drills that the painter's habits at the easel ask for."""
    del sitter
    _, habits = found_habits(bench)
    return [
        WantedOut(drill=drill, places=list(why.places), words=list(why.words))
        for drill, why in wanted_by(habits).items()
    ]


@rounds.get("/round")
def a_round(
    study: CurrentStudy, drill: DrillName, seed: Annotated[int, Query(ge=0, lt=2**31)],
    level: Annotated[float, Query(gt=0, le=1000)],
    place: Annotated[list[Annotated[str, Field(max_length=60)]], Query(max_length=20)] = [],  # noqa: B006
) -> QuestionOut:  # fmt: skip
    """One round; the same drill, seed, level and places give the same."""
    shown: Question = make_round(drill, study.drills.picture(), level, seed, tuple(place)).question
    return QuestionOut(
        seed=seed, level=level, patches=list(shown.patches), around=shown.around, tubes=list(shown.tubes),
        count=shown.count, at=shown.at, line=list(shown.line), pictured=shown.pictured,
    )  # fmt: skip


@rounds.post("/answer")
def answered(study: CurrentStudy, sitter: CurrentSitter, given: AnsweredIn, bench: Bench, by: By) -> ScoreOut:
    """What an answer comes to; it is kept."""
    one = make_round(given.drill, study.drills.picture(), given.level, given.seed, tuple(given.places))
    score = one.score(
        Answer(
            given.number, given.choice, given.parts, tuple(given.points), tuple(given.widths),
            tuple(tuple(line) for line in given.shapes),
        )
    )  # fmt: skip
    asked = Asked(given.drill, given.go, given.level, given.seed, sitter.id)
    kept = bench.repository.drills.add(asked, score, by)
    so_far = bench.repository.drills.latest(given.drill, by)
    return ScoreOut(
        off=score.off, right=score.right, words=score.words, number=score.number, choice=score.choice,
        patches=list(score.patches), points=list(score.points), lines=[list(line) for line in score.lines],
        kept=kept, level=estimate(DRILLS[given.drill], [r.told for r in so_far]).level,
    )  # fmt: skip
