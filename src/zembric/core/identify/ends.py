"""Which end of a cell is plus, and how its ends can be joined later."""

from __future__ import annotations

from types import MappingProxyType
from typing import TYPE_CHECKING, Literal

if TYPE_CHECKING:
    from collections.abc import Mapping

    from zembric.core.identify.sizes import Size

Build = Literal["wrapped-can", "bare-can", "flat-can", "pouch"]
PlusEnd = Literal["button", "can", "marked-tab", "lead"]
CellProtection = Literal["none", "inside", "donor-board"]
Terminals = Literal["clean", "stub", "wires", "soldered"]

BUILDS: Mapping[str, str] = MappingProxyType(
    {
        "wrapped-can": "Round can in a wrap",
        "bare-can": "Round can, bare",
        "flat-can": "Flat metal can",
        "pouch": "Soft flat pouch",
    }
)
PLUS_ENDS: Mapping[str, str] = MappingProxyType(
    {
        "button": "The raised end",
        "can": "The can itself",
        "marked-tab": "The tab marked +",
        "lead": "The lead that was measured as plus",
    }
)
PROTECTIONS: Mapping[str, str] = MappingProxyType(
    {
        "none": "Not at all: bare",
        "inside": "A small board inside its wrap",
        "donor-board": "Only by the donor's board",
    }
)
TERMINALS: Mapping[str, str] = MappingProxyType(
    {
        "clean": "Clean ends",
        "stub": "Stub of a strip",
        "wires": "Wires on it",
        "soldered": "Solder on it",
    }
)
HOW_TO_JOIN: Mapping[str, str] = MappingProxyType(
    {
        "clean": "Can be spot welded or put into a holder.",
        "stub": "Take the stub off flush, then weld beside the old spots; solder only onto a stub, never onto the can.",
        "wires": "Join at the wires: crimp or solder away from the cell, one wire at a time.",
        "soldered": "Was heated once: look for a lifted seal, and use a holder rather than the iron again.",
    }
)
_USUAL_PLUS: Mapping[str, tuple[PlusEnd, str]] = MappingProxyType(
    {
        "wrapped-can": ("button", "The raised end is plus, the can is minus: under the wrap minus is everywhere."),
        "bare-can": (
            "button",
            "The raised end is plus, the bare can is minus: wrap it before it touches another cell.",
        ),
        "flat-can": (
            "can",
            "Many flat metal cans are plus, and the small insulated contact is minus. Measure before you join.",
        ),
        "pouch": (
            "marked-tab",
            "The print by the tabs tells; the colour of a wire proves nothing. Measure before you join.",
        ),
    }
)


def usual_build(size: Size | None) -> Build | None:
    """How a cell of this shape is mostly built; None without a size."""
    if size is None:
        return None
    return "wrapped-can" if size.shape == "cylinder" else "pouch"


def usual_plus(build: Build) -> tuple[PlusEnd, str]:
    """Which end is mostly plus in such a build, and the sentence that goes with it. Only a meter proves it."""
    return _USUAL_PLUS[build]
