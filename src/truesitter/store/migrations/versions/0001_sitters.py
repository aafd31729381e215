"""Sitters, references, stage settings, revisions."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def _of_sitter(primary: bool) -> sa.Column:
    return sa.Column(
        "sitter_id", sa.String, sa.ForeignKey("sitter.id", ondelete="CASCADE"),
        primary_key=primary, nullable=False,
    )


def upgrade() -> None:
    op.create_table(
        "sitter",
        sa.Column("id", sa.String, primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("note", sa.String, nullable=False),
        sa.Column("created_at", sa.DateTime, nullable=False),
        sa.Column("deleted_at", sa.DateTime, nullable=True),
        sa.Column("head", sa.Integer, nullable=False),
    )
    op.create_table(
        "reference",
        _of_sitter(True),
        sa.Column("sha256", sa.String, nullable=False),
        sa.Column("filename", sa.String, nullable=False),
        sa.Column("format", sa.String, nullable=False),
        sa.Column("width", sa.Integer, nullable=False),
        sa.Column("height", sa.Integer, nullable=False),
        sa.Column("size", sa.Integer, nullable=False),
    )
    op.create_table(
        "stage",
        _of_sitter(True),
        sa.Column("stage", sa.String, primary_key=True),
        sa.Column("document", sa.JSON, nullable=False),
    )
    op.create_table(
        "revision",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        _of_sitter(False),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("stage", sa.String, nullable=False),
        sa.Column("change", sa.String, nullable=False),
        sa.Column("before", sa.JSON, nullable=False),
        sa.Column("after", sa.JSON, nullable=False),
        sa.Column("at", sa.DateTime, nullable=False),
        sa.UniqueConstraint("sitter_id", "number"),
    )
    op.create_index("ix_revision_sitter_id", "revision", ["sitter_id"])


def downgrade() -> None:
    for table in ("revision", "stage", "reference", "sitter"):
        op.drop_table(table)
