"""Tables."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import JSON, Float, ForeignKey, Index, UniqueConstraint, text
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship


class Base(DeclarativeBase):
    """Base of all tables."""


class SitterRow(Base):
    """One sitter."""

    __tablename__ = "sitter"

    id: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    note: Mapped[str] = mapped_column(default="")
    created_at: Mapped[datetime]
    deleted_at: Mapped[datetime | None] = mapped_column(default=None)
    head: Mapped[int] = mapped_column(default=0)
    """Number of the revision in force; undo lowers it, redo raises it."""
    revision: Mapped[int] = mapped_column("edition", default=0)
    """Raised by every change, undo and redo: whoever writes says which one they saw."""

    reference: Mapped[ReferenceRow] = relationship(cascade="all, delete-orphan", lazy="joined")


class ReferenceRow(Base):
    """The photograph of a sitter; its bytes lie in the blob folder under their hash."""

    __tablename__ = "reference"

    sitter_id: Mapped[str] = mapped_column(ForeignKey("sitter.id", ondelete="CASCADE"), primary_key=True)
    sha256: Mapped[str]
    filename: Mapped[str]
    format: Mapped[str]
    width: Mapped[int]
    height: Mapped[int]
    size: Mapped[int]


class StageRow(Base):
    """Settings of one stage but for its rows, as the document of some version of its settings model."""

    __tablename__ = "stage"

    sitter_id: Mapped[str] = mapped_column(ForeignKey("sitter.id", ondelete="CASCADE"), primary_key=True)
    stage: Mapped[str] = mapped_column(primary_key=True)
    version: Mapped[int] = mapped_column(default=1)
    document: Mapped[dict[str, Any]] = mapped_column(JSON)


class ItemRow(Base):
    """One stroke, guide, join, pin or measure: an entry of a list in a stage's settings."""

    __tablename__ = "item"
    __table_args__ = (Index("ix_item_list", "sitter_id", "stage", "field", "at", unique=True),)

    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    sitter_id: Mapped[str] = mapped_column(ForeignKey("sitter.id", ondelete="CASCADE"))
    stage: Mapped[str]
    field: Mapped[str]
    at: Mapped[float] = mapped_column(Float)
    """Its place: entries are in the order of these numbers."""
    document: Mapped[dict[str, Any]] = mapped_column(JSON)


class ChangeRow(Base):
    """One change of one stage, as a patch that can be applied both ways."""

    __tablename__ = "revision"
    __table_args__ = (UniqueConstraint("sitter_id", "number"),)

    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    sitter_id: Mapped[str] = mapped_column(ForeignKey("sitter.id", ondelete="CASCADE"), index=True)
    number: Mapped[int]
    stage: Mapped[str]
    change: Mapped[str]
    patch: Mapped[dict[str, Any]] = mapped_column(JSON)
    at: Mapped[datetime]
    painter: Mapped[str] = mapped_column(default="", server_default="")
    """Who made it, in a studio of several; empty for whoever works alone."""


class EditRow(Base):
    """Which fields each recent revision touched, to tell whether two windows meant the same thing."""

    __tablename__ = "edit"

    sitter_id: Mapped[str] = mapped_column(ForeignKey("sitter.id", ondelete="CASCADE"), primary_key=True)
    revision: Mapped[int] = mapped_column("edition", primary_key=True)
    touched: Mapped[list[str]] = mapped_column(JSON)


class FactRow(Base):
    """Something that happened; rows are only ever added, and struck out when they were a mistake."""

    __tablename__ = "fact"

    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    sitter_id: Mapped[str] = mapped_column(ForeignKey("sitter.id", ondelete="CASCADE"), index=True)
    kind: Mapped[str]
    document: Mapped[dict[str, Any]] = mapped_column(JSON)
    at: Mapped[datetime]
    struck_at: Mapped[datetime | None] = mapped_column(default=None)
    painter: Mapped[str] = mapped_column(default="", server_default="")


