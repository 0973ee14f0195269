"""Where a pack stands, and what may follow what."""

from __future__ import annotations

from types import MappingProxyType
from typing import TYPE_CHECKING, Literal

if TYPE_CHECKING:
    from collections.abc import Mapping

PackState = Literal["planned", "built", "given-out", "back", "taken-apart", "dropped"]
#: What is done with a pack that came back: made good as it is, cells exchanged, taken apart, or given out again.
ReturnDecision = Literal["mend", "replace", "retire", "again"]
NEXT_STATES: Mapping[str, tuple[PackState, ...]] = MappingProxyType(
    {
        "planned": ("built", "dropped"),
        "built": ("given-out", "taken-apart"),
        "given-out": ("back",),
        "back": ("given-out", "taken-apart"),
        "taken-apart": (),
        "dropped": (),
    }
)
