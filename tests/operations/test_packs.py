"""Matching from the shelf, keeping packs, moving them, and the recycler."""

from __future__ import annotations

import threading
from dataclasses import replace

import pytest
from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from tests.support.benchwork import TWO_BY_TWO, at, keep, numbers_of, open_donor, shelf_of, to_the_shelf, voltage
from zembric.core.errors import BadInputError, ChangedMeanwhileError, ConflictError, DangerError, NotAllowedError
from zembric.core.limits import Family
from zembric.core.matching import TooFewCellsError
from zembric.models import CellRow, PackCell, Place
from zembric.operations import cells, entries, packs, plans
from zembric.operations.actors import Actor
from zembric.operations.database import unit_of_work
from zembric.operations.matching import MatchRequest, propose
from zembric.operations.plans import PackToKeep

FIVE = [2500, 2450, 2400, 2350, 2300]


def steps_of(session: Session, numbers: list[str]) -> set[str]:
    session.flush()
    return {cells.cell_story(session, number, at(3)).listed.step for number in numbers}


def test_only_cells_that_keep_every_rule_take_part(session: Session, volunteer: Actor) -> None:
    shelf = shelf_of(session, volunteer, FIVE)
    weak = shelf_of(session, volunteer, [1500])
    open_donor(session, volunteer, 2)
    voltage(session, volunteer, numbers_of(open_donor(session, volunteer))[0], "1.0", at())
    proposal = propose(session, TWO_BY_TWO, at(2))
    assert set(proposal.cells) == set(shelf)
    assert {(left.reason, left.count) for left in proposal.plan.left_out} == {
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
    entries.charge(session, volunteer, shelf[0], "4.2", True, at(2))
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


def test_cells_follow_their_pack_out_and_back(session: Session, volunteer: Actor) -> None:
    shelf_of(session, volunteer, FIVE)
    pack = keep(session, volunteer)
    members = [member.cell for group in pack.groups for member in group.cells]
    packs.move_pack(session, volunteer, pack.number, "built", pack.version, at(3))
    assert {cell.place for cell in members} == {None}
    packs.move_pack(session, volunteer, pack.number, "given-out", pack.version, at(4))
    with pytest.raises(ConflictError, match="given out"):
        voltage(session, volunteer, members[0].number, "3.7", at(5))
    packs.move_pack(session, volunteer, pack.number, "back", pack.version, at(6))
    packs.move_pack(session, volunteer, pack.number, "taken-apart", pack.version, at(7))
    assert {cell.place.kind for cell in members if cell.place} == {"shelf-box"}
    assert len(propose(session, TWO_BY_TWO, at(8)).cells) == 5


def test_dropping_a_plan_frees_its_cells_where_they_lie(session: Session, volunteer: Actor) -> None:
    shelf_of(session, volunteer, FIVE)
    pack = keep(session, volunteer)
    packs.move_pack(session, volunteer, pack.number, "dropped", pack.version, at(3))
    assert len(propose(session, TWO_BY_TWO, at(4)).cells) == 5


def test_a_pack_moves_only_along_its_way_and_from_the_state_that_was_seen(session: Session, volunteer: Actor) -> None:
    shelf_of(session, volunteer, FIVE)
    pack = keep(session, volunteer)
    with pytest.raises(ConflictError, match="built or dropped"):
        packs.move_pack(session, volunteer, pack.number, "given-out", pack.version, at(3))
    seen = pack.version
    packs.move_pack(session, volunteer, pack.number, "built", seen, at(3))
    with pytest.raises(ChangedMeanwhileError):
        packs.move_pack(session, volunteer, pack.number, "given-out", seen, at(4))


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
    story = cells.cell_story(session, number, at(2))
    assert (story.listed.step, len(story.entries)) == ("handed-over", 1)


def test_an_out_cell_waits_in_the_out_box(session: Session, volunteer: Actor) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    entries.inspect(session, volunteer, number, [], at())
    voltage(session, volunteer, number, "1.1", at())
    cell = entries.put_out(session, volunteer, number, at(1))
    assert cell.place
    assert cell.place.kind == "out-box"
    assert steps_of(session, [number]) == {"hand-over"}


def test_a_reserved_cell_is_not_thrown_out(session: Session, volunteer: Actor, coordinator: Actor) -> None:
    shelf_of(session, volunteer, FIVE)
    member = keep(session, volunteer).groups[0].cells[0].cell
    with pytest.raises(ConflictError, match="pack"):
        entries.put_out(session, coordinator, member.number, at(3))


def test_a_cell_back_from_the_shelf_can_be_shelved_again(session: Session, volunteer: Actor) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    to_the_shelf(session, volunteer, number)
    entries.charge(session, volunteer, number, "3.85", True, at(3))
    assert steps_of(session, [number]) == {"shelve"}
    entries.shelve(session, volunteer, number, None, at(3))
    assert session.scalars(select(CellRow.version)).one() >= 1
    assert steps_of(session, [number]) == {"keep"}
