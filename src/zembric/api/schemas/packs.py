"""Matching, packs, and the way to the recycler."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from zembric.api.schemas.base import ChargeableFamily, Id, In, Number, Out, PackState, Typed, Why
from zembric.api.schemas.cells import CellOut, HappeningOut, LimitOut


class MatchIn(In):
    series: int = Field(ge=1, le=40)
    parallel: int = Field(ge=1, le=40)
    family: ChargeableFamily
    size_code: Annotated[str, StringConstraints(min_length=1, max_length=20)]
    least_grade: Literal["A", "B", "C"] = "B"


class NeedIn(In):
    """What a device needs, as typed: its voltages, or what is replaced and how many of it."""

    least_v: Typed = ""
    most_v: Typed = ""
    replaced: Literal["alkaline", "nimh", "lead-acid"] | None = None
    count: int | None = Field(None, ge=1, le=40)
    load_kind: Literal["current", "power", "resistor"]
    load: Typed
    hours: Typed
    room_mm: tuple[Typed, Typed, Typed] = ("", "", "")
    charger_v: Typed = ""


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
    #: Null: the room is not known.
    fits: bool | None
    remarks: list[str]


class NotProposedOut(Out):
    size_code: str
    family: ChargeableFamily
    why: str


class DesignsOut(Out):
    designs: list[DesignOut]
    not_proposed: list[NotProposedOut]


class GroupOut(Out):
    cells: list[CellOut]
    capacity_mah: float
    resistance_mohm: float | None


class LeftOutOut(Out):
    reason: str
    count: int


class ChoiceOut(Out):
    """One grouping: how much [%] its weakest group may lie below the best, and what that buys. None: not measured in all."""

    give_pct: float
    groups: list[GroupOut]
    weakest_mah: float
    spread_mah: float
    worst_resistance_ratio: float | None
    group_resistance_spread_pct: float | None
    energy_wh: float


class ProposalOut(Out):
    """Groupings with their proof: no grouping of these cells has a weakest group above `bound_mah`."""

    series: int
    parallel: int
    choices: list[ChoiceOut]
    #: What the same cells come to when they are sorted and dealt like cards.
    by_hand_weakest_mah: float
    by_hand_spread_mah: float
    bound_mah: float
    proved_best: bool
    at_most_better_pct: float
    candidates: int
    left_out: list[LeftOutOut]
    full_v: float
    nominal_v: float


class PackIn(In):
    purpose: Annotated[str, StringConstraints(max_length=200)]
    request: MatchIn
    groups: list[Annotated[list[Number], Field(min_length=1, max_length=40)]] = Field(min_length=1, max_length=40)


class PackPath(In):
    number: Number


class PackMoveIn(In):
    state: PackState
    seen_version: int
    why: Why | None = None


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
    #: How far the resting voltages lie apart, and how far they may when cells are joined.
    resting_gap_v: float | None
    join_within: LimitOut
    happenings: list[HappeningOut]


class PacksOut(Out):
    packs: list[PackOut]


class HandOverIn(In):
    place_id: Id
    taped: bool


class HandOverOut(Out):
    handed_over: int
