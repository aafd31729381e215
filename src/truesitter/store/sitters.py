"""The shelf: sitters, their settings stage by stage, and the history of changes."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from sqlalchemy import delete, select
from sqlalchemy.orm import Session, sessionmaker

from truesitter.core.reference.decode import decode, inspect
from truesitter.core.settings import StudySettings
from truesitter.core.settings_base import Settings
from truesitter.store.blobs import Blobs
from truesitter.store.database import open_database
from truesitter.store.models import ReferenceRow, RevisionRow, SitterRow, StageRow
from truesitter.store.palettes import StudioPalettes
from truesitter.store.tubes import TubeRack, UnknownTube

STAGES = tuple(StudySettings.model_fields)
_FILENAME_LIMIT = 120


class UnknownSitter(LookupError):
    """There is no sitter with that key on the shelf."""


class NothingToUndo(ValueError):
    """There is no change to take back, or none to bring again."""


@dataclass(frozen=True)
class Sitter:
    """A sitter as kept.

    Attributes
    ----------
    id, name, note, created_at
        Key, name, a line about the sitting, and when it was put on the shelf (UTC).
    sha256, filename, width, height
        The photograph: hash of its bytes, its own name, upright size in pixels.
    settings
        Everything the painter set.
    revision
        Number of the change in force; 0 when nothing was changed yet.
    undo, redo
        What the next undo or redo would change, in words; None when there is nothing.
    """

    id: str
    name: str
    note: str
    created_at: datetime
    sha256: str
    filename: str
    width: int
    height: int
    settings: StudySettings
    revision: int
    undo: str | None
    redo: str | None


def _now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)


def clean_filename(name: str) -> str:
    """The last part of a file name, without control characters and not too long."""
    last = name.replace("\\", "/").rsplit("/", 1)[-1]
    printable = "".join(c for c in last if c.isprintable()).strip()
    return printable[:_FILENAME_LIMIT] or "photograph"


class Shelf:
    """All sitters in one data folder."""

    def __init__(self, folder: Path) -> None:
        folder.mkdir(parents=True, exist_ok=True)
        self._engine = open_database(folder / "sitters.sqlite")
        self._sessions = sessionmaker(self._engine, expire_on_commit=False)
        self.blobs = Blobs(folder / "originals")
        self.swatch_photos = Blobs(folder / "swatches")
        self.tubes = TubeRack(self._sessions)
        self.palettes = StudioPalettes(self._sessions, self.tubes)

    def close(self) -> None:
        """Let go of the database file."""
        self._engine.dispose()

    # -- reading --------------------------------------------------------------------------------

    def all(self) -> list[Sitter]:
        """Every sitter on the shelf, newest last."""
        with self._sessions() as session:
            rows = session.scalars(
                select(SitterRow)
                .where(SitterRow.deleted_at.is_(None))
                .order_by(SitterRow.created_at, SitterRow.id)
            )
            return [self._sitter(session, row) for row in rows]

    def get(self, sitter_id: str) -> Sitter:
        """One sitter; UnknownSitter when there is none."""
        with self._sessions() as session:
            return self._sitter(session, self._row(session, sitter_id))

    def photograph(self, sha256: str) -> bytes:
        """Original bytes of a photograph."""
        return self.blobs.get(sha256)

    def swatch_photo(self, sha256: str) -> bytes:
        """Original bytes of a photograph of swatches.

        Raises
        ------
        UnknownTube
            When there is none.
        """
        try:
            return self.swatch_photos.get(sha256)
        except FileNotFoundError:
            raise UnknownTube("There is no such photograph of swatches.") from None

    def _row(self, session: Session, sitter_id: str, deleted: bool = False) -> SitterRow:
        row = session.get(SitterRow, sitter_id)
        if row is None or (row.deleted_at is not None) != deleted:
            raise UnknownSitter("This sitter is not on the shelf.")
        return row

    def _sitter(self, session: Session, row: SitterRow) -> Sitter:
        documents = {s.stage: s.document for s in row.stages}
        return Sitter(
            id=row.id,
            name=row.name,
            note=row.note,
            created_at=row.created_at,
            sha256=row.reference.sha256,
            filename=row.reference.filename,
            width=row.reference.width,
            height=row.reference.height,
            settings=StudySettings.model_validate(documents),
            revision=row.head,
            undo=self._change_text(session, row.id, row.head),
            redo=self._change_text(session, row.id, row.head + 1),
        )

    @staticmethod
    def _change_text(session: Session, sitter_id: str, number: int) -> str | None:
        return session.scalar(
            select(RevisionRow.change).where(RevisionRow.sitter_id == sitter_id, RevisionRow.number == number)
        )

    # -- sitters --------------------------------------------------------------------------------

    def add(self, data: bytes, filename: str, name: str = "", note: str = "") -> Sitter:
        """Put a photograph on the shelf; nothing is kept unless it can be unpacked whole.

        Raises
        ------
        UnusablePhotograph
            With a sentence for the painter.
        """
        info = inspect(data)
        decode(data, least_long_side=256)
        shown = clean_filename(filename)
        sha256 = self.blobs.put(data)
        row = SitterRow(
            id=uuid.uuid4().hex[:12],
            name=name.strip()[:200] or Path(shown).stem,
            note=note.strip()[:1000],
            created_at=_now(),
            head=0,
        )
        row.reference = ReferenceRow(
            sha256=sha256, filename=shown, format=info.format, width=info.width,
            height=info.height, size=len(data),
        )  # fmt: skip
        with self._sessions.begin() as session:
            session.add(row)
        return self.get(row.id)

    def rename(self, sitter_id: str, name: str) -> Sitter:
        """Give a sitter another name; it cannot be empty."""
        if not name.strip():
            raise ValueError("A sitter needs a name.")
        with self._sessions.begin() as session:
            self._row(session, sitter_id).name = name.strip()[:200]
        return self.get(sitter_id)

    def delete(self, sitter_id: str) -> None:
        """Take a sitter off the shelf; `restore` brings it back until the next start."""
        with self._sessions.begin() as session:
            self._row(session, sitter_id).deleted_at = _now()

    def restore(self, sitter_id: str) -> Sitter:
        """Put a deleted sitter back."""
        with self._sessions.begin() as session:
            self._row(session, sitter_id, deleted=True).deleted_at = None
        return self.get(sitter_id)

    def purge(self) -> None:
        """Forget deleted sitters for good, with the photographs nobody else uses."""
        with self._sessions.begin() as session:
            for row in session.scalars(select(SitterRow).where(SitterRow.deleted_at.is_not(None))):
                session.delete(row)
        with self._sessions() as session:
            self.blobs.keep_only(set(session.scalars(select(ReferenceRow.sha256))))

    # -- settings and history -------------------------------------------------------------------

    def change(self, sitter_id: str, stage: str, settings: Settings, change: str) -> Sitter:
        """Set a stage and append the change to the history; undone changes are forgotten.

        Parameters
        ----------
        stage
            A field of `StudySettings`.
        settings
            The stage's new settings.
        change
            What was done, in words.
        """
        if stage not in STAGES:
            raise ValueError(f"there is no stage called “{stage}”")
        after = settings.model_dump(mode="json")
        with self._sessions.begin() as session:
            row = self._row(session, sitter_id)
            before = self._document(session, sitter_id, stage)
            if before == after:
                return self._sitter(session, row)
            session.execute(
                delete(RevisionRow).where(RevisionRow.sitter_id == sitter_id, RevisionRow.number > row.head)
            )
            row.head += 1
            session.add(
                RevisionRow(
                    sitter_id=sitter_id, number=row.head, stage=stage, change=change[:200],
                    before=before, after=after, at=_now(),
                )
            )  # fmt: skip
            session.merge(StageRow(sitter_id=sitter_id, stage=stage, document=after))
        return self.get(sitter_id)

    @staticmethod
    def _document(session: Session, sitter_id: str, stage: str) -> dict[str, Any]:
        row = session.get(StageRow, (sitter_id, stage))
        if row is not None:
            return row.document
        settings: Settings = getattr(StudySettings(), stage)
        return settings.model_dump(mode="json")

    def undo(self, sitter_id: str) -> Sitter:
        """Take back the last change."""
        return self._walk(sitter_id, forward=False)

    def redo(self, sitter_id: str) -> Sitter:
        """Bring back the last change taken back."""
        return self._walk(sitter_id, forward=True)

    def _walk(self, sitter_id: str, forward: bool) -> Sitter:
        with self._sessions.begin() as session:
            row = self._row(session, sitter_id)
            number = row.head + 1 if forward else row.head
            revision = session.scalar(
                select(RevisionRow).where(RevisionRow.sitter_id == sitter_id, RevisionRow.number == number)
            )
            if revision is None:
                raise NothingToUndo(
                    "There is nothing to bring back." if forward else "There is nothing to undo."
                )
            document = revision.after if forward else revision.before
            session.merge(StageRow(sitter_id=sitter_id, stage=revision.stage, document=document))
            row.head = number if forward else number - 1
        return self.get(sitter_id)
