"""Meters and testers: what they are, how two of them agree, and what is corrected because of it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import reduce
from statistics import median
from typing import TYPE_CHECKING, Literal

from sqlalchemy import select
from sqlalchemy.orm import aliased

from zembric.core.errors import (
    BadInputError,
    ChangedMeanwhileError,
    ConflictError,
    NotFoundError,
)
from zembric.core.identify.numbering import make_number
from zembric.core.identify.numbering import read_number as read_thing_number
from zembric.core.measure.entry_checks import read_number
from zembric.core.measure.formulas import compare_pct
from zembric.core.said import Amount, Said, plain, said
from zembric.models import INSTRUMENT_KINDS, INSTRUMENT_NUMBERS, CellRow, Correction, Entry, Instrument, ReadingEntry
from zembric.operations.actors import require_coordinator
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

Compared = Literal["capacity", "resistance"]
_OUTLIER_SPREADS = 3.5


@dataclass(frozen=True, slots=True)
class TypedInstrument:
    """An instrument as it was typed; empty texts are not known."""

    name: str
    kind: str
    resolution_v: str = ""
    half_width_pct: str = ""
    lead_mohm: str = ""
    note: str = ""


@dataclass(frozen=True, slots=True)
class Pair:
    """One cell on both instruments: their last readings as measured, without corrections, and the difference [%]."""

    number: str
    a: float
    b: float
    difference_pct: float
    is_outlier: bool


@dataclass(frozen=True, slots=True)
class Agreement:
    """How two instruments agree on the same cells; bias and error [%] of b against a, None with fewer than three pairs."""

    a: Instrument
    b: Instrument
    quantity: Compared
    pairs: tuple[Pair, ...]
    bias_pct: float | None
    error_pct: float | None
    significant: bool

    @property
    def factor(self) -> float | None:
        """What b's readings are multiplied with to read as a does."""
        return None if self.bias_pct is None else (1 - self.bias_pct / 200) / (1 + self.bias_pct / 200)


def all_instruments(session: Session) -> Sequence[Instrument]:
    return session.scalars(select(Instrument).order_by(Instrument.is_active.desc(), Instrument.id)).all()


def get_instrument(session: Session, typed: str) -> Instrument:
    """The instrument with a typed number.

    Raises:
        BadInputError: the number cannot be right.
        NotFoundError: nobody gave it out.
    """
    number = read_thing_number("instrument", typed)
    found = session.scalar(select(Instrument).where(Instrument.number == number))
    if found is None:
        raise NotFoundError(said("there-is-no-instrument-here", number=number))
    return found


def add_instrument(session: Session, actor: Actor, typed: TypedInstrument, now: datetime) -> Instrument:
    instrument = Instrument(
        number=make_number("instrument", session.scalar(INSTRUMENT_NUMBERS) or 0), name="", kind="", note=""
    )
    _fill(session, instrument, typed)
    session.add(instrument)
    session.flush()
    note(session, actor, "instrument-added", now, instrument=instrument.number)
    return instrument


def change_instrument(
    session: Session,
    actor: Actor,
    number: str,
    typed: TypedInstrument,
    seen_version: int,
    now: datetime,
    *,
    is_active: bool = True,
) -> Instrument:
    """Readings that were taken keep what was taken off or corrected then.

    Raises:
        NotAllowedError: anybody adds one; what its readings count from then on, a coordinator changes.
        ChangedMeanwhileError: somebody changed it after this person had read it.
    """
    require_coordinator(actor, said("doing-changing-instrument"))
    instrument = get_instrument(session, number)
    if instrument.version != seen_version:
        raise ChangedMeanwhileError(said("this-instrument"))
    _fill(session, instrument, typed)
    instrument.is_active = is_active
    note(session, actor, "instrument-changed", now, instrument=instrument.number)
    return instrument


def _fill(session: Session, instrument: Instrument, typed: TypedInstrument) -> None:
    name = typed.name.strip()
    if not 2 <= len(name) <= 60:
        raise BadInputError(said("give-it-name-of-2"), field="name")
    if typed.kind not in INSTRUMENT_KINDS:
        raise BadInputError(
            said("is-no-kind-of-instrument", typed=typed.kind[:40], instrument_kinds=tuple(INSTRUMENT_KINDS)),
            field="kind",
        )
    with session.no_autoflush:
        other = session.scalar(select(Instrument).where(Instrument.name == name))
    if other is not None and other is not instrument:
        raise ConflictError(said("is-called-already", other=other.number, name=name))
    instrument.name, instrument.kind, instrument.note = name, typed.kind, typed.note.strip()[:300]
    instrument.resolution_v = _optional(typed.resolution_v, "resolution_v", 1e-5, 0.1, "V")
    instrument.half_width_pct = _optional(typed.half_width_pct, "half_width_pct", 0.01, 50, "%")
    instrument.lead_mohm = _optional(typed.lead_mohm, "lead_mohm", 0.01, 1000, "mΩ")


def _optional(text: str, field: str, least: float, most: float, unit: str) -> float | None:
    if not text.strip():
        return None
    value = read_number(text, "resistance", field)
    if not least <= value <= most:
        raise BadInputError(
            said(
                "cannot-be-between-least-and-most", value=plain(value), unit=unit, least=plain(least), most=plain(most)
            ),
            field=field,
        )
    return value


# --- Agreement -------------------------------------------------------------------------------------------------------


