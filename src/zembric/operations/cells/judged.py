"""A cell's rows into a story, the core's judgement into a row."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict
from operator import itemgetter
from types import MappingProxyType
from typing import TYPE_CHECKING, Any, cast

from sqlalchemy import Select, bindparam, func, select
from sqlalchemy.orm import joinedload

from zembric.core.house.limits import Family
from zembric.core.house.rules import (
    HouseRules,
)
from zembric.core.identify.sizes import Size, measured_outline
from zembric.core.judge.judge import JUDGE_VERSION, judge
from zembric.core.measure.odd_figures import far_from_siblings
from zembric.core.said import to_json
from zembric.core.story import (
    CameBack,
    CapacityRun,
    CellBuild,
    CellFacts,
    Charge,
    Decision,
    DonorKind,
    Event,
    Finding,
    Heat,
    Inspection,
    Overrule,
    Recovery,
    Repair,
    ResistanceReading,
    RestingVoltage,
    SecondLook,
    Shelved,
    Skip,
    Story,
    UnrestedVoltage,
    voltage_as_found,
)
from zembric.models import CellRow, Entry, InspectionEntry, JudgementRow, ReadingEntry, StepEntry
from zembric.operations.cells.siblings import forget_found, found_of_siblings, note_found, voltages_as_found
from zembric.operations.known.entries import counting, entries_of, forget_entries
from zembric.operations.known.rules import forget_rules, rules_in_force
from zembric.operations.statements import built_once

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.grounds import Reason
    from zembric.core.judge.judgement import Judgement


@built_once
def _what_was_said() -> Select[int, list[dict[str, Any]] | None]:
    """Plain rows: most stand as they stood, and to load all of them at every entry would take longer than all else."""
    return (
        select(CellRow.id, JudgementRow.reasons)
        .outerjoin(JudgementRow, JudgementRow.id == CellRow.judgement_id)
        .where(CellRow.id.in_(bindparam("ids", expanding=True)), CellRow.handed_over_at.is_(None))
    )


def story_of(session: Session, cell: CellRow) -> Story:
    entries = entries_of(session, cell.id)
    return _story(cell, events_among(entries), voltages_as_found(session, [cell.donor_id]))


def events_among(entries: Sequence[Entry]) -> tuple[Event, ...]:
    """What the entries that count tell of a cell, in their order."""
    return tuple(event for entry in counting(entries) if (event := _event(entry)))


def _story(cell: CellRow, events: tuple[Event, ...], found: dict[int, dict[int, float]]) -> Story:
    siblings = found_of_siblings(found[cell.donor_id], cell.id)
    return Story(
        facts_of(cell, cell.model),
        cast("DonorKind", cell.donor.kind_row.judged_as),
        events,
        siblings,
        cell.donor.opened_at,
    )


def facts_of(cell: Any, model: Any) -> CellFacts:
    """What a cell is, of a cell or a plain row with its columns; `model` with the currents of its sheet, None: no sheet."""
    return CellFacts(
        size_code=cell.size_code,
        family=Family(cell.family) if cell.family else None,
        full_v=cell.full_v,
        rated_capacity_mah=cell.rated_capacity_mah,
        claimed_capacity_mah=cell.claimed_capacity_mah,
        outline=outline_of(cell),
        mass_g=cell.mass_g,
        most_charge_ma=model.most_charge_ma if model else None,
        most_discharge_ma=model.most_discharge_ma if model else None,
        build=_BUILD_OF.get(cell.protection),
    )


#: A donor's board stays with the donor, so the cell that came out of it is bare.
_BUILD_OF: Mapping[str | None, CellBuild] = MappingProxyType(
    {"none": "bare", "donor-board": "bare", "inside": "protected"}
)


def outline_of(cell: Any) -> Size | None:
    """The outline that was measured; None where the code is all there is."""
    if cell.width_mm is None or cell.length_mm is None:
        return None
    return measured_outline(cell.width_mm, cell.length_mm, cell.thickness_mm)


def stories_of(session: Session, cells: Sequence[CellRow]) -> dict[int, Story]:
    """The stories of many cells by their id."""
    events = events_of(session, [cell.id for cell in cells])
    found = voltages_as_found(session, {cell.donor_id for cell in cells})
    return {cell.id: _story(cell, events[cell.id], found) for cell in cells}


def events_of(session: Session, ids: Sequence[int]) -> dict[int, tuple[Event, ...]]:
    """The events of many cells by their id, read as plain rows: objects for so many entries would cost more than judging."""
    entry, inspection, reading, step = (model.__table__ for model in (Entry, InspectionEntry, ReadingEntry, StepEntry))
    common = (entry.c.id, entry.c.cell_id, entry.c.at, entry.c.why)
    superseded = set(
        session.scalars(select(Entry.supersedes_id).where(Entry.cell_id.in_(ids), Entry.supersedes_id.is_not(None)))
    )
    found: list[tuple[datetime, int, int, Event]] = []
    for table, columns, as_event in (
        (inspection, (inspection.c.findings, inspection.c.heat), _inspection_event),
        (
            reading,
            (reading.c.quantity, reading.c.value, reading.c.method, reading.c.conditions, reading.c.standard_u),
            _reading_event,
        ),
        (step, (step.c.step, step.c.details), _step_event),
    ):
        query = select(*common, *columns).join(table, table.c.id == entry.c.id).where(entry.c.cell_id.in_(ids))
        for row in session.execute(query):
            event = None if row.id in superseded else as_event(row)
            if event is not None:
                found.append((row.at, row.id, row.cell_id, event))
    by_cell: dict[int, list[Event]] = {cell_id: [] for cell_id in ids}
    for _at, _id, cell_id, event in sorted(found, key=itemgetter(0, 1)):
        by_cell[cell_id].append(event)
    return {cell_id: tuple(events) for cell_id, events in by_cell.items()}


def rejudge(session: Session, cell: CellRow, now: datetime) -> JudgementRow:
    """Judges a cell afresh and keeps the judgement; one that says the same as the last is not said twice."""
    session.flush()
    rules, story = rules_in_force(session), story_of(session, cell)
    at = moment_of(story, now)
    return _keep_judgement(session, cell, story, judge(story, rules, at), at, rules)


def siblings_that_stand_otherwise(session: Session, donor_id: int) -> list[int]:
    """The cells of a donor whose place among their siblings has changed with voltages of others, by id."""
    rules = rules_in_force(session)
    found = voltages_as_found(session, [donor_id]).get(donor_id, {})
    rows = session.execute(_what_was_said(), {"ids": [*found]}) if found else ()
    return sorted(other for other, reasons in rows if _stands_otherwise(other, reasons or [], found, rules))


def judge_sibling(session: Session, cell_id: int, now: datetime) -> None:
    """Judges a cell afresh behind the answer to an entry for another.

    It is locked only when its judgement is there: whoever has it at the bench waits for no more than the writing down.
    Where something was entered for it meanwhile, it is judged once more.
    """
    seen = _seen(session, cell_id)
    judged = _judged_behind(session, cell_id, now)
    session.execute(select(CellRow.id).where(CellRow.id == cell_id).with_for_update(key_share=True))
    if _seen(session, cell_id) != seen:
        judged = _judged_behind(session, cell_id, now)
    if judged is not None:
        _keep_judgement(session, *judged, rules_in_force(session))


def _seen(session: Session, cell_id: int) -> object:
    """What changes with whatever is entered for a cell, or judged of it. One question, so of one moment."""
    newest = select(func.max(Entry.id)).where(Entry.cell_id == CellRow.id).scalar_subquery()
    return session.execute(
        select(CellRow.judgement_id, CellRow.handed_over_at, newest).where(CellRow.id == cell_id)
    ).one()


def _judged_behind(session: Session, cell_id: int, now: datetime) -> tuple[CellRow, Story, Judgement, datetime] | None:
    """A cell as it would be judged at this moment; None: it is not here any more."""
    forget_entries(session)
    forget_found(session)
    forget_rules(session)
    options = (joinedload(CellRow.judgement), joinedload(CellRow.model), joinedload(CellRow.donor, innerjoin=True))
    cell = session.get_one(CellRow, cell_id, options=options, populate_existing=True)
    if cell.handed_over_at is not None:
        return None
    story = story_of(session, cell)
    at = moment_of(story, now)
    return cell, story, judge(story, rules_in_force(session), at), at


def _stands_otherwise(
    cell_id: int, reasons: Sequence[Mapping[str, Any]], found: dict[int, float], rules: HouseRules
) -> bool:
    """Whether what was last said of a cell among its siblings holds no longer."""
    gap_v = far_from_siblings(found[cell_id], found_of_siblings(found, cell_id), rules)
    said = next((reason["value"] for reason in reasons if reason["code"] == "siblings-differ"), None)
    return said != (None if gap_v is None else abs(gap_v))


def moment_of(story: Story, now: datetime) -> datetime:
    """When a story that is kept is judged: now, or at its last entry where that came while this one waited for its turn.

    No entry is kept for a time that was not yet, so one that lies later was only begun later and let in sooner.
    """
    return max(now, story.events[-1].at) if story.events else now


def _keep_judgement(
    session: Session, cell: CellRow, story: Story, judgement: Judgement, at: datetime, rules: HouseRules
) -> JudgementRow:
    row = JudgementRow(**judgement_values(cell.id, judgement, rules, at))
    last, found = cell.judgement, voltage_as_found(story)
    if (found_v := found.value_v if found else None) != cell.found_v:
        cell.found_v = found_v
        note_found(session, cell)
    if last is not None and _as_it_stands(last) == _as_it_stands(row):
        return last
    cell.judgement = row
    session.flush()
    return row


def _event(entry: Entry) -> Event | None:
    if isinstance(entry, InspectionEntry):
        return _inspection_event(entry)
    if isinstance(entry, ReadingEntry):
        return _reading_event(entry)
    if isinstance(entry, StepEntry):
        return _step_event(entry)
    return None


# The three take an entry or a plain row with its columns.


def _inspection_event(entry: Any) -> Event:
    return Inspection(entry.at, frozenset(Finding(finding) for finding in entry.findings), heat_of(entry.heat))


def heat_of(said: Mapping[str, Any]) -> Heat:
    """How warm a cell was, from what an entry keeps."""
    return Heat(said.get("cell_degc"), said.get("bench_degc"), said.get("warmth"))


def _reading_event(entry: Any) -> Event:
    conditions: dict[str, Any] = entry.conditions
    if entry.quantity == "voltage":
        if conditions["state"] != "resting":
            return UnrestedVoltage(entry.at, entry.value, conditions["state"])
        return RestingVoltage(entry.at, entry.value, conditions["resolution_v"], heat_of(conditions))
    if entry.quantity == "capacity":
        return CapacityRun(
            entry.at, entry.value, cast("Any", entry.method), conditions["complete"],
            conditions.get("current_ma"), conditions.get("cut_off_v"), conditions.get("half_width", 0.0),
            entry.standard_u, conditions.get("started_full"),
        )  # fmt: skip
    return ResistanceReading(
        entry.at, entry.value, cast("Any", entry.method), conditions.get("resolution_v"), conditions.get("load_ohm"),
        conditions.get("half_width", 0.0), entry.standard_u,
    )  # fmt: skip


def _step_event(entry: Any) -> Event | None:
    at, details = entry.at, entry.details
    match entry.step:
        case "repair":
            return Repair(at, frozenset(Finding(finding) for finding in details["done"]))
        case "recovery":
            return Recovery(at, details["outcome"], heat_of(details))
        case "decision":
            return Decision(at, details["about"], details["outcome"])
        case "charge":
            return Charge(at, details["complete"], details["end_v"], details.get("minutes"), heat_of(details))
        case "skip":
            return Skip(at, details["what"], entry.why or "")
        case "second-look":
            # Until 2026-11 rows called it the brother, and rows are never rewritten.
            whose = details.get("sibling") or details["brother"]
            findings = frozenset(Finding(finding) for finding in details["findings"])
            return SecondLook(at, whose, findings, details.get("near", "donor"))
        case "came-back":
            return CameBack(at, details["source"])
        case "overruled":
            return Overrule(at, details["grade"], entry.why or "")
        case "shelved":
            return Shelved(at)
        case _:  # the steps of a running recovery say nothing before its outcome
            return None


def judgement_values(cell_id: int, judgement: Judgement, rules: HouseRules, now: datetime) -> dict[str, Any]:
    """A judgement as the columns of its row."""
    capacity, resistance, current = judgement.capacity, judgement.resistance, judgement.continuous_current
    return dict(  # noqa: C408  # columns read better as names
        cell_id=cell_id,
        at=now,
        rule_set_version=rules.version,
        grade=judgement.grade,
        sure=judgement.sure,
        reasons=[reason_json(reason) for reason in judgement.reasons],
        next_step=judgement.next_step.code,
        next_said=to_json(judgement.next_step.said),
        next_not_before=judgement.next_step.not_before,
        next_then=judgement.next_step.then,
        next_overdue_at=judgement.next_step.overdue_at,
        next_minutes=judgement.next_step.minutes,
        next_needs=to_json(judgement.next_step.needs) if judgement.next_step.needs else None,
        watched_reading_at=judgement.watched_reading_at,
        judged_by=JUDGE_VERSION,
        resting_voltage_v=judgement.resting_voltage_v,
        resting_voltage_at=judgement.resting_voltage_at,
        is_marked=judgement.is_marked,
        recovery_proved=judgement.recovery_proved,
        resistances_mohm=dict(judgement.resistances_mohm),
        comparable=asdict(judgement.comparable) if judgement.comparable else None,
        capacity_mah=capacity.value_mah if capacity else None,
        capacity_u_mah=capacity.u_mah if capacity else None,
        capacity_method=capacity.method if capacity else None,
        resistance_mohm=resistance.value_mohm if resistance else None,
        resistance_u_mohm=resistance.u_mohm if resistance else None,
        resistance_method=resistance.method if resistance else None,
        carries_a=judgement.carries.value_a if judgement.carries else None,
        continuous_current_a=current.value_a if current else None,
        continuous_current_set_by=current.set_by if current else None,
    )


def reason_json(reason: Reason) -> dict[str, Any]:
    limit = reason.limit
    return {
        "code": reason.code,
        "said": to_json(reason.said),
        "value": reason.value,
        "margin": reason.margin,
        "limit": limit
        and {
            "key": limit.key,
            "value": limit.value,
            "unit": limit.unit,
            "kind": limit.kind.value,
            "source": to_json(limit.source),
        },
    }


def _as_it_stands(row: JudgementRow) -> tuple[Any, ...]:
    columns = (column.key for column in JudgementRow.__mapper__.column_attrs)
    return tuple(getattr(row, key) for key in columns if key not in ("id", "at"))