class EntryRow(Base):
    """An entry of the log; rows are only ever added, and struck out when they were a mistake."""

    __tablename__ = "entry"
    __table_args__ = (
        Index("ix_entry_sitting", "sitting", "kind"),
        Index("ix_entry_struck", "number", sqlite_where=text("struck_at IS NOT NULL")),
        Index("ix_entry_kind", "kind", "number"),
        Index("ix_entry_sitter_kind", "sitter_id", "kind", "at"),
    )

    number: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    id: Mapped[str] = mapped_column(unique=True)
    """Stays the same for ever, also in files."""
    sitter_id: Mapped[str | None] = mapped_column(ForeignKey("sitter.id", ondelete="CASCADE"), index=True)
    at: Mapped[datetime]
    """When it happened."""
    kind: Mapped[str]
    document: Mapped[dict[str, Any]] = mapped_column(JSON)
    sitting: Mapped[str | None] = mapped_column(default=None)
    """The sitting that the document speaks of, where it does: to be found by."""
    painter: Mapped[str] = mapped_column(default="", server_default="")
    written_at: Mapped[datetime]
    struck_at: Mapped[datetime | None] = mapped_column(default=None)


class DrillRow(Base):
    """One round of a drill; rows are only ever added."""

    __tablename__ = "drill_round"
    __table_args__ = (
        Index("ix_drill_round_painter", "painter", "drill", "number"),
        Index("ix_drill_round_go", "painter", "drill", "go", "seed"),
    )

    number: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    painter: Mapped[str] = mapped_column(default="", server_default="")
    drill: Mapped[str]
    go: Mapped[str]
    """Rounds of one go have this in common."""
    at: Mapped[datetime]
    level: Mapped[float] = mapped_column(Float)
    right: Mapped[bool]
    off: Mapped[float] = mapped_column(Float)
    seed: Mapped[int]
    sitter: Mapped[str] = mapped_column(default="", server_default="")
    """Whose picture it was made from; kept when that is gone."""


class StudioRow(Base):
    """Something that holds for the whole studio."""

    __tablename__ = "studio"

    key: Mapped[str] = mapped_column(primary_key=True)
    document: Mapped[dict[str, Any]] = mapped_column(JSON)


class PaintingRow(Base):
    """A photograph of a sitter's painting; its bytes lie in the folder of paintings under their hash."""

    __tablename__ = "painting"

    sitter_id: Mapped[str] = mapped_column(ForeignKey("sitter.id", ondelete="CASCADE"), primary_key=True)
    sha256: Mapped[str] = mapped_column(primary_key=True)
    filename: Mapped[str]
    width: Mapped[int]
    height: Mapped[int]
    size: Mapped[int]
    at: Mapped[datetime]


class TubeRow(Base):
    """A tube of the painter's own."""

    __tablename__ = "tube"

    key: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    pigment: Mapped[str]
    amount_ml: Mapped[float | None] = mapped_column(Float)
    empty: Mapped[bool] = mapped_column(default=False)
    created_at: Mapped[datetime]
    removed_at: Mapped[datetime | None] = mapped_column(default=None)
    reading_id: Mapped[int | None] = mapped_column(default=None)
    """The reading in force; None for the library's typical colour."""

    readings: Mapped[list[ReadingRow]] = relationship(
        cascade="all, delete-orphan", order_by="ReadingRow.id", lazy="selectin"
    )


class ReadingRow(Base):
    """What was read off the swatches of a tube at one time; rows are only ever added."""

    __tablename__ = "reading"

    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    tube_key: Mapped[str] = mapped_column(ForeignKey("tube.key", ondelete="CASCADE"), index=True)
    source: Mapped[str]
    swatches: Mapped[dict[str, Any]] = mapped_column(JSON)
    before: Mapped[dict[str, float]] = mapped_column(JSON)
    after: Mapped[dict[str, float]] = mapped_column(JSON)
    at: Mapped[datetime]


class PaletteRow(Base):
    """A palette of the studio's."""

    __tablename__ = "palette"

    key: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    tubes: Mapped[list[str]] = mapped_column(JSON)
    transparent: Mapped[bool] = mapped_column(default=False)
