"""A run row by row: when a stage is over, what stops it at once, and what lets it stand still."""

from __future__ import annotations

from dataclasses import replace

import pytest

from tests.core.tester.test_programs import made
from zembric.core.tester.programs import Program
from zembric.core.tester.run import (
    Sample,
    Verdict,
    begin,
    current_of,
    go_on,
    look_at_first,
    progress_as_json,
    progress_from_json,
    time_left,
    wait_for_order,
)

CHARGE = made("charge")


def follow(program: Program, *rows: tuple[float, float, float], degc: float | None = None) -> list[Verdict]:
    """Rows of time, volts and amperes, one after another, as far as the run goes."""
    progress, told = begin(Sample(0, 3.6, 0)), []
    for row in rows:
        told.append(go_on(program, progress, Sample(*row, degc)))
        progress = told[-1].progress
        if told[-1].is_over:
            break
    return told


def test_a_charge_is_over_when_its_current_has_faded_at_full() -> None:
    told = follow(CHARGE, (10, 3.9, 1.3), (5000, 4.2, 1.0), (8000, 4.2, 0.1), (8010, 4.2, 0.1))
    assert [each.is_over for each in told] == [False, False, False, True]
    assert told[-1].alarm is None
    assert told[-1].progress.in_mah > 1000


def test_a_tester_that_ends_by_itself_ends_the_stage() -> None:
    told = follow(CHARGE, (10, 3.9, 1.3), (7000, 4.2, 0.2), (8000, 4.19, 0.0), (8001, 4.19, 0.0))
    assert (told[-1].is_over, told[-1].alarm) == (True, None)


def test_a_discharge_ends_at_the_first_row_below_its_cut_off() -> None:
    program = replace(CHARGE, stages=(made("cycle").stages[5],))
    told = follow(program, (10, 3.9, -1), (9000, 2.99, -1))
    assert told[-1].is_over
    assert told[-1].progress.out_mah == pytest.approx(2500, rel=0.01)


def test_a_discharge_that_ends_by_itself_far_above_its_cut_off_measured_nothing() -> None:
    program = replace(CHARGE, stages=(made("cycle").stages[5],))
    ended_low = follow(program, (10, 3.9, -1), (9000, 3.05, -1), (9010, 3.3, 0), (9020, 3.35, 0))
    ended_high = follow(program, (10, 3.9, -1), (3000, 3.7, -1), (3010, 3.8, 0))
    assert [ended_low[-1].alarm, ended_low[-1].is_over] == [None, True]
    assert ended_high[-1].alarm is not None
    assert ended_high[-1].alarm.code == "run-broken-off"


@pytest.mark.parametrize(
    ("rows", "alarm"),
    [
        ([(10, 4.26, 1.3), (11, 4.26, 1.3)], "over-voltage"),
        ([(10, 3.9, 1.3), (9000, 4.1, 1.3)], "more-in-than-believed"),
        ([(10, -0.4, 0.5)], "reversed"),
        ([(10, 3.9, 0.3), (30_000, 4.1, 0.01)], "over-time"),
        ([(10, 4.0, 1.3), (300, 4.2, 0.1), (310, 4.2, 0.1)], "raced-to-full"),
    ],
)
def test_a_danger_ends_all_current_for_good(rows: list[tuple[float, float, float]], alarm: str) -> None:
    last = follow(CHARGE, *rows)[-1]
    assert last.alarm is not None
    assert (last.alarm.code, last.order, last.is_over) == (alarm, "off", True)


def test_one_odd_row_is_no_danger() -> None:
    assert [each.alarm for each in follow(CHARGE, (10, 3.9, 1.3), (11, 4.3, 1.3), (12, 3.9, 1.3))] == [None] * 3


def test_a_hot_cell_stops_also_while_it_rests() -> None:
    program = replace(CHARGE, stages=(made("cycle").stages[1],))
    assert [each.alarm.code for each in follow(program, (1, 4.1, 0), (2, 4.1, 0), degc=46)[1:] if each.alarm] == [
        "too-hot"
    ]


def test_warmer_than_its_room_by_ten_is_hot() -> None:
    progress = begin(Sample(0, 3.6, 0))
    for second in (1, 2):
        verdict = go_on(CHARGE, progress, Sample(second, 3.8, 1.0, 29), room_degc=18)
        progress = verdict.progress
    assert verdict.alarm is not None
    assert verdict.alarm.code == "too-hot"


@pytest.mark.parametrize(("degc", "alarm"), [(-2, "cold"), (9, "cold"), (10, None)])
def test_a_cold_cell_is_not_charged(degc: float, alarm: str | None) -> None:
    found = look_at_first(CHARGE, Sample(0, 3.62, 0, degc), None)
    assert (found.code if found else None) == alarm


def test_a_lost_contact_stands_still_and_its_time_does_not_count() -> None:
    told = follow(CHARGE, (10, 3.9, 1.3), (20, 0.01, 0), (60, 0.01, 0), (69, 3.88, 0), (70, 3.88, 0))
    assert [each.order for each in told] == [None, "off", None, None, "go"]
    assert told[-1].progress.lost_s == 50


def test_an_output_that_is_open_yet_or_sinks_is_no_cell_that_is_back() -> None:
    told = follow(CHARGE, (10, 3.72, 1.3), (11, 4.2, 0), *((12 + at, 4.2 - at / 10, 0) for at in range(10)))
    assert [each.order for each in told] == [None, "off", *[None] * 10]


