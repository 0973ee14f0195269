"""Cells as lists, trays and pages show them, and their stories."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import AliasChoices, AwareDatetime, Field, StringConstraints

from zembric.api.schemas.base import (
    BuildCode,
    CapacityMethodCode,
    CellProtectionCode,
    FamilyCode,
    FindingCode,
    GradeCode,
    GradeSchoolCode,
    Id,
    In,
    LimitKind,
    MethodCode,
    Number,
    Out,
    PackState,
    PlaceKind,
    PlusEndCode,
    Quantity,
    ResistanceMethodCode,
    SaidText,
    StepCode,
    SureCode,
    TerminalsCode,
    Told,
    ToldOrNone,
    Typed,
    VoltageSchoolCode,
    VoltageStateCode,
    WarmthCode,
)
from zembric.api.schemas.outside import RecalledOut
from zembric.core.codes import DoneKind, EntryKind


class LimitOut(Out):
    key: str
    value: float
    unit: str
    kind: LimitKind
    source: Told


class ReasonOut(Out):
    code: str
    text: SaidText
    value: float | None
    margin: float | None
    limit: LimitOut | None


class PlaceOut(Out):
    id: int
    number: str
    name: str
    kind: PlaceKind
    rows: int | None
    columns: int | None
    capacity: int | None
    cursor_slot: int | None
    version: int


class CellOut(Out):
    """A cell as lists and trays show it: where it is, what it measured, what is next."""

    number: str
    donor_number: str
    donor_kind: str
    donor_description: str
    size_code: str | None
    family: FamilyCode | None
    full_v: float | None
    rated_capacity_mah: float | None
    claimed_capacity_mah: float | None
    advertised_capacity_mah: float | None
    chemistry_code: str | None
    model_id: int | None
    model_name: str | None
    width_mm: float | None
    length_mm: float | None
    thickness_mm: float | None
    mass_g: float | None
    build: BuildCode | None
    plus_end: PlusEndCode | None
    protection: CellProtectionCode | None
    terminals: TerminalsCode | None
    in_use_in: str | None
    group_number: int | None
    own_label: str | None
    place: PlaceOut | None
    slot: int | None
    version: int
    grade: GradeCode
    sure: SureCode | None
    reasons: list[ReasonOut]
    step: StepCode
    step_text: Told
    not_before: datetime | None
    #: From then on the step was left too long; about how long it takes, and what it is done with.
    overdue_at: datetime | None
    step_minutes: float | None
    step_needs: ToldOrNone
    resting_voltage_v: float | None
    capacity_mah: float | None
    capacity_u_mah: float | None
    capacity_method: CapacityMethodCode | None
    resistance_mohm: float | None
    resistance_u_mohm: float | None
    resistance_method: ResistanceMethodCode | None
    continuous_current_a: float | None
    continuous_current_set_by: str | None
    #: Recovered from very low: marked for life.
    is_marked: bool
    pack_number: str | None
    rule_set_version: int


class WhatIfIn(In):
    """Null: as it is. A reading is one more, taken now."""

    voltage_school: VoltageSchoolCode | None = None
    grade_school: GradeSchoolCode | None = None
    quantity: Quantity | None = None
    value: Typed = ""
    method: MethodCode | None = None


class JudgedOut(Out):
    """A judgement with all that follows from it, and how the cell stands among its own kind on the shelf."""

    grade: GradeCode
    sure: SureCode | None
    reasons: list[ReasonOut]
    step: StepCode
    step_text: Told
    good_for: ToldOrNone
    settled_by: ToldOrNone
    may_be_overruled: bool
    #: Of so many cells of its size and family on the shelf so many hold less; null without a capacity.
    weaker: int | None
    of_its_kind: int | None


class EntryOut(Out):
    """One entry of a cell's story. `state` tells whether it counts."""

    id: int
    kind: EntryKind
    at: datetime
    recorded_at: datetime
    by: str
    state: Literal["counts", "corrected", "withdrawn"]
    supersedes_id: int | None
    why: str | None
    findings: list[FindingCode] | None
    quantity: Quantity | None
    value: float | None
    unit: str | None
    method: MethodCode | None
    standard_u: float | None
    current_ma: float | None
    cut_off_v: float | None
    complete: bool | None
    #: Of a voltage: its state; what was typed where it was "about" something or a range.
    voltage_state: VoltageStateCode | None
    as_typed: str | None
    #: The formula with its numbers, what is to be known of it, and what it was measured with.
    worked: str | None
    notes: list[str] | None
    cell_degc: float | None
    bench_degc: float | None
    warmth: WarmthCode | None
    instrument: str | None
    log_id: int | None
    step: DoneKind | None
    details: dict[str, str | float | bool | list[str] | None] | None


class RunOut(Out):
    """One capacity run, and why it does not count; null: it counts."""

    at: datetime
    value_mah: float
    method: CapacityMethodCode
    left_out: ToldOrNone


class RepeatsOut(Out):
    """All capacity runs; the estimate at reference conditions stands beside the measured figure, never in its place."""

    runs: list[RunOut]
    disagreement: ToldOrNone
    reference_mah: float | None
    reference_text: Annotated[ToldOrNone, Field(validation_alias=AliasChoices("reference_text", "reference_said"))]


