"""The painter's own tubes, what was read off their swatches, and the studio's palettes."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.create_table(
        "tube",
        sa.Column("key", sa.String, primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("pigment", sa.String, nullable=False),
        sa.Column("amount_ml", sa.Float, nullable=True),
        sa.Column("empty", sa.Boolean, nullable=False),
        sa.Column("created_at", sa.DateTime, nullable=False),
        sa.Column("removed_at", sa.DateTime, nullable=True),
        sa.Column("reading_id", sa.Integer, nullable=True),
    )
    op.create_table(
        "reading",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column(
            "tube_key", sa.String, sa.ForeignKey("tube.key", ondelete="CASCADE"), nullable=False, index=True
        ),
        sa.Column("source", sa.String, nullable=False),
        sa.Column("swatches", sa.JSON, nullable=False),
        sa.Column("before", sa.JSON, nullable=False),
        sa.Column("after", sa.JSON, nullable=False),
        sa.Column("at", sa.DateTime, nullable=False),
    )
    op.create_table(
        "palette",
        sa.Column("key", sa.String, primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("tubes", sa.JSON, nullable=False),
        sa.Column("transparent", sa.Boolean, nullable=False),
    )


def downgrade() -> None:
    for table in ("palette", "reading", "tube"):
        op.drop_table(table)
