"""The shelf: sitters, their photographs and their settings."""

from __future__ import annotations

import shutil
import threading
import time
import uuid
from collections import OrderedDict
from collections.abc import Sequence
from pathlib import Path

from sqlalchemy import select
from sqlalchemy.orm import Session

from truesitter.core.reference.decode import decode, inspect
from truesitter.core.reference.frame import place
from truesitter.core.refusal import Refusal
from truesitter.core.settings import PassSettings, ReferenceSettings, Settings, StudySettings
from truesitter.store.access.passphrase import Passphrase
from truesitter.store.access.studio import StudioDocuments
from truesitter.store.backup.aside import KEPT_DAYS, check_not_lost, set_aside
from truesitter.store.backup.copies import DailyCopies
from truesitter.store.backup.lock import tidying
from truesitter.store.files.blobs import PART, Blobs, MissingFile
from truesitter.store.files.paintings import Paintings
from truesitter.store.files.sitter_files import SitterFiles
from truesitter.store.log.drills import DrillRounds
from truesitter.store.log.log import Log
from truesitter.store.rows.clock import now
from truesitter.store.rows.database import DATABASE, Sessions, open_database
from truesitter.store.rows.models import PaintingRow, ReferenceRow, SitterRow, StageRow
from truesitter.store.settings import history
from truesitter.store.settings.documents import STAGES, Loaded, Trouble, load_all_settings, plain
from truesitter.store.settings.edits import Edit
from truesitter.store.settings.facts import Facts
from truesitter.store.settings.palettes import StudioPalettes
from truesitter.store.settings.sitter import Sitter, UnknownSitter, clean_filename
from truesitter.store.settings.tubes import TubeRack, UnknownTube
from truesitter.store.settings.usual import UsualBrushes, UsualCanvas
from truesitter.store.trouble import disk_errors_as_refusals

_PHOTOGRAPHS: dict[str, type[ReferenceRow | PaintingRow]] = {
    "originals": ReferenceRow, "paintings": PaintingRow,
}  # fmt: skip
"""Folders of photographs, and the rows that speak of what lies in them."""
_REMEMBERED = 512
"""Settings of so many sitters are kept in memory as read."""


