"""What disks and databases do, told in sentences."""

from __future__ import annotations

import errno
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from sqlalchemy.exc import DatabaseError

from truesitter.core.refusal import Refusal

FULL = (
    "the disk is full: nothing of this was kept, and what was kept before is untouched. "
    "Make room, then try again"
)
_ERRNO = {
    errno.ENOSPC: FULL,
    errno.EDQUOT: FULL,
    errno.EFBIG: FULL,
    errno.EACCES: "may not be written to by whoever started this program",
    errno.EPERM: "may not be written to by whoever started this program",
    errno.EROFS: "lies on a disk that can only be read",
    errno.ENOTDIR: "is not a folder",
    errno.EEXIST: "is not a folder",
    errno.EIO: "lies on a disk that answers with errors: copy what you can",
}
_DATABASE = (
    ("disk is full", FULL),
    ("readonly database", "may not be written to by whoever started this program"),
    ("unable to open", "may not be written to by whoever started this program"),
    ("disk i/o error", "lies on a disk that answers with errors: copy what you can"),
    ("not a database", "holds a database that is none any more (sitters.sqlite): restore a copy of it"),
    ("malformed", "holds a damaged database (sitters.sqlite): restore a copy of it"),
    ("database is locked", "is being written to by another program: try again in a moment"),
)


DATABASE_ERRORS = (DatabaseError, sqlite3.DatabaseError)
"""What a database raises, asked through SQLAlchemy or by itself."""


class UnusableFolder(Refusal):
    """The data folder cannot be used as it is; nothing in it was touched."""


class NotKept(Refusal):
    """Something could not be written down, through no fault of whoever asked."""


def words_for(error: Exception) -> str | None:
    """What an error of a disk or database means; None when it is something else."""
    if isinstance(error, OSError):
        return _ERRNO.get(error.errno or 0)
    if isinstance(error, DATABASE_ERRORS):
        text = str(error.orig if isinstance(error, DatabaseError) else error).lower()
        return next((words for part, words in _DATABASE if part in text), None)
    return None


def sentence_for(error: Exception) -> str | None:
    """A sentence about an error while something was to be kept; None for an error of another kind."""
    words = words_for(error)
    if words is None or words == FULL:
        return words
    return f"nothing of this was kept: the folder of the sitters {words}"


@contextmanager
def disk_errors_as_refusals(folder: Path) -> Iterator[None]:
    """Turn what a disk or database refuses at a start into one sentence about the folder.

    Raises
    ------
    UnusableFolder
        With that sentence.
    """
    try:
        yield
    except (OSError, *DATABASE_ERRORS) as error:
        words = words_for(error)
        if words is None:
            raise
        raise UnusableFolder(words if words == FULL else f"the folder {folder} {words}") from error
