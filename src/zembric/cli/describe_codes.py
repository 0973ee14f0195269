"""The lists of codes that pages choose from, made from the core's own."""

from __future__ import annotations

import json
from typing import TYPE_CHECKING, get_args

from zembric.core import codes
from zembric.core.grounds import Grade
from zembric.core.house.limits import Family, Kind
from zembric.core.identify.donor_clues import Symptom
from zembric.core.identify.ends import Build, CellProtection, PlusEnd, Terminals
from zembric.core.lists import Column
from zembric.core.match.tolerances import TOLERANCE_KEYS
from zembric.core.measure.figures import SetBy
from zembric.core.measure.first_voltage import Band
from zembric.core.measure.self_discharge import SelfDischargeVerdict
from zembric.core.measure.traces.model import StepKind
from zembric.core.measure.uncertainty import Sureness
from zembric.core.next_step.steps import StepCode, Whereabouts
from zembric.core.pack.checks import CheckState
from zembric.core.pack.outside import SEEN_ON_PACK
from zembric.core.pack.parts import PART_CHOICES, PARTS_OF_PACK
from zembric.core.pack.states import PackState, ReturnDecision
from zembric.core.pack.steps.model import JointKind
from zembric.core.story import CapacityMethod, DonorKind, Finding, ResistanceMethod, VoltageState
from zembric.core.tester.programs import ProgramCode, StageKind
from zembric.core.tester.run import AlarmCode

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

#: By the name that pages know them under.
CODES: Mapping[str, Sequence[str]] = {
    "BANDS": get_args(Band),
    "BUILDS": get_args(Build),
    "CELL_PROTECTIONS": get_args(CellProtection),
    "CHECK_STATES": get_args(CheckState),
    "CHARGED_IN": get_args(codes.ChargedIn),
    "CHARGER_KINDS": get_args(codes.ChargerKind),
    "CURRENT_LIMITS": get_args(SetBy),
    "DONOR_CONVERTERS": get_args(codes.DonorConverter),
    "DONOR_DRAINS": get_args(codes.DonorDrain),
    "DONOR_KINDS": get_args(DonorKind),
    "DONOR_PROTECTIONS": get_args(codes.DonorProtection),
    "FAMILIES": tuple(Family),
    "FINDINGS": tuple(Finding),
    "GRADES": get_args(Grade),
    "INSTRUMENT_KINDS": get_args(codes.InstrumentKind),
    "JOINT_KINDS": get_args(JointKind),
    "LIMIT_KINDS": tuple(Kind),
    "LIST_COLUMNS": get_args(Column),
    "LOG_STATES": get_args(codes.LogState),
    "LOG_STEPS": get_args(StepKind),
    "METHODS": ("meter", *dict.fromkeys((*get_args(CapacityMethod), *get_args(ResistanceMethod)))),
    "PACK_STATES": get_args(PackState),
    "PART_CHOICES": PART_CHOICES,
    "PART_KINDS": get_args(codes.PartKind),
    "PARTS_OF_PACK": PARTS_OF_PACK,
    "PROGRAMS": get_args(ProgramCode),
    "RUN_STATES": get_args(codes.RunState),
    "SLOT_KINDS": get_args(codes.SlotKind),
    "STAGE_KINDS": get_args(StageKind),
    "TESTER_STATES": get_args(codes.TesterState),
    "ALARM_CODES": get_args(AlarmCode),
    "PLACE_KINDS": get_args(codes.PlaceKind),
    "PLUS_ENDS": get_args(PlusEnd),
    "RECALL_ABOUTS": get_args(codes.RecallAbout),
    "RETURN_DECISIONS": get_args(ReturnDecision),
    "SEEN_ON_PACK": SEEN_ON_PACK,
    "SELF_DISCHARGE_VERDICTS": get_args(SelfDischargeVerdict),
    "STEPS": (*get_args(StepCode), *get_args(Whereabouts)),
    "SURENESSES": get_args(Sureness),
    "SYMPTOMS": get_args(Symptom),
    "TERMINALS": get_args(Terminals),
    "TOLERANCES": tuple(TOLERANCE_KEYS),
    "VOLTAGE_STATES": get_args(VoltageState),
    "YES_NO_UNKNOWN": get_args(codes.YesNoUnknown),
}


def describe_codes() -> str:
    """The lists as TypeScript."""
    lines = [
        f"export const {name} = {json.dumps([str(code) for code in found])} as const;" for name, found in CODES.items()
    ]
    return "\n".join(["/** Made from the core by `./zembric describe`. */", *lines, ""])
