"""How long it runs, how much it gives, whether the device is content, and what was promised of it."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.house.limits import Kind
from zembric.core.pack.checks.model import Check, CheckState, amount, bench_sum, of_limit
from zembric.core.pack.checks.runs import behind_a, device_ends_v, drop_out_v, efficiencies, standing_ma
from zembric.core.said import said

if TYPE_CHECKING:
    from collections.abc import Iterator, Sequence

    from zembric.core.pack.checks.model import BenchSum, Checked, PlanRuns
    from zembric.core.pack.on_paper import PaperCell

_WEEK_H = 7 * 24


def check_promises(checked: Checked) -> Iterator[Check]:
    """All about the device and the time."""
    if checked.runs is None:
        assert checked.why_not_run is not None
        # What nobody said cannot be checked against board, wires and cells; where it is said and only cannot be run, the
        # rest is still looked at.
        state: CheckState = "look" if checked.plan.device else "stop"
        yield Check("run-time", state, checked.why_not_run, mend=said("mend-run-time"), may_be_waived=True)
        yield from _standing(checked)
        return
    yield _run_time(checked.runs)
    yield from _ends(checked, checked.runs)
    yield _energy(checked, checked.runs)
    yield from _promised(checked, checked.runs)
    yield from _window(checked, checked.runs)
    yield from _regulator(checked, checked.runs)
    yield from _converter_input(checked)
    yield from _standing(checked)


def _hours(seconds: float) -> float:
    return seconds / 3600


def _run_time(runs: PlanRuns) -> Check:
    paper = runs.paper
    state: CheckState = "holds" if paper.run.seconds else "stop"
    worked = said("worked-run-time-about", hours=amount(_hours(paper.lasts_s), "h", 1))
    if paper.has_band:
        worked = said(
            f"worked-run-time-{paper.run.ended_by.replace('_', '-')}",
            hours=amount(_hours(paper.lasts_s), "h", 1), low=amount(_hours(paper.shortest_s), "h", 1),
            high=amount(_hours(paper.longest_s), "h", 1), group=paper.run.ended_in or 0,
        )  # fmt: skip
    return Check(
        "run-time", state, worked, amount(_hours(paper.lasts_s), "h", 1), bench_sum=_as_sum(runs),
        mend=None if paper.run.seconds else said("mend-smaller-load"),
    )  # fmt: skip


def _as_sum(runs: PlanRuns) -> BenchSum | None:
    """The plain sum of charge over load, which knows neither resistances nor groups."""
    run, load = runs.paper.run, runs.paper.pack.load
    if not run.mean_v:
        return None
    known = {"capacity_mah": 1000 * run.charge_ah, "mean_v": run.mean_v, "value": load.value}
    if load.kind == "power":
        known["efficiency"] = (load.efficiency.at_low + load.efficiency.at_high) / 2 if load.efficiency else 1.0
    return bench_sum("run-time", load=load.kind, **known)


def _ends(checked: Checked, runs: PlanRuns) -> Iterator[Check]:
    """To each end: the house's, the board's, the device's own."""
    cut_off_v, plan = runs.paper.cutoff_v, checked.plan
    if runs.house_s is not None:
        hours = amount(_hours(runs.house_s), "h", 1)
        yield Check("end-house", "holds", said("worked-end-house", hours=hours, cut=amount(cut_off_v, "V", 2)), hours)
    if plan.board is not None and runs.board_s is not None:
        is_earlier = plan.board.under_v >= cut_off_v - 1e-9
        yield Check(
            "end-board",
            "look" if is_earlier else "holds",
            said(
                "worked-end-board", hours=amount(_hours(runs.board_s), "h", 1), under=amount(plan.board.under_v, "V", 2)
            ),
            amount(plan.board.under_v, "V", 2),
            **of_limit(checked.rules.limit(limits.CUT_OFF_V[checked.family]), cut_off_v, "V"),
            mend=said("mend-end-board") if is_earlier else None,
        )
    ends_v = device_ends_v(plan, checked.rules)
    if ends_v and runs.device_s is not None:
        yield Check(
            "end-device",
            "holds",
            said("worked-end-device", hours=amount(_hours(runs.device_s), "h", 1), ends=amount(ends_v, "V", 2)),
            amount(_hours(runs.device_s), "h", 1),
        )
    elif ends_v:
        yield Check(
            "end-device",
            "look",
            said("worked-end-device-never", ends=amount(ends_v, "V", 2)),
            mend=said("mend-end-device"),
        )


