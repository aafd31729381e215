"""Errors as RFC 9457 problem details, each with a sentence a painter understands."""

from __future__ import annotations

from http import HTTPStatus

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from truesitter.core.reference.errors import UnusablePhotograph
from truesitter.store.sitters import NothingToUndo, UnknownSitter
from truesitter.store.tubes import UnknownTube


class Problem(BaseModel):
    """RFC 9457 problem details."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str


def problem(status: int, detail: str) -> JSONResponse:
    """A problem response."""
    body = Problem(title=HTTPStatus(status).phrase, status=status, detail=detail)
    return JSONResponse(body.model_dump(), status, media_type="application/problem+json")


def install(app: FastAPI) -> None:
    """Answer every expected error as a problem."""

    @app.exception_handler(UnknownTube)
    @app.exception_handler(UnknownSitter)
    async def _unknown(_: Request, error: LookupError) -> JSONResponse:
        return problem(404, str(error))

    @app.exception_handler(NothingToUndo)
    async def _nothing(_: Request, error: NothingToUndo) -> JSONResponse:
        return problem(409, str(error))

    @app.exception_handler(UnusablePhotograph)
    async def _photograph(_: Request, error: UnusablePhotograph) -> JSONResponse:
        return problem(422, str(error))

    @app.exception_handler(ValueError)
    async def _value(_: Request, error: ValueError) -> JSONResponse:
        sentence = str(error)
        return problem(422, sentence[:1].upper() + sentence[1:] + ("" if sentence.endswith(".") else "."))

    @app.exception_handler(RequestValidationError)
    async def _request(_: Request, error: RequestValidationError) -> JSONResponse:
        first = error.errors()[0]
        place = ".".join(str(p) for p in first["loc"] if p != "body")
        message = str(first["msg"]).removeprefix("Value error, ")
        return problem(422, f"{place}: {message}." if place else f"{message}.")

    @app.exception_handler(HTTPException)
    async def _http(_: Request, error: HTTPException) -> JSONResponse:
        return problem(error.status_code, str(error.detail))
