"""The codes that go over the wire, and what every shape has in common."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AliasChoices, BaseModel, BeforeValidator, ConfigDict, Field, StringConstraints, field_validator

from zembric.api.words import in_words
from zembric.core import codes
from zembric.core.grounds import Grade
from zembric.core.house.limits import Family, Kind
from zembric.core.house.rules import GradeSchool, VoltageSchool
from zembric.core.identify.donor_clues import Symptom
from zembric.core.identify.ends import Build, CellProtection, PlusEnd, Terminals
from zembric.core.identify.numbering import NumberedThing
from zembric.core.lists import Column
from zembric.core.measure.first_voltage import Band
from zembric.core.measure.uncertainty import Sureness
from zembric.core.next_step.steps import ShownStep
from zembric.core.pack import states
from zembric.core.pack.checks import CheckState
from zembric.core.pack.parts import PartOfPack
from zembric.core.story import (
    CapacityMethod,
    DonorKind,
    Finding,
    ResistanceMethod,
    SkippedQuantity,
    VoltageState,
    Warmth,
)

# Codes have one source, the core; here they get the names that the description of the API gives them.
JudgedAs = DonorKind
Drain = codes.DonorDrain
ProtectionOfDonor = codes.DonorProtection
ChargerKind = codes.ChargerKind
ChargedIn = codes.ChargedIn
PartKind = codes.PartKind
PlaceKind = codes.PlaceKind
PackState = states.PackState
SymptomCode = Symptom
YesNo = codes.YesNoUnknown
ConverterCode = codes.DonorConverter
BuildCode = Build
PlusEndCode = PlusEnd
CellProtectionCode = CellProtection
TerminalsCode = Terminals
WarmthCode = Warmth
VoltageStateCode = VoltageState
ThingCode = NumberedThing
VoltageSchoolCode = VoltageSchool
GradeSchoolCode = GradeSchool
BandCode = Band
ListColumn = Column
FamilyCode = Family
ChargeableFamily = Literal[Family.LAYERED_OXIDE, Family.HIGH_VOLTAGE_COBALT, Family.IRON_PHOSPHATE, Family.TITANATE]
GradeCode = Grade
SureCode = Sureness
StepCode = ShownStep
FindingCode = Finding
Quantity = SkippedQuantity
CapacityMethodCode = CapacityMethod
ResistanceMethodCode = ResistanceMethod
MethodCode = Literal["meter"] | CapacityMethod | ResistanceMethod
RoleCode = codes.Role
LimitKind = Kind
TurnedCode = Literal["leads-swapped", "can-is-plus"]
CataloguePart = Literal["donor-kinds", "formats", "chemistries", "models", "tray-sizes", "pack-parts"]
PartOfPackCode = PartOfPack
CheckStateCode = CheckState

# PostgreSQL keeps integers of 32 bits and no NUL character; both are refused here, where it can be said which field.
Id = Annotated[int, Field(ge=1, le=2**31 - 1)]
Number = Annotated[str, StringConstraints(min_length=1, max_length=40, pattern=r"^[^\x00]+$")]
#: By how many minutes the clock of whoever asks is ahead of UTC.
UtcOffset = Annotated[int, Field(ge=-12 * 60, le=14 * 60)]
Typed = Annotated[str, StringConstraints(max_length=60)]
Why = Annotated[str, StringConstraints(max_length=300)]
SizeText = Annotated[str, StringConstraints(max_length=24)]
Code = Annotated[str, StringConstraints(min_length=1, max_length=40, pattern=r"^[A-Za-z0-9][A-Za-z0-9._-]*$")]
Line = Annotated[str, StringConstraints(min_length=1, max_length=240)]


#: Something said, which goes out in words; of shapes that are made from rows or from the core it is their `said`.
Told = Annotated[str, BeforeValidator(in_words)]
ToldOrNone = Annotated[str | None, BeforeValidator(in_words)]
SaidText = Annotated[str, BeforeValidator(in_words), Field(validation_alias=AliasChoices("text", "said"))]


class In(BaseModel):
    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True, allow_inf_nan=False, defer_build=True)

    @field_validator("*", mode="before")
    @classmethod
    def refuse_nul(cls, value: object) -> object:
        texts = [value] if isinstance(value, str) else [*value, *value.values()] if isinstance(value, dict) else []
        if any(isinstance(text, str) and "\x00" in text for text in texts):
            raise ValueError("a text cannot contain a NUL character")
        return value


class Out(BaseModel):
    model_config = ConfigDict(from_attributes=True, defer_build=True)
