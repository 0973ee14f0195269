"""An instrument's own commands as data: what is sent for each thing that Zembric wants of it, and what its answers mean.

A command is a line with places in braces, such as `CURR {current_a:.3f}`; an answer is numbers between commas.
"""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass, fields
from types import MappingProxyType
from typing import Any, Final

from zembric.core.errors import BadInputError
from zembric.core.said import said

_OF_AN_ORDER: Final = ("channel", "current_a", "limit_v", "end_a", "seconds")
#: What may stand in braces of each kind of line: the channel, current [A], voltage [V], current at which it ends [A], length [s].
PLACES: Final[Mapping[str, tuple[str, ...]]] = MappingProxyType(
    {
        "charge": _OF_AN_ORDER, "discharge": _OF_AN_ORDER, "off": ("channel",), "measure": ("channel",), "rows": ("channel", "since"),
        "watchdog": ("seconds",), "put_in": ("channel", "number", "volts", "mah"),
    }
)  # fmt: skip
#: What an answer may hold, in its order; `-` is passed over. `minus_current_a`: a load that counts its discharge as positive.
GIVES: Final = ("time_s", "voltage_v", "current_a", "minus_current_a", "cell_degc", "-")
_PLACE = re.compile(r"\{(\w+)(?::\.(\d)f)?\}")
_LISTS = ("begin", "watchdog", "charge", "discharge", "off", "gives")
_MOST_LINE, _MOST_LINES = 200, 12


@dataclass(frozen=True, slots=True)
class CommandMap:
    """Lines that are sent; empty: the instrument cannot do it. `rows` drains what it recorded since, rows between semicolons."""

    identify: str = "*IDN?"
    begin: tuple[str, ...] = ()
    watchdog: tuple[str, ...] = ()
    watchdog_ask: str = ""
    charge: tuple[str, ...] = ()
    discharge: tuple[str, ...] = ()
    off: tuple[str, ...] = ()
    measure: str = ""
    gives: tuple[str, ...] = ("voltage_v", "current_a")
    rows: str = ""
    error_ask: str = ""
    #: Only of a simulated tester: puts a cell of some number into the slot, as hands would.
    put_in: str = ""

    @property
    def charges(self) -> bool:
        return bool(self.charge and self.off)

    @property
    def discharges(self) -> bool:
        return bool(self.discharge and self.off)


def read_map(held: Mapping[str, Any]) -> CommandMap:
    """A map as it was typed.

    Raises:
        BadInputError: a line that cannot be, a place or a quantity nobody knows; names the line.
    """
    known = {entry.name for entry in fields(CommandMap)}
    values: dict[str, Any] = {}
    for key, value in held.items():
        if key not in known:
            raise BadInputError(said("map-unknown-key", key=str(key)[:40], known=tuple(sorted(known))), field="mapping")
        lines = value if key in _LISTS else [value]
        if (
            not isinstance(lines, list | tuple)
            or len(lines) > _MOST_LINES
            or not all(isinstance(line, str) for line in lines)
        ):
            raise BadInputError(said("map-not-lines", key=key), field="mapping")
        for line in lines:
            _check_line(key, line)
        values[key] = tuple(line.strip() for line in lines if line.strip()) if key in _LISTS else str(value).strip()
    found = CommandMap(**values)
    if not found.measure and not found.rows:
        raise BadInputError(said("map-measures-nothing"), field="mapping")
    unknown = [name for name in found.gives if name not in GIVES]
    if unknown or "voltage_v" not in found.gives:
        raise BadInputError(said("map-gives", wrong=(unknown or ["-"])[0][:40], known=GIVES), field="mapping")
    return found


def as_json(mapping: CommandMap) -> dict[str, Any]:
    values = {entry.name: getattr(mapping, entry.name) for entry in fields(CommandMap)}
    return {key: list(value) if isinstance(value, tuple) else value for key, value in values.items()}


def _check_line(key: str, line: str) -> None:
    if len(line) > _MOST_LINE or not line.isprintable():
        raise BadInputError(said("map-line-length", key=key, most=_MOST_LINE), field="mapping")
    allowed = PLACES.get(key, ())
    for name, _ in _PLACE.findall(line):
        if name not in allowed:
            raise BadInputError(said("map-unknown-place", key=key, place=name[:40], known=allowed), field="mapping")
    if "{" in _PLACE.sub("", line) or "}" in _PLACE.sub("", line):
        raise BadInputError(said("map-braces", key=key, line=line[:60]), field="mapping")


def filled(line: str, values: Mapping[str, float | int | str]) -> str:
    """A line with its places filled in."""

    def put(found: re.Match[str]) -> str:
        value = values[found[1]]
        if found[2] is None:
            return f"{value:g}" if isinstance(value, float) else str(value)
        return f"{float(value):.{int(found[2])}f}"

    return _PLACE.sub(put, line)


class NonsenseError(Exception):
    """An answer that is none."""


def read_answer(mapping: CommandMap, answer: str) -> dict[str, float]:
    """The quantities of one answer.

    Raises:
        NonsenseError: too few numbers, or one that is none.
    """
    parts = [part.strip() for part in answer.strip().split(",")]
    if len(parts) < len(mapping.gives):
        raise NonsenseError(answer[:80])
    found: dict[str, float] = {}
    for name, part in zip(mapping.gives, parts, strict=False):
        if name == "-":
            continue
        try:
            value = float(part)
        except ValueError:
            raise NonsenseError(answer[:80]) from None
        if not math.isfinite(value) or abs(value) > 1e9:
            raise NonsenseError(answer[:80])
        found[name] = value
    if "minus_current_a" in found:
        found["current_a"] = -found.pop("minus_current_a")
    return found
