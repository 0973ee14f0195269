"""Rows into what goes over the wire."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from zembric.api import schemas
from zembric.core.families import full_voltage_v
from zembric.core.limits import CUT_OFF_V, JOIN_WITHIN_V, NOMINAL_V, Family
from zembric.core.next_step import AFTER_WAITING
from zembric.models import InspectionEntry, ReadingEntry, StepEntry
from zembric.operations.cells import ListedCell
from zembric.operations.packs import NEXT_STATES

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.models import CellRow, Donor, Entry, Happening, JudgementRow, Pack
    from zembric.operations.cells import CellStory, StepGroup
    from zembric.operations.matching import Proposal


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
            "place": cell.place,
            "slot": cell.slot,
            "version": cell.version,
            "grade": judged.grade,
            "sure": judged.sure,
            "reasons": judged.reasons,
            "step": listed.step,
            "step_text": _step_text(listed, judged),
            "not_before": judged.next_not_before if listed.step == judged.next_step else None,
            "resting_voltage_v": judged.resting_voltage_v,
            "capacity_mah": judged.capacity_mah,
            "capacity_u_mah": judged.capacity_u_mah,
            "capacity_method": judged.capacity_method,
            "resistance_mohm": judged.resistance_mohm,
            "resistance_u_mohm": judged.resistance_u_mohm,
            "resistance_method": judged.resistance_method,
            "continuous_current_a": judged.continuous_current_a,
            "continuous_current_set_by": judged.continuous_current_set_by,
            "pack_number": listed.pack_number,
            "rule_set_version": judged.rule_set_version,
        }
    )


def _step_text(listed: ListedCell, judged: JudgementRow) -> str:
    match listed.step:
        case "in-pack":
            return f"It belongs to pack {listed.pack_number}."
        case "hand-over":
            return "Waits for the recycler."
        case "handed-over":
            return "Went to the recycler."
        case step if step != judged.next_step:
            return AFTER_WAITING[step]
        case _:
            return judged.next_text


def show_entry(entry: Entry, entries: Sequence[Entry]) -> schemas.EntryOut:
    by_entry = next((other for other in entries if other.supersedes_id == entry.id), None)
    state = "counts" if by_entry is None else "withdrawn" if by_entry.kind == "withdrawal" else "corrected"
    shown: dict[str, Any] = dict.fromkeys(schemas.EntryOut.model_fields)
    shown |= {
        "id": entry.id, "kind": entry.kind, "at": entry.at, "recorded_at": entry.recorded_at, "by": entry.person.name,
        "state": state, "supersedes_id": entry.supersedes_id, "why": entry.why,
    }  # fmt: skip
    if isinstance(entry, InspectionEntry):
        shown["findings"] = entry.findings
    elif isinstance(entry, ReadingEntry):
        shown |= {
            "quantity": entry.quantity, "value": entry.value, "unit": entry.unit, "method": entry.method,
            "standard_u": entry.standard_u, "current_ma": entry.conditions.get("current_ma"),
            "cut_off_v": entry.conditions.get("cut_off_v"), "complete": entry.conditions.get("complete"),
        }  # fmt: skip
    elif isinstance(entry, StepEntry):
        shown |= {"step": entry.step, "details": entry.details}
    return schemas.EntryOut.model_validate(shown)


def show_happening(happening: Happening) -> schemas.HappeningOut:
    by = happening.person.name if happening.person else None
    return schemas.HappeningOut.model_validate(
        {"at": happening.at, "what": happening.what, "by": by, "details": happening.details, "why": happening.why}
    )


def show_story(story: CellStory) -> schemas.StoryOut:
    return schemas.StoryOut(
        cell=show_cell(story.listed),
        entries=[show_entry(entry, story.entries) for entry in story.entries],
        judgements=[schemas.JudgementOut.model_validate(row) for row in story.judgements],
        happenings=[show_happening(happening) for happening in story.happenings],
        brothers=[_brother(brother) for brother in story.brothers],
        gap_to_brothers_v=story.gap_to_brothers_v,
    )


def _brother(brother: CellRow) -> schemas.BrotherOut:
    judged = brother.judgement
    if judged is None:
        raise ValueError(f"cell {brother.number} was never judged")
    return schemas.BrotherOut.model_validate(
        {
            "number": brother.number,
            "grade": judged.grade,
            "resting_voltage_v": judged.resting_voltage_v,
            "capacity_mah": judged.capacity_mah,
            "resistance_mohm": judged.resistance_mohm,
        }
    )


def show_group(group: StepGroup) -> schemas.StepGroupOut:
    return schemas.StepGroupOut.model_validate(
        {"step": group.step, "count": group.count, "cells": [show_cell(listed) for listed in group.cells]}
    )


def show_donor(donor: Donor, listed: Sequence[ListedCell]) -> schemas.DonorOut:
    return schemas.DonorOut.model_validate(
        {
            "number": donor.number, "kind": donor.kind, "description": donor.description, "opened_at": donor.opened_at,
            "cells": [show_cell(cell) for cell in listed],
        }
    )  # fmt: skip


def show_proposal(proposal: Proposal) -> schemas.ProposalOut:
    match = proposal.match
    return schemas.ProposalOut(
        series=proposal.request.series,
        parallel=proposal.request.parallel,
        groups=[
            schemas.GroupOut(
                cells=[show_cell(proposal.cells[key]) for key in group.keys],
                capacity_mah=group.capacity_mah,
                resistance_mohm=group.resistance_mohm,
            )
            for group in match.groups
        ],
        weakest_mah=match.weakest_mah,
        strongest_mah=match.strongest_mah,
        spread_mah=match.spread_mah,
        bound_mah=match.bound_mah,
        proved_best=match.proved_best,
        at_most_better_pct=match.at_most_better_pct,
        candidates=proposal.candidates,
        left_out=[schemas.LeftOutOut.model_validate(left) for left in proposal.left_out],
        full_v=proposal.full_v,
        nominal_v=proposal.nominal_v,
        energy_wh=proposal.energy_wh,
    )


def show_pack(pack: Pack, happenings: Sequence[Happening] = ()) -> schemas.PackOut:
    """A pack with its groups; capacities are those it was matched by."""
    family = Family(pack.groups[0].cells[0].cell.family or "")
    live = pack.state not in ("taken-apart", "dropped")
    groups = [
        schemas.GroupOut(
            cells=[
                show_cell(
                    ListedCell(
                        member.cell, "in-pack" if live else _free_step(member.cell), pack.number if live else None
                    )
                )
                for member in group.cells
            ],
            capacity_mah=sum(member.capacity_mah for member in group.cells),
            resistance_mohm=_together([m.cell.judgement.resistance_mohm for m in group.cells if m.cell.judgement]),
        )
        for group in pack.groups
    ]
    sums = [group.capacity_mah for group in groups]
    volts = [v for group in groups for cell in group.cells if (v := cell.resting_voltage_v) is not None]
    nominal_v = pack.series * NOMINAL_V[family].value
    return schemas.PackOut.model_validate(
        {
            "number": pack.number, "purpose": pack.purpose, "state": pack.state, "next_states": NEXT_STATES[pack.state],
            "series": pack.series, "parallel": pack.parallel, "bound_mah": pack.bound_mah, "weakest_mah": min(sums),
            "spread_mah": max(sums) - min(sums), "full_v": pack.series * (full_voltage_v(family, None) or 0),
            "empty_v": pack.series * CUT_OFF_V[family].value, "nominal_v": nominal_v,
            "energy_wh": min(sums) / 1000 * nominal_v, "made_at": pack.made_at, "version": pack.version, "groups": groups,
            "resting_gap_v": max(volts) - min(volts) if volts else None,
            "join_within": JOIN_WITHIN_V,
            "happenings": [show_happening(happening) for happening in happenings],
        }
    )  # fmt: skip


def _free_step(cell: CellRow) -> str:
    if cell.handed_over_at:
        return "handed-over"
    return cell.judgement.next_step if cell.judgement else "inspect"


def _together(resistances: Sequence[float | None]) -> float | None:
    known = [value for value in resistances if value]
    return 1 / sum(1 / value for value in known) if known and len(known) == len(resistances) else None
