"""A pack run on paper, and matching on the run, beside a general stiff solver: time, error, memory.

    PYTHONPATH=src python bench/packrun.py

The general solver is SciPy's LSODA with a tolerance of 1e-8 on the same model, stepped from corner to corner of the curves by
its own error control; it needs requirements-bench.txt and stays away without. Own errors are against it, or against the
same pack with a tolerance a hundred times tighter where it stays away or takes too long.
"""

from __future__ import annotations

import importlib
import importlib.util
import tracemalloc
from collections.abc import Callable
from dataclasses import dataclass
from time import perf_counter
from typing import Any

import numpy as np

from zembric.core.house.limits import Family
from zembric.core.identify.families import ocv_table
from zembric.core.match import Duty, MatchCell, match_on_run
from zembric.core.run import Curve, Load, RunCell, RunPack, run_pack

CURVES = {
    "layered": Curve(*ocv_table(Family.LAYERED_OXIDE)),
    "phosphate": Curve(*ocv_table(Family.IRON_PHOSPHATE)),
}
#: Larger packs take the general solver minutes.
MOST_FOR_SOLVER = 60


@dataclass(frozen=True)
class Case:
    name: str
    series: int
    parallel: int
    mohm: tuple[float, float]
    load: Load
    chemistries: tuple[str, ...] = ("layered",)
    cutoff_v: float = 3.0
    soc: tuple[float, float] = (0.9, 1.0)

    def pack(self) -> RunPack:
        rng = np.random.default_rng(1)

        def cell(key: str) -> RunCell:
            return RunCell(
                key,
                self.chemistries[int(rng.integers(len(self.chemistries)))],
                float(rng.integers(1500, 2600)),
                float(np.exp(rng.uniform(np.log(self.mohm[0]), np.log(self.mohm[1])))),
                float(rng.uniform(*self.soc)),
            )

        groups = [[cell(f"{g}.{p}") for p in range(self.parallel)] for g in range(self.series)]
        return RunPack(CURVES, groups, self.load, self.cutoff_v)


CASES = [
    Case("4S4P, 2 C", 4, 4, (25, 80), Load("current", 17.6)),
    Case("13S4P, power", 13, 4, (25, 80), Load("power", 300)),
    Case("4S4P, flat curve", 4, 4, (20, 60), Load("power", 100), ("phosphate",), 2.5),
    Case("2S5P, mixed, stiff", 2, 5, (0.05, 50), Load("current", 6), ("layered", "phosphate"), 2.8, (0.3, 0.9)),
    Case("20S20P", 20, 20, (25, 80), Load("power", 2000)),
    Case("20S20P, 0.02 to 0.05 mOhm", 20, 20, (0.02, 0.05), Load("current", 20)),
]


def by_solver(pack: RunPack) -> tuple[float, float]:
    """Run time [s] and energy [Wh] by the general solver."""
    integrate = importlib.import_module("scipy.integrate")
    cells = [cell for group in pack.groups for cell in group]
    of_group = np.array([number for number, group in enumerate(pack.groups) for _ in group])
    siemens = 1000 / np.array([cell.resistance_mohm for cell in cells])
    charge_as = 3.6 * np.array([cell.capacity_mah for cell in cells])
    group_siemens = np.bincount(of_group, siemens)
    ohm = float((1 / group_siemens).sum())
    names = list(CURVES)
    which = np.array([names.index(cell.chemistry) for cell in cells])

    def volts(soc: Any) -> Any:
        out = np.empty(len(cells))
        for place, name in enumerate(names):
            mine = which == place
            at, ocv = np.array(CURVES[name].soc), np.array(CURVES[name].ocv_v)
            line = np.clip(np.searchsorted(at, soc[mine], side="right") - 1, 0, len(at) - 2)
            slope = (ocv[line + 1] - ocv[line]) / (at[line + 1] - at[line])
            out[mine] = ocv[line] + slope * (soc[mine] - at[line])
        return out

    def flows(soc: Any) -> tuple[Any, Any, float]:
        ocv = volts(soc)
        open_v = np.bincount(of_group, ocv * siemens) / group_siemens
        whole, value = float(open_v.sum()), pack.load.value
        if pack.load.kind == "current":
            load_a = value
        elif pack.load.kind == "resistor":
            load_a = whole / (value + ohm)
        else:
            load_a = 2 * value / (whole + np.sqrt(max(whole**2 - 4 * value * ohm, 0)))
        group_v = open_v - load_a / group_siemens
        return (ocv - group_v[of_group]) * siemens, group_v, load_a

    def change(_time: float, state: Any) -> Any:
        cell_a, group_v, load_a = flows(state[:-1])
        return np.append(-cell_a / charge_as, load_a * group_v.sum() / 3600)

    def ends(_time: float, state: Any) -> float:
        return float(flows(state[:-1])[1].min()) - pack.cutoff_group_v

    ends.terminal = True  # type: ignore[attr-defined]
    start = np.append([cell.soc for cell in cells], 0.0)
    found = integrate.solve_ivp(change, (0, 1e6), start, method="LSODA", rtol=1e-8, atol=1e-9, events=ends)
    return float(found.t[-1]), float(found.y[-1, -1])


