"""The house's own values, special rules and switches"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    for name, empty in (("values", "{}"), ("special", "[]"), ("switches", "{}")):
        op.add_column("rule_set", sa.Column(name, postgresql.JSONB(), server_default=empty, nullable=False))
