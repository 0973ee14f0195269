"""Clearing away what is of no use any more; nothing that was said of a cell is among it."""

from __future__ import annotations

from datetime import timedelta
from typing import TYPE_CHECKING

from sqlalchemy import delete

from zembric.models import AnsweredRequest, MatchSearch, SignInTry

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

ANSWERS_KEPT = timedelta(days=30)  # longer than any browser keeps something to be sent again
SEARCHES_KEPT = timedelta(days=7)
TRIES_KEPT = timedelta(days=1)


def tidy(session: Session, now: datetime) -> None:
    """Forgets answers that nobody will ask for again, searches that nobody waits for and sign-in tries that no longer count."""
    session.execute(delete(AnsweredRequest).where(AnsweredRequest.at < now - ANSWERS_KEPT))
    session.execute(delete(MatchSearch).where(MatchSearch.asked_at < now - SEARCHES_KEPT))
    session.execute(delete(SignInTry).where(SignInTry.at < now - TRIES_KEPT))
