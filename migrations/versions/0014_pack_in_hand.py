"""A pack has a layout, steps that were done at it, a public page, reports of those who use it, and recalls it falls under"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("pack", sa.Column("layout", postgresql.JSONB()))
    op.add_column("pack", sa.Column("proving_since", sa.DateTime(timezone=True)))
    op.add_column("pack", sa.Column("job", sa.Text()))
    op.execute("UPDATE pack SET proving_since = made_at WHERE state IN ('built', 'given-out', 'back')")
    op.create_table(
        "pack_step",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("pack_id", sa.Integer(), nullable=False),
        sa.Column("stage", sa.Text(), nullable=False),
        sa.Column("step", sa.Text(), nullable=False),
        sa.Column("state", sa.Text(), nullable=False),
        sa.Column("figures", postgresql.JSONB(), nullable=False),
        sa.Column("finding", postgresql.JSONB()),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("by_id", sa.Integer(), nullable=False),
        sa.CheckConstraint("stage IN ('build', 'prove')", name=op.f("ck_pack_step_stage")),
        sa.CheckConstraint(
            "state IN ('done', 'wrong', 'confirmed', 'waived', 'undone')", name=op.f("ck_pack_step_state")
        ),
        sa.ForeignKeyConstraint(["pack_id"], ["pack.id"], name=op.f("fk_pack_step_pack_id_pack")),
        sa.ForeignKeyConstraint(["by_id"], ["person.id"], name=op.f("fk_pack_step_by_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_pack_step")),
    )
    op.create_index(op.f("ix_pack_step_pack_id"), "pack_step", ["pack_id"])
    op.create_table(
        "pack_page",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("pack_id", sa.Integer(), nullable=False),
        sa.Column("token", sa.Text(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("withdrawn_at", sa.DateTime(timezone=True)),
        sa.ForeignKeyConstraint(["pack_id"], ["pack.id"], name=op.f("fk_pack_page_pack_id_pack")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_pack_page")),
        sa.UniqueConstraint("token", name=op.f("uq_pack_page_token")),
    )
    op.create_index(op.f("ix_pack_page_pack_id"), "pack_page", ["pack_id"])
    op.create_table(
        "pack_report",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("pack_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("words", sa.Text(), nullable=False),
        sa.Column("figures", postgresql.JSONB(), nullable=False),
        sa.Column("decision", sa.Text()),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("by_id", sa.Integer(), nullable=False),
        sa.CheckConstraint("kind IN ('use', 'back')", name=op.f("ck_pack_report_kind")),
        sa.CheckConstraint("decision IN ('mend', 'replace', 'retire', 'again')", name=op.f("ck_pack_report_decision")),
        sa.ForeignKeyConstraint(["pack_id"], ["pack.id"], name=op.f("fk_pack_report_pack_id_pack")),
        sa.ForeignKeyConstraint(["by_id"], ["person.id"], name=op.f("fk_pack_report_by_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_pack_report")),
    )
    op.create_index(op.f("ix_pack_report_pack_id"), "pack_report", ["pack_id"])
    op.create_table(
        "recall",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("about", sa.Text(), nullable=False),
        sa.Column("asked", postgresql.JSONB(), nullable=False),
        sa.Column("why", sa.Text(), nullable=False),
        sa.Column("tell", sa.Text(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("by_id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["by_id"], ["person.id"], name=op.f("fk_recall_by_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_recall")),
    )
    op.create_table(
        "recalled_pack",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("recall_id", sa.Integer(), nullable=False),
        sa.Column("pack_id", sa.Integer(), nullable=False),
        sa.Column("cells", postgresql.JSONB(), nullable=False),
        sa.Column("settled_at", sa.DateTime(timezone=True)),
        sa.Column("settled_by_id", sa.Integer()),
        sa.Column("settled_how", sa.Text()),
        sa.CheckConstraint(
            "(settled_at IS NULL) = (settled_how IS NULL)", name=op.f("ck_recalled_pack_settled_says_how")
        ),
        sa.ForeignKeyConstraint(["recall_id"], ["recall.id"], name=op.f("fk_recalled_pack_recall_id_recall")),
        sa.ForeignKeyConstraint(["pack_id"], ["pack.id"], name=op.f("fk_recalled_pack_pack_id_pack")),
        sa.ForeignKeyConstraint(["settled_by_id"], ["person.id"], name=op.f("fk_recalled_pack_settled_by_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_recalled_pack")),
        sa.UniqueConstraint("recall_id", "pack_id", name=op.f("uq_recalled_pack_recall_id_pack_id")),
    )
    op.create_index(op.f("ix_recalled_pack_pack_id"), "recalled_pack", ["pack_id"])
