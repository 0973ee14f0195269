"""What stands on the demo's table tonight: a simulated tester on the wire, chargers without one, and cells in their slots."""

from __future__ import annotations

import re
from typing import TYPE_CHECKING

from sqlalchemy import delete, select, update

from zembric.core.errors import ZembricError
from zembric.models import LIVE_STATES, CellRow, JudgementRow, Presence, RunRow, Slot, SlotRun, WiredTester
from zembric.operations.known.instruments import TypedInstrument, add_instrument
from zembric.operations.testers import runs, slots, wired
from zembric.wire.mapping import as_json
from zembric.wire.standin import CHANNELS, STANDIN_MAP

if TYPE_CHECKING:
    from collections.abc import Iterator
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.tester.programs import ProgramCode
    from zembric.operations.actors import Actor

USUAL_PORT = 5025
#: Seconds of the tester's clock in one of ours.
DEMO_SPEED = 60.0
_ADDRESS = "TCPIP::127.0.0.1::{port}::SOCKET"
_IN_SLOTS = 5


def testers_on_the_table(session: Session, oona: Actor, tamsin: Actor, now: datetime) -> None:
    """Eight channels that answer, two chargers that do not, and some cells that have just been put in."""
    instrument = add_instrument(session, oona, TypedInstrument("Tester on the long table", "tester"), now)
    typed = wired.TypedTester(
        instrument.number, "scpi", _ADDRESS.format(port=USUAL_PORT), as_json(STANDIN_MAP), CHANNELS, 1500, 2000
    )
    tester = wired.add_tester(session, oona, typed, now)
    chargers = [
        slots.add_charger(session, oona, f"Single charger {number}", 500, ("cylinder",), now) for number in (1, 2)
    ]
    places = [
        slot.number for slot in session.scalars(select(Slot).where(Slot.tester_id == tester.id).order_by(Slot.channel))
    ]
    waiting = session.scalars(
        select(CellRow.number).join(JudgementRow, JudgementRow.id == CellRow.judgement_id)
        .where(JudgementRow.next_step.in_(("charge", "measure-capacity")), CellRow.handed_over_at.is_(None)).order_by(CellRow.id.desc())
    ).all()  # fmt: skip
    programs: tuple[ProgramCode, ...] = ("cycle", "cycle", "cycle", "charge", "cycle")
    places, left = places[:_IN_SLOTS], iter(waiting)
    for place, program in zip(places, programs, strict=False):
        _begin(session, tamsin, place, left, program, now)
    _begin(session, tamsin, chargers[0].number, left, "charge", now)


def _begin(session: Session, who: Actor, place: str, left: Iterator[str], program: ProgramCode, now: datetime) -> None:
    """The next of those that wait that this slot takes."""
    for number in left:
        try:
            with session.begin_nested():
                slots.put_in(session, who, place, number, now)
                runs.ask_for_run(session, who, place, program, now)
        except ZembricError:
            continue
        return


def move_tester(session: Session, port: int, now: datetime) -> None:
    """The simulated tester answers at this port from now on, and what ran when it was left begins anew with it."""
    going = session.scalars(
        select(SlotRun).join(Slot).where(Slot.tester_id.is_not(None), SlotRun.state.in_(LIVE_STATES))
    ).all()
    for run in going:
        session.execute(delete(RunRow).where(RunRow.run_id == run.id))
        run.state, run.progress, run.rows, run.began_at, run.began_clock_s, run.asked_at = (
            "asked",
            None,
            0,
            None,
            None,
            now,
        )
    if going:
        session.add(Presence(person_id=going[0].asked_by_id, at=now))
    session.execute(
        update(WiredTester)
        .where(WiredTester.address.like("TCPIP::127.0.0.1::%"))
        .values(address=_ADDRESS.format(port=port))
    )


def tester_port(session: Session) -> int:
    address = session.scalar(select(WiredTester.address).where(WiredTester.address.like("TCPIP::127.0.0.1::%"))) or ""
    found = re.search(r"::(\d+)::SOCKET$", address)
    return int(found[1]) if found else USUAL_PORT
