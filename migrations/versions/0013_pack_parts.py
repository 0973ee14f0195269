"""A pack has a plan of parts with their figures, and what a coordinator let pass"""

import json
from pathlib import Path

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None

SEEDS = Path(__file__).parents[1] / "seeds" / "0013_pack_parts.json"
KINDS = (
    "'board', 'cell-fuses', 'charger', 'connector', 'converter', 'device', 'fuse', 'holder', 'own-protection', "
    "'promise', 'strip', 'switch', 'wire'"
)


def upgrade() -> None:
    kinds = op.create_table(
        "pack_part_kind",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("figures", postgresql.JSONB(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("is_active", sa.Boolean(), server_default="true", nullable=False),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.CheckConstraint(f"kind IN ({KINDS})", name=op.f("ck_pack_part_kind_kind")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_pack_part_kind")),
        sa.UniqueConstraint("name", name=op.f("uq_pack_part_kind_name")),
    )
    op.create_table(
        "pack_part",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("pack_id", sa.Integer(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("figures", postgresql.JSONB(), nullable=False),
        sa.Column("part_id", sa.Integer()),
        sa.CheckConstraint(f"kind IN ({KINDS})", name=op.f("ck_pack_part_kind")),
        sa.ForeignKeyConstraint(["pack_id"], ["pack.id"], name=op.f("fk_pack_part_pack_id_pack")),
        sa.ForeignKeyConstraint(["part_id"], ["part.id"], name=op.f("fk_pack_part_part_id_part")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_pack_part")),
        sa.UniqueConstraint(
            "pack_id", "position", name=op.f("uq_pack_part_pack_id_position"), deferrable=True, initially="DEFERRED"
        ),
    )
    op.create_index(op.f("ix_pack_part_part_id"), "pack_part", ["part_id"])
    op.create_table(
        "pack_waiver",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("pack_id", sa.Integer(), nullable=False),
        sa.Column("check", sa.Text(), nullable=False),
        sa.Column("finding", postgresql.JSONB(), nullable=False),
        sa.Column("why", sa.Text(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("by_id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["pack_id"], ["pack.id"], name=op.f("fk_pack_waiver_pack_id_pack")),
        sa.ForeignKeyConstraint(["by_id"], ["person.id"], name=op.f("fk_pack_waiver_by_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_pack_waiver")),
    )
    op.create_index(op.f("ix_pack_waiver_pack_id"), "pack_waiver", ["pack_id"])
    op.bulk_insert(kinds, json.loads(SEEDS.read_text(encoding="utf-8")))
