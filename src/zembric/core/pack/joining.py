"""Cells that are to be joined: what would flow at first, and three ways to bring them to one charge before.

Only from fresh resting voltages. Source: the model of runs on paper (cells in direct parallel, or through resistors), charges
over the family's table; house limits for gentle currents and cool resistors.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from zembric.core.electric.charging import plan_charge
from zembric.core.electric.resistors import e12_at_least_ohm, usual_rating_w
from zembric.core.errors import ConflictError
from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.identify.families import as_charged, has_ocv_table, ocv_table, state_of_charge
from zembric.core.pack.checks.cells import may_give_a
from zembric.core.run import Curve, Rail, RunCell, equalise, equalise_over_time
from zembric.core.said import Amount, Said, named, plain, said, volts

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.on_paper import PaperCell

WayCode = Literal["as-they-lie", "charger", "resistors", "singly"]
#: For pictures, so many moments.
_MOMENTS = 60


@dataclass(frozen=True, slots=True)
class FirstCurrent:
    """What flows out of a cell [A] (into it: negative) at the moment its group is joined, and what it stands that way."""

    number: str
    group: int
    current_a: float
    stands_a: float

    @property
    def is_too_much(self) -> bool:
        return abs(self.current_a) > self.stands_a


@dataclass(frozen=True, slots=True)
class Way:
    """One way to make them even: hours, what it takes, and, through resistors, how their voltages come together."""

    code: WayCode
    hours: float
    needs: Said
    moments_h: tuple[float, ...] = ()
    cell_v: tuple[tuple[float, ...], ...] = ()


@dataclass(frozen=True, slots=True)
class Joining:
    """How far apart cells rest and may rest [V], first currents, and the ways; the best of them with why.

    `is_flat`: where they rest the voltage does not tell the charge.
    """

    gap_v: float
    within_v: float
    first: tuple[FirstCurrent, ...]
    ways: tuple[Way, ...]
    best: WayCode
    why: Said
    is_flat: bool

    @property
    def is_open(self) -> bool:
        """Whether they may be joined as they lie."""
        return self.gap_v <= self.within_v + 1e-9


def plan_joining(groups: Sequence[Sequence[PaperCell]], family: Family, full_v: float, rules: HouseRules) -> Joining:
    """First currents and ways for the cells of a pack, group by group.

    Raises:
        ConflictError: a cell without a fresh resting voltage or without a resistance, or no table of the family.
    """
    cells = [cell for group in groups for cell in group]
    unread = tuple(cell.number for cell in cells if cell.resting_v is None)
    if unread:
        raise ConflictError(said("joining-wants-voltages", cells=unread), code="no-voltage")
    most_days = rules.value(limits.JOIN_FRESH_DAYS)
    old = tuple(cell.number for cell in cells if cell.resting_days > most_days)
    if old:
        days = Amount(most_days, "d")
        raise ConflictError(said("joining-wants-fresh-voltages", cells=old, days=days), code="voltage-old")
    unknown = tuple(cell.number for cell in cells if not cell.resistance_mohm or not cell.capacity_mah)
    if unknown:
        raise ConflictError(said("run-wants-figures", cells=unknown), code="no-resistance")
    if not has_ocv_table(family):
        raise ConflictError(said("kind-without-table"), code="no-table")
    lowest, highest = (pick(cells, key=lambda cell: cell.resting_v or 0) for pick in (min, max))
    gap_v = (highest.resting_v or 0) - (lowest.resting_v or 0)
    within_v = rules.value(limits.JOIN_WITHIN_V)
    is_flat = as_charged(family) is Family.IRON_PHOSPHATE and any(
        rules.value(limits.FLAT_TELLS_BELOW_V) <= (cell.resting_v or 0) <= rules.value(limits.FLAT_STARTS_AT_MOST_V)
        for cell in cells
    )
    curves = {family: Curve(*ocv_table(family))}
    first = tuple(current for number, group in enumerate(groups, start=1) for current in _first(group, number, rules))
    ways = [_by_charger(cells, family, full_v, rules)]
    if gap_v > within_v + 1e-9:
        ways += [_through_resistors(cells, family, curves, within_v, rules), _singly(cells, family, rules)]
    else:
        ways.insert(0, Way("as-they-lie", 0.0, said("join-needs-nothing")))
    best, why = _best(ways, is_flat, gap_v <= within_v + 1e-9)
    return Joining(gap_v, within_v, first, tuple(ways), best, why, is_flat)


def _soc(cell: PaperCell, family: Family) -> float:
    return state_of_charge(family, cell.resting_v or 0)


def _run_cell(cell: PaperCell, family: Family) -> RunCell:
    return RunCell(cell.number, family, cell.capacity_mah, cell.resistance_mohm or 0, _soc(cell, family))


def _first(group: Sequence[PaperCell], number: int, rules: HouseRules) -> list[FirstCurrent]:
    """In direct parallel, by the cells' voltages and resistances alone: U over r, whatever the table says of charges."""
    siemens = [1000 / (cell.resistance_mohm or 1) for cell in group]
    common_v = sum((cell.resting_v or 0) * mine for cell, mine in zip(group, siemens, strict=True)) / sum(siemens)
    found = []
    for cell, mine in zip(group, siemens, strict=True):
        current_a = ((cell.resting_v or 0) - common_v) * mine
        charged_a = limits.CHARGE_RATE_MOST_C.value * cell.capacity_mah / 1000
        stands_a = may_give_a(cell, rules) if current_a > 0 else charged_a
        found.append(FirstCurrent(cell.number, number, current_a, stands_a))
    return found


