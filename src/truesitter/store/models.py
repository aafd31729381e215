"""Tables."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import JSON, ForeignKey, UniqueConstraint
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
