"""What goes with a pack: its table of voltages, and a card in plain words."""

from __future__ import annotations

import pytest

from tests.core.pack.test_checks import Changes, pack_of
from zembric.core.pack.cards import VisitorCard, visitor_card
from zembric.core.pack.charge_left import charge_left
from zembric.core.pack.checks import check_all
from zembric.wording import say


def card(changes: Changes) -> VisitorCard:
    checked = pack_of(changes)
    return visitor_card("P101", "gate counter", checked, check_all(checked))


def told(card: VisitorCard) -> str:
    lines = (*card.what, *card.charging, *card.never, *card.bring_back, *card.when_hot)
    return " ".join(say(line) for line in lines).replace("\u00a0", " ")


def test_what_a_voltage_says_of_the_energy_that_is_left() -> None:
    """Two full cells in a row at 8.38 V through 40 mOhm at 1 A; at half of the energy they stand near 7.46 V."""
    checked = pack_of({})
    assert checked.runs is not None
    table = charge_left(checked.runs.paper)
    assert [each.left_pct for each in table] == [100, 75, 50, 25, 10]
    assert (table[0].loaded_v, table[0].resting_v) == pytest.approx((8.33, 8.38), abs=0.02)
    assert table[2].resting_v == pytest.approx(7.5, abs=0.06)
    assert all(each.resting_v - each.loaded_v == pytest.approx(0.0506, abs=0.002) for each in table)
    assert sorted((each.loaded_v for each in table), reverse=True) == [each.loaded_v for each in table]


def test_a_card_says_how_long_it_runs_and_from_when_on_it_is_brought_back() -> None:
    """4000 mAh at 1 A: in nine of ten cases 3.9 h or more; half of that, rounded up, brings it back."""
    words = told(card({}))
    assert "Full, it runs 3.9 h at least." in words
    assert "When it runs less than 1.9 h." in words
    assert "it ends at 8.40 V and gives 2000 mA" in words
    assert "Never below 0 °C" in words


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"charger": None}, "The house charges it."),
        ({"charger": {"while_used": "no"}}, "Switch it off while it charges."),
        # 4000 mAh / 10 mA = 400 h: at half of it, after one week.
        ({"device": {"standing_ma": "10"}}, "charge it every week."),
        ({"device": {"standing_ma": ""}}, "charge it every 26 weeks."),
    ],
)
def test_a_card_follows_the_plan(changes: Changes, words: str) -> None:
    assert words in told(card(changes))


def test_a_pack_that_could_not_be_run_has_a_card_without_hours() -> None:
    found = card({"device": None})
    assert found.left == ()
    assert "Full, it runs" not in told(found)
