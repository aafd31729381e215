"""Photographs of the painting."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    op.create_table(
        "painting",
        sa.Column(
            "sitter_id", sa.String, sa.ForeignKey("sitter.id", ondelete="CASCADE"), primary_key=True
        ),
        sa.Column("sha256", sa.String, primary_key=True),
        sa.Column("filename", sa.String, nullable=False),
        sa.Column("width", sa.Integer, nullable=False),
        sa.Column("height", sa.Integer, nullable=False),
        sa.Column("size", sa.Integer, nullable=False),
        sa.Column("at", sa.DateTime, nullable=False),
    )


def downgrade() -> None:
    op.drop_table("painting")
