"""Ways to measure, bench sums, instruments and rests."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import AliasChoices, Field, StringConstraints

from zembric.api.schemas.base import (
    Code,
    GradeCode,
    Id,
    In,
    LimitKind,
    MethodCode,
    Number,
    Out,
    Quantity,
    SaidText,
    Told,
    ToldOrNone,
    Typed,
    Why,
)
from zembric.api.schemas.entries import EntryIn
from zembric.core.codes import InstrumentKind
from zembric.core.inputs import Need
from zembric.core.measure.methods import Effect
from zembric.core.measure.self_discharge import SelfDischargeVerdict

ComparedQuantity = Literal["capacity", "resistance"]
TypedList = Annotated[str, StringConstraints(max_length=600)]
TypedValues = dict[str, TypedList]
YesOrNo = Literal["yes", "no"]


class NeedOut(Out):
    """One input of a sum or a way to measure."""

    key: str
    unit: str
    meaning: Told
    need: Need
    optional: bool
    choices: list[str]
    example: str | None


class ResultKeyOut(Out):
    key: str
    unit: str
    meaning: Told
    digits: int


class GroundOut(Out):
    text: SaidText
    kind: LimitKind
    source: Told


class SumOut(Out):
    name: str
    title: Told
    purpose: Told
    inputs: list[NeedOut]
    outputs: list[ResultKeyOut]
    formula: Told
    grounds: list[GroundOut]


class ThingOut(Out):
    """A thing on the bench, and the sums people ask of it."""

    code: str
    name: Told
    sums: list[str]


class SumsOut(Out):
    sums: list[SumOut]
    things: list[ThingOut]


class SumPath(In):
    name: Code


class SumIn(In):
    values: TypedValues = Field(max_length=20)


class DrawnLineOut(Out):
    name: Told
    x: list[float]
    y: list[float]
    low: list[float]
    high: list[float]
    as_points: bool


class PictureOut(Out):
    x_label: Told
    unit: str
    lines: list[DrawnLineOut]


class RedLineOut(Out):
    """A value beyond what stands, with the limit that it passes."""

    code: str
    text: SaidText
    value: float
    limit: float
    unit: str
    kind: LimitKind
    source: Told


class SumAnswerOut(Out):
    outputs: dict[str, float | bool | str | None]
    worked: str
    cautions: list[str]
    red_lines: list[RedLineOut]
    picture: PictureOut | None


class TrapOut(Out):
    key: str
    question: Told
    right: YesOrNo
    effect: Effect
    text: Annotated[Told, Field(validation_alias=AliasChoices("text", "spoilt"))]


class MethodOut(Out):
    name: str
    quantity: ComparedQuantity
    title: Told
    needs: Told
    inputs: list[NeedOut]
    traps: list[TrapOut]
    formula: Told
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
    text: SaidText
    sees: bool
    sees_text: Annotated[Told, Field(validation_alias=AliasChoices("sees_text", "sees_said"))]
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


class RestReadingOut(Out):
    days: float
    value_v: float
    left_out: ToldOrNone


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
    verdict: SelfDischargeVerdict
    mv_per_day: float | None
    error_mv_per_day: float | None
    line: FittedLineOut | None
    next_at: datetime | None
    text: str