class Repository:
    """All sitters in one data folder."""

    def __init__(self, folder: Path) -> None:
        with disk_errors_as_refusals(folder):
            folder.mkdir(parents=True, exist_ok=True)
            check_not_lost(folder)
            self._engine = open_database(folder / DATABASE)
        self.folder = folder
        self._sessions = Sessions(self._engine)
        self._read: OrderedDict[tuple[str, int], Loaded] = OrderedDict()
        self._lock = threading.Lock()
        self.blobs = Blobs(folder / "originals")
        self.swatch_photos = Blobs(folder / "swatches")
        self.tubes = TubeRack(self._sessions)
        self.palettes = StudioPalettes(self._sessions, self.tubes)
        self.facts = Facts(self._sessions, self._row)
        self.log = Log(self._sessions, self._row)
        self.drills = DrillRounds(self._sessions)
        self.paintings = Paintings(self._sessions, Blobs(folder / "paintings"), self._row)
        self.studio = StudioDocuments(self._sessions)
        self.brushes = UsualBrushes(self.studio)
        self.canvas = UsualCanvas(self.studio)
        self.passphrase = Passphrase(self.studio, folder)
        self.copies = DailyCopies(folder, self.studio)
        self._files = SitterFiles(self._sessions, self.blobs, self.paintings.blobs)

    def close(self) -> None:
        """Let go of the database file."""
        self._engine.dispose()

    # -- reading --------------------------------------------------------------------------------

    def all(self) -> list[Sitter]:
        """Every sitter on the shelf, newest last."""
        with self._sessions.reading() as session:
            rows = session.scalars(
                select(SitterRow)
                .where(SitterRow.deleted_at.is_(None))
                .order_by(SitterRow.created_at, SitterRow.id)
            ).all()
            known = self._settings_of(session, rows)
            steps = history.around(session, *(row.id for row in rows))
            return [self._as_read(row, *known[row.id], *steps[row.id]) for row in rows]

    def get(self, sitter_id: str) -> Sitter:
        """One sitter; UnknownSitter when there is none."""
        with self._sessions.reading() as session:
            return self._sitter(session, self._row(session, sitter_id))

    def photograph(self, sha256: str) -> bytes:
        """Original bytes of a photograph; MissingFile when they are gone or damaged."""
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
        except MissingFile:
            raise UnknownTube("There is no such photograph of swatches.") from None

    def _row(self, session: Session, sitter_id: str, deleted: bool = False) -> SitterRow:
        row = session.get(SitterRow, sitter_id)
        if row is None or (row.deleted_at is not None) != deleted:
            raise UnknownSitter("This sitter is not on the shelf.")
        return row

    def _settings_of(self, session: Session, rows: Sequence[SitterRow]) -> dict[str, Loaded]:
        """Settings and troubles of some sitters as they are: each revision is read once."""
        with self._lock:
            known = {row.id: self._read[key] for row in rows if (key := (row.id, row.revision)) in self._read}
        missing = [row for row in rows if row.id not in known]
        if missing:
            known |= load_all_settings(session, [row.id for row in missing])
        for row in rows:
            self._remember((row.id, row.revision), known[row.id])
        return known

    def _remember(self, key: tuple[str, int], loaded: Loaded) -> None:
        with self._lock:
            self._read[key] = loaded
            self._read.move_to_end(key)
            while len(self._read) > _REMEMBERED:
                self._read.popitem(last=False)

    def _sitter(self, session: Session, row: SitterRow) -> Sitter:
        steps = history.around(session, row.id)[row.id]
        return self._as_read(row, *self._settings_of(session, [row])[row.id], *steps)

    def _as_read(
        self, row: SitterRow, settings: StudySettings, troubles: tuple[Trouble, ...], undo: str | None,
        redo: str | None,
    ) -> Sitter:  # fmt: skip
        return Sitter(
            id=row.id, name=row.name, note=row.note, created_at=row.created_at,
            sha256=row.reference.sha256, filename=row.reference.filename, width=row.reference.width,
            height=row.reference.height, settings=settings, troubles=troubles, revision=row.revision,
            undo=undo, redo=redo,
        )  # fmt: skip

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
            created_at=now(),
            head=0,
            revision=0,
        )
        row.reference = ReferenceRow(
            sha256=sha256, filename=shown, format=info.format, width=info.width,
            height=info.height, size=len(data),
        )  # fmt: skip
        begun: dict[str, Settings] = {"reference": ReferenceSettings.of_photograph(info.width, info.height)}
        brushes = self.brushes.get()
        if brushes is not None:
            begun["passes"] = PassSettings(brushes=brushes)
        with self._sessions.writing.begin() as session:
            session.add(row)
            session.add_all(
                StageRow(sitter_id=row.id, stage=stage, version=one.VERSION, document=plain(one))
                for stage, one in begun.items()
            )
        return self.get(row.id)

    def file(self, sitter_id: str) -> bytes:
        """A sitter as one file, to be kept elsewhere or passed on."""
        return self._files.write(self._row, sitter_id)

    def take_in(self, data: bytes, by: str = "") -> Sitter:
        """Put a sitter of a file on the shelf, beside those there are; `by` is whoever brings it.

        Raises
        ------
        Refusal
            Saying what is wrong with the file; nothing is kept then.
        """
        return self.get(self._files.take_in(data, by))

    def rename(self, sitter_id: str, name: str) -> Sitter:
        """Give a sitter another name; it cannot be empty."""
        if not name.strip():
            raise Refusal("A sitter needs a name.")
        with self._sessions.writing.begin() as session:
            self._row(session, sitter_id).name = name.strip()[:200]
        return self.get(sitter_id)

    def delete(self, sitter_id: str) -> None:
        """Take a sitter off the shelf; `restore` brings it back until the next start."""
        with self._sessions.writing.begin() as session:
            self._row(session, sitter_id).deleted_at = now()

    def restore(self, sitter_id: str) -> Sitter:
        """Put a deleted sitter back."""
        with self._sessions.writing.begin() as session:
            self._row(session, sitter_id, deleted=True).deleted_at = None
        return self.get(sitter_id)

    def purge(self, before: float | None = None) -> list[str]:
        """Forget deleted sitters for good, with their photographs where nobody else uses them.

        Only what the database itself names as deleted is removed; photographs that it does not know are set
        aside. Only for whoever holds the folder, before anything is served; nothing is done while the folder
        is being copied.

        Parameters
        ----------
        before
            Files written later stay, in seconds since 1970; by default this moment.

        Returns
        -------
        list of str
            What was set aside or came back, in sentences.
        """
        before = time.time() if before is None else before
        with tidying(self.folder) as free:
            if not free:
                return []
            with self._sessions.writing.begin() as session:
                gone = select(SitterRow.id).where(SitterRow.deleted_at.is_not(None))
                deleted = {
                    name: set(session.scalars(select(of.sha256).where(of.sitter_id.in_(gone))))
                    for name, of in _PHOTOGRAPHS.items()
                }
                for row in session.scalars(select(SitterRow).where(SitterRow.deleted_at.is_not(None))):
                    session.delete(row)
            said = []
            for name, of in _PHOTOGRAPHS.items():
                with self._sessions.reading() as session:
                    wanted = set(session.scalars(select(of.sha256)))
                for sha256 in deleted[name] - wanted:
                    Blobs(self.folder / name).remove(sha256, before)
                said += set_aside(self.folder, name, wanted, before)
            # What was read off photographs of swatches is kept as readings; they served their turn.
            for sha256 in self.swatch_photos.names():
                self.swatch_photos.remove(sha256, min(before, time.time() - KEPT_DAYS * 86400))
            self.swatch_photos.clear_broken_off(before)
            for broken_off in self.folder.glob(f"{PART}*"):
                shutil.rmtree(broken_off, ignore_errors=True)
        return said

    # -- settings and history -------------------------------------------------------------------

    def change(
        self, sitter_id: str, stage: str, edit: Edit, expected: int | None = None, by: str = ""
    ) -> Sitter:
        """Change a stage's settings; see `apply`."""
        return self.apply(sitter_id, stage, edit, expected, by)[1]

    def apply(
        self, sitter_id: str, stage: str, edit: Edit, expected: int | None = None, by: str = ""
    ) -> tuple[int, Sitter]:
        """Change a stage's settings and append the change to the history; undone changes are forgotten.

        Parameters
        ----------
        stage
            A field of `StudySettings`.
        edit
            What is changed.
        expected
            The revision the change was made on; None to join it to whatever is there.
        by
            Who makes it, in a studio of several.

        Returns
        -------
        tuple of int and Sitter
            The revision it was applied to, and the sitter as this change left it: neither what another window
            did before nor what it did since is taken for a part of it.

        Raises
        ------
        Overtaken
            When another window has changed the same thing since.
        Refusal
            For an unknown stage, one that cannot be read, or settings that make no sense.
        """
        history.check_stage(stage)
        with self._sessions.writing.begin() as session:
            row = self._row(session, sitter_id)
            before, (settings, troubles) = row.revision, self._settings_of(session, [row])[row.id]
            for trouble in troubles:
                if trouble.stage == stage:
                    raise Refusal(f"{trouble.sentence} Begin {stage} anew before you change it")
            history.check_edition(session, row, expected, edit.touches(stage), edit.words)
            new = history.change(session, row, settings, stage, edit, now(), by)
            if isinstance(new, ReferenceSettings):
                # What does not fit the photograph is refused here, not by everything that follows.
                place(new.frame(), row.reference.width, row.reference.height)
            if new is not None:
                settings = settings.model_copy(update={stage: new})
            session.flush()
            left = self._as_read(row, settings, troubles, *history.around(session, row.id)[row.id])
        # Remembered only when it is really kept.
        self._remember((sitter_id, left.revision), (settings, troubles))
        return before, left

    def reset(self, sitter_id: str, stage: str, words: str, by: str = "") -> Sitter:
        """Give a stage its usual settings, also one that cannot be read; this can be undone."""
        history.check_stage(stage)
        with self._sessions.writing.begin() as session:
            history.reset(session, self._row(session, sitter_id), stage, words, now(), by)
        return self.get(sitter_id)

    def undo(self, sitter_id: str, expected: int | None = None) -> Sitter:
        """Take back the last change."""
        return self._walk(sitter_id, False, expected)

    def redo(self, sitter_id: str, expected: int | None = None) -> Sitter:
        """Bring back the last change taken back."""
        return self._walk(sitter_id, True, expected)

    def _walk(self, sitter_id: str, forward: bool, expected: int | None) -> Sitter:
        everything = {f"{stage}.{name}" for stage, model in STAGES.items() for name in model.model_fields}
        with self._sessions.writing.begin() as session:
            row = self._row(session, sitter_id)
            history.check_edition(session, row, expected, everything, "Redo" if forward else "Undo")
            history.walk(session, row, forward)
        return self.get(sitter_id)
