"""What a donor tells before a cell is measured: its print, its board, and how it failed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from zembric.core.errors import BadInputError
from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.said import Amount, Said, named, one_after_another, said, volts

Symptom = Literal["runs-short", "cuts-out", "dead", "does-not-charge", "unused", "wet-or-dropped", "none", "unknown"]
SYMPTOMS: tuple[Symptom, ...] = get_args(Symptom)
_NOMINALS = (
    (Family.LAYERED_OXIDE, (3.6, 3.7)),
    (Family.HIGH_VOLTAGE_COBALT, (3.8, 3.85, 3.87)),
    (Family.IRON_PHOSPHATE, (3.2,)),
    (Family.TITANATE, (2.3, 2.4)),
)
_MOST_SERIES = 20


def expect_from_symptom(symptom: Symptom, ran_min: float | None, runs_now_min: float | None) -> Said:
    """What the way a donor failed says about its cells, with the share that is left where both run times are known.

    Raises:
        BadInputError: it runs longer now than it ever did, or a time is not positive.
    """
    expectation = named("expect", symptom)
    if ran_min is None or runs_now_min is None:
        return expectation
    if ran_min <= 0 or runs_now_min < 0:
        raise BadInputError(said("run-times-are-minutes-above-zero"), field="ran_min")
    if runs_now_min > ran_min:
        raise BadInputError(said("it-runs-longer-now"), field="ran_min")
    left_pct = 100 * runs_now_min / ran_min
    return said(
        "expect-share-left",
        now=_minutes(runs_now_min),
        before=_minutes(ran_min),
        left=Amount(left_pct, "%"),
        expectation=expectation,
    )


def _minutes(minutes: float) -> Amount:
    return Amount(minutes / 60, "h", 1) if minutes >= 120 else Amount(minutes, "min")


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
    remark: Said | None


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
        remark = said(
            "print-differs",
            voltage=volts(volts_v),
            charge=Amount(mah, "mAh"),
            energy=Amount(volts_v * mah / 1000, "Wh"),
            printed=Amount(wh, "Wh"),
        )
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

    said: Said
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
        return InPlaceAdvice(said("in-place-unknown"))
    board, ends = Amount(board_ma, "mA"), Amount(board_ma * limits.MODULE_END_SHARE.value, "mA")
    holds_mah = believed_mah or most_mah
    if holds_mah is None:
        return InPlaceAdvice(said("in-place-unknown-cell", board=board))
    if board_ma > holds_mah * limits.CHARGE_RATE_MOST_C.value + 1e-9:
        most = Amount(holds_mah, "mA")
        if believed_mah:
            refused = said("in-place-too-strong", board=board, most=most, ends=ends)
        else:
            refused = said("in-place-too-strong-for-size", board=board, most=most, ends=ends)
        return InPlaceAdvice(refused, is_refused=True)
    if believed_mah is None:
        return InPlaceAdvice(said("in-place-unmeasured", board=board, ends=ends))
    return InPlaceAdvice(said("in-place-fits", board=board, rate=Amount(board_ma / believed_mah, "C", 1), ends=ends))


@dataclass(frozen=True, slots=True)
class GroupVoltage:
    """One group of a pack whose cells are still joined [V], and how far it lies from the middle of the others."""

    number: int
    value_v: float
    gap_v: float | None


def compare_groups(voltages_v: list[float], gap_v: float) -> tuple[tuple[GroupVoltage, ...], Said]:
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
        return groups, said("groups-even", within=volts(gap_v))
    low = tuple(str(group.number) for group in odd if (group.gap_v or 0) < 0)
    high = tuple(str(group.number) for group in odd if (group.gap_v or 0) > 0)
    found = []
    if low:
        found.append(said("groups-low", groups=low, count=len(low)))
    if high:
        found.append(said("groups-high", groups=high, count=len(high)))
    return groups, one_after_another(found)
