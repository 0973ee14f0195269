"""Proposals and packs, as they go over the wire."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.api import schemas
from zembric.api.shown.cells import show_cell, show_happening
from zembric.core.families import full_voltage_v
from zembric.core.limits import CUT_OFF_V, JOIN_WITHIN_V, NOMINAL_V, Family
from zembric.operations.cells import ListedCell
from zembric.operations.packs import NEXT_STATES

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.matching import Alternative
    from zembric.core.needs import Proposals
    from zembric.models import CellRow, Happening, Pack
    from zembric.operations.matching import Proposal


_AS_DESIGNED = ("series", "parallel", "full_v", "empty_v", "cell_a", "hours", "energy_wh", "used_pct", "fits")


def show_proposal(proposal: Proposal) -> schemas.ProposalOut:
    return schemas.ProposalOut(
        series=proposal.request.series,
        parallel=proposal.request.parallel,
        choices=[_choice(proposal, choice) for choice in proposal.choices],
        by_hand_weakest_mah=proposal.by_hand.weakest_mah,
        by_hand_spread_mah=proposal.by_hand.spread_mah,
        bound_mah=proposal.best.bound_mah,
        proved_best=proposal.best.proved_best,
        at_most_better_pct=proposal.best.at_most_better_pct,
        candidates=proposal.candidates,
        left_out=[schemas.LeftOutOut.model_validate(left) for left in proposal.left_out],
        full_v=proposal.full_v,
        nominal_v=proposal.nominal_v,
    )


def _choice(proposal: Proposal, choice: Alternative) -> schemas.ChoiceOut:
    match = choice.match
    return schemas.ChoiceOut(
        give_pct=choice.give_pct,
        groups=[
            schemas.GroupOut(
                cells=[show_cell(proposal.cells[key]) for key in group.keys],
                capacity_mah=group.capacity_mah,
                resistance_mohm=group.resistance_mohm,
            )
            for group in match.groups
        ],
        weakest_mah=match.weakest_mah,
        spread_mah=match.spread_mah,
        worst_resistance_ratio=match.worst_resistance_ratio,
        group_resistance_spread_pct=match.group_resistance_spread_pct,
        energy_wh=proposal.energy_wh(match),
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
