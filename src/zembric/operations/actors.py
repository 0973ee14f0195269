"""Who acts, and what the role covers."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from zembric.core.errors import NotAllowedError
from zembric.core.said import Said, said

Role = Literal["volunteer", "coordinator"]


@dataclass(frozen=True, slots=True)
class Actor:
    person_id: int
    name: str
    role: Role


def require_coordinator(actor: Actor, what: Said) -> None:
    """Raises NotAllowedError naming what only a coordinator may do."""
    if actor.role != "coordinator":
        raise NotAllowedError(said("is-for-coordinator", what=what))
