"""What goes over the wire. In models end in `In`, what the server answers ends in `Out`."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, StringConstraints, field_validator

JudgedAs = Literal["laptop", "vape", "power-tool", "phone", "other"]
Drain = Literal["low", "high", "mixed"]
ProtectionOfDonor = Literal["own board", "pack board", "bare", "mixed"]
SymptomCode = Literal["runs-short", "cuts-out", "dead", "does-not-charge", "unused", "wet-or-dropped", "none"]
ChargerKind = Literal["none", "linear", "switching", "pack-board", "unknown"]
YesNo = Literal["yes", "no", "unknown"]
ConverterCode = Literal["none", "step-up", "step-down", "both", "unknown"]
ChargedIn = Literal["out", "holder", "device"]
PartKind = Literal["charger-board", "protection-board", "holder", "switch", "sensor", "converter", "connector", "other"]
BuildCode = Literal["wrapped-can", "bare-can", "flat-can", "pouch"]
PlusEndCode = Literal["button", "can", "marked-tab", "lead"]
CellProtectionCode = Literal["none", "inside", "donor-board"]
TerminalsCode = Literal["clean", "stub", "wires", "soldered"]
VoltageStateCode = Literal["resting", "off-charger", "under-charge", "under-load", "climbing"]
TurnedCode = Literal["leads-swapped", "can-is-plus"]
ThingCode = Literal["cell", "donor", "pack", "tray", "box"]
CataloguePart = Literal["donor-kinds", "formats", "chemistries", "models", "tray-sizes"]
VoltageSchoolCode = Literal["strict", "usual", "thrifty"]
GradeSchoolCode = Literal["health", "bins", "fitness"]
BandCode = Literal["recycle", "watched-recovery", "recovery", "go-on", "over-voltage"]
ListColumn = Literal[
    "label", "donor", "donor_kind", "size", "family", "rated_mah", "claimed_mah", "voltage_v", "capacity_mah", "resistance_mohm",
    "mass_g", "findings", "note",
]  # fmt: skip
FamilyCode = Literal["layered-oxide", "high-voltage-cobalt", "iron-phosphate", "titanate", "primary"]
ChargeableFamily = Literal["layered-oxide", "high-voltage-cobalt", "iron-phosphate", "titanate"]
GradeCode = Literal["A", "B", "C", "out", "not-yet"]
SureCode = Literal["sure", "likely", "borderline"]
StepCode = Literal[
    "inspect", "repair", "measure-voltage", "recover", "charge", "rest", "measure-capacity", "measure-resistance",
    "repeat-measurement", "shelve", "keep", "recheck", "decide", "fire-safe-box", "out-box", "in-pack", "in-use", "hand-over",
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
PlaceKind = Literal["tray", "holding-box", "shelf-box", "out-box", "fire-safe-box"]
PackState = Literal["planned", "built", "given-out", "back", "taken-apart", "dropped"]
RoleCode = Literal["volunteer", "coordinator"]
LimitKind = Literal["physics", "standard", "house"]

# PostgreSQL keeps integers of 32 bits and no NUL character; both are refused here, where it can be said which field.
Id = Annotated[int, Field(ge=1, le=2**31 - 1)]
Number = Annotated[str, StringConstraints(min_length=1, max_length=40, pattern=r"^[^\x00]+$")]
Typed = Annotated[str, StringConstraints(max_length=60)]
Why = Annotated[str, StringConstraints(max_length=300)]
SizeText = Annotated[str, StringConstraints(max_length=24)]
Code = Annotated[str, StringConstraints(min_length=1, max_length=40, pattern=r"^[A-Za-z0-9][A-Za-z0-9._-]*$")]
Line = Annotated[str, StringConstraints(min_length=1, max_length=240)]


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
    #: Of a voltage: its state; what was typed where it was "about" something or a range.
    voltage_state: VoltageStateCode | None
    as_typed: str | None
    step: (
        Literal[
            "repair",
            "recovery",
            "recovery-started",
            "recovery-check",
            "decision",
            "charge",
            "skip",
            "shelved",
            "second-look",
        ]
        | None
    )
    details: dict[str, str | float | bool | list[str] | None] | None


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


class RunningOut(Out):
    """A recovery under way, as whoever comes by has to know of it."""

    number: str
    text: str
    next_check_at: datetime | None
    started_by: str


class HomeOut(Out):
    now: datetime
    running: list[RunningOut]
    groups: list[StepGroupOut]


# --- Entries ---------------------------------------------------------------------------------------------------------


class EntryIn(In):
    """`typed_at`: when it was typed, where it waited on a device without connection; null: just now."""

    typed_at: AwareDatetime | None = None


class InspectionIn(EntryIn):
    findings: list[FindingCode] = Field(max_length=12)


class ReadingIn(EntryIn):
    """A reading as typed; comma or point, "about 2300", "30 to 35". `confirmed`: an odd value was looked at once more."""

    quantity: Quantity
    value: Typed
    method: MethodCode
    confirmed: bool = False
    current_ma: Typed | None = None
    cut_off_v: Typed | None = None
    complete: bool = True
    state: VoltageStateCode = "resting"
    turned: TurnedCode | None = None


class FirstLookIn(EntryIn):
    """A look and, unless a hazard was found, the voltage after it."""

    findings: list[FindingCode] = Field(max_length=12)
    value: Typed | None = None
    confirmed: bool = False
    turned: TurnedCode | None = None


class RecoveryStartIn(In):
    current_ma: Typed
    cell_degc: Typed | None = None


class RecoveryCheckIn(In):
    value: Typed
    cell_degc: Typed | None = None
    feels_warm: bool = False


class MoveIn(In):
    """Into which place, by its number; `slot`: a numbered place of a tray, null: the first free one."""

    place: Number
    slot: int | None = Field(None, ge=1, le=400)


class UseIn(In):
    device: Annotated[str, StringConstraints(min_length=2, max_length=120)]


class ChargeIn(EntryIn):
    end_v: Typed
    complete: bool = True


class RecoveryIn(In):
    outcome: Literal["passed", "failed"]


class RepairIn(EntryIn):
    done: list[FindingCode] = Field(min_length=1, max_length=3)


class SkipIn(In):
    why: Why


class DecisionIn(In):
    about: Literal["over-voltage", "recovery-mark"]
    outcome: Literal["go-on", "out"]
    why: Why


class ShelvingIn(In):
    place_id: Id | None = None


class NothingIn(In):
    """A step that needs no words."""


class WithdrawalIn(In):
    entry_id: Id


class CorrectionIn(In):
    entry_id: Id
    why: Why
    reading: ReadingIn


class FactsIn(In):
    """What a cell is; only the fields that are sent are changed. `brothers_too`: also its brothers not measured yet."""

    seen_version: int
    brothers_too: bool = False
    size_code: SizeText | None = None
    family: FamilyCode | None = None
    full_v: float | None = Field(None, ge=2, le=5)
    rated_capacity_mah: float | None = None
    claimed_capacity_mah: float | None = None
    advertised_capacity_mah: float | None = None
    chemistry_code: Code | None = None
    model_id: Id | None = None
    width_mm: float | None = None
    length_mm: float | None = None
    thickness_mm: float | None = None
    mass_g: float | None = None
    build: BuildCode | None = None
    plus_end: PlusEndCode | None = None
    protection: CellProtectionCode | None = None
    terminals: TerminalsCode | None = None


class EntryAnswerOut(Out):
    """The cell after an entry, and the entry that could be undone (null: nothing to undo)."""

    cell: CellOut
    entry_id: int | None
    gap_to_brothers_v: float | None


# --- At the bench -----------------------------------------------------------------------------------------------------


class LookPromptOut(Out):
    text: str
    findings: list[FindingCode]


class StateQuestionOut(Out):
    text: str
    likely: VoltageStateCode


class RecoveryPlanOut(Out):
    found_v: float
    current_ma: float
    rate_c: float
    watched: bool
    past_v: float
    check_every_min: float
    most_min: float
    most_warmer_k: float


class RecoveryCheckOut(Out):
    at: datetime
    value_v: float
    warmer_k: float | None
    feels_warm: bool


class RecoveryOut(Out):
    """A recovery under way."""

    set_ma: float
    started_at: datetime
    started_by: str
    checks: list[RecoveryCheckOut]
    text: str
    next_check_at: datetime | None
    ends_at: datetime


class BrotherVoltageOut(Out):
    number: str
    value_v: float


class ClaimOut(Out):
    """A claim against what fits, in mAh, with the arithmetic in words."""

    claim_mah: float
    verdict: Literal["believable", "doubtful", "impossible"]
    doubtful_above_mah: float
    impossible_above_mah: float
    by: Literal["volume", "mass"]
    arithmetic: str


class PhotoOut(Out):
    id: int
    width_px: int
    height_px: int
    at: datetime


class BenchOut(Out):
    """A cell in hand: what to look for, what to ask about its voltage, how its recovery stands."""

    cell: CellOut
    now: datetime
    prompts: list[LookPromptOut]
    question: StateQuestionOut | None
    nothing_reached: bool
    brothers: list[BrotherVoltageOut]
    group_v: float | None
    plan: RecoveryPlanOut | None
    recovery: RecoveryOut | None
    charge_ma: float
    in_place: str | None
    claim: ClaimOut | None
    suspicion: str | None
    build: BuildCode | None
    plus: str | None
    joining: str | None
    photos: list[PhotoOut]


class SizeQuery(In):
    code: SizeText
    family: FamilyCode | None = None
    claim_mah: float | None = Field(None, gt=0, le=60_000)
    mass_g: float | None = Field(None, gt=0, le=2000)


class SizeReadingOut(Out):
    code: str
    shape: Literal["cylinder", "flat"]
    width_mm: float
    length_mm: float
    thickness_mm: float | None
    volume_cm3: float


class SizeOut(Out):
    """What a print means: all its readings, the likeliest first, and whether a claim fits into that one."""

    code: str
    readings: list[SizeReadingOut]
    ambiguous: bool
    family: FamilyCode | None
    rechargeable: bool | None
    remarks: list[str]
    suspicion: str | None
    claim: ClaimOut | None


class FindQuery(In):
    text: Annotated[str, StringConstraints(min_length=1, max_length=60)]


class FoundOut(Out):
    thing: ThingCode
    number: str
    name: str
    where: str


# --- Donors -----------------------------------------------------------------------------------------------------------


class DonorKindOut(Out):
    code: str
    name: str
    sizes: str
    usual_size: str | None
    usual_family: FamilyCode | None
    cells_least: int
    cells_most: int
    drain: Drain
    protection: ProtectionOfDonor
    traps: list[str]
    cautions: list[str]
    judged_as: JudgedAs
    is_active: bool
    version: int


class TurnedAwayOut(Out):
    code: str
    name: str
    instead: str


class DonorIn(In):
    kind: Code
    description: Annotated[str, StringConstraints(max_length=200)] = ""
    cells: int
    size_code: SizeText | None = None
    family: FamilyCode | None = None
    full_v: float | None = None
    claimed_capacity_mah: float | None = None
    rated_capacity_mah: float | None = None
    model_id: Id | None = None
    tray_size_id: Id | None = None
    parallel: int | None = None


class CluesIn(In):
    """What print, board and failure of a donor tell; only the fields that are sent are changed."""

    seen_version: int
    description: Annotated[str, StringConstraints(max_length=200)] | None = None
    symptom: SymptomCode | None = None
    ran_min: float | None = None
    runs_now_min: float | None = None
    claimed_v: float | None = None
    claimed_wh: float | None = None
    claimed_mah: float | None = None
    charger_kind: ChargerKind | None = None
    charger_k_v: float | None = None
    charger_r1_ohm: float | None = None
    charger_r2_ohm: float | None = None
    protection: YesNo | None = None
    protection_cut_off_v: float | None = None
    protection_release_v: float | None = None
    temperature_sensor: YesNo | None = None
    converter: ConverterCode | None = None
    connector: Annotated[str, StringConstraints(max_length=60)] | None = None
    charged_in: ChargedIn | None = None


class PackReadingOut(Out):
    family: FamilyCode
    nominal_v: float
    series: int
    parallel: int
    cell_mah: float | None


class PackPrintOut(Out):
    """What the pack's print means for a cell; `problem`: why it cannot be."""

    readings: list[PackReadingOut]
    remark: str | None
    problem: str | None


