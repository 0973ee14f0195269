"""What the parts of the log reader hand to one another."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
import numpy.typing as npt

from zembric.core.errors import BadInputError
from zembric.core.said import Said

Floats = npt.NDArray[np.float64]
Lines = npt.NDArray[np.int64]
Bools = npt.NDArray[np.bool_]

StepKind = Literal["charge", "discharge", "rest"]


class LogRefusedError(BadInputError):
    """A log that cannot be read for certain; says where, and what would help. Nothing was kept of it."""

    def __init__(self, text: Said | str, *, code: str, line: int | None = None, column: str | None = None) -> None:
        super().__init__(text, code=code, field="file")
        self.line = line
        self.column = column


@dataclass(frozen=True, slots=True)
class Remark:
    """Something that a person should know about how a log was read. `line` counts from 1 in the file as it is."""

    code: str
    said: Said
    line: int | None = None
    column: str | None = None
    #: A guess that a person can confirm or change: the key of the answer and the values it may have.
    asks: str | None = None
    choices: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Answers:
    """What a person (or what is remembered of a tester) says about a log; None: let the log tell."""

    #: Role of each column by its place: time, voltage, current, capacity, energy, other.
    columns: tuple[str, ...] | None = None
    time_unit: str | None = None
    voltage_unit: str | None = None
    current_unit: str | None = None
    discharge: Literal["negative", "positive"] | None = None
    #: Of a log without current: what the cell was loaded with, leads and shunt included [Ohm].
    resistor_ohm: float | None = None
    #: Of a log without time: seconds from row to row.
    every_s: float | None = None


def some(values: Floats, most: int = 50_000) -> Floats:
    """Evenly chosen values of a long array, enough for its median and quantiles."""
    return values[:: max(1, values.size // most)]


def largest(values: Floats) -> float:
    """The largest distance from zero, without an array of distances beside the values."""
    return max(float(np.max(values)), -float(np.min(values)))


@dataclass(frozen=True, slots=True)
class Trace:
    """One test: rows in order of time. Discharge current is negative.

    All arrays have shape (n,), n >= 2; time does not fall. Counters are as the tester wrote them [mAh], NaN where
    it wrote none; None: the log has no such column.
    """

    time_s: Floats
    voltage_v: Floats
    current_a: Floats
    line: Lines
    counter_mah: Floats | None = None


@dataclass(frozen=True, slots=True)
class Step:
    """A stretch of one kind. `first` and `last` are its rows, both included; charge and energy are positive."""

    kind: StepKind
    first: int
    last: int
    duration_s: float
    capacity_mah: float
    energy_mwh: float
    start_voltage_v: float
    end_voltage_v: float
    mean_voltage_v: float
    mean_current_ma: float
    #: A charge that ended full, a discharge that ended at a cut-off; a rest is always complete.
    complete: bool
    #: Half width that the sampling leaves open [mAh].
    allowance_mah: float
    #: Row from which the voltage was held constant; None: never.
    constant_voltage_from: int | None = None
    cut_off_v: float | None = None
    is_pulse: bool = False


@dataclass(frozen=True, slots=True)
class Edge:
    """A step of current and the resistance it shows: delta V over delta I after `over_s`."""

    mohm: float
    over_s: float
    delta_v: float
    delta_i_a: float
    before: int  # row
    after: int  # row
