"""Runs on paper against closed forms, many small steps, and balances that hold for every pack."""

from __future__ import annotations

import math
from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from zembric.core.run import (
    Curve,
    Efficiency,
    Load,
    RefusedRunError,
    RunCell,
    RunPack,
    run_over_time,
    run_pack,
    run_times,
)

#: 3.0 V empty, 4.0 V full, straight between; and one with corners, flat in its middle.
STRAIGHT = Curve((0, 1), (3.0, 4.0))
BENT = Curve((0, 0.1, 0.5, 0.9, 1), (2.5, 3.2, 3.3, 3.35, 3.6))
CURVES = {"straight": STRAIGHT, "bent": BENT}


def cell(capacity_mah: float = 1000, mohm: float = 100, soc: float = 1.0, chemistry: str = "straight") -> RunCell:
    return RunCell("c", chemistry, capacity_mah, mohm, soc)


def pack(*groups: list[RunCell], load: Load | None = None, cutoff_v: float = 3.2, **more: float) -> RunPack:
    return RunPack(CURVES, groups, load or Load("current", 1.0), cutoff_v, **more)


# --- Closed forms ----------------------------------------------------------------------------------------------------


def test_two_unequal_cells_share_by_hand() -> None:
    """At first B is charged by A, at the end both have one voltage and share by their charge."""
    run = run_pack(pack([cell(1000, 100, 0.9), cell(500, 200, 0.8)], load=Load("current", 0.5), wiring_mohm=50))
    assert (run.seconds, run.charge_ah, run.energy_wh) == pytest.approx((6840, 0.95, 3.317083), rel=1e-5)
    assert (run.mean_v, run.final_v, run.stranded_wh) == pytest.approx((3.491667, 3.175, 0.1608333), rel=1e-5)
    assert (run.heat_cells_wh, run.heat_wiring_wh) == pytest.approx((0.0333333, 0.02375), rel=1e-4)
    assert (run.ended_by, run.ended_in) == ("group_cutoff", 1)
    (group,) = run.groups
    a, b = group.cells
    assert (group.final_v, group.left_ah) == pytest.approx((3.2, 0.35))
    assert (a.final_soc, b.final_soc) == pytest.approx((0.233333, 0.233333), abs=1e-6)
    assert (a.peak_discharge_s, a.peak_charge_s, b.peak_charge_s) == (0, None, 0)
    assert (a.peak_discharge_a, a.peak_charge_a) == pytest.approx((2 / 3, 0))
    assert (b.peak_discharge_a, b.peak_charge_a) == pytest.approx((1 / 6, 1 / 6), rel=1e-4)


@pytest.mark.parametrize(("series", "parallel"), [(1, 1), (3, 2), (2, 5)])
@pytest.mark.parametrize(
    ("load", "hours"),
    [
        # U falls 1 V an Ah a cell; it ends at U - 0.1 Ohm x 0.5 A = 3.2 V.
        (Load("current", 0.5), (4.0 - 3.25) / 0.5),
        # U / (1.9 + 0.1) Ohm: an exponential of 2 h, from 4.0 V to where 0.95 U is 3.2 V.
        (Load("resistor", 1.9), 2 * math.log(4.0 / (3.2 / 0.95))),
    ],
)
def test_cells_that_are_all_alike_run_as_long_as_one(series: int, parallel: int, load: Load, hours: float) -> None:
    whole = load.value * (parallel if load.kind == "current" else series / parallel)
    run = run_pack(pack(*[[cell()] * parallel] * series, load=replace(load, value=whole)))
    assert run.seconds == pytest.approx(3600 * hours, rel=1e-4)
    assert {each.soc_out_of_range for group in run.groups for each in group.cells} == {False}


@pytest.mark.parametrize(("watts", "cutoff_v", "ended"), [(4.0, 3.0, "group_cutoff"), (38.0, 0.1, "load_not_carried")])
def test_a_constant_power_takes_more_and_more_until_it_cannot_be_carried(
    watts: float, cutoff_v: float, ended: str
) -> None:
    """U = P / I + r I, so t = q / k [-P / (2 I^2) - r ln I] between the first and the last current."""
    run = run_pack(pack([cell()], load=Load("power", watts), cutoff_v=cutoff_v))

    def current(volts: float) -> float:
        return (volts - math.sqrt(max(volts**2 - 4 * watts * 0.1, 0))) / 0.2

    last = watts / cutoff_v if ended == "group_cutoff" else math.sqrt(watts / 0.1)

    def passed(amperes: float) -> float:
        return 3600 * (-watts / (2 * amperes**2) - 0.1 * math.log(amperes))

    assert run.ended_by == ended
    assert run.seconds == pytest.approx(passed(last) - passed(current(4.0)), rel=5e-4)
    assert run.energy_wh == pytest.approx(watts * run.seconds / 3600, rel=1e-4)
    assert run.groups[0].cells[0].peak_discharge_a == pytest.approx(last, rel=2e-3)


