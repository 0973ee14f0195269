"""Kinds of dead device: what to expect inside, how to open it safely, and what is not for this table.

These are the kinds that Zembric comes with; a repair cafe edits its own copy of them.
"""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType
from typing import TYPE_CHECKING, Literal

from zembric.core.limits import Family

if TYPE_CHECKING:
    from collections.abc import Mapping

    from zembric.core.story import DonorKind

Drain = Literal["low", "high", "mixed"]
Protection = Literal["own board", "pack board", "bare", "mixed"]


@dataclass(frozen=True, slots=True)
class KindOfDonor:
    """One kind. `judged_as` is what the judge knows of it; `usual_family` None: nothing may be assumed."""

    code: str
    name: str
    sizes: str
    usual_size: str | None
    usual_family: Family | None
    cells_least: int
    cells_most: int
    drain: Drain
    protection: Protection
    traps: tuple[str, ...]
    cautions: tuple[str, ...]
    judged_as: DonorKind


@dataclass(frozen=True, slots=True)
class NotForThisTable:
    """A kind of device that is turned away, and where to go instead."""

    code: str
    name: str
    instead: str


_OPEN_GENTLY = "Plastic tools only; a blade into a cell shorts it."
_ONE_END = "Tape each end as it comes free, before the next one is cut."
_POUCH = "Do not bend or pry a flat cell: warm its glue from behind and lift it with a thread or a flat spatula."