def _outlet_wh(checked: Checked, runs: PlanRuns) -> float:
    """What comes out at the device's side of the converter [Wh]: power times time, or through a regulator U_out x Q."""
    run, converter = runs.paper.run, checked.plan.converter
    if converter is None:
        return run.energy_wh
    if converter.is_linear:
        return converter.out_v * run.charge_ah
    return runs.paper.pack.load.value * run.seconds / 3600


def _energy(checked: Checked, runs: PlanRuns) -> Check:
    run = runs.paper.run
    at_cells_wh = run.energy_wh + run.heat_wiring_wh + run.heat_cells_wh
    outlet_wh = _outlet_wh(checked, runs)
    return Check(
        "energy",
        "holds",
        said(
            "worked-energy", cells=amount(at_cells_wh, "Wh", 1), outlet=amount(outlet_wh, "Wh", 1),
            charge=amount(run.charge_ah * 1000, "mAh", 0), mean=amount(run.mean_v or 0, "V", 2),
        ),
        amount(outlet_wh, "Wh", 1),
    )  # fmt: skip


def _promised(checked: Checked, runs: PlanRuns) -> Iterator[Check]:
    promise = checked.plan.promise
    if promise is None:
        return
    if promise.hours is not None:
        yield _promised_hours(checked, runs, promise.hours)
    if promise.power_w is not None:
        yield _promised_power(checked, runs, promise.power_w)
    if promise.capacity_mah is not None:
        yield _promised_charge(checked, runs, promise.capacity_mah, promise.at_v)


def _promised_hours(checked: Checked, runs: PlanRuns, promised_h: float) -> Check:
    paper = runs.paper
    hours, surely_h = _hours(paper.lasts_s), _hours(paper.shortest_s)
    state: CheckState = "holds" if surely_h >= promised_h else "look" if hours >= promised_h else "stop"
    wanted = math.ceil(checked.parallel * promised_h / hours - 1e-9) if hours else 0
    mend = None
    if state != "holds":
        mend = (
            said("mend-promise-hours", parallel=wanted, hours=amount(surely_h, "h", 1))
            if hours
            else said("mend-smaller-load")
        )
    told = {"promised": amount(promised_h, "h", 1), "hours": amount(hours, "h", 1)}
    worked = said("worked-promise-hours-about", promised=told["promised"], hours=told["hours"])
    if paper.has_band:
        worked = said(
            "worked-promise-hours", promised=told["promised"], hours=told["hours"], low=amount(surely_h, "h", 1),
            high=amount(_hours(paper.longest_s), "h", 1),
        )  # fmt: skip
    return Check("promise-hours", state, worked, told["hours"], told["promised"], mend=mend, may_be_waived=True)


def _promised_power(checked: Checked, runs: PlanRuns, promised_w: float) -> Check:
    """Every cell within what it may give all the time, at the lowest voltage of the run."""
    told = [cell.carries_a for group in checked.groups for cell in group]
    if any(carries is None for carries in told):
        return Check(
            "promise-power",
            "look",
            said("worked-promise-power-unknown"),
            limit=amount(promised_w, "W", 0),
            mend=said("mend-promise-power"),
        )
    carries_a = min(_group_carries_a(group) for group in checked.groups)
    share = 1.0
    if checked.plan.converter is not None and not checked.plan.converter.is_linear:
        share = efficiencies(checked.plan.converter, checked.rules)[1]
    lowest_v = runs.least_v
    most_w = carries_a * lowest_v * share
    state: CheckState = "holds" if most_w >= promised_w else "stop"
    return Check(
        "promise-power", state,
        said(
            "worked-promise-power", carries=amount(carries_a, "A", 1), lowest=amount(lowest_v, "V", 2),
            share=amount(share, "", 2), most=amount(most_w, "W", 0),
        ),
        amount(most_w, "W", 0), amount(promised_w, "W", 0), mend=None if state == "holds" else said("mend-more-parallel"),
        may_be_waived=True,
    )  # fmt: skip


