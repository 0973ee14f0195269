"""What is entered for a cell, and the answer to it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AwareDatetime, Field, StringConstraints

from zembric.api.schemas.base import (
    BuildCode,
    CellProtectionCode,
    Code,
    FamilyCode,
    FindingCode,
    Id,
    In,
    MethodCode,
    Number,
    Out,
    PlusEndCode,
    Quantity,
    SizeText,
    TerminalsCode,
    TurnedCode,
    Typed,
    VoltageStateCode,
    WarmthCode,
    Why,
)
from zembric.api.schemas.cells import CellOut
from zembric.core.story import DecisionAbout, OverruledGrade


class EntryIn(In):
    """`typed_at`: when it was typed, where it waited on a device without connection; null: just now.

    `paper_at`: when it was done, where it stood on paper until now; it goes before `typed_at`.
    """

    typed_at: AwareDatetime | None = None
    paper_at: AwareDatetime | None = None


class HeatIn(EntryIn):
    """How warm the cell and its room were: by a thermometer, or by hand in three steps; null: nobody said."""

    cell_degc: Typed | None = None
    bench_degc: Typed | None = None
    warmth: WarmthCode | None = None


class InspectionIn(HeatIn):
    findings: list[FindingCode] = Field(max_length=12)


class ReadingIn(HeatIn):
    """A reading as typed; comma or point, "about 2300", "30 to 35". `confirmed`: an odd value was looked at once more."""

    quantity: Quantity
    value: Typed
    method: MethodCode
    confirmed: bool = False
    current_ma: Typed | None = None
    cut_off_v: Typed | None = None
    complete: bool = True
    #: None: nobody could ask yet; the likely one is taken.
    state: VoltageStateCode | None = "resting"
    turned: TurnedCode | None = None
    instrument: Number | None = None
    #: Whether it was full before the run; null: nobody said, so the entries of its charges tell.
    started_full: bool | None = None


class FirstLookIn(HeatIn):
    """A look and, unless a hazard was found, the voltage after it."""

    findings: list[FindingCode] = Field(max_length=12)
    value: Typed | None = None
    confirmed: bool = False
    turned: TurnedCode | None = None
    state: VoltageStateCode = "resting"


class RecoveryStartIn(In):
    current_ma: Typed
    cell_degc: Typed | None = None


class RecoveryCheckIn(In):
    value: Typed
    cell_degc: Typed | None = None
    warmth: WarmthCode | None = None
    swells: bool = False


class MoveIn(In):
    """Into which place, by its number; `slot`: a numbered place of a tray, null: the first free one."""

    place: Number
    slot: int | None = Field(None, ge=1, le=400)


class UseIn(In):
    device: Annotated[str, StringConstraints(min_length=2, max_length=120)]


class ChargeIn(HeatIn):
    end_v: Typed
    complete: bool = True
    #: How long it took; empty or left out: nobody looked at the clock.
    minutes: Annotated[str, StringConstraints(max_length=20)] | None = None
    #: It went too far and happened all the same: kept as what happened.
    happened: bool = False


class RecoveryIn(In):
    outcome: Literal["passed", "failed"]


class RepairIn(EntryIn):
    done: list[FindingCode] = Field(min_length=1, max_length=3)


class SkipIn(In):
    what: Quantity = "resistance"
    why: Why


class DecisionIn(In):
    about: DecisionAbout
    outcome: Literal["go-on", "out"]
    why: Why


class OverruleIn(In):
    """Null takes a coordinator's own judgement back."""

    grade: OverruledGrade | None
    why: Why


class ShelvingIn(In):
    place_id: Id | None = None


class NothingIn(In):
    """A step that needs no words."""


class WithdrawalIn(In):
    entry_id: Id


class StrikeIn(In):
    """An entry that is wrong, without a right one in its place."""

    entry_id: Id
    why: Why


class CorrectionIn(In):
    entry_id: Id
    why: Why
    reading: ReadingIn


class FactsIn(In):
    """What a cell is; only the fields that are sent are changed. `siblings_too`: also its siblings not measured yet."""

    seen_version: int
    siblings_too: bool = False
    #: A rated value that hardly fits was looked at once more.
    confirmed: bool = False
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
    gap_to_siblings_v: float | None
