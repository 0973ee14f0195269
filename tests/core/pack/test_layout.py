"""Where cells stand: proposals against all there are, nets of strips by hand, and each check on either side of its limit."""

from __future__ import annotations

from dataclasses import replace
from itertools import permutations

import numpy as np
import pytest

from zembric.core.house.rules import USUAL_RULES
from zembric.core.pack.layout import (
    Body,
    Case,
    PackLayout,
    Placed,
    Rect,
    StripKind,
    check_layout,
    plate_of,
    poles_of,
    propose,
    solve_net,
)
from zembric.core.pack.layout.propose import _Scale
from zembric.core.pack.layout.spots import lattices
from zembric.core.pack.on_paper import PaperCell
from zembric.core.pack.parts import TypedPart, read_plan

ROUND, FLAT = Body("cylinder", 18, 65), Body("flat", 34, 50, 5)
NICKEL = StripKind.of(read_plan([]), USUAL_RULES)
#: 0.15 x 8 mm of nickel: 58.25 mOhm a metre.
PIECE_OHM = 6.99e-8 / 1.2e-6 * 0.0185


def cells(series: int, parallel: int, mohm: float = 40.0) -> list[list[PaperCell]]:
    one = PaperCell("", 2000, 20, mohm, 2, "dc", 3.7, 2.0)
    return [
        [replace(one, number=f"C{group}{each}") for each in range(1, parallel + 1)] for group in range(1, series + 1)
    ]


def square(series: int, parallel: int, **more: object) -> PackLayout:
    """Groups side by side, each a row of its cells along y, touching as rows do."""
    places = [
        Placed(group, each, 9 + 18.5 * (group - 1), 9 + 18.5 * (each - 1), "up" if group % 2 else "down")
        for group in range(1, series + 1)
        for each in range(1, parallel + 1)
    ]
    return PackLayout("rows", tuple(places), **more)  # type: ignore[arg-type]


def lines(
    layout: PackLayout, current_a: float = 1.0, body: Body = ROUND, strip: dict[str, str] | None = None
) -> dict[str, str]:
    series = layout.series
    parallel = max(place.position for place in layout.places)
    plan = read_plan([TypedPart("strip", strip)] if strip else [])
    found, _ = check_layout(layout, body, cells(series, parallel), plan, current_a, USUAL_RULES)
    return {line.key: line.state for line in found}


# --- Proposals -------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("sizes", "case"), [((2, 2, 2, 2), Case(37, 74, 70)), ((2, 3, 2), None), ((2, 2, 2), Case(75, 40, 70, (Rect(0, 0, 10, 10),)))])  # fmt: skip
def test_of_few_cells_the_best_of_all_ways_is_proposed(sizes: tuple[int, ...], case: Case | None) -> None:
    best = np.inf
    labels = [group for group, size in enumerate(sizes, start=1) for _ in range(size)]
    for arrangement in ROUND.arrangements:
        for spots in lattices(len(labels), ROUND, arrangement, case, USUAL_RULES):
            scale = _Scale(spots, ROUND, arrangement, len(sizes), USUAL_RULES)
            free = [0] * (len(spots) - len(labels))
            ways = set(permutations([*labels, *free])) if len(spots) < 9 else set()
            best = min([best, *(scale.cost(np.array(way)) for way in ways)])
    proposed = propose(sizes, ROUND, case, USUAL_RULES)
    assert proposed[0].cost == pytest.approx(best)
    assert proposed[0].breaks == 0


@pytest.mark.parametrize(("series", "parallel"), [(13, 4), (20, 10), (1, 6), (7, 1)])
def test_whatever_the_pack_each_strip_reaches_all_its_poles(series: int, parallel: int) -> None:
    for each in propose([parallel] * series, ROUND, None, USUAL_RULES):
        assert each.breaks == 0
        found, _ = check_layout(each.layout, ROUND, cells(series, parallel), read_plan([]), 1.0, USUAL_RULES)
        assert {line.key: line.state for line in found}["layout-reach"] == "holds"


def test_nothing_is_proposed_that_does_not_fit_and_all_that_is_does() -> None:
    keep_out = Rect(0, 0, 20, 20)
    assert propose([2] * 4, ROUND, Case(60, 36, 67), USUAL_RULES) == ()
    found = propose([2] * 4, ROUND, Case(90, 60, 67, (keep_out,)), USUAL_RULES)
    assert found
    for each in found:
        assert lines(replace(each.layout, has_spacers=True))["layout-fits"] == "holds"


def test_flat_cells_stand_in_a_stack_with_a_tenth_of_their_thickness_free() -> None:
    best = propose([1, 1, 1], FLAT, None, USUAL_RULES)[0]
    assert [place.x_mm for place in best.layout.places] == pytest.approx([2.5, 8.0, 13.5])
    assert (best.length_mm, best.width_mm) == pytest.approx((16, 34))
    # Plus and minus tabs lie in turn at the front and at the back, so that neighbours can be joined.
    fronts = {(pole.cell[0], pole.is_plus) for pole in poles_of(best.layout, FLAT) if pole.face == "top"}
    assert fronts == {(1, True), (2, False), (3, True)}


# --- The net of strips -----------------------------------------------------------------------------------------------


