"""Plans: kept, gone stale, mended, picked; long searches; wishes; plans as files."""

from __future__ import annotations

import csv
import io
import json
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

import pytest
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from tests.support.benchwork import (
    TWO_BY_TWO,
    at,
    capacity,
    charge,
    keep,
    move,
    numbers_of,
    open_donor,
    shelf_of,
    to_the_shelf,
    voltage,
    well_planned,
)
from tests.support.worker import work_off_the_queue
from zembric.core.errors import BadInputError, ChangedMeanwhileError, ConflictError
from zembric.core.match import TooFewCellsError
from zembric.core.said import from_json, named
from zembric.files.plans import plan_as_csv, plan_as_json
from zembric.models import MatchSearch, Pack, Person
from zembric.operations.actors import Actor
from zembric.operations.database import unit_of_work
from zembric.operations.house.rules import set_rules
from zembric.operations.known.rules import rules_in_force
from zembric.operations.matching import searches
from zembric.operations.matching.proposals import MatchRequest, Proposal, propose, propose_several
from zembric.operations.measuring.log_traces import LogStore
from zembric.operations.packing import packs, plans, wishes
from zembric.operations.packing.plan_files import plan_file
from zembric.operations.packing.plans import PackToKeep
from zembric.wording import say

SIX = [2500, 2450, 2400, 2350, 2300, 2250]


def cells_in(pack: Pack) -> list[list[str]]:
    return [[member.cell.number for member in group.cells] for group in pack.groups]


def goes_out(session: Session, who: Actor, number: str) -> None:
    """A second run that finds hardly any capacity."""
    charge(session, who, number, "4.2", at(2, hours=20))
    capacity(session, who, number, "600", at(3, minutes=5), confirmed=True)
    session.flush()


# --- Kept ------------------------------------------------------------------------------------------------------------


def test_who_keeps_second_is_told_which_cells_went_and_what_comes_nearest(session: Session, volunteer: Actor) -> None:
    shelf = shelf_of(session, volunteer, SIX)
    theirs = propose(session, TWO_BY_TWO, at(2)).best.groups
    groups = tuple(group.keys for group in theirs)
    charge(session, volunteer, shelf[3], "4.2", at(2))  # somebody took it off the shelf
    with pytest.raises(ConflictError) as refused:
        plans.keep_pack(session, volunteer, PackToKeep("lamp", TWO_BY_TWO, groups), at(2, minutes=5))
    # 2350 went; of 2300 and 2250 the nearer one comes.
    assert tuple((code, say(way)) for code, way in refused.value.ways) == (
        (f"instead:{shelf[3]}:{shelf[4]}", f"{shelf[4]} with 2300\u00a0mAh instead of {shelf[3]}"),
    )


def test_a_group_that_mixes_models_is_not_kept(session: Session, volunteer: Actor) -> None:
    ours, others = shelf_of(session, volunteer, SIX[:3]), shelf_of(session, volunteer, SIX[:3])
    mixed = PackToKeep("lamp", TWO_BY_TWO, ((ours[0], others[0]), (ours[1], ours[2])))
    with pytest.raises(ConflictError, match="Group 1 mixes different models"):
        plans.keep_pack(session, volunteer, mixed, at(2))


