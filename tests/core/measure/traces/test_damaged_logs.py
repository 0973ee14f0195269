"""Logs as they come: each way of writing and each damage is read right, or refused with what would help."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.support.logs import comma_decimals, csv_of, one_discharge, true_discharge_mah, whole_run
from zembric.core.measure.simulation import SimulatedRow
from zembric.core.measure.traces.analysis import LogAnalysis, analyse_log
from zembric.core.measure.traces.model import Answers, LogRefusedError
from zembric.wording import say

RUN = whole_run()
PLAIN = csv_of(RUN)
TRUE_MAH = true_discharge_mah(RUN)
SEMICOLONS = comma_decimals(csv_of(RUN, "{t:.1f};{v:.4f};{i:.4f}", "Zeit (s);Spannung (V);Strom (A)"))
DISCHARGE = csv_of(one_discharge())


def turned(rows: tuple[SimulatedRow, ...], change: Callable[[SimulatedRow], SimulatedRow]) -> tuple[SimulatedRow, ...]:
    return tuple(change(row) for row in rows)


def with_lines(at: int, *new: str, text: str = PLAIN) -> str:
    lines = text.split("\n")
    return "\n".join([*lines[:at], *new, *lines[at:]])


def without_lines(start: int, stop: int, text: str = PLAIN) -> str:
    lines = text.split("\n")
    return "\n".join([*lines[:start], *lines[stop:]])


def swapped_lines(at: int) -> str:
    lines = PLAIN.split("\n")
    lines[at], lines[at + 1] = lines[at + 1], lines[at]
    return "\n".join(lines)


def set_back(seconds: float) -> str:
    rows = [replace(row, time_s=row.time_s - (seconds if at > 3000 else 0)) for at, row in enumerate(RUN)]
    return csv_of(rows)


def step_times() -> str:
    """The clock starts anew whenever the current changes its kind."""
    start, rows, before = 0.0, [], 0.0
    for row in RUN:
        if math.copysign(1, row.current_a) * (row.current_a != 0) != before:
            before = math.copysign(1, row.current_a) * (row.current_a != 0)
            start = row.time_s
        rows.append(replace(row, time_s=row.time_s - start))
    return csv_of(rows, header="step time (s),voltage (V),current (A)")


UNSIGNED = csv_of(RUN, "{t:.1f},{v:.4f},{a:.4f}")
WORDS = {0: "Rest", 1: "Charge", -1: "Discharge"}
WITH_STATES = "state,time (s),voltage (V),current (A)\n" + "".join(
    f"{WORDS[(row.current_a > 0) - (row.current_a < 0)]},{row.time_s},{row.voltage_v:.4f},{abs(row.current_a):.4f}\n"
    for row in RUN
)
DATED = "Date Time,Voltage(V),Current(A)\n" + "".join(
    f"2026-03-14 {20 + int(row.time_s // 3600):02d}:{int(row.time_s // 60) % 60:02d}:{int(row.time_s) % 60:02d},{row.voltage_v:.4f},{row.current_a:.4f}\n"
    for row in RUN
    if row.time_s < 4 * 3600
)

READ: dict[str, str | bytes] = {
    "plain": PLAIN,
    "utf-8 with mark": b"\xef\xbb\xbf" + PLAIN.encode(),
    "utf-16 little": PLAIN.encode("utf-16"),
    "utf-16 big": b"\xfe\xff" + PLAIN.encode("utf-16-be"),
    "utf-16 without mark": PLAIN.encode("utf-16-le"),
    "latin-1": ("Gerät für Übungen\n" + SEMICOLONS).encode("latin-1"),
    "windows line ends": PLAIN.replace("\n", "\r\n"),
    "old line ends": PLAIN.replace("\n", "\r"),
    "doubled returns": PLAIN.replace("\n", "\r\r\n"),
    "decimal commas": SEMICOLONS,
    "decimal commas, tabs": SEMICOLONS.replace(";", "\t"),
    "decimal commas between commas": comma_decimals(csv_of(RUN, "{t:.1f},{v:.4f},{i:.4f}", "Zeit,U [V],I [A]")),
    "quoted": "\n".join(",".join(f'"{field}"' for field in line.split(",")) for line in PLAIN.strip().split("\n")),
    "thousands": csv_of(RUN, "{t:,.1f};{v:.4f};{i:.4f}", "time (s);voltage (V);current (A)"),
    "thousands with points": csv_of(RUN, "{t:,.1f};{v:.4f};{i:.4f}", "time (s);voltage (V);current (A)").translate(str.maketrans(",.", ".,")),
    "bars": PLAIN.replace(",", "|"),
    "blanks": csv_of(RUN, "{t:10.1f}  {v:8.4f}  {i:8.4f}", "  time   voltage   current"),
    "preamble": "Tester 3\nSlot: 2\nSet current: 1000 mA\nCapacity: 2600\n\n" + PLAIN,
    "comments": "# made by hand\n# 2026-03-14\n" + PLAIN,
    "row of units": csv_of(RUN, header="Time,Voltage,Current\n[s],[V],[A]"),
    "French": csv_of(RUN, header="Temps (s),Tension (V),Courant (A)"),
    "Spanish": csv_of(RUN, header="Tiempo (s),Voltaje (V),Corriente (A)"),
    "Polish": csv_of(RUN, header="Czas [s],Napięcie [V],Prąd [A]"),
    "Russian": csv_of(RUN, header="Время (с),Напряжение (В),Ток (А)"),
    "Chinese": csv_of(RUN, header="时间(s),电压(V),电流(A)"),
    "open battery data": csv_of(RUN, header="test_time_second,voltage_volt,current_ampere"),
    "other order": csv_of(RUN, "{i:.4f},{n},{v:.4f},21.5,{t:.1f}", "I/A,#,U/V,T/°C,t/s"),
    "milli": csv_of(RUN, "{t:.0f},{vm:.1f},{im:.1f}", "t(s),U(mV),I(mA)"),
    "minutes": csv_of([replace(row, time_s=row.time_s / 60) for row in RUN], "{t:.5f},{v:.4f},{i:.4f}", "Time (min),V,A"),
    "milliseconds without a unit": csv_of([replace(row, time_s=row.time_s * 1000) for row in RUN], "{t:.0f},{v:.4f},{i:.4f}", "millis,V,A"),
    "clock": csv_of(RUN, "{h},{v:.4f},{i:.4f}"),
    "clock beyond a day": csv_of([replace(row, time_s=row.time_s + 90000) for row in RUN], "{h},{v:.4f},{i:.4f}"),
    "clock over midnight": csv_of([replace(row, time_s=(row.time_s + 80000) % 86400) for row in RUN], "{h},{v:.4f},{i:.4f}"),
    "seconds of an epoch": csv_of([replace(row, time_s=row.time_s + 1.77e9) for row in RUN]),
    "days of a spreadsheet": csv_of([replace(row, time_s=row.time_s / 86400 + 46000) for row in RUN], "{t:.9f},{v:.4f},{i:.4f}", "Date,V,A"),
    "positive discharge": csv_of(turned(RUN, lambda row: replace(row, current_a=-row.current_a))),
    "unsigned": UNSIGNED,
    "unsigned with states": WITH_STATES,
    "no header": csv_of(RUN, header=None),
    "no header, other order": csv_of(RUN, "{vm:.0f} {im:.0f} {t:.0f}", None),
    "values with units": csv_of(RUN, "{t:.1f}s,{v:.4f}V,{i:.4f}A"),
    "named values": csv_of(RUN, "t={t:.1f} V={v:.4f} I={i:.4f}", None),
    "another voltage beside it": csv_of(RUN, "{v:.4f},{i:.4f},24.3,0.0,0.0,{t:.1f}", "Voltage_measured,Current_measured,Temp,Current_load,Voltage_load,Time"),
    "a cycler's many columns": csv_of(
        RUN, "{n},{t:.1f},2026-03-14 10:00:00,7.0,1,1,{i:.4f},{v:.4f},0.1,0.2,0",
        "Data_Point,Test_Time(s),Date_Time,Step_Time(s),Step_Index,Cycle_Index,Current(A),Voltage(V),Charge_Capacity(Ah),Charge_Energy(Wh),dV/dt(V/s)",
    ),
    "swapped names": csv_of(RUN, header="time (s),current (A),voltage (V)"),
    "milliamperes that are amperes": csv_of(RUN, "{t:.1f},{v:.4f},{im:.1f}"),
    "junk lines": with_lines(900, "*** beep ***", "slot 2 warm"),
    "header in the middle": with_lines(1500, "time (s),voltage (V),current (A)"),
    "blank lines": with_lines(700, "", "", ""),
    "zero bytes": PLAIN.replace("\n", "\n\x00", 3).encode(),
    "nan": with_lines(2000, "9999.5,nan,-1.0000"),
    "infinity": with_lines(2000, "9999.5,3.9,inf"),
    "missing value": with_lines(2000, "9999.5,,-1.0000"),
    "placeholder": with_lines(2000, "9999.5,65535,-1.0000", "9999.6,3.9,-9999"),
    "no contact": with_lines(2000, "9999.5,0.000,0.000"),
    "equal times": with_lines(2000, *[PLAIN.split("\n")[1999]] * 3),
    "two rows turned": swapped_lines(2000),
    "clock set back": set_back(3600),
    "newest first": "time (s),voltage (V),current (A)\n" + "\n".join(reversed(PLAIN.strip().split("\n")[1:])) + "\n",
    "step times": step_times(),
    "cut in the last line": PLAIN + "17000.0,3.",
    "extra column here and there": with_lines(2000, "9999.9,3.7,-1.0,late"),
    "trailing delimiters": PLAIN.replace("\n", ",\n"),
    "gap under load": without_lines(2600, 2660),
}  # fmt: skip


def text(log: str | bytes) -> bytes:
    return log if isinstance(log, bytes) else log.encode()


@pytest.mark.parametrize("name", READ)
def test_a_log_is_read_right_however_it_is_written_or_damaged(name: str) -> None:
    """The last test of the file gives the capacity of the model's cell, within what the sampling leaves open."""
    last = analyse_log(text(READ[name])).tests[-1]
    assert last.discharge_complete
    assert last.cut_off_v == 3.0
    allowance_pct = 0.35 + (last.capacity_allowance_pct or 0)
    assert last.discharge_capacity_mah == pytest.approx(TRUE_MAH, rel=allowance_pct / 100)


