"""Tables."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import JSON, Float, ForeignKey, UniqueConstraint
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

    reference: Mapped[ReferenceRow] = relationship(cascade="all, delete-orphan", lazy="joined")
    stages: Mapped[list[StageRow]] = relationship(cascade="all, delete-orphan", lazy="selectin")
    revisions: Mapped[list[RevisionRow]] = relationship(
        cascade="all, delete-orphan", order_by="RevisionRow.number"
    )


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
    """Settings of one stage, as the document its settings model gives."""

    __tablename__ = "stage"

    sitter_id: Mapped[str] = mapped_column(ForeignKey("sitter.id", ondelete="CASCADE"), primary_key=True)
    stage: Mapped[str] = mapped_column(primary_key=True)
    document: Mapped[dict[str, Any]] = mapped_column(JSON)


class RevisionRow(Base):
    """One change of one stage, with what was before and after."""

    __tablename__ = "revision"
    __table_args__ = (UniqueConstraint("sitter_id", "number"),)

    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    sitter_id: Mapped[str] = mapped_column(ForeignKey("sitter.id", ondelete="CASCADE"), index=True)
    number: Mapped[int]
    stage: Mapped[str]
    change: Mapped[str]
    before: Mapped[dict[str, Any]] = mapped_column(JSON)
    after: Mapped[dict[str, Any]] = mapped_column(JSON)
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
