"""What a next step takes and needs, and when it is overdue"""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("judgement", sa.Column("next_overdue_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column("judgement", sa.Column("next_minutes", sa.Double(), nullable=True))
    op.add_column("judgement", sa.Column("next_needs", sa.Text(), nullable=True))
