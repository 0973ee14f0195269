"""A pack in hand: step by step, by several people, with what is wrong stopping there, and proved before it leaves."""

from __future__ import annotations

from typing import Any

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from tests.support.benchwork import at, keep, move, shelf_of, well_planned
from zembric.core.errors import BadInputError, ConflictError, NotAllowedError
from zembric.demo.hands import go_through, prove
from zembric.models import CellRow, Pack
from zembric.operations.actors import Actor
from zembric.operations.packing import handwork, packs, plans
from zembric.operations.packing.handwork import building_of, do_step, proving_of, undo_step, waive_step
from zembric.operations.packing.layouts import cells_by_key

FIVE = [2500, 2450, 2400, 2350, 2300]


@pytest.fixture
def pack(session: Session, volunteer: Actor) -> Pack:
    """Picked, and nothing in its way."""
    shelf_of(session, volunteer, FIVE)
    pack = keep(session, volunteer)
    packs.set_parts(session, volunteer, pack.number, well_planned(2), pack.version, at(2))
    for group in pack.groups:
        for member in group.cells:
            plans.pick_cell(session, volunteer, pack.number, member.cell.number, at(2))
    return pack


def do(session: Session, who: Actor, pack: Pack, stage: Any, key: str, **figures: str) -> Any:
    return do_step(session, who, pack.number, stage, key, figures, at(3))[1]


def next_step(session: Session, pack: Pack, stage: Any = "build") -> str | None:
    return handwork.handwork_of(session, pack, stage, at(3)).next_key


# --- Building --------------------------------------------------------------------------------------------------------


def test_a_build_goes_on_where_another_left_it_and_no_step_is_left_out(
    session: Session, volunteer: Actor, coordinator: Actor, pack: Pack
) -> None:
    go_through(session, volunteer, pack.number, "build", at(3), until="join-2")
    assert next_step(session, pack) == "join-2"
    with pytest.raises(ConflictError, match="not what comes next"):
        do(session, coordinator, pack, "build", "link-1", v="7.5")
    with pytest.raises(ConflictError, match="not what comes next"):
        do(session, coordinator, pack, "build", "place-2")
    go_through(session, coordinator, pack.number, "build", at(3))
    assert next_step(session, pack) is None
    assert move(session, volunteer, pack, "built", at(4)).state == "built"


def test_a_wrong_tap_stops_the_build_until_it_reads_right(session: Session, volunteer: Actor, pack: Pack) -> None:
    go_through(session, volunteer, pack.number, "build", at(3), until="tap-1")
    asked = building_of(session, pack, at(3)).find("tap-1").step.asked[0]
    found = do(session, volunteer, pack, "build", "tap-1", v=f"{2 * (asked.expected or 0):.2f}")
    assert (found.state, found.said.code) == ("wrong", "finding-other-tap")
    assert next_step(session, pack) == "tap-1"
    with pytest.raises(ConflictError, match="stands wrong"):
        move(session, volunteer, pack, "built", at(3))
    assert do(session, volunteer, pack, "build", "tap-1", v=f"{asked.expected:.2f}").state == "right"
    assert next_step(session, pack) == "tap-2"


@pytest.mark.parametrize("typed", ["", "three", "3.7.1", "37.1", "371"])
def test_what_is_no_figure_or_a_slip_of_the_point_is_refused_and_nothing_is_written(
    session: Session, volunteer: Actor, pack: Pack, typed: str
) -> None:
    go_through(session, volunteer, pack.number, "build", at(3), until="group-1")
    with pytest.raises(BadInputError) as refused:
        do(session, volunteer, pack, "build", "group-1", v=typed)
    assert refused.value.field == "v"
    assert building_of(session, pack, at(3)).find("group-1").last is None


def test_only_the_last_step_is_taken_back(session: Session, volunteer: Actor, pack: Pack) -> None:
    go_through(session, volunteer, pack.number, "build", at(3), until="join-1")
    with pytest.raises(ConflictError, match="was not the last"):
        undo_step(session, volunteer, pack.number, "build", "rings", at(3))
    undo_step(session, volunteer, pack.number, "build", "place-1", at(3))
    assert next_step(session, pack) == "place-1"


def test_a_cell_swapped_at_the_bench_is_swapped_in_the_plan_and_its_group_done_anew(
    session: Session, volunteer: Actor, pack: Pack
) -> None:
    go_through(session, volunteer, pack.number, "build", at(3), until="link-1")
    inside = {key: cell.number for key, cell in cells_by_key(pack).items()}
    spare = next(number for number in session.scalars(select(CellRow.number)) if number not in inside.values())
    handwork.swap_cell(session, volunteer, pack.number, f"C{inside[2, 1]}", f" c{spare} ", pack.version, at(3))
    assert cells_by_key(pack)[2, 1].number == spare
    assert next_step(session, pack) == "place-2"
    assert building_of(session, pack, at(3)).find("group-1").is_passed


