"""Indexes, so that a log of fifty thousand entries is added to as fast as one of ten; drills likewise."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    op.add_column("entry", sa.Column("sitting", sa.String))
    op.execute("UPDATE entry SET sitting = json_extract(document, '$.sitting')")
    op.create_index("ix_entry_sitting", "entry", ["sitting", "kind"])
    op.execute("CREATE INDEX ix_entry_struck ON entry (number) WHERE struck_at IS NOT NULL")
    op.create_index("ix_entry_kind", "entry", ["kind", "number"])
    op.create_index("ix_entry_sitter_kind", "entry", ["sitter_id", "kind", "at"])
    op.drop_index("ix_drill_round_painter", "drill_round")
    op.create_index("ix_drill_round_painter", "drill_round", ["painter", "drill", "number"])
    op.create_index("ix_drill_round_go", "drill_round", ["painter", "drill", "go", "seed"])


def downgrade() -> None:
    for name in ("ix_entry_sitting", "ix_entry_struck", "ix_entry_kind", "ix_entry_sitter_kind"):
        op.drop_index(name, "entry")
    op.drop_column("entry", "sitting")
    op.drop_index("ix_drill_round_go", "drill_round")
    op.drop_index("ix_drill_round_painter", "drill_round")
    op.create_index("ix_drill_round_painter", "drill_round", ["painter", "drill"])
