"""Sending an alarm to the devices that asked for it; done by the worker, behind whoever types."""

from __future__ import annotations

import json
from typing import TYPE_CHECKING

import structlog
from py_vapid import Vapid02
from pywebpush import WebPushException, webpush
from sqlalchemy import select

from zembric.core.errors import BadInputError
from zembric.models import AlarmRow, PushKey, PushSubscription
from zembric.operations.testers.pushing import check_address, contact

if TYPE_CHECKING:
    from collections.abc import Callable

    from sqlalchemy.orm import Session

_TTL_S, _ANSWER_S = 600, 10.0
_GONE = (404, 410)
_log = structlog.get_logger()


def push_alarm(session: Session, alarm_id: int, say: Callable[[AlarmRow], str]) -> None:
    """Sends one alarm to every device that asked for it; devices that are gone are forgotten."""
    alarm = session.get(AlarmRow, alarm_id)
    key = session.get(PushKey, 1)
    if alarm is None or key is None or alarm.acknowledged_at is not None or not contact():
        return
    told = json.dumps({"title": say(alarm), "tag": f"alarm-{alarm.id}", "url": "/table"})
    private = Vapid02.from_pem(key.private_pem.encode())
    for each in session.scalars(select(PushSubscription)).all():
        try:
            check_address(each.endpoint)
            webpush(
                {"endpoint": each.endpoint, "keys": {"p256dh": each.p256dh, "auth": each.auth}}, told, vapid_private_key=private,
                vapid_claims={"sub": contact()}, ttl=_TTL_S, timeout=_ANSWER_S, headers={"Urgency": "high"},
            )  # fmt: skip
        except WebPushException as error:
            status = error.response.status_code if error.response is not None else None
            if status in _GONE:
                session.delete(each)
            else:
                _log.warning("push-not-sent", status=status)
        except (BadInputError, OSError, ValueError) as error:
            _log.warning("push-not-sent", reason=type(error).__name__)
