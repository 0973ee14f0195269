"""Instruments on a wire: added, changed, and tried out by a coordinator. Only the runner opens one."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from sqlalchemy import select

from zembric.core.errors import BadInputError, ChangedMeanwhileError, ConflictError, NotFoundError
from zembric.core.identify.numbering import make_number
from zembric.core.said import said
from zembric.models import LIVE_STATES, SLOT_NUMBERS, LineTry, Slot, SlotRun, WiredTester
from zembric.operations.actors import require_coordinator
from zembric.operations.known.instruments import get_instrument
from zembric.operations.record import note
from zembric.wire.mapping import as_json, read_map

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

_ADDRESS = re.compile(
    r"(TCPIP\d*::[\w.:-]+|ASRL[\w/.:-]+|USB\d*::[\w.:-]+|GPIB\d*::[\w.:-]+|/dev/[\w/.-]+|COM\d+|socket://[\w.-]+:\d+)"
)
MOST_CHANNELS = 32
_MOST_TRY = 200


@dataclass(frozen=True, slots=True)
class TypedTester:
    """An instrument on a wire as it was typed. Currents are what each channel can do [mA]."""

    instrument: str
    link: str
    address: str
    mapping: dict[str, Any]
    channels: int = 1
    max_charge_ma: float = 0.0
    max_discharge_ma: float = 0.0
    holds: tuple[str, ...] = ("cylinder", "flat")
    resistor_ohm: float | None = None


def all_testers(session: Session) -> Sequence[WiredTester]:
    return session.scalars(select(WiredTester).order_by(WiredTester.is_active.desc(), WiredTester.id)).all()


def get_tester(session: Session, tester_id: int) -> WiredTester:
    found = session.get(WiredTester, tester_id)
    if found is None:
        raise NotFoundError(said("no-such-tester"))
    return found


def add_tester(session: Session, actor: Actor, typed: TypedTester, now: datetime) -> WiredTester:
    """A tester with its slots, each with a number for its tape.

    Raises:
        BadInputError: an address or a map that cannot be.
        ConflictError: this instrument or address is on the wire already.
    """
    require_coordinator(actor, said("doing-wiring-testers"))
    instrument = get_instrument(session, typed.instrument)
    if not 1 <= typed.channels <= MOST_CHANNELS:
        raise BadInputError(said("tester-channels", most=MOST_CHANNELS), field="channels")
    if session.scalar(select(WiredTester.id).where(WiredTester.instrument_id == instrument.id)):
        raise ConflictError(said("instrument-is-wired-already", instrument=instrument.number))
    tester = WiredTester(instrument_id=instrument.id, link=typed.link, address="", mapping={}, resistor_ohm=None)
    _fill(session, tester, typed)
    session.add(tester)
    session.flush()
    session.refresh(tester)
    can_charge = typed.link == "scpi" and read_map(tester.mapping).charges
    can_discharge = typed.link == "lines" or read_map(tester.mapping).discharges
    for channel in range(1, typed.channels + 1):
        session.add(
            Slot(
                number=make_number("slot", session.scalar(SLOT_NUMBERS) or 0), name=f"{instrument.name} {channel}"[:60],
                kind="tester", tester_id=tester.id, channel=channel, holds=list(typed.holds),
                max_charge_ma=typed.max_charge_ma if can_charge else 0.0,
                max_discharge_ma=typed.max_discharge_ma if can_discharge else 0.0,
            )
        )  # fmt: skip
    note(session, actor, "tester-wired", now, instrument=instrument.number, address=tester.address)
    session.flush()
    return tester


def change_tester(
    session: Session,
    actor: Actor,
    tester_id: int,
    typed: TypedTester,
    seen_version: int,
    now: datetime,
    *,
    is_active: bool,
) -> WiredTester:
    """Another address or map; refused while something runs on it.

    Raises:
        ConflictError: a run is under way.
        ChangedMeanwhileError: somebody changed it after this person had read it.
    """
    require_coordinator(actor, said("doing-wiring-testers"))
    tester = get_tester(session, tester_id)
    if tester.version != seen_version:
        raise ChangedMeanwhileError(said("this-instrument"))
    runs = select(SlotRun.id).join(Slot).where(Slot.tester_id == tester.id, SlotRun.state.in_(LIVE_STATES))
    if session.scalar(runs.limit(1)):
        raise ConflictError(said("tester-is-running"))
    _fill(session, tester, typed)
    tester.is_active, tester.state, tester.has_watchdog = is_active, "unknown", False
    note(session, actor, "tester-changed", now, instrument=tester.instrument.number, address=tester.address)
    return tester


def _fill(session: Session, tester: WiredTester, typed: TypedTester) -> None:
    address = typed.address.strip()
    if not _ADDRESS.fullmatch(address) or len(address) > 120:
        raise BadInputError(said("tester-address", typed=address[:60]), field="address")
    if typed.link not in ("scpi", "lines"):
        raise BadInputError(said("tester-link"), field="link")
    with session.no_autoflush:
        other = session.scalar(select(WiredTester).where(WiredTester.address == address))
    if other is not None and other is not tester:
        raise ConflictError(said("address-is-taken", address=address, instrument=other.instrument.number))
    if typed.resistor_ohm is not None and not 0 < typed.resistor_ohm < 1e5:
        raise BadInputError(said("it-must-be-above-zero"), field="resistor_ohm")
    tester.link, tester.address, tester.resistor_ohm = typed.link, address, typed.resistor_ohm
    tester.mapping = as_json(read_map(typed.mapping)) if typed.link == "scpi" else {}


def try_line(session: Session, actor: Actor, tester_id: int, line: str, now: datetime) -> LineTry:
    """Puts a line down to be sent by the runner; its answer stands in the row a moment later.

    Raises:
        ConflictError: something runs there: a line by hand could change it.
    """
    require_coordinator(actor, said("doing-wiring-testers"))
    tester = get_tester(session, tester_id)
    line = line.strip()
    if not 1 <= len(line) <= _MOST_TRY or not line.isprintable() or not line.isascii():
        raise BadInputError(said("map-line-length", key="line", most=_MOST_TRY), field="line")
    runs = select(SlotRun.id).join(Slot).where(Slot.tester_id == tester.id, SlotRun.state.in_(LIVE_STATES))
    if session.scalar(runs.limit(1)):
        raise ConflictError(said("tester-is-running"))
    tried = LineTry(tester_id=tester.id, line=line, asked_at=now, asked_by_id=actor.person_id)
    session.add(tried)
    note(session, actor, "tester-line-tried", now, instrument=tester.instrument.number, line=line)
    session.flush()
    return tried


def tries_of(session: Session, tester_id: int) -> Sequence[LineTry]:
    """The last lines that were tried, the newest first."""
    query = select(LineTry).where(LineTry.tester_id == tester_id).order_by(LineTry.id.desc()).limit(12)
    return session.scalars(query).all()