class CluesOut(Out):
    """What was recorded of a donor, and what follows from it in words and figures."""

    symptom: SymptomCode | None
    ran_min: float | None
    runs_now_min: float | None
    claimed_v: float | None
    claimed_wh: float | None
    claimed_mah: float | None
    charger_kind: ChargerKind | None
    charger_k_v: float | None
    charger_r1_ohm: float | None
    charger_r2_ohm: float | None
    protection: YesNo | None
    protection_cut_off_v: float | None
    protection_release_v: float | None
    temperature_sensor: YesNo | None
    converter: ConverterCode | None
    connector: str | None
    charged_in: ChargedIn
    expectation: str | None
    charge_ma: float | None
    in_place: str | None
    pack_print: PackPrintOut | None


class PartIn(In):
    kind: PartKind
    description: Annotated[str, StringConstraints(max_length=200)] = ""


class PartOut(Out):
    id: int
    kind: PartKind
    description: str
    kept_at: datetime
    gone_at: datetime | None
    gone_why: str | None
    donor_number: str
    donor_description: str


class PartPath(In):
    part_id: Id


class PartGoneIn(In):
    why: Why


class PartsOut(Out):
    parts: list[PartOut]


class GroupsIn(In):
    parallel: int = Field(ge=1, le=40)
    voltages: list[Typed] = Field(min_length=1, max_length=20)


