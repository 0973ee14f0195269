"""Proposals, designs, searches and wishes, as they go over the wire."""

from __future__ import annotations

from typing import TYPE_CHECKING, get_args

from zembric.api import schemas
from zembric.api.shown.cells import show_cell
from zembric.api.words import told
from zembric.core.errors import ZembricError
from zembric.core.house.limits import JOIN_WITHIN_V, Family
from zembric.core.identify.families import full_voltage_v
from zembric.core.match import kind_of, tolerances_of
from zembric.core.said import said

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.house.rules import HouseRules
    from zembric.core.match import Alternative, Candidate, Conditions, Tolerance, Trust
    from zembric.core.match.needs import Proposals
    from zembric.core.match.stand_ins import Recell
    from zembric.models import MatchSearch
    from zembric.operations.cells.listed import ListedCell
    from zembric.operations.matching.on_run import LongestRun
    from zembric.operations.matching.proposals import MatchRequest, Proposal
    from zembric.operations.packing.wishes import WishState

_AS_DESIGNED = (
    "series",
    "parallel",
    "full_v",
    "empty_v",
    "cell_a",
    "hours",
    "energy_wh",
    "used_pct",
    "enough_mah",
    "fits",
)
_AS_MATCHED = ("weakest_mah", "spread_mah", "worst_resistance_ratio", "group_resistance_spread_pct")
_AS_CANDIDATE = ("capacity_mah", "capacity_u_mah", "resistance_mohm", "grade")
#: So many of the cells that stay on the shelf are shown; a page that draws thousands helps nobody.
_LEFT_SHOWN = 240


def show_longest_run(longest: LongestRun | None) -> schemas.LongestRunAnswerOut:
    if longest is None:
        return schemas.LongestRunAnswerOut(run=None)
    found = longest.found
    run = schemas.LongestRunOut(
        rate_c=longest.rate_c,
        minutes=found.seconds / 60,
        by_capacity_minutes=found.by_capacity_seconds / 60,
        ideal_minutes=found.ideal_seconds / 60,
        bound_minutes=None if found.bound_seconds is None else found.bound_seconds / 60,
        weakest_mah=found.match.weakest_mah,
        by_capacity_weakest_mah=found.by_capacity.weakest_mah,
        groups=[list(group.keys) for group in found.match.groups],
    )
    return schemas.LongestRunAnswerOut(run=run)


def show_proposal(proposal: Proposal) -> schemas.ProposalOut:
    plan, best = proposal.plan, proposal.best
    conditions = plan.job.conditions
    used = {key for choice in plan.choices for group in choice.match.groups for key in group.keys}
    first = {key for group in best.groups for key in group.keys}
    left = sorted(
        (cell for cell in plan.eligible if cell.key not in used), key=lambda cell: (-cell.capacity_mah, cell.key)
    )
    shown = [*(cell for cell in plan.eligible if cell.key in used), *left[:_LEFT_SHOWN]]
    per_cell_v = proposal.request.nominal_v / proposal.request.series
    return schemas.ProposalOut(
        series=proposal.request.series,
        parallel=proposal.request.parallel,
        target_mah=proposal.request.target_mah,
        choices=[_choice(choice, trust) for choice, trust in zip(plan.choices, plan.trust, strict=True)],
        cells=[_cell(cell, proposal.cells[cell.key], conditions) for cell in shown],
        candidates=len(plan.eligible),
        left_over=len(plan.eligible) - len(first),
        left_over_wh=sum(cell.capacity_mah for cell in plan.eligible if cell.key not in first) / 1000 * per_cell_v,
        by_hand_weakest_mah=plan.by_hand.weakest_mah,
        by_hand_spread_mah=plan.by_hand.spread_mah,
        bound_mah=best.bound_mah,
        proved_best=best.proved_best,
        at_most_better_pct=best.at_most_better_pct,
        left_out=[
            *(schemas.LeftOutOut.model_validate(left_out) for left_out in plan.left_out),
            *(_beyond(proposal.beyond) if proposal.beyond else ()),
        ],
        tolerances=[
            schemas.ToleranceInUseOut.model_validate(
                {**_numbers(tolerance), "may_take_part": proposal.may_take_part[tolerance.key]}
            )
            for tolerance in conditions.tolerances.values()
        ],
        join_within_v=conditions.tolerances["relaxed"].voltage_v,
        full_v=proposal.request.full_v,
        nominal_v=proposal.request.nominal_v,
    )  # fmt: skip


