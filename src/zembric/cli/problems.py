"""What stops a command, told in one line."""

from __future__ import annotations


class CannotStartError(Exception):
    """The command cannot go on; the text says what is wrong and what would help."""
