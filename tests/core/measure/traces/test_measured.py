"""What a read log tells: steps, capacities, resistances, and that none of it depends on how the log was written."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.support.logs import csv_of, one_discharge, true_discharge_mah, whole_run
from zembric.core.house.limits import Family
from zembric.core.measure.simulation import SimulatedBench, SimulatedCell
from zembric.core.measure.traces.analysis import Test as MeasuredTest
from zembric.core.measure.traces.analysis import analyse_log, analyse_trace, capacities_to_cut_offs
from zembric.core.measure.traces.model import Trace
from zembric.core.measure.traces.steps import flow_of

RUN = whole_run()


def the_test(log: str) -> MeasuredTest:
    return analyse_log(log.encode()).tests[0]


def trace_of(time_s: list[float], volts: list[float], amps: list[float]) -> Trace:
    return Trace(np.array(time_s, float), np.array(volts, float), np.array(amps, float), np.arange(2, len(time_s) + 2))


def test_a_whole_run_falls_into_its_steps() -> None:
    """The tail at constant voltage belongs to the charge; it ends full, the discharge at its cut-off."""
    found = the_test(csv_of(RUN))
    assert [(step.kind, step.complete) for step in found.steps] == [
        ("rest", True), ("charge", True), ("rest", True), ("discharge", True), ("rest", True),
    ]  # fmt: skip
    charge = found.steps[1]
    assert charge.constant_voltage_from is not None
    assert found.trace.voltage_v[charge.constant_voltage_from] == pytest.approx(4.2, abs=0.001)
    assert found.charge_capacity_mah == pytest.approx(
        sum(r.current_a for r in RUN if r.current_a > 0) * 5 / 3.6, rel=0.002
    )


def test_trapezoids_split_where_the_current_changes_its_sign() -> None:
    """From +1 A to -3 A in 4 s: 1 s of charge with 0.5 As, 3 s of discharge with 4.5 As."""
    flow = flow_of(trace_of([0, 4], [3.7, 3.6], [1, -3]))
    assert flow.in_mah[0] == pytest.approx(0.5 / 3.6)
    assert flow.out_mah[0] == pytest.approx(4.5 / 3.6)


def test_energy_is_that_of_voltage_and_current() -> None:
    """1 A for an hour while the voltage falls evenly from 4 to 3 V: 1000 mAh, 3500 mWh."""
    time_s = [float(second) for second in range(0, 3601, 10)]
    found = analyse_trace(trace_of(time_s, [4 - t / 3600 for t in time_s], [-1.0] * len(time_s)))
    assert found.discharge_capacity_mah == pytest.approx(1000)
    assert found.discharge_energy_mwh == pytest.approx(3500)


def test_the_sampling_leaves_open_when_the_load_was_switched() -> None:
    """Rows a minute apart, 1 A: each end may lie half a minute off, of a run of 142 minutes."""
    coarse = the_test(csv_of(whole_run()[::12]))
    true_mah = true_discharge_mah(RUN)
    assert coarse.capacity_allowance_pct == pytest.approx(100 * 2 * 0.5 / 142.7, rel=0.1)
    error_pct = 100 * abs((coarse.discharge_capacity_mah or 0) / true_mah - 1)
    assert error_pct <= (coarse.capacity_allowance_pct or 0)


@pytest.mark.parametrize(("cut_off_v", "family", "full_v"), [(2.5, Family.LAYERED_OXIDE, 4.2), (2.75, Family.LAYERED_OXIDE, 4.2), (3.2, Family.LAYERED_OXIDE, 4.2), (2.0, Family.IRON_PHOSPHATE, 3.6), (2.5, Family.IRON_PHOSPHATE, 3.6)])  # fmt: skip
@pytest.mark.parametrize("rests_after", [True, False])
def test_the_cut_off_is_found(cut_off_v: float, family: Family, full_v: float, *, rests_after: bool) -> None:
    bench = SimulatedBench(SimulatedCell(1500, 50, 1.0, family), every_s=1, full_v=full_v)
    bench.discharge(0.75, cut_off_v)
    if rests_after:
        bench.rest(60)
    assert the_test(csv_of(bench.rows)).cut_off_v == cut_off_v


def test_a_higher_cut_off_is_read_off_the_same_trace() -> None:
    """Up to 3.3 V the model's cell gives what a run of its own to 3.3 V gives."""
    bench = SimulatedBench(SimulatedCell(2400, 60, 1.0), every_s=5)
    bench.discharge(1.0, 3.3)
    lower, higher = 3.3, 3.5
    found = capacities_to_cut_offs(the_test(csv_of(one_discharge())), (lower, higher))
    assert [each.cut_off_v for each in found] == [higher, lower]
    assert found[0].capacity_mah < found[1].capacity_mah == pytest.approx(true_discharge_mah(bench.rows), rel=0.002)
    assert capacities_to_cut_offs(the_test(csv_of(bench.rows)), (3.0,)) == ()


