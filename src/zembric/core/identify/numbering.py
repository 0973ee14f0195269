"""Numbers that stand on tape and in QR codes: digits, so that a keypad will do, with a last digit that gives slips away."""

from __future__ import annotations

import re
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from stdnum import damm

from zembric.core.errors import BadInputError
from zembric.core.said import named, said

NumberedThing = Literal["cell", "donor", "pack", "tray", "box", "instrument", "slot"]
# A cell is named a hundred times an evening, so its letter may be left out; no letter looks like a digit.
_LETTER = MappingProxyType(
    {"cell": "C", "donor": "D", "pack": "P", "tray": "T", "box": "X", "instrument": "M", "slot": "K"}
)
_THING: MappingProxyType[str, NumberedThing] = MappingProxyType(
    {"": "cell", "C": "cell", "D": "donor", "P": "pack", "T": "tray", "X": "box", "M": "instrument", "K": "slot"}
)


@dataclass(frozen=True, slots=True)
class Named:
    """What a typed or scanned number names, in its stored form."""

    thing: NumberedThing
    number: str


def make_number(thing: NumberedThing, sequence: int) -> str:
    """The number of the n-th thing of its kind, e.g. 104 of a cell gives 1042: the sequence and a Damm check digit.

    Source: H. Michael Damm, 2004: the check finds every wrong digit and every swap of neighbours.
    """
    digits = str(sequence)
    letter = "" if thing == "cell" else _LETTER[thing]
    return f"{letter}{digits}{damm.calc_check_digit(digits)}"


def code_text(number: str) -> str:
    """What stands in a thing's QR code: its number, with the letter that a cell's number goes without elsewhere."""
    return number if number[:1].isalpha() else _LETTER["cell"] + number


def read_any(text: str) -> Named:
    """What a typed or scanned number names: digits alone a cell, a letter in front the others.

    Raises:
        BadInputError: it is no number of Zembric's, or its check digit says that it was mistyped.
    """
    compact = re.sub(r"[\s.-]", "", text).upper()
    matched = re.fullmatch(r"(?P<letter>[CDPTXMK]?)(?P<digits>\d{2,12})", compact, re.ASCII)
    if matched is None:
        raise BadInputError(
            said(
                "no-number-of-ours",
                typed=text.strip()[:40],
                cell=make_number("cell", 104),
                donor=make_number("donor", 12),
                tray=make_number("tray", 12),
                box=make_number("box", 12),
            ),
            field="number",
        )
    thing = _THING[matched["letter"]]
    digits = matched["digits"]
    if not damm.is_valid(digits):
        raise BadInputError(
            said("cannot-be-right", compact=compact),
            field="number",
        )
    return Named(thing, ("" if thing == "cell" else _LETTER[thing]) + digits)


def read_number(thing: NumberedThing, text: str) -> str:
    """Brings a typed or scanned number of one kind of thing into its stored form; its letter may be left out.

    Raises:
        BadInputError: it is not a number of this kind, or its check digit says that it was mistyped.
    """
    compact = re.sub(r"[\s.-]", "", text).upper()
    if re.fullmatch(r"\d+", compact, re.ASCII):
        compact = _LETTER[thing] + compact
    found = read_any(compact) if re.fullmatch(r"[CDPTXMK]\d{2,12}", compact, re.ASCII) else None
    if found is None or found.thing != thing:
        raise BadInputError(
            said(
                "not-the-number-of",
                typed=text.strip()[:40],
                thing=named("thing", thing),
                example=make_number(thing, 104),
            ),
            field="number",
        )
    return found.number
