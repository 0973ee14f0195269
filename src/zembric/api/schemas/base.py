"""The codes that go over the wire, and what every shape has in common."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AliasChoices, BaseModel, BeforeValidator, ConfigDict, Field, StringConstraints, field_validator

from zembric.api.words import in_words

JudgedAs = Literal["laptop", "vape", "power-tool", "phone", "other"]
Drain = Literal["low", "high", "mixed"]
ProtectionOfDonor = Literal["own board", "pack board", "bare", "mixed"]
SymptomCode = Literal[
    "runs-short", "cuts-out", "dead", "does-not-charge", "unused", "wet-or-dropped", "none", "unknown"
]
ChargerKind = Literal["none", "linear", "switching", "pack-board", "unknown"]
YesNo = Literal["yes", "no", "unknown"]
ConverterCode = Literal["none", "step-up", "step-down", "both", "unknown"]
ChargedIn = Literal["out", "holder", "device"]
PartKind = Literal["charger-board", "protection-board", "holder", "switch", "sensor", "converter", "connector", "other"]
BuildCode = Literal["wrapped-can", "bare-can", "flat-can", "pouch"]
PlusEndCode = Literal["button", "can", "marked-tab", "lead"]
CellProtectionCode = Literal["none", "inside", "donor-board"]
TerminalsCode = Literal["clean", "stub", "wires", "soldered"]
WarmthCode = Literal["cool", "warm", "too-hot"]
VoltageStateCode = Literal["resting", "off-charger", "under-charge", "under-load", "climbing"]
TurnedCode = Literal["leads-swapped", "can-is-plus"]
ThingCode = Literal["cell", "donor", "pack", "tray", "box", "instrument"]
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
    "handed-over", "watched", "read-at-rest",
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


#: Something said, which goes out in words; of shapes that are made from rows or from the core it is their `said`.
Told = Annotated[str, BeforeValidator(in_words)]
ToldOrNone = Annotated[str | None, BeforeValidator(in_words)]
SaidText = Annotated[str, BeforeValidator(in_words), Field(validation_alias=AliasChoices("text", "said"))]


class In(BaseModel):
    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True, allow_inf_nan=False)

    @field_validator("*", mode="before")
    @classmethod
    def refuse_nul(cls, value: object) -> object:
        texts = [value] if isinstance(value, str) else [*value, *value.values()] if isinstance(value, dict) else []
        if any(isinstance(text, str) and "\x00" in text for text in texts):
            raise ValueError("a text cannot contain a NUL character")
        return value


class Out(BaseModel):
    model_config = ConfigDict(from_attributes=True)
