"""A full disk, told from other faults: it says nothing about what was typed, and what waited goes on when there is room."""

from __future__ import annotations

import errno

from psycopg.errors import DiskFull
from sqlalchemy.exc import DBAPIError

_NO_ROOM = frozenset({errno.ENOSPC, errno.EDQUOT, errno.EFBIG})


def is_no_room(error: BaseException) -> bool:
    """Whether the database's or this program's own disk was full, whatever stands between that and the error."""
    at: BaseException | None = error
    while at is not None:
        if isinstance(at, OSError) and at.errno in _NO_ROOM:
            return True
        if isinstance(at, DBAPIError) and isinstance(at.orig, DiskFull):
            return True
        at = at.__cause__ or at.__context__
    return False
