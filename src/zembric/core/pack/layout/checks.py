"""What is checked of a layout: does it fit, does it touch, does each strip reach, and does it carry."""

from __future__ import annotations

import math
from itertools import combinations
from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.pack.checks.model import Check, amount, of_limit
from zembric.core.pack.layout.faces import links_of, parts_of_nodes, poles_of
from zembric.core.pack.layout.net import StripKind, solve_net
from zembric.core.pack.layout.outlines import bounds_mm
from zembric.core.pack.layout.spots import distance_mm
from zembric.core.said import said

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.checks.model import CheckState
    from zembric.core.pack.layout.model import Body, PackLayout, Placed
    from zembric.core.pack.layout.net import NetFlow
    from zembric.core.pack.on_paper import PaperCell
    from zembric.core.pack.parts import PackPlan

#: So many cells of many are named.
_NAMED = 6
#: As finely as places are told.
_JUST_MM = 1 / 1000


def check_layout(
    layout: PackLayout,
    body: Body,
    groups: Sequence[Sequence[PaperCell]],
    plan: PackPlan,
    current_a: float | None,
    rules: HouseRules,
) -> tuple[tuple[Check, ...], NetFlow | None]:
    """All lines of a layout, and its net at the pack's worst current [A]; None: nobody said one, or it is not joined."""
    number_of = {
        (group, position): cell.number
        for group, cells in enumerate(groups, start=1)
        for position, cell in enumerate(cells, start=1)
    }
    known = {
        (group, position): cell.resistance_mohm
        for group, cells in enumerate(groups, start=1)
        for position, cell in enumerate(cells, start=1)
    }
    strip = StripKind.of(plan, rules)
    flow = solve_net(layout, body, known, strip, current_a or 1.0, rules)
    lines = [
        _fits(layout, body, number_of, rules),
        _touching(layout, body, number_of, rules),
        _reaches(layout, body, number_of, rules),
    ]
    if flow is not None:
        if current_a:
            lines.append(_strips(flow, strip, number_of))
        lines.append(_ways(flow, layout, number_of, rules))
    return tuple(lines), flow if current_a else None


def _fits(layout: PackLayout, body: Body, number_of: Mapping[tuple[int, int], str], rules: HouseRules) -> Check:
    left, back, right, front = bounds_mm(layout, body)
    overlap = [
        number_of[place.key]
        for one, other in combinations(layout.places, 2)
        if _gap_mm(one, other, body) < -_JUST_MM
        for place in (one, other)
    ]
    head, case = rules.value(limits.LAYOUT_HEAD_MM), layout.case
    length, width = amount(right - left, "mm", 1), amount(front - back, "mm", 1)
    if overlap:
        worked = said("worked-layout-overlap", cells=_named(overlap), count=len(set(overlap)))
        return Check("layout-fits", "stop", worked, mend=said("mend-layout-overlap"))
    if case is None:
        return Check(
            "layout-fits",
            "holds",
            said("worked-layout-free", height=amount(body.height_mm + head, "mm", 1), length=length, width=width),
        )
    high = body.height_mm + head > case.height_mm + 1e-9
    outside = [
        number_of[place.key]
        for place in layout.places
        if place.x_mm - body.length_mm / 2 < -_JUST_MM or place.x_mm + body.length_mm / 2 > case.length_mm + _JUST_MM
        or place.y_mm - body.across_mm / 2 < -_JUST_MM or place.y_mm + body.across_mm / 2 > case.width_mm + _JUST_MM
        or any(distance_mm(place.x_mm, place.y_mm, body, rect) < -_JUST_MM for rect in case.keep_outs)
    ]  # fmt: skip
    state: CheckState = "stop" if high or outside else "holds"
    worked = said(
        "worked-layout-fits", case_length=amount(case.length_mm, "mm", 1), case_width=amount(case.width_mm, "mm", 1),
        case_height=amount(case.height_mm, "mm", 1), height=amount(body.height_mm + head, "mm", 1),
        cells=_named(outside), outside=len(set(outside)), length=length, width=width,
    )  # fmt: skip
    mend = said("mend-layout-high") if high else said("mend-layout-fits") if outside else None
    return Check(
        "layout-fits", state, worked, **of_limit(limits.LAYOUT_HEAD_MM, head), mend=mend, may_be_waived=not high
    )


