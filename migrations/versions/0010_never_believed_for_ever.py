"""Heat, packs that are stopped, commissioned and given to somebody, marks for life, and what makes figures comparable"""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None

_STEPS = (
    "charge", "decision", "overruled", "recovery", "recovery-check", "recovery-started", "repair", "second-look",
    "shelved", "skip",
)  # fmt: skip


def _one_of(steps: tuple[str, ...]) -> str:
    return f"step IN ({', '.join(repr(step) for step in sorted(steps))})"


_SYMPTOMS = (
    "symptom IN ('cuts-out', 'dead', 'does-not-charge', 'none', 'runs-short', 'unknown', 'unused', 'wet-or-dropped')"
)


def upgrade() -> None:
    op.drop_constraint(op.f("ck_donor_symptom"), "donor", type_="check")
    op.create_check_constraint(op.f("ck_donor_symptom"), "donor", _SYMPTOMS)
    # Until now the page called this answer "nobody knows", and that is what people said by it.
    op.execute("UPDATE donor SET symptom = 'unknown' WHERE symptom = 'none'")
    op.drop_constraint(op.f("ck_step_step"), "step", type_="check")
    op.create_check_constraint(op.f("ck_step_step"), "step", _one_of((*_STEPS, "came-back")))
    op.add_column("inspection", sa.Column("heat", JSONB(), nullable=False, server_default="{}"))
    judgement: tuple[sa.Column[Any], ...] = (
        sa.Column("judged_by", sa.Integer(), nullable=False, server_default="1"),
        sa.Column("resting_voltage_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("is_marked", sa.Boolean(), nullable=False, server_default="false"),
        sa.Column("recovery_proved", sa.Boolean(), nullable=False, server_default="true"),
        sa.Column("resistances_mohm", JSONB(), nullable=False, server_default="{}"),
        sa.Column("comparable", JSONB(), nullable=True),
        sa.Column("carries_a", sa.Double(), nullable=True),
    )
    for column in judgement:
        op.add_column("judgement", column)
    pack = (
        sa.Column("stopped_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("stopped_by_id", sa.Integer(), nullable=True),
        sa.Column("stopped_why", sa.Text(), nullable=True),
        sa.Column("commissioning", JSONB(), nullable=True),
        sa.Column("commissioned_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("commissioned_by_id", sa.Integer(), nullable=True),
        sa.Column("given_to", sa.Text(), nullable=True),
    )
    for column in pack:
        op.add_column("pack", column)
    op.create_foreign_key(op.f("fk_pack_stopped_by_id"), "pack", "person", ["stopped_by_id"], ["id"])
    op.create_foreign_key(op.f("fk_pack_commissioned_by_id"), "pack", "person", ["commissioned_by_id"], ["id"])
    op.create_check_constraint(op.f("ck_pack_stopped_says_why"), "pack", "(stopped_at IS NULL) = (stopped_why IS NULL)")
    op.create_check_constraint(
        op.f("ck_pack_commissioned_says_what"), "pack", "(commissioning IS NULL) = (commissioned_at IS NULL)"
    )
    op.add_column("pack_cell", sa.Column("mark_allowed_by_id", sa.Integer(), nullable=True))
    op.add_column("pack_cell", sa.Column("mark_allowed_why", sa.Text(), nullable=True))
    op.create_foreign_key(
        op.f("fk_pack_cell_mark_allowed_by_id"), "pack_cell", "person", ["mark_allowed_by_id"], ["id"]
    )
