"""Copies made every day: the database, and the photographs by a second name that takes no room."""

from __future__ import annotations

import os
import re
import shutil
import tempfile
import threading
from dataclasses import dataclass
from datetime import date
from pathlib import Path

from truesitter.core.refusal import Refusal
from truesitter.store.access.studio import StudioDocuments
from truesitter.store.backup.backup import referred
from truesitter.store.backup.lock import copying
from truesitter.store.files.blobs import Blobs
from truesitter.store.rows.database import DATABASE, copy_database

COPIES = "copies"
KEPT = 7
"""Copies kept, one a day [try]."""
_KEY = "daily copies"
_DAY = re.compile(r"\d{4}-\d\d-\d\d")


@dataclass(frozen=True)
class Copy:
    """A copy by its day, and the bytes it takes up that nothing else needs."""

    day: str
    size: int


class DailyCopies:
    """The copies below a data folder, and whether they are made."""

    def __init__(self, folder: Path, documents: StudioDocuments) -> None:
        self._folder, self._documents = folder, documents
        self._lock = threading.Lock()

    @property
    def wanted(self) -> bool:
        """Whether a copy is made every day."""
        return bool((self._documents.get(_KEY) or {"wanted": True})["wanted"])

    def want(self, wanted: bool) -> None:
        """Make a copy every day from now on, or none any more; those there are stay."""
        self._documents.put(_KEY, {"wanted": wanted})

    def all(self) -> tuple[Copy, ...]:
        """The copies there are, newest first."""
        return tuple(Copy(path.name, self._size(path)) for path in reversed(self._paths()))

    def _paths(self) -> list[Path]:
        return sorted(p for p in (self._folder / COPIES).glob("*") if _DAY.fullmatch(p.name))

    def _size(self, copy: Path) -> int:
        """Bytes of a copy that are freed when it goes."""
        size = 0
        for path in copy.rglob("*"):
            if path.is_file() and path.stat().st_nlink == 1:
                size += path.stat().st_size
        return size

    def due(self, today: date) -> bool:
        """True when a copy is wanted and today's is not there."""
        return self.wanted and not (self._folder / COPIES / today.isoformat()).exists()

    def make(self, today: date) -> None:
        """Make today's copy, and let those go that are older than the last seven.

        Raises
        ------
        Refusal
            When today's is there already.
        """
        root = self._folder / COPIES
        target = root / today.isoformat()
        with self._lock, copying(self._folder):
            if target.exists():
                raise Refusal("today's copy is there already")
            root.mkdir(exist_ok=True)
            for left in root.glob(".part-*"):
                shutil.rmtree(left)
            part = Path(tempfile.mkdtemp(prefix=".part-", dir=root))
            try:
                copy_database(self._folder / DATABASE, part / DATABASE)
                for name, hashes in referred(part / DATABASE).items():
                    self._link(name, hashes, part)
                part.rename(target)
            finally:
                shutil.rmtree(part, ignore_errors=True)
            # Today's stays, also where a clock that runs behind makes it the oldest by name.
            others = [path for path in self._paths() if path != target]
            for old in others[: max(0, len(others) - KEPT + 1)]:
                shutil.rmtree(old)

    def _link(self, name: str, hashes: set[str], part: Path) -> None:
        here, there = Blobs(self._folder / name), Blobs(part / name)
        for sha in hashes:
            if not here.path(sha).exists():
                continue
            there.path(sha).parent.mkdir(parents=True, exist_ok=True)
            try:
                os.link(here.path(sha), there.path(sha))
            except OSError:
                # Some disks know no second names: then it is copied.
                shutil.copyfile(here.path(sha), there.path(sha))
