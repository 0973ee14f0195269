"""Packs and plans, as they go over the wire."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.api import schemas
from zembric.api.shown.cells import show_cell, show_happening
from zembric.core.families import full_voltage_v
from zembric.core.limits import CUT_OFF_V, JOIN_WITHIN_V, NOMINAL_V, Family
from zembric.operations.cells import ListedCell
from zembric.operations.packs import NEXT_STATES
from zembric.operations.plans import looks_stale, pick_list

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.models import CellRow, Happening, Pack, PackCell
    from zembric.operations.plans import PlanState


def show_pack(pack: Pack, happenings: Sequence[Happening] = (), plan: PlanState | None = None) -> schemas.PackOut:
    """A pack with its groups; capacities are those it was matched by."""
    family = Family(pack.groups[0].cells[0].cell.family or "")
    live = pack.state not in ("taken-apart", "dropped")
    groups = [
        schemas.GroupOut(
            cells=[
                show_cell(
                    ListedCell(
                        member.cell, "in-pack" if live else _free_step(member.cell), pack.number if live else None
                    )
                )
                for member in group.cells
            ],
            capacity_mah=sum(member.capacity_mah for member in group.cells),
            resistance_mohm=_together([m.cell.judgement.resistance_mohm for m in group.cells if m.cell.judgement]),
        )
        for group in pack.groups
    ]
    sums = [group.capacity_mah for group in groups]
    volts = [v for group in groups for cell in group.cells if (v := cell.resting_voltage_v) is not None]
    nominal_v = pack.series * NOMINAL_V[family].value
    return schemas.PackOut.model_validate(
        {
            "number": pack.number, "purpose": pack.purpose, "state": pack.state, "next_states": NEXT_STATES[pack.state],
            "series": pack.series, "parallel": pack.parallel, "bound_mah": pack.bound_mah, "weakest_mah": min(sums),
            "spread_mah": max(sums) - min(sums), "full_v": pack.series * (full_voltage_v(family, None) or 0),
            "empty_v": pack.series * CUT_OFF_V[family].value, "nominal_v": nominal_v,
            "energy_wh": min(sums) / 1000 * nominal_v, "made_at": pack.made_at, "version": pack.version, "groups": groups,
            "resting_gap_v": max(volts) - min(volts) if volts else None,
            "join_within": JOIN_WITHIN_V,
            "happenings": [show_happening(happening) for happening in happenings],
            "is_stale": looks_stale(pack),
            "plan": _plan_state(plan) if plan else None,
            "picks": [_pick(number, member) for number, member in pick_list(pack)] if pack.state == "planned" else [],
        }
    )  # fmt: skip


def _free_step(cell: CellRow) -> str:
    if cell.handed_over_at:
        return "handed-over"
    return cell.judgement.next_step if cell.judgement else "inspect"


def _together(resistances: Sequence[float | None]) -> float | None:
    known = [value for value in resistances if value]
    return 1 / sum(1 / value for value in known) if known and len(known) == len(resistances) else None


def _plan_state(plan: PlanState) -> schemas.PlanStateOut:
    return schemas.PlanStateOut(
        stale=[schemas.StaleCellOut.model_validate(cell) for cell in plan.stale],
        weakest_mah=plan.weakest_mah,
        repairs=[
            schemas.RepairOut(
                exchanges=[
                    schemas.ExchangeOut(
                        group=change.group, out=change.out, comes=change.comes,
                        comes_mah=next(c.capacity_mah for group in repair.groups for c in group if c.key == change.comes),
                        place_name=plan.places.get(change.comes),
                    )
                    for change in repair.exchanges
                ],
                weakest_mah=repair.weakest_mah,
                spread_mah=repair.spread_mah,
            )
            for repair in plan.repairs
        ],
    )  # fmt: skip


def _pick(group: int, member: PackCell) -> schemas.PickOut:
    cell = member.cell
    return schemas.PickOut(
        number=cell.number,
        group=group,
        place_name=cell.place.name if cell.place else None,
        slot=cell.slot,
        capacity_mah=member.capacity_mah,
        is_picked=member.picked_at is not None,
    )
