"""Coming into a studio that is open to other machines, and the way there for a tablet or a phone."""

from __future__ import annotations

import io
from typing import Annotated

import segno
from fastapi import APIRouter, Query, Request, Response
from pydantic import BaseModel, Field

from truesitter.store.access.passphrase import LONGEST
from truesitter.web.access.sessions import COOKIE, STAYS
from truesitter.web.http.answers import HereRoute
from truesitter.web.http.dependencies import Bench, PainterName
from truesitter.web.http.guard import session_of
from truesitter.web.http.problems import problem


class DoorRoute(HereRoute):
    """A route for which nothing heavy has to wait."""

    LANE = "quick"


router = APIRouter(prefix="/api/door", tags=["door"])
# Looking at a passphrase is made dear on purpose: whoever tries many waits in line, and takes no threads.
line = APIRouter(prefix="/api/door", tags=["door"], route_class=DoorRoute)


class DoorOut(BaseModel):
    """Whether this is a studio with a door, and who is asking."""

    studio: bool
    painter: str | None
    """None for someone who has not come in yet."""
    address: str | None
    """Where other machines find it."""
    secret: bool
    """Whether what goes over the network is encrypted."""


class EnterIn(BaseModel):
    """Who comes in, and the passphrase."""

    painter: str = Field(max_length=80)
    passphrase: str = Field(max_length=LONGEST)


@router.get("")
def door(bench: Bench, painter: PainterName) -> DoorOut:
    """Whether one has to come in first."""
    if bench.door is None:
        return DoorOut(studio=False, painter="", address=None, secret=False)
    opening = bench.door.opening
    return DoorOut(
        studio=True, painter=painter, address=opening.address if painter else None, secret=opening.secret
    )


@line.post("")
def enter(asked: EnterIn, bench: Bench, request: Request, response: Response) -> DoorOut:
    """Come in."""
    if bench.door is None:
        return door(bench, "")
    machine = request.client.host if request.client else "?"
    session = bench.door.enter(machine, asked.passphrase, asked.painter)
    response.set_cookie(
        COOKIE, session, max_age=STAYS, path="/", httponly=True, samesite="strict",
        secure=bench.door.opening.secret,
    )  # fmt: skip
    return door(bench, bench.door.who(session))


@router.delete("", status_code=204, response_class=Response)
def leave(bench: Bench, request: Request) -> Response:
    """Go out again: the session is over, also for whoever has a copy of it."""
    if bench.door is not None:
        bench.door.leave(session_of(request.headers))
    answer = Response(status_code=204)
    answer.delete_cookie(COOKIE, path="/", httponly=True, samesite="strict")
    return answer


@router.get("/code.svg", response_class=Response)
def code(
    bench: Bench, to: Annotated[str, Query(pattern=r"^/(easel/[0-9a-f]{1,32})?$")] = "/"
) -> Response:  # fmt: skip
    """The way here as a code for the camera of a tablet or phone."""
    if bench.door is None:
        return problem(404, "This studio is not open to other machines.")
    out = io.BytesIO()
    segno.make(bench.door.opening.address + to, error="m").save(
        out, kind="svg", border=4, scale=4, dark="#111", light="#fff", xmldecl=False
    )
    return Response(out.getvalue(), media_type="image/svg+xml")
