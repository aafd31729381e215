"""A sitter as kept."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from truesitter.core.settings import StudySettings
from truesitter.store.settings.documents import Trouble

_FILENAME_LIMIT = 120


class UnknownSitter(LookupError):
    """There is no sitter with that key on the shelf."""


@dataclass(frozen=True)
class Sitter:
    """A sitter as kept.

    Attributes
    ----------
    id, name, note, created_at
        Key, name, a line about the sitting, and when it was put on the shelf (UTC).
    sha256, filename, width, height
        The photograph: hash of its bytes, its own name, upright size in pixels.
    settings, troubles
        Everything the painter set, and stages whose settings cannot be read.
    revision
        Raised by every change, undo and redo.
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
    troubles: tuple[Trouble, ...]
    revision: int
    undo: str | None
    redo: str | None


def clean_filename(name: str) -> str:
    """The last part of a file name, without control characters and not too long."""
    last = name.replace("\\", "/").rsplit("/", 1)[-1]
    printable = "".join(c for c in last if c.isprintable()).strip()
    return printable[:_FILENAME_LIMIT] or "photograph"
