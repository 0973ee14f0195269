"""A pack goes no further than its cells: every danger the judge knows is stopped before a match, a joint and a hand."""

from __future__ import annotations

from dataclasses import replace

import pytest

from zembric.cli.describe_hazards import Danger, dangers, packed
from zembric.core.house.limits import Family
from zembric.core.house.rules import USUAL_RULES
from zembric.core.pack.rules import (
    PackedCell,
    objection,
    refusals_to_build,
    refusals_to_give_out,
)
from zembric.core.said import Said, as_said

SOUND = packed(Danger("sound", ()))


def _build(*cells: PackedCell, is_stale: bool = False, unpicked: tuple[str, ...] = ()) -> list[str]:
    return [r.code for r in refusals_to_build(cells, is_stale=is_stale, unpicked=unpicked, rules=USUAL_RULES)]


def _give(cell: PackedCell, stopped: Said | None = None, *, is_commissioned: bool = True) -> list[str]:
    return [r.code for r in refusals_to_give_out([cell], stopped=stopped, is_commissioned=is_commissioned)]


def test_a_sound_cell_passes_everywhere() -> None:
    assert (objection(SOUND, Family.LAYERED_OXIDE, None, USUAL_RULES), _build(SOUND), _give(SOUND)) == (None, [], [])


@pytest.mark.parametrize("danger", dangers(), ids=lambda danger: danger.name)
def test_every_danger_keeps_a_cell_out_of_matches_and_of_joined_packs(danger: Danger) -> None:
    cell = packed(danger)
    assert objection(cell, Family.LAYERED_OXIDE, None, danger.rules) or cell.is_marked
    assert _build(cell)


@pytest.mark.parametrize("step", ["fire-safe-box", "decide", "inspect", "repair", "measure-voltage"])
def test_a_built_pack_with_such_a_cell_is_given_to_nobody(step: str) -> None:
    assert _give(replace(SOUND, step=step))


@pytest.mark.parametrize(
    ("cell", "code"),
    [
        (replace(SOUND, resting_v=None), "no-voltage"),
        (replace(SOUND, is_marked=True), "marked"),
        (replace(SOUND, recovery_proved=False), "recovery-unproved"),
        (replace(SOUND, step="recheck"), "not-ready"),
        (replace(SOUND, grade="out"), "out"),
    ],
)
def test_what_is_missing_is_named_before_cells_are_joined(cell: PackedCell, code: str) -> None:
    assert _build(cell) == [code]


def test_a_coordinators_yes_lets_a_marked_cell_into_that_pack() -> None:
    assert _build(replace(SOUND, is_marked=True, mark_allowed=True)) == []


def test_cells_are_joined_up_to_the_houses_gap_and_no_further() -> None:
    rest_v = SOUND.resting_v or 0
    beside = [replace(SOUND, number="1002", resting_v=rest_v + gap_v) for gap_v in (0.05, 0.051)]
    assert [_build(SOUND, cell) for cell in beside] == [[], ["voltages-apart"]]


def test_a_plan_is_built_only_fresh_and_picked_and_given_out_only_tried_and_not_stopped() -> None:
    assert _build(SOUND, is_stale=True, unpicked=("1001",)) == ["stale", "not-picked"]
    assert _give(SOUND, as_said("it swells"), is_commissioned=False) == ["stopped", "not-commissioned"]


def test_a_plan_that_is_called_back_is_not_built() -> None:
    found = refusals_to_build([SOUND], is_stale=False, unpicked=(), rules=USUAL_RULES, called_back=["the wrap melts"])
    assert [refusal.code for refusal in found] == ["called-back"]
