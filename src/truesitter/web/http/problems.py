"""Errors as RFC 9457 problem details, each with a sentence a painter understands.

A refusal is meant for the painter. Everything else is a bug: it is logged with its trace, and the
painter is told that it is one.
"""

from __future__ import annotations

import logging
import sqlite3
from http import HTTPStatus

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from sqlalchemy.exc import DatabaseError
from starlette.exceptions import HTTPException
from starlette.requests import ClientDisconnect

from truesitter.core.refusal import Refusal, Unavailable
from truesitter.store.log.log import UnknownEntry
from truesitter.store.settings.facts import UnknownFact
from truesitter.store.settings.history import NothingToUndo, Overtaken
from truesitter.store.settings.sitter import UnknownSitter
from truesitter.store.settings.tubes import UnknownTube
from truesitter.store.trouble import NotKept, sentence_for
from truesitter.web.access.sessions import TooMany
from truesitter.web.http.answers import CACHING, NotModified
from truesitter.web.queue.lanes import GONE

log = logging.getLogger("truesitter")
BUG = "Something went wrong inside the program. What you did before is kept; the details are in its log."


class Problem(BaseModel):
    """RFC 9457 problem details."""

    type: str
    title: str
    status: int
    detail: str


def problem(status: int, detail: str) -> JSONResponse:
    """A problem response."""
    body = Problem(type="about:blank", title=HTTPStatus(status).phrase, status=status, detail=detail)
    return JSONResponse(body.model_dump(), status, media_type="application/problem+json")


def install(app: FastAPI) -> None:
    """Answer every error as a problem."""

    @app.exception_handler(UnknownFact)
    @app.exception_handler(UnknownEntry)
    @app.exception_handler(UnknownTube)
    @app.exception_handler(UnknownSitter)
    async def _unknown(_: Request, error: LookupError) -> JSONResponse:
        return problem(404, str(error))

    @app.exception_handler(NothingToUndo)
    async def _nothing(_: Request, error: NothingToUndo) -> JSONResponse:
        return problem(409, error.sentence)

    @app.exception_handler(Overtaken)
    async def _overtaken(_: Request, error: Overtaken) -> JSONResponse:
        return problem(412, error.sentence)

    @app.exception_handler(TooMany)
    async def _too_many(_: Request, error: TooMany) -> JSONResponse:
        answer = problem(429, error.sentence)
        answer.headers["Retry-After"] = str(max(1, round(error.wait)))
        return answer

    @app.exception_handler(Unavailable)
    async def _unavailable(_: Request, error: Unavailable) -> JSONResponse:
        answer = problem(503, error.sentence)
        answer.headers["Retry-After"] = "5"
        return answer

    @app.exception_handler(Refusal)
    async def _refusal(_: Request, error: Refusal) -> JSONResponse:
        return problem(422, error.sentence)

    @app.exception_handler(ClientDisconnect)
    async def _gone(_: Request, __: ClientDisconnect) -> Response:
        # Nobody is there to be answered, and nothing went wrong here.
        return Response(status_code=GONE)

    @app.exception_handler(NotModified)
    async def _same(_: Request, same: NotModified) -> Response:
        return Response(status_code=304, headers={"ETag": same.etag, "Cache-Control": CACHING})

    @app.exception_handler(DatabaseError)
    @app.exception_handler(sqlite3.DatabaseError)
    @app.exception_handler(OSError)
    async def _disk(request: Request, error: Exception) -> JSONResponse:
        words = sentence_for(error)
        if words is None:
            return await _bug(request, error)
        log.error("%s %s", request.method, request.url.path, exc_info=error)
        return problem(507, NotKept(words).sentence)

    @app.exception_handler(RequestValidationError)
    async def _request(_: Request, error: RequestValidationError) -> JSONResponse:
        first = error.errors()[0]
        place = ".".join(str(p) for p in first["loc"] if p != "body")
        message = str(first["msg"]).removeprefix("Value error, ")
        return problem(422, f"{place}: {message}." if place else f"{message}.")

    @app.exception_handler(HTTPException)
    async def _http(_: Request, error: HTTPException) -> JSONResponse:
        return problem(error.status_code, str(error.detail))

    @app.exception_handler(Exception)
    async def _bug(request: Request, error: Exception) -> JSONResponse:
        log.error("%s %s", request.method, request.url.path, exc_info=error)
        return problem(500, BUG)
