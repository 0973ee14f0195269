"""A pack that comes back: what it looks like and what its groups say; and how true promises were."""

from __future__ import annotations

import pytest

from zembric.core.house.rules import USUAL_RULES
from zembric.core.pack.outside import KeptPromise, ReturnedPack, how_true, look_at_return


def found(*seen: str, volts: tuple[float, ...] = ()) -> list[tuple[str, bool, int | None]]:
    pack = ReturnedPack(seen, volts, "layered-oxide")
    return [(each.said.code, each.is_danger, each.group) for each in look_at_return(pack)]


@pytest.mark.parametrize(
    ("volts", "code", "group"),
    [
        ((3.70, 3.75, 3.72), "back-even", None), ((3.70, 3.76, 3.75), "back-odd-low", 1), ((3.70, 3.71, 3.77), "back-odd-high", 3),
        ((3.70, 3.60), "back-odd-low", 2), ((3.70, 2.0, 3.70), "back-odd-low", 2), ((3.70, 1.99, 3.70), "back-ruined", 2),
    ],
)  # fmt: skip
def test_the_odd_group_is_named(volts: tuple[float, ...], code: str, group: int | None) -> None:
    assert found(volts=volts) == [(code, False, group)]


def test_what_is_dangerous_comes_first_and_a_blow_is_opened_before_anything_flows() -> None:
    assert found("fell", "swollen", volts=(3.7, 3.7))[:2] == [("back-danger", True, None), ("back-open", False, None)]
    assert found(volts=(4.25, 4.20)) == [("back-even", False, None)]
    assert found(volts=(4.26, 4.20)) == [("back-overfull", True, 1)]
    assert found() == [("back-nothing", False, None)]


def told(*shares: float) -> list[KeptPromise]:
    return [KeptPromise(f"P{at}", 10.0, 10.0 * share) for at, share in enumerate(shares)]


@pytest.mark.parametrize(
    ("shares", "is_off", "times"),
    [
        ((0.5, 0.5), False, 0.5),
        ((0.91, 0.91, 0.91), False, 0.91),
        ((0.89, 0.95, 0.7), True, 0.89),
        ((1.3, 1.4, 1.2), False, 1.0),
    ],
)
def test_cards_are_offered_to_say_less_where_enough_packs_run_shorter(
    shares: tuple[float, ...], is_off: bool, times: float
) -> None:
    """At least three were told of, and more than a tenth off; no card says more than was worked out."""
    answer = how_true(told(*shares), USUAL_RULES)
    assert answer is not None
    assert (answer.is_off, answer.times) == (is_off, times)


def test_where_nobody_told_of_any_nothing_is_said() -> None:
    assert how_true([], USUAL_RULES) is None
