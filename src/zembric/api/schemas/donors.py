"""Donors, what they tell, their groups and parts."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field, StringConstraints

from zembric.api.schemas.base import (
    ChargedIn,
    ChargerKind,
    Code,
    ConverterCode,
    Drain,
    FamilyCode,
    Id,
    In,
    JudgedAs,
    Number,
    Out,
    PartKind,
    ProtectionOfDonor,
    SizeText,
    SymptomCode,
    Told,
    ToldOrNone,
    Typed,
    Why,
    YesNo,
)
from zembric.api.schemas.bench import PhotoOut
from zembric.api.schemas.cells import CellOut


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
    name: Told
    instead: Told


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
    #: A rated value that hardly fits was looked at once more.
    confirmed: bool = False


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
    expectation: ToldOrNone
    charge_ma: float | None
    in_place: ToldOrNone
    #: Its board is stronger than the cell: no cell is charged by it.
    in_place_refused: bool
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


class DonorsQuery(In):
    text: Typed = ""
    kind: Annotated[str, StringConstraints(max_length=40)] | None = None
    #: Only those with a cell that wants something done, or only those without; null: both.
    has_work: bool | None = None
    #: Only donors older than the one with this number.
    before: Number | None = None


class DonorsOut(Out):
    """A page of donors; `count`: how many fit in all."""

    donors: list[DonorLineOut]
    count: int
