"""Instruments with corrections, testers' logs, and the queue of the worker"""

import sqlalchemy as sa
from alembic import op
from procrastinate.schema import SchemaManager
from sqlalchemy.dialects import postgresql

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.execute(sa.schema.CreateSequence(sa.Sequence("instrument_number_seq", start=10)))
    _instruments()
    _logs()
    for column, table in (("instrument_id", "instrument"), ("correction_id", "correction"), ("log_id", "tester_log")):
        op.add_column("reading", sa.Column(column, sa.Integer(), nullable=True))
        op.create_foreign_key(op.f(f"fk_reading_{column}"), "reading", table, [column], ["id"])
    op.create_index(op.f("ix_reading_instrument_id"), "reading", ["instrument_id"])
    # The package's own tables; several statements at once, which only the plain cursor takes.
    op.get_bind().connection.cursor().execute(SchemaManager.get_schema())


def _instruments() -> None:
    op.create_table(
        "instrument",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("number", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("resolution_v", sa.Double(), nullable=True),
        sa.Column("half_width_pct", sa.Double(), nullable=True),
        sa.Column("lead_mohm", sa.Double(), nullable=True),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("is_active", sa.Boolean(), server_default="true", nullable=False),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.CheckConstraint(
            "kind IN ('ac-meter', 'charger', 'tester', 'usb-meter', 'voltmeter')", name=op.f("ck_instrument_kind")
        ),
        sa.CheckConstraint(
            "resolution_v > 0 AND half_width_pct > 0 AND lead_mohm > 0", name=op.f("ck_instrument_positive")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_instrument")),
        sa.UniqueConstraint("number", name=op.f("uq_instrument_number")),
        sa.UniqueConstraint("name", name=op.f("uq_instrument_name")),
    )
    op.create_table(
        "correction",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("instrument_id", sa.Integer(), nullable=False),
        sa.Column("quantity", sa.Text(), nullable=False),
        sa.Column("factor", sa.Double(), nullable=False),
        sa.Column("ground", sa.Text(), nullable=False),
        sa.Column("comparison", postgresql.JSONB(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("ended_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("ended_by_id", sa.Integer(), nullable=True),
        sa.CheckConstraint("quantity IN ('capacity', 'resistance', 'voltage')", name=op.f("ck_correction_quantity")),
        sa.CheckConstraint("factor BETWEEN 0.5 AND 2", name=op.f("ck_correction_factor_sensible")),
        sa.ForeignKeyConstraint(["instrument_id"], ["instrument.id"], name=op.f("fk_correction_instrument_id")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_correction_person_id")),
        sa.ForeignKeyConstraint(["ended_by_id"], ["person.id"], name=op.f("fk_correction_ended_by_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_correction")),
    )
    op.create_index(
        "uq_correction_in_force", "correction", ["instrument_id", "quantity"], unique=True,
        postgresql_where=sa.text("ended_at IS NULL"),
    )  # fmt: skip


def _logs() -> None:
    op.create_table(
        "tester_log",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("sha256", sa.Text(), nullable=False),
        sa.Column("file_name", sa.Text(), nullable=False),
        sa.Column("bytes", sa.BigInteger(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("cell_id", sa.Integer(), nullable=True),
        sa.Column("instrument_id", sa.Integer(), nullable=True),
        sa.Column("state", sa.Text(), nullable=False),
        sa.Column("progress_pct", sa.Integer(), nullable=False),
        sa.Column("stop_asked", sa.Boolean(), nullable=False),
        sa.Column("answers", postgresql.JSONB(), nullable=False),
        sa.Column("read_as", postgresql.JSONB(none_as_null=True), nullable=True),
        sa.Column("remarks", postgresql.JSONB(none_as_null=True), nullable=True),
        sa.Column("tests", postgresql.JSONB(none_as_null=True), nullable=True),
        sa.Column("refusal", postgresql.JSONB(none_as_null=True), nullable=True),
        sa.CheckConstraint(
            "state IN ('asks', 'cancelled', 'read', 'reading', 'refused', 'waiting')", name=op.f("ck_tester_log_state")
        ),
        sa.CheckConstraint("progress_pct BETWEEN 0 AND 100", name=op.f("ck_tester_log_progress")),
        sa.CheckConstraint("bytes > 0", name=op.f("ck_tester_log_bytes_positive")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_tester_log_person_id")),
        sa.ForeignKeyConstraint(["cell_id"], ["cell.id"], name=op.f("fk_tester_log_cell_id")),
        sa.ForeignKeyConstraint(["instrument_id"], ["instrument.id"], name=op.f("fk_tester_log_instrument_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tester_log")),
    )
    op.create_index(op.f("ix_tester_log_sha256"), "tester_log", ["sha256"])
    op.create_index(op.f("ix_tester_log_cell_id"), "tester_log", ["cell_id"])
    op.create_table(
        "log_habit",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("signature", sa.Text(), nullable=False),
        sa.Column("answers", postgresql.JSONB(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_log_habit_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_log_habit")),
        sa.UniqueConstraint("signature", name=op.f("uq_log_habit_signature")),
    )