def _group_carries_a(group: Sequence[PaperCell]) -> float:
    """What a group gives with no cell above its own [A]: the cells share by their resistances."""
    siemens = [1 / (cell.resistance_mohm or 1) for cell in group]
    return min((cell.carries_a or 0) * sum(siemens) / mine for cell, mine in zip(group, siemens, strict=True))


def _promised_charge(checked: Checked, runs: PlanRuns, promised_mah: float, at_v: float | None) -> Check:
    run = runs.paper.run
    if at_v is None:
        return Check(
            "promise-charge", "stop",
            said(
                "worked-promise-charge-no-volts", promised=amount(promised_mah, "mAh", 0),
                energy=amount(_outlet_wh(checked, runs), "Wh", 1),
            ),
            limit=amount(promised_mah, "mAh", 0), mend=said("mend-promise-charge-volts"), may_be_waived=True,
        )  # fmt: skip
    promised_wh, outlet_wh = promised_mah / 1000 * at_v, _outlet_wh(checked, runs)
    state: CheckState = "holds" if outlet_wh >= promised_wh else "stop"
    return Check(
        "promise-charge", state,
        said(
            "worked-promise-charge", promised=amount(promised_mah, "mAh", 0), at=amount(at_v, "V", 1),
            energy=amount(promised_wh, "Wh", 1), outlet=amount(outlet_wh, "Wh", 1), charge=amount(run.charge_ah * 1000, "mAh", 0),
            really=amount(outlet_wh / at_v * 1000, "mAh", 0),
        ),
        amount(outlet_wh, "Wh", 1), amount(promised_wh, "Wh", 1),
        mend=None if state == "holds" else said("mend-promise-charge", really=amount(outlet_wh / at_v * 1000, "mAh", 0), at=amount(at_v, "V", 1)),
        may_be_waived=True,
    )  # fmt: skip


def _window(checked: Checked, runs: PlanRuns) -> Iterator[Check]:
    """A device straight at the pack, or the output that a converter gives it; and how much of the energy is of use."""
    device, converter = checked.plan.device, checked.plan.converter
    if device is None:
        return
    given_v = converter.out_v if converter else checked.full_v
    if device.most_v is not None:
        is_above = given_v > device.most_v + 1e-9
        yield Check(
            "window-above", "stop" if is_above else "holds",
            said("worked-window-above", given=amount(given_v, "V", 2), most=amount(device.most_v, "V", 2)),
            amount(given_v, "V", 2), amount(device.most_v, "V", 2), mend=said("mend-window-above") if is_above else None,
            may_be_waived=True,
        )  # fmt: skip
    if converter is not None and device.least_v is not None and given_v < device.least_v - 1e-9:
        yield Check(
            "window-below", "stop", said("worked-window-below", given=amount(given_v, "V", 2), least=amount(device.least_v, "V", 2)),
            amount(given_v, "V", 2), amount(device.least_v, "V", 2), mend=said("mend-window-below"), may_be_waived=True,
        )  # fmt: skip
    share = runs.share_in_window
    if share is not None and (device_ends_v(checked.plan, checked.rules) or device.most_v is not None):
        good, least = checked.rules.value(limits.WINDOW_GOOD_SHARE), checked.rules.value(limits.USED_LEAST_SHARE)
        state: CheckState = "holds" if share >= good else "look" if share >= least else "stop"
        yield Check(
            "window-share", state,
            said("worked-window-share", share=amount(100 * share, "%", 0), ends=amount(device_ends_v(checked.plan, checked.rules), "V", 2)),
            amount(100 * share, "%", 0), **of_limit(limits.USED_LEAST_SHARE if state == "stop" else limits.WINDOW_GOOD_SHARE, 100 * (least if state == "stop" else good), "%", 0),
            mend=None if state == "holds" else said("mend-window-share"), may_be_waived=True,
        )  # fmt: skip


