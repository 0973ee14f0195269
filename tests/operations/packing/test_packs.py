"""Matching from the shelf, keeping packs, moving them, and the recycler."""

from __future__ import annotations

import threading
from dataclasses import replace

import pytest
from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from tests.support.benchwork import (
    TWO_BY_TWO,
    at,
    build,
    charge,
    give_out,
    keep,
    move,
    numbers_of,
    open_donor,
    shelf_of,
    to_the_shelf,
    voltage,
)
from zembric.core.errors import (
    BadInputError,
    ChangedMeanwhileError,
    ConflictError,
    DangerError,
    NotAllowedError,
)
from zembric.core.house.limits import Family
from zembric.core.match import TooFewCellsError
from zembric.demo.hands import prove
from zembric.models import CellRow, PackCell, Place
from zembric.operations.actors import Actor
from zembric.operations.bench import entries, whereabouts
from zembric.operations.bench.readings import TypedReading
from zembric.operations.cells import stories
from zembric.operations.database import unit_of_work
from zembric.operations.matching.proposals import MatchRequest, propose
from zembric.operations.packing import packs, plans
from zembric.operations.packing.plans import PackToKeep
from zembric.wording import say

FIVE = [2500, 2450, 2400, 2350, 2300]


def steps_of(session: Session, numbers: list[str]) -> set[str]:
    session.flush()
    return {stories.cell_story(session, number, at(3)).listed.step for number in numbers}


def test_only_cells_that_keep_every_rule_take_part(session: Session, volunteer: Actor) -> None:
    shelf = shelf_of(session, volunteer, FIVE)
    weak = shelf_of(session, volunteer, [1500])
    open_donor(session, volunteer, 2)
    voltage(session, volunteer, numbers_of(open_donor(session, volunteer))[0], "1.0", at())
    proposal = propose(session, TWO_BY_TWO, at(2))
    assert set(proposal.cells) == set(shelf)
    assert {(say(left.reason), left.count) for left in proposal.plan.left_out} == {
        ("not graded yet", 2), ("grade too low", 1), ("out", 1)
    }  # fmt: skip
    assert set(propose(session, replace(TWO_BY_TWO, least_grade="C"), at(2)).cells) == {*shelf, *weak}


def test_other_families_sizes_and_full_voltages_stay_apart(session: Session, volunteer: Actor) -> None:
    shelf_of(session, volunteer, FIVE)
    for request in (replace(TWO_BY_TWO, family=Family.IRON_PHOSPHATE), replace(TWO_BY_TWO, size_code="21700")):
        with pytest.raises(TooFewCellsError):
            propose(session, request, at(2))


def test_keeping_a_pack_reserves_its_cells(session: Session, volunteer: Actor) -> None:
    shelf = shelf_of(session, volunteer, FIVE)
    pack = keep(session, volunteer)
    kept = [member.cell.number for group in pack.groups for member in group.cells]
    assert (pack.state, pack.bound_mah, len(set(kept))) == ("planned", 4850.0, 4)
    assert steps_of(session, kept) == {"in-pack"}
    assert steps_of(session, list(set(shelf) - set(kept))) == {"keep"}
    with pytest.raises(TooFewCellsError):
        propose(session, TWO_BY_TWO, at(2))


@pytest.mark.parametrize(
    ("purpose", "groups", "field"),
    [("", 2, "purpose"), ("x" * 121, 2, "purpose"), ("lamp", 1, "groups")],
)
def test_a_pack_that_is_none_is_refused(
    session: Session, volunteer: Actor, purpose: str, groups: int, field: str
) -> None:
    shelf = shelf_of(session, volunteer, FIVE)
    chosen = (tuple(shelf[:2]), tuple(shelf[2:4]))[:groups]
    with pytest.raises(BadInputError) as refused:
        plans.keep_pack(session, volunteer, PackToKeep(purpose, TWO_BY_TWO, chosen), at(2))
    assert refused.value.field == field


def test_a_cell_that_changed_meanwhile_is_named_and_nothing_is_reserved(session: Session, volunteer: Actor) -> None:
    shelf = shelf_of(session, volunteer, FIVE)
    charge(session, volunteer, shelf[0], "4.2", at(2))
    wanted = PackToKeep("lamp", TWO_BY_TWO, (tuple(shelf[:2]), tuple(shelf[2:4])))
    with pytest.raises(ConflictError, match=shelf[0]) as refused:
        plans.keep_pack(session, volunteer, wanted, at(3))
    assert refused.value.code == "cells-gone"
    assert session.scalar(select(PackCell.id)) is None


