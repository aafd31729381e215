"""The shelf: sitters and their photographs."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Form, UploadFile
from pydantic import BaseModel, Field

from truesitter.core.settings import StudySettings
from truesitter.store.settings.sitter import Sitter
from truesitter.web.http.answers import BenchRoute, WritingRoute
from truesitter.web.http.dependencies import Bench, CurrentSitter, photograph_bytes

router = APIRouter(prefix="/api/sitters", tags=["sitters"], route_class=WritingRoute)
uploads = APIRouter(prefix="/api/sitters", tags=["sitters"], route_class=BenchRoute)


class TroubleOut(BaseModel):
    """A stage whose settings cannot be read."""

    stage: str
    sentence: str


class SitterOut(BaseModel):
    """A sitter with everything the painter set."""

    id: str
    name: str
    note: str
    created_at: datetime
    filename: str
    width: int
    height: int
    settings: StudySettings
    troubles: list[TroubleOut]
    revision: int
    keys: dict[str, str]
    undo: str | None
    redo: str | None


class Name(BaseModel):
    """A new name."""

    name: str = Field(max_length=200)


def sitter_out(sitter: Sitter, bench: Bench, keys: dict[str, str] | None = None) -> SitterOut:
    """A sitter as JSON; each of `keys` changes when that answer may."""
    return SitterOut(
        id=sitter.id,
        name=sitter.name,
        note=sitter.note,
        created_at=sitter.created_at,
        filename=sitter.filename,
        width=sitter.width,
        height=sitter.height,
        settings=sitter.settings,
        troubles=[TroubleOut(stage=t.stage, sentence=t.sentence) for t in sitter.troubles],
        revision=sitter.revision,
        keys=bench.keys(sitter) if keys is None else keys,
        undo=sitter.undo,
        redo=sitter.redo,
    )


@router.get("")
def list_sitters(bench: Bench) -> list[SitterOut]:
    """Every sitter on the shelf."""
    sitters = bench.repository.all()
    keys = bench.all_keys(sitters)
    return [sitter_out(s, bench, keys[s.id]) for s in sitters]


@uploads.post("", status_code=201)
def add_sitter(
    bench: Bench, photo: UploadFile, name: Annotated[str, Form(max_length=200)] = ""
) -> SitterOut:  # fmt: skip
    """Put a photograph on the shelf."""
    return sitter_out(
        bench.repository.add(photograph_bytes(photo), photo.filename or "photograph", name), bench
    )


@router.get("/{sitter_id}")
def get_sitter(sitter: CurrentSitter, bench: Bench) -> SitterOut:
    """One sitter."""
    return sitter_out(sitter, bench)


@router.patch("/{sitter_id}")
def rename_sitter(sitter: CurrentSitter, name: Name, bench: Bench) -> SitterOut:
    """Give a sitter another name."""
    return sitter_out(bench.repository.rename(sitter.id, name.name), bench)


@router.delete("/{sitter_id}", status_code=204)
def delete_sitter(sitter: CurrentSitter, bench: Bench) -> None:
    """Take a sitter off the shelf; it can be restored until the next start."""
    bench.repository.delete(sitter.id)


@router.post("/{sitter_id}/restore")
def restore_sitter(sitter_id: str, bench: Bench) -> SitterOut:
    """Put a deleted sitter back."""
    return sitter_out(bench.repository.restore(sitter_id), bench)
