"""The append-only record of what happened."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from zembric.models import Happening

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor


def note(
    session: Session,
    actor: Actor | None,
    what: str,
    now: datetime,
    /,
    *,
    cell_id: int | None = None,
    donor_id: int | None = None,
    pack_id: int | None = None,
    why: str | None = None,
    **details: Any,
) -> None:
    """Adds one line to the record; actor None: done from the server's command line."""
    session.add(
        Happening(
            at=now, person_id=actor.person_id if actor else None, what=what, cell_id=cell_id, donor_id=donor_id,
            pack_id=pack_id, details=details, why=why,
        )
    )  # fmt: skip
