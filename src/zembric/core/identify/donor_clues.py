"""What a donor tells before a cell is measured: its print, its board, and how it failed."""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from zembric.core.errors import BadInputError
from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.said import said, volts
from zembric.core.words import amount, listed

Symptom = Literal["runs-short", "cuts-out", "dead", "does-not-charge", "unused", "wet-or-dropped", "none", "unknown"]
SYMPTOMS = MappingProxyType(
    {
        "runs-short": "Runs much shorter than it did",
        "cuts-out": "Goes off when it has to work",
        "dead": "Does nothing at all",
        "does-not-charge": "Does not charge",
        "unused": "Lay unused for years",
        "wet-or-dropped": "Got wet or was dropped",
        "none": "Nothing wrong with its cells",
        "unknown": "Nobody knows",
    }
)
_EXPECT = MappingProxyType(
    {
        "runs-short": "Expect tired cells, or one weak group among good ones: compare the siblings.",
        "cuts-out": "Expect high resistance: the voltage sags under load. The capacity may still be fair for small currents.",
        "dead": "Expect a tripped board or deeply emptied cells: measure at the cells' own ends, not at the plug.",
        "does-not-charge": "Expect a fault outside the cells, or one group far below the others, which the board refuses.",
        "unused": "Expect low voltages. What still stands above the limit is often nearly new; watch its self-discharge.",
        "wet-or-dropped": "Expect corrosion, dents and hidden shorts: look twice, and do not stack these cells.",
        "none": "Expect good cells: the device died of something else.",
        "unknown": "Expect anything: nobody knows what these cells went through, so look at and measure every one.",
    }
)
_NOMINALS = (
    (Family.LAYERED_OXIDE, (3.6, 3.7)),
    (Family.HIGH_VOLTAGE_COBALT, (3.8, 3.85, 3.87)),
    (Family.IRON_PHOSPHATE, (3.2,)),
    (Family.TITANATE, (2.3, 2.4)),
)
_MOST_SERIES = 20


def expect_from_symptom(symptom: Symptom, ran_min: float | None, runs_now_min: float | None) -> str:
    """What the way a donor failed says about its cells, with the share that is left where both run times are known.

    Raises:
        BadInputError: it runs longer now than it ever did, or a time is not positive.
    """
    expectation = _EXPECT[symptom]
    if ran_min is None or runs_now_min is None:
        return expectation
    if ran_min <= 0 or runs_now_min < 0:
        raise BadInputError(said("run-times-are-minutes-above-zero"), field="ran_min")
    if runs_now_min > ran_min:
        raise BadInputError(said("it-runs-longer-now"), field="ran_min")
    left_pct = 100 * runs_now_min / ran_min
    return (
        f"{_minutes(runs_now_min)} of {_minutes(ran_min)} are {amount(left_pct, '%')}: its weakest group gives no more than "
        f"that at the device's current. {expectation}"
    )


def _minutes(minutes: float) -> str:
    return amount(minutes / 60, "h", 1) if minutes >= 120 else amount(minutes, "min")


@dataclass(frozen=True, slots=True)
class PackReading:
    """One way to read a pack's print: so many in series and parallel, and what each cell would hold [mAh]."""

    family: Family
    nominal_v: float
    series: int
    parallel: int
    cell_mah: float | None


@dataclass(frozen=True, slots=True)
class PackPrint:
    """What the print on a pack means for its cells; `remark` where its figures do not agree."""

    readings: tuple[PackReading, ...]
    remark: str | None


