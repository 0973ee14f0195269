"""The bench sums against values worked out by hand."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zembric.core.errors import BadInputError, NotFoundError, ZembricError
from zembric.core.sums.all import ALL_SUMS, work_out
from zembric.core.sums.things import THINGS
from zembric.wording import say

WORKED: dict[str, tuple[str, dict[str, object]]] = {
    # 4.2 / 7.8 = 0.53846 A; 0.53846^2 x 6.8 = 1.9716 W; twice that to buy.
    "load-resistor u_v=4.2 r_load_ohm=6.8 r_shunt_ohm=1": ("rating_w", {"current_a": 0.53846, "power_load_w": 1.97160, "power_shunt_w": 0.28994, "rating_w": 3.94320}),
    # 4.7 x 0.12 / 3.80 = 148.4 mOhm; meter: 10 mV/sqrt(12) = 2.887 mV through 4.7/3.8 and 4.7 x 3.92/3.8^2: 5.128;
    # resistor: 5 % / sqrt(3) of 148.4 = 4.285; together 6.683.
    "two-voltage u_rest_v=3.92 u_load_v=3.80 r_load_ohm=4.7 resolution_v=0.01": ("mohm", {"mohm": 148.421, "uncertainty_mohm": 6.6837}),
    # 70 mV / 1.5 A; 1 mV / sqrt(12) x sqrt(2) / 1.5 A = 0.272 mOhm.
    "two-current u1_v=3.85 i1_a=0.5 u2_v=3.78 i2_a=2 resolution_v=0.001": ("mohm", {"mohm": 46.6667, "uncertainty_mohm": 0.27217}),
    "usb-linear meter_mah=2450 module_draw_ma=4 hours=3.5 mean_v=3.8": ("capacity_mah", {"capacity_mah": 2436.0, "energy_mwh": 9256.8}),
    "usb-switching meter_mwh=10500 efficiency=0.88 mean_v=3.8": ("capacity_mah", {"capacity_mah": 2431.58}),
    "usb-step-up meter_mwh=7200 efficiency=0.87 mean_v=3.7": ("capacity_mah", {"capacity_mah": 2236.72}),
    "program-resistor k_v=1200 r1_ohm=1200 u_in_v=5 u_cell_v=3": ("chip_heat_w", {"current_ma": 1000.0, "end_current_ma": 100.0, "chip_heat_w": 2.0}),
    "program-resistor k_v=1000 r1_ohm=2000 r2_ohm=2000 u_in_v=5 u_cell_v=4": ("current_ma", {"current_ma": 1000.0}),
    # Without resistance there is no constant voltage: 1920 mAh at 1 A are 115.2 min. 1 mOhm makes next to nothing of it.
    "charge-time capacity_mah=2400 current_ma=1000 full_v=4.2 end_ma=100 start_soc=0.2 mohm=1 family=layered-oxide": ("minutes", {"minutes": 115.2, "cc_minutes": 115.2, "cv_minutes": 0.0}),
    # The table reaches 4.14 V (full less 1 A x 60 mOhm) at 0.9 + 0.1 x 0.06/0.11 = 0.9545 of 2400 mAh: 108.65 min.
    "charge-time capacity_mah=2400 current_ma=1000 full_v=4.2 end_ma=100 start_v=3.55 mohm=60 family=layered-oxide": ("cc_minutes", {"cc_minutes": 108.6545}),
    # 0.3 V / 10.1 Ohm; between 0.7 and 0.6 of the table 0.1 V are 0.1 of 2.4 Ah: 8640 F each, in series 4320 F, tau 12.1 h.
    "join ua_v=3.9 ub_v=3.84 ra_mohm=50 rb_mohm=50 r_ohm=10 qa_mah=2400 qb_mah=2400 family=layered-oxide within_v=0.02": (
        "minutes", {"peak_a": 0.06 / 10.1, "minutes": 4320 * 10.1 / 60 * math.log(3), "common_v": 3.87, "resistor_w": (0.06 / 10.1) ** 2 * 10},
    ),
    # Day 0 lies within the relaxation; two readings are left: 5 mV in 7 days.
    "self-discharge days=0,7,14 volts=4.18,4.175,4.17 resolution_v=0.001 full_v=4.2 family=layered-oxide capacity_mah=2400": (
        "verdict", {"mv_per_day": 0.714286, "error_mv_per_day": 1e3 * 0.001 / math.sqrt(12) * math.sqrt(2) / 7, "pct_per_month": 0.714286 * 30 / 1100 * 100, "verdict": "fine"},
    ),
    "self-discharge days=2,9,16 volts=4.15,4.10,4.05 resolution_v=0.001 full_v=4.2 family=layered-oxide capacity_mah=2400": ("verdict", {"mv_per_day": 7.142857, "verdict": "leaking"}),
    "self-discharge days=2,2.5 volts=4.15,4.149 resolution_v=0.01 full_v=4.2 family=layered-oxide capacity_mah=2400": ("verdict", {"mv_per_day": 2.0, "verdict": "too early"}),
    "slope-wait resolution_v=0.01 limit_mv_per_day=2": ("days", {"days": 15.0}),
    "run-time capacity_mah=4800 mean_v=3.6 load=power value=5 efficiency=0.9": ("hours", {"hours": 3.1104}),
    "run-time capacity_mah=4800 mean_v=3.6 load=current value=1.2": ("hours", {"hours": 4.0}),
    "run-time capacity_mah=4800 mean_v=3.6 load=resistor value=7.2": ("hours", {"hours": 9.6}),
    # AWG 20: 0.8118 mm, 0.5176 mm2.
    "wire awg=20 length_m=0.5 current_a=2": ("mohm", {"mohm": 16.6145, "drop_v": 0.033229, "heat_w": 0.066458}),
    "strip material=nickel thickness_mm=0.15 width_mm=8 length_mm=1000 current_a=5": ("mohm", {"mohm": 58.25}),
    "compare-testers a=2100,905,1480 b=2080,890,1455": ("significant", {"difference_pct": -1.44394, "error_pct": 0.24368, "significant": True}),
    "below value=1490 limit=1485 uncertainty=25": ("sure", {"probability": 0.42074, "sure": "borderline"}),
    "below value=1490 limit=1490 uncertainty=0": ("probability", {"probability": 0.5, "sure": "borderline"}),
    # 1 A into 550 mAh are 1.82 C, and 100 mA at its end 0.18 C; 0.5 C are 275 mA.
    "small-cell k_v=1200 r1_ohm=1200 capacity_mah=550": ("suits", {"suits": False, "charge_c": 1.8182, "end_c": 0.18182, "wanted_ohm": 4363.64}),
    "small-cell k_v=1000 r1_ohm=4000 capacity_mah=550": ("suits", {"suits": True, "current_ma": 250.0}),
    "end-current-trap k_v=1200 r1_ohm=1200 load_ma=100": ("never_ends", {"end_current_ma": 100.0, "never_ends": True}),
}  # fmt: skip


def typed(words: str) -> tuple[str, dict[str, str]]:
    name, *pairs = words.split()
    return name, dict(pair.split("=", 1) for pair in pairs)


@pytest.mark.parametrize("words", WORKED)
def test_a_sum_gives_what_was_worked_out_by_hand(words: str) -> None:
    outputs = work_out(*typed(words)).outputs
    for key, expected in WORKED[words][1].items():
        wanted = pytest.approx(expected, rel=1e-4, abs=1e-3) if isinstance(expected, float) else expected
        assert outputs[key] == wanted, key


def test_every_sum_answers_with_just_the_outputs_it_names() -> None:
    for words in WORKED:
        name, values = typed(words)
        assert set(work_out(name, values).outputs) == {out.key for out in ALL_SUMS[name].outputs}
    assert {typed(words)[0] for words in WORKED} == set(ALL_SUMS)


@pytest.mark.parametrize(
    ("words", "worked"),
    [
        ("slope-wait resolution_v=0.001 limit_mv_per_day=5", "3 × 1\u00a0mV / 5\u00a0mV a day = 0.6 days"),
        ("run-time capacity_mah=4800 mean_v=3.6 load=current value=1.2", "4.8 Ah / 1.2 A = 4.00 h"),
    ],
)
def test_what_is_worked_is_true_as_it_stands(words: str, worked: str) -> None:
    assert say(work_out(*typed(words)).worked) == worked


def test_every_sum_is_found_from_a_thing_on_the_bench() -> None:
    assert {name for thing in THINGS for name in thing.sums} == set(ALL_SUMS)


def test_a_rise_is_told_as_none() -> None:
    words = (
        "self-discharge days=2,9 volts=4.10,4.15 resolution_v=0.001 full_v=4.2 family=layered-oxide capacity_mah=2400"
    )
    assert "It rises" in say(work_out(*typed(words)).cautions[0])


REFUSED = {
    "unknown key": ("wire awg=20 length_m=1 current_a=1 colour=red", "colour"),
    "missing key": ("wire awg=20 length_m=1", "current_a"),
    "not finite": ("wire awg=20 length_m=inf current_a=1", "length_m"),
    "no number": ("wire awg=twenty length_m=1 current_a=1", "awg"),
    "zero": ("load-resistor u_v=0 r_load_ohm=6.8 r_shunt_ohm=0", "u_v"),
    "negative": ("slope-wait resolution_v=-0.01 limit_mv_per_day=2", "resolution_v"),
    "efficiency above one": ("usb-switching meter_mwh=1 efficiency=1.01 mean_v=3.8", "efficiency"),
    "efficiency of nothing": ("usb-step-up meter_mwh=1 efficiency=0 mean_v=3.8", "efficiency"),
    "not loaded": ("two-voltage u_rest_v=3.8 u_load_v=3.8 r_load_ohm=4.7 resolution_v=0.01", "u_load_v"),
    "larger current, higher voltage": ("two-current u1_v=3.7 i1_a=0.5 u2_v=3.8 i2_a=2 resolution_v=0.01", "u2_v"),
    "supply below the cell": ("program-resistor k_v=1200 r1_ohm=1200 u_in_v=3 u_cell_v=4", "u_in_v"),
    "all drawn by the module": ("usb-linear meter_mah=10 module_draw_ma=5 hours=4 mean_v=3.8", "module_draw_ma"),
    "charged too high": ("charge-time capacity_mah=1 current_ma=1 full_v=4.26 end_ma=1 start_soc=0 mohm=1 family=layered-oxide", "full_v"),
    "primary": ("charge-time capacity_mah=1 current_ma=1 full_v=3 end_ma=1 start_soc=0 mohm=1 family=primary", "family"),
    "no table": ("charge-time capacity_mah=1 current_ma=1 full_v=2.7 end_ma=1 start_soc=0 mohm=1 family=titanate", "family"),
    "no start": ("charge-time capacity_mah=1 current_ma=1 full_v=4.2 end_ma=1 mohm=1 family=layered-oxide", "start_soc"),
    "lower one first": ("join ua_v=3.8 ub_v=3.9 ra_mohm=50 rb_mohm=50 r_ohm=0 qa_mah=1 qb_mah=1 family=layered-oxide within_v=0.1", "ua_v"),
    "outside the table": ("join ua_v=4.5 ub_v=3.9 ra_mohm=50 rb_mohm=50 r_ohm=0 qa_mah=1 qb_mah=1 family=layered-oxide within_v=0.1", "ua_v"),
    "two cells only": ("compare-testers a=1,2 b=1,2", "a"),
    "one value short": ("compare-testers a=1,2,3 b=1,2", "b"),
    "days and volts apart": ("self-discharge days=1,2 volts=4.1 resolution_v=0.01 full_v=4.2 family=layered-oxide capacity_mah=1", "volts"),
    "power without a converter": ("run-time capacity_mah=1 mean_v=3.6 load=power value=1", "efficiency"),
}  # fmt: skip


@pytest.mark.parametrize("name", REFUSED)
def test_a_value_that_cannot_be_is_refused_by_its_name(name: str) -> None:
    words, field = REFUSED[name]
    with pytest.raises(BadInputError) as refused:
        work_out(*typed(words))
    assert refused.value.field == field


def test_an_unknown_sum_offers_the_near_one() -> None:
    with pytest.raises(NotFoundError, match="two-voltage"):
        work_out("two-voltages", {})


@given(st.sampled_from(sorted(WORKED)), st.data())
def test_no_value_leads_to_anything_but_a_number_or_a_reason(words: str, data: st.DataObject) -> None:
    """Whatever is put into one input, the sum answers with finite numbers or refuses in words."""
    name, values = typed(words)
    key = data.draw(st.sampled_from(sorted(values)))
    extreme = st.sampled_from(["0", "-1", "1e300", "1e-300", "nan", "", "1,5", "٣", "1;2;3", "0.5"])
    values[key] = data.draw(extreme | st.floats(1e-6, 1e6).map(repr))
    try:
        outputs = work_out(name, values).outputs
    except ZembricError:
        return
    assert all(not isinstance(value, float) or math.isfinite(value) for value in outputs.values())


CHARGE = "charge-time capacity_mah=2400 full_v=4.2 end_ma=100 mohm=60 family=layered-oxide"
RED: dict[str, set[str]] = {
    f"{CHARGE} current_ma=2400 start_soc=0.2": set(),
    f"{CHARGE} current_ma=2500 start_soc=0.2": {"charge-rate"},
    f"{CHARGE} current_ma=1000 start_v=2.8": {"starts-slowly"},
    f"{CHARGE} current_ma=240 start_v=2.8": set(),
    f"{CHARGE} current_ma=100 start_v=1.9": {"too-low-to-charge"},
    "join ua_v=4.1 ub_v=3.3 ra_mohm=50 rb_mohm=50 r_ohm=0 qa_mah=2400 qb_mah=2400 family=layered-oxide within_v=0.02": {"joining-current"},
    "join ua_v=3.9 ub_v=3.84 ra_mohm=50 rb_mohm=50 r_ohm=10 qa_mah=2400 qb_mah=2400 family=layered-oxide within_v=0.02": set(),
    "wire awg=24 length_m=0.5 current_a=1": set(),
    "wire awg=24 length_m=0.5 current_a=20": {"current"},
    "strip material=nickel thickness_mm=0.15 width_mm=8 length_mm=20 current_a=4": set(),
    "strip material=nickel thickness_mm=0.15 width_mm=8 length_mm=20 current_a=15": {"current"},
    "strip material=copper thickness_mm=0.1 width_mm=8 length_mm=20 current_a=60": {"current"},
}  # fmt: skip


@pytest.mark.parametrize("words", RED)
def test_what_a_cell_or_a_conductor_does_not_stand_is_red_with_its_limit(words: str) -> None:
    warnings = work_out(*typed(words)).warnings
    assert {line.code for line in warnings} == RED[words]
    assert all(line.value != line.limit for line in warnings)
