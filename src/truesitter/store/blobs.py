"""Files named by the hash of their contents, written whole or not at all."""

from __future__ import annotations

import hashlib
import os
import tempfile
from pathlib import Path


class Blobs:
    """A folder of content-addressed files."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        folder.mkdir(parents=True, exist_ok=True)

    def _path(self, sha256: str) -> Path:
        return self._folder / sha256[:2] / sha256

    def put(self, data: bytes) -> str:
        """Keep bytes; returns their SHA-256. Writing goes to a temporary name and is renamed."""
        name = hashlib.sha256(data).hexdigest()
        target = self._path(name)
        if target.exists():
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
        """Bytes kept under a hash; FileNotFoundError when there are none."""
        return self._path(sha256).read_bytes()

    def keep_only(self, wanted: set[str]) -> int:
        """Remove files that nothing refers to any more; returns how many."""
        removed = 0
        for path in self._folder.glob("??/*"):
            if path.name not in wanted:
                path.unlink()
                removed += 1
        return removed
