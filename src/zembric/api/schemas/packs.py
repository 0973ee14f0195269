"""Packs and plans, and the way to the recycler."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field, StringConstraints

from zembric.api.schemas.base import (
    CheckStateCode,
    Code,
    Id,
    In,
    LimitKind,
    Number,
    Out,
    PackState,
    PartOfPackCode,
    SaidText,
    Told,
    ToldOrNone,
    Typed,
    Why,
)
from zembric.api.schemas.cells import CellOut, HappeningOut, LimitOut
from zembric.api.schemas.matching import MatchIn
from zembric.core.pack.cards import PackLabelSize
from zembric.core.pack.joining import WayCode
from zembric.core.pack.on_paper import StartsFrom
from zembric.core.run import EndReason, LoadKind


class GroupOut(Out):
    cells: list[CellOut]
    capacity_mah: float
    resistance_mohm: float | None


class PartOfPlanIn(In):
    """A part as it was typed: figures by key; `part_id`: the kept part of a donor that it is."""

    kind: PartOfPackCode
    name: Annotated[str, StringConstraints(max_length=60)] = ""
    figures: dict[str, Typed] = Field(max_length=20)
    part_id: Id | None = None


class PackIn(In):
    purpose: Annotated[str, StringConstraints(max_length=200)]
    request: MatchIn
    groups: list[Annotated[list[Number], Field(min_length=1, max_length=40)]] = Field(min_length=1, max_length=40)
    #: The wish that it meets.
    wish_id: Id | None = None
    #: What it feeds and what was promised, where that is known already.
    parts: list[PartOfPlanIn] = Field(default_factory=list, max_length=60)


class PackPath(In):
    number: Number


class PackLabelQuery(In):
    size: PackLabelSize = "100x60"


class CardQuery(In):
    large: bool = False


class PackMoveIn(In):
    state: PackState
    seen_version: int
    why: Why | None = None
    #: Who gets it and how they are reached, where it is given out.
    given_to: Annotated[str, StringConstraints(max_length=300)] | None = None
    #: A word for what it does there.
    job: Annotated[str, StringConstraints(max_length=300)] | None = None


class StopIn(In):
    why: Why


class MarkIn(In):
    """A coordinator's yes to a cell with a mark for life, for this pack."""

    cell: Number
    why: Why


class CommissioningOut(Out):
    """When it was proved, and what came out of it; null: it was let pass unmeasured."""

    at: datetime
    group_volts: list[float]
    hours: float | None
    energy_wh: float | None


class RefusalOut(Out):
    """Why a pack may not go on, and what to do."""

    code: str
    text: SaidText
    to_do: Told
    cells: list[str]


class PickIn(In):
    """A cell by its scanned or typed number; `back`: it was put back."""

    cell: Annotated[str, StringConstraints(min_length=1, max_length=40)]
    back: bool = False


class MendIn(In):
    """Cells out of a plan, each with the one that comes; empty: today's figures are taken as they are."""

    exchanges: dict[str, Number] = Field(max_length=100)
    seen_version: int


class StaleCellOut(Out):
    """A cell that is no longer what it was planned as; `reason` null: only its capacity is another."""

    number: str
    group: int
    reason: ToldOrNone
    was_mah: float
    is_mah: float


class ExchangeOut(Out):
    group: int
    out: str
    comes: str
    comes_mah: float
    place_name: str | None


class RepairOut(Out):
    exchanges: list[ExchangeOut]
    weakest_mah: float
    spread_mah: float


class PlanStateOut(Out):
    """What became of a plan; ways to mend it, the one with the fewest exchanges first."""

    stale: list[StaleCellOut]
    weakest_mah: float
    repairs: list[RepairOut]


class PickOut(Out):
    """One line of a pick list, in walking order."""

    number: str
    group: int
    place_name: str | None
    slot: int | None
    capacity_mah: float
    is_picked: bool


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
    #: How far resting voltages may lie apart when cells are joined.
    join_within: LimitOut
    happenings: list[HappeningOut]
    #: A plan with cells that are no longer what they were planned as.
    is_stale: bool
    #: How it stands with a plan, where one pack is asked for; null: it is none, or one of many.
    plan: PlanStateOut | None
    picks: list[PickOut]
    #: Why it is stopped; null: it is not.
    stopped_why: ToldOrNone
    given_to: str | None
    job: str | None
    commissioning: CommissioningOut | None
    #: What stands between it and the next state of its way; of one of many packs not told.
    refused: list[RefusalOut]
    #: What it is built from and for.
    parts: list[PartOfPlanOut]
    #: Cells of it that carry a mark for life, each with whether a coordinator said yes for this pack.
    marked: dict[str, bool]