class JudgementOut(Out):
    at: datetime
    grade: GradeCode
    sure: SureCode | None
    next_step: StepCode
    rule_set_version: int


class HappeningOut(Out):
    at: datetime
    what: str
    by: str | None
    details: dict[
        str,
        str | float | bool | list[str] | list[float] | list[list[str]] | dict[str, str | float | bool | None] | None,
    ]
    why: str | None


class SiblingOut(Out):
    number: str
    grade: GradeCode
    resting_voltage_v: float | None
    capacity_mah: float | None
    resistance_mohm: float | None


class StoryOut(Out):
    cell: CellOut
    entries: list[EntryOut]
    judgements: list[JudgementOut]
    happenings: list[HappeningOut]
    siblings: list[SiblingOut]
    gap_to_siblings_v: float | None
    repeats: RepeatsOut


SortedBy = Annotated[
    Annotated[float, Field(allow_inf_nan=False)] | AwareDatetime | Literal["none"], Field(union_mode="left_to_right")
]


class CellPageOut(Out):
    total: int
    cells: list[CellOut]
    sizes: list[str]
    #: What the first and the last cell of the page are sorted by.
    first_by: SortedBy
    last_by: SortedBy


class CellQuery(In):
    on_shelf: bool = False
    free: bool = False
    step: StepCode | None = None
    grade: list[GradeCode] = Field(default_factory=list)
    size_code: Annotated[str, StringConstraints(max_length=24)] | None = None
    family: FamilyCode | None = None
    place_id: Id | None = None
    donor: Number | None = None
    capacity_from: float | None = Field(None, ge=0, le=1e6)
    capacity_to: float | None = Field(None, ge=0, le=1e6)
    resistance_from: float | None = Field(None, ge=0, le=1e6)
    resistance_to: float | None = Field(None, ge=0, le=1e6)
    resistance_method: ResistanceMethodCode | None = None
    sort: Literal["number", "capacity", "resistance", "voltage", "due"] = "number"
    falling: bool = False
    #: The page behind that cell, or the one ahead of it; where it is not there any more, from `offset` on.
    after: Number | None = None
    before: Number | None = None
    #: What that cell was sorted by when it was shown: the page begins there, whatever became of the cell since.
    by: SortedBy | None = None
    offset: int = Field(0, ge=0, le=1_000_000)
    most: int = Field(60, ge=1, le=200)


class ShelfMapOut(Out):
    """Cells by capacity and resistance of one method; arrays of equal length. Where they lie dense a point stands for several."""

    method: ResistanceMethodCode | None
    methods: dict[str, int]
    #: How many cells each point stands for: one, or all of a grade that lie near to one another.
    counts: list[int]
    capacity_mah: list[float]
    resistance_mohm: list[float]
    grade: list[GradeCode]


class KindBroughtOut(Out):
    """One kind of donor: what was opened of it, and what came of its cells."""

    kind: str
    donors: int
    cells: int
    shelved: int
    out: int
    mean_mah: float | None


class BroughtOut(Out):
    """What a stretch of time brought."""

    since: datetime
    donors: int
    cells: int
    tested: int
    shelved: int
    out: int
    rescued_mah: float
    rescued_wh: float
    overdue: int
    by_kind: list[KindBroughtOut]


class BroughtQuery(In):
    days: float = Field(0.5, gt=0, le=36_500)


class PracticePath(In):
    seed: int = Field(ge=0, le=2_000_000_000)


class PracticeIn(In):
    grade: GradeCode


class PracticeOut(Out):
    """A made-up cell, as somebody at the table would tell of it."""

    seed: int
    told: list[str]


class PracticeAnswerOut(Out):
    is_right: bool
    text: Told
    grade: GradeCode
    sure: SureCode | None
    reasons: list[ReasonOut]
    step: StepCode
    step_text: Told


class BulkMoveIn(In):
    numbers: list[Number] = Field(min_length=1, max_length=200)
    place: Number


class BulkMoveOut(Out):
    moved: int


class CellPath(In):
    number: Number


class StepGroupOut(Out):
    step: StepCode
    count: int
    cells: list[CellOut]


class StepCountOut(Out):
    step: StepCode
    count: int


class TrayStepsOut(Out):
    number: str
    name: str
    steps: list[StepCountOut]


class RunningOut(Out):
    """A recovery under way, as whoever comes by has to know of it."""

    number: str
    text: str
    next_check_at: datetime | None
    started_by: str


class ReadyWishOut(Out):
    """A wish for which the cells lie there now."""

    id: int
    purpose: str


class StalePlanOut(Out):
    """A plan with cells that are no longer what they were planned as."""

    number: str
    purpose: str


class RecallOut(Out):
    """A pack that is stopped: who has it, and what to tell them."""

    number: str
    purpose: str
    state: PackState
    stopped_at: datetime
    why: Told
    given_to: str | None
    tell: str


class HomeOut(Out):
    now: datetime
    running: list[RunningOut]
    groups: list[StepGroupOut]
    trays: list[TrayStepsOut]
    wishes: list[ReadyWishOut]
    stale_plans: list[StalePlanOut]
    #: The recall list: packs that are stopped, those out of the house first.
    stopped_packs: list[RecallOut]
    #: Packs that are called back and not settled, those out of the house first.
    recalled: list[RecalledOut]