GUESSED = {
    "no header": "guessed-columns",
    "decimal commas between commas": "decimal-comma-joined",
    "milliamperes that are amperes": "unit-contradicts",
    "swapped names": "swapped-columns",
    "unsigned": "unsigned-current",
    "named values": "named-values",
    "junk lines": "junk-line",
    "header in the middle": "repeated-header",
    "zero bytes": "nul-bytes",
    "nan": "no-value",
    "infinity": "no-value",
    "missing value": "no-value",
    "placeholder": "impossible-value",
    "no contact": "no-contact",
    "two rows turned": "backward-time",
    "clock set back": "clock-set-back",
    "newest first": "newest-first",
    "step times": "step-times",
    "cut in the last line": "truncated",
    "gap under load": "gap",
}


@pytest.mark.parametrize(("name", "code"), GUESSED.items())
def test_what_was_guessed_or_left_out_is_said_with_its_line(name: str, code: str) -> None:
    remark = next(remark for remark in analyse_log(text(READ[name])).remarks if remark.code == code)
    assert remark.line is None or 1 <= remark.line <= text(READ[name]).count(b"\n") + 1
    assert len(say(remark.said)) > 20


REFUSED: dict[str, tuple[bytes, str]] = {
    "empty": (b"", "empty-file"),
    "only zero bytes": (b"\x00" * 500, "empty-file"),
    "a picture": (b"\x89PNG\r\n\x1a\n" + bytes(range(256)) * 4, "not-a-log"),
    "a web page": (b"<html><table><tr><td>3.7</td></tr></table></html>", "not-a-log"),
    "an old spreadsheet": (b"\xd0\xcf\x11\xe0" + b"\x00" * 600, "not-a-log"),
    "binary": (bytes(range(1, 9)) * 300, "not-a-log"),
    "prose": (b"The cell was fine.\nIt had about 2300.\n", "no-rows"),
    "only a header": (b"time (s),voltage (V),current (A)\n", "no-rows"),
    "one row": (b"time (s),voltage (V),current (A)\n0,3.7,-1\n", "no-rows"),
    "no voltage": (csv_of(RUN, "{t:.1f},{i:.4f}", "time (s),current (A)").encode(), "no-voltage"),
    "no current": (csv_of(RUN, "{t:.1f},{v:.4f}", "time (s),voltage (V)").encode(), "no-current"),
    "no time": (csv_of(RUN, "{v:.4f},{i:.4f}", "voltage (V),current (A)").encode(), "no-time"),
    "two cells": (
        "\n".join(["time (s),cell A (V),cell B (V),current (A)", *(f"{k * 5},{4.1 - k / 900:.3f},{3.9 - k / 800:.3f},-1.0" for k in range(600))]).encode(),
        "several-columns",
    ),
    "a vehicle's pack": (csv_of(turned(RUN, lambda row: replace(row, voltage_v=row.voltage_v * 100))).encode(), "not-a-cell"),
    "times that jump about": (csv_of([replace(row, time_s=(at * 7919) % 4001) for at, row in enumerate(RUN)]).encode(), "bad-time"),
    "mostly junk": (("time (s),voltage (V),current (A)\n" + "".join(f"{k},3.7,-1\nnoise of the line\nmore of it\n" for k in range(40))).encode(), "no-rows"),
}  # fmt: skip


