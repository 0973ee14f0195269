"""A pack of cells that lie here on paper: charges from voltages, bands, and what it says beside its figures."""

from __future__ import annotations

from dataclasses import replace

import pytest

from tests.support.stories import RULES
from zembric.core.errors import ConflictError
from zembric.core.house.limits import Family
from zembric.core.pack.on_paper import PaperCell, PaperLoad, PaperRun, StartsFrom, run_on_paper
from zembric.core.run import Load, RefusedRunError
from zembric.wording import say

CELL = PaperCell("C1", 2000, 30, 40, 2, "dc-10s", 3.82, 2.0)
HALF_AMPERE = Load("current", 0.5)


def ran(
    cells: list[PaperCell],
    load: Load = HALF_AMPERE,
    *,
    starts_from: StartsFrom = "full",
    family: Family = Family.LAYERED_OXIDE,
    **around: float,
) -> PaperRun:
    return run_on_paper([cells], family, PaperLoad(load, **around), starts_from, RULES)


def told(paper: PaperRun) -> str:
    return " ".join(say(remark) for remark in paper.remarks).replace("\u00a0", " ")


def test_one_cell_from_full_runs_its_charge_down_to_the_houses_cut_off() -> None:
    """0.5 A through 40 mOhm: 3.00 V at the end is 3.02 V inside, 0.003 of the charge."""
    paper = ran([CELL])
    assert paper.run.seconds == pytest.approx(3600 * (1 - 0.05 * 0.02 / 0.35) * 2.0 / 0.5, rel=1e-4)
    assert (paper.run.ended_by, paper.run.ended_in, paper.cutoff_v) == ("group_cutoff", 1, 3.0)
    assert paper.carries_a == {"C1": 2.0}


def test_what_the_figures_leave_open_is_a_band_around_the_run() -> None:
    """30 of 2000 mAh: nine of ten within 1.645 x 1.5 %."""
    paper = ran([CELL])
    width = (paper.longest_s - paper.shortest_s) / paper.run.seconds
    assert width == pytest.approx(2 * 1.645 * 0.015, rel=0.2)
    sure = ran([replace(CELL, capacity_u_mah=0.001, resistance_u_mohm=0.001)])
    assert sure.longest_s - sure.shortest_s < 1


def test_as_it_lies_the_charge_follows_from_the_voltage_with_what_the_meter_leaves_open() -> None:
    """3.82 V is 0.6 of the charge; half a percent of it is 0.019 V, about 0.02 of the charge either way."""
    full, lying = ran([CELL]), ran([replace(CELL, capacity_u_mah=0.001)], starts_from="as-they-lie")
    assert lying.run.seconds == pytest.approx(full.run.seconds - 0.4 * 4 * 3600, rel=1e-3)
    assert lying.longest_s - lying.shortest_s == pytest.approx(0.9 * 2 * 0.0191 * 4 * 3600, rel=0.25)


@pytest.mark.parametrize(
    ("cells", "more", "code", "words"),
    [
        ([replace(CELL, resting_v=None)], {"starts_from": "as-they-lie"}, "charge-not-known", "has no resting voltage"),
        (
            [replace(CELL, resting_v=3.29)],
            {"starts_from": "as-they-lie", "family": Family.IRON_PHOSPHATE},
            "charge-not-known",
            "their curve is flat there. Charge them to full",
        ),
        ([replace(CELL, resistance_mohm=None)], {}, "no-resistance", "lack a capacity or a resistance"),
        ([CELL], {"family": Family.TITANATE}, "no-table", "No table tells"),
    ],
)
def test_what_is_not_known_is_not_guessed(
    cells: list[PaperCell], more: dict[str, object], code: str, words: str
) -> None:
    with pytest.raises(ConflictError, match=words) as refused:
        ran(cells, **more)  # type: ignore[arg-type]
    assert refused.value.code == code


def test_a_cell_below_the_cut_off_as_it_lies_is_charged_first() -> None:
    with pytest.raises(RefusedRunError, match="Charge it first"):
        ran([replace(CELL, resting_v=2.9)], starts_from="as-they-lie")


def test_the_limits_of_the_paper_stand_beside_it() -> None:
    assert "without warmth" in told(ran([CELL]))
    assert "true run is shorter" not in told(ran([CELL]))
    assert "true run is shorter" in told(ran([replace(CELL, resistance_method="ac-1khz")]))
    assert "do not compare" in told(ran([CELL, replace(CELL, number="C2", resistance_method="dc-1s")]))
    assert "too hopeful" not in told(ran([CELL], Load("current", 1.9)))
    assert "up to 2.5 C" in told(ran([CELL], Load("current", 5.0)))
