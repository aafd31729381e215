"""Entries of the log as documents, for files."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from truesitter.core.log.entry import Entry
from truesitter.core.log.events import Happening, Id
from truesitter.core.log.tuning import LOG_DOCUMENT_MOST
from truesitter.core.refusal import Refusal


def as_utc(at: datetime) -> datetime:
    """A moment without its zone; one without any is UTC.

    Raises
    ------
    Refusal
        At the rim of the calendar, where another zone has no such day.
    """
    try:
        return at if at.tzinfo is None else at.astimezone(UTC).replace(tzinfo=None)
    except OverflowError:
        raise Refusal("there is no such day") from None


class EntryDocument(BaseModel):
    """One entry; times are UTC."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    id: Id
    sitter: str = Field("", max_length=60, description="Key of the picture's sitter; empty for none")
    at: datetime
    what: Happening
    painter: str = Field("", max_length=60)
    struck_at: datetime | None = None

    @classmethod
    def of(cls, entry: Entry) -> EntryDocument:
        """An entry as a document."""
        return cls(
            id=entry.id, sitter=entry.sitter, at=entry.at, what=entry.what, painter=entry.painter,
            struck_at=entry.struck_at,
        )  # fmt: skip

    def entry(self) -> Entry:
        """The entry it tells of."""
        struck = None if self.struck_at is None else as_utc(self.struck_at)
        return Entry(self.id, self.sitter, as_utc(self.at), self.what, self.painter, struck)


class LogDocument(BaseModel):
    """A log."""

    model_config = ConfigDict(extra="forbid")

    format: Literal["truesitter-log"] = "truesitter-log"
    version: Literal[1] = 1
    entries: Annotated[list[EntryDocument], Field(max_length=LOG_DOCUMENT_MOST)]


def log_schema() -> dict[str, Any]:
    """JSON schema of a log (draft 2020-12)."""
    return {
        **LogDocument.model_json_schema(),
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "A log",
    }
