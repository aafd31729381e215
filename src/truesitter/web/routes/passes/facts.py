"""Facts: which passes are done."""

from __future__ import annotations

from datetime import datetime

from fastapi import APIRouter
from pydantic import BaseModel, Field

from truesitter.web.http.answers import WritingRoute
from truesitter.web.http.dependencies import Bench, By

router = APIRouter(prefix="/api/sitters/{sitter_id}/done", tags=["facts"], route_class=WritingRoute)


class PassDone(BaseModel):
    """A pass of a school that was painted."""

    school: str = Field(min_length=1, max_length=60)
    key: str = Field(min_length=1, max_length=60)


class DoneOut(BaseModel):
    """A pass that was painted, and when it was ticked (UTC)."""

    id: int
    school: str
    key: str
    at: datetime


@router.get("")
def passes_done(sitter_id: str, bench: Bench) -> list[DoneOut]:
    """Passes that are ticked."""
    return [
        DoneOut(id=f.id, school=f.document["school"], key=f.document["pass"], at=f.at)
        for f in bench.repository.facts.all(sitter_id, "pass done")
    ]


@router.post("", status_code=201)
def tick_pass(sitter_id: str, done: PassDone, bench: Bench, by: By) -> DoneOut:
    """Tick a pass."""
    fact = bench.repository.facts.add(sitter_id, "pass done", {"school": done.school, "pass": done.key}, by)
    return DoneOut(id=fact.id, school=done.school, key=done.key, at=fact.at)


@router.delete("/{fact}", status_code=204)
def untick_pass(sitter_id: str, fact: int, bench: Bench) -> None:
    """Strike a tick out."""
    bench.repository.facts.strike(sitter_id, fact)