def _beyond(count: int) -> list[schemas.LeftOutOut]:
    return [schemas.LeftOutOut(code="beyond", reason=told(said("kept-out-beyond")), count=count)]


def show_match_options(rules: HouseRules) -> schemas.MatchOptionsOut:
    return schemas.MatchOptionsOut(
        tolerances=[
            schemas.ToleranceOut.model_validate(_numbers(tolerance)) for tolerance in tolerances_of(rules).values()
        ],
        join_within_v=rules.value(JOIN_WITHIN_V),
        is_any_size=rules.switches["pack-sizes"] == "any",
        full_v={
            family: full_v
            for family in get_args(schemas.ChargeableFamily)
            if (full_v := full_voltage_v(Family(family), None)) is not None
        },
    )


def _numbers(tolerance: Tolerance) -> dict[str, object]:
    return {key: getattr(tolerance, key) for key in schemas.ToleranceOut.model_fields}


def show_several(found: Sequence[Proposal | ZembricError]) -> schemas.SeveralOut:
    return schemas.SeveralOut(
        packs=[
            schemas.OneOfSeveralOut(proposal=None, problem=told(each.said))
            if isinstance(each, ZembricError)
            else schemas.OneOfSeveralOut(proposal=show_proposal(each), problem=None)
            for each in found
        ]
    )


def _choice(choice: Alternative, trust: Trust) -> schemas.ChoiceOut:
    match = choice.match
    return schemas.ChoiceOut.model_validate(
        {
            "give_pct": choice.give_pct,
            "groups": [list(group.keys) for group in match.groups],
            **{key: getattr(match, key) for key in _AS_MATCHED},
            "sure_mah": trust.sure_mah,
            "short_of_mah": trust.short_of_mah,
            "shortfall": trust.shortfall,
        }
    )


def _cell(candidate: Candidate, listed: ListedCell, conditions: Conditions) -> schemas.MatchCellOut:
    place = listed.cell.place
    return schemas.MatchCellOut.model_validate(
        {
            "number": candidate.key,
            **{key: getattr(candidate, key) for key in _AS_CANDIDATE},
            "size_code": listed.cell.size_code,
            "kind": kind_of(candidate, conditions),
            "donor_number": candidate.donor,
            "resting_voltage_v": candidate.resting_v,
            "place_name": place.name if place else None,
        }
    )


def show_designs(found: Proposals) -> schemas.DesignsOut:
    designs = [
        schemas.DesignOut.model_validate(
            {
                "size_code": design.kind.size.code, "family": design.kind.family, "on_shelf": design.kind.count,
                **{key: getattr(design, key) for key in _AS_DESIGNED}, "remarks": list(design.remarks),
            }
        )
        for design in found.designs
    ]  # fmt: skip
    not_proposed = [
        schemas.NotProposedOut.model_validate(
            {"size_code": each.kind.size.code, "family": each.kind.family, "why": each.why}
        )
        for each in found.not_proposed
    ]
    return schemas.DesignsOut(designs=designs, not_proposed=not_proposed)


def show_search(search: MatchSearch) -> schemas.SearchOut:
    return schemas.SearchOut.model_validate(search)


def show_wish(state: WishState) -> schemas.WishOut:
    return schemas.WishOut(
        id=state.wish.id,
        purpose=state.wish.purpose,
        request=show_request(state.request),
        made_at=state.wish.made_at,
        made_by=state.wish.made_by.name,
        have=state.have,
        needed=state.needed,
        missing=state.missing,
        likely=[
            schemas.LikelyOut(cell=show_cell(each.listed), expected_mah=each.expected_mah, why=told(each.why))
            for each in state.likely
        ],
    )


def show_request(request: MatchRequest) -> schemas.MatchIn:
    return schemas.MatchIn.model_validate(
        request.as_json()
        | {"banned": list(request.banned), "marked_allowed": list(request.marked_allowed), "only": list(request.only)}
    )


def show_stand_ins(found: Recell) -> schemas.StandInsOut:
    return schemas.StandInsOut.model_validate(
        {
            "stand_ins": [
                {
                    "number": each.cell.number, "size_code": each.cell.size.code, "capacity_mah": each.cell.capacity_mah,
                    "times_as_long": each.times_as_long, "hours": each.hours, "charge_c": each.charge_c,
                    "resistor_ohm": each.resistor_ohm, "remarks": each.remarks,
                }
                for each in found.stand_ins
            ],
            "left_out": [{"why": why, "cells": cells} for why, cells in found.left_out],
            "never": list(found.never),
        }
    )  # fmt: skip
