"""The verb `match`: a pool of cells in, groups with their proof out."""

from __future__ import annotations

import argparse
import math
import sys
import time
from pathlib import Path
from typing import TYPE_CHECKING, Any

from zembric.core.errors import BadInputError
from zembric.core.house.limits import CUT_OFF_V, Family
from zembric.core.house.rules import USUAL_RULES
from zembric.core.identify.families import has_ocv_table, ocv_table
from zembric.core.match import Match, MatchCell, match
from zembric.core.run import Curve, Load
from zembric.core.run.model import LOAD_KINDS
from zembric.files.pools import read_pool

if TYPE_CHECKING:
    from collections.abc import Callable

    from zembric.core.match.on_run import RunMatch

#: What starting Python and writing the answer may take of the seconds that are promised.
_AROUND_S = 0.4
_LEAST_S, _MOST_S = 0.05, 3600.0


class PoolSizeError(BadInputError):
    """All cells are to be used, and there are too few or too many."""

    def __init__(self, needed: int, have: int) -> None:
        super().__init__(
            f"All cells are to be used: {needed} are needed and {have} are there. Change the shape or the pool, or leave "
            "--use-all out to choose the best.",
            code="not-exactly",
        )
        self.needed = needed
        self.have = have


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("file", type=Path, help="CSV with cell_id, capacity_mah, ir_mohm; - for standard input")
    parser.add_argument("--series", type=int, required=True, help="groups in series")
    parser.add_argument("--parallel", type=int, required=True, help="cells in parallel in each group")
    goals = parser.add_mutually_exclusive_group()
    goals.add_argument("--use-all", action="store_true", help="the pool holds exactly as many cells as are needed")
    goals.add_argument("--target-mah", type=float, help="every group at least this, with as little taken as possible")
    parser.add_argument("--give-pct", type=float, default=0.0, help="what the weakest group may give up [%%]")
    parser.add_argument("--seconds", type=float, default=2.0, help="how long it may take in all (default: 2)")
    parser.add_argument("--seed", type=int, default=0, help="another seed may find another grouping")
    parser.add_argument("--load", help="match for the longest run: current=A, power=W or resistor=OHM, all cells full")
    parser.add_argument(
        "--family", default=Family.LAYERED_OXIDE.value, help="of the cells, for --load (default: layered oxide)"
    )
    parser.add_argument(
        "--cutoff-v", type=float, help="where a group ends, for --load (default: the family's bench cut-off)"
    )
    parser.add_argument("--json", action="store_true", help="one JSON object on standard output")


def match_file(wanted: argparse.Namespace) -> dict[str, Any]:
    """Raises:
    BadInputError: a file or an option that cannot be.
    TooFewCellsError, OutOfReachError: as `core.matching.match`.
    """
    began = time.monotonic()
    if not (math.isfinite(wanted.seconds) and 0 < wanted.seconds <= _MOST_S):
        raise BadInputError(f"--seconds is above 0 and at most {_MOST_S:g}.", code="bad-arguments")
    if not 0 <= wanted.seed < 2**63:
        raise BadInputError("--seed is a whole number, zero or more.", code="bad-arguments")
    search_s = max(wanted.seconds - _AROUND_S, _LEAST_S)
    cells = read_pool(_content(wanted.file))
    needed = wanted.series * wanted.parallel
    if wanted.use_all and len(cells) != needed and min(wanted.series, wanted.parallel) > 0:
        raise PoolSizeError(needed, len(cells))

    def time_used() -> float:
        used: float = (time.monotonic() - began) / search_s
        return used

    if wanted.load is not None:
        run = _matched_on_run(cells, wanted, time_used)
        times = {
            "run_time_s": run.seconds, "by_capacity_run_time_s": run.by_capacity_seconds, "ideal_run_time_s": run.ideal_seconds,
            "bound_run_time_s": run.bound_seconds,
        }  # fmt: skip
        times = {key: None if value is None else round(value, 3) for key, value in times.items()}
        return {**_shown(run.match), "run": times, "seconds": round(time.monotonic() - began, 3)}
    found = match(
        cells,
        wanted.series,
        wanted.parallel,
        target_mah=wanted.target_mah,
        give_pct=wanted.give_pct,
        seed=wanted.seed,
        time_used=time_used,
    )
    return {**_shown(found), "seconds": round(time.monotonic() - began, 3)}


def _matched_on_run(cells: list[MatchCell], wanted: argparse.Namespace, time_used: Callable[[], float]) -> RunMatch:
    from zembric.core.match.on_run import Duty, match_on_run  # noqa: PLC0415

    if wanted.target_mah is not None or wanted.give_pct:
        raise BadInputError(
            "--load goes with neither --target-mah nor --give-pct: it looks for the longest run.", code="bad-arguments"
        )
    if wanted.family not in set(Family) or not has_ocv_table(Family(wanted.family)):
        known = ", ".join(family for family in Family if has_ocv_table(family))
        raise BadInputError(
            f'No table tells how the voltage of "{wanted.family}" falls; there are {known}.', code="bad-arguments"
        )
    family = Family(wanted.family)
    cutoff_v = USUAL_RULES.of(CUT_OFF_V, family) if wanted.cutoff_v is None else wanted.cutoff_v
    duty = Duty(Curve(*ocv_table(family)), _load(wanted.load), cutoff_v)
    return match_on_run(cells, wanted.series, wanted.parallel, duty, seed=wanted.seed, time_used=time_used)


def _load(written: str) -> Load:
    named, _, value = written.partition("=")
    kind = next((each for each in LOAD_KINDS if each == named), None)
    if kind is None:
        raise BadInputError("--load is current=A, power=W or resistor=OHM, e.g. --load current=6.5.", code="bad-load")
    try:
        return Load(kind, float(value.replace(",", ".")))
    except ValueError:
        raise BadInputError(f'"{value}" is no number; --load is e.g. current=6.5.', code="bad-load") from None


def _content(path: Path) -> bytes:
    try:
        return sys.stdin.buffer.read() if str(path) == "-" else path.read_bytes()
    except OSError as error:
        raise BadInputError(f"{path.name} cannot be read: {error.strerror}.", code="no-file") from error


def _shown(found: Match) -> dict[str, Any]:
    ratio, spread_pct = found.worst_resistance_ratio, found.group_resistance_spread_pct
    return {
        "groups": [list(group.keys) for group in found.groups],
        "weakest_group_mah": _plain(found.weakest_mah),
        "strongest_group_mah": _plain(found.strongest_mah),
        "spread_mah": _plain(found.spread_mah),
        "bound_mah": _plain(found.bound_mah),
        "proved_best": found.proved_best,
        "worst_resistance_ratio": None if ratio is None else round(ratio, 4),
        "group_resistance_spread_pct": None if spread_pct is None else round(spread_pct, 3),
        "total_taken_mah": _plain(found.total_mah),
        "left_over": list(found.left_over),
    }


def _plain(value: float) -> float | int:
    """A sum as it would be written: without the digits that floats add."""
    rounded = round(value, 6)
    return int(rounded) if rounded.is_integer() else rounded
