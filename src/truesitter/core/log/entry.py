"""An entry of the log."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from truesitter.core.log.events import Happening


@dataclass(frozen=True)
class Entry:
    """Something that happened.

    Attributes
    ----------
    id
        Stays the same for ever, also in files.
    sitter
        Whose painting it is of; empty for none.
    at
        When it happened (UTC, without a time zone).
    what
        What it was.
    painter
        Who it was, in a studio of several.
    struck_at
        When it was struck out as a mistake; None while it stands.
    """

    id: str
    sitter: str
    at: datetime
    what: Happening
    painter: str = ""
    struck_at: datetime | None = None

    @property
    def stands(self) -> bool:
        """False once it is struck out."""
        return self.struck_at is None