_KINDS = (
    KindOfDonor(
        "laptop", "Laptop pack", "mostly 18650, in thin ones flat cells", "18650", Family.LAYERED_OXIDE, 3, 12, "low",
        "pack board",
        ("Its board counts: a good cell may sit beside a tired one.", "Cut the balance leads one by one, the total plus last."),
        (_OPEN_GENTLY, _ONE_END, "Crack the case along its seam, cells downwards, away from the middle."), "laptop",
    ),
    KindOfDonor(
        "vape-single-use", "Vape, single use", "13400 to 20700 or a small flat cell", "13400", Family.LAYERED_OXIDE, 1, 1,
        "high", "bare",
        ("The only cut-off sat in its sensor: the cell comes out bare.", "Printed capacity is often far too high.",
         "Many were emptied once and are nearly new."),
        ("Gloves on, window open: the residue is poisonous through the skin. Wipe the cell before you touch it bare-handed.",
         "Pull the mouthpiece, then push the inside out; never saw or crush the tube.", _ONE_END), "vape",
    ),
    KindOfDonor(
        "vape-refillable", "Vape, refillable", "18350 to 21700, or a flat cell with leads", "18650", Family.LAYERED_OXIDE, 1, 3,
        "high", "mixed",
        ("A removable cell may go on living in its device.", "Its torn wrap is the commonest fault: look at the plus end."),
        ("Gloves on, window open: the residue is poisonous through the skin.", "Take the tank off and wipe it first.", _ONE_END), "vape",
    ),
    KindOfDonor(
        "phone", "Phone or tablet", "one flat cell, glued in", None, Family.HIGH_VOLTAGE_COBALT, 1, 2, "low", "own board",
        ("Read the charging voltage on its print: 4.35, 4.40 or 4.45 V.", "Its capacity counts only at that voltage."),
        (_POUCH, "Work at a low charge: a full flat cell that is bent burns at once."), "phone",
    ),
    KindOfDonor(
        "power-tool", "Cordless tool", "18650 or 21700, four to fifteen of them", "18650", Family.LAYERED_OXIDE, 3, 15, "high",
        "pack board",
        ("The group at the end of the string is often the tired one.", "Older ones hold NiCd or NiMH: 1.2 V a cell, not for Zembric."),
        ("The strips carry tens of ampere: cover what you do not work on.", _ONE_END,
         "Measure the whole pack first: up to 60 V may stand at its contacts."), "power-tool",
    ),
    KindOfDonor(
        "garden", "Vacuum or garden pack", "18650 or 21700, four to twenty of them", "18650", Family.LAYERED_OXIDE, 4, 20, "high",
        "pack board",
        ("Runs for minutes only: one weak group ends it, the others may be good.", "Some hold iron phosphate: 3.2 V a cell."),
        ("The strips carry tens of ampere: cover what you do not work on.", _ONE_END, "Shake the dust out outside, not over the tray."),
        "power-tool",
    ),
    KindOfDonor(
        "power-bank", "Power bank", "18650 or a large flat cell", "18650", Family.LAYERED_OXIDE, 1, 8, "low", "own board",
        ("Its mAh are printed for 3.7 V, and often too high.", "Cells of different age may be soldered in parallel."),
        (_OPEN_GENTLY, _POUCH, "It may be awake: its socket is live until the cell is off."), "other",
    ),
    KindOfDonor(
        "e-reader", "E-reader", "one thin flat cell", None, Family.LAYERED_OXIDE, 1, 1, "low", "own board",
        ("Kept for years nearly empty: look at its voltage before anything else.",),
        (_POUCH, "The screen is glass: keep it covered."), "phone",
    ),
    KindOfDonor(
        "toy", "Toy or drone", "small flat cells with leads, 1S or 2S", None, Family.LAYERED_OXIDE, 1, 2, "high", "bare",
        ("Bare and driven hard: expect swelling and high resistance.", "A crash leaves creases: a creased flat cell goes out."),
        (_POUCH, "Flying devices are not built or repaired here; only what is in them is taken out."), "other",
    ),
    KindOfDonor(
        "speaker", "Speaker or headset", "18650 or a flat cell; a pin cell in a headset", None, Family.LAYERED_OXIDE, 1, 4, "mixed",
        "own board",
        ("Cells of a few mAh are not worth a place on the shelf.", "Magnets hold on to loose strips and screws."),
        (_OPEN_GENTLY, _POUCH), "other",
    ),
    KindOfDonor(
        "light", "Light", "18650 or a flat cell; in garden lights often iron phosphate or NiMH", "18650", None, 1, 4, "mixed", "mixed",
        ("Garden lights mix chemistries: 3.2 V and 1.2 V cells look alike.",),
        (_OPEN_GENTLY, "A light that hung on the mains is not for this table."), "other",
    ),
    KindOfDonor(
        "meter", "Meter or sensor", "often a primary cell: ER14505, CR123A, CR2032", None, None, 1, 2, "low", "bare",
        ("Most hold a primary cell that looks like a rechargeable: read its print.",),
        ("Never charge what you find here before its print was read.", _OPEN_GENTLY), "other",
    ),
    KindOfDonor(
        "unknown", "Something else", "anything", None, None, 1, 40, "mixed", "mixed",
        ("Nothing may be assumed: read the print, measure the size.",),
        (_OPEN_GENTLY, _ONE_END, _POUCH), "other",
    ),
)  # fmt: skip
KINDS_OF_DONOR: Mapping[str, KindOfDonor] = MappingProxyType({kind.code: kind for kind in _KINDS})

_WORKSHOP = "a licensed workshop"
NOT_FOR_THIS_TABLE: Mapping[str, NotForThisTable] = MappingProxyType(
    {
        kind.code: kind
        for kind in (
            NotForThisTable(
                "medical", "Medical device",
                "Somebody's life may hang on it, and it must not be opened. Its supplier or the clinic takes it back.",
            ),
            NotForThisTable(
                "vehicle", "Car, scooter or other vehicle",
                f"Its battery stores enough to burn a house down. It belongs to its maker's service or {_WORKSHOP}.",
            ),
            NotForThisTable(
                "e-bike", "E-bike",
                f"Its pack is over what volunteers may open. The dealer takes it back, or {_WORKSHOP} for such packs repairs it.",
            ),
            NotForThisTable(
                "mains", "Anything on the mains",
                f"What hangs on the mains, solar storage too, is for {_WORKSHOP} or a licensed electrician. Unplug it and leave it closed.",
            ),
        )
    }
)  # fmt: skip
