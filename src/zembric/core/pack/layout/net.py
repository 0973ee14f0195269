"""The strips of a pack as a net of resistors: what each piece carries, and what the way costs each cell."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from zembric.core.electric.conductors import strip_conductor
from zembric.core.house import limits
from zembric.core.pack.layout.faces import links_of, parts_of_nodes, poles_of

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

    from zembric.core.house.limits import Limit
    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.layout.faces import Link, Pole
    from zembric.core.pack.layout.model import Body, PackLayout
    from zembric.core.pack.parts import PackPlan

#: Of a cell whose resistance nobody knows.
_USUAL_MOHM = 40.0
_LEAST_MM = 1 / 1000


@dataclass(frozen=True, slots=True)
class StripKind:
    """What pieces are cut from, and how many lie on one another; `most_a` stands one of them."""

    material: str
    thickness_mm: float
    width_mm: float
    pieces: float
    most_a: float
    limit: Limit
    ohm_per_mm: float

    @classmethod
    def of(cls, plan: PackPlan, rules: HouseRules) -> StripKind:
        """The strip of the plan; without one usual nickel."""
        if plan.strips:
            strip = plan.strips[0]
            material, thick, wide, pieces = strip.material, strip.thickness_mm, strip.width_mm, strip.pieces
        else:
            thick, wide = rules.value(limits.STRIP_THICKNESS_MM), rules.value(limits.STRIP_WIDTH_MM)
            material, pieces = "nickel", 1.0
        one = strip_conductor(material, thick, wide, 1.0, rules)
        return cls(material, thick, wide, pieces, one.most_a, one.limit, one.ohm / pieces)


@dataclass(frozen=True, slots=True)
class NetFlow:
    """Currents of all pieces and cells [A] at the pack's current, and each cell's against strips without resistance."""

    poles: tuple[Pole, ...]
    links: tuple[Link, ...]
    link_a: tuple[float, ...]
    cell_a: tuple[float, ...]
    #: What a cell gives more or less than its share by its own resistance, as a ratio.
    shares: tuple[float, ...]
    drop_v: float


def solve_net(
    layout: PackLayout,
    body: Body,
    resistance_mohm: Mapping[tuple[int, int], float | None],
    strip: StripKind,
    current_a: float,
    rules: HouseRules,
) -> NetFlow | None:
    """The net at one current; None: some poles are not joined, so there is none.

    Equal open-circuit voltages drive nothing through each other, so they are left out: cells are their resistances.
    """
    poles, links = poles_of(layout, body), links_of(layout, body, rules)
    if any(len(parts) > 1 for parts in parts_of_nodes(poles, links).values()):
        return None
    ohm = [(resistance_mohm.get(place.key) or _usual(resistance_mohm)) / 1000 for place in layout.places]
    size = len(poles)
    net = np.zeros((size, size))

    def join(one: int, other: int, siemens: float) -> None:
        net[one, one] += siemens
        net[other, other] += siemens
        net[one, other] -= siemens
        net[other, one] -= siemens

    for index, each in enumerate(ohm):
        join(2 * index, 2 * index + 1, 1 / each)
    for link in links:
        join(link.first, link.second, 1 / _ohm(link, strip))
    place_of = {place.key: index for index, place in enumerate(layout.places)}
    drawn, returned = 2 * place_of[layout.lead(is_plus=True)], 2 * place_of[layout.lead(is_plus=False)] + 1
    pushed = np.zeros(size)
    pushed[drawn] = -current_a
    kept = np.arange(size) != returned
    volts = np.zeros(size)
    volts[kept] = np.linalg.solve(net[np.ix_(kept, kept)], pushed[kept])
    cell_a = [(volts[2 * index + 1] - volts[2 * index]) / each for index, each in enumerate(ohm)]
    even = _even(layout, ohm, current_a)
    return NetFlow(
        poles,
        links,
        tuple(float(abs(volts[link.first] - volts[link.second]) / _ohm(link, strip)) for link in links),
        tuple(float(each) for each in cell_a),
        tuple(float(is_a / was_a) if was_a else 1.0 for is_a, was_a in zip(cell_a, even, strict=True)),
        float(-volts[drawn]) - current_a * _own_ohm(layout, ohm),
    )


def _ohm(link: Link, strip: StripKind) -> float:
    # Cells that were put onto one spot are told of elsewhere; here their piece has some length.
    return strip.ohm_per_mm * max(link.length_mm, _LEAST_MM)


def _usual(known: Mapping[tuple[int, int], float | None]) -> float:
    values = [value for value in known.values() if value]
    return sum(values) / len(values) if values else _USUAL_MOHM


def _siemens(layout: PackLayout, ohm: Sequence[float]) -> dict[int, float]:
    sums: dict[int, float] = {}
    for place, each in zip(layout.places, ohm, strict=True):
        sums[place.group] = sums.get(place.group, 0.0) + 1 / each
    return sums


def _even(layout: PackLayout, ohm: Sequence[float], current_a: float) -> list[float]:
    sums = _siemens(layout, ohm)
    return [current_a / each / sums[place.group] for place, each in zip(layout.places, ohm, strict=True)]


def _own_ohm(layout: PackLayout, ohm: Sequence[float]) -> float:
    return sum(1 / siemens for siemens in _siemens(layout, ohm).values())
