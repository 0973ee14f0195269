"""A good device with a poor cell: which cells of the shelf may stand in for it, how long it runs then, and its charger.

And what stands in for other cells: so many alkaline, nickel or lead cells beside ours.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from zembric.core.electric.resistors import e12_at_least_ohm
from zembric.core.errors import BadInputError, DangerError
from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.identify.families import full_voltage_v, has_ocv_table, open_circuit_v
from zembric.core.match.needs import Replaced, voltages_of_replaced
from zembric.core.said import Amount, Said, named, plain, said, volts

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.house.rules import HouseRules
    from zembric.core.identify.sizes import Size

Seat = Literal["tabs", "holder", "soldered"]
MOST_OFFERED = 12


@dataclass(frozen=True, slots=True)
class PoorDevice:
    """A device whose cell is to be replaced. Room [mm] is that of the old cell or more; a cylinder has a width and a length.

    `held_mah` is what the old cell held when it was new; `draws_ma` what the device takes in the mean, `peak_ma` at most.
    `charger_k_v` and `charger_ohm` are its linear charger's constant and resistor. None: not known.
    """

    family: Family
    full_v: float | None
    room: Size
    held_mah: float
    draws_ma: float | None = None
    peak_ma: float | None = None
    charger_k_v: float | None = None
    charger_ohm: float | None = None
    has_sensor: bool = False
    seat: Seat = "tabs"
    #: Its old cell carried a protection of its own, on which the device counts.
    counts_on_protection: bool = False


@dataclass(frozen=True, slots=True)
class ShelfCell:
    """A free cell of the shelf as it may stand in."""

    number: str
    family: Family
    full_v: float | None
    size: Size
    capacity_mah: float
    carries_a: float | None
    has_protection: bool


@dataclass(frozen=True, slots=True)
class StandIn:
    """A cell that fits: how many times as long it runs as the old one did when new, hours where that is known, and what to
    know of it. `charge_c`: at what rate the device would charge it as it is; `resistor_ohm`: what its charger wants."""

    cell: ShelfCell
    times_as_long: float
    hours: float | None
    charge_c: float | None
    resistor_ohm: float | None
    remarks: tuple[Said, ...]


@dataclass(frozen=True, slots=True)
class Recell:
    """The cells that fit, the longest run first; why others do not; and what must not be done."""

    stand_ins: tuple[StandIn, ...]
    left_out: tuple[tuple[Said, int], ...]
    never: tuple[Said, ...]


def find_stand_ins(device: PoorDevice, shelf: Sequence[ShelfCell], rules: HouseRules) -> Recell:
    """Cells that may stand in.

    Raises:
        DangerError: its cell is a primary one, which nothing rechargeable stands in for by itself.
        BadInputError: a figure that cannot be.
    """
    if device.family is Family.PRIMARY:
        raise DangerError(said("recell-never-primary"), field="family")
    for field in ("held_mah", "draws_ma", "peak_ma", "charger_k_v", "charger_ohm"):
        value = getattr(device, field)
        if value is not None and not value > 0:
            raise BadInputError(said("number-above-zero-is-needed-here"), field=field)
    why: dict[Said, int] = {}
    fitting = []
    for cell in shelf:
        objection = _objection(device, cell, rules)
        if objection is None:
            fitting.append(_stand_in(device, cell))
        else:
            why[objection] = why.get(objection, 0) + 1
    fitting.sort(key=lambda each: (-each.times_as_long, each.cell.number))
    left_out = tuple(sorted(why.items(), key=lambda each: -each[1]))
    return Recell(tuple(fitting[:MOST_OFFERED]), left_out, _never(device))


def _objection(device: PoorDevice, cell: ShelfCell, rules: HouseRules) -> Said | None:
    if cell.family is not device.family:
        return named("recell-not", "family")
    if full_voltage_v(cell.family, cell.full_v) != full_voltage_v(device.family, device.full_v):
        return named("recell-not", "full-voltage")
    if not fits_room(cell.size, device.room, device.seat, rules):
        return named("recell-not", "size")
    if device.peak_ma is not None and cell.carries_a is not None and device.peak_ma / 1000 > cell.carries_a:
        return named("recell-not", "current")
    if device.counts_on_protection and not cell.has_protection:
        return named("recell-not", "protection")
    return None


def fits_room(size: Size, room: Size, seat: Seat, rules: HouseRules) -> bool:
    """Whether a cell fits where another was: never larger; in a holder nearly as long too, so that its springs press.

    Flat cells keep what the house asks free of their thickness for swelling only where the room is more than their own:
    the old cell's own outline had that already.
    """
    if (size.thickness_mm is None) != (room.thickness_mm is None):
        return False
    play = limits.SIZE_NEAR_ACROSS_MM
    if size.thickness_mm is None or room.thickness_mm is None:
        if seat == "holder" and size.length_mm < room.length_mm - rules.value(limits.SIZE_NEAR_ALONG_MM):
            return False
        return (
            size.width_mm <= room.width_mm + rules.value(play) / 2
            and size.length_mm <= room.length_mm + rules.value(play) / 2
        )
    return (
        size.thickness_mm <= room.thickness_mm and size.width_mm <= room.width_mm and size.length_mm <= room.length_mm
    )


def _stand_in(device: PoorDevice, cell: ShelfCell) -> StandIn:
    remarks = []
    charge_c = resistor_ohm = None
    if device.charger_k_v is not None and device.charger_ohm is not None:
        charge_c = 1000 * device.charger_k_v / device.charger_ohm / cell.capacity_mah
        resistor_ohm = e12_at_least_ohm(1000 * device.charger_k_v / (limits.CHARGE_RATE_C.value * cell.capacity_mah))
        rate, resistor = Amount(charge_c, "C", 2), plain(resistor_ohm, "Ω")
        if charge_c > limits.CHARGE_RATE_C.value + 1e-9:
            remarks.append(said("recell-charger-too-fast", rate=rate, resistor=resistor))
        elif charge_c < limits.CHARGE_RATE_C.value / 2:
            remarks.append(said("recell-charger-slow", rate=rate, resistor=resistor))
    if cell.carries_a is None and device.peak_ma is not None:
        remarks.append(said("recell-current-unknown"))
    return StandIn(
        cell, cell.capacity_mah / device.held_mah, cell.capacity_mah / device.draws_ma if device.draws_ma else None,
        charge_c, resistor_ohm, tuple(remarks),
    )  # fmt: skip


def _never(device: PoorDevice) -> tuple[Said, ...]:
    found = ["polarity", "heat", "press"] if device.room.thickness_mm is not None else ["polarity", "heat"]
    if device.has_sensor:
        found.append("sensor")
    if device.counts_on_protection:
        found.append("protection")
    if device.charger_ohm is None:
        found.append("charger")
    return tuple(named("recell-never", each) for each in found)


# --- In the place of other cells --------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class Beside:
    """So many of ours in a row beside what is replaced: both windows [V], and how much of our charge lies in the old one."""

    family: Family
    series: int
    empty_v: float
    full_v: float
    used_share: float


@dataclass(frozen=True, slots=True)
class InThePlace:
    """The window of what is replaced [V], ours beside it, the best first; and what its old charger must never do."""

    empty_v: float
    full_v: float
    beside: tuple[Beside, ...]
    never: tuple[Said, ...]


_FAMILIES = (Family.LAYERED_OXIDE, Family.IRON_PHOSPHATE)
_STEPS = 100


def in_the_place_of(what: Replaced, count: int, rules: HouseRules) -> InThePlace:
    """Our cells beside so many alkaline, nickel or lead cells.

    Raises:
        BadInputError: a number of cells that cannot be.
    """
    old_empty_v, old_full_v = voltages_of_replaced(what, count)
    beside = []
    for family in _FAMILIES:
        cell_full_v, cell_empty_v = full_voltage_v(family, None) or 0.0, rules.of(limits.CUT_OFF_V, family)
        for series in range(1, count + 1):
            share = _share_within(family, old_empty_v / series, old_full_v / series, cell_empty_v)
            if share > 0:
                beside.append(Beside(family, series, series * cell_empty_v, series * cell_full_v, share))
    beside.sort(key=lambda each: (-round(each.used_share, 2), each.series))
    ours = beside[0] if beside else None
    never = [
        said(
            f"never-old-charger-{what}", old=volts(old_full_v),
            ours=volts(ours.full_v) if ours else volts(0), cell=volts(old_full_v / count),
        )
    ]  # fmt: skip
    return InThePlace(old_empty_v, old_full_v, tuple(beside[:MOST_BESIDE]), tuple(never))


MOST_BESIDE = 4


def _share_within(family: Family, least_v: float, most_v: float, empty_v: float) -> float:
    """Of a cell's charge down to its cut-off, the share at voltages that the old cells had."""
    assert has_ocv_table(family)
    points = [open_circuit_v(family, (index + 0.5) / _STEPS) for index in range(_STEPS)]
    held = [volt for volt in points if volt >= empty_v]
    return sum(least_v <= volt <= most_v for volt in held) / len(held) if held else 0.0
