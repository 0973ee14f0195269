"""Entries at the bench against a real database."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from pathlib import Path

import pytest
from sqlalchemy import Engine, select, text
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from tests.support.benchwork import (
    at,
    capacity,
    charge,
    numbers_of,
    open_donor,
    resistance,
    shelf_of,
    to_the_shelf,
    voltage,
)
from tests.support.worker import work_off_the_queue
from zembric.core.errors import (
    BadInputError,
    ChangedMeanwhileError,
    ConflictError,
    DangerError,
    NotAllowedError,
    NotFoundError,
    OddInputError,
)
from zembric.core.identify.numbering import make_number
from zembric.core.said import from_json, said
from zembric.models import CellRow, Entry, Happening, JudgementRow, ReadingEntry
from zembric.operations.actors import Actor
from zembric.operations.bench import entries, keeping, taking_back, whereabouts
from zembric.operations.bench.readings import TypedReading
from zembric.operations.cells import home, shelf, stories
from zembric.operations.cells.identity import set_facts
from zembric.operations.cells.judged import judge_sibling, siblings_that_stand_otherwise
from zembric.operations.cells.what_if import TypedWhatIf, what_if
from zembric.operations.database import unit_of_work
from zembric.operations.known.entries import counting, entries_of
from zembric.operations.measuring.log_traces import LogStore
from zembric.operations.papers.labels import label_texts
from zembric.wording import say


@pytest.fixture
def number(session: Session, volunteer: Actor) -> str:
    return numbers_of(open_donor(session, volunteer))[0]


def newest(session: Session, cell: CellRow) -> Entry:
    return counting(entries_of(session, cell.id))[-1]


def test_opening_a_donor_numbers_its_cells_and_gives_them_places(session: Session, volunteer: Actor) -> None:
    donor = open_donor(session, volunteer, 6)
    assert len({cell.number for cell in donor.cells}) == 6
    assert [cell.slot for cell in donor.cells] == [1, 2, 3, 4, 5, 6]
    assert {cell.place.name for cell in donor.cells if cell.place} == {"Tray 1"}
    assert {cell.judgement.next_step for cell in donor.cells if cell.judgement} == {"inspect"}


def test_a_donor_that_does_not_fit_gets_a_tray_of_its_own(session: Session, volunteer: Actor) -> None:
    open_donor(session, volunteer, 15)
    places = {(cell.place.name, cell.slot) for cell in open_donor(session, volunteer, 6).cells if cell.place}
    assert places == {("Tray 2", slot) for slot in range(1, 7)}


@pytest.mark.parametrize(
    ("wrong", "field"),
    [
        ({"kind": "toaster"}, "kind"),
        ({"cells": 0}, "cells"),
        ({"cells": 41}, "cells"),
        ({"size_code": "ABC"}, "size_code"),
        ({"family": "unobtainium"}, "family"),
        ({"size_code": "ER14505"}, "family"),
        ({"full_v": 4.35}, "full_v"),
        ({"family": "high-voltage-cobalt", "full_v": 4.9}, "full_v"),
        ({"rated_capacity_mah": -1}, "rated_capacity_mah"),
        ({"description": "x" * 201}, "description"),
    ],
)
def test_a_donor_that_cannot_be_is_refused_by_field(
    session: Session, volunteer: Actor, wrong: dict[str, object], field: str
) -> None:
    with pytest.raises(BadInputError) as refused:
        open_donor(session, volunteer, **({"cells": 2} | wrong))  # type: ignore[arg-type]
    assert refused.value.field == field


def test_a_voltage_is_kept_with_its_conditions_and_judged_at_once(
    session: Session, volunteer: Actor, number: str
) -> None:
    entries.inspect(session, volunteer, number, [], at())
    cell = voltage(session, volunteer, number, "3,71", at(minutes=1))
    reading = newest(session, cell)
    assert isinstance(reading, ReadingEntry)
    assert (reading.value, reading.unit, reading.conditions["state"]) == (3.71, "V", "resting")
    assert reading.standard_u == pytest.approx(0.01 / 12**0.5)
    assert cell.judgement
    assert (cell.judgement.next_step, cell.judgement.resting_voltage_v) == ("charge", 3.71)


def test_an_odd_value_is_asked_about_once_and_then_taken(session: Session, volunteer: Actor, number: str) -> None:
    voltage(session, volunteer, number, "4.10", at())
    with pytest.raises(OddInputError):
        voltage(session, volunteer, number, "3.71", at(1))
    assert voltage(session, volunteer, number, "3.71", at(1), confirmed=True).judgement


def test_confirming_does_not_lift_what_cannot_be(session: Session, volunteer: Actor, number: str) -> None:
    with pytest.raises(BadInputError):
        voltage(session, volunteer, number, "37.1", at(), confirmed=True)


def test_a_hazard_goes_to_the_fire_safe_box_and_nowhere_else(session: Session, volunteer: Actor, number: str) -> None:
    cell = entries.inspect(session, volunteer, number, ["swollen"], at())
    assert cell.place
    assert (cell.place.kind, cell.slot) == ("fire-safe-box", None)
    blocked: tuple[Callable[[], object], ...] = (
        lambda: voltage(session, volunteer, number, "3.7", at(1)),
        lambda: charge(session, volunteer, number, "4.2", at(1)),
        lambda: whereabouts.put_out(session, volunteer, number, at(1)),
        lambda: taking_back.withdraw(session, volunteer, number, newest(session, cell).id, at(1)),
    )
    for work in blocked:
        with pytest.raises(DangerError):
            work()
    with pytest.raises(ConflictError):
        whereabouts.shelve(session, volunteer, number, None, at(1))


@pytest.mark.parametrize(
    ("known", "end_v"),
    [
        ({"family": "primary"}, "3.0"),
        ({"family": None}, "3.7"),
        ({}, "4.26"),
        ({"family": "iron-phosphate", "rated_capacity_mah": None}, "3.71"),
    ],
)
def test_a_dangerous_charge_is_blocked(
    session: Session, volunteer: Actor, known: dict[str, object], end_v: str
) -> None:
    number = numbers_of(open_donor(session, volunteer, **known))[0]  # type: ignore[arg-type]
    with pytest.raises(DangerError):
        charge(session, volunteer, number, end_v, at(1))


def test_a_cell_that_is_out_is_not_charged(session: Session, volunteer: Actor, number: str) -> None:
    voltage(session, volunteer, number, "1.2", at())
    with pytest.raises(DangerError, match="out"):
        charge(session, volunteer, number, "4.2", at(1))


@pytest.mark.parametrize(("found", "told"), [("2.3", "130"), ("4.31", "coordinator")])
def test_a_low_or_overfull_cell_is_not_simply_charged(
    session: Session, volunteer: Actor, number: str, found: str, told: str
) -> None:
    entries.inspect(session, volunteer, number, [], at())
    voltage(session, volunteer, number, found, at())
    with pytest.raises(DangerError, match=told):
        charge(session, volunteer, number, "4.2", at(1))


def test_a_correction_supersedes_and_erases_nothing(session: Session, volunteer: Actor, number: str) -> None:
    cell = voltage(session, volunteer, number, "3.17", at())
    wrong = newest(session, cell)
    reading = TypedReading("voltage", "3.71", "meter", confirmed=True)
    taking_back.correct(session, volunteer, number, wrong.id, reading, "digits swapped", at(minutes=5))
    history = [entry for entry in entries_of(session, cell.id) if isinstance(entry, ReadingEntry)]
    assert [entry.value for entry in history] == [3.17, 3.71]
    assert (history[1].supersedes_id, history[1].at, history[1].why) == (wrong.id, wrong.at, "digits swapped")
    assert cell.judgement
    assert cell.judgement.resting_voltage_v == 3.71
    with pytest.raises(ConflictError):
        taking_back.correct(session, volunteer, number, wrong.id, reading, "once more", at(minutes=6))


def test_undo_takes_back_only_the_last_entry(session: Session, volunteer: Actor, number: str) -> None:
    first = newest(session, entries.inspect(session, volunteer, number, [], at()))
    cell = voltage(session, volunteer, number, "1.2", at(minutes=1))
    with pytest.raises(ConflictError, match="last entry"):
        taking_back.withdraw(session, volunteer, number, first.id, at(minutes=2))
    taking_back.withdraw(session, volunteer, number, newest(session, cell).id, at(minutes=2))
    assert cell.judgement
    assert (cell.judgement.grade, cell.judgement.next_step) == ("not-yet", "measure-voltage")
    assert len(entries_of(session, cell.id)) == 3


def test_somebody_elses_entry_is_undone_only_by_a_coordinator(
    session: Session, volunteer: Actor, coordinator: Actor, number: str
) -> None:
    cell = voltage(session, coordinator, number, "3.7", at())
    entry_id = newest(session, cell).id
    with pytest.raises(NotAllowedError):
        taking_back.withdraw(session, volunteer, number, entry_id, at(1))
    taking_back.withdraw(session, coordinator, number, entry_id, at(1))
    assert newest_or_none(session, cell) is None


def test_ones_own_slip_is_struck_out_with_its_ground_and_what_was_true_before_holds_again(
    session: Session, volunteer: Actor, number: str
) -> None:
    entries.inspect(session, volunteer, number, [], at())
    voltage(session, volunteer, number, "3.71", at(1))
    cell = voltage(session, volunteer, number, "0.21", at(2), confirmed=True)
    slip = newest(session, cell)
    assert cell.judgement
    assert cell.judgement.grade == "out"
    with pytest.raises(BadInputError, match="why"):
        taking_back.strike(session, volunteer, number, slip.id, " ", at(3))
    taking_back.strike(session, volunteer, number, slip.id, "meant for the cell beside it", at(3))
    assert (cell.judgement.grade, cell.judgement.next_step) == ("not-yet", "charge")
    assert [entry.why for entry in entries_of(session, cell.id) if entry.supersedes_id == slip.id] == [
        "meant for the cell beside it"
    ]
    with pytest.raises(ConflictError):
        taking_back.strike(session, volunteer, number, slip.id, "once more", at(4))


def test_a_finding_by_a_slip_and_a_figure_of_somebody_else_are_struck_out_by_a_coordinator_only(
    session: Session, volunteer: Actor, coordinator: Actor, number: str
) -> None:
    measured = newest(session, voltage(session, coordinator, number, "3.7", at()))
    cell = entries.inspect(session, volunteer, number, ["swollen"], at(1))
    found = newest(session, cell)
    for entry in (measured, found):
        with pytest.raises(NotAllowedError):
            taking_back.strike(session, volunteer, number, entry.id, "wrong letter", at(2))
    taking_back.strike(session, coordinator, number, found.id, "wrong letter, looked at it myself", at(2))
    assert cell.judgement
    assert cell.judgement.next_step == "inspect"


def test_a_correction_is_held_against_the_story_without_the_mistake(
    session: Session, volunteer: Actor, number: str
) -> None:
    voltage(session, volunteer, number, "3.71", at())
    slip = newest(session, voltage(session, volunteer, number, "4.17", at(1), confirmed=True))
    right = TypedReading("voltage", "3.70", "meter")
    taking_back.correct(session, volunteer, number, slip.id, right, "one digit", at(1, minutes=1))


def test_what_stood_on_paper_counts_from_its_own_day(session: Session, volunteer: Actor, number: str) -> None:
    cell = entries.measure(
        session, volunteer, number, TypedReading("voltage", "3.7", "meter"), at(30), typed_at=keeping.OnPaper(at(2))
    )
    assert newest(session, cell).at == at(2)
    for wrong in (at(31), at(-1)):
        with pytest.raises(BadInputError) as refused:
            entries.inspect(session, volunteer, number, [], at(30), typed_at=keeping.OnPaper(wrong))
        assert refused.value.field == "paper_at"


def newest_or_none(session: Session, cell: CellRow) -> Entry | None:
    return next(iter(counting(entries_of(session, cell.id))), None)


def test_a_recovery_is_only_for_cells_that_need_one_and_failing_is_final(
    session: Session, volunteer: Actor, number: str
) -> None:
    entries.inspect(session, volunteer, number, [], at())
    with pytest.raises(ConflictError, match="No recovery"):
        entries.recover(session, volunteer, number, "passed", at(1))
    voltage(session, volunteer, number, "2.4", at(1))
    cell = entries.recover(session, volunteer, number, "failed", at(2))
    assert cell.judgement
    assert (cell.judgement.grade, cell.judgement.next_step) == ("out", "out-box")


def test_only_a_coordinator_decides_and_says_why(
    session: Session, volunteer: Actor, coordinator: Actor, number: str
) -> None:
    entries.inspect(session, volunteer, number, [], at())
    voltage(session, volunteer, number, "4.31", at(minutes=1))
    with pytest.raises(NotAllowedError):
        entries.decide(session, volunteer, number, "over-voltage", "go-on", "was marked 4.35", at(1))
    with pytest.raises(BadInputError, match="why"):
        entries.decide(session, coordinator, number, "over-voltage", "go-on", "", at(1))
    cell = entries.decide(session, coordinator, number, "over-voltage", "go-on", "charger was off, checked", at(1))
    assert cell.judgement
    assert cell.judgement.next_step == "charge"


def test_skipping_resistance_needs_a_reason_and_caps_the_grade(session: Session, volunteer: Actor, number: str) -> None:
    entries.inspect(session, volunteer, number, [], at())
    voltage(session, volunteer, number, "3.7", at())
    charge(session, volunteer, number, "4.2", at(hours=2))
    capacity(session, volunteer, number, "2400", at(1))
    with pytest.raises(BadInputError):
        entries.skip(session, volunteer, number, "resistance", " ", at(1))
    cell = entries.skip(session, volunteer, number, "resistance", "no instrument tonight", at(1))
    assert cell.judgement
    assert cell.judgement.grade == "B"


def test_a_skipped_capacity_says_so_and_leaves_the_cell_without_a_grade(
    session: Session, volunteer: Actor, number: str
) -> None:
    entries.inspect(session, volunteer, number, [], at())
    voltage(session, volunteer, number, "3.7", at())
    cell = entries.skip(session, volunteer, number, "capacity", "all testers are taken", at(hours=1))
    assert cell.judgement
    assert (cell.judgement.grade, cell.judgement.next_step) == ("not-yet", "charge")
    assert any("all testers are taken" in say(from_json(reason["said"])) for reason in cell.judgement.reasons)


def test_repairs_are_ticked_off(session: Session, volunteer: Actor, number: str) -> None:
    entries.inspect(session, volunteer, number, ["torn-wrap", "tab-remains"], at())
    entries.repair(session, volunteer, number, ["torn-wrap"], at(1))
    cell = entries.repair(session, volunteer, number, ["tab-remains"], at(2))
    assert cell.judgement
    assert cell.judgement.next_step == "measure-voltage"
    with pytest.raises(BadInputError):
        entries.repair(session, volunteer, number, ["swollen"], at(3))


def test_only_a_graded_cell_goes_onto_the_shelf_and_only_an_out_one_into_the_out_box(
    session: Session, volunteer: Actor, number: str
) -> None:
    with pytest.raises(ConflictError, match="not graded"):
        whereabouts.shelve(session, volunteer, number, None, at())
    with pytest.raises(NotAllowedError):
        whereabouts.put_out(session, volunteer, number, at())
    cell = to_the_shelf(session, volunteer, number)
    assert cell.place
    assert (cell.place.kind, cell.slot) == ("shelf-box", None)


def test_a_wrong_or_unknown_number_is_told_apart(session: Session, volunteer: Actor, number: str) -> None:
    wrong = number[:-1] + str((int(number[-1]) + 1) % 10)
    with pytest.raises(BadInputError, match="last digit"):
        voltage(session, volunteer, wrong, "3.7", at())
    with pytest.raises(NotFoundError):
        voltage(session, volunteer, make_number("cell", 999), "3.7", at())


def test_facts_are_set_by_a_coordinator_who_saw_the_newest_state(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    donor = open_donor(session, volunteer, family=None, size_code=None, rated_capacity_mah=None)
    number, facts = numbers_of(donor)[0], {"family": "iron-phosphate", "size_code": "18650"}
    seen = donor.cells[0].version
    with pytest.raises(NotAllowedError):
        set_facts(session, volunteer, number, seen, facts, at(1))
    cell = set_facts(session, coordinator, number, seen, facts, at(1))
    session.flush()
    assert (cell.family, cell.size_code) == ("iron-phosphate", "18650")
    with pytest.raises(ChangedMeanwhileError):
        set_facts(session, coordinator, number, seen, {"family": "titanate"}, at(2))


def test_a_judgement_keeps_its_rules_and_is_not_said_twice(session: Session, volunteer: Actor, number: str) -> None:
    cell = voltage(session, volunteer, number, "3.7", at())
    voltage(session, volunteer, number, "3.7", at(minutes=1))
    said = session.scalars(select(JudgementRow).where(JudgementRow.cell_id == cell.id)).all()
    assert len(said) == 3  # numbered, and after each voltage, as the time of the last one counts
    assert {row.rule_set_version for row in said} == {1}


def test_everything_done_stands_in_the_record(session: Session, volunteer: Actor, number: str) -> None:
    to_the_shelf(session, volunteer, number)
    happenings = session.scalars(
        select(Happening).where(Happening.person_id == volunteer.person_id).order_by(Happening.id)
    ).all()
    what = [each.what for each in happenings if not each.what.startswith("sign-in")]
    assert what == [
        "donor-opened", "inspection", "reading", "step", "reading", "reading", "step", "reading", "step",
    ]  # fmt: skip


@pytest.mark.parametrize(
    "statement",
    [
        "UPDATE reading SET value = 4",
        "DELETE FROM entry",
        "UPDATE judgement SET grade = 'A'",
        "DELETE FROM happening",
        "TRUNCATE inspection",
    ],
)
def test_the_database_itself_refuses_to_rewrite_what_was_said(
    session: Session, volunteer: Actor, number: str, statement: str
) -> None:
    voltage(session, volunteer, number, "3.7", at())
    with pytest.raises(DBAPIError, match="only added"):
        session.execute(text(statement))


@pytest.mark.parametrize(
    ("statement", "constraint"),
    [
        ("UPDATE cell SET number = (SELECT min(number) FROM cell)", "uq_cell_number"),
        ("UPDATE cell SET slot = 1", "uq_cell_place_id_slot"),
        ("UPDATE cell SET family = 'lemon'", "ck_cell_family"),
        ("UPDATE cell SET place_id = 999", "fk_cell_place_id"),
        ("UPDATE cell SET handed_over_at = now()", "ck_cell_handed_over_is_nowhere"),
        ("INSERT INTO reading VALUES (1, 'voltage', 3.7, 'mAh', 'meter', '{}', 0)", "ck_reading_unit_of_quantity"),
    ],
)
def test_the_database_itself_keeps_the_constraints(
    session: Session, volunteer: Actor, statement: str, constraint: str
) -> None:
    open_donor(session, volunteer, 2)
    with pytest.raises(DBAPIError, match=constraint):
        session.execute(text(statement))


def test_a_filtered_shelf_finds_and_sorts(session: Session, volunteer: Actor) -> None:
    numbers = shelf_of(session, volunteer, [2300, 1500, 2500])
    page = shelf.CellPage("capacity", falling=True, most=2)
    total, found, _ = shelf.list_cells(session, shelf.CellFilter(on_shelf=True), at(2), page)
    assert (total, [listed.cell.number for listed in found]) == (3, [numbers[2], numbers[0]])
    total, found, _ = shelf.list_cells(session, shelf.CellFilter(grades=("C",)), at(2), page)
    assert (total, found[0].cell.number) == (1, numbers[1])


def test_home_groups_cells_by_what_they_need_now(session: Session, volunteer: Actor) -> None:
    first, second, third = numbers_of(open_donor(session, volunteer, 3))
    entries.inspect(session, volunteer, second, [], at())
    to_the_shelf(session, volunteer, third)
    assert groups_at(session, 2) == {"inspect": {first}, "measure-voltage": {second}, "keep": {third}}
    assert groups_at(session, 20)["recheck"] == {third}  # the wait is over, and nothing was written for it


def groups_at(session: Session, days: float) -> dict[str, set[str]]:
    return {group.step: {listed.cell.number for listed in group.cells} for group in home.by_step(session, at(days))}


def test_a_cell_far_from_its_siblings_is_told(session: Session, volunteer: Actor) -> None:
    numbers = numbers_of(open_donor(session, volunteer, 3))
    for number, value in zip(numbers, ("3.70", "3.72", "3.35"), strict=True):
        voltage(session, volunteer, number, value, at())
    assert stories.cell_story(session, numbers[2], at()).gap_to_siblings_v == pytest.approx(-0.36)
    assert stories.cell_story(session, numbers[0], at()).gap_to_siblings_v is None


def rejudge_siblings(session: Session, donor_id: int, now: datetime) -> None:
    for cell_id in siblings_that_stand_otherwise(session, donor_id):
        judge_sibling(session, cell_id, now)


def test_a_cell_is_judged_anew_when_its_siblings_turn_out_to_differ(session: Session, volunteer: Actor) -> None:
    """The odd one is measured first, when nothing is odd about it yet; taking the others back makes it usual again."""
    odd, *others = open_donor(session, volunteer, 3).cells
    for cell, value in zip((odd, *others), ("3.35", "3.70", "3.72"), strict=True):
        voltage(session, volunteer, cell.number, value, at())

    def said() -> list[bool]:
        told = ([reason["code"] for reason in cell.judgement.reasons] for cell in (odd, *others) if cell.judgement)
        return ["siblings-differ" in codes for codes in told]

    rejudge_siblings(session, odd.donor_id, at())
    assert said() == [True, False, False]
    for cell in others:
        (entry,) = entries_of(session, cell.id)
        taking_back.withdraw(session, volunteer, cell.number, entry.id, at(1))
        rejudge_siblings(session, cell.donor_id, at(1))
    assert said() == [False, False, False]


def test_an_entry_that_waited_for_its_siblings_is_taken_although_theirs_came_later(
    session: Session, volunteer: Actor
) -> None:
    """Several cells of a donor are sent at once: what follows of one for another may be judged before an earlier entry is taken."""
    odd, *others = open_donor(session, volunteer, 3).cells
    voltage(session, volunteer, odd.number, "3.35", at(minutes=5, hours=1))
    for cell in others:
        voltage(session, volunteer, cell.number, "3.70", at(minutes=4, hours=1))
    rejudge_siblings(session, odd.donor_id, at(minutes=5, hours=1))
    assert odd.judgement is not None
    assert "siblings-differ" in [reason["code"] for reason in odd.judgement.reasons]
    voltage(session, volunteer, odd.number, "3.36", at(minutes=3, hours=1))
    assert odd.judgement.at == at(minutes=5, hours=1)


def test_charging_a_sibling_does_not_make_the_others_look_odd(session: Session, volunteer: Actor) -> None:
    numbers = numbers_of(open_donor(session, volunteer, 2))
    for number in numbers:
        voltage(session, volunteer, number, "3.70", at())
    charge(session, volunteer, numbers[0], "4.20", at(1))
    voltage(session, volunteer, numbers[0], "4.18", at(2))
    assert [stories.cell_story(session, number, at(2)).gap_to_siblings_v for number in numbers] == [None, None]


def test_resistance_by_a_tester_is_less_certain(session: Session, volunteer: Actor, number: str) -> None:
    cell = resistance(session, volunteer, number, "70", at(), method="tester")
    entry = newest(session, cell)
    assert isinstance(entry, ReadingEntry)
    assert entry.standard_u == pytest.approx(20 / 3**0.5)


def graded(session: Session, who: Actor, number: str, mah: str = "1800") -> None:
    """69 % of its rated capacity, which is B."""
    entries.inspect(session, who, number, [], at())
    voltage(session, who, number, "3.7", at())
    charge(session, who, number, "4.2", at(hours=2))
    capacity(session, who, number, mah, at(1))
    entries.skip(session, who, number, "resistance", "no meter tonight", at(1))


def test_a_coordinator_judges_otherwise_and_it_is_shown_as_such_until_taken_back(
    session: Session, volunteer: Actor, coordinator: Actor, number: str
) -> None:
    graded(session, volunteer, number)
    with pytest.raises(NotAllowedError):
        entries.overrule(session, volunteer, number, "C", "its wrap is brittle", at(2))
    cell = entries.overrule(session, coordinator, number, "C", "its wrap is brittle", at(2))
    assert cell.judgement
    assert (cell.judgement.grade, cell.judgement.sure, cell.judgement.reasons[0]["code"]) == ("C", "sure", "overruled")
    assert "brittle" in say(from_json(cell.judgement.reasons[0]["said"]))
    assert label_texts(session, [number])[0].detail == said("label-from-by-hand", donor=cell.donor.number)
    cell = entries.overrule(session, coordinator, number, None, "wrapped anew", at(3))
    assert cell.judgement
    assert (cell.judgement.grade, cell.judgement.reasons[0]["code"]) == ("B", "capacity")
    assert [entry.why for entry in entries_of(session, cell.id)][-2:] == ["its wrap is brittle", "wrapped anew"]


def test_nobody_overrules_a_hazard_or_a_cell_without_a_grade(
    session: Session, volunteer: Actor, coordinator: Actor, number: str
) -> None:
    with pytest.raises(ConflictError, match="not graded"):
        entries.overrule(session, coordinator, number, "A", "looks good to me", at())
    graded(session, volunteer, number)
    entries.overrule(session, coordinator, number, "A", "looks good to me", at(2))
    cell = entries.inspect(session, volunteer, number, ["swollen"], at(3))
    assert cell.judgement
    assert (cell.judgement.grade, cell.judgement.reasons[0]["code"]) == ("out", "hazard")
    with pytest.raises(DangerError, match="Nobody overrules"):
        entries.overrule(session, coordinator, number, "A", "still looks good", at(4))


def test_what_if_supposes_other_schools_and_readings_and_keeps_nothing(
    session: Session, volunteer: Actor, number: str
) -> None:
    """1800 of 2600 mAh is B; by volume 109 mAh/cm3 is B too; 1500 mAh are 58 %; 400 mOhm times 1.8 Ah are 0.72 Ohm Ah."""
    graded(session, volunteer, number)
    supposed = {
        "as it is": TypedWhatIf(),
        "by volume": TypedWhatIf(grade_school="bins"),
        "one more run": TypedWhatIf(quantity="capacity", value="1500", method="tester"),
        "a resistance": TypedWhatIf(quantity="resistance", value="400", method="dc-10s"),
    }
    found = {name: what_if(session, number, each, at(2)).judgement.grade for name, each in supposed.items()}
    assert found == {"as it is": "B", "by volume": "B", "one more run": "C", "a resistance": "out"}
    kept = stories.cell_story(session, number, at(2)).judgements[-1]
    assert (kept.grade, kept.resistance_mohm) == ("B", None)


def test_a_cell_is_placed_among_its_own_kind_on_the_shelf(session: Session, volunteer: Actor, number: str) -> None:
    shelf_of(session, volunteer, [2100, 2100, 1500])
    graded(session, volunteer, number)
    found = what_if(session, number, TypedWhatIf(), at(2))
    assert (found.weaker, found.of_its_kind) == (1, 3)


def test_an_entry_holds_its_own_cell_only_and_its_siblings_are_judged_behind_it(
    engine: Engine, session: Session, volunteer: Actor, tmp_path: Path
) -> None:
    """Two people at one donor do not wait for one another, and the one who was odd first is told once the worker was there."""
    odd, *others = numbers_of(open_donor(session, volunteer, 3))
    voltage(session, volunteer, odd, "3.35", at())
    session.commit()
    voltage(session, volunteer, others[0], "3.70", at())
    session.flush()
    with unit_of_work(engine) as second:
        second.execute(text("SET LOCAL lock_timeout = '2s'"))
        voltage(second, volunteer, others[1], "3.72", at())
    session.commit()
    work_off_the_queue(engine, LogStore(tmp_path))
    session.expire_all()
    judged = stories.get_cell(session, odd).judgement
    assert judged is not None
    assert "siblings-differ" in [reason["code"] for reason in judged.reasons]


def test_what_several_voltages_tell_of_siblings_is_judged_once(
    engine: Engine, session: Session, volunteer: Actor
) -> None:
    numbers = numbers_of(open_donor(session, volunteer, 3))
    session.commit()
    for number in numbers:
        voltage(session, volunteer, number, "3.70", at())
        session.commit()
    waiting = "SELECT count(*) FROM procrastinate_jobs WHERE task_name = 'judge-siblings' AND status = 'todo'"
    assert session.scalar(text(waiting)) == 1
