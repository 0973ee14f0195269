"""A plan of a pack as a file: JSON with everything, CSV with one line a cell."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass
from typing import TYPE_CHECKING

from zembric.core.said import to_json
from zembric.files.tables import as_csv

if TYPE_CHECKING:
    from collections.abc import Mapping
    from datetime import datetime

    from zembric.core.said import Said

VERSION = 1


@dataclass(frozen=True, slots=True)
class PlannedCell:
    """One cell of a plan; None: not known, or it lies nowhere any more."""

    cell_id: str
    capacity_mah: float
    capacity_u_mah: float | None
    ir_mohm: float | None
    size: str | None
    place: str | None
    slot: int | None
    is_picked: bool


@dataclass(frozen=True, slots=True)
class PlannedPart:
    """A part with its figures as they were typed."""

    kind: str
    name: str
    figures: Mapping[str, str]


@dataclass(frozen=True, slots=True)
class Waived:
    """A check that was let pass: its finding as it read then, why, by whom and when."""

    check: str
    finding: Said
    why: str
    by: str
    at: datetime
    holds: bool


@dataclass(frozen=True, slots=True)
class PlanFile:
    """A plan as it goes out: groups in series from minus to plus, and the cells in walking order for whoever fetches them."""

    number: str
    purpose: str
    state: str
    family: str
    series: int
    parallel: int
    full_v: float
    bound_mah: float
    groups: tuple[tuple[PlannedCell, ...], ...]
    #: Numbers in the order in which a person comes by them.
    walk: tuple[str, ...]
    #: What it is built from and for.
    parts: tuple[PlannedPart, ...] = ()
    #: What a coordinator let pass; it stays on the papers.
    waivers: tuple[Waived, ...] = ()

    @property
    def sums_mah(self) -> list[float]:
        return [sum(cell.capacity_mah for cell in group) for group in self.groups]

    def in_walking_order(self) -> list[tuple[int, PlannedCell]]:
        """Each cell with its group, from 1."""
        at = {cell.cell_id: (number, cell) for number, group in enumerate(self.groups, start=1) for cell in group}
        return [at[cell_id] for cell_id in self.walk]


def plan_as_json(plan: PlanFile) -> bytes:
    groups = [
        {"group": number, "capacity_mah": total, "cells": [asdict(cell) for cell in group]}
        for number, (group, total) in enumerate(zip(plan.groups, plan.sums_mah, strict=True), start=1)
    ]
    whole = {
        "format": "zembric-plan", "version": VERSION, "pack": plan.number, "purpose": plan.purpose, "state": plan.state,
        "family": plan.family, "series": plan.series, "parallel": plan.parallel, "full_v": plan.full_v,
        "weakest_group_mah": min(plan.sums_mah), "spread_mah": max(plan.sums_mah) - min(plan.sums_mah),
        "bound_mah": plan.bound_mah, "groups": groups, "pick_order": list(plan.walk),
        "parts": [{"kind": part.kind, "name": part.name, "figures": dict(part.figures)} for part in plan.parts],
        "waivers": [
            {
                "check": each.check, "finding": to_json(each.finding), "why": each.why, "by": each.by,
                "at": each.at.isoformat(), "holds": each.holds,
            }
            for each in plan.waivers
        ],
    }  # fmt: skip
    return json.dumps(whole, indent=2, ensure_ascii=False).encode() + b"\n"


def plan_as_csv(plan: PlanFile) -> bytes:
    """One line a cell; the columns `cell_id,capacity_mah,ir_mohm` are those a pool for matching has."""
    header = ("group", "cell_id", "capacity_mah", "ir_mohm", "size", "place", "slot")
    rows = [
        (number, cell.cell_id, cell.capacity_mah, cell.ir_mohm, cell.size, cell.place, cell.slot)
        for number, group in enumerate(plan.groups, start=1)
        for cell in group
    ]
    return as_csv([header, *rows])