def test_nothing_is_joined_while_something_stands_in_the_way(session: Session, volunteer: Actor, pack: Pack) -> None:
    packs.set_parts(session, volunteer, pack.number, [], pack.version, at(3))
    with pytest.raises(ConflictError, match="A low cut-off"):
        do(session, volunteer, pack, "build", "ready")


def test_above_the_houses_limits_another_person_looks_before_it_counts(
    session: Session, volunteer: Actor, coordinator: Actor, pack: Pack, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("zembric.core.pack.steps.building._is_strong", lambda _pack, _rules: True)
    go_through(session, volunteer, pack.number, "build", at(3), until="link-1")
    asked = building_of(session, pack, at(3)).find("link-1").step.asked[0]
    do(session, volunteer, pack, "build", "link-1", v=f"{asked.expected:.2f}")
    assert next_step(session, pack) == "link-1"
    with pytest.raises(NotAllowedError, match="somebody else"):
        handwork.confirm_step(session, volunteer, pack.number, "build", "link-1", at(3))
    handwork.confirm_step(session, coordinator, pack.number, "build", "link-1", at(3))
    assert next_step(session, pack) == "fuse"


# --- Proving ---------------------------------------------------------------------------------------------------------


def test_only_a_pack_that_passed_every_point_is_proved(session: Session, volunteer: Actor, pack: Pack) -> None:
    move(session, volunteer, pack, "built", at(3))
    prove(session, volunteer, pack.number, at(4), until="storage")
    assert pack.commissioned_at is None
    prove(session, volunteer, pack.number, at(4))
    assert pack.commissioned_at == at(4)
    undo_step(session, volunteer, pack.number, "prove", "storage", at(5))
    assert pack.commissioned_at is None


def test_a_joint_that_is_too_high_is_named_and_stops_proving(session: Session, volunteer: Actor, pack: Pack) -> None:
    move(session, volunteer, pack, "built", at(3))
    prove(session, volunteer, pack.number, at(4), until="load")
    step = proving_of(session, pack, at(4)).find("load").step
    figures = {asked.key: f"{asked.expected or 25:.3f}" for asked in step.asked if not asked.is_optional}
    figures["g2"] = f"{float(figures['g2']) - 0.15:.3f}"
    _, found = do_step(session, volunteer, pack.number, "prove", "load", figures, at(4))
    assert (found.state, found.said.code) == ("wrong", "finding-joint-high")
    assert dict(found.said.parameters)["group"] == 2
    assert next_step(session, pack, "prove") == "load"


def test_what_takes_hours_may_be_let_pass_by_a_coordinator_and_what_protects_people_not(
    session: Session, volunteer: Actor, coordinator: Actor, pack: Pack
) -> None:
    move(session, volunteer, pack, "built", at(3))
    with pytest.raises(ConflictError, match="never waived"):
        waive_step(session, coordinator, pack.number, "prove", "groups", "no time tonight", at(4))
    prove(session, volunteer, pack.number, at(4), until="run")
    with pytest.raises(NotAllowedError):
        waive_step(session, volunteer, pack.number, "prove", "run", "no time tonight", at(4))
    with pytest.raises(BadInputError):
        waive_step(session, coordinator, pack.number, "prove", "run", "  ", at(4))
    waive_step(session, coordinator, pack.number, "prove", "run", "it ran last week", at(4))
    assert next_step(session, pack, "prove") == "energy"


def test_a_pack_that_comes_back_is_proved_anew(session: Session, volunteer: Actor, pack: Pack) -> None:
    move(session, volunteer, pack, "built", at(3))
    prove(session, volunteer, pack.number, at(4))
    move(session, volunteer, pack, "given-out", at(5), given_to="the harbour, door 3")
    move(session, volunteer, pack, "back", at(40))
    assert proving_of(session, pack, at(40)).next_key == "groups"
    assert pack.commissioned_at is None


def test_a_testers_log_tells_hours_and_energy_of_a_run() -> None:
    """Four hours at half an ampere, from 8.3 V down to 6.1 V."""
    rows = [f"{second},{8.3 - 2.2 * second / 14400:.4f},-0.500" for second in range(0, 14401, 30)]
    found = handwork.figures_from_log("\n".join(["time_s,voltage_V,current_A", *rows]).encode())
    assert (found.hours, found.energy_wh, found.end_v) == pytest.approx((4.0, 0.5 * 4 * 7.2, 6.1), rel=1e-3)
    with pytest.raises(BadInputError):
        handwork.figures_from_log(b"nothing of a log")
