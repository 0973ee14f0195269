"""What the demo's packs are built from and for."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.pack.parts import TypedPart
from zembric.operations.packing.parts import PartToKeep

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

    from zembric.core.pack.parts import PartOfPack

    Figures = Mapping[PartOfPack, tuple[str, Mapping[str, str]]]

_ONE_GROUP: Figures = {
    "charger": ("Small charging board, 1 A", {
        "charger_kind": "linear-module", "full_v": "4.2", "current_ma": "1000", "supply_v": "5", "supply_ma": "2000",
        "lamp": "known", "while_used": "no",
    }),
    "board": ("Board for one group, 3 A", {
        "series": "1", "over_v": "4.25", "under_v": "2.5", "most_a": "3", "balance": "none", "sleeps": "no",
    }),
    "cell-fuses": ("Thin fuse wire", {"most_a": "3"}),
}  # fmt: skip
_TWO_GROUPS: Figures = {
    "charger": ("Charger 8.4 V, 1 A", {
        "charger_kind": "cc-cv", "full_v": "8.4", "current_ma": "1000", "supply_v": "12", "supply_ma": "2000",
        "lamp": "known", "while_used": "no",
    }),
    "board": ("Board for two groups, 8 A", {
        "series": "2", "over_v": "4.25", "under_v": "2.7", "most_a": "8", "balance": "bleed", "bleed_ma": "60",
        "sleeps": "yes",
    }),
    "cell-fuses": ("Thin fuse wire", {"most_a": "3"}),
    "wire": ("Wire to the plug, AWG 22", {"awg": "22", "length_mm": "400"}),
}  # fmt: skip
PLANS: Mapping[str, Figures] = {
    "Weather logger for the allotment": {
        "device": ("Logger", {"current_ma": "60", "on_share": "0.25", "least_v": "3.3", "standing_ma": "0.4"}),
        "promise": ("", {"hours": "400", "leaves": "by-hand"}),
        "fuse": ("Fuse 0.1 A", {"most_a": "0.12"}),
        **_ONE_GROUP,
    },
    "Gate counter at the duck pond": {
        "device": ("Counter with its radio", {"current_ma": "150", "on_share": "1", "least_v": "6", "most_v": "9"}),
        "promise": ("", {"hours": "30", "leaves": "by-hand"}),
        "fuse": ("Fuse 0.25 A", {"most_a": "0.25"}),
        **_TWO_GROUPS,
    },
    "Tide gauge of the rowing club": {
        "device": ("Gauge", {"current_ma": "45", "on_share": "1", "least_v": "3.2"}),
        "fuse": ("Fuse 0.08 A", {"most_a": "0.08"}),
        **_ONE_GROUP,
    },
    "Door bell of the scout hut": {
        "device": ("Bell with its radio", {"current_ma": "120", "on_share": "0.2", "least_v": "6", "most_v": "9"}),
        "promise": ("", {"hours": "60", "leaves": "by-hand"}),
        "fuse": ("Fuse 0.2 A", {"most_a": "0.2"}),
        **_TWO_GROUPS,
    },
    # What is promised here is more than the cells hold: there is something to mend.
    "Metronome rack for the choir": {
        "device": ("Six metronomes", {"power_w": "5", "on_share": "1", "least_v": "4.7", "most_v": "5.3"}),
        "promise": ("Two rehearsals and the way home", {"hours": "8", "leaves": "by-hand"}),
        "converter": ("Step-down to 5 V, 3 A", {
            "converter_kind": "step-down", "out_v": "5", "efficiency_full": "0.9", "efficiency_empty": "0.93",
            "most_out_a": "3", "standing_ma": "1",
        }),
        "fuse": ("Fuse 2 A in a holder", {"most_a": "2", "contact_mohm": "60"}),
        "switch": ("Rocker switch", {"most_a": "3", "contact_mohm": "20"}),
        **_TWO_GROUPS,
    },
}  # fmt: skip


def parts_for(purpose: str) -> Sequence[PartToKeep]:
    return [PartToKeep(TypedPart(kind, figures, name)) for kind, (name, figures) in PLANS[purpose].items()]
