"""Wires, strips, switches, connectors, holders and fuses: what they carry, what they lose, how warm they get."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.electric.conductors import copper_wire, strip_conductor
from zembric.core.house import limits
from zembric.core.house.limits import Kind
from zembric.core.pack.checks.model import Check, CheckKey, CheckState, amount, bench_sum, of_limit
from zembric.core.said import named, said

if TYPE_CHECKING:
    from collections.abc import Iterator, Sequence

    from zembric.core.electric.conductors import Conductor
    from zembric.core.pack.checks.model import BenchSum, Checked, PlanRuns
    from zembric.core.pack.parts import Rated


def check_conductors(checked: Checked) -> Iterator[Check]:
    """All that carries the pack's current; without a run nobody knows what that is."""
    runs = checked.runs
    yield from _cell_fuses(checked)
    if runs is None:
        return
    rules = checked.rules
    for place, wire in enumerate(checked.plan.wires, start=1):
        asked = bench_sum("wire", awg=wire.awg, length_m=wire.length_mm / 1000, current_a=runs.worst_a)
        yield from _carries("wire", place, copper_wire(wire.awg, wire.length_mm / 1000, rules), 1.0, runs, asked)
    for place, strip in enumerate(checked.plan.strips, start=1):
        one = strip_conductor(strip.material, strip.thickness_mm, strip.width_mm, strip.length_mm, rules)
        asked = bench_sum(
            "strip", material=strip.material, thickness_mm=strip.thickness_mm, width_mm=strip.width_mm,
            length_mm=strip.length_mm, current_a=runs.worst_a / strip.pieces,
        )  # fmt: skip
        yield from _carries("strip", place, one, strip.pieces, runs, asked)
    yield from _drop(checked, runs)
    yield from _rated("switch", checked.plan.switches, runs)
    yield from _rated("connector", checked.plan.connectors, runs)
    yield from _holder(checked, runs)
    yield from _fuse(checked, runs)


def _carries(
    key: CheckKey, place: int, one: Conductor, pieces: float, runs: PlanRuns, asked: BenchSum
) -> Iterator[Check]:
    """A conductor beside cells, against what it stands; `pieces` of it lie side by side."""
    current_a = runs.worst_a / pieces
    is_above = current_a > one.most_a * (1 + 1e-9)
    heat_w = runs.worst_a**2 * one.ohm / pieces
    yield Check(
        key, "stop" if is_above else "holds",
        said("worked-carries", current=amount(current_a, "A", 2), most=amount(one.most_a, "A", 1), ohm=amount(1000 * one.ohm / pieces, "mΩ", 1), heat=amount(heat_w, "W", 2)),
        amount(current_a, "A", 2), **of_limit(one.limit, one.most_a, "A", 1), mend=named("mend-conductor", key) if is_above else None,
        place=place, bench_sum=asked,
    )  # fmt: skip


def _drop(checked: Checked, runs: PlanRuns) -> Iterator[Check]:
    """What all that lies in series with the pack takes of its lowest voltage."""
    mohm = runs.paper.pack.wiring_mohm
    if not mohm:
        return
    drop_v = runs.most_a * mohm / 1000
    share_pct = 100 * drop_v / (runs.least_v + drop_v)
    most_pct = checked.rules.value(limits.DROP_MOST_PCT)
    is_above = share_pct > most_pct + 1e-9
    yield Check(
        "wiring-drop", "look" if is_above else "holds",
        said("worked-wiring-drop", current=amount(runs.most_a, "A", 2), ohm=amount(mohm, "mΩ", 1), drop=amount(drop_v, "V", 3), share=amount(share_pct, "%", 1), heat=amount(runs.most_a * drop_v, "W", 2)),
        amount(share_pct, "%", 1), **of_limit(limits.DROP_MOST_PCT, most_pct, digits=1),
        mend=said("mend-wiring-drop") if is_above else None,
    )  # fmt: skip


def _rated(key: CheckKey, parts: Sequence[Rated], runs: PlanRuns) -> Iterator[Check]:
    times = limits.HEADROOM_TIMES.value
    for place, part in enumerate(parts, start=1):
        wanted_a = times * runs.worst_a
        state: CheckState = "holds" if part.most_a >= wanted_a - 1e-9 else "stop"
        yield Check(
            key, state,
            said("worked-rated", rated=amount(part.most_a, "A", 1), current=amount(runs.worst_a, "A", 2), times=amount(times, "", 2), wanted=amount(wanted_a, "A", 2)),
            amount(part.most_a, "A", 1), **of_limit(limits.HEADROOM_TIMES, wanted_a, "A"),
            mend=None if state == "holds" else said("mend-rated", wanted=amount(wanted_a, "A", 1)),
            may_be_waived=part.most_a >= runs.worst_a, place=place,
        )  # fmt: skip


