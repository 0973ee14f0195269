"""What a check says, and what it is made on."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal, TypedDict

from zembric.core.said import Amount, Said, named

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.house.limits import Family, Kind, Limit
    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.on_paper import PaperCell, PaperRun
    from zembric.core.pack.parts import PackPlan
    from zembric.core.run import CellRun

CheckState = Literal["holds", "look", "stop"]
CheckKey = Literal[
    "run-time", "end-house", "end-board", "end-device", "energy", "promise-hours", "promise-power", "promise-charge", "window-above", "window-below", "window-share", "drop-out", "regulator-heat", "converter-input", "converter-output",
    "standing-drain", "cell-current", "one-cell-lost", "motor-start", "charger", "charger-full", "charger-current",
    "charge-hours", "supply-volts", "supply-current", "module-heat", "charging-while-used", "lamp", "charging-cold",
    "low-cut-off", "balance", "board-groups", "board-over", "board-under", "board-current", "bleed-time", "board-sleeps", "own-protection", "wire", "strip", "wiring-drop", "switch", "connector", "holder", "fuse", "cell-fuses", "pack-volts", "pack-energy", "transport",
    "layout-fits", "layout-touching", "layout-reach", "layout-strip", "layout-ways",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class BenchSum:
    """A bench sum by its name, and what its form is filled in with."""

    name: str
    values: tuple[tuple[str, str], ...]


def bench_sum(name: str, **values: float | str) -> BenchSum:
    return BenchSum(
        name, tuple((key, each if isinstance(each, str) else f"{each:.6g}") for key, each in values.items())
    )


@dataclass(frozen=True, slots=True)
class Check:
    """One line: how it stands, the value against its limit, the arithmetic, and what would mend it.

    `place`: which of several such parts, from 1; 0: there is one. `may_be_waived`: a coordinator may let a stop pass, with
    a reason; what protects people nobody lets pass.
    """

    key: CheckKey
    state: CheckState
    worked: Said
    value: Amount | None = None
    limit: Amount | None = None
    #: What kind of number the limit is; None: somebody said it.
    kind: Kind | None = None
    mend: Said | None = None
    may_be_waived: bool = False
    place: int = 0
    #: The bench sum that works it out, with the pack's own values by their keys; None: there is none.
    bench_sum: BenchSum | None = None

    @property
    def name(self) -> Said:
        return named("check", self.key)

    @property
    def why(self) -> Said:
        return named("check-why", self.key)

    @property
    def id(self) -> str:
        return f"{self.key}-{self.place}" if self.place else self.key


@dataclass(frozen=True, slots=True)
class PlanRuns:
    """What the pack does on paper under its load.

    `most_a` is the pack's highest current down to the end of the run [A]; `worst_a` the highest there can be before the
    board or the device cuts off, which a steady power draws below that end. `least_v` and `most_v` its lowest and highest voltage [V] under it. How long
    it would go on to the board's cut-off and to where the device itself ends it [s]; None: there is none, or the cells
    would be ruined before.
    """

    paper: PaperRun
    most_a: float
    worst_a: float
    least_v: float
    most_v: float
    board_s: float | None
    device_s: float | None
    #: And to the house's cut-off, where the device ends it before [s].
    house_s: float | None
    #: The share of the energy that is given while the pack stands within the device's window; None: not looked at.
    share_in_window: float | None

    def peak_a(self, cell: CellRun) -> float:
        """What a cell gives at the pack's worst current [A]."""
        return cell.peak_discharge_a * self.worst_a / self.most_a if self.most_a else cell.peak_discharge_a


@dataclass(frozen=True, slots=True)
class Checked:
    """A pack with its plan; `runs` None: it could not be run, and why."""

    groups: Sequence[Sequence[PaperCell]]
    family: Family
    cell_full_v: float
    nominal_v: float
    plan: PackPlan
    rules: HouseRules
    runs: PlanRuns | None
    why_not_run: Said | None = None

    @property
    def series(self) -> int:
        return len(self.groups)

    @property
    def parallel(self) -> int:
        return max(len(group) for group in self.groups)

    @property
    def full_v(self) -> float:
        return self.series * self.cell_full_v

    @property
    def weakest_mah(self) -> float:
        return min(sum(cell.capacity_mah for cell in group) for group in self.groups)

    @property
    def energy_wh(self) -> float:
        """What all its cells hold: what can burn, whatever of it can be used."""
        return sum(cell.capacity_mah for group in self.groups for cell in group) / 1000 * self.nominal_v


def key_of(check_id: str) -> str:
    """The key of a check behind the id of one of its lines: `wire` of `wire-2`."""
    return check_id.rstrip("0123456789").removesuffix("-")


def amount(value: float, unit: str, digits: int) -> Amount:
    """Rounded as it is told, so that a waiver holds as long as the line reads the same."""
    return Amount(round(value, digits), unit, digits)


class Against(TypedDict):
    limit: Amount
    kind: Kind


def of_limit(limit: Limit, value: float | None = None, unit: str | None = None, digits: int = 2) -> Against:
    """The limit of a line with its kind; `value`: what follows from it here."""
    told = limit.value if value is None else value
    return {"limit": amount(told, limit.unit if unit is None else unit, digits), "kind": limit.kind}
