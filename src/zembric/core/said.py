"""What the core says, as data: a code with typed parameters. Words for it stand in one catalogue, a file a language.

Nothing in here is a sentence: it is stored, compared and sent as it is, and turned into words only where people read it.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import reduce
from typing import TYPE_CHECKING, Any, TypeAlias

if TYPE_CHECKING:
    from collections.abc import Iterable, Sequence
    from datetime import timedelta
    from enum import StrEnum


@dataclass(frozen=True, slots=True)
class Amount:
    """A quantity with its unit, and how many digits behind the decimal mark it is told with."""

    value: float
    unit: str
    digits: int = 0


@dataclass(frozen=True, slots=True)
class Span:
    """A length of time [s], told in the largest unit that fits."""

    seconds: float


@dataclass(frozen=True, slots=True)
class OneOf:
    """Several of which one is meant: a, b or c."""

    each: tuple[Parameter, ...]


@dataclass(frozen=True, slots=True)
class Said:
    """A code and its parameters, sorted by name. Made by `said`."""

    code: str
    parameters: tuple[tuple[str, Parameter], ...] = ()

    def __format__(self, _spec: str) -> str:
        raise TypeError(f"{self!r} is put into words at the edge, not into another text")


#: A text is a name, a number on tape or what somebody typed: never words of ours. A tuple is told as a list.
Parameter: TypeAlias = str | int | Amount | Span | OneOf | Said | tuple["Parameter", ...]

#: What was said before there were codes, and what was typed: the text itself.
AS_SAID = "as-said"


def said(code: str, /, **parameters: Parameter) -> Said:
    return Said(code, tuple(sorted(parameters.items())))


def as_said(text: str) -> Said:
    """Words that were kept as words, from before there were codes."""
    return said(AS_SAID, text=text)


def named(kind: str, member: StrEnum | str) -> Said:
    """The name of one of ours: a finding, a method, a grade. Its code is `kind` and the member's own."""
    return Said(f"{kind}-{member}")


def one_after_another(parts: Sequence[Said]) -> Said:
    """Several whole sentences, one behind the other."""
    return reduce(lambda first, then: said("one-after-another", first=first, then=then), parts)


def all_of(kind: str, members: Iterable[StrEnum | str]) -> tuple[Said, ...]:
    return tuple(named(kind, member) for member in members)


def volts(value_v: float) -> Amount:
    return Amount(value_v, "V", 2)


def plain(value: float, unit: str = "") -> Amount:
    """A figure with as many digits as it has, six at most: the house's own 2, 0.5, 12.25."""
    written = f"{value:g}"
    return Amount(value, unit, len(written.partition(".")[2]) if "e" not in written else 0)


def span(time: timedelta) -> Span:
    return Span(time.total_seconds())


def to_json(what: Said) -> dict[str, Any]:
    """As it is stored and sent: `{"code": ..., "with": {...}}`; amounts are `{"value", "unit", "digits"}`, times `{"seconds"}`."""
    if not what.parameters:
        return {"code": what.code}
    return {"code": what.code, "with": {name: _to_json(value) for name, value in what.parameters}}


def from_json(stored: Mapping[str, Any]) -> Said:
    return said(stored["code"], **{name: _from_json(value) for name, value in stored.get("with", {}).items()})


def _to_json(value: Parameter) -> Any:
    match value:
        case Said():
            return to_json(value)
        case Amount():
            return {"value": value.value, "unit": value.unit, "digits": value.digits}
        case Span():
            return {"seconds": value.seconds}
        case OneOf():
            return {"one_of": [_to_json(each) for each in value.each]}
        case tuple():
            return [_to_json(each) for each in value]
        case _:
            return value


def _from_json(stored: Any) -> Parameter:
    if isinstance(stored, list):
        return tuple(_from_json(each) for each in stored)
    if not isinstance(stored, Mapping):
        return stored if isinstance(stored, (str, int)) else str(stored)
    if "code" in stored:
        return from_json(stored)
    if "one_of" in stored:
        return OneOf(tuple(_from_json(each) for each in stored["one_of"]))
    if "seconds" in stored:
        return Span(stored["seconds"])
    return Amount(stored["value"], stored["unit"], stored["digits"])
