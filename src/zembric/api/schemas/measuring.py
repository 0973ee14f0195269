"""Ways to measure, bench sums, instruments, logs and rests."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from zembric.api.schemas.base import (
    Code,
    GradeCode,
    Id,
    In,
    LimitKind,
    Line,
    MethodCode,
    Number,
    Out,
    Quantity,
    Typed,
    Why,
)
from zembric.api.schemas.entries import EntryIn

InstrumentKind = Literal["voltmeter", "tester", "ac-meter", "usb-meter", "charger"]
LogState = Literal["waiting", "reading", "asks", "read", "refused", "cancelled"]
ComparedQuantity = Literal["capacity", "resistance"]
TypedList = Annotated[str, StringConstraints(max_length=600)]
TypedValues = dict[str, TypedList]
YesOrNo = Literal["yes", "no"]


class NeedOut(Out):
    """One input of a sum or a way to measure."""

    key: str
    unit: str
    meaning: str
    need: Literal["positive", "zero-or-more", "any", "share", "choice", "list"]
    optional: bool
    choices: list[str]
    example: str | None


class ResultKeyOut(Out):
    key: str
    unit: str
    meaning: str
    digits: int


class GroundOut(Out):
    text: str
    kind: LimitKind
    source: str


class SumOut(Out):
    name: str
    title: str
    purpose: str
    inputs: list[NeedOut]
    outputs: list[ResultKeyOut]
    formula: str
    grounds: list[GroundOut]


class ThingOut(Out):
    """A thing on the bench, and the sums people ask of it."""

    code: str
    name: str
    sums: list[str]


class SumsOut(Out):
    sums: list[SumOut]
    things: list[ThingOut]


class SumPath(In):
    name: Code


class SumIn(In):
    values: TypedValues = Field(max_length=20)


class DrawnLineOut(Out):
    name: str
    x: list[float]
    y: list[float]
    low: list[float]
    high: list[float]
    as_points: bool


class PictureOut(Out):
    x_label: str
    y_label: str
    lines: list[DrawnLineOut]


class RedLineOut(Out):
    """A value beyond what stands, with the limit that it passes."""

    code: str
    text: str
    value: float
    limit: float
    unit: str
    kind: LimitKind
    source: str


class SumAnswerOut(Out):
    outputs: dict[str, float | bool | str | None]
    worked: str
    cautions: list[str]
    red_lines: list[RedLineOut]
    picture: PictureOut | None


class TrapOut(Out):
    key: str
    question: str
    right: YesOrNo
    effect: Literal["refuse", "part", "note"]
    text: str


class MethodOut(Out):
    name: str
    quantity: ComparedQuantity
    title: str
    needs: str
    inputs: list[NeedOut]
    traps: list[TrapOut]
    formula: str
    grounds: list[GroundOut]


class MethodsOut(Out):
    methods: list[MethodOut]


class MeasurementIn(EntryIn):
    """A measurement by a way: its values as typed, the answers to its traps, and what it was done with."""

    method: Code
    values: TypedValues = Field(max_length=20)
    said: dict[str, YesOrNo] = Field(max_length=10)
    instrument: Number | None = None
    confirmed: bool = False


class MeasuredOut(Out):
    """What a measurement comes to, before it is kept."""

    value: float
    unit: str
    standard_u: float
    method: MethodCode
    worked: str
    limited_by: str
    cautions: list[str]
    complete: bool
    adjusted: str


class MethodPlanQuery(In):
    method: Code
    instrument: Number | None = None


class MethodPlanOut(Out):
    """The figure to set or to wait for, sentences on it, and whether the meter sees what is wanted."""

    figure: float
    unit: str
    text: str
    sees: bool
    sees_text: str
    #: What it puts into the fields of its form, by their keys.
    fills: dict[str, float]


class InstrumentIn(In):
    name: Typed
    kind: InstrumentKind
    resolution_v: Typed = ""
    half_width_pct: Typed = ""
    lead_mohm: Typed = ""
    note: Why = ""


class InstrumentChangeIn(InstrumentIn):
    version: int = Field(ge=1, le=2**31 - 1)
    is_active: bool = True


class InstrumentPath(In):
    number: Number


class CorrectionPath(In):
    number: Number
    correction_id: Id


class CorrectionOut(Out):
    id: int
    quantity: Quantity
    factor: float
    ground: str
    at: datetime
    by: str
    ended_at: datetime | None
    comparison: dict[str, str | float | int]


class InstrumentOut(Out):
    number: str
    name: str
    kind: InstrumentKind
    resolution_v: float | None
    half_width_pct: float | None
    lead_mohm: float | None
    note: str
    is_active: bool
    version: int
    corrections: list[CorrectionOut]


class InstrumentsOut(Out):
    instruments: list[InstrumentOut]


class AgreementQuery(In):
    a: Number
    b: Number
    quantity: ComparedQuantity = "capacity"


class PairOut(Out):
    number: str
    a: float
    b: float
    difference_pct: float
    is_outlier: bool


class AgreementOut(Out):
    """`bias_pct` is b against a; null with fewer than three pairs that count."""

    a: InstrumentOut
    b: InstrumentOut
    quantity: ComparedQuantity
    pairs: list[PairOut]
    bias_pct: float | None
    error_pct: float | None
    significant: bool
    factor: float | None


class InstrumentCorrectionIn(In):
    against: Number
    quantity: ComparedQuantity
    ground: Why = ""


class LogQuery(In):
    name: Annotated[str, StringConstraints(max_length=200)] = "pasted"
    cell: Number | None = None
    instrument: Number | None = None


class EarlierReadingOut(Out):
    number: str
    at: datetime
    before: float
    after: float
    grade_before: GradeCode
    grade_after: GradeCode


class EarlierOut(Out):
    """What a correction does to readings before it: how many, of how many cells, and which cells get another grade."""

    count: int
    cells: int
    #: How many carry it afterwards already.
    corrected: int
    #: The first of them.
    readings: list[EarlierReadingOut]
    other_grades: list[str]


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
    text: str
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
    text: str
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
    no_resistance: str | None = None
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


class RestReadingOut(Out):
    days: float
    value_v: float
    left_out: str | None


class RestQuery(In):
    instrument: Number | None = None


class FittedLineOut(Out):
    days: list[float]
    volts: list[float]
    low_v: list[float]
    high_v: list[float]


class RestOut(Out):
    """A cell at rest; `since` is null where nothing was charged or discharged yet."""

    since: datetime | None
    after_charge: bool
    readings: list[RestReadingOut]
    verdict: Literal["fine", "watch", "leaking", "too-early"]
    mv_per_day: float | None
    error_mv_per_day: float | None
    line: FittedLineOut | None
    next_at: datetime | None
    text: str