def _gap_mm(one: Placed, other: Placed, body: Body) -> float:
    if body.thick_mm is None:
        return math.hypot(one.x_mm - other.x_mm, one.y_mm - other.y_mm) - body.across_mm
    return max(abs(one.x_mm - other.x_mm) - body.thick_mm, abs(one.y_mm - other.y_mm) - body.across_mm)


def _touching(layout: PackLayout, body: Body, number_of: Mapping[tuple[int, int], str], rules: HouseRules) -> Check:
    """Cans of cylinders are their minus; a pouch is a weak skin. Those of two groups stand apart, or something lies between."""
    needed = rules.value(limits.APART_MM)
    close = [
        (one, other)
        for one, other in combinations(layout.places, 2)
        if one.group != other.group and _gap_mm(one, other, body) < needed - _JUST_MM
    ]
    state: CheckState = "stop" if close and not layout.has_spacers else "holds"
    pair = [number_of[place.key] for place in close[0]] if close else ["", ""]
    worked = said(
        "worked-layout-touching", count=len(close), first=pair[0], second=pair[1], apart=amount(needed, "mm", 1)
    )
    if layout.has_spacers:
        worked = said("worked-layout-spacers", count=len(close), apart=amount(needed, "mm", 1))
    return Check(
        "layout-touching", state, worked, **of_limit(limits.APART_MM, needed, digits=1),
        mend=said("mend-layout-touching") if state == "stop" else None,
    )  # fmt: skip


def _reaches(layout: PackLayout, body: Body, number_of: Mapping[tuple[int, int], str], rules: HouseRules) -> Check:
    poles = poles_of(layout, body)
    loose: list[str] = []
    for parts in parts_of_nodes(poles, links_of(layout, body, rules)).values():
        largest = max(parts, key=len)
        loose += [number_of[poles[at].cell] for part in parts if part is not largest for at in part]
    worked = said("worked-layout-reach", cells=_named(loose), count=len(set(loose)))
    return Check(
        "layout-reach", "stop" if loose else "holds", worked, mend=said("mend-layout-reach") if loose else None
    )


def _strips(flow: NetFlow, strip: StripKind, number_of: Mapping[tuple[int, int], str]) -> Check:
    """The piece that carries most."""
    stands_a = strip.most_a * strip.pieces
    at = max(range(len(flow.link_a)), key=lambda index: flow.link_a[index], default=None)
    worst_a = flow.link_a[at] if at is not None else 0.0
    first, second = (flow.links[at].first, flow.links[at].second) if at is not None else (0, 1)
    is_above = worst_a > stands_a * (1 + 1e-9)
    worked = said(
        "worked-layout-strip", current=amount(worst_a, "A", 2), first=number_of[flow.poles[first].cell],
        second=number_of[flow.poles[second].cell], most=amount(stands_a, "A", 1),
        thick=amount(strip.thickness_mm, "mm", 2), wide=amount(strip.width_mm, "mm", 1), pieces=round(strip.pieces),
    )  # fmt: skip
    return Check(
        "layout-strip", "stop" if is_above else "holds", worked, amount(worst_a, "A", 2),
        **of_limit(strip.limit, stands_a, "A", 1), mend=said("mend-layout-strip") if is_above else None, may_be_waived=True,
    )  # fmt: skip


def _ways(flow: NetFlow, layout: PackLayout, number_of: Mapping[tuple[int, int], str], rules: HouseRules) -> Check:
    """Cells near the lead give more than those far from it."""
    most = rules.value(limits.UNEVEN_WAY_PCT)
    at = max(range(len(flow.shares)), key=lambda index: abs(flow.shares[index] - 1))
    apart_pct = 100 * (flow.shares[at] - 1)
    is_above = abs(apart_pct) > most + 1e-9
    cell, apart = number_of[layout.places[at].key], amount(abs(apart_pct), "%", 1)
    worked = said("worked-layout-ways-less" if apart_pct < 0 else "worked-layout-ways-more", cell=cell, apart=apart)
    return Check(
        "layout-ways", "look" if is_above else "holds", worked, amount(abs(apart_pct), "%", 1),
        **of_limit(limits.UNEVEN_WAY_PCT, most, digits=1), mend=said("mend-layout-ways") if is_above else None,
    )  # fmt: skip


def _named(numbers: Sequence[str]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(numbers))[:_NAMED]
