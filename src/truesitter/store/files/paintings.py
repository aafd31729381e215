"""Photographs of paintings: bytes are kept by their hash as long as their sitter is, whatever is undone."""

from __future__ import annotations

from collections.abc import Callable

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from truesitter.core.reference.decode import PhotographInfo
from truesitter.core.refusal import Refusal
from truesitter.store.files.blobs import Blobs, MissingFile
from truesitter.store.rows.clock import now
from truesitter.store.rows.database import Sessions
from truesitter.store.rows.models import PaintingRow, SitterRow

MOST = 400
"""Photographs of one sitter's paintings."""


class Paintings:
    """Photographs of paintings; `row` finds a sitter's row or refuses."""

    def __init__(self, sessions: Sessions, blobs: Blobs, row: Callable[[Session, str], SitterRow]) -> None:
        self._sessions, self.blobs, self._row = sessions, blobs, row

    def keep(self, sitter_id: str, data: bytes, filename: str, info: PhotographInfo) -> str:
        """Keep a photograph; its hash. The same one twice is one.

        Raises
        ------
        Refusal
            When there are more than anyone could have taken.
        """
        with self._sessions.reading() as session:
            self._row(session, sitter_id)
            count = session.scalar(
                select(func.count()).select_from(PaintingRow).where(PaintingRow.sitter_id == sitter_id)
            )
            if (count or 0) >= MOST:
                raise Refusal(f"more than {MOST} photographs of one painting cannot be kept")
        sha256 = self.blobs.put(data)
        with self._sessions.writing.begin() as session:
            self._row(session, sitter_id)
            if session.get(PaintingRow, (sitter_id, sha256)) is None:
                session.add(
                    PaintingRow(
                        sitter_id=sitter_id, sha256=sha256, filename=filename, width=info.width,
                        height=info.height, size=len(data), at=now(),
                    )
                )  # fmt: skip
        return sha256

    def get(self, sha256: str) -> bytes:
        """Original bytes of a photograph.

        Raises
        ------
        MissingFile
            When they are gone or damaged.
        """
        try:
            return self.blobs.get(sha256)
        except MissingFile:
            raise MissingFile(
                "the file of this painting is missing or damaged: take the photograph in again"
            ) from None
