"""Testers' logs: taken in, asked about, listed, drawn, kept."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from zembric.api.schemas.base import (
    Id,
    In,
    Line,
    Number,
    Out,
    SaidText,
    ToldOrNone,
    Typed,
)
from zembric.core.codes import LogState


class LogQuery(In):
    name: Annotated[str, StringConstraints(max_length=200)] = "pasted"
    cell: Number | None = None
    instrument: Number | None = None


class LogsQuery(In):
    text: Typed = ""
    cell: Number | None = None
    instrument: Number | None = None
    #: Only those that can be drawn.
    is_read: bool = False
    #: Only logs older than this one.
    before: Id | None = None


class LogPath(In):
    log_id: Id


class LogTestPath(LogPath):
    test: int = Field(ge=0, le=999)


ColumnRole = Literal["time", "voltage", "current", "capacity", "energy", "other"]


class LogAnswersIn(In):
    columns: list[ColumnRole] | None = Field(None, max_length=60)
    time_unit: Literal["s", "ms", "min", "h"] | None = None
    voltage_unit: Literal["V", "mV"] | None = None
    current_unit: Literal["A", "mA"] | None = None
    discharge: Literal["negative", "positive"] | None = None
    resistor_ohm: float | None = Field(None, gt=0, le=1e6)
    every_s: float | None = Field(None, gt=0, le=1e6)
    remember: bool = False


class LogSaidOut(Out):
    """What a log was read by: said of it, or remembered from the last of its kind."""

    columns: list[ColumnRole] | None = None
    time_unit: Literal["s", "ms", "min", "h"] | None = None
    voltage_unit: Literal["V", "mV"] | None = None
    current_unit: Literal["A", "mA"] | None = None
    discharge: Literal["negative", "positive"] | None = None
    resistor_ohm: float | None = None
    every_s: float | None = None
    remembered: bool = False


class KeepLogIn(In):
    cell: Number
    test: int = Field(0, ge=0, le=999)
    confirmed: bool = False
    #: Somebody says that it was full before the discharge, where neither the log nor an entry shows it.
    started_full: bool | None = None


class LogRemarkOut(Out):
    code: str
    text: SaidText
    line: int | None
    column: str | None
    asks: str | None
    choices: list[str]


class ReadColumnOut(Out):
    header: str | None
    unit: str | None
    place: int


class LogReadAsOut(Out):
    encoding: str
    delimiter: str
    decimal: str
    discharge_current: Literal["negative", "positive", "unsigned"]
    resistor_ohm: float | None
    columns: dict[str, ReadColumnOut]


class LogRefusalOut(Out):
    code: str
    text: SaidText
    line: int | None
    column: str | None


class LogStepOut(Out):
    kind: Literal["charge", "discharge", "rest"]
    first_line: int
    last_line: int
    duration_s: float
    capacity_mah: float
    energy_mwh: float
    start_voltage_v: float
    end_voltage_v: float
    mean_current_ma: float
    complete: bool
    is_pulse: bool
    from_s: float
    to_s: float
    counts: bool


class ResistanceAfterOut(Out):
    after_s: float
    mohm: float
    spread_mohm: float
    edges: int
    allowance_mohm: float


class RelaxationOut(Out):
    minutes: int
    voltage_v: float


class LogTestOut(Out):
    rows: int
    duration_s: float
    sampling_s: float
    discharge_capacity_mah: float | None
    discharge_energy_mwh: float | None
    discharge_complete: bool
    charge_capacity_mah: float | None
    cut_off_v: float | None
    end_v: float | None
    mean_current_ma: float | None
    capacity_allowance_pct: float | None
    sag_v: float | None
    resistances: list[ResistanceAfterOut]
    #: Why there is none; null: there is, or it was read before anybody asked.
    no_resistance: ToldOrNone = None
    relaxations: list[RelaxationOut]
    steps: list[LogStepOut]


class LogOut(Out):
    """A log as it stands. `preview` are its first lines, so that a person can answer what is asked."""

    id: int
    file_name: str
    bytes: int
    at: datetime
    by: str
    cell: str | None
    instrument: str | None
    state: LogState
    progress_pct: int
    read_as: LogReadAsOut | None
    remarks: list[LogRemarkOut]
    refusal: LogRefusalOut | None
    tests: list[LogTestOut]
    kept_tests: list[int]
    said: LogSaidOut
    #: The same file was taken in before: this is that log.
    is_again: bool = False
    preview: list[Line]


class LogListedOut(Out):
    id: int
    file_name: str
    at: datetime
    by: str
    cell: str | None
    state: LogState
    progress_pct: int
    instrument: str | None
    tests: int
    discharge_capacity_mah: float | None


class LogsOut(Out):
    """A page of logs; `count`: how many fit in all."""

    logs: list[LogListedOut]
    count: int


class CurveQuery(In):
    width: int = Field(900, ge=50, le=4000)
    from_s: float | None = Field(None, ge=0, le=1e9)
    to_s: float | None = Field(None, ge=0, le=1e9)


class CurveOut(Out):
    """Points to be drawn. `charge_mah` counts from the start of the discharge that counts; null outside of it."""

    time_s: list[float]
    voltage_v: list[float]
    current_a: list[float]
    charge_mah: list[float | None]
