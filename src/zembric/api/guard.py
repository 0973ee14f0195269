"""What stands before every route: who is asked in before anything of a request is read, and how much one person may ask at once."""

from __future__ import annotations

import threading
from collections import Counter
from http import HTTPStatus
from typing import TYPE_CHECKING

from flask import Response, g, request

from zembric.api.requests import engine, signed_in_actor
from zembric.core.errors import TooManyTriesError
from zembric.core.said import said
from zembric.operations.database import unit_of_work

if TYPE_CHECKING:
    from flask import Flask

#: What is open to whoever has no account, or no longer.
OPEN_ROUTES = frozenset({
    "sessions.get_session", "sessions.sign_in", "sessions.sign_out", "sessions.ask_for_passkey", "sessions.sign_in_by_passkey",
    "sessions.get_invitation", "sessions.accept_invitation", "outside.get_public_page",
})  # fmt: skip
#: What takes a processor or much of the disk for a while, and how many of these one person has under way in one process.
COSTLY_ROUTES = frozenset({
    "papers.post_list", "papers.post_list_preview", "papers.post_donor_photo", "papers.post_cell_photo", "papers.get_export",
    "papers.get_export_csv", "measuring.post_log", "matching.post_match", "matching.post_matches", "matching.post_designs",
    "layouts.post_proposals",
})  # fmt: skip
MOST_COSTLY_AT_ONCE = 3


class _UnderWay:
    """How many costly requests each person has under way here."""

    def __init__(self) -> None:
        self._lock, self._of = threading.Lock(), Counter[int]()

    def begin(self, person_id: int) -> bool:
        with self._lock:
            if self._of[person_id] >= MOST_COSTLY_AT_ONCE:
                return False
            self._of[person_id] += 1
            return True

    def end(self, person_id: int) -> None:
        with self._lock:
            self._of[person_id] -= 1
            if not self._of[person_id]:
                del self._of[person_id]


def guard_routes(app: Flask) -> None:
    """Asks first; registered before whatever looks into a body."""
    under_way = _UnderWay()

    @app.before_request
    def ask_who_it_is() -> None:
        if not request.path.startswith("/api/") or request.endpoint is None or request.endpoint in OPEN_ROUTES:
            return
        # One question is a transaction by itself: no beginning, no end to wait for.
        with unit_of_work(engine().execution_options(isolation_level="AUTOCOMMIT")) as session:
            actor = signed_in_actor(session)
        if request.endpoint in COSTLY_ROUTES:
            if not under_way.begin(actor.person_id):
                raise TooManyTriesError(said("too-much-at-once", most=MOST_COSTLY_AT_ONCE))
            g.costly_for = actor.person_id

    @app.teardown_request
    def end_costly(_error: BaseException | None) -> None:
        person_id = g.pop("costly_for", None)
        if person_id is not None:
            under_way.end(person_id)

    @app.after_request
    def close_on_strangers(response: Response) -> Response:
        # What a stranger goes on sending is not waited for.
        if response.status_code == HTTPStatus.UNAUTHORIZED:
            response.headers["Connection"] = "close"
        return response
