"""Slots, programs, alarms and who is here, as people at the table meet them."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest
from sqlalchemy.orm import Session

from tests.support.testers import slot_numbers, vape_cells, wire_up
from zembric.core.errors import BadInputError, ConflictError, DangerError, NotAllowedError, ZembricError
from zembric.core.said import from_json, said
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.cells.home import by_step
from zembric.operations.known.instruments import TypedInstrument, add_instrument
from zembric.operations.testers import alarms, choosing, live, runs, slots, wired
from zembric.operations.testers.running import look_after_chargers
from zembric.wire.mapping import as_json
from zembric.wire.standin import STANDIN_MAP

NOW = datetime.now(UTC)


@pytest.fixture
def table(session: Session, coordinator: Actor, volunteer: Actor) -> tuple[list[str], list[str]]:
    wire_up(session, coordinator, 5999, NOW)
    return slot_numbers(session), vape_cells(session, volunteer, 3)


def refusal(call: object) -> str:
    with pytest.raises(ZembricError) as refused:
        call()  # type: ignore[operator]
    return refused.value.said.code


def test_a_slot_holds_one_cell_and_a_cell_lies_in_one_slot(
    session: Session, volunteer: Actor, table: tuple[list[str], list[str]]
) -> None:
    places, cells = table
    slots.put_in(session, volunteer, places[0], cells[0], NOW)
    assert refusal(lambda: slots.put_in(session, volunteer, places[0], cells[1], NOW)) == "slot-holds-a-cell"
    assert refusal(lambda: slots.put_in(session, volunteer, places[1], cells[0], NOW)) == "cell-lies-in-slot"
    assert slots.put_in(session, volunteer, places[0], cells[0], NOW).cell is not None
    assert slots.take_out(session, volunteer, places[0], NOW).cell is None


def test_the_usual_program_follows_from_the_next_step(
    session: Session, volunteer: Actor, table: tuple[list[str], list[str]]
) -> None:
    places, cells = table
    slot = slots.put_in(session, volunteer, places[0], cells[0], NOW)
    found = choosing.choices(session, slot, NOW).programs
    assert [choice.code for choice in found if choice.is_usual and choice.program] == ["cycle"]
    assert [choice.code for choice in found if choice.program is None] == ["capacity"]


def test_a_hazard_goes_into_no_slot(session: Session, volunteer: Actor, table: tuple[list[str], list[str]]) -> None:
    places, cells = table
    entries.inspect(session, volunteer, cells[0], ["swollen"], NOW)
    with pytest.raises(DangerError):
        slots.put_in(session, volunteer, places[0], cells[0], NOW)


def test_a_cell_that_turned_into_a_hazard_in_its_slot_is_not_begun(
    session: Session, volunteer: Actor, table: tuple[list[str], list[str]]
) -> None:
    places, cells = table
    slots.put_in(session, volunteer, places[0], cells[0], NOW)
    entries.inspect(session, volunteer, cells[0], ["swollen"], NOW)
    with pytest.raises(DangerError):
        runs.ask_for_run(session, volunteer, places[0], "charge", NOW)


def test_one_run_at_a_time_and_whoever_starts_it_is_here(
    session: Session, volunteer: Actor, table: tuple[list[str], list[str]]
) -> None:
    places, cells = table
    assert refusal(lambda: runs.ask_for_run(session, volunteer, places[0], "cycle", NOW)) == "slot-is-empty"
    slots.put_in(session, volunteer, places[0], cells[0], NOW)
    runs.ask_for_run(session, volunteer, places[0], "cycle", NOW)
    assert alarms.last_presence(session) == NOW
    assert refusal(lambda: runs.ask_for_run(session, volunteer, places[0], "charge", NOW)) == "slot-runs"
    assert refusal(lambda: slots.take_out(session, volunteer, places[0], NOW)) == "slot-runs"


def test_a_tester_without_a_watchdog_charges_nothing(
    session: Session, volunteer: Actor, table: tuple[list[str], list[str]]
) -> None:
    places, cells = table
    slot = slots.put_in(session, volunteer, places[0], cells[0], NOW)
    assert slot.tester is not None
    slot.tester.state = "here"
    assert refusal(lambda: runs.ask_for_run(session, volunteer, places[0], "cycle", NOW)) == "tester-has-no-watchdog"


def test_an_alarm_is_answered_once_and_stands_in_the_record(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    alarm = alarms.raise_alarm(session, "tester-silent", said("alarm-tester-silent"), NOW)
    assert alarms.raise_alarm(session, "tester-silent", said("alarm-tester-silent"), NOW) is alarm
    alarms.acknowledge(session, volunteer, alarm.id, "pulled the plug", NOW)
    assert refusal(lambda: alarms.acknowledge(session, coordinator, alarm.id, "", NOW)) == "alarm-was-answered"
    assert alarms.open_alarms(session) == []
    (kept,) = alarms.past_alarms(session)
    assert (kept.done, kept.acknowledged_by and kept.acknowledged_by.name) == ("pulled the plug", "Volunteer")


def test_a_charger_nobody_can_ask_gets_the_same_clocks(
    session: Session, volunteer: Actor, table: tuple[list[str], list[str]]
) -> None:
    charger = slots.add_charger(session, volunteer, "Single charger", 300, ("cylinder",), NOW)
    slots.put_in(session, volunteer, charger.number, table[1][0], NOW)
    assert (
        refusal(lambda: runs.ask_for_run(session, volunteer, charger.number, "pulse", NOW))
        == "program-slot-does-not-discharge"
    )
    run = runs.ask_for_run(session, volunteer, charger.number, "charge", NOW)
    assert run.due_at is not None
    assert run.due_at > NOW + timedelta(hours=1)
    alarms.somebody_is_here(session, volunteer, run.due_at)
    look_after_chargers(session, run.due_at + timedelta(minutes=5))
    assert alarms.open_alarms(session) == []
    alarms.somebody_is_here(session, volunteer, run.due_at + timedelta(hours=3))
    look_after_chargers(session, run.due_at + timedelta(hours=3))
    assert [alarm.code for alarm in alarms.open_alarms(session)] == ["charger-overdue"]


def test_a_charger_nobody_looks_after_calls_for_somebody(
    session: Session, volunteer: Actor, table: tuple[list[str], list[str]]
) -> None:
    charger = slots.add_charger(session, volunteer, "Single charger", 300, ("cylinder",), NOW)
    slots.put_in(session, volunteer, charger.number, table[1][0], NOW)
    runs.ask_for_run(session, volunteer, charger.number, "charge", NOW)
    look_after_chargers(session, NOW + timedelta(minutes=29))
    assert alarms.open_alarms(session) == []
    look_after_chargers(session, NOW + timedelta(minutes=31))
    assert [(alarm.code, alarm.cell and alarm.cell.number) for alarm in alarms.open_alarms(session)] == [
        ("nobody-here", table[1][0])
    ]


def test_a_charge_that_was_entered_at_the_bench_ends_the_clock_of_its_charger(
    session: Session, volunteer: Actor, table: tuple[list[str], list[str]]
) -> None:
    charger = slots.add_charger(session, volunteer, "Single charger", 300, ("cylinder",), NOW)
    slots.put_in(session, volunteer, charger.number, table[1][0], NOW)
    run = runs.ask_for_run(session, volunteer, charger.number, "charge", NOW)
    entries.charge(session, volunteer, table[1][0], entries.TypedCharge("4.19", True), NOW + timedelta(hours=2))
    # Also where nobody said since that they are here: nothing charges any more.
    look_after_chargers(session, NOW + timedelta(hours=2, minutes=1))
    assert (run.state, alarms.open_alarms(session)) == ("ended", [])


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"address": "somewhere"}, "tester-address"), ({"channels": 40}, "tester-channels"), ({"instrument": "M999"}, None),
        ({"mapping": {"off": ["{x}"], "measure": "M?"}}, "map-unknown-place"), ({"address": "TCPIP::127.0.0.1::5999::SOCKET"}, "address-is-taken"),
    ],
)  # fmt: skip
def test_a_tester_that_cannot_be_is_refused(
    session: Session,
    coordinator: Actor,
    table: tuple[list[str], list[str]],
    change: dict[str, object],
    says: str | None,
) -> None:
    other = add_instrument(session, coordinator, TypedInstrument("Another", "load"), NOW)
    usual = {
        "instrument": other.number, "link": "scpi", "address": "ASRL/dev/ttyUSB0::INSTR", "mapping": as_json(STANDIN_MAP),
    }  # fmt: skip
    told = refusal(lambda: wired.add_tester(session, coordinator, wired.TypedTester(**(usual | change)), NOW))  # type: ignore[arg-type]
    assert says is None or told == says


def test_wiring_is_for_coordinators(session: Session, volunteer: Actor, table: tuple[list[str], list[str]]) -> None:
    (tester,) = wired.all_testers(session)
    with pytest.raises(NotAllowedError):
        wired.try_line(session, volunteer, tester.id, "*IDN?", NOW)


def test_no_line_is_tried_while_something_runs(
    session: Session, volunteer: Actor, coordinator: Actor, table: tuple[list[str], list[str]]
) -> None:
    places, cells = table
    (tester,) = wired.all_testers(session)
    slots.put_in(session, volunteer, places[0], cells[0], NOW)
    runs.ask_for_run(session, volunteer, places[0], "cycle", NOW)
    with pytest.raises(ConflictError):
        wired.try_line(session, coordinator, tester.id, "*RST", NOW)


def test_what_runs_by_itself_is_nobodys_next_step(
    session: Session, volunteer: Actor, table: tuple[list[str], list[str]]
) -> None:
    places, cells = table
    charger = slots.add_charger(session, volunteer, "Single charger", 300, ("cylinder",), NOW)
    for place, cell in ((places[0], cells[0]), (charger.number, cells[1])):
        slots.put_in(session, volunteer, place, cell, NOW)
        runs.ask_for_run(session, volunteer, place, "charge", NOW)
    groups = {group.step: [each.cell.number for each in group.cells] for group in by_step(session, NOW)}
    assert groups["on-tester"] == [cells[0]]
    assert cells[1] in groups["charge"]


def test_a_run_that_was_only_asked_for_ends_as_soon_as_somebody_stops_it(
    session: Session, volunteer: Actor, table: tuple[list[str], list[str]]
) -> None:
    places, cells = table
    slots.put_in(session, volunteer, places[0], cells[0], NOW)
    run = runs.ask_for_run(session, volunteer, places[0], "cycle", NOW)
    stopped = runs.stop_run(session, volunteer, run.id, NOW)
    assert stopped.state == "stopped"
    assert stopped.end_said is not None
    assert from_json(stopped.end_said).code == "run-stopped-by"
    (first, *_) = live.slots_now(session)
    assert (first.run, first.left) == (run, None)


def test_a_number_that_is_none_of_ours_is_refused(session: Session) -> None:
    with pytest.raises(BadInputError):
        slots.get_slot(session, "K100")