def read_pack_print(volts_v: float, cells: int, wh: float | None = None, mah: float | None = None) -> PackPrint:
    """From a pack's printed voltage, energy or charge and its number of cells: how it is built and what a cell claims.

    Raises:
        BadInputError: no number in series gives that voltage with so many cells.
    Source: nominal voltages of the families; energy = voltage times charge.
    """
    readings = tuple(
        PackReading(family, nominal, series, cells // series, _cell_mah(nominal, cells, series, wh, mah))
        for family, nominals in _NOMINALS
        for nominal in nominals
        for series in range(1, min(cells, _MOST_SERIES) + 1)
        if cells % series == 0 and abs(volts_v / series - nominal) <= limits.PRINT_NOMINAL_WITHIN_V.value + 1e-9
    )
    if not readings:
        raise BadInputError(
            said("do-not-come-from-lithium-cells", volts=volts(volts_v), cells=cells),
            field="claimed_v",
        )
    remark = None
    if wh and mah and abs(volts_v * mah / 1000 / wh - 1) > limits.PRINT_DIFFERS_SHARE.value:
        remark = f"{amount(volts_v, 'V', 2)} times {amount(mah, 'mAh')} are {amount(volts_v * mah / 1000, 'Wh')}, not {amount(wh, 'Wh')}: one of them is wrong."
    return PackPrint(readings, remark)


def _cell_mah(nominal_v: float, cells: int, series: int, wh: float | None, mah: float | None) -> float | None:
    if wh:
        return 1000 * wh / (nominal_v * cells)
    return mah * series / cells if mah else None


def program_current_ma(k_v: float, r1_ohm: float, r2_ohm: float | None = None) -> float:
    """Charge current [mA] that a linear charger's resistor sets: I = K / R, two resistors in parallel.

    Source: data sheets of resistor-programmed linear chargers, K 1000 to 1200 V.
    """
    if k_v <= 0 or r1_ohm <= 0 or (r2_ohm is not None and r2_ohm <= 0):
        raise BadInputError(said("k-and-resistors-are-above-zero"), field="r1_ohm")
    resistance_ohm = r1_ohm if r2_ohm is None else 1 / (1 / r1_ohm + 1 / r2_ohm)
    return 1000 * k_v / resistance_ohm


@dataclass(frozen=True, slots=True)
class InPlaceAdvice:
    """Whether a donor's own charger suits the cell in it; `is_refused`: no cell is charged by it."""

    text: str
    is_refused: bool = False


def charge_in_place_advice(
    board_ma: float | None, believed_mah: float | None, most_mah: float | None = None
) -> InPlaceAdvice:
    """Whether a donor's own charger suits the cell in it.

    Args:
        board_ma: What the charger is set to; None: not known.
        believed_mah: What the cell holds, measured or rated, never a claim; None: not known yet.
        most_mah: The most that a cell of its size can hold; where that is too little, nobody has to measure first.
    """
    if board_ma is None:
        return InPlaceAdvice("Its charger's current is not known: watch the first charge from beginning to end.")
    board, ends = amount(board_ma, "mA"), amount(board_ma * limits.MODULE_END_SHARE.value, "mA")
    holds_mah = believed_mah or most_mah
    if holds_mah is None:
        return InPlaceAdvice(f"Its board charges at {board}; what the cell holds is not known yet, so stay with it.")
    if board_ma > holds_mah * limits.CHARGE_RATE_MOST_C.value + 1e-9:
        why = "(1 C) this cell takes" if believed_mah else "(1 C) that the largest cell of this size takes"
        return InPlaceAdvice(
            f"Its board charges at {board}, more than the {amount(holds_mah, 'mA')} {why}: do not charge it in place. It would "
            f"also end at {ends}, long before such a cell is full. A larger programming resistor would mend that.",
            is_refused=True,
        )
    if believed_mah is None:
        return InPlaceAdvice(
            f"Its board charges at {board} and ends at {ends}; what the cell holds is not known yet, so stay with it."
        )
    return InPlaceAdvice(
        f"Its board charges at {board}, {amount(board_ma / believed_mah, 'C', 1)} of what the cell holds, and ends at {ends}: fits."
    )


@dataclass(frozen=True, slots=True)
class GroupVoltage:
    """One group of a pack whose cells are still joined [V], and how far it lies from the middle of the others."""

    number: int
    value_v: float
    gap_v: float | None


def compare_groups(voltages_v: list[float], gap_v: float) -> tuple[tuple[GroupVoltage, ...], str]:
    """The groups of a joined pack side by side; a gap only where it is larger than the given one [V], and what it means.

    They are held against the middle one, of an even number against the upper of the two: leaks only pull down.
    """
    middle = sorted(voltages_v)[len(voltages_v) // 2]
    groups = tuple(
        GroupVoltage(
            number, value, value - middle if len(voltages_v) > 1 and abs(value - middle) > gap_v + 1e-9 else None
        )
        for number, value in enumerate(voltages_v, 1)
    )
    odd = [group for group in groups if group.gap_v is not None]
    if not odd:
        return groups, f"All groups within {amount(gap_v, 'V', 2)}: nothing stands out."
    low = [str(group.number) for group in odd if (group.gap_v or 0) < 0]
    high = [str(group.number) for group in odd if (group.gap_v or 0) > 0]
    said = []
    if low:
        said.append(f"Group {listed(low)} stands below the others: a cell in it leaks or is worn. Watch its cells.")
    if high:
        said.append(f"Group {listed(high)} stands above the others: look whether the others are the weak ones.")
    return groups, " ".join(said)
