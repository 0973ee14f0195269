"""The pack of a plan under the load of that plan: what the cells see of the device, and how the run goes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from zembric.core.electric.conductors import copper_wire, strip_conductor
from zembric.core.errors import ZembricError
from zembric.core.house import limits
from zembric.core.pack.checks.model import PlanRuns
from zembric.core.pack.on_paper import PaperLoad, run_further, run_on_paper
from zembric.core.run import Efficiency, Load
from zembric.core.said import Said, said

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.house.limits import Family
    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.on_paper import PaperCell, PaperRun, StartsFrom
    from zembric.core.pack.parts import Converter, Device, PackPlan
    from zembric.core.run import PackRun


@dataclass(frozen=True, slots=True)
class PackVolts:
    """Full and empty voltage of the whole pack by the house's cut-off [V]."""

    full_v: float
    empty_v: float


def load_of(plan: PackPlan, pack: PackVolts, rules: HouseRules) -> Load | None:
    """What the pack sees of the device [A, W or Ohm], through the converter if there is one; None: nobody said."""
    device, converter = plan.device, plan.converter
    if device is None:
        return None
    if converter is None:
        return _straight(device)
    if converter.is_linear:
        return Load("current", behind_a(device, converter.out_v))
    full, empty = efficiencies(converter, rules)
    known = Efficiency(pack.empty_v, empty, pack.full_v, full)
    return Load("power", _behind_w(device, converter.out_v), known)


def _straight(device: Device) -> Load:
    if device.power_w is not None:
        return Load("power", device.power_w)
    if device.current_ma is not None:
        return Load("current", device.current_ma / 1000)
    return Load("resistor", device.resistance_ohm or 0)


def _behind_w(device: Device, out_v: float) -> float:
    if device.power_w is not None:
        return device.power_w
    if device.current_ma is not None:
        return device.current_ma / 1000 * out_v
    return out_v**2 / (device.resistance_ohm or 0)


def behind_a(device: Device, out_v: float) -> float:
    """What the device draws of a converter that gives `out_v` [A]."""
    return _behind_w(device, out_v) / out_v


def efficiencies(converter: Converter, rules: HouseRules) -> tuple[float, float]:
    """Of a switching converter at the full and at the empty pack, 0 to 1."""
    house = limits.CONVERTER_EFFICIENCY if converter.converter_kind == "step-up" else limits.STEP_DOWN_EFFICIENCY
    full = converter.efficiency_full or rules.value(house)
    return full, converter.efficiency_empty or full


def drop_out_v(converter: Converter) -> float:
    """How far the voltage before a regulator has to stay above the one behind it [V]."""
    return (limits.LOW_DROP_OUT_V if converter.converter_kind == "low-drop" else limits.LINEAR_DROP_OUT_V).value


def device_ends_v(plan: PackPlan, rules: HouseRules) -> float:
    """Below this voltage of the pack [V] the device no longer runs; 0: nobody said."""
    device, converter = plan.device, plan.converter
    own = (device.cuts_off_v or 0.0) if device else 0.0
    if converter is None:
        return max(own, (device.least_v or 0.0) if device else 0.0)
    if converter.is_linear:
        return max(own, converter.out_v + drop_out_v(converter))
    if converter.least_in_v is not None:
        return max(own, converter.least_in_v)
    usual = rules.value(limits.STEP_UP_LEAST_V)
    if converter.converter_kind == "step-down":
        usual = converter.out_v + rules.value(limits.STEP_DOWN_ROOM_V)
    return max(own, usual)


def standing_ma(plan: PackPlan) -> float:
    """What flows whether anything is on or not [mA]."""
    parts = (plan.device, plan.converter)
    return sum((part.standing_ma or 0.0) for part in parts if part is not None)


def wiring_mohm(plan: PackPlan, rules: HouseRules) -> float:
    """All that lies in series with the pack [mOhm]."""
    ohm = sum(copper_wire(wire.awg, wire.length_mm / 1000, rules).ohm for wire in plan.wires)
    for strip in plan.strips:
        one = strip_conductor(strip.material, strip.thickness_mm, strip.width_mm, strip.length_mm, rules)
        ohm += one.ohm / strip.pieces
    rated = [*plan.switches, *plan.connectors, *([plan.fuse] if plan.fuse else [])]
    return 1000 * ohm + sum(part.contact_mohm or 0.0 for part in rated)