# --- Many small steps ------------------------------------------------------------------------------------------------


def by_small_steps(
    groups: list[list[RunCell]], amperes: float, cutoff_v: float, step_s: float
) -> dict[str, np.ndarray]:
    """The same model by brute force: constant current, classical steps of fourth order."""
    cells = [each for group in groups for each in group]
    of_group = np.array([number for number, group in enumerate(groups) for _ in group])
    siemens = 1000 / np.array([each.resistance_mohm for each in cells])
    charge_as = 3.6 * np.array([each.capacity_mah for each in cells])
    tables = [CURVES[each.chemistry] for each in cells]

    def volts(soc: np.ndarray) -> np.ndarray:
        return np.array([extended(table, s) for s, table in zip(soc.tolist(), tables, strict=True)])

    def flows(soc: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        ocv = volts(soc)
        group_v = (np.bincount(of_group, ocv * siemens) - amperes) / np.bincount(of_group, siemens)
        return (ocv - group_v[of_group]) * siemens, group_v

    soc = np.array([each.soc for each in cells])
    most, least, time_s = *(2 * [flows(soc)[0]]), 0.0
    while flows(soc)[1].min() > cutoff_v:
        one = -flows(soc)[0] / charge_as
        two = -flows(soc + step_s / 2 * one)[0] / charge_as
        three = -flows(soc + step_s / 2 * two)[0] / charge_as
        four = -flows(soc + step_s * three)[0] / charge_as
        soc = soc + step_s / 6 * (one + 2 * two + 2 * three + four)
        time_s += step_s
        now = flows(soc)[0]
        most, least = np.maximum(most, now), np.minimum(least, now)
    return {"seconds": np.array(time_s), "soc": soc, "out": most, "in": -least}


@pytest.mark.parametrize("amperes", [20.0, 200.0])
def test_stiff_cells_of_other_chemistries_are_followed_over_every_corner(amperes: float) -> None:
    """They settle within a second and cross the corners of their curves one after another, which their currents show."""
    groups = [
        [cell(40, 5, 0.62, "bent"), cell(30, 3, 0.6, "bent"), cell(50, 9, 0.3)],
        [cell(60, 4, 0.8, "bent"), cell(60, 8, 0.82, "bent"), cell(40, 2, 0.35)],
    ]
    known = by_small_steps(groups, amperes, 2.4, 4e-3 if amperes < 100 else 1e-3)
    run = run_pack(pack(*groups, load=Load("current", amperes), cutoff_v=2.4))
    told = [each for group in run.groups for each in group.cells]
    assert run.seconds == pytest.approx(float(known["seconds"]), rel=2e-3)
    assert [each.final_soc for each in told] == pytest.approx(known["soc"], abs=2e-3)
    assert [each.peak_discharge_a for each in told] == pytest.approx(known["out"], rel=0.01)
    assert [each.peak_charge_a for each in told] == pytest.approx(np.maximum(known["in"], 0), rel=0.01, abs=0.02)


# --- What holds for every pack ---------------------------------------------------------------------------------------

CELLS = st.builds(
    cell,
    st.floats(200, 5000),
    st.sampled_from([0.02, 0.5, 20, 45.5, 90]),
    st.floats(0.3, 1),
    st.sampled_from(["straight", "bent"]),
)
GROUPS = st.lists(st.lists(CELLS, min_size=1, max_size=4), min_size=1, max_size=4)
LOADS = st.one_of(
    st.builds(Load, st.just("current"), st.floats(0.2, 6)),
    st.builds(Load, st.just("power"), st.floats(0.5, 20)),
    st.builds(Load, st.just("resistor"), st.floats(1, 50)),
)


def stored_wh(group: list[RunCell], charges: list[float]) -> float:
    """What the cells of a group hold above empty, line by line of their curves."""
    total = 0.0
    for each, soc in zip(group, charges, strict=True):
        curve = CURVES[each.chemistry]
        points = [s for s in curve.soc if s < soc]
        for low, high in pairwise([*points, soc] if soc > 0 else [0.0, soc]):
            middle = (low + high) / 2
            total += each.capacity_mah / 1000 * (high - low) * extended(curve, middle)
    return total


def extended(curve: Curve, soc: float) -> float:
    lines = list(zip(pairwise(curve.soc), pairwise(curve.ocv_v), strict=True))
    (a, b), (u, v) = next((line for line in lines if soc <= line[0][1]), lines[-1])
    return u + (v - u) * (soc - a) / (b - a)


@settings(max_examples=40)
@given(GROUPS, LOADS, st.floats(0, 50))
def test_what_the_cells_lose_is_energy_out_and_heat_and_every_group_gives_the_same_charge(
    groups: list[list[RunCell]], load: Load, wiring_mohm: float
) -> None:
    run = run_pack(RunPack(CURVES, groups, load, 2.2, wiring_mohm=wiring_mohm))
    lost_wh = sum(
        stored_wh(group, [each.soc for each in group]) - stored_wh(group, [each.final_soc for each in told.cells])
        for group, told in zip(groups, run.groups, strict=True)
    )
    assert run.energy_wh + run.heat_cells_wh + run.heat_wiring_wh == pytest.approx(lost_wh, rel=1e-3, abs=1e-6)
    for group, told in zip(groups, run.groups, strict=True):
        before_ah = sum(each.capacity_mah * each.soc for each in group) / 1000
        assert before_ah - told.left_ah == pytest.approx(run.charge_ah, rel=3e-4, abs=1e-7)
        assert told.final_v >= 2.2 - 1e-6
    assert run.ended_by != "group_cutoff" or min(told.final_v for told in run.groups) == pytest.approx(2.2, abs=1e-6)


@settings(max_examples=15)
@given(GROUPS, LOADS)
def test_a_cell_is_as_good_as_its_two_halves(groups: list[list[RunCell]], load: Load) -> None:
    halves = [
        [replace(each, capacity_mah=each.capacity_mah / 2, resistance_mohm=2 * each.resistance_mohm) for each in group for _ in range(2)]
        for group in groups
    ]  # fmt: skip
    whole, split = run_pack(RunPack(CURVES, groups, load, 2.2)), run_pack(RunPack(CURVES, halves, load, 2.2))
    assert split.seconds == pytest.approx(whole.seconds, rel=5e-4, abs=1e-6)
    assert split.heat_cells_wh == pytest.approx(whole.heat_cells_wh, rel=3e-3, abs=1e-9)
    for one, two in zip(whole.groups, split.groups, strict=True):
        for each, half in zip(one.cells, two.cells[::2], strict=True):
            assert 2 * half.peak_discharge_a == pytest.approx(each.peak_discharge_a, rel=0.01, abs=0.01)


@settings(max_examples=15)
@given(st.lists(GROUPS, min_size=2, max_size=5), LOADS)
def test_many_packs_at_once_run_as_long_as_each_alone(packs: list[list[list[RunCell]]], load: Load) -> None:
    alone = [run_pack(RunPack(CURVES, groups, load, 2.2)).seconds for groups in packs]
    together = run_times(CURVES, packs, load, 2.2)
    assert together.tolist() == pytest.approx(alone, rel=1e-3, abs=1e-3)


# --- Ends and what cannot be -----------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("asked", "reason", "group", "volts"),
    [
        # 4 V less 0.1 Ohm x 9 A.
        (pack([cell()], load=Load("current", 9)), "group_cutoff", 1, 3.1),
        (pack([cell()], [cell(mohm=200)], load=Load("current", 5)), "group_cutoff", 2, 6.5),
        (pack([cell()], load=Load("current", 4), cutoff_pack_v=3.5, wiring_mohm=50), "pack_cutoff", None, 3.4),
        # No more than 4 V ^2 / (4 x 0.1 Ohm) = 40 W; the load is off then.
        (pack([cell()], load=Load("power", 41)), "load_not_carried", None, 4.0),
    ],
)
def test_a_run_may_be_over_at_once(asked: RunPack, reason: str, group: int | None, volts: float) -> None:
    run = run_pack(asked)
    assert (run.seconds, run.charge_ah, run.energy_wh, run.mean_v, run.heat_cells_wh) == (0, 0, 0, None, 0)
    assert (run.ended_by, run.ended_in) == (reason, group)
    assert run.final_v == pytest.approx(volts)


