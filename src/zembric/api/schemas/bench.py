"""What stands beside a cell in hand; sizes and numbers looked up."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from zembric.api.schemas.base import (
    BuildCode,
    FamilyCode,
    FindingCode,
    In,
    Out,
    SaidText,
    SizeText,
    ThingCode,
    Told,
    ToldOrNone,
    UtcOffset,
    VoltageStateCode,
)
from zembric.api.schemas.cells import CellOut
from zembric.core.identify.claims import SizeVerdict
from zembric.core.identify.sizes import Shape


class LookPromptOut(Out):
    text: SaidText
    findings: list[FindingCode]


class StateQuestionOut(Out):
    text: SaidText
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


class RecoveryOut(Out):
    """A recovery under way."""

    set_ma: float
    started_at: datetime
    started_by: str
    checks: list[RecoveryCheckOut]
    text: str
    next_check_at: datetime | None
    ends_at: datetime


class SiblingVoltageOut(Out):
    number: str
    value_v: float


class ClaimOut(Out):
    """A claim against what fits, in mAh, with the arithmetic in words."""

    claim_mah: float
    verdict: SizeVerdict
    doubtful_above_mah: float
    impossible_above_mah: float
    by: Literal["volume", "mass"]
    arithmetic: Told


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
    siblings: list[SiblingVoltageOut]
    #: Whether the siblings stood beside it in one device; else they are others of its kind.
    is_one_pack: bool
    #: Where a charge is full, and from where on one that ended by itself counts as full; null: not known.
    full_v: float | None
    full_from_v: float | None
    counts_full_from_v: float | None
    group_v: float | None
    plan: RecoveryPlanOut | None
    recovery: RecoveryOut | None
    charge_ma: float
    #: A low cell begins with so much, until it has passed so many volts; null: it is not low.
    charge_start_ma: float | None
    charge_start_until_v: float | None
    charge_cold_ma: float
    run_ma: float
    cut_off_v: float
    in_place: str | None
    #: Its board is stronger than the cell: no cell is charged by it.
    in_place_refused: bool
    claim: ClaimOut | None
    suspicion: ToldOrNone
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
    shape: Shape
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
    remarks: list[Told]
    #: The usual size that an outline by caliper is most likely.
    usual: SizeReadingOut | None
    suspicion: ToldOrNone
    claim: ClaimOut | None


class FindQuery(In):
    text: Annotated[str, StringConstraints(min_length=1, max_length=60)]
    utc_offset_min: UtcOffset = 0


class FoundOut(Out):
    thing: ThingCode
    number: str
    name: Told
    where: Told


class SoughtOut(Out):
    """What fits all words, the first of each kind of thing; `cells`: how many cells fit in all."""

    found: list[FoundOut]
    cells: int
