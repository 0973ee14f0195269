from collections.abc import Mapping
from typing import Any

from py_vapid import Vapid02

class _Answer:
    status_code: int

class WebPushException(Exception):
    response: _Answer | None

def webpush(
    subscription_info: Mapping[str, Any],
    data: str | None = None,
    vapid_private_key: Vapid02 | str | None = None,
    vapid_claims: dict[str, str | int] | None = None,
    *,
    timeout: float | None = None,
    ttl: int = 0,
    headers: dict[str, str | int | float] | None = None,
) -> object: ...