def _holder(checked: Checked, runs: PlanRuns) -> Iterator[Check]:
    """Two contacts a cell, each with the current of its cell."""
    holder = checked.plan.holder
    if holder is None:
        return
    peak_a = max(runs.peak_a(cell) for group in runs.paper.run.groups for cell in group.cells)
    mohm = holder.contact_mohm or checked.rules.value(limits.CONTACT_MOHM)
    heat_w = peak_a**2 * mohm / 1000
    most_a = holder.most_a
    is_above = most_a is not None and peak_a > most_a * (1 + 1e-9)
    yield Check(
        "holder", "stop" if is_above else "look" if most_a is None else "holds",
        said("worked-holder" if most_a is not None else "worked-holder-unrated", current=amount(peak_a, "A", 2), ohm=amount(mohm, "mΩ", 0), heat=amount(heat_w, "W", 2)),
        amount(peak_a, "A", 2), None if most_a is None else amount(most_a, "A", 1),
        mend=said("mend-holder") if is_above or most_a is None else None,
    )  # fmt: skip


def _fuse(checked: Checked, runs: PlanRuns) -> Iterator[Check]:
    """1.5 to 2 times what flows all the time, and below what the thinnest wire stands."""
    fuse = checked.plan.fuse
    if fuse is None:
        yield Check("fuse", "stop", said("worked-fuse-none", least=amount(limits.FUSE_LEAST_TIMES.value * runs.worst_a, "A", 1), most=amount(limits.FUSE_MOST_TIMES.value * runs.worst_a, "A", 1)), mend=said("mend-fuse-none"), may_be_waived=True)  # fmt: skip
        return
    wires = [copper_wire(wire.awg, wire.length_mm / 1000, checked.rules) for wire in checked.plan.wires]
    thinnest = min(wires, key=lambda wire: wire.most_a, default=None)
    if thinnest is not None and fuse.most_a > thinnest.most_a * (1 + 1e-9):
        yield Check(
            "fuse", "stop", said("worked-fuse-wire", fuse=amount(fuse.most_a, "A", 1), wire=amount(thinnest.most_a, "A", 1)),
            amount(fuse.most_a, "A", 1), **of_limit(thinnest.limit, thinnest.most_a, "A", 1), mend=said("mend-fuse-wire"),
        )  # fmt: skip
        return
    least_a, most_a = limits.FUSE_LEAST_TIMES.value * runs.worst_a, limits.FUSE_MOST_TIMES.value * runs.worst_a
    is_in = least_a - 1e-9 <= fuse.most_a <= most_a + 1e-9
    limit = limits.FUSE_LEAST_TIMES if fuse.most_a < least_a else limits.FUSE_MOST_TIMES
    yield Check(
        "fuse", "holds" if is_in else "look",
        said("worked-fuse", fuse=amount(fuse.most_a, "A", 1), current=amount(runs.worst_a, "A", 2), least=amount(least_a, "A", 1), most=amount(most_a, "A", 1)),
        amount(fuse.most_a, "A", 1), **of_limit(limit, least_a if fuse.most_a < least_a else most_a, "A", 1),
        mend=None if is_in else said("mend-fuse-low" if fuse.most_a < least_a else "mend-fuse-high"),
    )  # fmt: skip


def _cell_fuses(checked: Checked) -> Iterator[Check]:
    """A shorted cell is fed by all others of its group: each parallel cell wants a fuse of its own, or a reason why not."""
    if checked.parallel == 1:
        return
    fuses = checked.plan.cell_fuses
    if fuses is None:
        yield Check("cell-fuses", "stop", said("worked-cell-fuses-none", parallel=checked.parallel), mend=said("mend-cell-fuses"), may_be_waived=True)  # fmt: skip
        return
    if not all(cell.resistance_mohm for group in checked.groups for cell in group):
        worked = said("worked-cell-fuses-unknown", fuse=amount(fuses.most_a, "A", 1))
        yield Check("cell-fuses", "look", worked, amount(fuses.most_a, "A", 1), mend=said("mend-run-time"))
        return
    peak_a = 0.0
    if checked.runs is not None:
        peak_a = max(checked.runs.peak_a(cell) for group in checked.runs.paper.run.groups for cell in group.cells)
    fault_a = min(
        sum(checked.cell_full_v / (cell.resistance_mohm / 1000) for cell in group if cell.resistance_mohm and cell is not one)
        for group in checked.groups if len(group) > 1 for one in group
    )  # fmt: skip
    blows_early = fuses.most_a < limits.HEADROOM_TIMES.value * peak_a
    blows_never = fuses.most_a > fault_a
    state: CheckState = "stop" if blows_never else "look" if blows_early else "holds"
    mend = None if state == "holds" else said("mend-cell-fuses-large" if blows_never else "mend-cell-fuses-small")
    yield Check(
        "cell-fuses", state,
        said("worked-cell-fuses", fuse=amount(fuses.most_a, "A", 1), peak=amount(peak_a, "A", 2), fault=amount(fault_a, "A", 0)),
        amount(fuses.most_a, "A", 1), amount(fault_a if blows_never else limits.HEADROOM_TIMES.value * peak_a, "A", 1),
        Kind.PHYSICS if blows_never else limits.HEADROOM_TIMES.kind, mend,
    )  # fmt: skip