def timed(work: Callable[[], Any]) -> tuple[Any, float, float]:
    """What it answers, seconds (the best of three where it is quick), and the most memory it took [MB]."""
    tracemalloc.start()
    answer = work()
    _, most = tracemalloc.get_traced_memory()
    tracemalloc.stop()
    seconds = []
    for _ in range(3):
        began = perf_counter()
        work()
        seconds.append(perf_counter() - began)
        if seconds[-1] > 3:
            break
    return answer, min(seconds), most / 1e6


def main() -> None:
    has_solver = importlib.util.find_spec("scipy") is not None
    print(f"{'pack':28} {'own':>9} {'memory':>9} {'solver':>9} {'run time':>10} {'error':>9} {'energy':>9}")
    for case in CASES:
        pack = case.pack()
        run, seconds, memory_mb = timed(lambda pack=pack: run_pack(pack))  # type: ignore[misc]
        line = f"{case.name:28} {1000 * seconds:6.0f} ms {memory_mb:6.2f} MB"
        if has_solver and case.series * case.parallel <= MOST_FOR_SOLVER:
            (known_s, known_wh), solver_s, _ = timed(lambda pack=pack: by_solver(pack))  # type: ignore[misc]
            errors = (f"{run.seconds / known_s - 1:9.1e}", f"{run.energy_wh / known_wh - 1:9.1e}")
            line += f" {1000 * solver_s:6.0f} ms {run.seconds:8.1f} s {errors[0]} {errors[1]}"
        else:
            line += f" {'-':>9} {run.seconds:8.1f} s {'-':>9} {'-':>9}"
        print(line)
    print(f"\n{'matching on the run, 2 s':28} {'by run':>10} {'capacity':>10} {'ideal':>10}")
    rng = np.random.default_rng(3)
    for name, series, parallel, poor, c_rate in (
        ("4S4P, 2 C", 4, 4, 0, 2.0),
        ("13S4P, 0.5 C, three poor", 13, 4, 3, 0.5),
        ("13S4P, 2 C, three poor", 13, 4, 3, 2.0),
        ("20S10P, 2 C, eight poor", 20, 10, 8, 2.0),
    ):
        count = series * parallel
        cells = [
            MatchCell(f"C{index:03}", float(mah), float(rng.uniform(200, 500) if index < poor else mohm))
            for index, (mah, mohm) in enumerate(
                zip(rng.integers(1800, 2600, count), np.exp(rng.uniform(np.log(25), np.log(80), count)), strict=True)
            )
        ]
        duty = Duty(CURVES["layered"], Load("current", c_rate * parallel * 2.2), 3.0)
        began = perf_counter()
        found = match_on_run(
            cells,
            series,
            parallel,
            duty,
            time_used=lambda began=began: (perf_counter() - began) / 2,  # type: ignore[misc]
        )
        minutes = (found.seconds / 60, found.by_capacity_seconds / 60, found.ideal_seconds / 60)
        print(f"{name:28} {minutes[0]:6.1f} min {minutes[1]:6.1f} min {minutes[2]:6.1f} min")


if __name__ == "__main__":
    main()
