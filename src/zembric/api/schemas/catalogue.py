"""What the cafe knows beforehand, and its house rules."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated

from pydantic import Field, StringConstraints

from zembric.api.schemas.base import (
    BandCode,
    CataloguePart,
    ChargeableFamily,
    Code,
    Drain,
    FamilyCode,
    GradeCode,
    GradeSchoolCode,
    In,
    JudgedAs,
    Line,
    Out,
    PartOfPackCode,
    ProtectionOfDonor,
    SizeText,
    Told,
    Typed,
    VoltageSchoolCode,
    Why,
)
from zembric.api.schemas.donors import DonorKindOut, TurnedAwayOut
from zembric.api.schemas.measuring import NeedOut


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


class PackPartValues(In):
    """A kind of part for packs with its usual figures, as they are typed."""

    name: Annotated[str, StringConstraints(min_length=1, max_length=60)]
    kind: PartOfPackCode
    figures: dict[str, Typed] = Field(max_length=20)
    note: Annotated[str, StringConstraints(max_length=240)]
    is_active: bool = True


class RowIn(In):
    """A row of one part of the catalogue; `code` names a new one where the part has codes."""

    code: Code | None = None
    seen_version: int | None = None
    #: A rated value that hardly fits was looked at once more.
    confirmed: bool = False
    donor_kind: KindValues | None = None
    format: FormatValues | None = None
    chemistry: ChemistryValues | None = None
    model: ModelValues | None = None
    tray_size: TraySizeValues | None = None
    pack_part: PackPartValues | None = None


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


class PackPartKindOut(Out):
    id: int
    name: str
    kind: PartOfPackCode
    figures: dict[str, str]
    note: str
    is_active: bool
    version: int


class PartAskedOut(Out):
    """What is asked of a kind of part; `several`: a pack may have more than one."""

    kind: PartOfPackCode
    name: Told
    several: bool
    needs: list[NeedOut]


class CatalogueOut(Out):
    """Everything the cafe knows beforehand."""

    donor_kinds: list[DonorKindOut]
    turned_away: list[TurnedAwayOut]
    formats: list[FormatOut]
    chemistries: list[ChemistryOut]
    models: list[ModelOut]
    tray_sizes: list[TraySizeOut]
    pack_parts: list[PackPartKindOut]
    parts_asked: list[PartAskedOut]


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


class EditableLimitOut(Out):
    """A house value; a coordinator may set it otherwise where it is not fixed."""

    key: str
    meaning: str
    unit: str
    usual: float
    value: float
    #: What it is about; and whether it protects people and is the same in every house.
    group: str
    is_fixed: bool


class SwitchChoiceOut(Out):
    code: str
    text: Told
    why: Told


class SwitchOut(Out):
    """Something that is settled differently from house to house."""

    key: str
    question: str
    chosen: str
    choices: list[SwitchChoiceOut]


class SpecialRuleOut(Out):
    family: FamilyCode | None
    size_code: str | None
    values: dict[str, float]


class RuleVersionOut(Out):
    #: What it changed, in words.
    differences: list[Told]
    version: int
    voltage_school: VoltageSchoolCode
    grade_school: GradeSchoolCode
    at: datetime
    by: str | None
    why: str


class RulesOut(Out):
    limits: list[EditableLimitOut]
    special: list[SpecialRuleOut]
    switches: list[SwitchOut]
    versions: list[RuleVersionOut]
    voltage_schools: list[VoltageSchoolOut]
    grade_schools: list[GradeSchoolOut]
    #: Cells that are judged differently since the last change; null where nothing was changed just now.
    changed: int | None


class SpecialRuleIn(In):
    family: FamilyCode | None = None
    size_code: Annotated[str, StringConstraints(max_length=24)] | None = None
    values: dict[str, Typed]


class RulesToTryIn(In):
    """A set of rules; values as typed, by limit key, what is left out is as usual."""

    voltage_school: VoltageSchoolCode
    grade_school: GradeSchoolCode
    values: dict[str, Typed] = Field(default_factory=dict)
    special: list[SpecialRuleIn] = Field(default_factory=list, max_length=40)
    switches: dict[str, Code] = Field(default_factory=dict)


class RulesIn(RulesToTryIn):
    seen_version: int
    why: Why


class RuleMoveOut(Out):
    before: GradeCode
    after: GradeCode
    cells: int


class RuleChangeOut(Out):
    number: str
    before: GradeCode
    after: GradeCode
    reason: Told


class RulesPreviewOut(Out):
    """Which cells would get another grade."""

    cells: int
    changed: int
    moves: list[RuleMoveOut]
    first: list[RuleChangeOut]
