"""Numbers that stand on tape: digits only, so that a keypad will do, with a last digit that gives slips away."""

from __future__ import annotations

import re
from typing import Literal

from stdnum import damm

from zembric.core.errors import BadInputError

NumberedThing = Literal["cell", "donor", "pack"]
# A cell is named a hundred times an evening, so it has no letter; the others have one to be told apart.
_PREFIX: dict[NumberedThing, str] = {"cell": "", "donor": "D", "pack": "P"}


def make_number(thing: NumberedThing, sequence: int) -> str:
    """The number of the n-th thing of its kind, e.g. 104 of a cell gives 1042: the sequence and a Damm check digit.

    Source: H. Michael Damm, 2004: the check finds every wrong digit and every swap of neighbours.
    """
    digits = str(sequence)
    return f"{_PREFIX[thing]}{digits}{damm.calc_check_digit(digits)}"


def read_number(thing: NumberedThing, text: str) -> str:
    """Brings a typed or scanned number into its stored form.

    Raises:
        BadInputError: it is not a number of this kind, or its check digit says that it was mistyped.
    """
    compact = re.sub(r"[\s.-]", "", text).upper()
    prefix = _PREFIX[thing]
    digits = compact.removeprefix(prefix)
    if not re.fullmatch(r"\d{2,12}", digits):
        raise BadInputError(
            f'"{text.strip()}" is not the number of a {thing}. It looks like {make_number(thing, 104)}.', field="number"
        )
    if not damm.is_valid(digits):
        raise BadInputError(
            f"{prefix}{digits} cannot be right: its last digit does not fit the others. Read the number once more; "
            "a 1 may be a 7, a 0 may be a 6, or two digits are swapped.",
            field="number",
        )
    return prefix + digits
