"""A data folder as one file, and back.

A backup is a plain zip: `backup.json` says what is in it, `sitters.sqlite` is the database at one
moment, `originals/…` and `paintings/…` are the photographs under the SHA-256 of their bytes.
"""

from __future__ import annotations

import errno
import hashlib
import json
import re
import shutil
import tempfile
import zipfile
from dataclasses import dataclass
from pathlib import Path
from typing import IO

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from truesitter.core.refusal import Refusal
from truesitter.store.backup.lock import copying
from truesitter.store.files.archives import SPOILT
from truesitter.store.files.blobs import Blobs
from truesitter.store.rows.clock import now
from truesitter.store.rows.database import DATABASE, NEWEST, copy_database, form_of, only_read
from truesitter.store.trouble import FULL, NotKept, disk_errors_as_refusals

BLOBS = ("originals", "paintings")
"""Folders of photographs in a data folder."""
REFERRED = {"originals": "SELECT sha256 FROM reference", "paintings": "SELECT sha256 FROM painting"}
"""What the database says should be in each."""
MANIFEST = "backup.json"
_HASH = re.compile(r"[0-9a-f]{64}")
_PIECE = 1 << 20
_MOST_MANIFEST = 64 << 20


class _Manifest(BaseModel):
    model_config = ConfigDict(extra="forbid")

    format: str = Field(pattern="^truesitter-backup$")
    version: int = Field(ge=1, le=1)
    form: str
    """The newest migration the database has been through."""
    made_at: str
    database: str = Field(pattern="^[0-9a-f]{64}$")
    originals: dict[str, int]
    paintings: dict[str, int]
    missing: list[str] = []
    """What the database speaks of and was not there to be copied, in words."""


@dataclass(frozen=True)
class Backup:
    """What a backup holds.

    Attributes
    ----------
    sitters, photographs, size
        How many of each (deleted sitters are among them until they are tidied away), and bytes.
    lost
        Photographs the database speaks of that are missing or damaged here, in words.
    """

    sitters: int
    photographs: int
    size: int
    lost: tuple[str, ...]


