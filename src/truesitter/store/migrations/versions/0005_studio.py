"""What holds for the whole studio, and who made a change."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    op.create_table(
        "studio",
        sa.Column("key", sa.String, primary_key=True),
        sa.Column("document", sa.JSON, nullable=False),
    )
    for table in ("revision", "fact"):
        with op.batch_alter_table(table) as batch:
            batch.add_column(sa.Column("painter", sa.String, nullable=False, server_default=""))


def downgrade() -> None:
    for table in ("revision", "fact"):
        with op.batch_alter_table(table) as batch:
            batch.drop_column("painter")
    op.drop_table("studio")
