"""What was done at a pack, step by step: of each step the act that holds."""

from __future__ import annotations

from typing import TYPE_CHECKING

from sqlalchemy import select

from zembric.models import PackStep

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

    from zembric.models import Pack, StepStage


def last_acts(session: Session, pack: Pack, stage: StepStage) -> dict[str, PackStep]:
    """The last act of each step that was not taken back; of proving those since the pack was built or came back."""
    query = select(PackStep).where(PackStep.pack_id == pack.id, PackStep.stage == stage)
    if stage == "prove" and pack.proving_since is not None:
        query = query.where(PackStep.at >= pack.proving_since)
    acts = session.scalars(query.order_by(PackStep.id)).all()
    return {key: act for key, act in {act.step: act for act in acts}.items() if act.state != "undone"}


def proved_before(session: Session, pack: Pack) -> dict[str, dict[str, float]]:
    """What was measured when it was proved the last time, before it went out, by points; empty: it never was."""
    if pack.proving_since is None:
        return {}
    query = select(PackStep).where(
        PackStep.pack_id == pack.id, PackStep.stage == "prove", PackStep.at < pack.proving_since
    )
    acts = {act.step: act for act in session.scalars(query.order_by(PackStep.id))}
    return {key: act.figures for key, act in acts.items() if act.state == "done"}


def wrong_steps(session: Session, pack: Pack) -> tuple[str, ...]:
    """Steps of its building that stand wrong."""
    return tuple(key for key, act in last_acts(session, pack, "build").items() if act.state == "wrong")