def referred(database: Path) -> dict[str, set[str]]:
    """Hashes of all photographs a database speaks of, by folder."""
    with only_read(database) as db:
        tables = {name for (name,) in db.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
        return {
            folder: {sha for (sha,) in db.execute(query)} if query.rsplit(" ", 1)[-1] in tables else set()
            for folder, query in REFERRED.items()
        }


def write_backup(folder: Path, target: Path) -> Backup:
    """Copy a data folder into one file, also while it is being worked in.

    The file is written beside its place, read back and held against its hashes, then renamed.

    Raises
    ------
    Refusal
        When there is nothing to copy, or the copy does not come out as it went in.
    """
    if not (folder / DATABASE).is_file():
        raise Refusal(f"there are no sitters in {folder}")
    with disk_errors_as_refusals(target.parent):
        target.parent.mkdir(parents=True, exist_ok=True)
        return _write_backup(folder, target)


def _write_backup(folder: Path, target: Path) -> Backup:
    with copying(folder), tempfile.TemporaryDirectory(prefix=".part-", dir=target.parent) as aside:
        copy = Path(aside) / DATABASE
        copy_database(folder / DATABASE, copy)
        part = Path(aside) / "backup.zip"
        made = _write(folder, copy, part)
        _verify(part)
        part.replace(target)
    return made


def _write(folder: Path, database: Path, part: Path) -> Backup:
    sound: dict[str, dict[str, int]] = {}
    lost = []
    with zipfile.ZipFile(part, "w", zipfile.ZIP_STORED, allowZip64=True) as archive:
        archive.write(database, DATABASE, zipfile.ZIP_DEFLATED)
        for name, hashes in referred(database).items():
            blobs, sound[name] = Blobs(folder / name), {}
            for sha in sorted(hashes):
                if blobs.sound(sha):
                    archive.write(blobs.path(sha), f"{name}/{sha}")
                    sound[name][sha] = blobs.path(sha).stat().st_size
                else:
                    lost.append(f"a file of {name} is missing or damaged: {sha[:12]}…")
        manifest = _Manifest(
            format="truesitter-backup", version=1, form=form_of(database) or "",
            made_at=now().isoformat(timespec="seconds"), database=_hash_of(database), missing=lost, **sound,
        )  # fmt: skip
        archive.writestr(MANIFEST, manifest.model_dump_json(indent=1), zipfile.ZIP_DEFLATED)
    with only_read(database) as db:
        (sitters,) = db.execute("SELECT count(*) FROM sitter").fetchone()
    held = sum(len(names) for names in sound.values())
    return Backup(sitters, held, part.stat().st_size, tuple(lost))


def _hash_of(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def _verify(part: Path) -> None:
    """Read a backup back and hold every part of it against its hash."""
    with zipfile.ZipFile(part) as archive:
        manifest = _manifest(archive)
        for name, sha in _contents(manifest):
            with archive.open(name) as file:
                if hashlib.file_digest(file, "sha256").hexdigest() != sha:  # type: ignore[arg-type]
                    raise NotKept("the backup did not come out as it went in: the disk it is on is not sound")


def _contents(manifest: _Manifest) -> list[tuple[str, str]]:
    """Every file in a backup but its own description, and the hash it should have."""
    photographs = [(f"{name}/{sha}", sha) for name in BLOBS for sha in getattr(manifest, name)]
    return [(DATABASE, manifest.database), *photographs]


def _manifest(archive: zipfile.ZipFile) -> _Manifest:
    """What a backup says of itself.

    Raises
    ------
    Refusal
        For a file that is no backup, or one of a newer version.
    """
    try:
        if archive.getinfo(MANIFEST).file_size > _MOST_MANIFEST:
            raise Refusal("this is no backup of True Sitter")
        manifest = _Manifest.model_validate(json.loads(archive.read(MANIFEST)))
    except (*SPOILT, ValueError, ValidationError, RecursionError):
        raise Refusal("this is no backup of True Sitter") from None
    if not all(_HASH.fullmatch(sha) for name in BLOBS for sha in getattr(manifest, name)):
        raise Refusal("this is no backup of True Sitter")
    if manifest.form > NEWEST:
        raise Refusal("this backup was written by a newer True Sitter: restore it with that one")
    return manifest


def restore_backup(source: Path, folder: Path) -> int:
    """Make a data folder of a backup, or of one of the copies made daily; how many photographs it holds.

    Parameters
    ----------
    source
        A backup file, or the folder of a daily copy.
    folder
        Must be missing or empty. It is there whole or not at all.

    Raises
    ------
    Refusal
        When the backup is none or damaged, or the folder is in use.
    UnusableFolder
        When the folder cannot be made.
    """
    if folder.exists() and (not folder.is_dir() or any(folder.iterdir())):
        raise Refusal(f"{folder} is not empty: a backup is restored into a new folder")
    with disk_errors_as_refusals(folder):
        folder.parent.mkdir(parents=True, exist_ok=True)
        part = Path(tempfile.mkdtemp(prefix=".part-", dir=folder.parent))
    try:
        held = _copy_folder(source, part) if source.is_dir() else _unpack(source, part)
        with disk_errors_as_refusals(folder):
            if folder.exists():
                folder.rmdir()
            part.chmod(0o755)
            part.rename(folder)
    finally:
        shutil.rmtree(part, ignore_errors=True)
    return held


def _copy_folder(source: Path, part: Path) -> int:
    if not (source / DATABASE).is_file():
        raise Refusal(f"{source} is no copy of a data folder")
    copy_database(source / DATABASE, part / DATABASE)
    held = 0
    for name, hashes in referred(part / DATABASE).items():
        here, there = Blobs(source / name), Blobs(part / name)
        for sha in hashes:
            if here.sound(sha):
                there.put(here.path(sha).read_bytes())
                held += 1
    return held


def _unpack(source: Path, part: Path) -> int:
    try:
        with zipfile.ZipFile(source) as archive:
            manifest = _manifest(archive)
            contents = _contents(manifest)
            sizes = [archive.getinfo(name).file_size for name, _ in contents]
            if sum(sizes) > shutil.disk_usage(part).free:
                raise NotKept(FULL)
            for name, sha in contents:
                path = part / DATABASE if name == DATABASE else Blobs(part / Path(name).parent).path(sha)
                path.parent.mkdir(parents=True, exist_ok=True)
                with archive.open(name) as packed, path.open("wb") as file:
                    if _copied(packed, file) != sha:
                        raise Refusal("this backup is damaged: nothing was restored from it")
    except (*SPOILT, OSError) as error:
        # A place before the beginning of the file is what a spoilt archive points at.
        if isinstance(error, OSError) and error.errno != errno.EINVAL:
            raise
        raise Refusal("this is no backup of True Sitter, or it is damaged") from None
    return len(contents) - 1


def _copied(packed: IO[bytes], file: IO[bytes]) -> str:
    """Copy a file out of an archive; its hash. The archive gives no more of it than it said there is."""
    found = hashlib.sha256()
    while piece := packed.read(_PIECE):
        found.update(piece)
        file.write(piece)
    return found.hexdigest()
