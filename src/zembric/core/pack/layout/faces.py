"""Poles, and the pieces of strip between them. Strips lie straight from a pole to its nearest neighbours, never over others."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import combinations
from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.pack.layout.model import pitch_mm

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.layout.model import Body, Face, PackLayout, Placed


@dataclass(frozen=True, slots=True)
class Pole:
    """One pole of a cell; `node` 0 is the pack's minus, node k what joins group k with the next, the last its plus."""

    cell: tuple[int, int]
    is_plus: bool
    node: int
    face: Face
    x_mm: float
    y_mm: float


@dataclass(frozen=True, slots=True)
class Link:
    """A piece of strip between two poles, by their places in the list of poles."""

    first: int
    second: int
    length_mm: float


def poles_of(layout: PackLayout, body: Body) -> tuple[Pole, ...]:
    """Plus and minus of each cell in turn."""
    return tuple(pole for place in layout.places for pole in (_pole(place, body, True), _pole(place, body, False)))


def _pole(place: Placed, body: Body, is_plus: bool) -> Pole:
    face: Face = "top" if (place.end == "up") == is_plus else "bottom"
    # Of a flat cell the tabs stand side by side.
    aside = 0.0 if body.thick_mm is None else body.across_mm / 4 * (1 if face == "top" else -1)
    return Pole(place.key, is_plus, place.group if is_plus else place.group - 1, face, place.x_mm, place.y_mm + aside)


def taps_of(layout: PackLayout, body: Body) -> tuple[Pole, ...]:
    """Where the balance leads are joined, one a node from minus on: the pole nearest to the front."""
    poles = poles_of(layout, body)
    nodes = range(layout.series + 1)
    return tuple(
        max((pole for pole in poles if pole.node == node), key=lambda pole: (pole.y_mm, -pole.x_mm)) for node in nodes
    )


def reach_mm(layout: PackLayout, body: Body, rules: HouseRules) -> float:
    """How far a piece of strip goes: to the next cell, not beyond it."""
    return max(pitch_mm(body, layout.arrangement, rules)[0], body.length_mm) * rules.value(limits.STRIP_REACH)


def links_of(layout: PackLayout, body: Body, rules: HouseRules) -> tuple[Link, ...]:
    """All pieces that can lie: between neighbours of one node on one face."""
    poles = poles_of(layout, body)
    return links_between(poles, reach_mm(layout, body, rules))


def links_between(poles: Sequence[Pole], reach: float) -> tuple[Link, ...]:
    on_face: dict[tuple[int, Face], list[int]] = {}
    for index, pole in enumerate(poles):
        on_face.setdefault((pole.node, pole.face), []).append(index)
    return tuple(
        Link(one, other, length)
        for members in on_face.values()
        for one, other in combinations(members, 2)
        if (length := _apart(poles[one], poles[other])) <= reach + 1e-9
    )


def parts_of_nodes(poles: Sequence[Pole], links: Sequence[Link]) -> dict[int, list[list[int]]]:
    """Each node with the parts into which its poles fall; one part: all of it is joined."""
    joined: dict[int, list[int]] = {index: [] for index in range(len(poles))}
    for link in links:
        joined[link.first].append(link.second)
        joined[link.second].append(link.first)
    parts: dict[int, list[list[int]]] = {}
    seen: set[int] = set()
    for start, pole in enumerate(poles):
        if start in seen:
            continue
        part, ahead = [], [start]
        seen.add(start)
        while ahead:
            here = ahead.pop()
            part.append(here)
            ahead += (new := [other for other in joined[here] if other not in seen])
            seen.update(new)
        parts.setdefault(pole.node, []).append(part)
    return parts


def _apart(one: Pole, other: Pole) -> float:
    return math.hypot(one.x_mm - other.x_mm, one.y_mm - other.y_mm)