class GroupVoltageOut(Out):
    number: int
    value_v: float
    gap_v: float | None


class GroupsOut(Out):
    at: datetime
    by: str
    parallel: int
    groups: list[GroupVoltageOut]
    said: str
    total_v: float


class SeriesQuery(In):
    total_v: float = Field(gt=0, le=100)


class SeriesOut(Out):
    series: list[int]


class PhotoPath(In):
    photo_id: Id


class DonorPath(In):
    number: Number


class DonorOut(Out):
    number: str
    kind: str
    kind_name: str
    cautions: list[str]
    traps: list[str]
    description: str
    opened_at: datetime
    taped_at: datetime | None
    taped_by: str | None
    version: int
    clues: CluesOut
    groups: GroupsOut | None
    parts: list[PartOut]
    photos: list[PhotoOut]
    cells: list[CellOut]


class DonorLineOut(Out):
    number: str
    kind: str
    kind_name: str
    description: str
    opened_at: datetime
    cells: int


class DonorsOut(Out):
    donors: list[DonorLineOut]


# --- Places -----------------------------------------------------------------------------------------------------------


class PlacePath(In):
    number: Number


class PlaceLineOut(Out):
    place: PlaceOut
    cells: int


class PlacesOut(Out):
    places: list[PlaceLineOut]


