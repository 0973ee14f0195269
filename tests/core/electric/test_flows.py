"""Charging and joining, held against the same integrated in small steps."""

from __future__ import annotations

import pytest

from zembric.core.electric.charging import check_full_v, plan_charge
from zembric.core.electric.joining import join_cells
from zembric.core.errors import BadInputError
from zembric.core.house.limits import Family
from zembric.core.identify.families import ocv_table, open_circuit_v, state_of_charge

OXIDE, IRON = Family.LAYERED_OXIDE, Family.IRON_PHOSPHATE


def charged_in_steps(
    capacity_mah: float, current_ma: float, full_v: float, end_ma: float, soc: float, mohm: float, family: Family
) -> tuple[float, float]:
    """Minutes at the current, and at full voltage, a fifth of a second at a time."""
    hours, cc_hours, step_h = 0.0, None, 0.2 / 3600
    while soc < 1:
        held_ma = 1e6 * (full_v - open_circuit_v(family, soc)) / mohm
        if held_ma < current_ma and cc_hours is None:
            cc_hours = hours
        now_ma = min(held_ma, current_ma)
        if now_ma <= end_ma:
            break
        soc, hours = soc + now_ma * step_h / capacity_mah, hours + step_h
    cc_hours = hours if cc_hours is None else cc_hours
    return 60 * cc_hours, 60 * (hours - cc_hours)


@pytest.mark.parametrize(
    ("capacity_mah", "current_ma", "full_v", "end_ma", "soc", "mohm", "family"),
    [
        (2600, 1300, 4.2, 130, 0.1, 60, OXIDE),
        (2600, 1300, 4.2, 130, 0.1, 200, OXIDE),
        (2600, 500, 4.1, 50, 0.5, 60, OXIDE),
        (1500, 750, 4.2, 75, 0.96, 150, OXIDE),
        (1100, 550, 3.6, 55, 0.2, 80, IRON),
    ],
)
def test_a_charge_takes_as_long_as_in_small_steps(
    capacity_mah: float, current_ma: float, full_v: float, end_ma: float, soc: float, mohm: float, family: Family
) -> None:
    plan = plan_charge(capacity_mah, current_ma, full_v, end_ma, soc, mohm, family)
    cc_minutes, cv_minutes = charged_in_steps(capacity_mah, current_ma, full_v, end_ma, soc, mohm, family)
    assert plan.cc_minutes == pytest.approx(cc_minutes, rel=0.002, abs=0.05)
    assert plan.cv_minutes == pytest.approx(cv_minutes, rel=0.01, abs=0.1)
    assert plan.minutes == plan.cc_minutes + plan.cv_minutes


def test_its_points_begin_where_it_stands_and_end_at_the_end_current() -> None:
    plan = plan_charge(2600, 1300, 4.2, 300, 0.1, 60, OXIDE)
    first, last = plan.points[0], plan.points[-1]
    assert (first[0], first[1], first[3]) == (0, 0.1, 1300)
    assert first[2] == pytest.approx(open_circuit_v(OXIDE, 0.1) + 1.3 * 0.06)
    assert last[0] == pytest.approx(plan.minutes)
    assert last[2:] == pytest.approx((4.2, 300))
    assert all(a[0] <= b[0] and a[1] <= b[1] and a[2] <= b[2] + 1e-9 and a[3] >= b[3] for a, b in zip(plan.points, plan.points[1:], strict=False))  # fmt: skip
    held = [point for point in plan.points if point[0] <= plan.cc_minutes + 1e-9]
    assert len(held) == 41
    assert {point[3] for point in held} == {1300}


def test_where_it_would_pass_full_at_once_it_is_held_from_the_beginning() -> None:
    plan = plan_charge(2600, 2600, 4.2, 130, 0.9, 200, OXIDE)
    assert plan.cc_minutes == 0
    assert plan.points[0][0] == 0
    assert plan.cv_minutes == pytest.approx(charged_in_steps(2600, 2600, 4.2, 130, 0.9, 200, OXIDE)[1], rel=0.01)


@pytest.mark.parametrize(
    ("family", "most_v"),
    [(OXIDE, 4.25), (IRON, 3.70), (Family.TITANATE, 2.85), (Family.HIGH_VOLTAGE_COBALT, 4.50)],
)
def test_a_family_bears_so_much_and_no_more(family: Family, most_v: float) -> None:
    check_full_v(family, most_v)
    with pytest.raises(BadInputError, match=f"{most_v:.2f}") as refused:
        check_full_v(family, most_v + 0.01)
    assert refused.value.field == "full_v"


