"""The shapes of one cell's story in JSON, and the events they become. Fields that are not known are ignored."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import (
    AliasChoices,
    AwareDatetime,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    StrictBool,
)

from zembric.core.house.limits import VOLTAGE_RESOLUTION_V, Family
from zembric.core.house.rules import (
    USUAL_RULES,
    GradeSchool,
    HouseRules,
    SpecialRule,
    VoltageSchool,
    check_rules,
)
from zembric.core.story import (
    CameBack,
    CameFrom,
    CapacityMethod,
    CapacityRun,
    CellBuild,
    Charge,
    Decision,
    DecisionAbout,
    DonorKind,
    Event,
    Finding,
    Heat,
    Inspection,
    Near,
    Overrule,
    OverruledGrade,
    Recovery,
    Repair,
    ResistanceMethod,
    ResistanceReading,
    RestingVoltage,
    SecondLook,
    Shelved,
    Skip,
    SkippedQuantity,
    UnrestedVoltage,
    VoltageState,
    Warmth,
)

if TYPE_CHECKING:
    pass


def _plain_number(value: object) -> object:
    """JSON's true and a text such as "3.7" are no numbers."""
    if isinstance(value, bool) or not isinstance(value, int | float | None):
        raise ValueError("is not a number")
    return value


_Number = Annotated[float, BeforeValidator(_plain_number), Field(allow_inf_nan=False)]


_Positive = Annotated[_Number, Field(gt=0)]


class _In(BaseModel):
    model_config = ConfigDict(extra="ignore")


class _SpecialRule(_In):
    values: dict[str, _Number]
    family: Family | None = None
    size_code: str | None = None


class _Rules(_In):
    voltage_school: VoltageSchool = "usual"
    grade_school: GradeSchool = "health"
    values: dict[str, _Number] = Field(default_factory=dict)
    special: list[_SpecialRule] = Field(default_factory=list)
    switches: dict[str, str] = Field(default_factory=dict)

    def rules(self) -> HouseRules:
        special = tuple(SpecialRule(rule.values, rule.family, rule.size_code) for rule in self.special)
        return check_rules(HouseRules(0, self.voltage_school, self.grade_school, self.values, special, self.switches))


class CellDocument(_In):
    size: str | None = None
    family: Family | None = None
    full_v: _Positive | None = None
    rated_capacity_mah: _Positive | None = None
    claimed_capacity_mah: _Positive | None = None
    mass_g: _Positive | None = None
    width_mm: _Positive | None = None
    length_mm: _Positive | None = None
    thickness_mm: _Positive | None = None
    most_charge_ma: _Positive | None = None
    most_discharge_ma: _Positive | None = None
    build: CellBuild | None = None


class _Donor(_In):
    kind: DonorKind = "other"
    opened_at: AwareDatetime | None = None
    # Files of before 2026-12 call them brothers.
    siblings_found_v: list[_Number] = Field(
        default_factory=list, validation_alias=AliasChoices("siblings_found_v", "brothers_found_v")
    )


class _Event(_In):
    at: AwareDatetime


class _WarmEvent(_Event):
    """An event with how warm the cell was, where anybody said."""

    temperature_degc: _Number | None = None
    room_degc: _Number | None = None
    warmth: Warmth | None = None

    @property
    def heat(self) -> Heat:
        return Heat(self.temperature_degc, self.room_degc, self.warmth)


class _Inspection(_WarmEvent):
    kind: Literal["inspection"]
    findings: list[Finding]

    def event(self) -> Event:
        return Inspection(self.at, frozenset(self.findings), self.heat)


class _Repair(_Event):
    kind: Literal["repair"]
    done: list[Finding]

    def event(self) -> Event:
        return Repair(self.at, frozenset(self.done))


class _RestingVoltage(_WarmEvent):
    kind: Literal["resting-voltage"]
    value_v: _Number
    resolution_v: _Positive = USUAL_RULES.value(VOLTAGE_RESOLUTION_V)

    def event(self) -> Event:
        return RestingVoltage(self.at, self.value_v, self.resolution_v, self.heat)


