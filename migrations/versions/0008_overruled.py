"""A coordinator may overrule a grade"""

from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

_STEPS = (
    "charge", "decision", "overruled", "recovery", "recovery-check", "recovery-started", "repair", "second-look", "shelved", "skip",
)  # fmt: skip


def upgrade() -> None:
    op.drop_constraint(op.f("ck_step_step"), "step", type_="check")
    op.create_check_constraint(op.f("ck_step_step"), "step", f"step IN ({', '.join(repr(step) for step in _STEPS)})")
