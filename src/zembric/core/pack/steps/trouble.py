"""Nothing comes out of a pack: one question after another, with a reading at each fork, until there is something to do."""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType
from typing import TYPE_CHECKING

from zembric.core.said import Said, said

if TYPE_CHECKING:
    from collections.abc import Mapping


@dataclass(frozen=True, slots=True)
class TroubleWay:
    """An answer, and the next question or what to do."""

    answer: Said
    to: str | None = None
    do: Said | None = None


@dataclass(frozen=True, slots=True)
class Fork:
    ask: Said
    ways: tuple[TroubleWay, ...]


#: The first is where it begins.
TROUBLE: Mapping[str, Fork] = MappingProxyType(
    {
        "switch": Fork(
            said("trouble-switch"),
            (
                TroubleWay(said("trouble-switch-off"), do=said("trouble-do-switch")),
                TroubleWay(said("trouble-switch-on"), to="poles"),
            ),
        ),
        "poles": Fork(
            said("trouble-poles"),
            (
                TroubleWay(said("trouble-as-expected"), to="behind"),
                TroubleWay(said("trouble-nothing"), to="fuse"),
                TroubleWay(said("trouble-one-group-less"), to="groups"),
                TroubleWay(said("trouble-negative"), do=said("trouble-do-turned")),
            ),
        ),
        "fuse": Fork(
            said("trouble-fuse"),
            (
                TroubleWay(said("trouble-all-of-it"), do=said("trouble-do-fuse")),
                TroubleWay(said("trouble-nothing"), to="groups"),
            ),
        ),
        "groups": Fork(
            said("trouble-groups"),
            (
                TroubleWay(said("trouble-one-nothing"), do=said("trouble-do-joint")),
                TroubleWay(said("trouble-one-turned"), do=said("trouble-do-turned")),
                TroubleWay(said("trouble-one-empty"), do=said("trouble-do-empty")),
                TroubleWay(said("trouble-all-right"), do=said("trouble-do-link")),
            ),
        ),
        "behind": Fork(
            said("trouble-behind"),
            (
                TroubleWay(said("trouble-as-expected"), to="device"),
                TroubleWay(said("trouble-nothing"), to="wake"),
                TroubleWay(said("trouble-little"), do=said("trouble-do-board-broken")),
            ),
        ),
        "wake": Fork(
            said("trouble-wake"),
            (
                TroubleWay(said("trouble-woke"), do=said("trouble-do-slept")),
                TroubleWay(said("trouble-still-nothing"), to="taps"),
            ),
        ),
        "taps": Fork(
            said("trouble-taps"),
            (
                TroubleWay(said("trouble-tap-missing"), do=said("trouble-do-tap")),
                TroubleWay(said("trouble-tap-low"), do=said("trouble-do-empty")),
                TroubleWay(said("trouble-all-right"), do=said("trouble-do-board-broken")),
            ),
        ),
        "device": Fork(
            said("trouble-device"),
            (
                TroubleWay(said("trouble-falls"), do=said("trouble-do-trips")),
                TroubleWay(said("trouble-talks"), do=said("trouble-do-talks")),
                TroubleWay(said("trouble-stays"), do=said("trouble-do-device")),
            ),
        ),
    }
)