class PacksOut(Out):
    packs: list[PackOut]


class PartsIn(In):
    seen_version: int
    parts: list[PartOfPlanIn] = Field(max_length=60)


class PartOfPlanOut(Out):
    kind: PartOfPackCode
    name: str
    figures: dict[str, str]
    part_id: int | None


class WaiveIn(In):
    """A coordinator lets a check pass, as it reads now."""

    check: Code
    why: Why


class WaiverOut(Out):
    name: Told
    finding: Told
    why: str
    at: datetime
    by: str


class TellingOut(Out):
    """A quantity as it is told."""

    value: float
    unit: str
    digits: int


class CheckOut(Out):
    """One line: how it stands, the value against its limit, the arithmetic, and what would mend it."""

    id: str
    name: Told
    state: CheckStateCode
    worked: Told
    why: Told
    value: TellingOut | None
    limit: TellingOut | None
    #: Of the limit; null: somebody said it.
    kind: LimitKind | None
    mend: ToldOrNone
    may_be_waived: bool
    waiver: WaiverOut | None
    #: The bench sum that works it out, and what its form is filled in with; null: there is none.
    sum_name: str | None
    sum_values: dict[str, str]


class PackWhatIfIn(In):
    """A load in mA, W or ohms by its kind in the place of the device's; cells each with the one that comes, null: left out.

    `quick`: at a look, without bands.
    """

    load_kind: LoadKind | None = None
    load: Typed = ""
    starts_from: StartsFrom = "full"
    exchanges: dict[str, Number | None] = Field(default_factory=dict, max_length=40)
    colder_pct: float = Field(default=0, ge=0, le=50)
    quick: bool = False


class PaperCellOut(Out):
    """A cell on its way: at each moment its charge (0 to 1) and its current."""

    number: str
    capacity_mah: float
    peak_a: float
    #: What it may give all the time; null: not known.
    carries_a: float | None
    soc: list[float]
    current_a: list[float]


class PaperGroupOut(Out):
    final_v: float
    left_mah: float
    volts: list[float]
    cells: list[PaperCellOut]


class ChargeLeftOut(Out):
    left_pct: int
    loaded_v: float
    resting_v: float


class OnPaperOut(Out):
    """A run on paper: hours with the band that nine of ten such packs end in, what ends it, and what is left.

    Moments [h] are those with the load on; it lasts longer where that is not on all the time.
    """

    hours: float
    shortest_h: float
    longest_h: float
    ended_by: EndReason
    #: The group that came to its cut-off, from 1.
    ended_in: int | None
    cutoff_v: float
    energy_wh: float
    charge_mah: float
    mean_v: float | None
    heat_wh: float
    stranded_wh: float
    moments_h: list[float]
    pack_v: list[float]
    load_a: list[float]
    groups: list[PaperGroupOut]
    #: At which voltages so much of its energy is left.
    left: list[ChargeLeftOut]
    remarks: list[Told]


class ChecksOut(Out):
    """The lines of a plan, those that stop it first, and its run; null: it could not be run, which a line tells."""

    lines: list[CheckOut]
    #: Waivers whose finding reads otherwise by now: they hold no more.
    lapsed: list[WaiverOut]
    run: OnPaperOut | None


class FirstCurrentOut(Out):
    """What flows out of a cell (into it: negative) when its group is joined, and what it stands."""

    number: str
    group: int
    current_a: float
    stands_a: float
    is_too_much: bool


class JoinWayOut(Out):
    code: WayCode
    name: Told
    hours: float
    needs: Told
    #: How voltages come together; empty where nothing is drawn.
    moments_h: list[float]
    cell_v: list[list[float]]


class JoiningOut(Out):
    gap_v: float
    within_v: float
    is_open: bool
    is_flat: bool
    first: list[FirstCurrentOut]
    ways: list[JoinWayOut]
    best: WayCode
    why: Told


class JoiningAnswerOut(Out):
    """Null where it cannot be told yet, and why not."""

    joining: JoiningOut | None
    why_not: ToldOrNone


class HandOverIn(In):
    place_id: Id
    taped: bool


class HandOverOut(Out):
    handed_over: int