@pytest.mark.parametrize("name", REFUSED)
def test_what_cannot_be_read_for_certain_is_refused_with_a_reason(name: str) -> None:
    content, code = REFUSED[name]
    with pytest.raises(LogRefusedError) as refused:
        analyse_log(content)
    assert refused.value.code == code
    assert len(str(refused.value)) > 20


def test_an_answer_settles_what_was_refused() -> None:
    """A discharge through a resistor is read once somebody says the resistor."""
    log = csv_of(one_discharge(), "{t:.1f},{v:.4f}", "time (s),voltage (V)").encode()
    analysis = analyse_log(log, Answers(resistor_ohm=4.0))
    rows = one_discharge()
    expected = sum(row.voltage_v for row in rows) / 4.0 * 5 / 3.6
    assert analysis.tests[0].discharge_capacity_mah == pytest.approx(expected, rel=0.002)


def test_two_exports_pasted_together_are_two_tests() -> None:
    analysis: LogAnalysis = analyse_log((DISCHARGE + PLAIN).encode())
    first, second = analysis.tests
    assert first.discharge_capacity_mah == pytest.approx(true_discharge_mah(one_discharge()), rel=0.003)
    assert second.discharge_capacity_mah == pytest.approx(TRUE_MAH, rel=0.003)
    assert int(second.trace.line[0]) == DISCHARGE.count("\n") + 2


