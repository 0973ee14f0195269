"""Who acts, and what the role covers."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from zembric.core.errors import NotAllowedError
from zembric.core.said import Said, said

if TYPE_CHECKING:
    from zembric.models import Person

Role = Literal["volunteer", "coordinator"]


@dataclass(frozen=True, slots=True)
class Actor:
    person_id: int
    name: str
    role: Role


def require_them(actor: Actor, person: Person, what: Said) -> None:
    """Raises NotAllowedError unless it is that person's own work, or a coordinator asks."""
    if actor.role != "coordinator" and actor.person_id != person.id:
        raise NotAllowedError(said("is-for-them-or-coordinator", what=what, person=person.name))


def require_coordinator(actor: Actor, what: Said) -> None:
    """Raises NotAllowedError naming what only a coordinator may do."""
    if actor.role != "coordinator":
        raise NotAllowedError(said("is-for-coordinator", what=what))
