"""One sitter as one open file: everything set, what happened, the photographs.

A plain zip: `sitter.json` (its schema is published), `original` and `paintings/…` as they were put
in. The history of changes stays behind: in another studio there is nothing yet to undo.
"""

from __future__ import annotations

import io
import json
import uuid
import zipfile
from collections.abc import Callable
from dataclasses import replace
from datetime import datetime
from typing import Annotated, Any, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, ValidationError, model_validator
from sqlalchemy import select
from sqlalchemy.orm import Session

from truesitter.core.log.events import read_happening
from truesitter.core.log.log_document import EntryDocument, as_utc
from truesitter.core.reference.decode import decode, inspect
from truesitter.core.reference.tuning import LARGEST_FILE
from truesitter.core.refusal import Refusal
from truesitter.core.settings import Settings
from truesitter.core.settings.base import first_fault
from truesitter.store.files.archives import SPOILT
from truesitter.store.files.blobs import Blobs
from truesitter.store.files.paintings import MOST
from truesitter.store.log.log import MOST_ENTRIES
from truesitter.store.log.log_rows import brought_in, entry_rows, newly_named
from truesitter.store.rows.clock import now
from truesitter.store.rows.database import Sessions
from truesitter.store.rows.models import (
    EntryRow,
    FactRow,
    ItemRow,
    PaintingRow,
    ReferenceRow,
    SitterRow,
    StageRow,
)
from truesitter.store.settings.documents import STAGES, plain, rows
from truesitter.store.settings.edits import places
from truesitter.store.settings.facts import MOST_FACTS, SHAPES, Kind

SHEET, ORIGINAL, PAINTINGS = "sitter.json", "original", "paintings"
MOST_BYTES = 512 * 2**20
"""Of a file of a sitter [try]."""
_MOST_SHEET = 32 * 2**20
_MOST_UNPACKED = 20
"""Photographs are packed already: nothing honest unpacks to more times the size of its file [try]."""
_NONE = "this is no sitter's file, or it is damaged"
_Hash = Annotated[str, Field(pattern="^[0-9a-f]{64}$")]