def test_a_primary_cell_bears_no_charge() -> None:
    with pytest.raises(BadInputError, match="never") as refused:
        check_full_v(Family.PRIMARY, 3.0)
    assert refused.value.field == "family"


def joined_in_steps(ua_v: float, ub_v: float, ohm: float, qa_mah: float, qb_mah: float, within_v: float) -> float:
    """Minutes until the cells are near enough, half a second at a time."""
    a, b, hours, step_h = state_of_charge(OXIDE, ua_v), state_of_charge(OXIDE, ub_v), 0.0, 0.5 / 3600
    while (apart_v := open_circuit_v(OXIDE, a) - open_circuit_v(OXIDE, b)) > within_v:
        moved_mah = 1000 * apart_v / ohm * step_h
        a, b, hours = a - moved_mah / qa_mah, b + moved_mah / qb_mah, hours + step_h
    return 60 * hours


@pytest.mark.parametrize(
    ("ua_v", "ub_v", "ra_mohm", "rb_mohm", "r_ohm", "qa_mah", "qb_mah"),
    [(4.1, 3.6, 60, 80, 1.0, 2600, 2600), (4.0, 3.9, 40, 40, 0.0, 2000, 1000), (3.9, 3.3, 100, 50, 4.7, 1500, 2500)],
)
def test_two_cells_come_together_as_in_small_steps(
    ua_v: float, ub_v: float, ra_mohm: float, rb_mohm: float, r_ohm: float, qa_mah: float, qb_mah: float
) -> None:
    joined = join_cells(ua_v, ub_v, ra_mohm, rb_mohm, r_ohm, qa_mah, qb_mah, OXIDE, 0.05)
    ohm = (ra_mohm + rb_mohm) / 1000 + r_ohm
    assert joined.peak_a == pytest.approx((ua_v - ub_v) / ohm)
    assert joined.resistor_w == pytest.approx(joined.peak_a**2 * r_ohm)
    assert joined.minutes == pytest.approx(joined_in_steps(ua_v, ub_v, ohm, qa_mah, qb_mah, 0.05), rel=0.005, abs=0.02)
    charge = (state_of_charge(OXIDE, ua_v) * qa_mah + state_of_charge(OXIDE, ub_v) * qb_mah) / (qa_mah + qb_mah)
    assert joined.common_v == pytest.approx(open_circuit_v(OXIDE, charge))


def test_the_points_of_two_cells_begin_where_they_stand_and_end_near_enough() -> None:
    joined = join_cells(4.1, 3.6, 60, 80, 1.0, 2600, 2000, OXIDE, 0.05)
    assert joined.points[0] == (0.0, 4.1, 3.6)
    minutes, a_v, b_v = joined.points[-1]
    assert minutes == joined.minutes
    assert abs(a_v - b_v - 0.05) < 1e-6
    assert all(p[0] < q[0] and p[1] >= q[1] and p[2] <= q[2] for p, q in zip(joined.points, joined.points[1:], strict=False))  # fmt: skip
    assert len(joined.points) > 40


def test_cells_that_are_near_enough_need_no_time() -> None:
    joined = join_cells(3.82, 3.8, 60, 60, 1.0, 2600, 2600, OXIDE, 0.05)
    assert (joined.minutes, joined.points) == (0, ((0.0, 3.82, 3.8),))


@pytest.mark.parametrize(
    ("ua_v", "ub_v", "field", "words"),
    [(4.4, 3.6, "ua_v", "4.4"), (4.0, 2.2, "ub_v", "2.2"), (3.6, 3.8, "ua_v", "3.6")],
)
def test_what_cannot_be_joined_names_the_value(ua_v: float, ub_v: float, field: str, words: str) -> None:
    with pytest.raises(BadInputError, match=words) as refused:
        join_cells(ua_v, ub_v, 60, 60, 1.0, 2600, 2600, OXIDE, 0.05)
    assert refused.value.field == field


def test_the_ends_of_the_table_belong_to_it() -> None:
    _, volts = ocv_table(OXIDE)
    assert join_cells(volts[-1], volts[0], 60, 60, 1.0, 2600, 2600, OXIDE, 0.05).minutes > 0
