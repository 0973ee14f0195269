"""What was said is kept as a code with its parameters; what was kept as words until now stays as the words it was"""

from collections.abc import Iterator

from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def _as_said(column: str) -> str:
    return f"jsonb_build_object('code', 'as-said', 'with', jsonb_build_object('text', {column}))"


def _texts() -> Iterator[tuple[str, str, bool]]:
    """Columns of words: table, column, whether it may be empty."""
    yield "judgement", "next_text", False
    yield "judgement", "next_needs", True
    yield "pack", "stopped_why", True
    yield "match_search", "trouble", True


def upgrade() -> None:
    op.execute("ALTER TABLE judgement DISABLE TRIGGER append_only")
    for table, column, may_be_empty in _texts():
        op.alter_column(
            table,
            column,
            type_=JSONB(),
            existing_nullable=may_be_empty,
            postgresql_using=f"CASE WHEN {column} IS NULL THEN NULL ELSE {_as_said(column)} END",
        )
    op.alter_column("judgement", "next_text", new_column_name="next_said")
    old_reason, old_refusal = _as_said("reason ->> 'text'"), _as_said("refusal ->> 'text'")
    old_remark = _as_said("remark ->> 'text'")
    op.execute(
        "UPDATE judgement SET reasons = (SELECT coalesce(jsonb_agg((reason - 'text') || "
        f"jsonb_build_object('said', {old_reason}) ORDER BY place), '[]') "
        "FROM jsonb_array_elements(reasons) WITH ORDINALITY AS each(reason, place))"
    )
    op.execute(
        f"UPDATE tester_log SET refusal = (refusal - 'text') || jsonb_build_object('said', {old_refusal}) "
        "WHERE refusal ? 'text'"
    )
    op.execute(
        "UPDATE tester_log SET remarks = (SELECT coalesce(jsonb_agg((remark - 'text') || "
        f"jsonb_build_object('said', {old_remark}) ORDER BY place), '[]') "
        "FROM jsonb_array_elements(remarks) WITH ORDINALITY AS each(remark, place)) "
        "WHERE jsonb_typeof(remarks) = 'array'"
    )
    op.execute("ALTER TABLE judgement ENABLE TRIGGER append_only")
