"""One program to a data folder: a second start must not touch what the first is working on."""

from __future__ import annotations

import errno
import fcntl
import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from truesitter.core.refusal import Refusal
from truesitter.store.trouble import disk_errors_as_refusals

_LOCK, _COPYING = ".lock", ".copying"


class Held(Refusal):
    """Another process works on the data folder, or has the port."""


@contextmanager
def folder_lock(folder: Path, words: str = "another True Sitter") -> Iterator[None]:
    """Hold a data folder, made if it is missing; it is let go with the process at the latest.

    Parameters
    ----------
    words
        Who holds it: told to whoever comes second.

    Raises
    ------
    Held
        When another process holds it; the message says which.
    UnusableFolder
        When nothing can be written there.
    """
    with disk_errors_as_refusals(folder):
        folder.mkdir(parents=True, exist_ok=True)
        # Opened for appending: what the holder wrote stays for whoever comes second.
        file = (folder / _LOCK).open("a+")
    with file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            file.seek(0)
            holder = file.read(200).strip() or "another True Sitter"
            raise Held(f"{holder} is working on the sitters in {folder}: stop it first") from None
        with disk_errors_as_refusals(folder):
            file.truncate(0)
            file.write(f"{words} (process {os.getpid()})\n")
            file.flush()
        yield
        file.truncate(0)


@contextmanager
def copying(folder: Path) -> Iterator[None]:
    """Keep every file of a folder where it is while it is copied; where nobody can write it stays anyway."""
    try:
        file = (folder / _COPYING).open("a+")
    except OSError as error:
        if error.errno not in (errno.EROFS, errno.EACCES, errno.EPERM):
            raise
        yield
        return
    with file:
        fcntl.flock(file, fcntl.LOCK_SH)
        yield


@contextmanager
def tidying(folder: Path) -> Iterator[bool]:
    """Whether files may be removed from a folder now: not while someone copies it."""
    with (folder / _COPYING).open("a+") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            yield False
            return
        yield True
