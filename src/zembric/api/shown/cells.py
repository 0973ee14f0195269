"""Cells and their stories, as they go over the wire."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from zembric.api import schemas
from zembric.api.words import in_words
from zembric.core.next_step.planner import AFTER_WAITING
from zembric.core.said import Said, from_json, named, said
from zembric.models import InspectionEntry, ReadingEntry, StepEntry
from zembric.operations.cells.judged import reason_json
from zembric.operations.cells.shelf import WATCHED_STEPS

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from datetime import datetime

    from zembric.models import CellRow, Entry, Happening, JudgementRow
    from zembric.operations.cells.home import StepGroup, TraySteps
    from zembric.operations.cells.listed import ListedCell
    from zembric.operations.cells.stories import CellStory
    from zembric.operations.cells.what_if import Supposed

_AS_KEPT = (
    "advertised_capacity_mah", "chemistry_code", "model_id", "width_mm", "length_mm", "thickness_mm", "mass_g", "build", "plus_end",
    "protection", "terminals", "in_use_in", "group_number", "own_label", "slot", "version",
)  # fmt: skip


def show_cell(listed: ListedCell) -> schemas.CellOut:
    cell, judged = listed.cell, listed.cell.judgement
    if judged is None:
        raise ValueError(f"cell {cell.number} was never judged")
    return schemas.CellOut.model_validate(
        {
            "number": cell.number,
            "donor_number": cell.donor.number,
            "donor_kind": cell.donor.kind,
            "donor_description": cell.donor.description,
            "size_code": cell.size_code,
            "family": cell.family,
            "full_v": cell.full_v,
            "rated_capacity_mah": cell.rated_capacity_mah,
            "claimed_capacity_mah": cell.claimed_capacity_mah,
            "model_name": cell.model.name if cell.model else None,
            **{key: getattr(cell, key) for key in _AS_KEPT},
            "place": cell.place,
            "grade": judged.grade,
            "sure": judged.sure,
            "reasons": judged.reasons,
            "step": listed.step,
            "step_text": _step_said(listed, judged),
            "not_before": _not_before(listed, judged),
            "overdue_at": judged.next_overdue_at if listed.step == judged.next_step else None,
            "step_minutes": judged.next_minutes if listed.step == judged.next_step else None,
            "step_needs": judged.next_needs if listed.step == judged.next_step else None,
            "resting_voltage_v": judged.resting_voltage_v,
            "capacity_mah": judged.capacity_mah,
            "capacity_u_mah": judged.capacity_u_mah,
            "capacity_method": judged.capacity_method,
            "resistance_mohm": judged.resistance_mohm,
            "resistance_u_mohm": judged.resistance_u_mohm,
            "resistance_method": judged.resistance_method,
            "continuous_current_a": judged.continuous_current_a,
            "continuous_current_set_by": judged.continuous_current_set_by,
            "is_marked": judged.is_marked,
            "pack_number": listed.pack_number,
            "rule_set_version": judged.rule_set_version,
        }
    )


def show_judged(found: Supposed) -> schemas.JudgedOut:
    judged = found.judgement
    return schemas.JudgedOut.model_validate(
        {
            "grade": judged.grade, "sure": judged.sure, "reasons": [reason_json(reason) for reason in judged.reasons],
            "step": judged.next_step.code, "step_text": judged.next_step.said,
            "good_for": judged.good_for.said if judged.good_for else None, "settled_by": judged.settled_by,
            "may_be_overruled": found.may_be_overruled, "weaker": found.weaker, "of_its_kind": found.of_its_kind,
        }
    )  # fmt: skip


def _not_before(listed: ListedCell, judged: JudgementRow) -> datetime | None:
    if listed.step in WATCHED_STEPS:
        return judged.watched_reading_at
    return judged.next_not_before if listed.step == judged.next_step else None


def _step_said(listed: ListedCell, judged: JudgementRow) -> Said:
    match listed.step:
        case "in-pack":
            return said("step-in-pack", pack=listed.pack_number or "")
        case "in-use":
            return said("step-in-use", device=listed.cell.in_use_in or "")
        case "on-tester" | "hand-over" | "handed-over" | "watched" | "read-at-rest":
            return named("step", listed.step)
        case step if step != judged.next_step:
            return AFTER_WAITING[step]
        case _:
            return from_json(judged.next_said)


def show_entry(entry: Entry, entries: Sequence[Entry]) -> schemas.EntryOut:
    by_entry = next((other for other in entries if other.supersedes_id == entry.id), None)
    state = "counts" if by_entry is None else "withdrawn" if by_entry.kind == "withdrawal" else "corrected"
    shown: dict[str, Any] = dict.fromkeys(schemas.EntryOut.model_fields)
    shown |= {
        "id": entry.id, "kind": entry.kind, "at": entry.at, "recorded_at": entry.recorded_at, "by": entry.person.name,
        "state": state, "supersedes_id": entry.supersedes_id, "why": entry.why,
    }  # fmt: skip
    if isinstance(entry, InspectionEntry):
        shown |= {"findings": entry.findings, **_heat(entry.heat)}
    elif isinstance(entry, ReadingEntry):
        notes = entry.conditions.get("notes")
        shown |= {
            "quantity": entry.quantity, "value": entry.value, "unit": entry.unit, "method": entry.method,
            "standard_u": entry.standard_u, "current_ma": entry.conditions.get("current_ma"),
            "cut_off_v": entry.conditions.get("cut_off_v"), "complete": entry.conditions.get("complete"),
            "voltage_state": entry.conditions.get("state"), "as_typed": entry.conditions.get("as_typed"),
            "worked": in_words(entry.conditions.get("worked")),
            # Corrected with its instrument: the house says why, nobody typed it.
            "why": in_words(entry.conditions.get("why", entry.why)),
            "notes": [in_words(note) for note in notes] if notes is not None else None,
            **_heat(entry.conditions), "log_id": entry.log_id,
            "instrument": entry.instrument.number if entry.instrument else None,
        }  # fmt: skip
    elif isinstance(entry, StepEntry):
        details = dict(entry.details)
        # How a recovery ended was said by the house, not typed.
        shown["why"] = in_words(details.pop("said", entry.why))
        shown |= {"step": entry.step, "details": details, **_heat(entry.details)}
    return schemas.EntryOut.model_validate(shown)


def _heat(said: Mapping[str, Any]) -> dict[str, Any]:
    return {key: said.get(key) for key in ("cell_degc", "bench_degc", "warmth")}


def show_happening(happening: Happening) -> schemas.HappeningOut:
    by = happening.person.name if happening.person else None
    # What the house said of it goes out in words, under the name that what people said has.
    details = {
        "why" if key in ("said", "stopped") else key: in_words(value) for key, value in happening.details.items()
    }
    return schemas.HappeningOut.model_validate(
        {"at": happening.at, "what": happening.what, "by": by, "details": details, "why": happening.why}
    )


def show_story(story: CellStory) -> schemas.StoryOut:
    return schemas.StoryOut(
        cell=show_cell(story.listed),
        entries=[show_entry(entry, story.entries) for entry in story.entries],
        judgements=[schemas.JudgementOut.model_validate(row) for row in story.judgements],
        happenings=[show_happening(happening) for happening in story.happenings],
        siblings=[_sibling(sibling) for sibling in story.siblings],
        gap_to_siblings_v=story.gap_to_siblings_v,
        repeats=schemas.RepeatsOut.model_validate(story.repeats),
    )


def _sibling(sibling: CellRow) -> schemas.SiblingOut:
    judged = sibling.judgement
    if judged is None:
        raise ValueError(f"cell {sibling.number} was never judged")
    return schemas.SiblingOut.model_validate(
        {
            "number": sibling.number,
            "grade": judged.grade,
            "resting_voltage_v": judged.resting_voltage_v,
            "capacity_mah": judged.capacity_mah,
            "resistance_mohm": judged.resistance_mohm,
        }
    )


def show_tray_steps(tray: TraySteps) -> schemas.TrayStepsOut:
    return schemas.TrayStepsOut.model_validate(
        {
            "number": tray.number,
            "name": tray.name,
            "steps": [{"step": step, "count": count} for step, count in tray.steps],
        }
    )


def show_group(group: StepGroup) -> schemas.StepGroupOut:
    return schemas.StepGroupOut.model_validate(
        {"step": group.step, "count": group.count, "cells": [show_cell(listed) for listed in group.cells]}
    )
