"""The log: what happened, added to and struck out."""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"


def upgrade() -> None:
    op.create_table(
        "entry",
        sa.Column("number", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("id", sa.String, nullable=False, unique=True),
        sa.Column(
            "sitter_id", sa.String, sa.ForeignKey("sitter.id", ondelete="CASCADE"), nullable=True, index=True
        ),
        sa.Column("at", sa.DateTime, nullable=False),
        sa.Column("kind", sa.String, nullable=False),
        sa.Column("document", sa.JSON, nullable=False),
        sa.Column("painter", sa.String, nullable=False, server_default=""),
        sa.Column("written_at", sa.DateTime, nullable=False),
        sa.Column("struck_at", sa.DateTime),
    )


def downgrade() -> None:
    op.drop_table("entry")
