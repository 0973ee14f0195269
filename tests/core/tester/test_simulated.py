"""The made-up slot behaves as a bench does: charge goes in and comes out, contacts differ, and what no tester may do is counted."""

from __future__ import annotations

from random import Random
from typing import Any

import pytest

from zembric.core.tester.simulated import CellInSlot, SimulatedSlot


def slot(charge: float = 0.5, **more: Any) -> SimulatedSlot:
    made = SimulatedSlot(Random(1), **more)
    made.put_in(CellInSlot(2000, 60, charge))
    return made


def test_what_goes_in_comes_out() -> None:
    one = slot(0.2)
    one.order("charge", 1.0, 4.2, 0.05)
    one.advance(4 * 3600)
    assert one.cell is not None
    full = one.cell.state_of_charge
    assert full == pytest.approx(1, abs=0.03)
    one.order("discharge", 1.0, 3.0)
    took_s = 0.0
    while one.mode == "discharge":
        one.advance(10)
        took_s += 10
    assert took_s / 3.6 == pytest.approx(2000 * full, rel=0.02)


def test_it_ends_by_itself_at_its_limits_and_after_its_time() -> None:
    one = slot()
    one.order("discharge", 1.0, 3.0, seconds=10)
    one.advance(30)
    assert (one.mode, one.flows_a) == ("off", 0.0)


def test_under_load_it_reads_lower_and_climbs_afterwards() -> None:
    one = slot(noise_v=0.0)
    resting = one.shows_v
    one.order("discharge", 1.0, 3.0)
    one.advance(60)
    loaded = one.shows_v
    one.order("off")
    one.advance(1)
    soon = one.shows_v
    one.advance(300)
    assert loaded < soon < one.shows_v < resting + 0.005


def test_each_insertion_has_a_contact_of_its_own() -> None:
    one = slot()
    contacts = set()
    for _ in range(5):
        one.put_in(CellInSlot(2000, 60, 0.5))
        contacts.add(one.contact_mohm)
    assert len(contacts) == 5


@pytest.mark.parametrize(("fault", "reads"), [("contact", (0, 0.1)), ("reversed", (-4.3, -3)), ("dead", (0, 0.1))])
def test_what_goes_wrong_is_read(fault: str, reads: tuple[float, float]) -> None:
    one = slot()
    one.fault = fault  # type: ignore[assignment]
    one.advance(1)
    assert reads[0] <= one.shows_v <= reads[1]


def test_a_hot_cell_warms_and_a_sound_one_hardly_does() -> None:
    sound, hot = slot(), slot()
    hot.fault = "hot"
    for one in (sound, hot):
        one.order("charge", 1.0, 4.2, 0.05)
        one.advance(1200)
    assert sound.cell is not None
    assert hot.cell is not None
    assert sound.cell.degc < 23
    assert hot.cell.degc > 40


@pytest.mark.parametrize(
    ("charge", "order", "counted"),
    [
        (0.5, ("charge", 1.0, 4.4), "charge-voltage"),
        (-0.05, ("charge", 0.1, 4.2), "charged-too-low"),
        (0.5, ("charge", 4.0, 4.2), "charge-current"),
    ],
)
def test_what_no_tester_may_do_is_counted(charge: float, order: tuple[str, float, float], counted: str) -> None:
    one = slot(charge)
    one.order(*order)  # type: ignore[arg-type]
    assert [*one.violations] == [counted]
