"""Cells are found by the day on which something was entered for them, without reading all entries"""

from alembic import op

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_index("ix_entry_at", "entry", ["at"])
