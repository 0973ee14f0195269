"""A person has a language of their own, and so has the house's paper"""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("person", sa.Column("language", sa.Text()))
    op.create_table(
        "house",
        sa.Column("id", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("print_language", sa.Text()),
        sa.CheckConstraint("id = 1", name=op.f("ck_house_only_one")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_house")),
    )
    op.execute("INSERT INTO house (id) VALUES (1)")
