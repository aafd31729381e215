"""Files named by the hash of their contents, written whole or not at all."""

from __future__ import annotations

import hashlib
import os
import tempfile
from pathlib import Path

from truesitter.core.refusal import Refusal

PART = ".part-"


class MissingFile(Refusal):
    """A kept file is gone or damaged."""


class Blobs:
    """A folder of content-addressed files."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def _path(self, sha256: str) -> Path:
        return self._folder / sha256[:2] / sha256

    @staticmethod
    def name_of(data: bytes) -> str:
        """The name bytes are kept under: their SHA-256."""
        return hashlib.sha256(data).hexdigest()

    def put(self, data: bytes) -> str:
        """Keep bytes; returns their SHA-256. A damaged file of that name is mended.

        Writing goes to a temporary name and is renamed.
        """
        name = self.name_of(data)
        target = self._path(name)
        if target.exists() and hashlib.sha256(target.read_bytes()).hexdigest() == name:
            # As if written now: whoever tidies keeps its hands off what is newer than its start.
            os.utime(target)
            return name
        target.parent.mkdir(parents=True, exist_ok=True)
        handle, temporary = tempfile.mkstemp(dir=target.parent, prefix=PART)
        try:
            with os.fdopen(handle, "wb") as file:
                file.write(data)
                file.flush()
                os.fsync(file.fileno())
            Path(temporary).replace(target)
            _settle(target.parent)
        except BaseException:
            Path(temporary).unlink(missing_ok=True)
            raise
        return name

    def get(self, sha256: str) -> bytes:
        """Bytes kept under a hash.

        Raises
        ------
        MissingFile
            When there are none, or they are no longer those that were kept.
        """
        try:
            data = self._path(sha256).read_bytes()
        except FileNotFoundError:
            raise MissingFile("the photograph's file is missing: put the photograph in again") from None
        if hashlib.sha256(data).hexdigest() != sha256:
            raise MissingFile("the photograph's file is damaged: put the photograph in again to mend it")
        return data

    def path(self, sha256: str) -> Path:
        """Where bytes of a hash lie, or would."""
        return self._path(sha256)

    def names(self) -> set[str]:
        """Hashes of all that is kept; what a broken-off write left is none of them."""
        return {path.name for path in self._folder.glob("??/*") if not path.name.startswith(PART)}

    def sound(self, sha256: str) -> bool:
        """True when the bytes under a hash are there and are those that were kept."""
        try:
            with self._path(sha256).open("rb") as file:
                return hashlib.file_digest(file, "sha256").hexdigest() == sha256
        except OSError:
            return False

    def remove(self, sha256: str, before: float) -> None:
        """Remove bytes that nobody needs any more.

        Parameters
        ----------
        before
            Only when they were written earlier than this, in seconds since 1970.
        """
        path = self._path(sha256)
        if path.exists() and path.stat().st_mtime < before:
            path.unlink()

    def clear_broken_off(self, before: float) -> None:
        """Remove what writes that broke off before a moment left, in seconds since 1970."""
        for path in self._folder.glob(f"??/{PART}*"):
            if path.stat().st_mtime < before:
                path.unlink(missing_ok=True)


def _settle(folder: Path) -> None:
    """Make a rename outlast a power cut."""
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)
