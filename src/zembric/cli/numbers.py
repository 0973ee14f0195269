"""Numbers given on the command line."""

from __future__ import annotations

import argparse
import math


def positive(text: str) -> float:
    """A number above zero, with a decimal point or comma.

    Raises:
        ArgumentTypeError: it is none.
    """
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        value = 0.0
    if not 0 < value < math.inf:
        raise argparse.ArgumentTypeError(f'"{text}" is not a number above zero')
    return value
