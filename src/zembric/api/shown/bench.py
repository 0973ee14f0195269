"""What stands beside a cell at the bench, and a tray in its pass, as they go over the wire."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.api import schemas
from zembric.api.shown.cells import show_cell
from zembric.api.words import told
from zembric.core.house import limits
from zembric.core.said import Said

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from zembric.core.identify.claims import ClaimCheck
    from zembric.core.identify.sizes import Size, SizePrint
    from zembric.core.judge.looking import LookPrompt
    from zembric.core.next_step.recovery import RecoveryPlan
    from zembric.models import Photo
    from zembric.operations.bench.benchside import Benchside, TrayPass
    from zembric.operations.bench.recoveries import RunningRecovery


def show_bench(side: Benchside, photos: Sequence[Photo], now: datetime) -> schemas.BenchOut:
    claimed = side.listed.cell.claimed_capacity_mah
    return schemas.BenchOut(
        cell=show_cell(side.listed),
        now=now,
        prompts=_prompts(side.prompts),
        question=schemas.StateQuestionOut.model_validate(side.question) if side.question else None,
        nothing_reached=side.nothing_reached,
        siblings=[schemas.SiblingVoltageOut(number=number, value_v=value) for number, value in side.siblings_v],
        is_one_pack=side.is_one_pack,
        full_v=side.full_v,
        full_from_v=side.full_from_v,
        counts_full_from_v=side.counts_full_from_v,
        group_v=side.group_v,
        plan=_plan(side.plan) if side.plan else None,
        recovery=_recovery(side.recovery) if side.recovery else None,
        charge_ma=side.charge.current_ma,
        charge_start_ma=side.charge.start_ma,
        charge_start_until_v=side.charge.start_until_v,
        charge_cold_ma=side.charge.cold_ma,
        run_ma=side.run_ma,
        cut_off_v=side.cut_off_v,
        in_place=told(side.in_place.said) if side.in_place else None,
        in_place_refused=side.in_place is not None and side.in_place.is_refused,
        claim=show_claim(side.claim, claimed),
        suspicion=told(side.suspicion) if side.suspicion else None,
        build=side.build,
        plus=told(side.plus) if side.plus else None,
        joining=told(side.joining) if side.joining else None,
        photos=[schemas.PhotoOut.model_validate(photo) for photo in photos],
    )


def show_running(number: str, running: RunningRecovery) -> schemas.RunningOut:
    return schemas.RunningOut(
        number=number,
        text=told(running.state.said),
        next_check_at=running.state.next_check_at,
        started_by=running.started_by,
    )


def show_claim(check: ClaimCheck | None, claim_mah: float | None) -> schemas.ClaimOut | None:
    if check is None or claim_mah is None:
        return None
    return schemas.ClaimOut(
        claim_mah=claim_mah,
        verdict=check.verdict,
        doubtful_above_mah=check.doubtful_above_mah,
        impossible_above_mah=check.impossible_above_mah,
        by=check.by,
        arithmetic=told(check.arithmetic),
    )


def show_size(
    found: SizePrint, usual: Size | None, suspicion: Said | None, claim: schemas.ClaimOut | None
) -> schemas.SizeOut:
    return schemas.SizeOut.model_validate(
        {
            "code": found.code,
            "readings": [schemas.SizeReadingOut.model_validate(size) for size in found.readings],
            "ambiguous": found.ambiguous,
            "family": found.family,
            "rechargeable": found.rechargeable,
            "remarks": found.remarks,
            "usual": usual and schemas.SizeReadingOut.model_validate(usual),
            "suspicion": suspicion,
            "claim": claim,
        }
    )


def show_tray(tray: TrayPass) -> schemas.TrayOut:
    return schemas.TrayOut(
        tray=schemas.PlaceOut.model_validate(tray.tray),
        cells=[
            schemas.TrayCellOut(
                cell=show_cell(each.listed),
                prompts=_prompts(each.prompts),
                must_look=each.must_look,
                needs_voltage=each.needs_voltage,
                is_one_pack=each.is_one_pack,
            )
            for each in tray.cells
        ],
        untaped=[
            schemas.UntapedOut(number=donor.number, description=donor.description or donor.kind_row.name)
            for donor in tray.untaped
        ],
    )


def _prompts(prompts: Sequence[LookPrompt]) -> list[schemas.LookPromptOut]:
    return [schemas.LookPromptOut.model_validate(prompt) for prompt in prompts]


def _plan(plan: RecoveryPlan) -> schemas.RecoveryPlanOut:
    return schemas.RecoveryPlanOut(
        found_v=plan.found_v,
        current_ma=plan.current_ma,
        rate_c=plan.rate_c,
        watched=plan.watched,
        past_v=plan.past_v,
        check_every_min=plan.check_every.total_seconds() / 60,
        most_min=limits.RECOVERY_MINUTES.value,
        most_warmer_k=limits.RECOVERY_WARMING_K.value,
    )


def _recovery(running: RunningRecovery) -> schemas.RecoveryOut:
    return schemas.RecoveryOut(
        set_ma=running.set_ma,
        started_at=running.started_at,
        started_by=running.started_by,
        checks=[schemas.RecoveryCheckOut.model_validate(check) for check in running.checks],
        text=told(running.state.said),
        next_check_at=running.state.next_check_at,
        ends_at=running.state.ends_at,
    )
