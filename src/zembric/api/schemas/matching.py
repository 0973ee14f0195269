"""Matching: what is asked, proposals with their proof, long searches and wishes."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from zembric.api.schemas.base import (
    ChargeableFamily,
    FamilyCode,
    GradeCode,
    Id,
    In,
    Number,
    Out,
    SizeText,
    Told,
    ToldOrNone,
    Typed,
)
from zembric.api.schemas.cells import CellOut
from zembric.core.codes import SearchState
from zembric.core.match.conditions import Donors
from zembric.core.match.needs import Converter, Replaced
from zembric.core.match.several import Way
from zembric.core.match.stand_ins import Seat
from zembric.core.match.tolerances import ToleranceKey
from zembric.core.run import LoadKind

LeastGrade = Literal["A", "B", "C"]
ToleranceCode = ToleranceKey
DonorsCode = Donors
Milliamperehours = Annotated[float, Field(gt=0, le=10_000_000)]


class MatchIn(In):
    """Groups in series, cells in parallel, and what is asked of the cells; a pin is the group, from 1, of a cell."""

    series: int = Field(ge=1, le=40)
    parallel: int = Field(ge=1, le=40)
    family: ChargeableFamily
    #: Null: any size, where the house rules allow it.
    size_code: Annotated[str, StringConstraints(min_length=1, max_length=24)] | None
    least_grade: LeastGrade = "B"
    #: Every group holds so much, with as little taken from the shelf as possible; null: as much as can be.
    target_mah: Milliamperehours | None = None
    tolerance: ToleranceCode | None = None
    joined_as_they_lie: bool = False
    donors: DonorsCode = "any"
    with_estimated: bool = False
    #: What the load takes in all, continuously.
    load_a: Annotated[float, Field(gt=0, le=1000)] | None = None
    banned: list[Number] = Field(default=[], max_length=500)
    #: The full voltage that is marked on the cells; null: their family's.
    full_v_marked: float | None = Field(None, ge=2, le=5)
    #: Cells with a mark for life that a coordinator says yes to for this pack.
    marked_allowed: list[Number] = Field(default=[], max_length=100)
    #: The cells that somebody has in hand, and no others; empty: all that lie here.
    only: list[Number] = Field(default=[], max_length=1600)
    pins: dict[str, Annotated[int, Field(ge=1, le=40)]] = Field(default={}, max_length=500)


class MatchesIn(In):
    """Several packs from one shelf: in their order, or all alike as good as they can be together."""

    requests: list[MatchIn] = Field(min_length=1, max_length=6)
    way: Way


class NeedIn(In):
    """What a device needs, as typed: its voltages, or what is replaced and how many of it."""

    least_v: Typed = ""
    most_v: Typed = ""
    replaced: Replaced | None = None
    count: int | None = Field(None, ge=1, le=40)
    load_kind: LoadKind
    load: Typed
    hours: Typed
    room_mm: tuple[Typed, Typed, Typed] = ("", "", "")
    charger_v: Typed = ""
    #: What stands between pack and device, and the volts behind it; least and most are those of its input then.
    converter: Converter | None = None
    out_v: Typed = ""
    #: A kind of device that is turned away; null: none of those.
    device: Annotated[str, StringConstraints(min_length=1, max_length=40)] | None = None


class PoorDeviceIn(In):
    """A good device with a poor cell, as typed; empty: not known."""

    size: SizeText
    family: FamilyCode
    held_mah: Typed
    seat: Seat
    full_v: Typed = ""
    draws_ma: Typed = ""
    peak_ma: Typed = ""
    charger_k_v: Typed = ""
    charger_ohm: Typed = ""
    has_sensor: bool = False
    counts_on_protection: bool = False


class StandInOut(Out):
    number: str
    size_code: str
    capacity_mah: float
    #: As long as the old cell when it was new, so many times; hours where it is known what the device takes.
    times_as_long: float
    hours: float | None
    charge_c: float | None
    resistor_ohm: float | None
    remarks: list[Told]


class UnfitOut(Out):
    why: Told
    cells: int


class StandInsOut(Out):
    stand_ins: list[StandInOut]
    left_out: list[UnfitOut]
    never: list[Told]


class InPlaceIn(In):
    what: Replaced
    count: int = Field(ge=1, le=40)


class BesideOut(Out):
    """So many of ours in a row, and how much of their charge lies in the old window."""

    family: FamilyCode
    series: int
    empty_v: float
    full_v: float
    used_share: float


class InPlaceOut(Out):
    empty_v: float
    full_v: float
    beside: list[BesideOut]
    never: list[Told]


class DesignOut(Out):
    """A pack that would do; `used_pct`: how much of the cells' charge the device can use before it stops."""

    size_code: str
    family: ChargeableFamily
    series: int
    parallel: int
    on_shelf: int
    full_v: float
    empty_v: float
    cell_a: float
    hours: float
    energy_wh: float
    used_pct: float
    #: What each group has to hold for the hours that are wanted.
    enough_mah: float
    #: Null: the room is not known.
    fits: bool | None
    remarks: list[Told]


