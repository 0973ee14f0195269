"""Route: a stream that tells a page whenever somebody changed something, so that it looks again."""

from __future__ import annotations

import threading
import time
from typing import TYPE_CHECKING

from flask import Blueprint, Response, current_app

from zembric.api.requests import engine, signed_in_actor
from zembric.core.errors import TooManyTriesError
from zembric.core.said import said
from zembric.operations.database import unit_of_work

if TYPE_CHECKING:
    from collections.abc import Iterator

    from zembric.operations.changes import Changes

bp = Blueprint("live", __name__)
#: Each stream keeps a thread; pages beyond these look again by themselves every few seconds.
MOST_STREAMS = 40
# So soon it is noticed that a page is gone.
_SIGN_OF_LIFE_S = 5.0
# Ended now and then, so that a session that ran out is noticed and a page that is gone keeps nothing.
_STREAM_S = 300.0
_streams = threading.Semaphore(MOST_STREAMS)


@bp.get("/api/changes")
def get_changes() -> Response:
    """Server-sent events: `change` after every committed change, by whatever process; `live` with what each slot reads, every second."""
    with unit_of_work(engine()) as session:
        signed_in_actor(session)
    changes: Changes = current_app.extensions["zembric-changes"]
    if not _streams.acquire(blocking=False):
        raise TooManyTriesError(said("too-many-pages-listen-at-once"))
    changes.listen()
    response = Response(_stream(changes), mimetype="text/event-stream")
    response.call_on_close(_streams.release)
    response.headers["Cache-Control"] = "no-store"
    response.headers["X-Accel-Buffering"] = "no"
    return response


def _stream(changes: Changes) -> Iterator[str]:
    seen, seen_live, ends_at = changes.count, changes.live_count, time.monotonic() + _STREAM_S
    yield "retry: 2000\n\n"
    while not changes.is_closed and time.monotonic() < ends_at:
        now, seen_live, live = changes.wait(seen, seen_live, _SIGN_OF_LIFE_S)
        told = "".join(f"event: live\ndata: {payload}\n\n" for payload in live)
        if now != seen:
            told += f"event: change\ndata: {now}\n\n"
        yield told or ": still here\n\n"
        seen = now
