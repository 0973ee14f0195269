"""A write that is sent twice is done once."""

from __future__ import annotations

import hashlib
from typing import TYPE_CHECKING, Any

from sqlalchemy import bindparam, update
from sqlalchemy.dialects.postgresql import insert

from zembric.core.errors import BadInputError
from zembric.core.said import said
from zembric.models import AnsweredRequest

if TYPE_CHECKING:
    from collections.abc import Callable
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

Answer = tuple[int, dict[str, Any]]


# Built once: every write sends both, and to build them takes longer than to run them.
_CLAIMED = insert(AnsweredRequest).on_conflict_do_nothing().returning(AnsweredRequest.key)
_ANSWERED = (
    update(AnsweredRequest)
    .where(AnsweredRequest.person_id == bindparam("own_person"), AnsweredRequest.key == bindparam("own_key"))
    .values(status=bindparam("new_status"), answer=bindparam("new_answer"))
)


def answer_once(
    session: Session, actor: Actor, key: str | None, request: bytes, now: datetime, perform: Callable[[], Answer]
) -> Answer:
    """Performs a write, or gives the answer it gave when the same person sent the same key before.

    The key is claimed first: of two requests at once the second waits until the first has committed.

    Raises:
        BadInputError: the key was used for another request, or is too short or too long.
    """
    if key is None:
        return perform()
    if not 8 <= len(key) <= 100:
        raise BadInputError(said("idempotency-key-has-8-to-100"), field="Idempotency-Key")
    request_hash = hashlib.sha256(request).hexdigest()
    claim = {
        "person_id": actor.person_id,
        "key": key,
        "request_hash": request_hash,
        "status": 0,
        "answer": {},
        "at": now,
    }
    claimed = session.execute(_CLAIMED, claim).scalar_one_or_none()
    if claimed is None:
        row = session.get_one(AnsweredRequest, (actor.person_id, key))
        if row.request_hash != request_hash:
            raise BadInputError(said("this-idempotency-key-was-used"), field="Idempotency-Key")
        return row.status, row.answer
    status, answer = perform()
    session.connection().execute(
        _ANSWERED, {"own_person": actor.person_id, "own_key": key, "new_status": status, "new_answer": answer}
    )
    return status, answer
