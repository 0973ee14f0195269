"""What a plan was asked for, picking its cells, long searches, and what the shelf cannot meet yet"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("pack", sa.Column("request", JSONB(), nullable=True))
    op.add_column("pack_cell", sa.Column("picked_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column("pack_cell", sa.Column("picked_by_id", sa.Integer(), nullable=True))
    op.create_foreign_key(op.f("fk_pack_cell_picked_by_id"), "pack_cell", "person", ["picked_by_id"], ["id"])
    op.create_check_constraint(
        op.f("ck_pack_cell_picked_by_somebody"), "pack_cell", "(picked_at IS NULL) = (picked_by_id IS NULL)"
    )
    op.create_table(
        "match_search",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("request", JSONB(), nullable=False),
        sa.Column("seconds", sa.Integer(), nullable=False),
        sa.Column("state", sa.Text(), nullable=False),
        sa.Column("share", sa.Double(), nullable=False),
        sa.Column("is_stop_asked", sa.Boolean(), nullable=False),
        sa.Column("weakest_mah", sa.Double(), nullable=True),
        sa.Column("bound_mah", sa.Double(), nullable=True),
        sa.Column("groups", JSONB(), nullable=True),
        sa.Column("trouble", sa.Text(), nullable=True),
        sa.Column("asked_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("asked_by_id", sa.Integer(), nullable=False),
        sa.Column("ended_at", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint("state IN ('done', 'failed', 'searching', 'waiting')", name=op.f("ck_match_search_state")),
        sa.CheckConstraint("share BETWEEN 0 AND 1", name=op.f("ck_match_search_share")),
        sa.CheckConstraint("seconds BETWEEN 1 AND 600", name=op.f("ck_match_search_seconds")),
        sa.ForeignKeyConstraint(["asked_by_id"], ["person.id"], name=op.f("fk_match_search_asked_by_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_match_search")),
    )
    op.create_table(
        "wish",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("purpose", sa.Text(), nullable=False),
        sa.Column("request", JSONB(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("made_by_id", sa.Integer(), nullable=False),
        sa.Column("closed_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("pack_id", sa.Integer(), nullable=True),
        sa.CheckConstraint("char_length(purpose) BETWEEN 1 AND 120", name=op.f("ck_wish_purpose_length")),
        sa.CheckConstraint("pack_id IS NULL OR closed_at IS NOT NULL", name=op.f("ck_wish_met_is_closed")),
        sa.ForeignKeyConstraint(["made_by_id"], ["person.id"], name=op.f("fk_wish_made_by_id")),
        sa.ForeignKeyConstraint(["pack_id"], ["pack.id"], name=op.f("fk_wish_pack_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_wish")),
    )
