"""What a match is refused with, word for word, at which field, and what would help."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import pytest

from tests.core.match.test_match import cells_of
from tests.core.match.test_needs import CYLINDERS, DEVICE, FLAT, PHOSPHATE, only
from tests.core.match.test_plans import ANY, cell
from tests.support.stories import RULES
from zembric.core.errors import ZembricError
from zembric.core.house.limits import Family
from zembric.core.match import Conditions, Holds, Job, MatchCell, OutOfReachError, make_plan, match
from zembric.core.match.conditions import milder_conditions
from zembric.core.match.needs import Need, behind_converter, propose_designs
from zembric.wording import say


def plain(text: str) -> str:
    return text.replace("\u00a0", " ")


FOUR = cells_of([2000] * 4)
OF_ONE_DONOR = {each.key: "D1" for each in FOUR[:3]}
GRADED = [
    *(cell(number, 2000) for number in range(3)),
    cell(3, 1500, grade="C"),
    *(cell(number, 2000, is_estimated=True) for number in range(4, 14)),
]


def kinds(models: str, **asked: object) -> Callable[[], object]:
    cells = [cell(number, 2000, model=model) for number, model in enumerate(models)]
    return lambda: make_plan(cells, Job(2, len(models) // 2 if len(models) < 7 else 2, Conditions(**asked)))  # type: ignore[arg-type]


def behind(
    least_v: float, most_v: float, converter: str, out_v: float = 5.0, load: float = 5.0
) -> Callable[[], object]:
    need = Need(least_v, most_v, "power", load, 1)
    return lambda: behind_converter(need, converter, out_v, RULES, input_known=True)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("asked", "field", "words"),
    [
        (lambda: match(FOUR, 101, 2), "series", "101S2P cannot be matched: 1 to 100 groups of 1 to 40 cells can."),
        (lambda: match(FOUR, 2, 41), "parallel", "2S41P cannot be matched: 1 to 100 groups of 1 to 40 cells can."),
        (lambda: match(cells_of([2000, float("nan")]), 1, 1), "capacity_mah", "C0001 has no capacity"),
        (lambda: match([MatchCell("a", 2000, 0.0)], 1, 1), "ir_mohm", "Cell a has a resistance of 0; leave it out"),
        (lambda: match([MatchCell("a", 2000)] * 2, 1, 1), "cell_id", "a is there twice"),
        (lambda: match(FOUR, 2, 2, target_mah=-1), "target_mah", "A target of -1 mAh"),
        (lambda: match(FOUR, 2, 2, give_pct=100), "give_pct", "may give up lies between 0 and 100 %"),
        (lambda: match(FOUR, 2, 2, holds=Holds({"X": 1})), "pins", "X is pinned to group 1, but"),
        (lambda: match(FOUR, 2, 2, holds=Holds({"C0000": 3})), "pins", "C0000 is pinned to group 3; there are 2"),
        (lambda: match(FOUR, 2, 2, holds=Holds({"C0000": 0})), "pins", "C0000 is pinned to group 0; there are 2"),
        (
            lambda: match(FOUR, 2, 2, holds=Holds(donors=OF_ONE_DONOR)),
            None,
            "Let donors share a group, or unpin cells.",
        ),
        (kinds("abcabc"), None, "6 may take part, but not 2 groups of one kind each can be made of them"),
        (kinds("ababab", pins={"C000": 1, "C001": 1}), "pins", "different kinds are pinned to group 1"),
        (kinds("abbbbbb", pins={"C000": 1}), None, "Too few cells of the kinds that are pinned"),
        (kinds("aaaa", pins={"C9": 2}), "pins", "C9 (not here any more)"),
        (behind(5, 9, "step-up"), "least_v", "its input has to begin below 5.00 V"),
        (behind(3, 5, "step-down"), "most_v", "its input has to reach above 5.00 V"),
        (behind(3, 9, "step-up", out_v=-5), "out_v", "A number above zero is needed here."),
        (behind(3, 9, "step-up", load=0), "load", "A number above zero is needed here."),
        (lambda: only(replace(DEVICE, most_v=4)), "most_v", "runs from 5.00 V to more"),
        (lambda: only(Need(65, 90, "power", 5, 1)), None, "starts at 65.00 V wants a pack above 60 V"),
        (lambda: only(replace(DEVICE, device="e-bike")), "device", "E-bike"),
    ],
)
def test_what_cannot_be_is_refused_at_its_field_and_says_what_would_be_right(
    asked: Callable[[], object], field: str | None, words: str
) -> None:
    with pytest.raises(ZembricError) as refused:
        asked()
    assert refused.value.field == field
    assert words in plain(str(refused.value))


def test_too_few_cells_name_those_left_out_as_long_as_they_are_few_and_what_would_help() -> None:
    with pytest.raises(ZembricError) as refused:
        make_plan(GRADED, Job(2, 2, Conditions(one_kind="size")))
    assert plain(str(refused.value)) == (
        "4 cells are needed and 3 may take part; 1 is missing. "
        "Left out: 10 capacity only estimated, or measured under other conditions and 1 grade too low (C003)."
    )
    assert [(code, say(way)) for code, way in refused.value.ways] == [
        ("grade:C", "With cells of grade Gentle too: possible."),
        ("estimated", "With cells whose capacity is only estimated: possible."),
    ]


def test_where_no_single_rule_is_enough_all_of_them_together_are_offered() -> None:
    cells = [cell(0, 2000), cell(1, 1500, grade="C"), cell(2, 2000, is_estimated=True), cell(3, 2000, model="two")]
    with pytest.raises(ZembricError) as refused:
        make_plan(cells, Job(2, 2, Conditions()))
    assert [(code, plain(say(way))) for code, way in refused.value.ways] == [
        ("grade:C", "With cells of grade Gentle too: still 1 missing."),
        ("estimated", "With cells whose capacity is only estimated: still 1 missing."),
        ("all", "With all of this together: possible."),
    ]


@pytest.mark.parametrize(
    ("reachable", "bound", "words"),
    [
        (1049.0, 1049.0, "the weakest group reaches 1049 mAh, and no grouping of these cells reaches more."),
        (1049.0, 1060.0, "the weakest group reaches 1049 mAh, and no grouping can reach more than 1060 mAh."),
    ],
)
def test_a_target_out_of_reach_says_whether_more_can_be_found(reachable: float, bound: float, words: str) -> None:
    error = OutOfReachError(1080, reachable, bound)
    assert plain(str(error)).startswith("Groups of 1080 mAh are out of reach: " + words)
    assert (error.reachable_mah, error.bound_mah) == (reachable, bound)


def test_every_rule_that_may_be_milder_is_offered_the_mildest_first() -> None:
    asked = Conditions("A", "model", "apart", "strict", joined_as_they_lie=True, banned=frozenset({"C1"}), load_a=2.0)
    ways = milder_conditions(asked, 2)
    assert [(code, plain(say(words))) for code, words, _, _ in ways] == [
        ("voltage", "Brought to one voltage before joining"),
        ("banned", "With the cells left out by hand"),
        ("donors", "With several cells of one donor in a group"),
        ("tolerance:usual", "With the tolerance usual"),
        ("tolerance:relaxed", "With the tolerance relaxed"),
        ("tolerance:none", "Without a tolerance"),
        ("grade:B", "With cells of grade Fair too"),
        ("grade:C", "With cells of grade Gentle too"),
        ("estimated", "With cells whose capacity is only estimated"),
        ("parallel:3", "With 3 in parallel instead of 2, so that each carries less"),
        ("models", "With different models in one group"),
    ]
    lifted = {code: (milder, parallel) for code, _, milder, parallel in ways}
    assert lifted["voltage"] == (replace(asked, joined_as_they_lie=False), 2)
    assert lifted["banned"] == (replace(asked, banned=frozenset()), 2)
    assert lifted["donors"] == (replace(asked, donors="any"), 2)
    assert lifted["tolerance:none"] == (replace(asked, tolerance=None), 2)
    assert lifted["grade:C"] == (replace(asked, least_grade="C"), 2)
    assert lifted["estimated"] == (replace(asked, with_estimated=True), 2)
    assert lifted["parallel:3"] == (asked, 3)
    assert lifted["models"] == (replace(asked, one_kind="size"), 2)
    together = milder_conditions(replace(asked, donors="together"), 2)
    assert say(together[2][1]) == "With cells of different donors in one group"
    assert milder_conditions(replace(ANY, with_estimated=True), 2) == []


@pytest.mark.parametrize(
    ("need", "kind", "why"),
    [
        (
            replace(DEVICE, least_v=7.5, most_v=8.3),
            CYLINDERS,
            "1 in series give 4.20 V at most, and at 7.50 V the device would stop with more than half still inside.",
        ),
        (
            replace(DEVICE, least_v=2, most_v=4, converter="step-up"),
            CYLINDERS,
            "One is full at 4.20 V, above the 4.00 V that the converter bears.",
        ),
        (replace(DEVICE, hours=200), CYLINDERS, "2S60P needs 120 cells; the shelf has 40."),
        (DEVICE, FLAT, "2S4P needs 8 cells; the shelf has 3."),
        (
            Need(40, 58, "power", 400, 2),
            replace(CYLINDERS, count=500),
            "54.6 V full and 842 Wh are more than volunteers may build: 60 V and 500 Wh at most.",
        ),
        (DEVICE, replace(CYLINDERS, family=Family.TITANATE), "No table tells how its voltage falls."),
    ],
)
def test_a_kind_that_is_not_proposed_says_why_with_its_figures(need: Need, kind: object, why: str) -> None:
    (left_out,) = propose_designs(need, [kind], RULES).not_proposed  # type: ignore[list-item]
    assert (left_out.kind, plain(say(left_out.why))) == (kind, why)


def test_of_more_than_three_designs_the_others_are_named_with_what_they_would_take() -> None:
    weak = replace(CYLINDERS, capacity_mah=300)
    found = propose_designs(replace(DEVICE, load=0.2, hours=3), [weak, PHOSPHATE, FLAT, CYLINDERS], RULES)
    assert [design.cells for design in found.designs] == [2, 2, 2]
    assert [(left.kind, say(left.why)) for left in found.not_proposed] == [(weak, "It would do, with 4 cells.")]


@pytest.mark.parametrize(
    ("need", "converter", "out_v", "volts", "worked"),
    [
        (Need(0, 0, "current", 1.0, 4), "step-up", 5.0, (3, 5), "5 V x 1 A at the output / 0.88 = 5.68 W"),
        (Need(0, 0, "resistor", 24.0, 4), "step-up", 12.0, (3, 12), "(12 V)² / 24 Ω at the output / 0.88 = 6.82 W"),
        (Need(0, 0, "power", 10.0, 4), "step-down", 5.0, (6, 30), "10 W at the output / 0.9 = 11.1 W"),
    ],
)
def test_behind_a_converter_the_cells_give_the_output_over_its_efficiency_within_its_input(
    need: Need, converter: str, out_v: float, volts: tuple[float, float], worked: str
) -> None:
    found = behind_converter(need, converter, out_v, RULES)  # type: ignore[arg-type]
    assert (found.least_v, found.most_v, found.load_kind, found.converter) == (*volts, "power", converter)
    assert found.worked is not None
    assert plain(say(found.worked)) == f"{worked} from the cells, from {volts[0]:.2f} V to {volts[1]:.2f} V."


def test_an_input_that_is_known_is_kept_and_ends_where_the_output_begins() -> None:
    up = behind_converter(Need(3.5, 9, "power", 4.4, 4), "step-up", 5.0, RULES, input_known=True)
    assert (up.least_v, up.most_v, up.load) == pytest.approx((3.5, 5.0, 5.0))
    down = behind_converter(Need(4, 20, "power", 4.5, 4), "step-down", 5.0, RULES, input_known=True)
    assert (down.least_v, down.most_v, down.load) == pytest.approx((4, 20, 5.0))


def test_what_stands_beside_a_design_is_said_with_its_figures() -> None:
    assert [plain(say(each)) for each in only(Need(20, 34, "power", 5, 4, charger_v=12.6)).remarks] == [
        "Above 30 V or 160 Wh a coordinator has to say yes.",
        "The charger at hand ends at 12.60 V; 8 in series want 33.60 V. Not this one.",
        "In series every group wants a board that watches it.",
    ]
    assert plain(say(only(Need(3.0, 4.3, "current", 0.3, 2)).remarks[0])).endswith("by itself at 3.00 V or above.")