def _regulator(checked: Checked, runs: PlanRuns) -> Iterator[Check]:
    """A linear regulator burns what is too much, and lets go where its input comes near its output."""
    converter = checked.plan.converter
    if converter is None or not converter.is_linear:
        return
    needs_v = converter.out_v + drop_out_v(converter)
    empty_v = runs.paper.cutoff_v * checked.series
    is_short = needs_v > empty_v + 1e-9
    yield Check(
        "drop-out", "look" if is_short else "holds",
        said("worked-drop-out", out=amount(converter.out_v, "V", 2), drop=amount(drop_out_v(converter), "V", 1), needs=amount(needs_v, "V", 2), empty=amount(empty_v, "V", 2)),
        amount(empty_v, "V", 2), amount(needs_v, "V", 2), Kind.STANDARD, said("mend-drop-out") if is_short else None,
    )  # fmt: skip
    heat_w = (checked.full_v - converter.out_v) * runs.most_a
    sink_w, most_w = checked.rules.value(limits.REGULATOR_SINK_W), checked.rules.value(limits.REGULATOR_MOST_W)
    state: CheckState = "holds" if heat_w <= sink_w else "look" if heat_w <= most_w else "stop"
    limit = limits.REGULATOR_MOST_W if state == "stop" else limits.REGULATOR_SINK_W
    yield Check(
        "regulator-heat", state,
        said("worked-regulator-heat", full=amount(checked.full_v, "V", 2), out=amount(converter.out_v, "V", 2), current=amount(runs.most_a, "A", 2), heat=amount(heat_w, "W", 1)),
        amount(heat_w, "W", 1), **of_limit(limit, checked.rules.value(limit), digits=1),
        mend=None if state == "holds" else said("mend-regulator-heat", state=state), may_be_waived=False,
    )  # fmt: skip


def _converter_input(checked: Checked) -> Iterator[Check]:
    """What a converter's input bears, and whether it can do at all what it is there for."""
    converter = checked.plan.converter
    if converter is None:
        return
    most_v = converter.most_in_v
    if converter.converter_kind == "step-up":
        most_v = min(most_v or math.inf, converter.out_v)
    if most_v is not None:
        is_above = checked.full_v > most_v + 1e-9
        yield Check(
            "converter-input", "stop" if is_above else "holds",
            said("worked-converter-input", full=amount(checked.full_v, "V", 2), most=amount(most_v, "V", 2)),
            amount(checked.full_v, "V", 2), amount(most_v, "V", 2), mend=said("mend-converter-input") if is_above else None,
        )  # fmt: skip
    if converter.most_out_a is not None and checked.plan.device is not None:
        out_a = behind_a(checked.plan.device, converter.out_v)
        is_above = out_a > converter.most_out_a + 1e-9
        yield Check(
            "converter-output", "stop" if is_above else "holds",
            said("worked-converter-output", current=amount(out_a, "A", 2), most=amount(converter.most_out_a, "A", 2)),
            amount(out_a, "A", 2), amount(converter.most_out_a, "A", 2), mend=said("mend-smaller-load") if is_above else None,
        )  # fmt: skip


def _standing(checked: Checked) -> Iterator[Check]:
    drain_ma = standing_ma(checked.plan)
    if not drain_ma:
        return
    weeks = checked.weakest_mah / drain_ma / _WEEK_H
    is_short = weeks < checked.rules.value(limits.STANDING_WEEKS)
    yield Check(
        "standing-drain", "look" if is_short else "holds",
        said("worked-standing-drain", charge=amount(checked.weakest_mah, "mAh", 0), drain=amount(drain_ma, "mA", 2), weeks=amount(weeks, "wk", 1)),
        amount(weeks, "wk", 1), **of_limit(limits.STANDING_WEEKS, checked.rules.value(limits.STANDING_WEEKS), digits=0),
        mend=said("mend-standing-drain") if is_short else None,
    )  # fmt: skip