def test_what_still_comes_from_before_it_was_set_anew_is_not_the_end() -> None:
    lost = follow(CHARGE, (10, 4.13, 1.3), (20, 0.01, 0), (60, 4.08, 0), (61, 4.08, 0))[-1]
    progress = wait_for_order(CHARGE, lost.progress, Sample(62, 4.08, 0), begins=False).progress
    for at in (63, 70, 80):
        told = go_on(CHARGE, progress, Sample(at, 4.08, 0))
        progress = told.progress
    assert (lost.order, told.is_over, progress.stage_began_s, progress.lost_s) == ("go", False, 0, 42)


def test_a_contact_that_went_while_nobody_drove_is_no_full_cell() -> None:
    progress = follow(CHARGE, (10, 3.9, 1.3))[-1].progress
    for at in (400, 800):
        progress = wait_for_order(CHARGE, progress, Sample(at, 4.2, 0), begins=False).progress
    told = go_on(CHARGE, progress, Sample(801, 4.2, 0))
    assert (told.alarm.code if told.alarm else None, told.is_over) == ("contact-lost", False)


def test_a_cell_that_was_taken_out_while_nobody_drove_is_looked_at_before_it_goes_on() -> None:
    progress = follow(CHARGE, (10, 3.7, 1.3))[-1].progress
    orders = []
    for at, volts in ((20, 3.68), (30, 0.01), (40, 3.0)):
        told = wait_for_order(CHARGE, progress, Sample(at, volts, 0), begins=False)
        orders.append((told.order, told.alarm.code if told.alarm else None))
        progress = told.progress
    assert orders == [(None, None), ("off", "contact-lost"), (None, None)]
    assert [go_on(CHARGE, progress, Sample(at, 3.0, 0)).order for at in (50, 60)] == [None, None]


def test_a_cell_that_was_turned_round_while_nobody_drove_is_not_set_anew() -> None:
    progress = follow(CHARGE, (10, 3.9, 1.3))[-1].progress
    told = wait_for_order(CHARGE, progress, Sample(30, -3.7, 0), begins=False)
    assert (told.alarm.code if told.alarm else None, told.order, told.is_over) == ("reversed", "off", True)


@pytest.mark.parametrize("open_v", [4.2, 4.22, 4.12])
def test_a_strong_current_that_is_cut_off_near_full_has_not_faded(open_v: float) -> None:
    """Its output is open at the limit, or somebody ended it: the cell is not full."""
    told = follow(CHARGE, (10, 3.9, 1.3), (3000, 4.2, 0.8), (3001, open_v, 0), (3002, open_v, 0), (3004, open_v, 0))
    assert [each.is_over for each in told] == [False] * 5
    assert told[-1].alarm is not None
    assert (told[-1].alarm.code, told[-1].order) == ("contact-lost", "off")


@pytest.mark.parametrize(
    "rows",
    [
        pytest.param([(10, 3.9, 1.3), (900, 4.05, 1.3), (905, 4.2, 0)], id="near full"),
        pytest.param([(1, 4.2, 0), (2, 4.2, 0), (4, 4.2, 0)], id="as it begins"),
    ],
)
def test_an_open_output_at_the_limit_is_a_lost_contact_and_no_full_cell(rows: list[tuple[float, float, float]]) -> None:
    last = follow(CHARGE, *rows)[-1]
    assert last.alarm is not None
    assert (last.alarm.code, last.order, last.is_over) == ("contact-lost", "off", False)
    at_v = 4.05 if rows[0][2] else 3.6
    once = go_on(CHARGE, last.progress, Sample(rows[-1][0] + 5, at_v, 0))
    assert go_on(CHARGE, once.progress, Sample(rows[-1][0] + 6, at_v, 0)).order == "go"


def test_a_full_cell_that_takes_nothing_is_full() -> None:
    progress = begin(Sample(0, 4.19, 0))
    for at in (2, 5, 10):
        told = go_on(CHARGE, progress, Sample(at, 4.2, 0))
        progress = told.progress
    assert (told.is_over, told.alarm) == (True, None)


def test_a_contact_that_stays_lost_ends_the_run_as_a_part() -> None:
    last = follow(CHARGE, (10, 3.9, 1.3), (20, 0.01, 0), (150, 0.01, 0))[-1]
    assert last.alarm is not None
    assert (last.alarm.code, last.is_over) == ("run-broken-off", True)


@pytest.mark.parametrize(
    ("volts", "alarm"),
    [(3.62, None), (3.9, "wrong-cell"), (0.01, "contact-lost"), (-3.6, "reversed"), (4.3, "over-voltage")],
)
def test_nothing_begins_before_a_look_at_the_voltage(volts: float, alarm: str | None) -> None:
    found = look_at_first(CHARGE, Sample(0, volts, 0), None)
    assert (found.code if found else None) == alarm


def test_a_low_cell_begins_with_a_tenth_and_is_set_anew_past_pre_charge() -> None:
    stage = CHARGE.stages[0]
    assert [current_of(stage, 2.8), current_of(stage, 3.1)] == pytest.approx([0.26, 1.3])
    assert [each.order for each in follow(CHARGE, (10, 2.9, 0.26), (900, 3.05, 0.26))] == [None, "go"]


def test_what_is_left_lies_in_its_band_and_shrinks() -> None:
    told = follow(CHARGE, (10, 3.8, 1.3), (3000, 4.0, 1.3))
    first, later = (time_left(CHARGE, each.progress) for each in told)
    assert first.least_s < first.likely_s < first.most_s
    assert later.likely_s == pytest.approx(first.likely_s - 2990, rel=0.01)


def test_progress_comes_back_as_it_was_kept() -> None:
    progress = follow(CHARGE, (10, 3.8, 1.3))[-1].progress
    assert progress_from_json(progress_as_json(progress)) == progress