def contact_mohm(plan: PackPlan, rules: HouseRules) -> float:
    """What a holder adds to each cell, by its two contacts [mOhm]."""
    if plan.holder is None:
        return 0.0
    return 2 * (plan.holder.contact_mohm or rules.value(limits.CONTACT_MOHM))


def paper_load(plan: PackPlan, pack: PackVolts, rules: HouseRules) -> PaperLoad | None:
    """The load of a plan with all that lies between; None: nobody said what it feeds."""
    load = load_of(plan, pack, rules)
    if load is None or plan.device is None:
        return None
    return PaperLoad(
        load, plan.device.on_share, standing_ma(plan), device_ends_v(plan, rules), wiring_mohm(plan, rules),
        contact_mohm(plan, rules),
    )  # fmt: skip


def run_plan(
    groups: Sequence[Sequence[PaperCell]],
    family: Family,
    plan: PackPlan,
    pack: PackVolts,
    rules: HouseRules,
    *,
    starts_from: StartsFrom = "full",
    with_band: bool = True,
) -> PlanRuns | Said:
    """The runs of a plan, or why there is none."""
    under = paper_load(plan, pack, rules)
    if under is None:
        return said("no-run-without-device")
    try:
        paper = run_on_paper(groups, family, under, starts_from, rules, with_band=with_band)
    except ZembricError as refused:
        return refused.said
    over = paper.over_time
    board_s = device_s = None
    if with_band and plan.board is not None:
        board_s = _to(paper, under, plan.board.under_v, 0.0)
    if with_band and under.least_pack_v > 0:
        ruined_v = limits.NEVER_CHARGE_BELOW_V[family].value
        device_s = _to(paper, under, ruined_v, under.least_pack_v)
    share = house_s = None
    if with_band:
        # Down to the house's cut-off, whatever the device makes of it.
        whole = run_further(paper.pack, paper.pack.cutoff_group_v, 0.0) if under.least_pack_v else paper.run
        share = _share_within(paper, whole, plan.device.most_v if plan.device and plan.converter is None else None)
        if paper.run.ended_by == "pack_cutoff":
            house_s = under.lasts_s(whole, whole.seconds)
    most_a = max(over.load_a)
    worst_a = max(most_a, _at_cut_off_a(under, plan, len(groups)))
    return PlanRuns(paper, most_a, worst_a, min(over.pack_v), max(over.pack_v), board_s, device_s, house_s, share)


def _at_cut_off_a(under: PaperLoad, plan: PackPlan, series: int) -> float:
    """What a steady power draws of a pack at the voltage where its board, its cells or the device cut off [A].

    The house's cut-off ends the run on paper, but nothing in the pack switches off there.
    """
    own = plan.own_protection
    of_cells_v = [
        each.under_v for each in (plan.board, own if own and own.which == "all" else None) if each is not None
    ]
    lowest_v = max(series * max(of_cells_v, default=0.0), under.least_pack_v)
    if under.load.kind != "power" or not lowest_v:
        return 0.0
    efficiency = under.load.efficiency.at_low if under.load.efficiency else 1.0
    return under.load.value / efficiency / lowest_v


def _to(paper: PaperRun, under: PaperLoad, group_v: float, pack_v: float) -> float | None:
    """How long it lasts to another end [s]; None: a group comes to its own limit before the pack does."""
    try:
        run = run_further(paper.pack, group_v, pack_v)
    except ZembricError:
        return None
    if pack_v and run.ended_by == "group_cutoff":
        return None
    return under.lasts_s(run, run.seconds)


def _share_within(paper: PaperRun, whole: PackRun, most_v: float | None) -> float:
    """Of the energy that the full pack could give to the house's cut-off, the share that lies in the device's window."""
    if not whole.energy_wh:
        return 0.0
    volts, amperes = np.array(paper.over_time.pack_v), np.array(paper.over_time.load_a)
    seconds = np.array(paper.over_time.moments_s)
    power = volts * amperes
    if most_v is not None:
        power = np.where(volts > most_v, 0.0, power)
    given_wh = float(np.trapezoid(power, seconds)) / 3600
    return min(given_wh / whole.energy_wh, 1.0)
