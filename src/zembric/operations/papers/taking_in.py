"""A cell's story from a file becomes a cell here: numbered anew, with everything that was said of it, judged by this house."""

from __future__ import annotations

from datetime import timedelta
from typing import TYPE_CHECKING, Any

from sqlalchemy import select

from zembric.core.errors import BadInputError
from zembric.core.house.limits import COOLED_DOWN_H, VOLTAGE_RESOLUTION_V
from zembric.core.measure.figures import run_u_mah
from zembric.core.measure.uncertainty import resistance_u_mohm, resolution_u
from zembric.core.said import plain, said
from zembric.core.story import (
    CameBack,
    CapacityRun,
    Charge,
    Decision,
    Inspection,
    Overrule,
    Recovery,
    Repair,
    ResistanceReading,
    RestingVoltage,
    SecondLook,
    Shelved,
    Skip,
    UnrestedVoltage,
)
from zembric.models import DonorKindRow, InspectionEntry, ReadingEntry, StepEntry
from zembric.operations.cells.judged import rejudge
from zembric.operations.donors import DonorToOpen, open_donor
from zembric.operations.known.rules import rules_in_force
from zembric.operations.record import note

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.house.rules import HouseRules
    from zembric.core.story import Event, Heat, Story
    from zembric.models import CellRow, Entry
    from zembric.operations.actors import Actor


def take_in_story(session: Session, actor: Actor, story: Story, came_from: str, now: datetime) -> CellRow:
    """A new cell with the story's facts and events, in the first free place of a tray.

    `came_from` says where the file came from, for its donor's description. The new cell is judged under the rules here.

    Raises:
        BadInputError: an event lies in the future, or a value that no reading here can have.
    """
    late = next((event for event in story.events if event.at > now), None)
    if late is not None:
        raise BadInputError(said("lies-in-future", on=f"{late.at:%Y-%m-%d %H:%M}"), field="file")
    facts = story.facts
    # Where the file does not say, it was opened long enough ago for warmth to be the cell's own.
    opened_at = story.opened_at or (story.events[0].at if story.events else now) - timedelta(hours=COOLED_DOWN_H.value)
    donor = open_donor(
        session, actor,
        DonorToOpen(
            _kind(session, story), came_from, 1, facts.size_code, facts.family, facts.full_v,
            facts.claimed_capacity_mah, facts.rated_capacity_mah, confirmed=True,
        ),
        opened_at,
    )  # fmt: skip
    (cell,) = donor.cells
    cell.mass_g = facts.mass_g
    if facts.outline:
        cell.width_mm, cell.length_mm = facts.outline.width_mm, facts.outline.length_mm
        cell.thickness_mm = facts.outline.thickness_mm
    cell.protection = {"bare": "none", "protected": "inside"}.get(facts.build or "")
    rules = rules_in_force(session)
    for event in story.events:
        entry = _entry(event, rules)
        entry.cell_id, entry.person_id, entry.at, entry.recorded_at = cell.id, actor.person_id, event.at, now
        session.add(entry)
        session.flush()
    note(session, actor, "story-taken-in", now, cell_id=cell.id, entries=len(story.events))
    rejudge(session, cell, now)
    return cell


def _kind(session: Session, story: Story) -> str:
    """The first kind of donor that is judged as the story's; the judge asks for no more of it."""
    query = select(DonorKindRow.code).where(DonorKindRow.judged_as == story.donor_kind, DonorKindRow.is_active)
    code = session.scalars(query.order_by(DonorKindRow.position).limit(1)).first()
    if code is None:
        raise BadInputError(said("no-kind-of-device", donor_kind=story.donor_kind), field="file")
    return code


def _entry(event: Event, rules: HouseRules) -> Entry:
    if isinstance(event, Inspection):
        return InspectionEntry(findings=sorted(event.findings), heat=_heat(event.heat))
    if isinstance(event, RestingVoltage | UnrestedVoltage | CapacityRun | ResistanceReading):
        return _reading(event, rules)
    step, details, why = _step(event)
    return StepEntry(step=step, details=details, why=why)


def _heat(heat: Heat) -> dict[str, Any]:
    said = {"cell_degc": heat.cell_degc, "bench_degc": heat.room_degc, "warmth": heat.warmth}
    return {key: value for key, value in said.items() if value is not None}


def _reading(
    event: RestingVoltage | UnrestedVoltage | CapacityRun | ResistanceReading, rules: HouseRules
) -> ReadingEntry:
    if isinstance(event, CapacityRun):
        conditions: dict[str, Any] = {
            "complete": event.complete, "current_ma": event.current_ma, "cut_off_v": event.cut_off_v,
            **({} if event.started_full is None else {"started_full": event.started_full}),
        }  # fmt: skip
        return ReadingEntry(
            quantity="capacity", value=event.value_mah, unit="mAh", method=event.method, conditions=conditions, standard_u=run_u_mah(event, rules)
        )  # fmt: skip
    if isinstance(event, ResistanceReading):
        known = {"resolution_v": event.resolution_v, "load_ohm": event.load_ohm}
        conditions = {key: value for key, value in known.items() if value is not None}
        return ReadingEntry(
            quantity="resistance", value=event.value_mohm, unit="mOhm", method=event.method, conditions=conditions,
            standard_u=resistance_u_mohm(event, rules),
        )  # fmt: skip
    if event.value_v < 0:
        raise BadInputError(said("v-voltage-below-zero-is-kept", value=plain(event.value_v)), field="file")
    if isinstance(event, RestingVoltage):
        resolution_v = event.resolution_v
        conditions = {"state": "resting", "resolution_v": resolution_v, **_heat(event.heat)}
    else:
        resolution_v = rules.value(VOLTAGE_RESOLUTION_V)
        conditions = {"state": event.state, "resolution_v": resolution_v}
    return ReadingEntry(
        quantity="voltage", value=event.value_v, unit="V", method="meter", conditions=conditions,
        standard_u=resolution_u(resolution_v),
    )  # fmt: skip


def _step(event: Event) -> tuple[str, dict[str, Any], str | None]:  # one line for each kind of step
    match event:
        case Repair():
            return "repair", {"done": sorted(event.done)}, None
        case Recovery():
            return "recovery", {"outcome": event.outcome, **_heat(event.heat)}, None
        case Decision():
            return "decision", {"about": event.about, "outcome": event.outcome}, None
        case Overrule():
            return "overruled", {"grade": event.grade}, event.why
        case Charge():
            details = {"complete": event.complete, "end_v": event.end_v, "minutes": event.minutes}
            return "charge", details | _heat(event.heat), None
        case Skip():
            return "skip", {"what": event.what}, event.why
        case SecondLook():
            return (
                "second-look",
                {"sibling": event.sibling, "findings": sorted(event.findings), "near": event.near},
                None,
            )
        case CameBack():
            return "came-back", {"source": event.source}, None
        case Shelved():
            return "shelved", {"place": "another shelf"}, None
        case _:
            raise TypeError(f"{type(event).__name__} is no step")