class PlaceIn(In):
    name: Annotated[str, StringConstraints(max_length=60)]
    kind: PlaceKind
    rows: int | None = Field(None, ge=1, le=20)
    columns: int | None = Field(None, ge=1, le=20)
    capacity: int | None = None


class PlaceChangeIn(In):
    seen_version: int
    name: Annotated[str, StringConstraints(max_length=60)]
    capacity: int | None = None


class StockTakeIn(In):
    seen: list[Number] = Field(max_length=2000)


class StockTakeOut(Out):
    """What a count found; `missing` should be here, `misplaced` is here and belongs elsewhere."""

    here: list[CellOut]
    missing: list[CellOut]
    misplaced: list[CellOut]


class PlaceOpenOut(Out):
    place: PlaceOut
    cells: list[CellOut]
    last_counted_at: datetime | None
    last_counted_by: str | None
    last_missing: list[str]


class TrayCellOut(Out):
    cell: CellOut
    prompts: list[LookPromptOut]
    must_look: bool
    needs_voltage: bool


class UntapedOut(Out):
    number: str
    description: str


class TrayOut(Out):
    tray: PlaceOut
    cells: list[TrayCellOut]
    untaped: list[UntapedOut]


class CursorIn(In):
    slot: int = Field(ge=1, le=400)


# --- Catalogue and rules -----------------------------------------------------------------------------------------------


class KindValues(In):
    name: Line
    sizes: Line
    usual_size: SizeText | None
    usual_family: FamilyCode | None
    cells_least: int = Field(ge=1, le=40)
    cells_most: int = Field(ge=1, le=40)
    drain: Drain
    protection: ProtectionOfDonor
    traps: list[Line] = Field(max_length=8)
    cautions: list[Line] = Field(max_length=8)
    judged_as: JudgedAs
    is_active: bool = True


class FormatValues(In):
    name: Line
    width_mm: float
    length_mm: float
    thickness_mm: float | None
    note: Annotated[str, StringConstraints(max_length=240)]
    is_active: bool = True


class ChemistryValues(In):
    name: Line
    family: FamilyCode
    full_v: float | None = Field(ge=2, le=5)
    note: Annotated[str, StringConstraints(max_length=240)]
    is_active: bool = True


class ModelValues(In):
    name: Line
    size_code: SizeText
    family: ChargeableFamily
    full_v: float | None = Field(ge=2, le=5)
    rated_capacity_mah: float = Field(gt=0, le=60_000)
    cut_off_v: float | None = Field(ge=0.5, le=4)
    most_charge_ma: float | None = Field(gt=0, le=500_000)
    most_discharge_ma: float | None = Field(gt=0, le=500_000)
    source: Annotated[str, StringConstraints(max_length=240)]
    sheet_date: date | None
    is_active: bool = True


class TraySizeValues(In):
    name: Line
    rows: int = Field(ge=1, le=20)
    columns: int = Field(ge=1, le=20)
    is_active: bool = True


class RowIn(In):
    """A row of one part of the catalogue; `code` names a new one where the part has codes."""

    code: Code | None = None
    seen_version: int | None = None
    donor_kind: KindValues | None = None
    format: FormatValues | None = None
    chemistry: ChemistryValues | None = None
    model: ModelValues | None = None
    tray_size: TraySizeValues | None = None