class _OtherVoltage(_Event):
    kind: Literal["other-voltage"]
    value_v: _Number
    state: VoltageState

    def event(self) -> Event:
        return UnrestedVoltage(self.at, self.value_v, self.state)


class _Recovery(_WarmEvent):
    kind: Literal["recovery"]
    outcome: Literal["passed", "failed"]

    def event(self) -> Event:
        return Recovery(self.at, self.outcome, self.heat)


class _Decision(_Event):
    kind: Literal["decision"]
    about: DecisionAbout
    outcome: Literal["go-on", "out"]

    def event(self) -> Event:
        return Decision(self.at, self.about, self.outcome)


class _Overrule(_Event):
    kind: Literal["overrule"]
    grade: OverruledGrade | None
    why: str = ""

    def event(self) -> Event:
        return Overrule(self.at, self.grade, self.why)


class ChargeDocument(_WarmEvent):
    kind: Literal["charge"]
    complete: StrictBool
    end_v: _Number
    minutes: _Positive | None = None
    #: It went on although the cell read next to nothing: kept as what happened, and decided by a coordinator.
    happened: StrictBool = False

    def event(self) -> Event:
        return Charge(self.at, self.complete, self.end_v, self.minutes, self.heat)


class _Capacity(_Event):
    kind: Literal["capacity"]
    value_mah: _Positive
    method: CapacityMethod
    current_ma: _Positive | None = None
    cut_off_v: _Positive | None = None
    complete: StrictBool
    standard_u_mah: _Positive | None = None
    #: Somebody said that it was full before, so that no entry of the charge is wanted.
    started_full: StrictBool | None = None

    def event(self) -> Event:
        return CapacityRun(
            self.at, self.value_mah, self.method, self.complete, self.current_ma, self.cut_off_v, own_u_mah=self.standard_u_mah,
            started_full=self.started_full,
        )  # fmt: skip


class ResistanceDocument(_Event):
    kind: Literal["resistance"]
    value_mohm: _Positive
    method: ResistanceMethod
    resolution_v: _Positive | None = None
    load_ohm: _Positive | None = None
    standard_u_mohm: _Positive | None = None

    def event(self) -> Event:
        return ResistanceReading(
            self.at, self.value_mohm, self.method, self.resolution_v, self.load_ohm, own_u_mohm=self.standard_u_mohm
        )  # fmt: skip


class _Skip(_Event):
    kind: Literal["skip"]
    what: SkippedQuantity
    why: str = ""

    def event(self) -> Event:
        return Skip(self.at, self.what, self.why)


class _SecondLook(_Event):
    kind: Literal["second-look"]
    sibling: str = Field(validation_alias=AliasChoices("sibling", "brother"))
    findings: list[Finding]
    near: Near = "donor"

    def event(self) -> Event:
        return SecondLook(self.at, self.sibling, frozenset(self.findings), self.near)


class _CameBack(_Event):
    kind: Literal["came-back"]
    source: CameFrom

    def event(self) -> Event:
        return CameBack(self.at, self.source)


class _Shelved(_Event):
    kind: Literal["shelved"]

    def event(self) -> Event:
        return Shelved(self.at)


_AnyEvent = Annotated[
    _Inspection
    | _Repair
    | _RestingVoltage
    | _OtherVoltage
    | _Recovery
    | _Decision
    | _Overrule
    | ChargeDocument
    | _Capacity
    | ResistanceDocument
    | _Skip
    | _SecondLook
    | _CameBack
    | _Shelved,
    Field(discriminator="kind"),
]


class StoryDocument(_In):
    now: AwareDatetime
    rules: _Rules = Field(default_factory=_Rules)
    cell: CellDocument
    donor: _Donor = Field(default_factory=_Donor)
    events: list[_AnyEvent] = Field(default_factory=list)
