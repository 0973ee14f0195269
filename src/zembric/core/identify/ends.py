"""Which end of a cell is plus, and how its ends can be joined later."""

from __future__ import annotations

from types import MappingProxyType
from typing import TYPE_CHECKING, Literal, get_args

from zembric.core.said import Said, named

if TYPE_CHECKING:
    from collections.abc import Mapping

    from zembric.core.identify.sizes import Size

Build = Literal["wrapped-can", "bare-can", "flat-can", "pouch"]
PlusEnd = Literal["button", "can", "marked-tab", "lead"]
CellProtection = Literal["none", "inside", "donor-board"]
Terminals = Literal["clean", "stub", "wires", "soldered"]

BUILDS: tuple[Build, ...] = get_args(Build)
PLUS_ENDS: tuple[PlusEnd, ...] = get_args(PlusEnd)
PROTECTIONS: tuple[CellProtection, ...] = get_args(CellProtection)
TERMINALS: tuple[Terminals, ...] = get_args(Terminals)
_USUAL_PLUS: Mapping[Build, PlusEnd] = MappingProxyType(
    {"wrapped-can": "button", "bare-can": "button", "flat-can": "can", "pouch": "marked-tab"}
)


def usual_build(size: Size | None) -> Build | None:
    """How a cell of this shape is mostly built; None without a size."""
    if size is None:
        return None
    return "wrapped-can" if size.shape == "cylinder" else "pouch"


def usual_plus(build: Build) -> tuple[PlusEnd, Said]:
    """Which end is mostly plus in such a build, and what goes with it. Only a meter proves it."""
    return _USUAL_PLUS[build], named("usual-plus", build)


def how_to_join(terminals: Terminals) -> Said:
    """How a cell with such ends can be joined later."""
    return named("joining", terminals)
