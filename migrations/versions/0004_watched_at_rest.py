"""When a cell that is watched at rest is read again"""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("judgement", sa.Column("watched_reading_at", sa.DateTime(timezone=True), nullable=True))
    op.create_index(op.f("ix_judgement_watched_reading_at"), "judgement", ["watched_reading_at"])
