"""What goes over the wire. In models end in `In`, what the server answers ends in `Out`."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints, field_validator

DonorKind = Literal["laptop", "vape", "power-tool", "phone", "other"]
FamilyCode = Literal["layered-oxide", "high-voltage-cobalt", "iron-phosphate", "titanate", "primary"]
ChargeableFamily = Literal["layered-oxide", "high-voltage-cobalt", "iron-phosphate", "titanate"]
GradeCode = Literal["A", "B", "C", "out", "not-yet"]
SureCode = Literal["sure", "likely", "borderline"]
StepCode = Literal[
    "inspect", "repair", "measure-voltage", "recover", "charge", "rest", "measure-capacity", "measure-resistance",
    "repeat-measurement", "shelve", "keep", "recheck", "decide", "fire-safe-box", "out-box", "in-pack", "hand-over",
    "handed-over",
]  # fmt: skip
FindingCode = Literal[
    "swollen", "leaking", "hot", "hiss", "dented", "punctured", "burnt", "rusted-through", "vent-open", "torn-wrap",
    "tab-remains", "corroded-ends",
]  # fmt: skip
Quantity = Literal["voltage", "capacity", "resistance"]
CapacityMethodCode = Literal[
    "tester", "trace", "resistor-clock", "resistor-log", "charge-counted", "usb-linear", "usb-switching", "usb-step-up"
]
ResistanceMethodCode = Literal["ac-1khz", "dc-10s", "dc-1s", "tester"]
MethodCode = Literal["meter"] | CapacityMethodCode | ResistanceMethodCode
PlaceKind = Literal["tray", "shelf-box", "out-box", "fire-safe-box"]
PackState = Literal["planned", "built", "given-out", "back", "taken-apart", "dropped"]
RoleCode = Literal["volunteer", "coordinator"]
LimitKind = Literal["physics", "standard", "house"]

# PostgreSQL keeps integers of 32 bits and no NUL character; both are refused here, where it can be said which field.
Id = Annotated[int, Field(ge=1, le=2**31 - 1)]
Number = Annotated[str, StringConstraints(min_length=1, max_length=40, pattern=r"^[^\x00]+$")]
Typed = Annotated[str, StringConstraints(max_length=60)]
Why = Annotated[str, StringConstraints(max_length=300)]


class In(BaseModel):
    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True, allow_inf_nan=False)

    @field_validator("*", mode="before")
    @classmethod
    def refuse_nul(cls, value: object) -> object:
        if isinstance(value, str) and "\x00" in value:
            raise ValueError("a text cannot contain a NUL character")
        return value


class Out(BaseModel):
    model_config = ConfigDict(from_attributes=True)


# --- Errors, people --------------------------------------------------------------------------------------------------


class ProblemOut(Out):
    """Why something was not done. `suggestion` is what could be typed instead."""

    code: str
    text: str
    field: str | None
    suggestion: str | None


class PersonOut(Out):
    name: str
    role: RoleCode


class SessionOut(Out):
    """Who is signed in (null: nobody) and the token that every write carries."""

    person: PersonOut | None
    csrf_token: str


class SignInIn(In):
    name: Annotated[str, StringConstraints(max_length=80)]
    password: Annotated[str, Field(max_length=200)]


class InvitationOut(Out):
    name: str


class AcceptIn(In):
    name: Annotated[str, StringConstraints(max_length=80)]
    password: Annotated[str, Field(max_length=200)]


# --- Cells -----------------------------------------------------------------------------------------------------------


class LimitOut(Out):
    key: str
    value: float
    unit: str
    kind: LimitKind
    source: str


class ReasonOut(Out):
    code: str
    text: str
    value: float | None
    margin: float | None
    limit: LimitOut | None


class PlaceOut(Out):
    id: int
    name: str
    kind: PlaceKind
    rows: int | None
    columns: int | None


class CellOut(Out):
    """A cell as lists and trays show it: where it is, what it measured, what is next."""

    number: str
    donor_number: str
    donor_kind: DonorKind
    donor_description: str
    size_code: str | None
    family: FamilyCode | None
    full_v: float | None
    rated_capacity_mah: float | None
    claimed_capacity_mah: float | None
    place: PlaceOut | None
    slot: int | None
    version: int
    grade: GradeCode
    sure: SureCode | None
    reasons: list[ReasonOut]
    step: StepCode
    step_text: str
    not_before: datetime | None
    resting_voltage_v: float | None
    capacity_mah: float | None
    capacity_u_mah: float | None
    capacity_method: CapacityMethodCode | None
    resistance_mohm: float | None
    resistance_u_mohm: float | None
    resistance_method: ResistanceMethodCode | None
    continuous_current_a: float | None
    continuous_current_set_by: str | None
    pack_number: str | None
    rule_set_version: int


class EntryOut(Out):
    """One entry of a cell's story. `state` tells whether it counts."""

    id: int
    kind: Literal["inspection", "reading", "step", "withdrawal"]
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
    step: Literal["repair", "recovery", "decision", "charge", "skip", "shelved"] | None
    details: dict[str, str | float | bool | list[str]] | None


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
    details: dict[str, str | float | bool | list[str] | list[list[str]] | dict[str, str | float | None] | None]
    why: str | None


class BrotherOut(Out):
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
    brothers: list[BrotherOut]
    gap_to_brothers_v: float | None


class CellPageOut(Out):
    total: int
    cells: list[CellOut]
    sizes: list[str]


