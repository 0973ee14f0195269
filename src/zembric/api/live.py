"""Route: a stream that tells a page whenever somebody changed something, so that it looks again."""

from __future__ import annotations

import threading
import time
from functools import partial
from typing import TYPE_CHECKING

from flask import Blueprint, Response, current_app

from zembric.api.requests import clock, engine, token_of_sign_in
from zembric.core.errors import NotSignedInError, TooManyTriesError
from zembric.core.said import said
from zembric.operations.database import unit_of_work
from zembric.operations.signing_in.sign_ins import actor_of

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator

    from sqlalchemy import Engine

    from zembric.operations.changes import Changes

bp = Blueprint("live", __name__)
#: Each stream keeps a thread; pages beyond these look again by themselves every few seconds.
MOST_STREAMS = 40
# So soon it is noticed that a page is gone.
_SIGN_OF_LIFE_S = 5.0
# Whoever was signed out meanwhile is told nothing more; ended now and then, so that a page that is gone keeps nothing.
_ASK_EVERY_S, _STREAM_S = 10.0, 300.0
_streams = threading.Semaphore(MOST_STREAMS)


@bp.get("/api/changes")
def get_changes() -> Response:
    """Server-sent events: `change` after every committed change, by whatever process; `live` with what each slot reads, every second."""
    changes: Changes = current_app.extensions["zembric-changes"]
    if not _streams.acquire(blocking=False):
        raise TooManyTriesError(said("too-many-pages-listen-at-once"))
    changes.listen()
    response = Response(
        _stream(changes, partial(_is_still_in, engine(), token_of_sign_in() or "")), mimetype="text/event-stream"
    )
    response.call_on_close(_streams.release)
    response.headers["Cache-Control"] = "no-store"
    response.headers["X-Accel-Buffering"] = "no"
    return response


def _is_still_in(engine: Engine, token: str) -> bool:
    with unit_of_work(engine) as session:
        try:
            actor_of(session, token, clock())
        except NotSignedInError:
            return False
    return True


def _stream(changes: Changes, is_still_in: Callable[[], bool]) -> Iterator[str]:
    seen, seen_live, asked_s = changes.count, changes.live_count, time.monotonic()
    ends_s = asked_s + _STREAM_S
    yield "retry: 2000\n\n"
    while not changes.is_closed and time.monotonic() < ends_s:
        if time.monotonic() - asked_s > _ASK_EVERY_S:
            if not is_still_in():
                return
            asked_s = time.monotonic()
        now, seen_live, live = changes.wait(seen, seen_live, _SIGN_OF_LIFE_S)
        told = "".join(f"event: live\ndata: {payload}\n\n" for payload in live)
        if now != seen:
            told += f"event: change\ndata: {now}\n\n"
        yield told or ": still here\n\n"
        seen = now
