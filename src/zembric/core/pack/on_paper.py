"""A pack of cells that lie here, run on paper: how long with what the figures leave open, what ends it, who carries too much.

Charge is full, or follows from the resting voltages where they tell it; resistances are as they were measured, which is said
where a method shows less than a load will find.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import TYPE_CHECKING, Literal

import numpy as np

from zembric.core.errors import ConflictError
from zembric.core.house import limits
from zembric.core.identify.families import has_ocv_table, ocv_table, state_of_charge
from zembric.core.run import Curve, RunCell, RunPack, run_at_a_look, run_over_time, run_pack, run_times
from zembric.core.said import Amount, Said, named, said

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

    from numpy.typing import NDArray

    from zembric.core.house.limits import Family
    from zembric.core.house.rules import HouseRules
    from zembric.core.run import Load, PackRun, RunOverTime

    Floats = NDArray[np.float64]

StartsFrom = Literal["full", "as-they-lie"]
#: So many packs are drawn within what the figures leave open, and so many cells in all of them.
_DRAWN, _DRAWN_CELLS, _DRAWN_LEAST = 200, 8000, 20
#: Between these shares of the drawn packs the run ends.
_LOW, _HIGH = 0.05, 0.95
_LEAST_SHARE = 0.05
#: So many moments of a run are told, of many cells fewer.
_MOMENTS, _MOMENTS_LEAST, _TOLD_CELLS = 120, 30, 6000


@dataclass(frozen=True, slots=True)
class PaperCell:
    """A cell with what a run needs of it; None where it is not known. `u` are standard uncertainties."""

    number: str
    capacity_mah: float
    capacity_u_mah: float
    resistance_mohm: float | None
    resistance_u_mohm: float | None
    resistance_method: str | None
    resting_v: float | None
    carries_a: float | None
    #: How long ago its resting voltage was read [d].
    resting_days: float = 0.0


@dataclass(frozen=True, slots=True)
class PaperLoad:
    """What the cells are run under: a load while it is on, and what lies between.

    `on_share` of the time it is on; `standing_ma` flows always; below `least_pack_v` [V] nothing is gained any more;
    `wiring_mohm` lies in series with the pack, `contact_mohm` with each cell.
    """

    load: Load
    on_share: float = 1.0
    standing_ma: float = 0.0
    least_pack_v: float = 0.0
    wiring_mohm: float = 0.0
    contact_mohm: float = 0.0

    def lasts_s(self, run: PackRun, seconds: float) -> float:
        """How long it lasts [s] where the load, on all the time, would run so long.

        The charge of the run is taken by the load in its share of the time and by what flows always.
        """
        if not run.seconds:
            return 0.0
        mean_ma = run.charge_ah * 1000 / (run.seconds / 3600)
        return seconds / (self.on_share + self.standing_ma / mean_ma)


@dataclass(frozen=True, slots=True)
class PaperRun:
    """The run, how long it lasts [s] with the band in which nine of ten such packs end, and how voltages go.

    It lasts longer than it runs where the load is not on all the time.
    """

    pack: RunPack
    run: PackRun
    lasts_s: float
    shortest_s: float
    longest_s: float
    over_time: RunOverTime
    cutoff_v: float
    #: What each cell may give all the time [A], by its number; None: not known.
    carries_a: Mapping[str, float | None]
    remarks: tuple[Said, ...]
    #: Whether a band was drawn; else its ends are the run's own.
    has_band: bool = True


def run_on_paper(
    groups: Sequence[Sequence[PaperCell]],
    family: Family,
    under: PaperLoad,
    starts_from: StartsFrom,
    rules: HouseRules,
    *,
    with_band: bool = True,
) -> PaperRun:
    """Runs the pack down to the house's cut-off of its family, or to where nothing is gained any more.

    Without a band (for a look that has to be quick) its ends are those of the run itself.

    Raises:
        ConflictError: a cell without a figure that the run needs, a charge that its voltage does not tell, or a family
            of which no table is known.
        RefusedRunError: it cannot be run, such as from below its cut-off.
    """
    if not has_ocv_table(family):
        raise ConflictError(said("kind-without-table"), code="no-table")
    _refuse_unknown([cell for group in groups for cell in group])
    charges = [[_charge(cell, family, starts_from, rules) for cell in group] for group in groups]
    flat = [each for group in charges for each in group]
    if any(high - low > rules.value(limits.PAPER_CHARGE_BAND) for _, low, high in flat):
        unclear = tuple(
            cell.number
            for cell, (_, low, high) in zip((c for group in groups for c in group), flat, strict=True)
            if high - low > rules.value(limits.PAPER_CHARGE_BAND)
        )
        raise ConflictError(
            said("charge-not-told-by-voltage", cells=unclear), code="charge-not-known", field="starts_from"
        )
    cells = tuple(
        tuple(
            RunCell(cell.number, family, cell.capacity_mah, (cell.resistance_mohm or 0) + under.contact_mohm, soc)
            for cell, (soc, _, _) in zip(group, known, strict=True)
        )
        for group, known in zip(groups, charges, strict=True)
    )
    pack, run, over_time = _run_once(
        family, cells, under.load, rules.of(limits.CUT_OFF_V, family), under.least_pack_v, under.wiring_mohm,
        is_a_look=not with_band,
    )  # fmt: skip
    shortest_s, longest_s = run.seconds, run.seconds
    if with_band:
        unsaid_u = rules.value(limits.PAPER_RESISTANCE_PCT) / 100
        left_open = tuple(
            _LeftOpen(
                cell.capacity_mah, cell.capacity_u_mah, cell.resistance_mohm or 0.0,
                cell.resistance_u_mohm or unsaid_u * (cell.resistance_mohm or 0.0), low, high,
            )
            for cell, (_, low, high) in zip((cell for group in groups for cell in group), flat, strict=True)
        )  # fmt: skip
        shortest_s, longest_s = _band(pack, under.contact_mohm, left_open)
    return PaperRun(
        pack,
        run,
        under.lasts_s(run, run.seconds),
        under.lasts_s(run, min(shortest_s, run.seconds)),
        under.lasts_s(run, max(longest_s, run.seconds)),
        over_time,
        pack.cutoff_group_v,
        {cell.number: cell.carries_a for group in groups for cell in group},
        _remarks(groups, run, rules),
        with_band,
    )


@lru_cache(maxsize=32)
def _run_once(
    family: Family,
    cells: tuple[tuple[RunCell, ...], ...],
    load: Load,
    cutoff_group_v: float,
    cutoff_pack_v: float,
    wiring_mohm: float,
    *,
    is_a_look: bool,
) -> tuple[RunPack, PackRun, RunOverTime]:
    """While a pack is built and proved, the same run is asked for at every step."""
    pack = RunPack({family: Curve(*ocv_table(family))}, cells, load, cutoff_group_v, cutoff_pack_v, wiring_mohm)
    moments = max(_MOMENTS_LEAST, min(_MOMENTS, _TOLD_CELLS // sum(map(len, cells))))
    return pack, *(run_at_a_look(pack, moments) if is_a_look else (run_pack(pack), run_over_time(pack, moments)))


@lru_cache(maxsize=64)
def run_further(pack: RunPack, cutoff_group_v: float, cutoff_pack_v: float) -> PackRun:
    """The run of a pack on paper to another end [V].

    Raises:
        RefusedRunError: it cannot be run to there.
    """
    return run_pack(replace(pack, cutoff_group_v=cutoff_group_v, cutoff_pack_v=cutoff_pack_v))


def _refuse_unknown(cells: Sequence[PaperCell]) -> None:
    without = tuple(cell.number for cell in cells if not cell.resistance_mohm or not cell.capacity_mah)
    if without:
        raise ConflictError(said("run-wants-figures", cells=without), code="no-resistance")


def _charge(cell: PaperCell, family: Family, starts_from: StartsFrom, rules: HouseRules) -> tuple[float, float, float]:
    """State of charge, and between which it may lie by what the meter leaves open."""
    if starts_from == "full":
        return 1.0, 1.0, 1.0
    if cell.resting_v is None:
        raise ConflictError(
            said("charge-wants-voltage", cell=cell.number), code="charge-not-known", field="starts_from"
        )
    wrong_v = cell.resting_v * rules.value(limits.PAPER_VOLTAGE_PCT) / 100
    low, high = (state_of_charge(family, cell.resting_v + sign * wrong_v) for sign in (-1, 1))
    return state_of_charge(family, cell.resting_v), low, high


@dataclass(frozen=True, slots=True)
class _LeftOpen:
    """A cell's capacity [mAh] and resistance [mOhm] with their standard uncertainties, and between which its charge lies."""

    capacity_mah: float
    capacity_u_mah: float
    resistance_mohm: float
    resistance_u_mohm: float
    least_soc: float
    most_soc: float


