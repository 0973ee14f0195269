"""Matching, packs, and the way to the recycler."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from zembric.api.schemas.base import ChargeableFamily, Id, In, Number, Out, PackState, Why
from zembric.api.schemas.cells import CellOut, HappeningOut, LimitOut


class MatchIn(In):
    series: int = Field(ge=1, le=40)
    parallel: int = Field(ge=1, le=40)
    family: ChargeableFamily
    size_code: Annotated[str, StringConstraints(min_length=1, max_length=20)]
    least_grade: Literal["A", "B", "C"] = "B"


class GroupOut(Out):
    cells: list[CellOut]
    capacity_mah: float
    resistance_mohm: float | None


class LeftOutOut(Out):
    reason: str
    count: int


class ProposalOut(Out):
    """A grouping with its proof: no grouping of these cells has a weakest group above `bound_mah`."""

    series: int
    parallel: int
    groups: list[GroupOut]
    weakest_mah: float
    strongest_mah: float
    spread_mah: float
    bound_mah: float
    proved_best: bool
    at_most_better_pct: float
    candidates: int
    left_out: list[LeftOutOut]
    full_v: float
    nominal_v: float
    energy_wh: float


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