class CellQuery(In):
    on_shelf: bool = False
    free: bool = False
    step: StepCode | None = None
    grade: list[GradeCode] = Field(default_factory=list)
    size_code: Annotated[str, StringConstraints(max_length=20)] | None = None
    family: FamilyCode | None = None
    place_id: Id | None = None
    donor: Number | None = None
    sort: Literal["number", "capacity", "resistance", "voltage", "due"] = "number"
    falling: bool = False
    offset: int = Field(0, ge=0, le=1_000_000)
    most: int = Field(60, ge=1, le=200)


class CellPath(In):
    number: Number


class StepGroupOut(Out):
    step: StepCode
    count: int
    cells: list[CellOut]


class HomeOut(Out):
    now: datetime
    groups: list[StepGroupOut]


# --- Entries ---------------------------------------------------------------------------------------------------------


class InspectionIn(In):
    findings: list[FindingCode] = Field(max_length=12)


class ReadingIn(In):
    """A reading as typed; comma or point. `confirmed`: an odd value was looked at once more."""

    quantity: Quantity
    value: Typed
    method: MethodCode
    confirmed: bool = False
    current_ma: Typed | None = None
    cut_off_v: Typed | None = None
    complete: bool = True


class ChargeIn(In):
    end_v: Typed
    complete: bool = True


class RecoveryIn(In):
    outcome: Literal["passed", "failed"]


class RepairIn(In):
    done: list[FindingCode] = Field(min_length=1, max_length=3)


class SkipIn(In):
    why: Why


class DecisionIn(In):
    about: Literal["over-voltage", "recovery-mark"]
    outcome: Literal["go-on", "out"]
    why: Why


class ShelvingIn(In):
    place_id: Id | None = None


class OutBoxIn(In):
    pass


class WithdrawalIn(In):
    entry_id: Id


class CorrectionIn(In):
    entry_id: Id
    why: Why
    reading: ReadingIn


class FactsIn(In):
    seen_version: int
    size_code: Annotated[str, StringConstraints(max_length=20)] | None
    family: FamilyCode | None
    full_v: float | None = Field(ge=2, le=5)
    rated_capacity_mah: float | None = Field(gt=0, le=60_000)
    claimed_capacity_mah: float | None = Field(gt=0, le=60_000)


class EntryAnswerOut(Out):
    """The cell after an entry, and the entry that could be undone (null: nothing to undo)."""

    cell: CellOut
    entry_id: int | None
    gap_to_brothers_v: float | None


# --- Donors and places -----------------------------------------------------------------------------------------------


class DonorIn(In):
    kind: DonorKind
    description: Annotated[str, StringConstraints(max_length=200)] = ""
    cells: int
    size_code: Annotated[str, StringConstraints(max_length=20)] | None = None
    family: FamilyCode | None = None
    full_v: float | None = None
    claimed_capacity_mah: float | None = None
    rated_capacity_mah: float | None = None


class DonorPath(In):
    number: Number


class DonorOut(Out):
    number: str
    kind: DonorKind
    description: str
    opened_at: datetime
    cells: list[CellOut]


class DonorLineOut(Out):
    number: str
    kind: DonorKind
    description: str
    opened_at: datetime
    cells: int


class DonorsOut(Out):
    donors: list[DonorLineOut]


class PlacesOut(Out):
    places: list[PlaceOut]


# --- Matching and packs ----------------------------------------------------------------------------------------------


class MatchIn(In):
    series: int = Field(ge=1, le=40)
    parallel: int = Field(ge=1, le=40)
    family: ChargeableFamily
    size_code: Annotated[str, StringConstraints(min_length=1, max_length=20)]
    least_grade: Literal["A", "B", "C"] = "B"


class GroupOut(Out):
    cells: list[CellOut]
    capacity_mah: float
    resistance_mohm: float | None


class LeftOutOut(Out):
    reason: str
    count: int


class ProposalOut(Out):
    """A grouping with its proof: no grouping of these cells has a weakest group above `bound_mah`."""

    series: int
    parallel: int
    groups: list[GroupOut]
    weakest_mah: float
    strongest_mah: float
    spread_mah: float
    bound_mah: float
    proved_best: bool
    at_most_better_pct: float
    candidates: int
    left_out: list[LeftOutOut]
    full_v: float
    nominal_v: float
    energy_wh: float


class PackIn(In):
    purpose: Annotated[str, StringConstraints(max_length=200)]
    request: MatchIn
    groups: list[Annotated[list[Number], Field(min_length=1, max_length=40)]] = Field(min_length=1, max_length=40)


class PackPath(In):
    number: Number


class PackMoveIn(In):
    state: PackState
    seen_version: int
    why: Why | None = None


class PackOut(Out):
    number: str
    purpose: str
    state: PackState
    next_states: list[PackState]
    series: int
    parallel: int
    bound_mah: float
    weakest_mah: float
    spread_mah: float
    full_v: float
    empty_v: float
    nominal_v: float
    energy_wh: float
    made_at: datetime
    version: int
    groups: list[GroupOut]
    #: How far the resting voltages lie apart, and how far they may when cells are joined.
    resting_gap_v: float | None
    join_within: LimitOut
    happenings: list[HappeningOut]


class PacksOut(Out):
    packs: list[PackOut]


class HandOverIn(In):
    place_id: Id
    taped: bool


class HandOverOut(Out):
    handed_over: int


class HealthOut(Out):
    database: Literal["answers", "silent"]
    migrations: Literal["current", "behind", "unknown"]