class _ArchivePart(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class StageDocument(_ArchivePart):
    """Settings of a stage, in the form of some version."""

    version: int = Field(ge=1, le=10_000)
    settings: dict[str, Any]


class FactDocument(_ArchivePart):
    """Something that happened; times are UTC."""

    kind: Kind
    document: Annotated[dict[str, Annotated[str, Field(max_length=200)]], Field(max_length=20)]
    at: datetime
    struck_at: datetime | None = None

    @model_validator(mode="after")
    def _shape(self) -> Self:
        if set(self.document) != SHAPES[self.kind]:
            raise ValueError(f"“{self.kind}” says {', '.join(sorted(SHAPES[self.kind]))}")
        return self


class PaintingDocument(_ArchivePart):
    """A photograph of the painting; its bytes lie in `paintings/` under their hash."""

    sha256: _Hash
    filename: str = Field(max_length=120)
    at: datetime


class SitterDocument(_ArchivePart):
    """A sitter but for the photographs."""

    format: Literal["truesitter-sitter"] = "truesitter-sitter"
    version: Literal[1] = 1
    name: str = Field(min_length=1, max_length=200)
    note: str = Field(default="", max_length=1000)
    filename: str = Field(default="photograph", max_length=120)
    sha256: _Hash
    stages: dict[Annotated[str, Field(max_length=40)], StageDocument] = Field(max_length=40)
    facts: list[FactDocument] = Field(default=[], max_length=MOST_FACTS)
    paintings: list[PaintingDocument] = Field(default=[], max_length=MOST)
    log: list[EntryDocument] = Field(default=[], max_length=MOST_ENTRIES)


def sitter_schema() -> dict[str, Any]:
    """JSON schema of `sitter.json` (draft 2020-12)."""
    return {
        **SitterDocument.model_json_schema(),
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "A sitter",
    }


class SitterFiles:
    """Sitters out of the database into files, and back."""

    def __init__(self, sessions: Sessions, originals: Blobs, paintings: Blobs) -> None:
        self._sessions, self._originals, self._paintings = sessions, originals, paintings

    def write(self, row_of: Callable[[Session, str], SitterRow], sitter_id: str) -> bytes:
        """A sitter's file; `row_of` finds its row or refuses.

        Raises
        ------
        MissingFile
            When one of its photographs is gone or damaged.
        """
        with self._sessions.reading() as session:
            document = _document(session, row_of(session, sitter_id))
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as archive:
            archive.writestr(_entry(SHEET), document.model_dump_json(indent=1), zipfile.ZIP_DEFLATED)
            archive.writestr(_entry(ORIGINAL), self._originals.get(document.sha256))
            for one in document.paintings:
                archive.writestr(_entry(f"{PAINTINGS}/{one.sha256}"), self._paintings.get(one.sha256))
        return out.getvalue()

    def take_in(self, data: bytes, by: str = "") -> str:
        """Put a sitter of a file on the shelf, beside those there are; its key.

        Parameters
        ----------
        by
            Who brings it, in a studio of several.

        Raises
        ------
        Refusal
            Saying what is wrong with the file; nothing is kept then.
        """
        if len(data) > MOST_BYTES:
            raise Refusal(f"a sitter's file holds up to {MOST_BYTES >> 20} MB")
        try:
            with zipfile.ZipFile(io.BytesIO(data)) as archive:
                if sum(i.file_size for i in archive.infolist()) > _MOST_SHEET + _MOST_UNPACKED * len(data):
                    raise Refusal("this sitter's file unpacks to far more than photographs do")
                document, stages = _read(archive)
                original = _photograph(archive, ORIGINAL, document.sha256)
                info = inspect(original)
                decode(original, least_long_side=256)
                # All of it is looked at before any of it is kept: a file that is refused leaves nothing.
                taken = []
                for one in document.paintings:
                    painting = _photograph(archive, f"{PAINTINGS}/{one.sha256}", one.sha256)
                    taken.append((one, inspect(painting), len(painting)))
                self._originals.put(original)
                for one in document.paintings:
                    self._paintings.put(_photograph(archive, f"{PAINTINGS}/{one.sha256}", one.sha256))
        except Refusal:
            raise
        except (*SPOILT, OSError, ValueError) as error:
            # A place before the beginning of the file is what a spoilt archive points at.
            if isinstance(error, OSError) and error.errno:
                raise
            raise Refusal(_NONE) from None
        sitter_id = uuid.uuid4().hex[:12]
        row = SitterRow(
            id=sitter_id, name=document.name, note=document.note, created_at=now(), head=0, revision=0
        )
        row.reference = ReferenceRow(
            sha256=document.sha256, filename=document.filename, format=info.format, width=info.width,
            height=info.height, size=len(original),
        )  # fmt: skip
        with self._sessions.writing.begin() as session:
            session.add(row)
            session.flush()
            for stage, settings in stages.items():
                _keep(session, sitter_id, stage, settings)
            session.add_all(
                FactRow(sitter_id=sitter_id, kind=f.kind, document=dict(f.document), at=as_utc(f.at),
                        struck_at=f.struck_at and as_utc(f.struck_at))
                for f in document.facts
            )  # fmt: skip
            session.add_all(
                PaintingRow(sitter_id=sitter_id, sha256=one.sha256, filename=one.filename, width=seen.width,
                            height=seen.height, size=size, at=as_utc(one.at))
                for one, seen, size in taken
            )  # fmt: skip
            entries = newly_named([e.entry() for e in document.log], sitter_id)
            session.add_all(entry_rows(replace(e, painter=brought_in(e.painter, by)) for e in entries))
        return sitter_id


def _entry(name: str) -> zipfile.ZipInfo:
    """A name in an archive, without the time: the same sitter is the same file."""
    return zipfile.ZipInfo(name)


def _document(session: Session, row: SitterRow) -> SitterDocument:
    """A sitter's sheet, as it is kept: also settings that cannot be read today go along."""
    kept = {r.stage: r for r in session.scalars(select(StageRow).where(StageRow.sitter_id == row.id))}
    stages = {stage: StageDocument(version=r.version, settings=dict(r.document)) for stage, r in kept.items()}
    entries = session.scalars(select(ItemRow).where(ItemRow.sitter_id == row.id).order_by(ItemRow.at))
    for entry in entries:
        model = STAGES.get(entry.stage)
        if entry.stage not in stages:
            stages[entry.stage] = StageDocument(version=model.VERSION if model else 1, settings={})
        stages[entry.stage].settings.setdefault(entry.field, []).append(entry.document)
    facts = session.scalars(select(FactRow).where(FactRow.sitter_id == row.id).order_by(FactRow.id))
    paintings = session.scalars(select(PaintingRow).where(PaintingRow.sitter_id == row.id))
    log = session.scalars(select(EntryRow).where(EntryRow.sitter_id == row.id).order_by(EntryRow.number))
    return SitterDocument(
        name=row.name, note=row.note, filename=row.reference.filename, sha256=row.reference.sha256,
        stages=stages,
        facts=[
            FactDocument.model_validate(
                {"kind": f.kind, "document": f.document, "at": f.at, "struck_at": f.struck_at}
            )
            for f in facts
        ],
        paintings=[PaintingDocument(sha256=p.sha256, filename=p.filename, at=p.at) for p in paintings],
        log=[
            EntryDocument(id=e.id, sitter=row.id, at=e.at, what=read_happening(e.document), painter=e.painter,
                          struck_at=e.struck_at)
            for e in log
        ],
    )  # fmt: skip


def _read(archive: zipfile.ZipFile) -> tuple[SitterDocument, dict[str, Settings]]:
    """The sheet of a sitter's file, and its settings by stage."""
    try:
        document = SitterDocument.model_validate(json.loads(_bytes(archive, SHEET, _MOST_SHEET)))
    except ValidationError as error:
        raise Refusal(f"this sitter's file cannot be read: {first_fault(error)}") from None
    except (ValueError, RecursionError) as error:
        if isinstance(error, Refusal):
            raise
        raise Refusal(_NONE) from None
    stages: dict[str, Settings] = {}
    for stage, kept in document.stages.items():
        if stage not in STAGES:
            raise Refusal(f"this sitter's file has a stage “{stage}”: it was written by another True Sitter")
        try:
            stages[stage] = STAGES[stage].read(kept.settings, kept.version)
        except (KeyError, TypeError, AttributeError, ValueError) as error:
            why = error if isinstance(error, Refusal) else "it is not as it should be"
            raise Refusal(f"the settings of {stage} in this sitter's file cannot be read: {why}") from None
    return document, stages


def _bytes(archive: zipfile.ZipFile, name: str, most: int) -> bytes:
    """A file in an archive; no more is unpacked than it may have."""
    with archive.open(name) as file:
        data = file.read(most + 1)
    if len(data) > most:
        raise Refusal("something in this sitter's file is larger than it can be")
    return data


def _photograph(archive: zipfile.ZipFile, name: str, sha: str) -> bytes:
    data = _bytes(archive, name, LARGEST_FILE)
    if Blobs.name_of(data) != sha:
        raise Refusal(_NONE)
    return data


def _keep(session: Session, sitter_id: str, stage: str, settings: Settings) -> None:
    model = type(settings)
    session.add(StageRow(sitter_id=sitter_id, stage=stage, version=model.VERSION, document=plain(settings)))
    for field in model.ROWS:
        documents = rows(getattr(settings, field))
        session.add_all(
            ItemRow(sitter_id=sitter_id, stage=stage, field=field, at=at, document=document)
            for at, document in zip(places(None, None, len(documents)), documents, strict=True)
        )
