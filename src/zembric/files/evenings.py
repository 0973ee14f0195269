"""Evenings as a file: JSON in, checked for what cannot be meant so, and the plan as JSON out."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from zembric.core.evening import Cell, Channel, Evening, EveningRefusedError, Operation, Problem
from zembric.core.said import said

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

    from zembric.core.evening import Row

_DEFAULT_HAND_OVER = 2
#: Longer than anybody lives: no such minutes are meant.
_MOST_MINUTES, _MOST_WEIGHT = 100_000_000, 1_000_000
_KINDS = ("charge", "discharge")
_LEAVES = ("full", "empty", "storage")


@dataclass(frozen=True, slots=True)
class _Step:
    kind: str
    minutes: int | Mapping[str, int]
    needs_ma: float
    leaves: str


def read_evenings(held: Any) -> Problem:
    """Raises:
    EveningRefusedError: it cannot be meant so; says what and which cell.
    """
    whole = _object(held, None)
    _text(whole.get("id"), "id", None)
    evenings = _evenings(whole.get("evenings"))
    hand_over = _whole(whole.get("hand_over_minutes", _DEFAULT_HAND_OVER), "hand_over_minutes", None)
    volunteers = whole.get("volunteers")
    if volunteers is not None and (not _is_int(volunteers) or volunteers < 1):
        raise _bad("volunteers", None)
    channels = _channels(whole.get("channels"))
    cells = whole.get("cells")
    if not isinstance(cells, list):
        raise _bad("cells", None)
    seen: set[str] = set()
    made = []
    for each in cells:
        cell = _object(each, None)
        key = _text(cell.get("id"), "id", None)
        if key in seen:
            raise EveningRefusedError("cell_twice", said("evening-cell-twice", cell=key), key)
        seen.add(key)
        made.append(_cell(cell, key, channels, evenings))
    return Problem(evenings, channels, tuple(made), hand_over, volunteers)


def plan_as_json(key: str, problem: Problem, rows: Sequence[Row]) -> dict[str, Any]:
    """A plan as it goes out, rests left out."""
    return {
        "id": key,
        "schedule": [
            {
                "cell": problem.cells[row.cell].key, "step": problem.cells[row.cell].operations[row.operation].step,
                "channel": problem.channels[row.channel].key, "start_minutes": row.start, "end_minutes": row.end,
            }
            for row in rows
        ],
    }  # fmt: skip


def _evenings(held: Any) -> tuple[Evening, ...]:
    if not isinstance(held, list) or not held:
        raise _bad("evenings", None)
    made: list[Evening] = []
    for each in held:
        evening = _object(each, None)
        start = _whole(evening.get("start_minutes"), "start_minutes", None)
        length = _whole(evening.get("length_minutes"), "length_minutes", None, least=1)
        if (not made and start != 0) or (made and start < made[-1].end):
            raise _bad("evenings", None)
        made.append(Evening(start, start + length))
    return tuple(made)


def _channels(held: Any) -> tuple[Channel, ...]:
    if not isinstance(held, list):
        raise _bad("channels", None)
    made: list[Channel] = []
    for each in held:
        channel = _object(each, None)
        key = _text(channel.get("id"), "channels.id", None)
        formats = channel.get("formats")
        if not isinstance(formats, list) or not all(isinstance(name, str) for name in formats):
            raise _bad("formats", None)
        if any(key == other.key for other in made):
            raise _bad("channels.id", None)
        made.append(
            Channel(
                key, _text(channel.get("class"), "class", None), _number(channel.get("max_charge_ma"), "max_charge_ma"),
                _number(channel.get("max_discharge_ma"), "max_discharge_ma"), frozenset(formats),
            )
        )  # fmt: skip
    return tuple(made)


def _cell(cell: Mapping[str, Any], key: str, channels: Sequence[Channel], evenings: Sequence[Evening]) -> Cell:
    kept_in = _text(cell.get("format"), "format", key)
    weight, is_first = cell.get("weight", 1), cell.get("first", False)
    if not _is_int(weight) or not 1 <= weight <= _MOST_WEIGHT:
        raise _bad("weight", key)
    if not isinstance(is_first, bool):
        raise _bad("first", key)
    steps = cell.get("steps")
    if not isinstance(steps, list) or not steps:
        raise _bad("steps", key)
    operations: list[Operation] = []
    rest: int | None = None
    longest = max(evening.end - evening.start for evening in evenings)
    for place, each in enumerate(steps):
        step = _object(each, key)
        kind = step.get("kind")
        if kind == "rest":
            if rest is not None or place in (0, len(steps) - 1):
                raise _bad("steps", key)
            rest = _whole(step.get("minutes"), "minutes", key)
            continue
        read = _step(step, key)
        options = tuple(_options(read, kept_in, channels))
        if not options:
            raise EveningRefusedError("no_channel_fits", said("evening-no-channel", cell=key, step=place), key)
        if min(takes for _, takes in options) > longest:
            raise EveningRefusedError("step_too_long", said("evening-too-long", cell=key, step=place), key)
        fitting = tuple(option for option in options if option[1] <= longest)
        operations.append(Operation(place, rest or 0, fitting, read.leaves))  # type: ignore[arg-type]
        rest = None
    return Cell(key, weight, is_first, tuple(operations))


def _step(step: Mapping[str, Any], key: str) -> _Step:
    kind, leaves, needs = step.get("kind"), step.get("leaves_cell"), step.get("needs_ma")
    if kind not in _KINDS:
        raise _bad("kind", key)
    if leaves not in _LEAVES:
        raise _bad("leaves_cell", key)
    minutes = step.get("minutes")
    if isinstance(minutes, dict):
        if not minutes:
            raise _bad("minutes", key)
        table = {name: _whole(takes, "minutes", key, least=1) for name, takes in minutes.items()}
        return _Step(kind, table, _needed(needs, key), leaves)
    return _Step(kind, _whole(minutes, "minutes", key, least=1), _needed(needs, key), leaves)


def _options(step: _Step, kept_in: str, channels: Sequence[Channel]) -> list[tuple[int, int]]:
    """Channels that can do a step, with the minutes it takes there."""
    found = []
    for at, channel in enumerate(channels):
        gives = channel.max_charge_ma if step.kind == "charge" else channel.max_discharge_ma
        takes = step.minutes if isinstance(step.minutes, int) else step.minutes.get(channel.kind)
        if kept_in in channel.formats and gives > 0 and gives >= step.needs_ma and takes is not None:
            found.append((at, takes))
    return found


def _needed(needs: Any, key: str) -> float:
    if needs is None:
        return 0.0
    if not _is_number(needs) or needs < 0:
        raise _bad("needs_ma", key)
    return float(needs)


def _object(held: Any, key: str | None) -> Mapping[str, Any]:
    if not isinstance(held, dict):
        raise _bad("{}", key)
    return held


def _text(held: Any, what: str, key: str | None) -> str:
    if not isinstance(held, str) or not held:
        raise _bad(what, key)
    return held


def _whole(held: Any, what: str, key: str | None, least: int = 0) -> int:
    """Whole minutes; other numbers are bad minutes, what is no number is bad input."""
    if isinstance(held, bool) or not isinstance(held, (int, float)):
        raise _bad(what, key)
    if not math.isfinite(held) or held != int(held) or not least <= held <= _MOST_MINUTES:
        raise EveningRefusedError(
            "bad_minutes", said("evening-bad-minutes", what=what, least=least, most=_MOST_MINUTES), key
        )
    return int(held)


def _number(held: Any, what: str) -> float:
    if not _is_number(held) or held < 0:
        raise _bad(what, None)
    return float(held)


def _is_number(held: Any) -> bool:
    return isinstance(held, (int, float)) and not isinstance(held, bool) and math.isfinite(held)


def _is_int(held: Any) -> bool:
    return isinstance(held, int) and not isinstance(held, bool)


def _bad(what: str, key: str | None) -> EveningRefusedError:
    return EveningRefusedError("bad_input", said("evening-bad-input", what=what), key)