def test_the_pack_may_end_before_any_group() -> None:
    run = run_pack(pack([cell()], [cell(2000)], cutoff_v=3.0, cutoff_pack_v=6.6))
    # 4 - t and 4 - t / 2, each less 0.1 V.
    assert (run.ended_by, run.ended_in) == ("pack_cutoff", None)
    assert run.seconds == pytest.approx(3600 * 1.2 / 1.5, rel=1e-4)


def test_an_exchange_that_is_over_within_milliseconds_is_seen_with_both_peaks() -> None:
    run = run_pack(pack([cell(100, 0.1, 1.0), cell(100, 0.1, 0.5)], load=Load("current", 0.1)))
    (group,) = run.groups
    assert [each.peak_discharge_a for each in group.cells] == pytest.approx([2500.05, 0.05], rel=0.01)
    assert [each.peak_charge_a for each in group.cells] == pytest.approx([0, 2499.95])
    # Half of 0.5 V x 25 mAh is gone.
    assert run.heat_cells_wh == pytest.approx(0.5 * 0.025 / 2, rel=2e-3)


def test_a_cell_that_is_pushed_beyond_full_is_told() -> None:
    run = run_pack(pack([cell(1000, 10, 1.0, "bent"), cell(1000, 10, 0.9)], load=Load("current", 0.01), cutoff_v=2.4))
    assert [each.soc_out_of_range for each in run.groups[0].cells] == [True, True]


