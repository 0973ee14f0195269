"""Testers on the wire and chargers without one: slots, what runs in them, its rows, what went wrong, and who is here."""

from __future__ import annotations

from datetime import datetime
from typing import Any, get_args

from sqlalchemy import BigInteger, CheckConstraint, ForeignKey, Index, Sequence
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from zembric.core.codes import LinkKind, RunState, SlotKind, TesterState
from zembric.core.tester.programs import ProgramCode
from zembric.core.tester.run import AlarmCode
from zembric.models.base import Base, IntPk, one_of, version_column
from zembric.models.cells import CellRow
from zembric.models.instruments import Instrument
from zembric.models.people import Person

SLOT_NUMBERS = Sequence("slot_number_seq", start=10, metadata=Base.metadata)
LIVE_STATES: tuple[RunState, ...] = ("asked", "running", "waits")
_LIVE = "state IN ('asked', 'running', 'waits')"


class WiredTester(Base):
    """An instrument on a wire: where it is, and how it is spoken to. Only the runner opens it."""

    __tablename__ = "tester"
    __table_args__ = (
        CheckConstraint(one_of("link", get_args(LinkKind)), name="link"),
        CheckConstraint(one_of("state", get_args(TesterState)), name="state"),
        CheckConstraint("resistor_ohm > 0", name="resistor"),
    )
    id: Mapped[IntPk]
    instrument_id: Mapped[int] = mapped_column(ForeignKey("instrument.id"), unique=True)
    link: Mapped[str]
    address: Mapped[str] = mapped_column(unique=True)
    #: The instrument's own commands (`wire/mapping.py`); of a logger that prints lines it is empty.
    mapping: Mapped[dict[str, Any]]
    #: Of a logger that prints volts only: what it discharges through.
    resistor_ohm: Mapped[float | None]
    is_active: Mapped[bool] = mapped_column(default=True, server_default="true")
    state: Mapped[str] = mapped_column(default="unknown", server_default="unknown")
    #: What it calls itself, what was wrong with it last, and since when it is as it is.
    identity: Mapped[str] = mapped_column(default="", server_default="")
    trouble: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    state_at: Mapped[datetime | None]
    has_watchdog: Mapped[bool] = mapped_column(default=False, server_default="false")
    version: Mapped[int] = version_column()
    instrument: Mapped[Instrument] = relationship(lazy="joined", innerjoin=True)
    __mapper_args__ = {"version_id_col": version}


class LineTry(Base):
    """A line that a coordinator tries out: the runner sends it, and what was answered stands here."""

    __tablename__ = "tester_try"
    id: Mapped[IntPk]
    tester_id: Mapped[int] = mapped_column(ForeignKey("tester.id"))
    line: Mapped[str]
    answer: Mapped[str | None]
    trouble: Mapped[str | None]
    asked_at: Mapped[datetime]
    asked_by_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    done_at: Mapped[datetime | None]


class Slot(Base):
    """A place where a cell is charged or measured, with a number on tape; `tester_id` NULL: a charger that nobody can ask."""

    __tablename__ = "slot"
    __table_args__ = (
        CheckConstraint(one_of("kind", get_args(SlotKind)), name="kind"),
        CheckConstraint("(tester_id IS NULL) = (channel IS NULL)", name="channel_of_tester"),
        CheckConstraint("max_charge_ma >= 0 AND max_discharge_ma >= 0", name="currents"),
        Index("uq_slot_tester_id_channel", "tester_id", "channel", unique=True),
    )
    id: Mapped[IntPk]
    number: Mapped[str] = mapped_column(unique=True)
    name: Mapped[str]
    kind: Mapped[str]
    tester_id: Mapped[int | None] = mapped_column(ForeignKey("tester.id"))
    channel: Mapped[int | None]
    max_charge_ma: Mapped[float]
    max_discharge_ma: Mapped[float]
    #: Shapes of cells that it holds.
    holds: Mapped[list[str]] = mapped_column(JSONB)
    is_active: Mapped[bool] = mapped_column(default=True, server_default="true")
    cell_id: Mapped[int | None] = mapped_column(ForeignKey("cell.id"), unique=True)
    cell_since: Mapped[datetime | None]
    tester: Mapped[WiredTester | None] = relationship(lazy="joined")
    cell: Mapped[CellRow | None] = relationship(lazy="joined")


