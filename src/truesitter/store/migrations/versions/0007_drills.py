"""Rounds of drills: what each painter answered."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    op.create_table(
        "drill_round",
        sa.Column("number", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("painter", sa.String, nullable=False, server_default=""),
        sa.Column("drill", sa.String, nullable=False),
        sa.Column("go", sa.String, nullable=False),
        sa.Column("at", sa.DateTime, nullable=False),
        sa.Column("level", sa.Float, nullable=False),
        sa.Column("right", sa.Boolean, nullable=False),
        sa.Column("off", sa.Float, nullable=False),
        sa.Column("seed", sa.Integer, nullable=False),
        sa.Column("sitter", sa.String, nullable=False, server_default=""),
    )
    op.create_index("ix_drill_round_painter", "drill_round", ["painter", "drill"])


def downgrade() -> None:
    op.drop_table("drill_round")