def test_a_run_with_pauses_is_one_discharge() -> None:
    """Parts between rests count together until the cut-off, and a charge between parts them."""
    bench = SimulatedBench(SimulatedCell(2400, 60, 1.0), every_s=5)
    for _ in range(3):
        bench.discharge(1.0, 3.0, most_s=1200)
        bench.rest(900)
    bench.discharge(1.0, 3.0)
    found = the_test(csv_of(bench.rows))
    assert len(found.discharge) == 4
    assert found.discharge_complete
    assert found.discharge_capacity_mah == pytest.approx(true_discharge_mah(bench.rows), rel=0.004)


def test_the_last_complete_discharge_counts_before_a_later_part() -> None:
    bench = SimulatedBench(SimulatedCell(2400, 60, 1.0), every_s=5)
    bench.discharge(1.0, 3.0)
    whole_mah = true_discharge_mah(bench.rows)
    bench.rest(300)
    bench.charge(1.0, 0.05)
    bench.discharge(1.0, 3.0, most_s=1800)
    found = the_test(csv_of(bench.rows))
    assert found.discharge_complete
    assert found.discharge_capacity_mah == pytest.approx(whole_mah, rel=0.003)


def test_resistance_comes_from_every_step_of_current() -> None:
    """70 % of the model's 100 mOhm come at once, so within a second it is 70 and a little, after 10 s 70 + 30 (1 - e^-0.5)."""
    bench = SimulatedBench(SimulatedCell(2400, 100, 0.8), every_s=1)
    for _ in range(3):
        bench.rest(120)
        bench.discharge(1.0, 3.0, most_s=30)
        bench.discharge(2.0, 3.0, most_s=30)
    bench.rest(60)
    found = the_test(csv_of(bench.rows))
    assert len(found.edges) == 9  # rest to load, load to load, load to rest, three times each
    assert all(edge.over_s == 1 for edge in found.edges)
    at_once, after_ten = found.resistances
    assert (at_once.after_s, after_ten.after_s) == (1, 10)
    assert at_once.mohm == pytest.approx(70, rel=0.03)
    assert after_ten.mohm == pytest.approx(70 + 30 * (1 - np.exp(-9 / 20)), rel=0.04)


def test_rows_too_far_apart_show_no_resistance() -> None:
    found = analyse_log(csv_of(whole_run()[::3]).encode())
    assert found.tests[0].sampling_s == 15
    assert found.tests[0].edges == ()
    assert "no-resistance" in {remark.code for remark in found.remarks}


def test_a_meter_too_coarse_shows_no_resistance() -> None:
    """20 mOhm under 0.2 A are 4 mV: a log with 10 mV digits cannot show it."""
    bench = SimulatedBench(SimulatedCell(2400, 20, 0.8), every_s=1)
    bench.rest(60)
    bench.discharge(0.2, 3.0, most_s=600)
    assert the_test(csv_of(bench.rows, "{t:.0f},{v:.2f},{i:.3f}")).edges == ()


