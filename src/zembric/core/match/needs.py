"""From what a builder knows (a device, a load, an evening) to packs that would do: family, size, S and P.

For planning: voltages come from the families' representative tables, capacities from what lies on the shelf.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from itertools import permutations
from statistics import fmean
from types import MappingProxyType
from typing import TYPE_CHECKING, Literal

from zembric.core.errors import BadInputError, DangerError
from zembric.core.house import limits
from zembric.core.identify.donor_kinds import NOT_FOR_THIS_TABLE
from zembric.core.identify.families import full_voltage_v, has_ocv_table, open_circuit_v
from zembric.core.said import Amount, Said, named, plain, said, volts

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

    from zembric.core.house.limits import Family
    from zembric.core.house.rules import HouseRules
    from zembric.core.identify.sizes import Size
    from zembric.core.run import LoadKind

Converter = Literal["step-up", "step-down"]
Replaced = Literal["alkaline", "nimh", "lead-acid"]
#: Empty and full voltage of one cell of what is replaced [V].
REPLACED_V: Mapping[Replaced, tuple[float, float]] = MappingProxyType(
    {"alkaline": (0.9, 1.6), "nimh": (1.0, 1.45), "lead-acid": (1.75, 2.15)}
)
MOST_DESIGNS = 3
_MOST_SERIES, _MOST_PARALLEL = 40, 40
_SAMPLES = 20


@dataclass(frozen=True, slots=True)
class Need:
    """What the device asks for. `load` is in A, W or Ohm by its kind; None where a builder does not know or mind."""

    least_v: float
    most_v: float
    load_kind: LoadKind
    load: float
    hours: float
    room_mm: tuple[float, float, float] | None = None
    charger_v: float | None = None
    #: A kind of device that is turned away, by its code; None: none of those.
    device: str | None = None
    #: What stands between pack and device; the voltages are those of its input then, and the load what it takes there.
    converter: Converter | None = None
    #: How the load of the cells' side was worked out.
    worked: Said | None = None


@dataclass(frozen=True, slots=True)
class ShelfKind:
    """Cells of one kind that may stand in a pack: how many, what they usually hold, what each carries all the time."""

    family: Family
    size: Size
    capacity_mah: float
    continuous_a: float
    count: int


@dataclass(frozen=True, slots=True)
class Design:
    """One pack that would do. `used_pct`: how much of the cells' charge the device can use before it stops.

    `enough_mah`: what each group has to hold for the hours that are wanted; more is better spared for another job.
    """

    kind: ShelfKind
    series: int
    parallel: int
    full_v: float
    empty_v: float
    cell_a: float
    hours: float
    energy_wh: float
    used_pct: float
    enough_mah: float
    fits: bool | None  # None: the room is not known
    remarks: tuple[Said, ...]

    @property
    def cells(self) -> int:
        return self.series * self.parallel


@dataclass(frozen=True, slots=True)
class NotProposed:
    kind: ShelfKind
    why: Said


@dataclass(frozen=True, slots=True)
class Proposals:
    """One to three designs, the fewest cells first, and why other kinds were left out."""

    designs: tuple[Design, ...]
    not_proposed: tuple[NotProposed, ...]


def voltages_of_replaced(what: Replaced, count: int) -> tuple[float, float]:
    """The voltages [V] between which a device runs that took so many of these."""
    if not 1 <= count <= _MOST_SERIES:
        raise BadInputError(said("cells-in-device-cannot-be", count=count, most_series=_MOST_SERIES), field="count")
    empty_v, full_v = REPLACED_V[what]
    return count * empty_v, count * full_v


def behind_converter(
    need: Need, converter: Converter, out_v: float, rules: HouseRules, *, input_known: bool = False
) -> Need:
    """A need for volts and amperes, watts or ohms behind a converter, as its input asks for them of the cells.

    The power at its output over its efficiency, as constant power. `input_known`: somebody said what its input takes;
    else a step-up takes from 3 V to just below its output, a step-down from 1 V above it.

    Raises:
        BadInputError: an output that cannot be, or an input that this kind of converter does not have.
    Source: house values for efficiency and room; I_in = P / (efficiency x U_in).
    """
    for field, value in (("out_v", out_v), ("load", need.load)):
        if not (math.isfinite(value) and value > 0):
            raise BadInputError(said("number-above-zero-is-needed-here"), field=field)
    is_up = converter == "step-up"
    least_v, most_v = need.least_v, need.most_v
    if not input_known and is_up:
        least_v, most_v = rules.value(limits.STEP_UP_LEAST_V), out_v
    elif not input_known:
        least_v, most_v = out_v + rules.value(limits.STEP_DOWN_ROOM_V), limits.PACK_FULL_V.value
    if is_up:
        most_v = min(most_v, out_v)
    if is_up and least_v >= out_v:
        raise BadInputError(
            said("step-up-makes-more-of-less", out=volts(out_v)),
            field="least_v",
        )
    if not is_up and most_v <= out_v:
        raise BadInputError(
            said("step-down-makes-less-of-more", out=volts(out_v)),
            field="most_v",
        )
    efficiency = rules.value(limits.CONVERTER_EFFICIENCY if is_up else limits.STEP_DOWN_EFFICIENCY)
    out_w, arithmetic = {
        "power": (need.load, said("output-of-power", load=plain(need.load, "W"))),
        "current": (
            need.load * out_v,
            said("output-of-current", out=plain(out_v, "V"), load=plain(need.load, "A")),
        ),
        "resistor": (
            out_v**2 / need.load,
            said("output-of-resistor", out=plain(out_v, "V"), load=plain(need.load, "Ω")),
        ),
    }[need.load_kind]
    in_w = out_w / efficiency
    worked = said(
        "behind-converter-worked",
        output=arithmetic,
        efficiency=plain(efficiency),
        power=plain(float(f"{in_w:.3g}"), "W"),
        least=volts(least_v),
        most=volts(most_v),
    )
    return replace(
        need, least_v=least_v, most_v=most_v, load_kind="power", load=in_w, converter=converter, worked=worked
    )


def propose_designs(need: Need, kinds: Sequence[ShelfKind], rules: HouseRules) -> Proposals:
    """Packs that would do, of the kinds that lie on the shelf.

    Raises:
        BadInputError: a need that cannot be.
        DangerError: a device that volunteers do not build for, by its kind or its voltage.
    """
    _check(need)
    found = [_design(need, kind, rules) for kind in kinds]
    designs = sorted(
        (design for design in found if isinstance(design, Design)),
        key=lambda design: (design.fits is False, design.cells, -design.used_pct),
    )
    kept = designs[:MOST_DESIGNS]
    return Proposals(
        tuple(kept),
        (
            *(each for each in found if isinstance(each, NotProposed)),
            *(
                NotProposed(design.kind, said("kind-would-do-with-cells", cells=design.cells))
                for design in designs[MOST_DESIGNS:]
            ),
        ),
    )


def _check(need: Need) -> None:
    turned_away = NOT_FOR_THIS_TABLE.get(need.device or "")
    if turned_away:
        raise DangerError(
            said("nothing-is-built-for-it-here", turned_away=turned_away.name, instead=turned_away.instead),
            field="device",
        )
    for field, value in (
        ("least_v", need.least_v),
        ("most_v", need.most_v),
        ("load", need.load),
        ("hours", need.hours),
    ):
        if not (math.isfinite(value) and value > 0):
            raise BadInputError(said("number-above-zero-is-needed-here"), field=field)
    if not need.most_v > need.least_v:
        raise BadInputError(
            said("device-runs-from-to-more", least=volts(need.least_v), most=volts(need.most_v)),
            field="most_v",
        )
    if need.least_v >= limits.PACK_FULL_MOST_V.value:
        raise DangerError(
            said(
                "device-that-starts-at-wants-pack",
                least=volts(need.least_v),
                pack_full_most=Amount(limits.PACK_FULL_MOST_V.value, "V"),
            )
        )


def _design(need: Need, kind: ShelfKind, rules: HouseRules) -> Design | NotProposed:
    full_v = full_voltage_v(kind.family, None)
    if full_v is None or not has_ocv_table(kind.family):
        return NotProposed(kind, said("kind-without-table"))
    possible = _possible_series(need, kind.family, full_v, rules)
    if not possible:
        most = int(need.most_v / full_v + 1e-9)
        if most == 0:
            return NotProposed(
                kind,
                said("one-is-full-above", full=volts(full_v), most=volts(need.most_v), taker=_taker(need)),
            )
        return NotProposed(
            kind,
            said(
                "series-stops-half-full",
                series=most,
                full=volts(most * full_v),
                least=volts(need.least_v),
                taker=_taker(need),
            ),
        )
    found = [_design_of(need, kind, series, full_v, rules) for series in possible]
    designs = [each for each in found if isinstance(each, Design)]
    return min(designs, key=lambda design: (design.cells, -design.used_pct)) if designs else found[-1]


def _taker(need: Need) -> Said:
    return named("taker", "converter" if need.converter else "device")


def _design_of(need: Need, kind: ShelfKind, series: int, full_v: float, rules: HouseRules) -> Design | NotProposed:
    used = _usable(need.least_v / series, kind.family, rules)
    mean_v = series * _mean_v(1 - used, kind.family)
    stops_v = max(series * rules.of(limits.CUT_OFF_V, kind.family), need.least_v)
    current_a, most_a = _current_a(need, mean_v), _most_a(need, mean_v, stops_v)
    parallel = max(
        1, math.ceil(current_a * need.hours * 1000 / (kind.capacity_mah * used) - 1e-9),
        math.ceil(most_a / kind.continuous_a - 1e-9),
    )  # fmt: skip
    if parallel > _MOST_PARALLEL or series * parallel > kind.count:
        return NotProposed(
            kind, said("pack-needs-more-cells", pack=f"{series}S{parallel}P", cells=series * parallel, shelf=kind.count)
        )
    energy_wh = series * parallel * kind.capacity_mah / 1000 * limits.NOMINAL_V[kind.family].value
    too_large = _too_large(series * full_v, energy_wh)
    if too_large:
        return NotProposed(kind, too_large)
    return Design(
        kind, series, parallel, series * full_v, stops_v,
        most_a / parallel, parallel * kind.capacity_mah * used / 1000 / current_a, energy_wh, 100 * used,
        current_a * need.hours * 1000 / used,
        None if need.room_mm is None else fits(kind.size, series * parallel, need.room_mm, rules),
        _remarks(need, kind.family, series, full_v, energy_wh, rules),
    )  # fmt: skip


def _possible_series(need: Need, family: Family, full_v: float, rules: HouseRules) -> list[int]:
    """How many in series would do: at least the house's share of the charge can be used.

    A device alone takes the most that it bears; behind a converter any will do, and whoever asks compares them.
    """
    most = min(int(need.most_v / full_v + 1e-9), _MOST_SERIES)
    least = 1 if need.converter else max(most, 1)
    share = rules.value(limits.USED_LEAST_SHARE)
    return [series for series in range(least, most + 1) if _usable(need.least_v / series, family, rules) >= share]


def _usable(cell_v: float, family: Family, rules: HouseRules) -> float:
    """The share of its charge that a cell gives before its open-circuit voltage falls to this."""
    least_v = max(cell_v, rules.of(limits.CUT_OFF_V, family))
    shares = [index / _SAMPLES for index in range(_SAMPLES + 1)]
    left = next((share for share in shares if open_circuit_v(family, share) >= least_v), 1.0)
    return 1 - left


def _mean_v(from_share: float, family: Family) -> float:
    """The mean open-circuit voltage of a cell from full down to a share of its charge."""
    return fmean(
        open_circuit_v(family, from_share + (1 - from_share) * index / _SAMPLES) for index in range(_SAMPLES + 1)
    )


def _current_a(need: Need, mean_v: float) -> float:
    return {"current": need.load, "power": need.load / mean_v, "resistor": mean_v / need.load}[need.load_kind]


def _most_a(need: Need, mean_v: float, stops_v: float) -> float:
    """The highest current [A]: constant power takes most at the lowest voltage, the others at the highest or always."""
    return need.load / stops_v if need.load_kind == "power" else _current_a(need, mean_v)


def _too_large(full_v: float, energy_wh: float) -> Said | None:
    if full_v > limits.PACK_FULL_MOST_V.value or energy_wh > limits.PACK_ENERGY_MOST_WH.value:
        return said(
            "more-than-volunteers-build",
            full=Amount(full_v, "V", 1),
            energy=Amount(energy_wh, "Wh"),
            full_most=Amount(limits.PACK_FULL_MOST_V.value, "V"),
            energy_most=Amount(limits.PACK_ENERGY_MOST_WH.value, "Wh"),
        )
    return None


def _remarks(
    need: Need, family: Family, series: int, full_v: float, energy_wh: float, rules: HouseRules
) -> tuple[Said, ...]:
    remarks = [need.worked] if need.worked else []
    if series * full_v > limits.PACK_FULL_V.value or energy_wh > limits.PACK_ENERGY_WH.value:
        remarks.append(
            said(
                "coordinator-has-to-say-yes",
                full=Amount(limits.PACK_FULL_V.value, "V"),
                energy=Amount(limits.PACK_ENERGY_WH.value, "Wh"),
            )
        )
    if need.charger_v is not None and abs(need.charger_v - series * full_v) > limits.CHARGED_WITHIN_V.value * series:
        remarks.append(
            said("charger-at-hand-is-wrong", ends=volts(need.charger_v), series=series, wanted=volts(series * full_v))
        )
    if series > 1:
        remarks.append(said("series-wants-board"))
    else:
        cut_off_v = rules.of(limits.CUT_OFF_V, family)
        remarks.append(said("one-group-wants-cut-off", cut_off=volts(cut_off_v)))
    return tuple(remarks)


def fits(size: Size, cells: int, room_mm: tuple[float, float, float], rules: HouseRules) -> bool:
    """Whether so many cells stand in a box in straight rows, all one way, with some play for each."""
    play = rules.value(limits.ROOM_PLAY_MM)
    thickness = size.thickness_mm if size.thickness_mm is not None else size.width_mm
    outline = (size.width_mm + play, size.length_mm + play, thickness + play)
    return any(
        math.prod(int(room / side) for room, side in zip(room_mm, turned, strict=True)) >= cells
        for turned in permutations(outline)
    )
