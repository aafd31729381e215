"""The log of one picture as files: table, JSON, calendar, a record to print and a film."""

from __future__ import annotations

from typing import Literal

from fastapi import APIRouter, Response, UploadFile
from pydantic import BaseModel

from truesitter.core.log.days import zone_of
from truesitter.core.log.drying_clocks import clocks_of
from truesitter.core.log.sittings import sittings_of
from truesitter.core.refusal import Refusal
from truesitter.core.stages import Study
from truesitter.formats.documents.log_files import LARGEST_LOG, log_csv, log_ics, log_json, read_log
from truesitter.formats.pictures.easel_pictures import picture_of
from truesitter.formats.pictures.film import film_ora, film_zip
from truesitter.formats.print.log_page import Shown, log_pdf
from truesitter.store.rows.clock import now
from truesitter.web.http.answers import BenchRoute, HereRoute
from truesitter.web.http.dependencies import Bench, By, CurrentSitter, CurrentStudy, download

router = APIRouter(prefix="/api/sitters/{sitter_id}/log", tags=["log"])
# Large files are read a few at a time: each takes many times its size.
arriving = APIRouter(route_class=HereRoute)
pictured = APIRouter(prefix="/api/sitters/{sitter_id}/log", tags=["log"], route_class=BenchRoute)
"""Routes that square photographs of the painting up."""


class TakenIn(BaseModel):
    """What came of a log that was taken in."""

    new: int


@router.get("/file.json", response_class=Response)
def as_json(sitter: CurrentSitter, bench: Bench) -> Response:
    """The log with everything in it."""
    return download(log_json(bench.repository.log.of(sitter.id)), "application/json", "log.json")


@router.get("/file.csv", response_class=Response)
def as_csv(sitter: CurrentSitter, bench: Bench) -> Response:
    """The log as a table."""
    return download(log_csv(bench.repository.log.of(sitter.id)), "text/csv; charset=utf-8", "log.csv")


@router.get("/file.ics", response_class=Response)
def as_calendar(sitter: CurrentSitter, bench: Bench) -> Response:
    """Sittings and ends of drying as a calendar."""
    moment = now()
    sittings = sittings_of(bench.repository.log.of(sitter.id), moment)
    data = log_ics(sittings, clocks_of(sittings), {sitter.id: sitter.name}, moment)
    return download(data, "text/calendar; charset=utf-8", "log.ics")


@arriving.post("/file", status_code=201)
def take_in(sitter: CurrentSitter, bench: Bench, file: UploadFile, by: By) -> TakenIn:
    """Take in a log from JSON or a table; what is here already stays once."""
    entries = read_log(file.file.read(LARGEST_LOG + 1))
    return TakenIn(new=bench.repository.log.take_in(entries, sitter.id, by))


@pictured.get("/record.pdf", response_class=Response)
def record(
    study: CurrentStudy, sitter: CurrentSitter, bench: Bench, zone: str = "UTC",
    paper: Literal["A4", "Letter"] = "A4",
) -> Response:  # fmt: skip
    """Hours, sittings and pictures in order, to print."""
    where, entries = zone_of(zone), bench.repository.log.of(sitter.id)
    data = log_pdf(sitter.name, sittings_of(entries, now()), entries, _pictures(study), where, paper)
    return download(data, "application/pdf", "record.pdf")


@pictured.get("/film.zip", response_class=Response)
def film(study: CurrentStudy) -> Response:
    """The painting's photographs squared up, as PNG pictures in order."""
    return download(film_zip([p.picture for p in _filmed(study)]), "application/zip", "film.zip")


@pictured.get("/film.ora", response_class=Response)
def film_layers(study: CurrentStudy) -> Response:
    """The same as layers."""
    shown = _filmed(study)
    data = film_ora([p.picture for p in shown], [p.words for p in shown])
    return download(data, "image/openraster", "film.ora")


def _pictures(study: Study) -> list[Shown]:
    """Photographs of the painting that can be squared up, oldest first."""
    found = []
    for one in study.easel.in_order():
        after = f", after pass {one.after}" if one.after else ""
        try:
            found.append(Shown(picture_of(study, one, "painting"), f"{one.taken_at}{after}"))
        except Refusal:
            # One that cannot be read today is left out here; the easel says what is wrong with it.
            continue
    return found


def _filmed(study: Study) -> list[Shown]:
    shown = _pictures(study)
    if not shown:
        raise Refusal("a film is made of photographs of the painting: take some in at the easel first")
    return shown


router.include_router(arriving)