def _charge_ma(cell: PaperCell) -> float:
    return limits.CHARGE_RATE_C.value * cell.capacity_mah


def _by_charger(cells: Sequence[PaperCell], family: Family, full_v: float, rules: HouseRules) -> Way:
    """Each in a slot of its own, all to full; the one that takes longest counts."""
    hours = [
        plan_charge(
            cell.capacity_mah, _charge_ma(cell), full_v, rules.value(limits.CHARGE_END_C) * cell.capacity_mah,
            _soc(cell, family), cell.resistance_mohm or 0, family,
        ).minutes / 60
        for cell in cells
    ]  # fmt: skip
    rest_h = limits.RESTED_H.value
    needs = said(
        "join-needs-charger", slots=len(cells), full=volts(full_v), longest=Amount(max(hours), "h", 1),
        together=Amount(sum(hours), "h", 1), rest=plain(rest_h, "h"),
    )  # fmt: skip
    return Way("charger", max(hours) + rest_h, needs)


def _singly(cells: Sequence[PaperCell], family: Family, rules: HouseRules) -> Way:
    """Each lower cell brought up to the highest, one after another on one small charger, a rest after the last."""
    most_soc = max(_soc(cell, family) for cell in cells)
    below = [cell for cell in cells if most_soc - _soc(cell, family) > 0]
    most_ma = rules.value(limits.TESTER_USUAL_MA)
    hours = [(most_soc - _soc(cell, family)) * cell.capacity_mah / min(_charge_ma(cell), most_ma) for cell in below]
    highest_v = max(cell.resting_v or 0 for cell in cells)
    rest_h = limits.RESTED_H.value
    needs = said(
        "join-needs-singly", count=len(below), highest=volts(highest_v), together=Amount(sum(hours), "h", 1),
        rest=plain(rest_h, "h"),
    )  # fmt: skip
    return Way("singly", sum(hours) + rest_h, needs)


def _through_resistors(
    cells: Sequence[PaperCell], family: Family, curves: dict[Family, Curve], within_v: float, rules: HouseRules
) -> Way:
    """All side by side, each through a resistor of its own: the smallest that keeps currents gentle and itself cool."""
    gentle_a, cool_w = rules.value(limits.JOIN_GENTLE_A), rules.value(limits.RESISTOR_HOT_W)
    widest_v = max(abs((cell.resting_v or 0) - (other.resting_v or 0)) for cell in cells for other in cells)
    # No cell lies further from the common point than the widest gap.
    least_ohm = max(widest_v / gentle_a, widest_v**2 / cool_w)
    least_ohm = max(least_ohm, *(widest_v / min(may_give_a(c, rules), _charge_ma(c) / 1000) for c in cells))
    ohm = e12_at_least_ohm(least_ohm)
    rails = [Rail([_run_cell(cell, family)], 1000 * ohm) for cell in cells]
    names = {str(name): curve for name, curve in curves.items()}
    done = equalise(names, rails, 1000 * within_v)
    over_time = equalise_over_time(names, rails, 1000 * within_v, _MOMENTS)
    most_a = max(abs(current) for rail in done.first_a for current in rail)
    heat_w = most_a**2 * ohm
    needs = said(
        "join-needs-resistors", count=len(cells), resistor=plain(ohm, "Ω"), rated=plain(usual_rating_w(heat_w), "W"),
        heat=Amount(heat_w, "W", 2), current=Amount(most_a, "A", 2), common=volts(done.final_v),
    )  # fmt: skip
    hours = tuple(moment_s / 3600 for moment_s in over_time.moments_s)
    return Way("resistors", done.seconds / 3600, needs, hours, over_time.cell_v)


def _best(ways: Sequence[Way], is_flat: bool, is_open: bool) -> tuple[WayCode, Said]:
    if is_flat:
        return "charger", said("join-why-flat")
    if is_open:
        return "as-they-lie", said("join-why-as-they-lie")
    best = min(ways, key=lambda way: way.hours)
    return best.code, said("join-why-quickest", way=named("join-way", best.code), hours=Amount(best.hours, "h", 1))
