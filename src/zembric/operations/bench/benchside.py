"""What somebody with a cell in hand has to know besides its judgement, worked out for one cell or a whole tray at once."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, cast

from sqlalchemy import select
from sqlalchemy.orm import joinedload

from zembric.core.grade.assessment import assess, size_of
from zembric.core.house.limits import CHARGED_NEARLY_WITHIN_V, CHARGED_WITHIN_V, Family
from zembric.core.identify.claims import ClaimCheck, check_claim, most_mah
from zembric.core.identify.donor_clues import InPlaceAdvice
from zembric.core.identify.ends import Terminals, how_to_join, usual_build, usual_plus
from zembric.core.identify.families import full_voltage_v
from zembric.core.identify.sizes import primary_suspicion
from zembric.core.judge.looking import LookPrompt, look_prompts
from zembric.core.measure.first_voltage import nothing_reached
from zembric.core.measure.voltage_states import StateQuestion, state_question
from zembric.core.next_step.planner import (
    ChargeSetting,
    charge_setting,
    recovery_plan,
    run_current_ma,
    run_cut_off_v,
)
from zembric.core.next_step.recovery import RecoveryPlan
from zembric.core.said import Said
from zembric.models import CellRow, Donor, Place
from zembric.operations.bench.keeping import cell_in_hand
from zembric.operations.bench.recoveries import RunningRecovery, running_recovery
from zembric.operations.cells.in_place import in_place_of_cell
from zembric.operations.cells.judged import stories_of, story_of
from zembric.operations.cells.listed import ListedCell, listed_now
from zembric.operations.cells.shelf import CellFilter, candidates
from zembric.operations.cells.siblings import one_packs, voltages_of_its_kind
from zembric.operations.donors import last_groups
from zembric.operations.known.entries import entries_of
from zembric.operations.known.rules import rules_in_force

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.house.rules import HouseRules
    from zembric.core.identify.ends import Build
    from zembric.core.story import Story


@dataclass(frozen=True, slots=True)
class Benchside:
    """Everything that stands beside a cell at the bench; None and empty where there is nothing to say."""

    listed: ListedCell
    prompts: tuple[LookPrompt, ...]
    question: StateQuestion | None
    #: A first reading near zero that said nothing yet.
    nothing_reached: bool
    siblings_v: tuple[tuple[str, float], ...]
    #: Whether those stood beside it in one device; else they are others of its kind, and say nothing about it.
    is_one_pack: bool
    group_v: float | None
    plan: RecoveryPlan | None
    recovery: RunningRecovery | None
    charge: ChargeSetting
    #: Full voltage, from where on a charge is full, and from where on one that ended by itself counts as full; None: nobody knows the family.
    full_v: float | None
    full_from_v: float | None
    counts_full_from_v: float | None
    #: What a tester is set to for it: current [mA] and cut-off [V].
    run_ma: float
    cut_off_v: float
    in_place: InPlaceAdvice | None
    claim: ClaimCheck | None
    suspicion: Said | None
    build: Build | None
    plus: Said | None
    joining: Said | None


def at_the_bench(session: Session, typed: str, now: datetime) -> Benchside:
    """One cell, locked by nobody: reading only."""
    cell = cell_in_hand(session, typed)
    entries = entries_of(session, cell.id)
    story = story_of(session, cell)
    assessed = assess(story, rules_in_force(session))
    plan = recovery_plan(assessed)
    found = voltages_of_its_kind(session, cell.donor_id)
    numbers = {sibling.id: sibling.number for sibling in cell.donor.cells}
    groups = last_groups(session, cell.donor_id)
    has_group = groups is not None and cell.group_number is not None and cell.group_number <= len(groups.voltages_v)
    size, facts = size_of(story.facts), story.facts
    build: Build | None = cell.build or usual_build(size)  # type: ignore[assignment]
    full_v = full_voltage_v(facts.family, facts.full_v) if facts.family else None
    return Benchside(
        listed=listed_now(session, cell, now),
        prompts=look_prompts(story, now),
        question=state_question(story, now, assessed.rules),
        nothing_reached=nothing_reached(story) is not None,
        siblings_v=tuple((numbers[key], value) for key, value in found.items() if key != cell.id),
        is_one_pack=bool(one_packs(session, [cell.donor_id])),
        group_v=groups.voltages_v[(cell.group_number or 1) - 1] if groups and has_group else None,
        plan=plan,
        recovery=running_recovery(cell, entries, plan, now) if plan else None,
        charge=charge_setting(assessed),
        full_v=full_v,
        full_from_v=None if full_v is None else full_v - CHARGED_WITHIN_V.value,
        counts_full_from_v=None if full_v is None else full_v - assessed.rules.value(CHARGED_NEARLY_WITHIN_V),
        run_ma=run_current_ma(assessed),
        cut_off_v=run_cut_off_v(assessed),
        in_place=in_place_of_cell(cell, most_mah(size, facts.family, assessed.rules, facts.mass_g) if size else None),
        claim=check_claim(size, facts.family, facts.claimed_capacity_mah, assessed.rules, facts.mass_g)
        if size and facts.claimed_capacity_mah
        else None,
        suspicion=primary_suspicion(cell.size_code or "") if facts.family is not Family.PRIMARY else None,
        build=build,
        plus=usual_plus(build)[1] if build else None,
        joining=how_to_join(cast("Terminals", cell.terminals)) if cell.terminals else None,
    )


@dataclass(frozen=True, slots=True)
class TrayCell:
    """A cell in a tray pass: what to look for this time, and how far it reads from its siblings [V]."""

    listed: ListedCell
    prompts: tuple[LookPrompt, ...]
    must_look: bool
    needs_voltage: bool
    #: Whether the other cells of its donor stood beside it in one device.
    is_one_pack: bool


@dataclass(frozen=True, slots=True)
class TrayPass:
    """A tray with its cells, where the pass stands, and which donors' ends nobody called taped yet."""

    tray: Place
    cells: tuple[TrayCell, ...]
    untaped: tuple[Donor, ...]


def tray_pass(session: Session, tray: Place, now: datetime) -> TrayPass:
    listed = candidates(session, CellFilter(place_id=tray.id), now)
    stories, rules = stories_of(session, [each.cell for each in listed]), rules_in_force(session)
    packs = one_packs(session, {each.cell.donor_id for each in listed})
    cells = tuple(
        TrayCell(
            each,
            look_prompts(stories[each.cell.id], now),
            must_look=each.step == "inspect",
            needs_voltage=each.step in ("inspect", "repair", "measure-voltage")
            and _wants_voltage(stories[each.cell.id], rules),
            is_one_pack=each.cell.donor_id in packs,
        )
        for each in sorted(listed, key=lambda each: each.cell.slot or 0)
    )
    untaped = session.scalars(
        select(Donor)
        .where(Donor.taped_at.is_(None), Donor.id.in_(select(CellRow.donor_id).where(CellRow.place_id == tray.id)))
        .options(joinedload(Donor.kind_row))
        .order_by(Donor.id)
    ).all()
    return TrayPass(tray, cells, tuple(untaped))


def _wants_voltage(story: Story, rules: HouseRules) -> bool:
    return not assess(story, rules).voltages or nothing_reached(story) is not None
