"""Testers and chargers on the table, as they go over the wire."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import Field, StringConstraints

from zembric.api.schemas.base import Id, In, Number, Out, StepCode, Told, ToldOrNone, Why
from zembric.core.codes import LinkKind, RunState, SlotKind, TesterState
from zembric.core.tester.programs import ProgramCode, StageKind
from zembric.core.tester.run import AlarmCode

Shape = Literal["cylinder", "flat"]
_BOTH: tuple[Shape, ...] = ("cylinder", "flat")
Address = Annotated[str, StringConstraints(min_length=1, max_length=120)]
Name = Annotated[str, StringConstraints(max_length=60)]
CommandLine = Annotated[str, StringConstraints(min_length=1, max_length=200)]


class TesterIn(In):
    """An instrument on a wire. Currents are what each channel can do; `mapping` are its own commands as data."""

    instrument: Number
    link: LinkKind
    address: Address
    mapping: dict[str, str | list[str]] = Field(default_factory=dict, max_length=20)
    channels: int = Field(default=1, ge=1, le=32)
    max_charge_ma: float = Field(default=0, ge=0, le=20_000)
    max_discharge_ma: float = Field(default=0, ge=0, le=20_000)
    holds: list[Shape] = Field(default_factory=lambda: list(_BOTH), max_length=2)
    resistor_ohm: float | None = Field(default=None, gt=0, lt=1e5)


class TesterChangeIn(TesterIn):
    version: Id
    is_active: bool = True


class TesterPath(In):
    tester_id: Id


class LineIn(In):
    line: CommandLine


class TriedLineOut(Out):
    """A line that was tried; `done_at` null: the runner has not sent it yet."""

    id: int
    line: str
    answer: str | None
    trouble: str | None
    asked_at: datetime
    done_at: datetime | None


class TesterOut(Out):
    id: int
    instrument: str
    name: str
    link: LinkKind
    address: str
    mapping: dict[str, Any]
    resistor_ohm: float | None
    is_active: bool
    state: TesterState
    identity: str
    trouble: ToldOrNone
    state_at: datetime | None
    has_watchdog: bool
    version: int


class PortOut(Out):
    address: str
    name: str


class TestersOut(Out):
    """Instruments on the wire, ports where more could hang, and a map to begin with."""

    testers: list[TesterOut]
    ports: list[PortOut]
    example: dict[str, Any]


class TriesOut(Out):
    tries: list[TriedLineOut]


class SlotPath(In):
    number: Number


class ChargerIn(In):
    name: Name
    max_charge_ma: float = Field(ge=0, le=20_000)
    holds: list[Shape] = Field(default_factory=lambda: list(_BOTH), max_length=2)


class SlotIn(ChargerIn):
    max_discharge_ma: float = Field(default=0, ge=0, le=20_000)
    is_active: bool = True


class CellInSlotIn(In):
    cell: Number


class ProgramIn(In):
    program: ProgramCode


class StageOut(Out):
    kind: StageKind
    is_pulse: bool
    current_a: float
    limit_v: float
    planned_s: float


class TimeLeftOut(Out):
    least_s: float
    likely_s: float
    most_s: float


class SlotRunOut(Out):
    """A program on a cell: how far it is, and what came of it."""

    id: int
    program: ProgramCode
    state: RunState
    asked_at: datetime
    by: str
    began_at: datetime | None
    due_at: datetime | None
    ended_at: datetime | None
    end_said: ToldOrNone
    not_kept_said: ToldOrNone
    log_id: int | None
    is_settled: bool
    rows: int
    stages: list[StageOut]
    stage: int
    time_s: float | None
    voltage_v: float | None
    current_a: float | None
    cell_degc: float | None
    in_mah: float
    out_mah: float
    believed_mah: float
    left: TimeLeftOut | None


class CellHereOut(Out):
    number: str
    step: StepCode | None
    step_said: ToldOrNone
    grade: str | None


class SlotOut(Out):
    """A slot as it stands on the table."""

    id: int
    number: str
    name: str
    kind: SlotKind
    tester_id: int | None
    channel: int | None
    tester_state: TesterState | None
    max_charge_ma: float
    max_discharge_ma: float
    holds: list[Shape]
    cell: CellHereOut | None
    run: SlotRunOut | None


class AlarmOut(Out):
    id: int
    code: AlarmCode
    said: Told
    is_danger: bool
    slot: str | None
    slot_name: str | None
    cell: str | None
    at: datetime
    answered_at: datetime | None
    answered_by: str | None
    done: str | None


class TableOut(Out):
    """All slots, alarms nobody answered, and when somebody last said that they are here."""

    slots: list[SlotOut]
    alarms: list[AlarmOut]
    present_at: datetime | None
    here_minutes: float
    charges: bool
    times_runs: int


class AlarmsOut(Out):
    alarms: list[AlarmOut]
    present_at: datetime | None
    here_minutes: float
    charges: bool


class AlarmPath(In):
    alarm_id: Id


class AnswerAlarmIn(In):
    done: Why = ""


class PushOut(Out):
    """The key for a browser that wants to be told of alarms while it is locked; null: push is not set up here."""

    key: str | None


class PushIn(In):
    endpoint: Annotated[str, StringConstraints(min_length=12, max_length=1000)]
    p256dh: Annotated[str, StringConstraints(min_length=20, max_length=200, pattern=r"^[A-Za-z0-9_=-]+$")]
    auth: Annotated[str, StringConstraints(min_length=8, max_length=100, pattern=r"^[A-Za-z0-9_=-]+$")]


class RunPath(In):
    run_id: Id


class RunCurveQuery(In):
    width: int = Field(default=400, ge=20, le=2000)


class RunCurveOut(Out):
    time_s: list[float]
    voltage_v: list[float]
    current_a: list[float]
    cell_degc: list[float | None]


class ProgramChoiceOut(Out):
    """A program that could run: how long, or why not."""

    program: ProgramCode
    is_usual: bool
    planned_s: float | None
    why_not: ToldOrNone


class PlannedHereOut(Out):
    """What tonight's plan has ahead for a cell, and where."""

    slot: str
    slot_name: str
    program: ProgramCode
    starts_at: datetime


class ChoicesOut(Out):
    slot: SlotOut
    choices: list[ProgramChoiceOut]
    planned: PlannedHereOut | None
    evening_ends_at: datetime | None