def test_exports_of_different_kinds_in_one_file_are_each_read_their_own_way() -> None:
    """Commas and seconds first, semicolons, decimal commas and minutes after; lines count through the whole file."""
    minutes = [replace(row, time_s=row.time_s / 60) for row in RUN]
    other = comma_decimals(csv_of(minutes, "{t:.4f};{im:.1f};{v:.4f}", "Zeit (min);Strom (mA);Spannung (V)"))
    analysis = analyse_log((DISCHARGE + other).encode())
    first, second = analysis.tests
    assert first.discharge_capacity_mah == pytest.approx(true_discharge_mah(one_discharge()), rel=0.003)
    assert second.discharge_capacity_mah == pytest.approx(TRUE_MAH, rel=0.003)
    assert int(second.trace.line[0]) == DISCHARGE.count("\n") + 2
    assert "several-exports" in {remark.code for remark in analysis.remarks}


def test_a_log_that_was_cut_short_is_kept_as_unfinished() -> None:
    analysis = analyse_log(DISCHARGE[: len(DISCHARGE) * 2 // 3].encode())
    assert not analysis.tests[0].discharge_complete
    assert {"truncated", "unfinished"} <= {remark.code for remark in analysis.remarks}
    assert analysis.tests[0].discharge_capacity_mah == pytest.approx(
        true_discharge_mah(one_discharge()) * 2 / 3, rel=0.02
    )


_SHORT = csv_of(RUN[::40]).encode()
_DIRT = st.sampled_from(
    [
        b"\x00",
        b",",
        b"\n",
        b"\xff\xfe",
        b'"',
        b"nan",
        b"inf",
        b"-",
        b"1e400",
        b";",
        b"\t",
        b" ",
        b"99999",
        b"\xc3",
        b"::",
        b".",
    ]
)


@settings(max_examples=150)
@given(
    st.lists(st.tuples(st.integers(0, len(_SHORT)), _DIRT, st.integers(0, 60)), max_size=8), st.integers(0, len(_SHORT))
)
def test_no_damage_leads_to_anything_but_numbers_or_a_reason(damage: list[tuple[int, bytes, int]], end: int) -> None:
    """Dirt thrown in, stretches cut out, the end cut off: the answer is finite, or a refusal in words."""
    content = _SHORT
    for at, dirt, lost in damage:
        content = content[:at] + dirt + content[at + lost :]
    try:
        tests = analyse_log(content[: end + 200]).tests
    except LogRefusedError:
        return
    figures = [test.discharge_capacity_mah for test in tests] + [test.capacity_allowance_pct for test in tests]
    assert all(figure is None or math.isfinite(figure) for figure in figures)


def test_columns_that_were_swapped_are_asked_about_with_the_roles_they_seem_to_have() -> None:
    found = analyse_log(csv_of(RUN, header="time (s),current (A),voltage (V)").encode())
    asked = next(remark for remark in found.remarks if remark.code == "swapped-columns")
    assert (asked.asks, asked.choices) == ("columns", ("time", "voltage", "current"))


def one_discharge_written(sign: int) -> str:
    return csv_of(turned(one_discharge(), lambda row: replace(row, current_a=sign * abs(row.current_a))))


@pytest.mark.parametrize("signs", [(1, -1), (-1, 1)])
def test_two_logs_pasted_together_with_other_signs_are_each_read_by_their_own_voltage(signs: tuple[int, int]) -> None:
    found = analyse_log("".join(one_discharge_written(sign) for sign in signs).encode())
    assert [step.kind for test in found.tests for step in test.steps if step.kind != "rest"] == ["discharge"] * 2
    assert "signs-differ" in [remark.code for remark in found.remarks]
