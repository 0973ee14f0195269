"""What is not for a volunteers' table, to be opened or to be built for, and where it goes instead."""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from collections.abc import Mapping


@dataclass(frozen=True, slots=True)
class NotForThisTable:
    """A kind of device that is turned away, and where to go instead."""

    code: str
    name: str
    instead: str


_WORKSHOP = "a licensed workshop"
NOT_FOR_THIS_TABLE: Mapping[str, NotForThisTable] = MappingProxyType(
    {
        kind.code: kind
        for kind in (
            NotForThisTable(
                "medical",
                "Medical device",
                "Somebody's life may hang on it, and it must not be opened. Its supplier or the clinic takes it back.",
            ),
            NotForThisTable(
                "vehicle",
                "Car, scooter or other vehicle",
                f"Its battery stores enough to burn a house down. It belongs to its maker's service or {_WORKSHOP}.",
            ),
            NotForThisTable(
                "e-bike",
                "E-bike",
                f"Its pack is over what volunteers may open. The dealer takes it back, or {_WORKSHOP} repairs it.",
            ),
            NotForThisTable(
                "flying",
                "Drone or other flying device",
                "A pack that gives out in the air falls on people below. Its maker's service takes it back, or "
                f"{_WORKSHOP} that is trained on it.",
            ),
            NotForThisTable(
                "mains",
                "Anything on the mains",
                f"What hangs on the mains, solar storage too, is for {_WORKSHOP} or a licensed electrician. "
                "Unplug it and leave it closed.",
            ),
        )
    }
)