def test_of_two_who_keep_the_same_cells_at_once_one_is_told(engine: Engine, session: Session, volunteer: Actor) -> None:
    shelf_of(session, volunteer, [2500, 2450, 2400, 2350])
    session.commit()
    outcomes: list[str] = []
    together = threading.Barrier(2)

    def try_to_keep() -> None:
        with unit_of_work(engine) as mine:
            groups = tuple(group.keys for group in propose(mine, TWO_BY_TWO, at(2)).best.groups)
            together.wait()
            try:
                plans.keep_pack(mine, volunteer, PackToKeep("lamp", TWO_BY_TWO, groups), at(2))
                outcomes.append("kept")
            except ConflictError as error:
                outcomes.append(error.code)
                mine.rollback()

    threads = [threading.Thread(target=try_to_keep) for _ in range(2)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(outcomes) == ["cells-gone", "kept"]


def test_cells_follow_their_pack_out_and_back_and_are_looked_at_before_the_shelf(
    session: Session, volunteer: Actor
) -> None:
    shelf_of(session, volunteer, FIVE)
    pack = keep(session, volunteer)
    members = [member.cell for group in pack.groups for member in group.cells]
    build(session, volunteer, pack, at(3))
    assert {cell.place for cell in members} == {None}
    give_out(session, volunteer, pack, at(4))
    with pytest.raises(ConflictError, match="given out"):
        voltage(session, volunteer, members[0].number, "3.7", at(5))
    move(session, volunteer, pack, "back", at(6))
    move(session, volunteer, pack, "taken-apart", at(7))
    assert {cell.place.kind for cell in members if cell.place} == {"holding-box"}
    assert {cell.judgement.next_step for cell in members if cell.judgement} == {"inspect"}
    with pytest.raises(ConflictError, match="not go onto the shelf yet"):
        whereabouts.shelve(session, volunteer, members[0].number, None, at(8))
    with pytest.raises(TooFewCellsError):
        propose(session, TWO_BY_TWO, at(8))


def refused_codes(error: pytest.ExceptionInfo[ConflictError]) -> set[str]:
    return {code.removeprefix("refused:") for code, _ in error.value.ways}


def test_a_pack_is_not_built_before_its_cells_allow_it(session: Session, volunteer: Actor) -> None:
    """Unpicked, 0.2 V apart, and one charged since its voltage was taken: each is said with what to do."""
    shelf = shelf_of(session, volunteer, FIVE)
    pack = keep(session, volunteer)
    voltage(session, volunteer, shelf[0], "4.00", at(3), confirmed=True)
    with pytest.raises(ConflictError, match="Bring all to the same voltage") as refused:
        move(session, volunteer, pack, "built", at(3))
    assert refused_codes(refused) == {"not-picked", "voltages-apart", "red-check"}
    charge(session, volunteer, shelf[0], "3.9", at(3, hours=1), complete=False)
    with pytest.raises(ConflictError, match="then measure it") as refused:
        move(session, volunteer, pack, "built", at(3, hours=2))
    assert refused_codes(refused) == {"not-ready", "stale", "not-picked", "no-voltage", "red-check"}


def test_a_pack_is_not_given_out_before_it_was_put_to_the_test(session: Session, volunteer: Actor) -> None:
    shelf_of(session, volunteer, FIVE)
    pack = build(session, volunteer, keep(session, volunteer), at(3))
    with pytest.raises(ConflictError) as refused:
        move(session, volunteer, pack, "given-out", at(4), given_to="the harbour")
    assert refused_codes(refused) == {"not-commissioned"}
    prove(session, volunteer, pack.number, at(4))
    assert move(session, volunteer, pack, "given-out", at(4), given_to="the harbour, door 3").given_to


@pytest.mark.parametrize("state", ["built", "given-out", "back"])
def test_a_hazard_in_a_pack_stops_it_and_each_cell_goes_where_it_belongs(
    session: Session, volunteer: Actor, state: str
) -> None:
    shelf_of(session, volunteer, FIVE)
    pack = build(session, volunteer, keep(session, volunteer), at(3))
    if state != "built":
        give_out(session, volunteer, pack, at(4))
    if state == "back":
        move(session, volunteer, pack, "back", at(5))
    hazard, *others = [member.cell for group in pack.groups for member in group.cells]
    entries.inspect(session, volunteer, hazard.number, ["swollen"], at(6))
    assert pack.stopped_why is not None
    assert [found.number for found in packs.stopped_packs(session)] == [pack.number]
    assert {cell.judgement.next_step for cell in others if cell.judgement} == {"inspect"}
    if state == "given-out":
        move(session, volunteer, pack, "back", at(7))
    else:
        with pytest.raises(ConflictError):
            move(session, volunteer, pack, "given-out", at(7), given_to="the harbour")
    move(session, volunteer, pack, "taken-apart", at(8))
    assert hazard.place
    assert hazard.place.kind == "fire-safe-box"
    assert {cell.place.kind for cell in others if cell.place} == {"holding-box"}
    assert packs.stopped_packs(session) == []


def test_whoever_has_a_pack_may_call_that_a_cell_is_hot_and_measures_nothing_over_the_telephone(
    session: Session, volunteer: Actor
) -> None:
    numbers = shelf_of(session, volunteer, [2500, 2450, 2400, 2350])
    pack = give_out(session, volunteer, build(session, volunteer, keep(session, volunteer), at(3)), at(4))
    reading = TypedReading("voltage", "3.7", "meter")
    with pytest.raises(ConflictError, match="Take the pack back first"):
        entries.first_look(session, volunteer, numbers[0], [], reading, at(5), heat={"warmth": "too-hot"})
    entries.inspect(session, volunteer, numbers[0], [], at(5), heat={"warmth": "too-hot"})
    assert pack.stopped_at == at(5)


def test_a_pack_can_be_stopped_by_whoever_hears_of_it(session: Session, volunteer: Actor) -> None:
    shelf_of(session, volunteer, FIVE)
    pack = give_out(session, volunteer, build(session, volunteer, keep(session, volunteer), at(3)), at(4))
    packs.stop_pack(session, volunteer, pack.number, "it got warm in its case", at(5))
    with pytest.raises(ConflictError, match="stopped already"):
        packs.stop_pack(session, volunteer, pack.number, "it got warm in its case", at(5))
    move(session, volunteer, pack, "back", at(6))
    with pytest.raises(ConflictError, match="is stopped"):
        prove(session, volunteer, pack.number, at(6))


def test_dropping_a_plan_frees_its_cells_where_they_lie(session: Session, volunteer: Actor) -> None:
    shelf_of(session, volunteer, FIVE)
    move(session, volunteer, keep(session, volunteer), "dropped", at(3))
    assert len(propose(session, TWO_BY_TWO, at(4)).cells) == 5


def test_a_pack_moves_only_along_its_way_and_from_the_state_that_was_seen(session: Session, volunteer: Actor) -> None:
    shelf_of(session, volunteer, FIVE)
    pack = keep(session, volunteer)
    with pytest.raises(ConflictError, match="built or dropped"):
        move(session, volunteer, pack, "given-out", at(3))
    seen = pack.version
    build(session, volunteer, pack, at(3))
    with pytest.raises(ChangedMeanwhileError):
        packs.move_pack(session, volunteer, pack.number, packs.PackMove("taken-apart", seen), at(4))


def test_large_packs_need_a_coordinator_and_very_large_ones_are_refused(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    shelf_of(session, volunteer, [2400] * 15)
    eight = MatchRequest(8, 1, Family.LAYERED_OXIDE, "18650")  # 33.6 V full
    with pytest.raises(NotAllowedError, match=r"33\.6"):
        keep(session, volunteer, eight)
    with pytest.raises(DangerError, match="licensed"):
        keep(session, coordinator, replace(eight, series=15))  # 63 V
    assert keep(session, coordinator, eight).state == "planned"


def test_handing_over_needs_a_coordinator_and_taped_ends(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    entries.inspect(session, volunteer, number, ["leaking"], at())
    box = session.scalars(select(Place).where(Place.kind == "fire-safe-box")).one()
    with pytest.raises(NotAllowedError):
        packs.hand_over(session, volunteer, box.id, True, at(1))
    with pytest.raises(DangerError, match="Tape"):
        packs.hand_over(session, coordinator, box.id, False, at(1))
    assert packs.hand_over(session, coordinator, box.id, True, at(1)) == 1
    with pytest.raises(ConflictError, match="recycler"):
        voltage(session, volunteer, number, "3.7", at(2))
    story = stories.cell_story(session, number, at(2))
    assert (story.listed.step, len(story.entries)) == ("handed-over", 1)


def test_an_out_cell_waits_in_the_out_box(session: Session, volunteer: Actor) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    entries.inspect(session, volunteer, number, [], at())
    voltage(session, volunteer, number, "1.1", at())
    cell = whereabouts.put_out(session, volunteer, number, at(1))
    assert cell.place
    assert cell.place.kind == "out-box"
    assert steps_of(session, [number]) == {"hand-over"}


def test_a_reserved_cell_is_not_thrown_out(session: Session, volunteer: Actor, coordinator: Actor) -> None:
    shelf_of(session, volunteer, FIVE)
    member = keep(session, volunteer).groups[0].cells[0].cell
    with pytest.raises(ConflictError, match="pack"):
        whereabouts.put_out(session, coordinator, member.number, at(3))


def test_a_cell_back_from_the_shelf_can_be_shelved_again(session: Session, volunteer: Actor) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    to_the_shelf(session, volunteer, number)
    charge(session, volunteer, number, "3.85", at(3))
    assert steps_of(session, [number]) == {"shelve"}
    whereabouts.shelve(session, volunteer, number, None, at(3))
    assert session.scalars(select(CellRow.version)).one() >= 1
    assert steps_of(session, [number]) == {"keep"}