def test_the_house_decides_whether_models_and_sizes_may_be_mixed(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    shelf_of(session, volunteer, [2500, 2400])
    shelf_of(session, volunteer, [2450])
    shelf_of(session, volunteer, [2420])
    with pytest.raises(TooFewCellsError, match="not 2 groups of one kind") as refused:
        propose(session, TWO_BY_TWO, at(2))
    assert "With different models in one group: possible." in {say(way) for code, way in refused.value.ways}
    with pytest.raises(BadInputError, match="one size in a pack"):
        propose(session, replace(TWO_BY_TWO, size_code=None), at(2))
    in_force = rules_in_force(session)
    near = replace(in_force, switches={**in_force.switches, "pack-models": "near", "pack-sizes": "any"})
    set_rules(session, coordinator, in_force.version, near, "measured is measured", at(2))
    assert propose(session, TWO_BY_TWO, at(2)).best.weakest_mah == 4870
    assert propose(session, replace(TWO_BY_TWO, size_code=None), at(2)).best.weakest_mah == 4870


# --- Stale and mended ------------------------------------------------------------------------------------------------


def test_a_plan_tells_of_a_cell_measured_anew_and_of_one_that_is_out(session: Session, volunteer: Actor) -> None:
    shelf = shelf_of(session, volunteer, SIX)
    pack = keep(session, volunteer)
    assert (state := plans.plan_state(session, pack, at(3)))
    assert (state.stale, plans.stale_plans(session, at(3, hours=2))) == ((), [])
    charge(session, volunteer, shelf[0], "4.2", at(2, hours=20))
    capacity(session, volunteer, shelf[0], "2400", at(3))
    goes_out(session, volunteer, shelf[1])
    assert (state := plans.plan_state(session, pack, at(3, hours=1)))
    assert plans.stale_plans(session, at(3, hours=2)) == [pack]
    assert (shelf[1], named("objection", "out"), 2450.0) in {(c.number, c.reason, c.was_mah) for c in state.stale}
    assert state.repairs[0].exchanges[0].comes in shelf[4:]


def test_a_mended_plan_has_only_the_necessary_exchanges_and_lets_the_others_go(
    session: Session, volunteer: Actor
) -> None:
    shelf = shelf_of(session, volunteer, SIX)
    pack = keep(session, volunteer)
    before = cells_in(pack)
    goes_out(session, volunteer, shelf[1])
    state = plans.plan_state(session, pack, at(3, hours=1))
    assert state is not None
    exchanges = {change.out: change.comes for change in state.repairs[0].exchanges}
    assert exchanges == {shelf[1]: shelf[4]}
    mended = plans.repair_plan(session, volunteer, pack.number, exchanges, pack.version, at(3, hours=1))
    assert cells_in(mended) == [[exchanges.get(number, number) for number in group] for group in before]
    assert plans.plan_state(session, mended, at(3, hours=2)).stale == ()  # type: ignore[union-attr]
    assert plans.stale_plans(session, at(3, hours=2)) == []
    with pytest.raises(ChangedMeanwhileError):
        plans.repair_plan(session, volunteer, pack.number, {}, pack.version - 1, at(3, hours=2))


def test_a_repair_with_a_cell_that_may_not_come_changes_nothing(session: Session, volunteer: Actor) -> None:
    shelf = shelf_of(session, volunteer, SIX)
    stranger = shelf_of(session, volunteer, [2500])[0]
    pack = keep(session, volunteer)
    for comes, said in ((stranger, "mixes different models"), ("C9", "not a cell|can no longer take part")):
        with pytest.raises(ConflictError, match=said):
            plans.repair_plan(session, volunteer, pack.number, {shelf[0]: comes}, pack.version, at(3))
    with pytest.raises(BadInputError, match="is not in pack"):
        plans.repair_plan(session, volunteer, pack.number, {stranger: shelf[5]}, pack.version, at(3))


# --- Picked ----------------------------------------------------------------------------------------------------------


def test_cells_are_picked_in_walking_order_and_a_wrong_one_stops(session: Session, volunteer: Actor) -> None:
    shelf = shelf_of(session, volunteer, SIX)
    pack = keep(session, volunteer)
    walk = [member.cell.number for _, member in plans.pick_list(pack)]
    assert walk == shelf[:4]
    with pytest.raises(ConflictError, match="does not belong to this pack") as wrong:
        plans.pick_cell(session, volunteer, pack.number, shelf[5], at(3))
    assert (wrong.value.code, "Put it back into Shelf box 1" in str(wrong.value)) == ("wrong-cell", True)
    plans.pick_cell(session, volunteer, pack.number, f" {walk[0].lower()} ", at(3))
    with pytest.raises(ConflictError, match="picked before; it lies with group"):
        plans.pick_cell(session, volunteer, pack.number, walk[0], at(3))
    assert [member.picked_at is not None for _, member in plans.pick_list(pack)] == [True, False, False, False]
    plans.put_back(session, volunteer, pack.number, walk[0], at(3))
    assert all(member.picked_at is None for _, member in plans.pick_list(pack))


def test_what_one_person_plans_is_kept_while_another_fetches_the_cells(session: Session, volunteer: Actor) -> None:
    walk = shelf_of(session, volunteer, SIX)
    pack = keep(session, volunteer)
    seen = pack.version
    for number in walk[:4]:
        plans.pick_cell(session, volunteer, pack.number, number, at(3))
    plans.put_back(session, volunteer, pack.number, walk[0], at(3))
    assert len(packs.set_parts(session, volunteer, pack.number, well_planned(2), seen, at(3)).parts) > 0


def test_a_cell_that_went_bad_since_is_neither_picked_nor_built_in(session: Session, volunteer: Actor) -> None:
    shelf = shelf_of(session, volunteer, SIX)
    pack = keep(session, volunteer)
    goes_out(session, volunteer, shelf[0])
    with pytest.raises(ConflictError, match="can no longer take part: out"):
        plans.pick_cell(session, volunteer, pack.number, shelf[0], at(3))
    with pytest.raises(ConflictError, match=f"{shelf[0]} may not stand in a pack any more"):
        move(session, volunteer, pack, "built", at(3))


def test_only_a_plan_is_picked(session: Session, volunteer: Actor) -> None:
    shelf = shelf_of(session, volunteer, SIX)
    pack = keep(session, volunteer)
    move(session, volunteer, pack, "dropped", at(3))
    with pytest.raises(ConflictError, match="only a plan can be picked"):
        plans.pick_cell(session, volunteer, pack.number, shelf[0], at(3))


# --- Files -----------------------------------------------------------------------------------------------------------


def test_a_plan_leaves_as_json_and_csv_with_the_same_cells(session: Session, volunteer: Actor) -> None:
    shelf_of(session, volunteer, SIX)
    pack = keep(session, volunteer, purpose="gate counter, north")
    plan = plan_file(session, pack.number, at(2))
    whole = json.loads(plan_as_json(plan))
    assert (whole["format"], whole["weakest_group_mah"], whole["bound_mah"]) == ("zembric-plan", 4850.0, 4850.0)
    assert [[cell["cell_id"] for cell in group["cells"]] for group in whole["groups"]] == cells_in(pack)
    rows = list(csv.DictReader(io.StringIO(plan_as_csv(plan).decode())))
    assert [(row["group"], row["cell_id"]) for row in rows] == [
        (str(number), cell) for number, group in enumerate(cells_in(pack), start=1) for cell in group
    ]
    assert {row["place"] for row in rows} == {"Shelf box 1"}


# --- Several packs ---------------------------------------------------------------------------------------------------


def test_several_packs_share_the_shelf_and_who_gets_none_hears_why(session: Session, volunteer: Actor) -> None:
    shelf_of(session, volunteer, SIX)
    single = replace(TWO_BY_TWO, series=1)
    first, second, third = propose_several(session, [single, TWO_BY_TWO, single], "in-order", at(2))
    assert isinstance(first, Proposal)
    assert isinstance(second, Proposal)
    assert first.best.weakest_mah == 4950
    assert not {key for group in first.best.groups for key in group.keys} & {
        key for group in second.best.groups for key in group.keys
    }
    assert isinstance(third, TooFewCellsError)


# --- Wishes ----------------------------------------------------------------------------------------------------------


def test_a_wish_says_what_is_missing_what_may_come_and_when_it_can_be_met(session: Session, volunteer: Actor) -> None:
    donor = open_donor(session, volunteer, 5)
    numbers = numbers_of(donor)
    for number in numbers[:3]:
        to_the_shelf(session, volunteer, number, 2300)
    voltage(session, volunteer, numbers[3], "3.70", at(minutes=3))
    wish = wishes.make_wish(session, volunteer, "lamp of the quay", TWO_BY_TWO, at(2))
    (state,) = wishes.wish_states(session, at(2))
    assert (state.have, state.needed, state.missing) == (3, 4, 1)
    assert [(each.listed.cell.number, each.expected_mah) for each in state.likely] == [
        (numbers[3], 2300), (numbers[4], 2300)
    ]  # fmt: skip
    assert wishes.wishes_that_can_be_met(session, at(2)) == []
    to_the_shelf(session, volunteer, numbers[4], 2250)
    session.flush()
    assert wishes.wishes_that_can_be_met(session, at(2)) == [wish]
    groups = tuple(group.keys for group in propose(session, TWO_BY_TWO, at(2)).best.groups)
    pack = plans.keep_pack(session, volunteer, PackToKeep("lamp", TWO_BY_TWO, groups, wish.id), at(2))
    assert (wish.pack_id, wishes.wish_states(session, at(3))) == (pack.id, [])
    with pytest.raises(ConflictError, match="met or given up before"):
        wishes.give_up_wish(session, volunteer, wish.id, at(3))


def test_what_can_be_no_size_is_refused_before_a_wish_or_search_of_it_is_kept(
    session: Session, volunteer: Actor
) -> None:
    nothing = replace(TWO_BY_TWO, size_code="banana")
    with pytest.raises(BadInputError):
        wishes.make_wish(session, volunteer, "lamp of the quay", nothing, at())
    with pytest.raises(BadInputError):
        searches.ask_for_search(session, volunteer, nothing, 5, at())


# --- Long searches ---------------------------------------------------------------------------------------------------


@pytest.fixture
def searching(engine: Engine, session: Session, volunteer: Actor) -> Session:
    shelf_of(session, volunteer, SIX)
    session.commit()
    return session


def ask(session: Session, request: MatchRequest = TWO_BY_TWO) -> int:
    person = session.query(Person).filter_by(name="Volunteer").one()
    search = searches.ask_for_search(session, Actor(person.id, person.name, "volunteer"), request, 5, at(2))
    session.commit()
    return search.id


def test_a_search_ends_with_the_proof_and_its_best_becomes_a_proposal(
    engine: Engine, searching: Session, tmp_path: Path
) -> None:
    search_id = ask(searching)
    work_off_the_queue(engine, LogStore(tmp_path))
    with unit_of_work(engine) as session:
        found = session.get_one(MatchSearch, search_id)
        assert (found.state, found.share, found.weakest_mah, found.bound_mah) == ("done", 1.0, 4850.0, 4850.0)
        best = searches.best_so_far(session, search_id, at(2)).best
        assert (best.weakest_mah, best.proved_best) == (4850.0, True)


def test_a_search_that_is_to_stop_ends_with_what_it_has(engine: Engine, searching: Session, volunteer: Actor) -> None:
    search_id = ask(searching)
    searches.stop_search(searching, volunteer, search_id)
    searching.commit()
    searches.run_search(engine, search_id, lambda: at(2))
    with unit_of_work(engine) as session:
        found = session.get_one(MatchSearch, search_id)
        assert (found.state, found.groups is not None) == ("done", True)


def test_a_search_that_was_broken_off_is_taken_up_again(engine: Engine, searching: Session, tmp_path: Path) -> None:
    search_id = ask(searching)
    work_off_the_queue(engine, LogStore(tmp_path))
    with unit_of_work(engine) as session:
        session.get_one(MatchSearch, search_id).state = "searching"  # as a killed worker leaves it
    with unit_of_work(engine) as session:
        searches.take_up_searches_again(session)
    work_off_the_queue(engine, LogStore(tmp_path))
    with unit_of_work(engine) as session:
        assert session.get_one(MatchSearch, search_id).state == "done"


def test_a_search_that_cannot_be_says_why_to_whoever_waits(engine: Engine, searching: Session) -> None:
    search_id = ask(searching, replace(TWO_BY_TWO, parallel=9))
    searches.run_search(engine, search_id, lambda: datetime.now(UTC))
    with unit_of_work(engine) as session:
        found = session.get_one(MatchSearch, search_id)
        assert found.state == "failed"
        assert "18 cells are needed and 6 may take part" in say(from_json(found.trouble or {}))
        with pytest.raises(ConflictError, match="found nothing yet"):
            searches.best_so_far(session, search_id, at(2))