@lru_cache(maxsize=32)
def _band(pack: RunPack, contact_mohm: float, cells: tuple[_LeftOpen, ...]) -> tuple[float, float]:
    """Between which times nine of ten packs end whose figures are drawn from what is left open."""
    count = max(_DRAWN_LEAST, min(_DRAWN, _DRAWN_CELLS // len(cells)))
    rng = np.random.default_rng(0)
    capacity = np.array([c.capacity_mah for c in cells])
    capacity_u = np.array([c.capacity_u_mah for c in cells])
    mohm = np.array([c.resistance_mohm for c in cells])
    mohm_u = np.array([c.resistance_u_mohm for c in cells])
    drawn_mah = np.maximum(rng.normal(capacity, capacity_u, (count, len(cells))), _LEAST_SHARE * capacity)
    drawn_mohm = contact_mohm + np.maximum(rng.normal(mohm, mohm_u, (count, len(cells))), _LEAST_SHARE * mohm)
    drawn_soc = rng.uniform([c.least_soc for c in cells], [c.most_soc for c in cells], (count, len(cells)))
    packs = []
    for mah, ohm, soc in zip(drawn_mah.tolist(), drawn_mohm.tolist(), drawn_soc.tolist(), strict=True):
        drawn = iter(zip(mah, ohm, soc, strict=True))
        packs.append([[RunCell(cell.key, cell.chemistry, *next(drawn)) for cell in group] for group in pack.groups])
    seconds = run_times(
        pack.curves, packs, pack.load, pack.cutoff_group_v, pack.cutoff_pack_v, pack.wiring_mohm, is_about=True
    )  # fmt: skip
    low, high = np.quantile(seconds, (_LOW, _HIGH))
    return float(low), float(high)


def _remarks(groups: Sequence[Sequence[PaperCell]], run: PackRun, rules: HouseRules) -> tuple[Said, ...]:
    remarks = [said("paper-limits")]
    methods = {cell.resistance_method for group in groups for cell in group}
    if "ac-1khz" in methods:
        remarks.append(said("paper-ac-is-less", method=named("told-method", "ac-1khz")))
    if len(methods) > 1:
        remarks.append(said("paper-methods-mixed"))
    rate_c = max(
        cell.peak_discharge_a / (planned.capacity_mah / 1000)
        for group, told in zip(groups, run.groups, strict=True)
        for planned, cell in zip(group, told.cells, strict=True)
    )
    if rate_c > rules.value(limits.PAPER_OPTIMISTIC_C):
        remarks.append(said("paper-optimistic", rate=Amount(rate_c, "C", 1)))
    return tuple(remarks)