def test_a_row_of_three_carries_from_its_ends_to_the_lead_in_the_middle() -> None:
    """Cells of 1 Ohm and pieces of about a milliohm: a third each, and each piece one third of the current."""
    layout = square(1, 3, minus_at=2, plus_at=2)
    flow = solve_net(layout, ROUND, {(1, each): 1e3 for each in (1, 2, 3)}, NICKEL, 3.0, USUAL_RULES)
    assert flow is not None
    assert flow.cell_a == pytest.approx((1, 1, 1), rel=3e-3)
    assert flow.link_a == pytest.approx([1, 1, 1, 1], rel=3e-3)


def test_a_cell_further_from_the_lead_gives_what_its_way_leaves() -> None:
    """Both leads at the first of two: against r the other has r and a piece above and below."""
    mohm = 10.0
    layout = square(1, 2)
    flow = solve_net(layout, ROUND, {(1, 1): mohm, (1, 2): mohm}, NICKEL, 2.0, USUAL_RULES)
    near, far = 1 / 0.010, 1 / (0.010 + 2 * PIECE_OHM)
    assert flow is not None
    assert flow.cell_a == pytest.approx((2 * near / (near + far), 2 * far / (near + far)))
    assert flow.link_a == pytest.approx([2 * far / (near + far)] * 2)
    assert flow.shares[1] == pytest.approx(2 * far / (near + far))


def test_two_links_side_by_side_share_what_goes_from_group_to_group() -> None:
    layout = square(2, 2)
    known = {place.key: 40.0 for place in layout.places}
    flow = solve_net(layout, ROUND, known, NICKEL, 4.0, USUAL_RULES)
    assert flow is not None
    across = [
        amperes for link, amperes in zip(flow.links, flow.link_a, strict=True)
        if flow.poles[link.first].cell[0] != flow.poles[link.second].cell[0]
    ]  # fmt: skip
    assert sum(across) == pytest.approx(4.0)
    # All that goes into a node comes out of it.
    assert sum(flow.cell_a[:2]) == pytest.approx(4.0)
    assert sum(flow.cell_a[2:]) == pytest.approx(4.0)


# --- Checks ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("case", "state"),
    [
        (Case(36.5, 36.5, 67), "holds"), (Case(36.4, 36.5, 67), "stop"), (Case(36.5, 36.5, 66.9), "stop"),
        (Case(40, 36.5, 67, (Rect(36.6, 0, 3, 30),)), "holds"), (Case(40, 36.5, 67, (Rect(36, 0, 3, 30),)), "stop"),
    ],
)  # fmt: skip
def test_cells_have_to_fit_with_what_lies_above_and_below(case: Case, state: str) -> None:
    assert lines(square(2, 2, case=case))["layout-fits"] == state


def test_no_cell_stands_where_another_does() -> None:
    layout = square(2, 1)
    pushed = replace(layout.places[1], x_mm=26.9)
    assert lines(replace(layout, places=(layout.places[0], pushed)))["layout-fits"] == "stop"
    assert lines(replace(layout, places=(layout.places[0], replace(pushed, x_mm=27.0))))["layout-fits"] == "holds"


def test_bare_cans_of_two_groups_want_something_between() -> None:
    layout = square(2, 1)
    apart = replace(layout.places[1], x_mm=9 + 18 + 1.0)
    assert lines(layout)["layout-touching"] == "stop"
    assert lines(replace(layout, has_spacers=True))["layout-touching"] == "holds"
    assert lines(replace(layout, places=(layout.places[0], apart)))["layout-touching"] == "holds"
    assert lines(square(1, 2))["layout-touching"] == "holds"


def test_a_cell_turned_over_has_poles_that_nothing_reaches() -> None:
    layout = square(2, 2)
    turned = tuple(replace(each, end="up") if each.key == (2, 2) else each for each in layout.places)
    assert lines(layout)["layout-reach"] == "holds"
    assert lines(replace(layout, places=turned))["layout-reach"] == "stop"


@pytest.mark.parametrize(
    ("current_a", "strip", "state"), [(9.9, None, "holds"), (10.6, None, "stop"), (15, {"pieces": "2"}, "holds")]
)
def test_the_piece_that_carries_most_is_held_against_what_it_stands(
    current_a: float, strip: dict[str, str] | None, state: str
) -> None:
    """From the end of a row of two half of the current goes along; a strip of 0.15 x 8 mm nickel stands 5 A."""
    of_nickel = {"material": "nickel", "thickness_mm": "0.15", "width_mm": "8", "length_mm": "20", "pieces": "1"}
    assert lines(square(1, 2), current_a, strip=of_nickel | strip if strip else None)["layout-strip"] == state


@pytest.mark.parametrize(("parallel", "state"), [(3, "holds"), (8, "look")])
def test_a_long_way_to_the_lead_is_told(parallel: int, state: str) -> None:
    assert lines(square(1, parallel))["layout-ways"] == state


def test_a_plate_has_a_hole_a_little_larger_for_each_cell() -> None:
    plate = plate_of(square(2, 2), ROUND, USUAL_RULES)
    assert (plate.length_mm, plate.width_mm) == pytest.approx((36.5 + 6, 36.5 + 6))
    assert {hole.diameter_mm for hole in plate.circles} == {18.3}
    assert (plate.circles[0].x_mm, plate.circles[0].y_mm) == pytest.approx((12, 12))