class CataloguePath(In):
    part: CataloguePart


class CatalogueRowPath(In):
    part: CataloguePart
    key: Annotated[str, StringConstraints(min_length=1, max_length=40)]


class FormatOut(Out):
    code: str
    name: str
    width_mm: float
    length_mm: float
    thickness_mm: float | None
    note: str
    is_active: bool
    version: int


class ChemistryOut(Out):
    code: str
    name: str
    family: FamilyCode
    full_v: float | None
    note: str
    is_active: bool
    version: int


class ModelOut(Out):
    id: int
    name: str
    size_code: str
    family: ChargeableFamily
    full_v: float | None
    rated_capacity_mah: float
    cut_off_v: float | None
    most_charge_ma: float | None
    most_discharge_ma: float | None
    source: str
    sheet_date: date | None
    is_active: bool
    version: int


class TraySizeOut(Out):
    id: int
    name: str
    rows: int
    columns: int
    is_active: bool
    version: int


class CatalogueOut(Out):
    """Everything the cafe knows beforehand."""

    donor_kinds: list[DonorKindOut]
    turned_away: list[TurnedAwayOut]
    formats: list[FormatOut]
    chemistries: list[ChemistryOut]
    models: list[ModelOut]
    tray_sizes: list[TraySizeOut]


class BandOut(Out):
    band: BandCode
    from_v: float
    marks: bool


class FamilyBandsOut(Out):
    family: FamilyCode
    bands: list[BandOut]


class VoltageSchoolOut(Out):
    code: VoltageSchoolCode
    text: str
    why: str
    families: list[FamilyBandsOut]


class GradeSchoolOut(Out):
    code: GradeSchoolCode
    text: str


class RuleVersionOut(Out):
    version: int
    voltage_school: VoltageSchoolCode
    grade_school: GradeSchoolCode
    at: datetime
    by: str | None
    why: str


class RulesOut(Out):
    versions: list[RuleVersionOut]
    voltage_schools: list[VoltageSchoolOut]
    grade_schools: list[GradeSchoolOut]
    #: Cells that are judged differently since the last change; null where nothing was changed just now.
    changed: int | None


class RulesIn(In):
    seen_version: int
    voltage_school: VoltageSchoolCode
    grade_school: GradeSchoolCode
    why: Why


# --- Paper and lists ---------------------------------------------------------------------------------------------------


class LabelLayoutOut(Out):
    key: str
    name: str
    paper: Literal["sheet", "roll"]
    labels_per_page: int
    columns: int
    rows: int
    label_width_mm: float
    label_height_mm: float


class PrintOut(Out):
    id: int
    at: datetime
    by: str
    layout: str
    first: int
    numbers: list[str]
    again: list[str]
    why: str | None


class PrintsOut(Out):
    layouts: list[LabelLayoutOut]
    prints: list[PrintOut]
    unlabelled: list[str]


class PrintIn(In):
    layout: Annotated[str, StringConstraints(max_length=40)]
    numbers: list[Number] = Field(min_length=1, max_length=400)
    first: int = Field(1, ge=1, le=400)
    why: Why | None = None


class PrintPath(In):
    print_id: Id


class LayoutPath(In):
    layout: Annotated[str, StringConstraints(max_length=40)]


class ShiftQuery(In):
    """How far a printer is off [mm]."""

    shift_x_mm: float = Field(0, ge=-20, le=20)
    shift_y_mm: float = Field(0, ge=-20, le=20)


class ListIn(In):
    """A list as a file, base64; `columns`: what each column is (null: left out), null: as its header says."""

    file_name: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    content: Annotated[str, Field(max_length=7_500_000)]
    columns: list[ListColumn | None] | None = Field(None, max_length=200)


class ExportPath(In):
    name: Literal["donors", "cells"]


class ListColumnOut(Out):
    header: str
    column: ListColumn | None
    unit: str | None


class ListProblemOut(Out):
    line: int
    header: str
    text: str


class ListedCellOut(Out):
    line: int
    label: str | None
    donor: str
    size_code: str | None
    family: FamilyCode | None
    rated_mah: float | None
    voltage_v: float | None
    capacity_mah: float | None
    resistance_mohm: float | None
    is_here: bool


class ListPreviewOut(Out):
    columns: list[ListColumnOut]
    cells: list[ListedCellOut]
    problems: list[ListProblemOut]
    new: int
    donors: int


class ListTakenOut(Out):
    cells: int


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
