"""Is everything there that was kept? Hashes, references, history; and what can be mended."""

from __future__ import annotations

import sqlite3
import zipfile
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from pathlib import Path

from sqlalchemy import select
from sqlalchemy.orm import Session

from truesitter.core.refusal import Refusal
from truesitter.store.backup.aside import ASIDE
from truesitter.store.backup.backup import referred
from truesitter.store.backup.copies import COPIES
from truesitter.store.files.archives import SPOILT
from truesitter.store.files.blobs import Blobs
from truesitter.store.rows.database import DATABASE, NEWEST, Sessions, form_of, only_read, open_database
from truesitter.store.rows.models import ChangeRow, ReferenceRow, SitterRow
from truesitter.store.settings.documents import load_settings

_WHAT = {"originals": "the photograph", "paintings": "a photograph of the painting"}


@dataclass(frozen=True)
class CheckResult:
    """What a check found.

    Attributes
    ----------
    sitters, photographs
        How many were looked at.
    troubles, mended
        What is wrong, and what was wrong and is mended, each in a sentence.
    """

    sitters: int
    photographs: int
    troubles: tuple[str, ...]
    mended: tuple[str, ...] = ()


def check_folder(folder: Path, backups: Iterable[Path] = (), mend: bool = False) -> CheckResult:
    """Look through a data folder, also while it is being worked in.

    Parameters
    ----------
    backups
        Backup files in which missing and damaged photographs are looked for; the daily copies are
        looked through anyway.
    mend
        False to look only.

    Raises
    ------
    Refusal
        When there is no data folder.
    """
    path = folder / DATABASE
    if not path.is_file():
        raise Refusal(f"there are no sitters in {folder}")
    broken = _database_troubles(path)
    if broken:
        return CheckResult(0, 0, tuple(broken))
    engine = open_database(path)
    try:
        with Sessions(engine).reading() as session:
            rows = session.scalars(select(SitterRow).order_by(SitterRow.created_at)).all()
            troubles = [trouble for row in rows for trouble in _sitter_troubles(session, row)]
            owners = {row.reference.sha256: row.name for row in rows if row.reference}
    finally:
        engine.dispose()
    mended: list[str] = []
    looked = 0
    sources = list(backups)
    for name, hashes in referred(path).items():
        blobs = Blobs(folder / name)
        looked += len(hashes)
        for sha in sorted(sha for sha in hashes if not blobs.sound(sha)):
            whose = f"{_WHAT[name]} of {owners[sha]}" if sha in owners else _WHAT[name]
            if mend and (found := _elsewhere(folder, sources, name, sha)):
                blobs.put(found)
                mended.append(f"{whose} was missing or damaged and is mended.")
            else:
                troubles.append(f"{whose} is missing or damaged; put it in again, or mend it from a backup.")
    return CheckResult(len(rows), looked, tuple(_sentences(troubles)), tuple(_sentences(mended)))


def _sentences(words: list[str]) -> Iterator[str]:
    return (w[:1].upper() + w[1:] for w in words)


def _database_troubles(path: Path) -> list[str]:
    """What SQLite itself finds wrong."""
    try:
        with only_read(path) as db:
            said = [str(row[0]) for row in db.execute("PRAGMA integrity_check(5)")]
            loose = db.execute("PRAGMA foreign_key_check").fetchall()
    except sqlite3.DatabaseError:
        return ["The database cannot be read: restore a copy of it."]
    if (form := form_of(path)) != NEWEST:
        # Opened, it would be migrated: that is for whoever starts the application.
        return [f"The database is of another version (form {form}): start the application once, then look."]
    troubles = [] if said == ["ok"] else [f"The database is damaged ({said[0][:80]}): restore a copy of it."]
    return troubles + ([f"{len(loose)} entries belong to no sitter."] if loose else [])


def _sitter_troubles(session: Session, row: SitterRow) -> Iterator[str]:
    yield from (f"{row.name}: {t.sentence}" for t in load_settings(session, row.id)[1])
    if session.get(ReferenceRow, row.id) is None:
        yield f"{row.name} has no photograph."
    numbers = session.scalars(
        select(ChangeRow.number).where(ChangeRow.sitter_id == row.id).order_by(ChangeRow.number)
    ).all()
    if list(numbers) != list(range(1, len(numbers) + 1)):
        yield f"{row.name}: changes are missing from its history."
    elif not 0 <= row.head <= len(numbers):
        yield f"{row.name}: its history does not know which change is in force."


def _elsewhere(folder: Path, backups: list[Path], name: str, sha: str) -> bytes | None:
    """Sound bytes of a photograph in a daily copy or a backup."""
    for copy in (folder / ASIDE, *sorted((folder / COPIES).glob("*"), reverse=True)):
        blobs = Blobs(copy / name) if (copy / name).is_dir() else None
        if blobs and blobs.sound(sha):
            return blobs.get(sha)
    for backup in backups:
        try:
            with zipfile.ZipFile(backup) as archive:
                data = archive.read(f"{name}/{sha}")
        except (OSError, *SPOILT):
            continue
        if Blobs.name_of(data) == sha:
            return data
    return None
