"""Which column is time, voltage and current, and in what unit: by the header, held against what the numbers can be."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Literal, cast

import numpy as np

from zembric.core.measure.traces.marks import DateOrder, clock_s, date_order, date_s, to_number
from zembric.core.measure.traces.model import Answers, Floats, LogRefusedError, Remark
from zembric.core.measure.traces.table import FieldKind, Table
from zembric.core.measure.traces.words import FACTOR, Heading, Role, read_heading, says_step_time
from zembric.core.said import Amount, Said, named, plain, said

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

#: What a cell can be: nobody's cell log lies outside.
_CELL_MOST_V = 6.0
_PACK_MOST_V = 70.0
_LEAST_RUN_MAH, _MOST_RUN_MAH = 8.0, 60_000.0
_MOST_A = 60.0
_ROLES_READ: tuple[Role, ...] = ("time", "voltage", "current", "capacity")
_TIME_UNITS = ("s", "ms", "min", "h")


@dataclass(frozen=True, slots=True)
class Column:
    """One column of the log that is read. `unit` is its own name (s, mV, A); clocks and dates have none."""

    place: int
    header: str | None
    unit: str | None
    kind: FieldKind = "number"
    date_order: DateOrder = "ymd"
    minutes_first: bool = False


@dataclass(frozen=True, slots=True)
class Columns:
    """What is read of a log. Without a current column the resistor tells the current; without time, the pace does."""

    time: Column | None
    clock: Column | None  # beside a date without a time of day
    voltage: Column
    current: Column | None
    counter: Column | None
    state: Column | None
    resistor_ohm: float | None
    every_s: float | None
    steps_restart_time: bool
    remarks: tuple[Remark, ...]


def choose_columns(table: Table, answers: Answers) -> Columns:
    """Finds the columns of a log.

    Raises:
        LogRefusedError: one is missing or cannot be told from another; names the answer that would help.
    """
    chooser = _Chooser(table, answers)
    return chooser.choose()


class _Chooser:
    """Holds the sample's numbers while the columns are chosen one after the other."""

    def __init__(self, table: Table, answers: Answers) -> None:
        self.table, self.answers = table, answers
        self.remarks: list[Remark] = []
        self.headings = [read_heading(h) for h in table.headers or ()]
        self.rows = [row for _, row in table.sample]
        self.values: list[Floats] = [
            np.array([to_number(row[place], table.decimal, table.thousands) for row in self.rows], dtype=float)
            for place in range(table.fields)
        ]

    def choose(self) -> Columns:
        roles = self._roles()
        voltage = self._voltage(roles)
        time, clock = self._time(roles)
        current = self._current(roles, voltage)
        if current and not self.answers.columns:
            voltage, current = self._unswapped(voltage, current, roles)
        voltage = self._with_voltage_unit(voltage)
        counter = self._counter(roles)
        time, current = self._with_units(time, clock, current, counter)
        state = self._state(roles)
        ohm = None if current else self._resistor(roles)
        if time is None and self.answers.every_s is None:
            raise LogRefusedError(
                said("there-is-no-column-of-times"),
                code="no-time",
                line=self.table.header_line,
            )
        restarts = time is not None and time.header is not None and says_step_time(time.header)
        return Columns(
            time, clock, voltage, current, counter, state, ohm, self.answers.every_s if time is None else None, restarts,
            tuple(self.remarks),
        )  # fmt: skip

    # --- roles ---------------------------------------------------------------------------------------------------------

    def _roles(self) -> dict[Role, list[int]]:
        """Places by role, best first."""
        if self.answers.columns:
            found: dict[Role, list[int]] = {}
            for place, role in enumerate(self.answers.columns[: self.table.fields]):
                found.setdefault(cast("Role", role), []).append(place)
            return found
        if not self.headings:
            return self._roles_by_values()
        ranked: dict[Role, list[tuple[int, int]]] = {}
        for place, heading in enumerate(self.headings[: self.table.fields]):
            if heading.weight and self.table.kinds[place] != "empty":
                ranked.setdefault(heading.role, []).append((-heading.weight, place))
        return {role: [place for _, place in sorted(places)] for role, places in ranked.items()}

    def _roles_by_values(self) -> dict[Role, list[int]]:
        """Without a header: by what the numbers can be. Told as a guess."""
        found: dict[Role, list[int]] = {}
        numbers = [p for p, kind in enumerate(self.table.kinds) if kind == "number"]
        timed = [p for p, kind in enumerate(self.table.kinds) if kind in ("date", "clock")]
        if timed:
            found["time"] = timed
        rising = [p for p in numbers if self._rises(p)]
        if not timed and rising:
            index = [p for p in rising if self._counts_rows(p)]
            times = [p for p in rising if p not in index] or index
            found["time"] = times[:1]
        rest = [p for p in numbers if p not in found.get("time", ()) and p not in (rising if len(numbers) > 3 else ())]
        volts = [p for p in rest if self._may_be_voltage(p)]
        if len(volts) > 1:
            volts = self._steadier_apart(volts)
        if volts:
            found["voltage"] = volts
            others = [p for p in rest if p not in volts and not self._is_counter(p)]
            if others:
                found["current"] = others
            counters = [p for p in numbers if p not in volts and p not in found.get("time", ()) and self._is_counter(p)]
            if counters:
                found["capacity"] = counters
        if found.get("voltage") and found.get("time"):
            places = self._places(found)
            named_ = tuple(
                said("log-column", place=place + 1, role=named("role", role))
                for place, role in enumerate(places)
                if role != "other"
            )
            self.remarks.append(
                Remark(
                    "guessed-columns",
                    said("log-guessed-columns", columns=named_),
                    self.table.first_line,
                    asks="columns",
                    choices=places,
                )
            )
        return found

    def _places(self, roles: Mapping[Role, Sequence[int]]) -> tuple[str, ...]:
        """The role of each column by its place, as an answer says it."""
        places = ["other"] * self.table.fields
        for role in _ROLES_READ:
            for place in roles.get(role, [])[:1]:
                places[place] = role
        return tuple(places)

    def _finite(self, place: int) -> Floats:
        values = self.values[place]
        return values[np.isfinite(values)]

    def _rises(self, place: int) -> bool:
        steps = np.diff(self._finite(place))
        return steps.size >= 2 and float(np.mean(steps > 0)) > 0.95

    def _counts_rows(self, place: int) -> bool:
        """Whether a column only numbers the rows: the line numbers tell."""
        lines = np.array([number for number, _ in self.table.sample], dtype=float)
        values = self.values[place]
        good = np.isfinite(values) & (lines > 0)
        rising = [p for p, kind in enumerate(self.table.kinds) if kind == "number" and self._rises(p)]
        return len(rising) > 1 and bool(np.all(np.diff(values[good]) == np.diff(lines[good])))

    def _is_counter(self, place: int) -> bool:
        values = self._finite(place)
        steps = np.diff(values)
        # A current that is switched on also starts at nothing, but comes in one jump.
        glides = values.size > 3 and float(np.max(steps)) < 0.3 * float(np.ptp(values))
        return bool(
            glides and abs(values[0]) < 0.02 * max(abs(values[-1]), 1e-9) and np.all(steps >= 0) and values[-1] > 0
        )

    def _may_be_voltage(self, place: int) -> bool:
        values = self._finite(place)
        if values.size < 2:
            return False
        low, middle, high = np.quantile(values, [0.02, 0.5, 0.98])
        return any(
            0.8 * scale <= middle <= 4.6 * scale and high <= 5 * scale and low >= 0.4 * scale for scale in (1.0, 1000.0)
        )

    def _steadier_apart(self, places: list[int]) -> list[int]:
        """Of columns that could all be a voltage: the one that moves like one, gliding, where a current stands or jumps."""
        moves = {p: _gliding(self._finite(p)) for p in places}
        best = max(places, key=lambda p: moves[p])
        others = [moves[p] for p in places if p != best]
        return [best] if moves[best] > 1.5 * max(others) + 1e-9 else places

    def _one(self, places: list[int], what: str) -> int | None:
        """The one of several columns that carries something; refused where several do and none stands out."""
        if not places:
            return None
        best = self._weight(places[0])
        equal = [p for p in places if self._weight(p) == best] or places[:1]
        alive = [p for p in equal if np.any(np.abs(self._finite(p)) > 1e-9)] or equal
        if len(alive) > 1 and not self._same_in_other_unit(alive):
            names = " and ".join(f'"{self._name(p)}"' for p in alive[:3])
            raise LogRefusedError(
                said("several-columns-could-be", what=what, names=names),
                code="several-columns",
                line=self.table.header_line or self.table.first_line,
                column=self._name(alive[1]),
            )
        return alive[0]

    def _weight(self, place: int) -> int:
        return self.headings[place].weight if place < len(self.headings) else 2

    def _name(self, place: int) -> str:
        return self.headings[place].text if place < len(self.headings) else f"column {place + 1}"

    def _same_in_other_unit(self, places: list[int]) -> bool:
        first = self.values[places[0]]
        for place in places[1:]:
            both = np.isfinite(first) & np.isfinite(self.values[place]) & (np.abs(first) > 1e-9)
            ratio = np.abs(self.values[place][both] / first[both])
            if not ratio.size or not any(np.all(np.abs(ratio / scale - 1) < 0.02) for scale in (1.0, 1000.0, 0.001)):
                return False
        return True

    def _column(self, place: int, unit: str | None = None) -> Column:
        heading = self.headings[place] if place < len(self.headings) else None
        return Column(
            place,
            heading.text if heading else None,
            unit or (heading.unit if heading else None),
            self.table.kinds[place],
        )

    # --- voltage and current -------------------------------------------------------------------------------------------

    def _voltage(self, roles: dict[Role, list[int]]) -> Column:
        place = self._one(roles.get("voltage", []), "voltage")
        if place is None:
            wrong = said("log-no-voltage")
            if self.headings:
                wrong = said("log-no-voltage-among", columns=tuple(heading.text for heading in self.headings))
            raise LogRefusedError(wrong, code="no-voltage", line=self.table.header_line or self.table.first_line)
        return self._column(place, self.answers.voltage_unit)

    def _current(self, roles: dict[Role, list[int]], voltage: Column) -> Column | None:
        places = [place for place in roles.get("current", []) if place != voltage.place]
        place = self._one(places, "current")
        return None if place is None else self._column(place, self.answers.current_unit)

    def _unswapped(
        self, voltage: Column, current: Column, roles: Mapping[Role, Sequence[int]]
    ) -> tuple[Column, Column]:
        """Voltage and current under each other's names are told by what they can be, and asked about."""
        volts, amps = self._finite(voltage.place), self._finite(current.place)
        if not volts.size or not amps.size:
            return voltage, current
        impossible = not self._may_be_voltage(voltage.place) and not 5 < float(np.median(volts)) <= _PACK_MOST_V
        standing = float(np.ptp(volts)) < 0.02 * float(np.median(np.abs(volts)) or 1) and _gliding(amps) > _gliding(
            volts
        )
        negative = bool(np.any(volts < -0.05))
        if self._may_be_voltage(current.place) and (
            impossible or negative or (standing and self._falls_like_a_cell(amps))
        ):
            self.remarks.append(
                Remark(
                    "swapped-columns",
                    said(
                        "log-swapped-columns",
                        as_voltage=self._name(voltage.place),
                        as_current=self._name(current.place),
                    ),
                    self.table.header_line or self.table.first_line,
                    self._name(voltage.place),
                    asks="columns",
                    choices=self._places({**roles, "voltage": [current.place], "current": [voltage.place]}),
                )
            )
            return replace(current, unit=None), replace(voltage, unit=None)
        return voltage, current

    @staticmethod
    def _falls_like_a_cell(values: Floats) -> bool:
        scale = 1000.0 if float(np.median(values)) > 100 else 1.0
        return bool(2.6 * scale < float(np.max(values)) < 4.6 * scale and float(np.ptp(values)) > 0.1 * scale)

    def _with_voltage_unit(self, column: Column) -> Column:
        values = self._finite(column.place)
        middle = float(np.median(np.abs(values))) if values.size else 0.0
        top = float(np.quantile(np.abs(values), 0.98)) if values.size else 0.0
        by_size = "V" if top <= _CELL_MOST_V else "mV" if 800 <= top <= 6500 else "V" if top <= _PACK_MOST_V else None
        if column.unit is None:
            if by_size is None:
                raise LogRefusedError(
                    said("log-runs-around", column=self._name(column.place), value=plain(middle)),
                    code="unit-unknown",
                    line=self.table.first_line,
                    column=self._name(column.place),
                )
            if by_size == "mV" or top > _CELL_MOST_V:
                self._guess("voltage_unit", by_size, ("V", "mV"), column, said("values-around", value=plain(middle)))
            return replace(column, unit=by_size)
        stated_v = top * FACTOR[column.unit]
        if self.answers.voltage_unit is None and by_size and not 0.3 <= stated_v <= _PACK_MOST_V:
            self._contradicts(column, by_size, said("values-around", value=plain(middle)))
            return replace(column, unit=by_size)
        if stated_v > _CELL_MOST_V:
            if stated_v > _PACK_MOST_V:
                raise LogRefusedError(
                    said("log-reaches", column=self._name(column.place), value=plain(stated_v, "V")),
                    code="not-a-cell", line=self.table.first_line, column=self._name(column.place),
                )  # fmt: skip
            self.remarks.append(
                Remark(
                    "more-than-a-cell",
                    said("log-more-than-a-cell", stated=Amount(stated_v, "", 1)),
                    self.table.first_line,
                )
            )
        return column

    def _guess(self, key: str, unit: str, choices: tuple[str, ...], column: Column, why: Said) -> None:
        self.remarks.append(
            Remark(
                "guessed-unit",
                said("log-guessed-unit", column=self._name(column.place), why=why, unit=unit),
                self.table.header_line or self.table.first_line,
                column.header,
                asks=key,
                choices=(unit, *(c for c in choices if c != unit)),
            )
        )

    def _contradicts(self, column: Column, unit: str, why: Said) -> None:
        self.remarks.append(
            Remark(
                "unit-contradicts",
                said(
                    "log-unit-contradicts",
                    column=self._name(column.place),
                    own=column.unit or "",
                    why=why,
                    unit=unit,
                ),
                self.table.header_line or self.table.first_line,
                column.header,
            )
        )

    # --- time ----------------------------------------------------------------------------------------------------------

    def _time(self, roles: dict[Role, list[int]]) -> tuple[Column | None, Column | None]:
        places = roles.get("time", [])
        if not places and roles.get("index") and self.answers.every_s is None:
            places = []
        if not places:
            return None, None
        if self.answers.columns is None and not self.headings:
            places = places[:2] if self.table.kinds[places[0]] == "date" else places[:1]
        # A column that only stands still says nothing, e.g. an empty total time.
        moving = [
            p
            for p in places
            if self.table.kinds[p] != "number" or float(np.ptp(self._finite(p)) if self._finite(p).size else 0) > 0
        ]
        place = (moving or places)[0]
        kind = self.table.kinds[place]
        column = self._column(place, self.answers.time_unit)
        fields = [row[place] for row in self.rows]
        if kind == "date":
            column = replace(column, date_order=date_order(fields), unit=None)
            clock = next((self._column(p) for p in places if self.table.kinds[p] == "clock"), None)
            return column, clock if clock and not any(":" in field for field in fields) else None
        if kind == "clock":
            return self._clock_parts(replace(column, unit=None), fields), None
        if kind == "text":
            raise LogRefusedError(
                said("log-no-time", column=self._name(place), example=fields[0][:30]),
                code="bad-time", line=self.table.first_line, column=self._name(place),
            )  # fmt: skip
        return column, None

    def _clock_parts(self, column: Column, fields: list[str]) -> Column:
        if any(field.count(":") > 1 for field in fields):
            return column
        named = (column.header or "").lower()
        minutes_first = "mm:ss" in named or (
            "hh:mm" not in named and max((int(f.split(":")[0]) for f in fields if ":" in f), default=0) > 23
        )
        return replace(column, minutes_first=minutes_first or "hh:mm" not in named)

    def sample_times_s(self, time: Column | None, clock: Column | None) -> Floats:
        if time is None:
            return np.arange(len(self.rows), dtype=float)
        if time.kind == "date":
            days = [date_s(row[time.place], time.date_order) for row in self.rows]
            clocks = [clock_s(row[clock.place], minutes_first=False) if clock else 0.0 for row in self.rows]
            return np.asarray(np.add(days, clocks), dtype=float)
        if time.kind == "clock":
            return np.array(
                [clock_s(row[time.place], minutes_first=time.minutes_first) for row in self.rows], dtype=float
            )
        return np.asarray(self.values[time.place] * FACTOR.get(time.unit or "s", 1.0), dtype=float)

    def _with_units(
        self, time: Column | None, clock: Column | None, current: Column | None, counter: Column | None
    ) -> tuple[Column | None, Column | None]:
        """Units that the header leaves open: those under which the charge of the run is one of a cell."""
        if time is not None and time.kind == "number" and time.unit is None:
            time = replace(time, unit=_epoch_unit(self._finite(time.place)))
        open_time = time is not None and time.kind == "number" and time.unit is None
        open_current = current is not None and current.unit is None
        time_units = _TIME_UNITS if open_time else (time.unit if time and time.kind == "number" else "s",)
        current_units = ("A", "mA") if open_current else (current.unit if current else "A",)
        scores: list[tuple[float, str, str]] = []
        for time_unit in time_units:
            for current_unit in current_units:
                scores.append(
                    (
                        self._plausible(time, clock, current, counter, time_unit, current_unit),
                        str(time_unit),
                        str(current_unit),
                    )
                )
        scores.sort(key=lambda score: -score[0])
        best, second = scores[0], scores[1] if len(scores) > 1 else (-9.0, "", "")
        if (open_time or open_current) and best[0] - second[0] < 0.5:
            raise self._undecided(time if open_time else None, current if open_current else None)
        if open_time and time is not None:
            time = replace(time, unit=best[1])
            if best[1] != "s":
                self._guess(
                    "time_unit",
                    best[1],
                    _TIME_UNITS,
                    time,
                    said("values-in-steps", value=plain(_usual_step(self._finite(time.place)))),
                )
        if open_current and current is not None:
            current = replace(current, unit=best[2])
            top = (
                float(np.quantile(np.abs(self._finite(current.place)), 0.95))
                if self._finite(current.place).size
                else 0.0
            )
            self._guess("current_unit", best[2], ("A", "mA"), current, said("values-up-to", value=plain(top)))
        if current is not None and not open_current and self.answers.current_unit is None and current.unit:
            current = self._mended_current(time, clock, current, counter)
        return time, current

    def _plausible(
        self,
        time: Column | None,
        clock: Column | None,
        current: Column | None,
        counter: Column | None,
        time_unit: str | None,
        current_unit: str | None,
    ) -> float:
        """How well units fit a cell's log: its current, its pace and the charge it moved; the counter beats all."""
        seconds = self.sample_times_s(replace(time, unit=time_unit) if time and time.kind == "number" else time, clock)
        seconds = seconds[np.isfinite(seconds)]
        if seconds.size < 2:
            return 0.0
        span_s, step_s = float(np.max(seconds) - np.min(seconds)), _usual_step(seconds)
        score = 1.0 if 0.02 <= step_s <= 120 else 0.0
        score += 0.6 if time_unit == "s" else 0.0
        score += 1.0 if 60 <= span_s <= 30 * 86400 else 0.0
        if current is None:
            return score
        amps = np.abs(self._finite(current.place)) * FACTOR[current_unit or "A"]
        if not amps.size:
            return score
        top_a = float(np.quantile(amps, 0.95))
        score += 2.0 if 0.02 <= top_a <= 12 else -2.0 if top_a > _MOST_A else 0.0
        run_mah = float(np.mean(amps)) * span_s / 3.6
        score += 2.0 if _LEAST_RUN_MAH <= run_mah <= _MOST_RUN_MAH else 0.0
        if counter is not None and counter.unit:
            counted = float(np.ptp(self._finite(counter.place))) * FACTOR[counter.unit]
            if counted > 0 and run_mah > 0:
                score += 4.0 if 1 / 3 < run_mah / counted < 3 else 0.0
        return score

    def _mended_current(
        self, time: Column | None, clock: Column | None, current: Column, counter: Column | None
    ) -> Column:
        """A header's unit under which no cell could have been meant, while the other one fits well."""
        values = np.abs(self._finite(current.place))
        top = float(np.quantile(values, 0.95)) if values.size else 0.0
        other = {"A": "mA", "mA": "A"}.get(current.unit or "")
        time_unit = time.unit if time else None
        if (
            other
            and top > 0
            and (top * FACTOR[current.unit or "A"] > _MOST_A or top * FACTOR[current.unit or "A"] < 0.004)
        ):
            gain = self._plausible(time, clock, current, counter, time_unit, other) - self._plausible(
                time, clock, current, counter, time_unit, current.unit
            )
            if gain >= 2:
                self._contradicts(current, other, said("values-up-to", value=plain(top)))
                return replace(current, unit=other)
        return current

    def _undecided(self, time: Column | None, current: Column | None) -> LogRefusedError:
        column = current or time
        assert column is not None
        return LogRefusedError(
            said("log-no-unit-of-current" if current else "log-no-unit-of-time", column=self._name(column.place)),
            code="unit-unknown",
            line=self.table.header_line or self.table.first_line,
            column=self._name(column.place),
        )

    # --- the rest ------------------------------------------------------------------------------------------------------

    def _counter(self, roles: dict[Role, list[int]]) -> Column | None:
        places = roles.get("capacity", [])
        discharge = [p for p in places if p < len(self.headings) and "dis" in self.headings[p].text.lower()]
        place = next(iter(discharge or places), None)
        return None if place is None or self.table.kinds[place] != "number" else self._column(place)

    def _state(self, roles: dict[Role, list[int]]) -> Column | None:
        place = next((p for p in roles.get("state", []) if self.table.kinds[p] == "text"), None)
        return None if place is None else self._column(place)

    def _resistor(self, roles: dict[Role, list[int]]) -> float:
        if self.answers.resistor_ohm:
            return self.answers.resistor_ohm
        for place in roles.get("resistor", []):
            values = self._finite(place)
            heading: Heading | None = self.headings[place] if place < len(self.headings) else None
            if values.size and float(np.ptp(values)) <= 1e-9 and values[0] > 0 and heading and heading.weight > 2:
                ohm = float(values[0]) * FACTOR.get(heading.unit or "Ohm", 1.0)
                self.remarks.append(
                    Remark(
                        "resistor-column",
                        said("log-resistor-column", ohm=plain(ohm)),
                        self.table.first_line,
                    )
                )
                return ohm
        ohm_said = _resistor_in(self.table.preamble)
        if ohm_said:
            self.remarks.append(
                Remark(
                    "resistor-named",
                    said("log-resistor-named", ohm_said=plain(ohm_said)),
                    1,
                )
            )
            return ohm_said
        raise LogRefusedError(
            said("there-is-no-column-of-currents"),
            code="no-current",
            line=self.table.header_line or self.table.first_line,
        )


