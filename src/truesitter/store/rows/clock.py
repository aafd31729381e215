"""The time as it is kept."""

from __future__ import annotations

from datetime import UTC, datetime


def now() -> datetime:
    """UTC, without a time zone: as the database keeps it."""
    return datetime.now(UTC).replace(tzinfo=None)
