"""Which group stands where: lattices are filled along many ways, the best are made better by exchanging neighbours.

What is wanted, in this order: each strip reaches all its poles without crossing others, groups lie together, each cell has
one of the next group beside it, strips are short, the whole is compact, and few different cans stand side by side.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import combinations
from typing import TYPE_CHECKING

import numpy as np

from zembric.core.house import limits
from zembric.core.pack.layout.faces import links_of, reach_mm
from zembric.core.pack.layout.model import PackLayout, Placed, end_of
from zembric.core.pack.layout.outlines import bounds_mm
from zembric.core.pack.layout.spots import lattices

if TYPE_CHECKING:
    from collections.abc import Iterator, Sequence

    from numpy.typing import NDArray

    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.layout.model import Arrangement, Body, Case
    from zembric.core.pack.layout.spots import Spot

    Labels = NDArray[np.int64]

#: What weighs how much against one pitch of strip: a strip in two parts, a group in two parts, a single link where there
#: could be one for each cell, a pitch of the whole outline, cells of two groups side by side, cells far from their middle, a
#: row more than one that a group stands in.
_STRIP_BREAK, _GROUP_BREAK, _NARROW, _LONG, _EDGE, _WIDE, _BENT = 40.0, 12.0, 4.0, 0.3, 0.1, 0.02, 0.3
#: Of larger packs the ways of filling are good enough, and exchanges would take too long.
_MOST_EXCHANGED = 48
_ROUNDS = 6
#: So many ways are made better, of few cells more of them, and so many are told.
_MADE_BETTER, _FEW, _MADE_BETTER_OF_FEW, _TOLD = 3, 12, 24, 4


@dataclass(frozen=True, slots=True)
class Proposal:
    """A layout with what it takes: strips in all [mm], its outline [mm], breaks (0: everything reaches)."""

    layout: PackLayout
    cost: float
    strip_mm: float
    length_mm: float
    width_mm: float
    breaks: int


def propose(sizes: Sequence[int], body: Body, case: Case | None, rules: HouseRules) -> tuple[Proposal, ...]:
    """Layouts of groups of these sizes, the best first; none: they do not fit into the room."""
    found: list[Proposal] = []
    for arrangement in body.arrangements:
        ways = [
            (scale.cost(labels), scale, labels)
            for spots in lattices(sum(sizes), body, arrangement, case, rules)
            for scale in (_Scale(spots, body, arrangement, len(sizes), rules),)
            for labels in _ways(spots, sizes)
        ]
        ways.sort(key=lambda way: way[0])
        for _, scale, labels in ways[: _MADE_BETTER_OF_FEW if sum(sizes) <= _FEW else _MADE_BETTER]:
            found.append(scale.proposal(scale.better(labels), case, body))
    # Of two that are the same but for a turn the one that lies is easier to look at.
    found.sort(key=lambda each: (round(each.cost, 6), each.width_mm > each.length_mm))
    return tuple(_unlike(found))[:_TOLD]


def _unlike(found: Sequence[Proposal]) -> Iterator[Proposal]:
    """One of each arrangement and outline."""
    seen = set()
    for each in found:
        sides = (round(each.length_mm), round(each.width_mm))
        # Turned by a quarter it is the same, but for a room that it has to fit into.
        kind = (each.layout.arrangement, *(sides if each.layout.case else sorted(sides)))
        if kind not in seen:
            seen.add(kind)
            yield each


def _ways(spots: Sequence[Spot], sizes: Sequence[int]) -> Iterator[Labels]:
    """The groups laid along bands of the lattice, forth and back, in bands of any breadth and both directions."""
    groups = np.repeat(np.arange(1, len(sizes) + 1), sizes)
    told = set()
    for is_along_x in (True, False):
        across = [spot.row if is_along_x else spot.column for spot in spots]
        for band in range(1, min(max(across) + 1, max(sizes)) + 1):
            for turns in (True, False):
                order = sorted(range(len(spots)), key=lambda at: _along(spots[at], band, is_along_x, turns))
                labels = np.zeros(len(spots), dtype=np.int64)
                labels[order[: len(groups)]] = groups
                if (key := labels.tobytes()) not in told:
                    told.add(key)
                    yield labels


def _along(spot: Spot, band: int, is_along_x: bool, turns: bool) -> tuple[int, int, int]:
    along, across = (spot.column, spot.row) if is_along_x else (spot.row, spot.column)
    strip, within = divmod(across, band)
    forth = -along if strip % 2 else along
    return strip, forth, -within if turns and along % 2 else within


class _Scale:
    """What a way of filling a lattice costs; 0 in its labels is a spot left free."""

    def __init__(
        self, spots: Sequence[Spot], body: Body, arrangement: Arrangement, series: int, rules: HouseRules
    ) -> None:
        self._spots, self._arrangement, self._series, self._rules = spots, arrangement, series, rules
        self._xy = np.array([(spot.x_mm, spot.y_mm) for spot in spots])
        apart = np.hypot(*(self._xy[:, None, :] - self._xy[None, :, :]).transpose(2, 0, 1))
        reach = reach_mm(PackLayout(arrangement, ()), body, rules)
        self._pitch = reach / rules.value(limits.STRIP_REACH)
        near = (apart <= reach + 1e-9) & ~np.eye(len(spots), dtype=bool)
        self._near = [np.flatnonzero(row).tolist() for row in near]
        self._pairs = np.argwhere(np.triu(near))
        #: The same spots come together again and again while others are exchanged.
        self._spread: dict[tuple[int, ...], tuple[int, float]] = {}

    def cost(self, labels: Labels) -> float:
        costs = sum(self._of_node(labels, node) for node in range(self._series + 1))
        costs += sum(self._of_group(labels, group) for group in range(1, self._series + 1))
        return costs + self._whole(labels)

    def breaks(self, labels: Labels) -> int:
        """How many strips fall into parts."""
        nodes = (self._members(labels, node, node + 1) for node in range(self._series + 1))
        return sum(self._parts(members) - 1 for members in nodes)

    def better(self, labels: Labels) -> Labels:
        """Exchanges spots as long as it costs less."""
        if len(labels) > _MOST_EXCHANGED:
            return labels
        cost = self.cost(labels)
        for _ in range(_ROUNDS):
            was = cost
            for one, other in combinations(range(len(labels)), 2):
                if labels[one] == labels[other]:
                    continue
                changed = {int(labels[one]), int(labels[other])} - {0}
                before = self._around(labels, changed)
                labels[[one, other]] = labels[[other, one]]
                gain = before - self._around(labels, changed)
                if gain > 1e-9:
                    cost -= gain
                else:
                    labels[[one, other]] = labels[[other, one]]
            if was - cost <= 1e-9:
                break
        return labels

    def _around(self, labels: Labels, groups: set[int]) -> float:
        """All that depends on where some groups stand."""
        nodes = {node for group in groups for node in (group - 1, group)}
        costs = sum(self._of_node(labels, node) for node in nodes)
        return costs + sum(self._of_group(labels, group) for group in groups) + self._whole(labels)

    def _members(self, labels: Labels, first: int, last: int) -> tuple[int, ...]:
        """The spots of groups that follow one another."""
        return tuple(np.flatnonzero((labels >= max(first, 1)) & (labels <= min(last, self._series))).tolist())

    def _parts_and_wide(self, members: tuple[int, ...]) -> tuple[int, float]:
        known = self._spread.get(members)
        if known is None:
            known = self._spread[members] = self._parts(members), self._wide(members)
        return known

    def _parts(self, members: Sequence[int]) -> int:
        left, parts = set(members), 0
        while left:
            parts += 1
            ahead = [left.pop()]
            while ahead:
                reached = [near for near in self._near[ahead.pop()] if near in left]
                left.difference_update(reached)
                ahead += reached
        return parts

    def _of_node(self, labels: Labels, node: int) -> float:
        members = self._members(labels, node, node + 1)
        parts, wide = self._parts_and_wide(members)
        cost = len(members) - 1 + _STRIP_BREAK * (parts - 1) + _WIDE * wide
        return cost + (_NARROW * self._narrow(labels, node) if 0 < node < self._series else 0.0)

    def _narrow(self, labels: Labels, node: int) -> float:
        """How much of the way from a group to the next is missing: 0 where each cell has its own link."""
        ones, others = labels[self._pairs[:, 0]], labels[self._pairs[:, 1]]
        links = int((((ones == node) & (others == node + 1)) | ((ones == node + 1) & (others == node))).sum())
        cells = int(min((labels == node).sum(), (labels == node + 1).sum()))
        return max(0, cells - links) / cells

    def _of_group(self, labels: Labels, group: int) -> float:
        members = self._members(labels, group, group)
        parts, wide = self._parts_and_wide(members)
        return _GROUP_BREAK * (parts - 1) + _WIDE * wide + _BENT * self._bent(members)

    def _bent(self, members: Sequence[int]) -> int:
        """How many rows, or columns, beyond one they stand in."""
        at = [self._spots[member] for member in members]
        return min(len({spot.x_mm for spot in at}), len({spot.y_mm for spot in at})) - 1

    def _wide(self, members: Sequence[int]) -> float:
        """How far apart they lie, in pitches a cell."""
        places = self._xy[list(members)]
        return float(np.square(places - places.mean(axis=0)).sum()) / self._pitch**2 / len(members)

    def _whole(self, labels: Labels) -> float:
        """How long and broad it is, and how many cells of two groups stand side by side."""
        taken = self._xy[labels > 0]
        outline = float(np.ptp(taken, axis=0).sum()) / self._pitch
        ones, others = labels[self._pairs[:, 0]], labels[self._pairs[:, 1]]
        return _LONG * outline + _EDGE * float(((ones != others) & (ones > 0) & (others > 0)).sum())

    def proposal(self, labels: Labels, case: Case | None, body: Body) -> Proposal:
        layout = replace(with_leads(self._placed(labels)), case=case)
        left, back, right, front = bounds_mm(layout, body)
        if case is None:
            layout = replace(
                layout,
                places=tuple(
                    replace(p, x_mm=round(p.x_mm - left, 4), y_mm=round(p.y_mm - back, 4)) for p in layout.places
                ),
            )
        strip_mm = sum(link.length_mm for link in links_of(layout, body, self._rules))
        return Proposal(layout, self.cost(labels), strip_mm, right - left, front - back, self.breaks(labels))

    def _placed(self, labels: Labels) -> PackLayout:
        places = [
            Placed(group, position, round(self._spots[at].x_mm, 4), round(self._spots[at].y_mm, 4), end_of(group))
            for group in range(1, self._series + 1)
            for position, at in enumerate(self._members(labels, group, group), start=1)
        ]
        return PackLayout(self._arrangement, tuple(places))


def with_leads(layout: PackLayout) -> PackLayout:
    """The main leads in the middle of the first and last group, so that their strips carry halves."""

    def middle(group: int) -> int:
        mine = [place for place in layout.places if place.group == group]
        x, y = (sum(values) / len(mine) for values in zip(*((p.x_mm, p.y_mm) for p in mine), strict=True))
        return min(mine, key=lambda p: ((p.x_mm - x) ** 2 + (p.y_mm - y) ** 2, p.position)).position

    return replace(layout, minus_at=middle(1), plus_at=middle(layout.series))
