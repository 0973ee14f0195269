"""What is asked for with a unit, by a sum or a way to measure, and how typed values are checked against it."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from difflib import get_close_matches
from typing import Literal

from zembric.core.errors import BadInputError
from zembric.core.house.limits import LAWS, Family, Kind
from zembric.core.said import Said, named, plain, said

Number = float
Value = float | str | bool | None
Values = Mapping[str, "float | str | tuple[float, ...] | None"]
Need = Literal["positive", "zero-or-more", "any", "share", "choice", "list"]


@dataclass(frozen=True, slots=True)
class Input:
    """One input. `share` lies above 0 and at most at 1; a list holds several numbers; a choice one of `choices`."""

    key: str
    unit: str
    meaning: Said
    need: Need = "positive"
    optional: bool = False
    choices: tuple[str, ...] = ()
    #: What a form begins with; None: the field is empty.
    example: str | None = None


@dataclass(frozen=True, slots=True)
class Ground:
    """A number or law that a sum rests on, with its kind and source."""

    said: Said
    kind: Kind
    source: Said


FAMILY = Input("family", "", said("input-chemistry"), "choice", choices=tuple(Family), example="layered-oxide")
#: Beyond it nothing on a bench is measured, and products would leave the numbers a computer knows.
_MOST = 1e9
PHYSICS = Ground(said("rests-on-arithmetic"), Kind.PHYSICS, LAWS)


def check_values(name: str, inputs: tuple[Input, ...], typed: Mapping[str, str]) -> Values:
    """Typed values by key as numbers, lists and choices; None for what was left out and may be.

    Raises:
        BadInputError: a key is unknown or missing, or a value cannot be; names the key.
    """
    keys = {entry.key: entry for entry in inputs}
    for key in typed:
        if key not in keys:
            raise BadInputError(_no_input(key[:40], name, tuple(keys)), code="unknown-key", field=key[:40])
    values: dict[str, float | str | tuple[float, ...] | None] = {}
    for key, entry in keys.items():
        text = typed.get(key, "").strip()
        if not text:
            if not entry.optional:
                raise BadInputError(said("input-missing", input=named_input(entry)), code="missing-key", field=key)
            values[key] = None
        elif entry.need == "choice":
            if text not in entry.choices:
                raise BadInputError(
                    said("input-not-one-of", input=named_input(entry), typed=text[:40], choices=entry.choices),
                    field=key,
                )
            values[key] = text
        elif entry.need == "list":
            values[key] = tuple(_number(part, entry) for part in _parts(text))
        else:
            values[key] = _within(_number(text, entry), entry)
    return values


def _no_input(key: str, name: str, keys: tuple[str, ...]) -> Said:
    near = get_close_matches(key, keys, n=1)
    if near:
        return said("is-no-input-perhaps", key=key, name=name, near=near[0])
    return said("is-no-input-there-are", key=key, name=name, keys=keys)


def _parts(text: str) -> list[str]:
    """Numbers of a list: parted by semicolons or blanks, else by commas."""
    parted = re.split(r"[;\s]+", text) if re.search(r"[;\s]", text.strip()) else text.split(",")
    return [part.strip(",") for part in parted if part.strip(",")]


def _number(text: str, entry: Input) -> float:
    compact = re.sub(r"[\s\u00a0\u202f]", "", text).replace("\u2212", "-").replace(",", ".")
    if not re.fullmatch(r"[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d{1,3})?", compact) or not math.isfinite(float(compact)):
        raise BadInputError(said("input-no-number", input=named_input(entry), typed=text.strip()[:40]), field=entry.key)
    value = float(compact)
    if abs(value) > _MOST or 0 < abs(value) < 1 / _MOST:
        raise BadInputError(said("input-beyond-benches", input=named_input(entry), value=plain(value)), field=entry.key)
    return value


def _within(value: float, entry: Input) -> float:
    is_within = {"positive": value > 0, "zero-or-more": value >= 0, "share": 0 < value <= 1}
    if not is_within.get(entry.need, True):
        wrong = named("input-has-to-be", entry.need)
        raise BadInputError(
            said("input-out-of-range", input=named_input(entry), value=plain(value), wrong=wrong), field=entry.key
        )
    return value


def named_input(entry: Input) -> Said:
    """As the form names it, with its unit; whoever writes keys is told the key by the command."""
    if not entry.unit:
        return entry.meaning
    return said("input-with-unit", input=entry.meaning, unit=entry.unit)


def number(values: Values, key: str) -> float:
    """A number that was checked to be there."""
    value = values[key]
    assert isinstance(value, float)
    return value


def numbers(values: Values, key: str) -> tuple[float, ...]:
    value = values[key]
    assert isinstance(value, tuple)
    return value


def maybe(values: Values, key: str) -> float | None:
    value = values.get(key)
    return value if isinstance(value, float) else None


def family_of(values: Values) -> Family:
    return Family(str(values["family"]))
