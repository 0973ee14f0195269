"""Testers on the wire: slots, programs that run in them, their rows, alarms, who is here, and evenings that are planned"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None

_KINDS = "'ac-meter', 'charger', 'tester', 'usb-meter', 'voltmeter'"


def upgrade() -> None:
    op.execute("CREATE SEQUENCE slot_number_seq START WITH 10")
    op.drop_constraint(op.f("ck_instrument_kind"), "instrument")
    op.create_check_constraint(
        op.f("ck_instrument_kind"), "instrument", f"kind IN ({_KINDS}, 'load', 'logger', 'supply')"
    )
    op.create_table(
        "evening",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("starts_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("ends_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("people", postgresql.JSONB(), nullable=False),
        sa.Column("promised", postgresql.JSONB(), nullable=False),
        sa.Column("slots", postgresql.JSONB(), nullable=False),
        sa.Column("later", postgresql.JSONB(), nullable=False),
        sa.Column("plan", postgresql.JSONB(), nullable=True),
        sa.Column("planned_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("changes", postgresql.JSONB(), nullable=False),
        sa.Column("closed_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("made_by_id", sa.Integer(), nullable=False),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.CheckConstraint("ends_at > starts_at", name=op.f("ck_evening_ends_after_start")),
        sa.ForeignKeyConstraint(["made_by_id"], ["person.id"], name=op.f("fk_evening_made_by_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_evening")),
    )
    op.create_table(
        "presence",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_presence_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_presence")),
    )
    op.create_index(op.f("ix_presence_at"), "presence", ["at"], unique=False)
    op.create_table(
        "tester",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("instrument_id", sa.Integer(), nullable=False),
        sa.Column("link", sa.Text(), nullable=False),
        sa.Column("address", sa.Text(), nullable=False),
        sa.Column("mapping", postgresql.JSONB(), nullable=False),
        sa.Column("resistor_ohm", sa.Double(), nullable=True),
        sa.Column("is_active", sa.Boolean(), server_default="true", nullable=False),
        sa.Column("state", sa.Text(), server_default="unknown", nullable=False),
        sa.Column("identity", sa.Text(), server_default="", nullable=False),
        sa.Column("trouble", postgresql.JSONB(), nullable=True),
        sa.Column("state_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("has_watchdog", sa.Boolean(), server_default="false", nullable=False),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.CheckConstraint("link IN ('lines', 'scpi')", name=op.f("ck_tester_link")),
        sa.CheckConstraint("state IN ('here', 'nonsense', 'silent', 'unknown')", name=op.f("ck_tester_state")),
        sa.CheckConstraint("resistor_ohm > 0", name=op.f("ck_tester_resistor")),
        sa.ForeignKeyConstraint(["instrument_id"], ["instrument.id"], name=op.f("fk_tester_instrument_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tester")),
        sa.UniqueConstraint("address", name=op.f("uq_tester_address")),
        sa.UniqueConstraint("instrument_id", name=op.f("uq_tester_instrument_id")),
    )
    op.create_table(
        "tester_try",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("tester_id", sa.Integer(), nullable=False),
        sa.Column("line", sa.Text(), nullable=False),
        sa.Column("answer", sa.Text(), nullable=True),
        sa.Column("trouble", sa.Text(), nullable=True),
        sa.Column("asked_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("asked_by_id", sa.Integer(), nullable=False),
        sa.Column("done_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(["asked_by_id"], ["person.id"], name=op.f("fk_tester_try_asked_by_id")),
        sa.ForeignKeyConstraint(["tester_id"], ["tester.id"], name=op.f("fk_tester_try_tester_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tester_try")),
    )
    op.create_table(
        "slot",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("number", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("tester_id", sa.Integer(), nullable=True),
        sa.Column("channel", sa.Integer(), nullable=True),
        sa.Column("max_charge_ma", sa.Double(), nullable=False),
        sa.Column("max_discharge_ma", sa.Double(), nullable=False),
        sa.Column("holds", postgresql.JSONB(), nullable=False),
        sa.Column("is_active", sa.Boolean(), server_default="true", nullable=False),
        sa.Column("cell_id", sa.Integer(), nullable=True),
        sa.Column("cell_since", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint("kind IN ('charger', 'tester')", name=op.f("ck_slot_kind")),
        sa.CheckConstraint("(tester_id IS NULL) = (channel IS NULL)", name=op.f("ck_slot_channel_of_tester")),
        sa.CheckConstraint("max_charge_ma >= 0 AND max_discharge_ma >= 0", name=op.f("ck_slot_currents")),
        sa.ForeignKeyConstraint(["cell_id"], ["cell.id"], name=op.f("fk_slot_cell_id")),
        sa.ForeignKeyConstraint(["tester_id"], ["tester.id"], name=op.f("fk_slot_tester_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_slot")),
        sa.UniqueConstraint("cell_id", name=op.f("uq_slot_cell_id")),
        sa.UniqueConstraint("number", name=op.f("uq_slot_number")),
    )
    op.create_index("uq_slot_tester_id_channel", "slot", ["tester_id", "channel"], unique=True)
    op.create_table(
        "tester_run",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("slot_id", sa.Integer(), nullable=False),
        sa.Column("cell_id", sa.Integer(), nullable=False),
        sa.Column("program", sa.Text(), nullable=False),
        sa.Column("plan", postgresql.JSONB(), nullable=False),
        sa.Column("progress", postgresql.JSONB(), nullable=True),
        sa.Column("state", sa.Text(), nullable=False),
        sa.Column("asked_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("asked_by_id", sa.Integer(), nullable=False),
        sa.Column("began_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("began_clock_s", sa.Double(), nullable=True),
        sa.Column("beat_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("rows", sa.Integer(), server_default="0", nullable=False),
        sa.Column("due_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("stop_asked_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("stop_asked_by_id", sa.Integer(), nullable=True),
        sa.Column("ended_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("end_said", postgresql.JSONB(), nullable=True),
        sa.Column("log_id", sa.Integer(), nullable=True),
        sa.Column("not_kept_said", postgresql.JSONB(), nullable=True),
        sa.Column("settled_at", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint(
            "program IN ('capacity', 'charge', 'cycle', 'pulse', 'rest', 'storage')", name=op.f("ck_tester_run_program")
        ),
        sa.CheckConstraint(
            "state IN ('asked', 'ended', 'refused', 'running', 'stopped', 'waits')", name=op.f("ck_tester_run_state")
        ),
        sa.ForeignKeyConstraint(["asked_by_id"], ["person.id"], name=op.f("fk_tester_run_asked_by_id")),
        sa.ForeignKeyConstraint(["cell_id"], ["cell.id"], name=op.f("fk_tester_run_cell_id")),
        sa.ForeignKeyConstraint(["log_id"], ["tester_log.id"], name=op.f("fk_tester_run_log_id")),
        sa.ForeignKeyConstraint(["slot_id"], ["slot.id"], name=op.f("fk_tester_run_slot_id")),
        sa.ForeignKeyConstraint(["stop_asked_by_id"], ["person.id"], name=op.f("fk_tester_run_stop_asked_by_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tester_run")),
    )
    op.create_index(op.f("ix_tester_run_cell_id"), "tester_run", ["cell_id"], unique=False)
    op.create_index(op.f("ix_tester_run_slot_id"), "tester_run", ["slot_id"], unique=False)
    op.create_index(
        "uq_tester_run_cell_live",
        "tester_run",
        ["cell_id"],
        unique=True,
        postgresql_where="state IN ('asked', 'running', 'waits')",
    )
    op.create_index(
        "uq_tester_run_slot_live",
        "tester_run",
        ["slot_id"],
        unique=True,
        postgresql_where="state IN ('asked', 'running', 'waits')",
    )
    op.create_table(
        "alarm",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("code", sa.Text(), nullable=False),
        sa.Column("said", postgresql.JSONB(), nullable=False),
        sa.Column("slot_id", sa.Integer(), nullable=True),
        sa.Column("tester_id", sa.Integer(), nullable=True),
        sa.Column("run_id", sa.Integer(), nullable=True),
        sa.Column("cell_id", sa.Integer(), nullable=True),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("acknowledged_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("acknowledged_by_id", sa.Integer(), nullable=True),
        sa.Column("done", sa.Text(), nullable=True),
        sa.CheckConstraint(
            "code IN ('charger-overdue', 'cold', 'contact-lost', 'more-in-than-believed', 'no-watchdog', 'nobody-here', 'over-time', 'over-voltage', 'raced-to-full', 'reversed', 'run-broken-off', 'take-it-off', 'tester-silent', 'tester-talks-nonsense', 'too-hot', 'too-low', 'wrong-cell')",
            name=op.f("ck_alarm_code"),
        ),
        sa.ForeignKeyConstraint(["acknowledged_by_id"], ["person.id"], name=op.f("fk_alarm_acknowledged_by_id")),
        sa.ForeignKeyConstraint(["cell_id"], ["cell.id"], name=op.f("fk_alarm_cell_id")),
        sa.ForeignKeyConstraint(["run_id"], ["tester_run.id"], name=op.f("fk_alarm_run_id")),
        sa.ForeignKeyConstraint(["slot_id"], ["slot.id"], name=op.f("fk_alarm_slot_id")),
        sa.ForeignKeyConstraint(["tester_id"], ["tester.id"], name=op.f("fk_alarm_tester_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_alarm")),
    )
    op.create_index(op.f("ix_alarm_cell_id"), "alarm", ["cell_id"], unique=False)
    op.create_index("ix_alarm_open", "alarm", ["at"], unique=False, postgresql_where="acknowledged_at IS NULL")
    op.create_table(
        "run_row",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.BigInteger(), nullable=False),
        sa.Column("time_s", sa.Double(), nullable=False),
        sa.Column("voltage_v", sa.Double(), nullable=False),
        sa.Column("current_a", sa.Double(), nullable=False),
        sa.Column("cell_degc", sa.Double(), nullable=True),
        sa.Column("stage", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["run_id"], ["tester_run.id"], name=op.f("fk_run_row_run_id"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("run_id", "number", name=op.f("pk_run_row")),
    )
    op.create_table(
        "push_key",
        sa.Column("id", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("private_pem", sa.Text(), nullable=False),
        sa.CheckConstraint("id = 1", name=op.f("ck_push_key_only_one")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_push_key")),
    )
    op.create_table(
        "push_subscription",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("endpoint", sa.Text(), nullable=False),
        sa.Column("p256dh", sa.Text(), nullable=False),
        sa.Column("auth", sa.Text(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_push_subscription_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_push_subscription")),
        sa.UniqueConstraint("endpoint", name=op.f("uq_push_subscription_endpoint")),
    )
