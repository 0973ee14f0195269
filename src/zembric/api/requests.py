"""What every request goes through: the person, the transaction, the clock, and the answer that is given once."""

from __future__ import annotations

import json
import tempfile
import time
from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from typing import IO, TYPE_CHECKING

from flask import Response, current_app, g, request, send_file
from flask_login import UserMixin, current_user
from psycopg.errors import DeadlockDetected
from pydantic import BaseModel
from sqlalchemy.exc import OperationalError

from zembric.core.errors import NotSignedInError
from zembric.core.said import said
from zembric.operations.actors import Actor
from zembric.operations.answered import answer_once
from zembric.operations.bench.keeping import OnPaper, TypedAt
from zembric.operations.database import unit_of_work
from zembric.operations.people import print_language
from zembric.operations.signing_in.sign_ins import Device, actor_of
from zembric.wording import speak

if TYPE_CHECKING:
    from pathlib import Path

    from sqlalchemy import Engine
    from sqlalchemy.orm import Session

    from zembric.api import schemas

# A browser's own viewer styles its frame; nothing in the file runs.
_PIECE_BYTES = 64 * 1024
_TRIES = 3
# Who it is holds for so long within one request.
_HOLDS_FOR_S = 1.0
_PDF = "application/pdf"
_PDF_POLICY = "default-src 'none'; object-src 'self'; style-src 'unsafe-inline'; frame-ancestors 'none'"
Operation = Callable[["Session", Actor, datetime], BaseModel]


class SignedIn(UserMixin):
    """The token of a sign-in, as the cookie holds it; whether that is still open is asked in each transaction."""

    def __init__(self, token: str) -> None:
        self.token = token

    def get_id(self) -> str:
        return self.token


def engine() -> Engine:
    found: Engine = current_app.extensions["zembric-engine"]
    return found


def clock() -> datetime:
    return datetime.now(UTC)


def signed_in_actor(session: Session) -> Actor:
    """Who asks; asked anew where the body came so slowly that the sign-in may have ended meanwhile.

    Raises:
        NotSignedInError: nobody is signed in, or no longer.
    """
    asked: tuple[float, Actor] | None = g.get("asked_who")
    if asked is not None and time.monotonic() - asked[0] < _HOLDS_FOR_S:
        return asked[1]
    if not current_user.is_authenticated:
        raise NotSignedInError(said("please-sign-in"))
    actor = actor_of(session, current_user.get_id(), clock())
    g.asked_who = time.monotonic(), actor
    return actor


def token_of_sign_in() -> str | None:
    """What the cookie holds; None: nothing."""
    return current_user.get_id() if current_user.is_authenticated else None


def device() -> Device:
    """Where the request comes from."""
    return Device(request.remote_addr or "", request.user_agent.string)


def read(operation: Operation) -> Response:
    """Runs an operation that only reads, for somebody who is signed in; all its queries see the same moment.

    Else an entry that is committed between two of them would show a cell with one judgement's step and another's words.
    """
    with unit_of_work(engine().execution_options(isolation_level="REPEATABLE READ")) as session:
        return as_json(operation(session, signed_in_actor(session), clock()))


def write(operation: Operation, status: int = 200, *, body: bytes | None = None) -> Response:
    """Runs an operation that changes something; with an Idempotency-Key header it is done once.

    `body` stands for what was sent where that was too large to be held; None: as it came.
    """
    now = clock()
    for more in reversed(range(_TRIES)):
        try:
            return _written(operation, status, body, now)
        except OperationalError as error:
            # Two hazards that look at one another's cells: one of them goes first, the other is done again.
            if more and isinstance(error.orig, DeadlockDetected):
                continue
            raise
    raise AssertionError


def _written(operation: Operation, status: int, body: bytes | None, now: datetime) -> Response:
    with unit_of_work(engine()) as session:
        actor = signed_in_actor(session)
        sent = request.method.encode() + b" " + request.path.encode() + b"\n"
        sent += request.get_data() if body is None else body

        def perform() -> tuple[int, dict[str, object]]:
            return status, operation(session, actor, now).model_dump(mode="json")

        status, answer = answer_once(session, actor, request.headers.get("Idempotency-Key"), sent, now, perform)
    return Response(json.dumps(answer), status=status, mimetype="application/json")


def when(body: schemas.EntryIn) -> TypedAt:
    """When an entry counts from, as its body says."""
    return OnPaper(body.paper_at) if body.paper_at else body.typed_at


def read_file(
    make: Callable[[Session, Actor, datetime], bytes], mimetype: str, name: str, *, attached: bool = False
) -> Response:
    """A file for somebody who is signed in. A PDF is shown by the browser, `attached` goes to its downloads."""
    with unit_of_work(engine()) as session:
        actor = signed_in_actor(session)
        if mimetype == _PDF:
            # Paper hangs where everybody reads it: it has the house's language, not that of whoever prints it.
            speak(print_language(session))
        content = make(session, actor, clock())
    response = Response(content, mimetype=mimetype)
    response.headers.set("Content-Disposition", "attachment" if attached else "inline", filename=name)
    if mimetype == _PDF:
        response.headers["Content-Security-Policy"] = _PDF_POLICY
    return response


def send_stored(find: Callable[[Session, Actor, datetime], Path], mimetype: str, name: str) -> Response:
    """A file as it lies in its store, for somebody who is signed in; it is never held whole."""
    with unit_of_work(engine()) as session:
        path = find(session, signed_in_actor(session), clock())
    return send_file(path.resolve(), mimetype=mimetype, as_attachment=True, download_name=name)


def send_made(make: Callable[[Session, IO[bytes]], None], mimetype: str, name: str) -> Response:
    """A large file for somebody who is signed in, made on the disk: whoever takes it slowly holds no transaction and no memory."""
    out = tempfile.TemporaryFile()  # noqa: SIM115  # closed when it is sent
    try:
        with unit_of_work(engine().execution_options(isolation_level="REPEATABLE READ")) as session:
            signed_in_actor(session)
            make(session, out)
    except BaseException:
        out.close()
        raise
    response = Response(_pieces(out), mimetype=mimetype)
    response.content_length = out.tell()
    response.headers.set("Content-Disposition", "attachment", filename=name)
    return response


def _pieces(out: IO[bytes]) -> Iterator[bytes]:
    with out:
        out.seek(0)
        while piece := out.read(_PIECE_BYTES):
            yield piece


def stream(make: Callable[[Session, Actor, datetime], Iterator[bytes]], mimetype: str, name: str) -> Response:
    """A file that is made while it is sent, for somebody who is signed in."""
    with unit_of_work(engine()) as session:
        pieces = make(session, signed_in_actor(session), clock())
    response = Response(pieces, mimetype=mimetype)
    response.headers.set("Content-Disposition", "attachment", filename=name)
    return response


def as_json(answer: BaseModel, status: int = 200) -> Response:
    return Response(answer.model_dump_json(), status=status, mimetype="application/json")
