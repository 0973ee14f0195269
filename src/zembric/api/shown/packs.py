"""Packs and plans, as they go over the wire."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.api import schemas
from zembric.api.shown.cells import show_cell, show_happening
from zembric.api.words import told
from zembric.core.house.limits import CUT_OFF_V, JOIN_WITHIN_V, NOMINAL_V, Family
from zembric.core.identify.families import full_voltage_v
from zembric.core.pack.charge_left import charge_left
from zembric.core.pack.checks.model import key_of
from zembric.core.pack.states import NEXT_STATES
from zembric.core.said import from_json, named, said
from zembric.operations.cells.listed import ListedCell
from zembric.operations.cells.packed import members_of
from zembric.operations.packing.packs import looks_stale
from zembric.operations.packing.plans import pick_list

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.checks import Check
    from zembric.core.pack.joining import Joining
    from zembric.core.pack.on_paper import PaperRun
    from zembric.core.pack.rules import Refusal
    from zembric.core.run import CellRun
    from zembric.models import CellRow, Happening, Pack, PackCell, PackWaiver
    from zembric.operations.packing.checks import CheckedPack
    from zembric.operations.packing.plans import PlanState


def show_pack(
    pack: Pack,
    now: datetime,
    rules: HouseRules,
    *,
    happenings: Sequence[Happening] = (),
    plan: PlanState | None = None,
    refused: Sequence[Refusal] = (),
) -> schemas.PackOut:
    """A pack with its groups; capacities are those it was matched by."""
    first = pack.groups[0].cells[0].cell
    family = Family(first.family or "")
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
    nominal_v = pack.series * NOMINAL_V[family].value
    return schemas.PackOut.model_validate(
        {
            "number": pack.number, "purpose": pack.purpose, "state": pack.state, "next_states": NEXT_STATES[pack.state],
            "series": pack.series, "parallel": pack.parallel, "bound_mah": pack.bound_mah, "weakest_mah": min(sums),
            "spread_mah": max(sums) - min(sums), "full_v": pack.series * (full_voltage_v(family, first.full_v) or 0),
            "empty_v": pack.series * rules.of(CUT_OFF_V, family), "nominal_v": nominal_v,
            "energy_wh": min(sums) / 1000 * nominal_v, "made_at": pack.made_at, "version": pack.version, "groups": groups,

            "join_within": rules.limit(JOIN_WITHIN_V),
            "happenings": [show_happening(happening) for happening in happenings],
            "is_stale": looks_stale(pack, now, rules),
            "plan": _plan_state(plan) if plan else None,
            "picks": [_pick(number, member) for number, member in pick_list(pack)] if pack.state == "planned" else [],
            "stopped_why": pack.stopped_why,
            "given_to": pack.given_to, "job": pack.job,
            "commissioning": _proved(pack),
            "refused": [schemas.RefusalOut.model_validate(refusal) for refusal in refused],
            "parts": list(pack.parts),
            "marked": {
                member.cell.number: member.mark_allowed_by_id is not None
                for member in members_of(pack)
                if member.cell.judgement and member.cell.judgement.is_marked
            },
        }
    )  # fmt: skip


def _proved(pack: Pack) -> dict[str, object] | None:
    if pack.commissioning is None:
        return None
    figures = pack.commissioning.get("figures", {})
    return {
        "at": pack.commissioned_at, "group_volts": pack.commissioning["group_volts"],
        "hours": figures.get("run", {}).get("hours"), "energy_wh": figures.get("energy", {}).get("wh"),
    }  # fmt: skip


#: So many moments of a run are drawn.
_SECONDS_AN_HOUR = 3600


def show_checks(found: CheckedPack) -> schemas.ChecksOut:
    lines = [show_check(line, found.waived.get(line.id)) for line in found.lines]
    runs = found.checked.runs
    return schemas.ChecksOut(
        lines=lines,
        lapsed=[show_waiver(waiver) for waiver in found.lapsed],
        run=show_on_paper(runs.paper) if runs else None,
    )


def show_joining(found: Joining) -> schemas.JoiningOut:
    return schemas.JoiningOut.model_validate(
        {
            "gap_v": found.gap_v, "within_v": found.within_v, "is_open": found.is_open, "is_flat": found.is_flat,
            "first": list(found.first), "best": found.best, "why": found.why,
            "ways": [
                {
                    "code": way.code, "name": named("join-way", way.code), "hours": way.hours, "needs": way.needs,
                    "moments_h": way.moments_h, "cell_v": [rounded(volts, 4) for volts in way.cell_v],
                }
                for way in found.ways
            ],
        }
    )  # fmt: skip


def show_check(line: Check, waiver: PackWaiver | None) -> schemas.CheckOut:
    return schemas.CheckOut.model_validate(
        {
            "id": line.id, "name": line.name, "state": line.state, "worked": line.worked, "why": line.why,
            "value": line.value, "limit": line.limit, "kind": line.kind, "mend": line.mend,
            "may_be_waived": line.may_be_waived, "waiver": show_waiver(waiver) if waiver else None,
            "sum_name": line.bench_sum.name if line.bench_sum else None,
            "sum_values": dict(line.bench_sum.values) if line.bench_sum else {},
        }
    )  # fmt: skip


def show_waiver(waiver: PackWaiver) -> schemas.WaiverOut:
    return schemas.WaiverOut.model_validate(
        {
            "name": named("check", key_of(waiver.check)), "finding": from_json(waiver.finding), "why": waiver.why, "at": waiver.at,
            "by": waiver.by.name,
        }
    )  # fmt: skip


def show_on_paper(paper: PaperRun) -> schemas.OnPaperOut:
    run, time = paper.run, paper.over_time
    tracks = iter(zip(time.soc, time.cell_a, strict=True))
    capacities = {cell.key: cell.capacity_mah for group in paper.pack.groups for cell in group}

    def show_cell_run(cell: CellRun) -> dict[str, object]:
        soc, current_a = next(tracks)
        return {
            "number": cell.key, "capacity_mah": capacities[cell.key], "peak_a": cell.peak_discharge_a,
            "carries_a": paper.carries_a.get(cell.key), "soc": rounded(soc, 4), "current_a": rounded(current_a, 3),
        }  # fmt: skip

    return schemas.OnPaperOut.model_validate(
        {
            "hours": paper.lasts_s / _SECONDS_AN_HOUR, "shortest_h": paper.shortest_s / _SECONDS_AN_HOUR,
            "longest_h": paper.longest_s / _SECONDS_AN_HOUR, "ended_by": run.ended_by, "ended_in": run.ended_in,
            "cutoff_v": paper.cutoff_v, "energy_wh": run.energy_wh, "charge_mah": 1000 * run.charge_ah, "mean_v": run.mean_v,
            "heat_wh": run.heat_cells_wh + run.heat_wiring_wh, "stranded_wh": run.stranded_wh,
            "moments_h": [moment_s / _SECONDS_AN_HOUR for moment_s in time.moments_s],
            "pack_v": rounded(time.pack_v, 3), "load_a": rounded(time.load_a, 3),
            "groups": [
                {
                    "final_v": group.final_v, "left_mah": 1000 * group.left_ah, "volts": rounded(volts, 4),
                    "cells": [show_cell_run(cell) for cell in group.cells],
                }
                for group, volts in zip(run.groups, time.group_v, strict=True)
            ],
            "left": list(charge_left(paper)),
            "remarks": list(paper.remarks),
        }
    )  # fmt: skip


def rounded(values: Sequence[float], digits: int) -> list[float]:
    return [round(value, digits) for value in values]


#: What somebody who has a stopped pack is told, in words that a frightened person can follow.
_TELL = said("recall-tell")


def show_recall(pack: Pack) -> schemas.RecallOut:
    return schemas.RecallOut.model_validate(
        {
            "number": pack.number, "purpose": pack.purpose, "state": pack.state, "stopped_at": pack.stopped_at,
            "why": pack.stopped_why, "given_to": pack.given_to, "tell": told(_TELL),
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
