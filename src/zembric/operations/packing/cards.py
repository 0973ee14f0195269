"""The card that goes with a pack to whoever gets it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.errors import ConflictError
from zembric.core.pack.cards import PackLabel, VisitorCard, pack_label, visitor_card
from zembric.core.said import named, said
from zembric.operations.packing.checks import check_pack
from zembric.operations.packing.packs import get_pack, stopped_of

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.models import Pack

_WITH_CARD = ("built", "given-out", "back")


def pack_label_of(session: Session, typed: str, now: datetime) -> PackLabel:
    """The label for the pack itself.

    Raises:
        ConflictError: it is no pack yet or no more, or it is stopped.
    """
    pack = _sound(session, typed)
    return pack_label(pack.number, pack.purpose, check_pack(session, pack, now).checked, pack.made_at.date())


def card_of(session: Session, typed: str, now: datetime) -> VisitorCard:
    """The card of a pack that is built.

    Raises:
        ConflictError: it is no pack yet or no more, or it is stopped and goes to nobody.
    """
    pack = _sound(session, typed)
    found = check_pack(session, pack, now)
    return visitor_card(pack.number, pack.purpose, found.checked, found.lines)


def _sound(session: Session, typed: str) -> Pack:
    pack = get_pack(session, typed)
    if pack.state not in _WITH_CARD or stopped_of(pack) is not None:
        state = named("pack-state", "stopped" if stopped_of(pack) is not None else pack.state)
        raise ConflictError(said("card-from-built", pack=pack.number, state=state))
    return pack
