"""Files named by the hash of their contents, written whole or not at all."""

from __future__ import annotations

import hashlib
import os
import tempfile
from pathlib import Path

from truesitter.core.refusal import Refusal


class MissingFile(Refusal):
    """A kept file is gone or damaged."""


class Blobs:
    """A folder of content-addressed files."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        folder.mkdir(parents=True, exist_ok=True)

    def _path(self, sha256: str) -> Path:
        return self._folder / sha256[:2] / sha256

    def put(self, data: bytes) -> str:
        """Keep bytes; returns their SHA-256. A damaged file of that name is mended.

        Writing goes to a temporary name and is renamed.
        """
        name = hashlib.sha256(data).hexdigest()
        target = self._path(name)
        if target.exists() and hashlib.sha256(target.read_bytes()).hexdigest() == name:
            return name
        target.parent.mkdir(parents=True, exist_ok=True)
        handle, temporary = tempfile.mkstemp(dir=target.parent, prefix=".part-")
        try:
            with os.fdopen(handle, "wb") as file:
                file.write(data)
                file.flush()
                os.fsync(file.fileno())
            Path(temporary).replace(target)
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

    def keep_only(self, wanted: set[str]) -> int:
        """Remove files that nothing refers to, and what a broken-off write left; returns how many."""
        removed = 0
        for path in self._folder.glob("??/*"):
            if path.name not in wanted:
                path.unlink()
                removed += 1
        return removed
