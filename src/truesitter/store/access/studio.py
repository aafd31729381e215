"""What holds for the whole studio, as documents by name."""

from __future__ import annotations

from typing import Any

from truesitter.store.rows.database import Sessions
from truesitter.store.rows.models import StudioRow


class StudioDocuments:
    """Documents in the database; each is replaced whole."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions

    def get(self, key: str) -> dict[str, Any] | None:
        """The document of a name; None before it was first put there."""
        with self._sessions.reading() as session:
            row = session.get(StudioRow, key)
            return None if row is None else row.document

    def put(self, key: str, document: dict[str, Any]) -> None:
        """Replace a document."""
        with self._sessions.writing.begin() as session:
            session.merge(StudioRow(key=key, document=document))
