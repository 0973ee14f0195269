"""A plan of a pack as a file: JSON with everything, CSV with one line a cell."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass

from zembric.files.tables import as_csv

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