class NotProposedOut(Out):
    size_code: str
    family: ChargeableFamily
    why: Told


class DesignsOut(Out):
    designs: list[DesignOut]
    not_proposed: list[NotProposedOut]


class MatchCellOut(Out):
    """A cell that may take part; cells of equal `kind` may share a group."""

    number: str
    capacity_mah: float
    capacity_u_mah: float
    resistance_mohm: float | None
    grade: GradeCode
    size_code: str | None
    kind: str
    donor_number: str
    resting_voltage_v: float | None
    place_name: str | None


class LeftOutOut(Out):
    code: str
    reason: Told
    count: int


class ToleranceOut(Out):
    """A preset with its numbers."""

    key: ToleranceCode
    capacity_pct: float
    resistance_ratio: float
    voltage_v: float


class ToleranceInUseOut(ToleranceOut):
    """A preset, and how many cells it would let take part."""

    may_take_part: int


class MatchOptionsOut(Out):
    """What can be asked of a match in this house."""

    tolerances: list[ToleranceOut]
    #: Resting voltages of cells that are joined differ by at most this.
    join_within_v: float
    is_any_size: bool
    #: Full voltage of one cell by family [V].
    full_v: dict[ChargeableFamily, float]


class ChoiceOut(Out):
    """One grouping: how much [%] its weakest group may lie below the best, and what that buys. None: not measured in all.

    It holds `sure_mah` with 90 % certainty in its weakest group; with `shortfall` (0 to 1) less than `short_of_mah`.
    """

    give_pct: float
    groups: list[list[str]]
    weakest_mah: float
    spread_mah: float
    worst_resistance_ratio: float | None
    group_resistance_spread_pct: float | None
    sure_mah: float
    short_of_mah: float
    shortfall: float


class ProposalOut(Out):
    """Groupings with their proof: no grouping of these cells has a weakest group above `bound_mah`."""

    series: int
    parallel: int
    #: What was enough in each group; null: as much as can be.
    target_mah: float | None
    choices: list[ChoiceOut]
    #: All cells of the choices, and the strongest of those that stay on the shelf.
    cells: list[MatchCellOut]
    #: How many may take part, and what stays on the shelf of them with the first choice.
    candidates: int
    left_over: int
    left_over_wh: float
    #: What the same kinds come to when they are sorted and dealt like cards.
    by_hand_weakest_mah: float
    by_hand_spread_mah: float
    bound_mah: float
    proved_best: bool
    at_most_better_pct: float
    left_out: list[LeftOutOut]
    tolerances: list[ToleranceInUseOut]
    #: Resting voltages of cells that are joined differ by at most this.
    join_within_v: float
    full_v: float
    nominal_v: float


class LongestRunOut(Out):
    """Groups for the longest run of full cells at the load, beside those of capacity alone."""

    rate_c: float
    minutes: float
    by_capacity_minutes: float
    #: Of as many equal cells that hold and conduct as much in the mean.
    ideal_minutes: float
    #: Proved: no grouping of these cells runs longer; null: nothing is proved.
    bound_minutes: float | None
    weakest_mah: float
    by_capacity_weakest_mah: float
    groups: list[list[str]]


class LongestRunAnswerOut(Out):
    #: Null: it does not matter at this load, or cannot be told.
    run: LongestRunOut | None


class OneOfSeveralOut(Out):
    """A proposal, or why there is none."""

    proposal: ProposalOut | None
    problem: str | None


class SeveralOut(Out):
    packs: list[OneOfSeveralOut]


class SearchIn(In):
    request: MatchIn
    seconds: int = Field(ge=1, le=600)


class SearchPath(In):
    search_id: Id


class SearchOut(Out):
    """A long search; `weakest_mah`: of the best so far, null where nothing was found yet."""

    id: int
    state: SearchState
    seconds: int
    share: float
    weakest_mah: float | None
    bound_mah: float | None
    trouble: ToldOrNone


class WishIn(In):
    purpose: Annotated[str, StringConstraints(max_length=200)]
    request: MatchIn


class WishPath(In):
    wish_id: Id


class LikelyOut(Out):
    cell: CellOut
    expected_mah: float | None
    why: Told


class WishOut(Out):
    id: int
    purpose: str
    request: MatchIn
    made_at: datetime
    made_by: str
    have: int
    needed: int
    missing: int
    likely: list[LikelyOut]


class WishesOut(Out):
    wishes: list[WishOut]