def _gliding(values: Floats) -> float:
    """How much a column moves in small steps that go on: high for a voltage under load, 0 for what stands still."""
    if values.size < 3 or float(np.ptp(values)) == 0:
        return 0.0
    steps = np.diff(values)
    return (
        float(np.abs(np.sum(steps)) / np.max(np.abs(steps) + 1e-12))
        * float(np.ptp(values))
        / max(float(np.median(np.abs(values))), 1e-9)
    )


def _usual_step(values: Floats) -> float:
    steps = np.diff(values)
    steps = steps[steps > 0]
    return float(np.median(steps)) if steps.size else math.nan


def _epoch_unit(values: Floats) -> Literal["s", "ms", "us", "d"] | None:
    """The unit of a time that counts from a year long ago; None of any other."""
    if not values.size:
        return None
    middle = float(np.median(values))
    if 1e9 < middle < 4e9:
        return "s"
    if 1e12 < middle < 4e12:
        return "ms"
    if 1e15 < middle < 4e15:
        return "us"
    return "d" if 30000 < middle < 70000 and _usual_step(values) < 0.25 else None


def _resistor_in(preamble: str) -> float | None:
    found = re.search(
        r"(?:load|resist\w*|last|widerstand|r)\s*[:=]?\s*(\d+(?:[.,]\d+)?)\s*(m?)\s*(?:ohm|Ω|\u2126)",
        preamble,
        re.IGNORECASE,
    )
    if not found:
        return None
    return float(found[1].replace(",", ".")) * (1e-3 if found[2] else 1.0)