class SlotRun(Base):
    """A program on a cell in a slot. Only the runner moves one with a wire on; rows lie beside it until the log is kept."""

    __tablename__ = "tester_run"
    __table_args__ = (
        CheckConstraint(one_of("state", get_args(RunState)), name="state"),
        CheckConstraint(one_of("program", get_args(ProgramCode)), name="program"),
        # One live run in a slot and on a cell at a time.
        Index("uq_tester_run_slot_live", "slot_id", unique=True, postgresql_where=_LIVE),
        Index("uq_tester_run_cell_live", "cell_id", unique=True, postgresql_where=_LIVE),
    )
    id: Mapped[IntPk]
    slot_id: Mapped[int] = mapped_column(ForeignKey("slot.id"), index=True)
    cell_id: Mapped[int] = mapped_column(ForeignKey("cell.id"), index=True)
    program: Mapped[str]
    #: Stages and bounds as the core made them, and how far it is (`core/tester`).
    plan: Mapped[dict[str, Any]]
    progress: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    state: Mapped[str]
    asked_at: Mapped[datetime]
    asked_by_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    began_at: Mapped[datetime | None]
    #: The tester's own clock when it began [s], where it has one.
    began_clock_s: Mapped[float | None]
    #: When the last row came, and how many there are.
    beat_at: Mapped[datetime | None]
    rows: Mapped[int] = mapped_column(default=0, server_default="0")
    due_at: Mapped[datetime | None]
    stop_asked_at: Mapped[datetime | None]
    stop_asked_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    ended_at: Mapped[datetime | None]
    #: Why it ended otherwise than planned; NULL: it went through, or goes on.
    end_said: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    #: The log its rows became, and why nothing of it was kept for the cell; NULL: it was, or nobody looked yet.
    log_id: Mapped[int | None] = mapped_column(ForeignKey("tester_log.id"))
    not_kept_said: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    settled_at: Mapped[datetime | None]
    slot: Mapped[Slot] = relationship(lazy="joined", innerjoin=True)
    cell: Mapped[CellRow] = relationship(lazy="joined", innerjoin=True)
    asked_by: Mapped[Person] = relationship(lazy="joined", innerjoin=True, foreign_keys=[asked_by_id])


class RunRow(Base):
    """One row of a run, as durable as anything else here."""

    __tablename__ = "run_row"
    run_id: Mapped[int] = mapped_column(ForeignKey("tester_run.id", ondelete="CASCADE"), primary_key=True)
    number: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    time_s: Mapped[float]
    voltage_v: Mapped[float]
    current_a: Mapped[float]
    cell_degc: Mapped[float | None]
    stage: Mapped[int]


class AlarmRow(Base):
    """What went wrong at a slot: said until somebody answers it, and in the record for ever."""

    __tablename__ = "alarm"
    __table_args__ = (
        CheckConstraint(one_of("code", get_args(AlarmCode)), name="code"),
        Index("ix_alarm_open", "at", postgresql_where="acknowledged_at IS NULL"),
    )
    id: Mapped[IntPk]
    code: Mapped[str]
    said: Mapped[dict[str, Any]]
    slot_id: Mapped[int | None] = mapped_column(ForeignKey("slot.id"))
    tester_id: Mapped[int | None] = mapped_column(ForeignKey("tester.id"))
    run_id: Mapped[int | None] = mapped_column(ForeignKey("tester_run.id"))
    cell_id: Mapped[int | None] = mapped_column(ForeignKey("cell.id"), index=True)
    at: Mapped[datetime]
    acknowledged_at: Mapped[datetime | None]
    acknowledged_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    #: What was done about it, as typed.
    done: Mapped[str | None]
    slot: Mapped[Slot | None] = relationship(lazy="joined")
    cell: Mapped[CellRow | None] = relationship(lazy="joined")
    acknowledged_by: Mapped[Person | None] = relationship(lazy="joined")


class Presence(Base):
    """Somebody said that they are here and look."""

    __tablename__ = "presence"
    id: Mapped[IntPk]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    at: Mapped[datetime] = mapped_column(index=True)


class EveningRow(Base):
    """An evening at the testers: who is here until when, what was promised, and the plan as it was made last."""

    __tablename__ = "evening"
    __table_args__ = (CheckConstraint("ends_at > starts_at", name="ends_after_start"),)
    id: Mapped[IntPk]
    starts_at: Mapped[datetime]
    ends_at: Mapped[datetime]
    #: Names with the time they leave: `name`, `until`.
    people: Mapped[list[dict[str, Any]]]
    #: Numbers of cells that were promised to a visitor for tonight, and of slots that stand on the table.
    promised: Mapped[list[str]] = mapped_column(JSONB)
    slots: Mapped[list[str]] = mapped_column(JSONB)
    #: Further evenings: `starts_at`, `ends_at`.
    later: Mapped[list[dict[str, Any]]]
    plan: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    planned_at: Mapped[datetime | None]
    #: What changed since the plan before, newest first: `at`, `said`.
    changes: Mapped[list[dict[str, Any]]]
    closed_at: Mapped[datetime | None]
    made_by_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    version: Mapped[int] = version_column()
    __mapper_args__ = {"version_id_col": version}


class PushKey(Base):
    """The key that signs what is pushed to devices; in the database, as devices know it."""

    __tablename__ = "push_key"
    __table_args__ = (CheckConstraint("id = 1", name="only_one"),)
    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    private_pem: Mapped[str]


class PushSubscription(Base):
    """A device that wants to be told of alarms also while it is locked."""

    __tablename__ = "push_subscription"
    id: Mapped[IntPk]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    endpoint: Mapped[str] = mapped_column(unique=True)
    p256dh: Mapped[str]
    auth: Mapped[str]
    at: Mapped[datetime]
