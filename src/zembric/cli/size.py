"""`./zembric size CODE`: what a print on a cell means, and whether its claim can be."""

from __future__ import annotations

import argparse
from typing import Any

from zembric.cli.numbers import positive
from zembric.core.errors import BadInputError
from zembric.core.house.limits import Family
from zembric.core.house.rules import USUAL_RULES
from zembric.core.identify.claims import check_claim
from zembric.core.identify.sizes import Size, read_print
from zembric.wording import say


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("code", help="as printed, e.g. INR18650 or 603048")
    parser.add_argument("--claim-mah", type=positive, help="the capacity that the print claims")
    parser.add_argument("--family", help=", ".join(Family))
    parser.add_argument("--mass-g", type=positive, help="what the cell weighs")
    parser.add_argument("--json", action="store_true", help="one JSON object on standard output")


def answer_size(wanted: argparse.Namespace) -> dict[str, Any]:
    """The answer of the verb.

    Raises:
        BadInputError: the print is not understood, or says something else than the family given.
    """
    found = read_print(wanted.code)
    family = _family(wanted.family, found.family)
    answer: dict[str, Any] = {
        "code": found.code,
        "shape": found.shape,
        "readings": [_reading(size) for size in found.readings],
        "ambiguous": found.ambiguous,
        "family": found.family,
        "rechargeable": found.rechargeable,
        "remarks": [say(each) for each in found.remarks],
    }
    if wanted.claim_mah is not None:
        check = check_claim(found.readings[0], family, wanted.claim_mah, USUAL_RULES, wanted.mass_g)
        if check is None:
            raise BadInputError(
                "A claim on a primary cell is not checked: it is never charged, so nothing follows from it."
            )
        answer["claim"] = {
            "verdict": check.verdict,
            "doubtful_above_mah": round(check.doubtful_above_mah, 1),
            "impossible_above_mah": round(check.impossible_above_mah, 1),
        }
    return answer


def _reading(size: Size) -> dict[str, float]:
    volume = {"volume_cm3": round(size.volume_cm3, 3)}
    if size.thickness_mm is None:
        return {"diameter_mm": size.width_mm, "length_mm": size.length_mm, **volume}
    return {"thickness_mm": size.thickness_mm, "width_mm": size.width_mm, "length_mm": size.length_mm, **volume}


def _family(said: str | None, printed: Family | None) -> Family | None:
    """The family to reckon with: what was said, else what the print tells.

    Raises:
        BadInputError: there is no such family, or the two differ.
    """
    if said is None:
        return printed
    if said not in set(Family):
        raise BadInputError(f'"{said}" is not a chemistry family; there are {", ".join(Family)}.')
    if printed is not None and said != printed:
        raise BadInputError(f"The print says {printed} and --family says {said}. Look once more which it is.")
    return Family(said)