def test_a_counter_that_differs_is_said_and_not_taken() -> None:
    rows = one_discharge()
    log = "time (s),voltage (V),current (A),capacity (mAh)\n" + "".join(
        f"{r.time_s},{r.voltage_v:.4f},{r.current_a},{1.05 * r.time_s / 3.6:.2f}\n" for r in rows
    )
    analysis = analyse_log(log.encode())
    assert "counter-differs" in {remark.code for remark in analysis.remarks}
    assert analysis.tests[0].discharge_capacity_mah == pytest.approx(true_discharge_mah(rows), rel=0.003)


def test_the_voltage_after_a_charge_is_told_as_it_falls() -> None:
    relaxed = the_test(csv_of(RUN)).relaxations
    assert [entry.minutes for entry in relaxed] == [1, 10]
    assert relaxed[0].voltage_v >= relaxed[1].voltage_v


_ROWS = one_discharge(5.0)[::20]


@settings(max_examples=25)
@given(
    order=st.permutations(["{t:.1f}", "{v}", "{i}"]),
    milli=st.booleans(),
    minus=st.booleans(),
    comma=st.booleans(),
)
def test_the_integral_does_not_depend_on_how_the_log_is_written(
    order: list[str], *, milli: bool, minus: bool, comma: bool
) -> None:
    """Order of columns, units, sign and decimal mark change nothing."""
    names = {
        "{t:.1f}": "time (s)",
        "{v}": "voltage (mV)" if milli else "voltage (V)",
        "{i}": "current (mA)" if milli else "current (A)",
    }
    scale, sign = (1000 if milli else 1), (1 if minus else -1)
    lines = [";".join(names[column] for column in order)]
    lines += [
        ";".join({"{t:.1f}": f"{r.time_s:.1f}", "{v}": f"{r.voltage_v * scale:.4f}", "{i}": f"{sign * r.current_a * scale:.4f}"}[c] for c in order)
        for r in _ROWS
    ]  # fmt: skip
    text = "\n".join(lines) + "\n"
    head, body = text.split("\n", 1)
    found = the_test(f"{head}\n{body.replace('.', ',') if comma else body}")
    assert found.discharge_capacity_mah == pytest.approx(the_test(csv_of(_ROWS)).discharge_capacity_mah, rel=1e-4)


@settings(max_examples=25)
@given(st.lists(st.integers(1, len(_ROWS) - 2), max_size=12))
def test_a_row_set_between_two_changes_no_integral(places: list[int]) -> None:
    """Splitting an interval of a straight line into two leaves its area as it was."""
    rows = list(_ROWS)
    plain = the_test(csv_of(rows))
    for place in sorted(places, reverse=True):
        a, b = rows[place], rows[place + 1]
        middle = type(a)((a.time_s + b.time_s) / 2, (a.voltage_v + b.voltage_v) / 2, (a.current_a + b.current_a) / 2)
        rows.insert(place + 1, middle)
    split = the_test(csv_of(rows, "{t:.3f},{v:.6f},{i:.6f}"))
    assert split.discharge_capacity_mah == pytest.approx(plain.discharge_capacity_mah, rel=1e-4)


def test_the_faint_end_of_a_held_voltage_belongs_to_its_charge() -> None:
    """The current fades to nothing over two hours with some noise of the zero: all of it was charged."""
    time_s = [float(10 * row) for row in range(1400)]
    amps = [1.0] * 400 + [1.0 * float(np.exp(-row / 120)) for row in range(900)] + [0.0] * 100
    noisy = [a + 0.02 * (-1) ** row * (a == 0) for row, a in enumerate(amps)]
    volts = [3.8 + 0.4 * row / 400 for row in range(400)] + [4.2] * 900 + [4.18] * 100
    found = analyse_trace(trace_of(time_s, volts, noisy))
    assert found.charge_capacity_mah == pytest.approx(sum(amps) * 10 / 3.6, rel=0.003)
