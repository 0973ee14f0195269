"""Hands that do each step of a pack as it should be done, with figures as they would be read."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.operations.packing.handwork import confirm_step, do_step, handwork_of
from zembric.operations.packing.packs import get_pack

if TYPE_CHECKING:
    from collections.abc import Mapping
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.pack.steps import Asked
    from zembric.models import StepStage
    from zembric.operations.actors import Actor

#: What is read where nobody can say what to expect.
_USUAL = {"V": 3.8, "A": 1.0, "h": 4.0, "Wh": 20.0, "°C": 27.0, "W": 5.0}


def prove(session: Session, who: Actor, number: str, now: datetime, *, until: str | None = None) -> None:
    """All points of proving, or those before `until`."""
    go_through(session, who, number, "prove", now, until=until)


def go_through(
    session: Session, who: Actor, number: str, stage: StepStage, now: datetime, *, until: str | None = None,
    second: Actor | None = None, figures: Mapping[str, Mapping[str, str]] | None = None,
) -> None:  # fmt: skip
    """Step by step as each is expected to be, but for `figures` that are given by step."""
    while (
        key := (work := handwork_of(session, get_pack(session, number), stage, now, with_checks=False)).next_key
    ) not in (None, until):
        found = work.find(key or "")
        if found.waits_for_second and second is not None:
            confirm_step(session, second, number, stage, found.step.key, now)
            continue
        read = {asked.key: _typed(asked) for asked in found.step.asked if not asked.is_optional}
        read |= (figures or {}).get(found.step.key, {})
        do_step(session, who, number, stage, found.step.key, read, now)


def _typed(asked: Asked) -> str:
    value = asked.expected
    if value is None:
        value = max(_USUAL[asked.unit], asked.least or 0.0)
        value = min(value, asked.most) if asked.most is not None else value
    return f"{value:.3f}"
