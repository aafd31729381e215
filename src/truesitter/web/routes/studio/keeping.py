"""Safekeeping: backups, daily copies, a look whether all is there, and sitters as files."""

from __future__ import annotations

import re
import tempfile
from datetime import date
from pathlib import Path
from typing import Any

from anyascii import anyascii
from fastapi import APIRouter, Request, Response, UploadFile
from fastapi.responses import FileResponse
from pydantic import BaseModel
from starlette.background import BackgroundTask

from truesitter.core.refusal import Refusal
from truesitter.store.backup.aside import kept_aside
from truesitter.store.backup.backup import write_backup
from truesitter.store.backup.check import check_folder
from truesitter.store.backup.copies import COPIES
from truesitter.store.files.sitter_files import MOST_BYTES, sitter_schema
from truesitter.web.http.answers import HereRoute
from truesitter.web.http.dependencies import Bench, By, CurrentSitter, download
from truesitter.web.http.guard import at_the_machine
from truesitter.web.routes.studio.sitters import SitterOut, sitter_out

router = APIRouter(prefix="/api", tags=["keeping"])
heavy = APIRouter(route_class=HereRoute)


class CopyOut(BaseModel):
    """A daily copy."""

    day: str
    size: int
    """Bytes that nothing else needs."""


class KeepingOut(BaseModel):
    """How the sitters are kept."""

    folder: str | None
    """None for whoever does not sit at the machine they are kept on."""
    daily: bool
    copies: list[CopyOut]
    copies_in: str | None
    set_aside: int
    """Photographs that belong to no sitter, kept for a while."""


class DailyIn(BaseModel):
    """Whether a copy is made every day."""

    daily: bool


class FoundOut(BaseModel):
    """What a look through everything found."""

    sitters: int
    photographs: int
    troubles: list[str]
    mended: list[str]


def _plain(name: str) -> str:
    """A name that every disk takes."""
    return re.sub(r"[^A-Za-z0-9]+", "-", anyascii(name)).strip("-")[:40] or "sitter"


@router.get("/keeping")
def keeping(bench: Bench, request: Request) -> KeepingOut:
    """Where the sitters are kept, and the copies there are."""
    copies, folder = bench.repository.copies, bench.repository.folder.resolve()
    owner = bench.door is None or at_the_machine(request.scope)
    return KeepingOut(
        folder=str(folder) if owner else None, daily=copies.wanted,
        copies=[CopyOut(day=c.day, size=c.size) for c in copies.all()],
        copies_in=str(folder / COPIES) if owner else None, set_aside=kept_aside(folder),
    )  # fmt: skip


@router.put("/keeping/daily")
def want_daily(wanted: DailyIn, bench: Bench, request: Request) -> KeepingOut:
    """Make a copy every day from now on, or no more."""
    bench.repository.copies.want(wanted.daily)
    return keeping(bench, request)


@heavy.post("/keeping/check")
def check(bench: Bench) -> FoundOut:
    """Look whether all that was kept is there, and mend what the daily copies can mend."""
    found = check_folder(bench.repository.folder, mend=True)
    return FoundOut(
        sitters=found.sitters, photographs=found.photographs, troubles=list(found.troubles),
        mended=list(found.mended),
    )  # fmt: skip


@heavy.get("/keeping/backup", response_class=FileResponse)
def backup(bench: Bench) -> FileResponse:
    """All sitters as one file."""
    aside = tempfile.TemporaryDirectory(prefix=".part-backup-", dir=bench.repository.folder)
    try:
        path = Path(aside.name) / "backup.zip"
        made = write_backup(bench.repository.folder, path)
    except BaseException:
        aside.cleanup()
        raise
    # What is not in it is said where nobody can overlook it.
    lacking = f"-{len(made.lost)}-photographs-missing" if made.lost else ""
    name = f"sitters-{date.today().isoformat()}{lacking}.zip"
    return FileResponse(
        path, media_type="application/zip", filename=name, background=BackgroundTask(aside.cleanup)
    )


@heavy.get("/sitters/{sitter_id}/file", response_class=Response)
def sitter_file(sitter: CurrentSitter, bench: Bench) -> Response:
    """A sitter as one open file."""
    return download(bench.repository.file(sitter.id), "application/zip", f"{_plain(sitter.name)}.sitter.zip")


@heavy.post("/sitter-files", status_code=201)
def take_in_sitter(bench: Bench, file: UploadFile, by: By) -> SitterOut:
    """Put a sitter of a file on the shelf, beside those there are."""
    data = file.file.read(MOST_BYTES + 1)
    if not data:
        raise Refusal("this file is empty")
    return sitter_out(bench.repository.take_in(data, by), bench)


@router.get("/schemas/sitter")
def schema() -> dict[str, Any]:
    """JSON schema of what a sitter's file holds."""
    return sitter_schema()


router.include_router(heavy)
