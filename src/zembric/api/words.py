"""What was said, in the words of who asks."""

from __future__ import annotations

from collections.abc import Mapping

from zembric.core.said import Said, from_json
from zembric.wording import say


def told(what: Said) -> str:
    return say(what)


def in_words(value: object) -> object:
    """Something said, as it came from the core or as it lies in a row, in words; all else as it is."""
    if isinstance(value, Mapping) and "code" in value:
        value = from_json(value)
    return told(value) if isinstance(value, Said) else value