def agreement(session: Session, a: Instrument, b: Instrument, quantity: Compared) -> Agreement:
    """The last complete readings of cells that were measured with both.

    Pairs far outside the spread of the others are marked and left out of the bias.
    """
    if a.id == b.id:
        raise BadInputError(said("choose-two-different-instruments"), field="b")
    last_a, last_b = _last_readings(session, a, quantity), _last_readings(session, b, quantity)
    numbers = sorted(last_a.keys() & last_b.keys())
    differences = {n: 200 * (last_b[n] - last_a[n]) / (last_a[n] + last_b[n]) for n in numbers}
    odd = _outliers(differences)
    pairs = tuple(Pair(n, last_a[n], last_b[n], differences[n], n in odd) for n in numbers)
    kept = [pair for pair in pairs if not pair.is_outlier]
    if len(kept) < 3:
        return Agreement(a, b, quantity, pairs, None, None, significant=False)
    bias, error = compare_pct(tuple(p.a for p in kept), tuple(p.b for p in kept))
    return Agreement(a, b, quantity, pairs, bias, error, significant=abs(bias) > 2 * error)


def _outliers(differences: dict[str, float]) -> set[str]:
    """By the median of the distances to the median, which a few odd ones do not move."""
    if len(differences) < 4:
        return set()
    middle = median(differences.values())
    spread = 1.4826 * median(abs(value - middle) for value in differences.values())
    least = 0.5  # %: nearer than this nothing is odd
    return {n for n, value in differences.items() if abs(value - middle) > max(_OUTLIER_SPREADS * spread, least)}


def _last_readings(session: Session, instrument: Instrument, quantity: Compared) -> dict[str, float]:
    """By cell: what the instrument showed last, before any correction, of readings that count and are complete."""
    superseder = aliased(Entry)
    rows = session.execute(
        select(CellRow.number, ReadingEntry)
        .join(ReadingEntry, ReadingEntry.cell_id == CellRow.id)
        .where(
            ReadingEntry.instrument_id == instrument.id,
            ReadingEntry.quantity == quantity,
            ~select(superseder.id).where(superseder.supersedes_id == ReadingEntry.id).exists(),
        )
        .order_by(ReadingEntry.at, ReadingEntry.id)
    )
    return {
        number: float(reading.conditions.get("raw_value") or reading.value)
        for number, reading in rows
        if reading.conditions.get("complete", True)
    }


def correct_instrument(
    session: Session, actor: Actor, number: str, against: str, quantity: Compared, ground: str, now: datetime
) -> Correction:
    """Takes the bias of an instrument against another as its correction, from now on and visibly.

    Raises:
        ConflictError: too few cells, no difference beyond chance, or one is in force already.
    """
    require_coordinator(actor, said("doing-correcting-instrument"))
    instrument, other = get_instrument(session, number), get_instrument(session, against)
    found = agreement(session, other, instrument, quantity)
    if found.factor is None or found.bias_pct is None or found.error_pct is None:
        raise ConflictError(said("fewer-than-3-cells-were-measured"))
    if not found.significant:
        raise ConflictError(
            said("no-more-than-chance", bias=Amount(found.bias_pct, "", 2), error=Amount(found.error_pct, "%", 2))
        )
    if in_force(instrument, quantity):
        raise ConflictError(said("correction-is-in-force-already"))
    correction = Correction(
        instrument_id=instrument.id, quantity=quantity, factor=found.factor, at=now, person_id=actor.person_id,
        ground=ground.strip()[:300],
        comparison={
            "against": other.number, "cells": sum(not pair.is_outlier for pair in found.pairs),
            "difference_pct": found.bias_pct, "error_pct": found.error_pct,
        },
    )  # fmt: skip
    session.add(correction)
    session.flush()
    session.expire(instrument, ["corrections"])
    note(session, actor, "correction-set", now, instrument=instrument.number, factor=correction.factor)
    return correction


def end_correction(session: Session, actor: Actor, number: str, correction_id: int, now: datetime) -> Instrument:
    """From now on nothing is corrected; readings taken meanwhile stay as they are and say so."""
    require_coordinator(actor, said("doing-ending-correction"))
    instrument = get_instrument(session, number)
    correction = next((c for c in instrument.corrections if c.id == correction_id and c.ended_at is None), None)
    if correction is None:
        raise ConflictError(said("this-correction-has-ended-already"))
    correction.ended_at, correction.ended_by_id = now, actor.person_id
    note(session, actor, "correction-ended", now, instrument=instrument.number, factor=correction.factor)
    return instrument


def in_force(instrument: Instrument, quantity: str) -> Correction | None:
    return next((c for c in instrument.corrections if c.quantity == quantity and c.ended_at is None), None)


@dataclass(frozen=True, slots=True)
class Adjusted:
    """A figure after what its instrument takes off and corrects, and how; None where nothing was done."""

    value: float
    raw_value: float | None
    correction_id: int | None
    said: Said | None


def adjust(instrument: Instrument | None, quantity: str, value: float) -> Adjusted:
    """Takes off the leads where they are set, then multiplies with the correction in force.

    Raises:
        BadInputError: the leads alone have as much as was measured.
    """
    if instrument is None:
        return Adjusted(value, None, None, None)
    now, steps = value, list[Said]()
    if quantity == "resistance" and instrument.lead_mohm:
        now -= instrument.lead_mohm
        steps.append(said("adjusted-leads", leads=plain(instrument.lead_mohm, "mΩ"), instrument=instrument.number))
        if now <= 0:
            raise BadInputError(
                said(
                    "m-is-no-more-than-leads",
                    value=plain(value),
                    instrument=instrument.number,
                    lead=plain(instrument.lead_mohm),
                ),
                field="value",
            )
    correction = in_force(instrument, quantity)
    if correction:
        now *= correction.factor
        steps.append(said("adjusted-correction", factor=Amount(correction.factor, "", 4), instrument=instrument.number))
    if math.isclose(now, value):
        return Adjusted(value, None, None, None)
    done = reduce(lambda first, then: said("worked-then", worked=first, then=then), steps)
    return Adjusted(now, value, correction.id if correction else None, done)