def test_what_could_still_be_had_of_a_group_that_did_not_end_the_run_is_told() -> None:
    run = run_pack(pack([cell(1000, 0.001)], [cell(2000, 0.001)]))
    assert run.ended_in == 1
    # From 3.6 V down to 3.2 V of 2 Ah: 0.8 Ah at 3.4 V in the mean.
    assert run.stranded_wh == pytest.approx(0.8 * 3.4, rel=1e-3)


def test_a_pack_that_stands_below_a_cut_off_before_anything_flows_is_refused_by_its_group() -> None:
    with pytest.raises(RefusedRunError) as refused:
        run_pack(pack([cell()], [cell(soc=0.1)], [cell(soc=0.2)]))
    assert [(each.code, each.group) for each in refused.value.wrong] == [
        ("cutoff_not_below_start", 2),
        ("cutoff_not_below_start", 3),
    ]
    with pytest.raises(RefusedRunError, match="at or below its cut-off already"):
        run_pack(pack([cell()], cutoff_pack_v=4.0))


# --- Behind a converter, and as it goes ------------------------------------------------------------------------------


def test_a_converter_takes_its_power_over_what_its_efficiency_is_at_each_voltage() -> None:
    """0.9 at 4 V, 0.8 at 3 V: of one cell without resistance the charge is the integral of P / (efficiency U) dt."""
    falling = Efficiency(3.0, 0.8, 4.0, 0.9)
    run = run_pack(pack([cell(1000, 0.01)], load=Load("power", 2.0, falling)))
    steps = np.linspace(4.0, 3.2, 20_001)
    middle = (steps[1:] + steps[:-1]) / 2
    seconds = float((middle * (0.8 + 0.1 * (middle - 3.0)) / 2.0).sum() * 3600 * (steps[0] - steps[1]))
    assert run.seconds == pytest.approx(seconds, rel=1e-4)
    same = run_pack(pack([cell()], load=Load("power", 2.0, Efficiency(3.0, 0.8, 4.0, 0.8))))
    assert same.seconds == pytest.approx(run_pack(pack([cell()], load=Load("power", 2.5))).seconds, rel=1e-6)


def test_at_each_moment_the_cells_of_a_group_carry_the_load_and_hold_what_they_gave_away() -> None:
    two = pack([cell(1000, 100, 0.9), cell(500, 200, 0.8)], [cell(1500, 50)], load=Load("power", 4.0))
    moved = run_over_time(two, most=60)
    assert len(moved.moments_s) <= 60
    end = run_pack(two)
    assert moved.moments_s[-1] == pytest.approx(end.seconds, rel=1e-4)
    for a, b, c, load_a in zip(*moved.cell_a, moved.load_a, strict=True):
        assert (a + b, c) == pytest.approx((load_a, load_a), rel=1e-6)
    assert [soc[-1] for soc in moved.soc] == pytest.approx([c.final_soc for g in end.groups for c in g.cells], abs=1e-4)
