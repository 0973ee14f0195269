"""Links to instruments: SCPI over TCP, USB or serial through PyVISA's own plain backend; lines of home-made loggers through pyserial."""

from __future__ import annotations

import contextlib
import re
from dataclasses import dataclass
from functools import cache
from typing import TYPE_CHECKING, Any, Protocol

import pyvisa
import serial
from pyvisa.constants import StatusCode

from zembric.wire.mapping import NonsenseError, filled, read_answer

if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence

    from pyvisa.resources import MessageBasedResource

    from zembric.wire.mapping import CommandMap

_OPEN_MS, _ANSWER_MS = 1500, 2000
_BAUD = 115_200
_MOST_ANSWER = 200_000


class SilentError(Exception):
    """It does not answer, or cannot be reached."""


@dataclass(frozen=True, slots=True)
class Reading:
    """What an instrument says of one channel. `time_s` by its own clock, None: it has none; current positive into the cell, None: not told."""

    voltage_v: float
    current_a: float | None
    time_s: float | None = None
    cell_degc: float | None = None


@dataclass(frozen=True, slots=True)
class Order:
    """What a channel is to do, with its limits in the instrument itself: currents as magnitudes [A], voltage [V], length [s]."""

    kind: str
    current_a: float = 0.0
    limit_v: float = 0.0
    end_a: float = 0.0
    seconds: float = 0.0


class Link(Protocol):
    """What the runner asks of any instrument; each may raise SilentError or NonsenseError."""

    def identify(self) -> str: ...
    def watchdog_s(self) -> float | None: ...
    def order(self, channel: int, order: Order) -> None: ...
    def read(self, channel: int, since_s: float) -> list[Reading]: ...
    def put_in(self, channel: int, number: str, volts: float, mah: float) -> None: ...
    def close(self) -> None: ...


@cache
def _manager() -> pyvisa.ResourceManager:
    return pyvisa.ResourceManager("@py")


class ScpiLink:
    """An instrument that answers lines. `heard` is told every line that was sent and what came back."""

    def __init__(
        self, address: str, mapping: CommandMap, heard: Callable[[str, str | None], None] | None = None
    ) -> None:
        self._map, self._heard = mapping, heard
        try:
            resource: Any = _manager().open_resource(address, open_timeout=_OPEN_MS)
            resource.timeout = _ANSWER_MS
            resource.read_termination = resource.write_termination = "\n"
            if resource.interface_type == pyvisa.constants.InterfaceType.asrl:
                resource.baud_rate = _BAUD
        except Exception as error:  # the backend lets errors of sockets, files and ports through as they are
            raise SilentError(str(error)[:200]) from error
        self._resource: MessageBasedResource = resource

    def send(self, line: str) -> None:
        self._talk(lambda: self._resource.write(line))
        if self._heard:
            self._heard(line, None)

    def ask(self, line: str) -> str:
        answer = str(self._talk(lambda: self._resource.query(line))).strip()
        if self._heard:
            self._heard(line, answer)
        if len(answer) > _MOST_ANSWER or not answer.isprintable():
            raise NonsenseError(answer[:80])
        return answer

    def _talk(self, say: Callable[[], object]) -> object:
        try:
            return say()
        except pyvisa.errors.VisaIOError as error:
            if error.error_code == StatusCode.error_timeout:
                # What comes late must not be taken for the next answer.
                self.close()
            raise SilentError(str(error)[:200]) from error
        except UnicodeDecodeError as error:
            raise NonsenseError(str(error)[:80]) from error
        except (OSError, ValueError, pyvisa.errors.InvalidSession) as error:
            raise SilentError(str(error)[:200]) from error

    def begin(self) -> None:
        for line in self._map.begin:
            self.send(line)

    def identify(self) -> str:
        return self.ask(self._map.identify)[:120] if self._map.identify else ""

    def watchdog_s(self) -> float | None:
        """Sets the instrument's watchdog, and what it says it is set to [s]; None: it has none."""
        if not self._map.watchdog or not self._map.watchdog_ask:
            return None
        for line in self._map.watchdog:
            self.send(filled(line, {"seconds": 10}))
        try:
            return float(self.ask(self._map.watchdog_ask))
        except ValueError:
            return None

    def order(self, channel: int, order: Order) -> None:
        lines: Sequence[str] = {"charge": self._map.charge, "discharge": self._map.discharge}.get(
            order.kind, self._map.off
        )
        values = {
            "channel": channel, "current_a": order.current_a, "limit_v": order.limit_v, "end_a": order.end_a, "seconds": order.seconds,
        }  # fmt: skip
        for line in lines:
            self.send(filled(line, values))
        if self._map.error_ask:
            answer = self.ask(self._map.error_ask)
            if not re.match(r"\+?0\b", answer):
                raise NonsenseError(answer[:80])

    def read(self, channel: int, since_s: float) -> list[Reading]:
        values: dict[str, float | int | str] = {"channel": channel, "since": since_s}
        if self._map.rows:
            answer = self.ask(filled(self._map.rows, values))
            return [_reading(read_answer(self._map, row)) for row in answer.split(";") if row.strip()]
        return [_reading(read_answer(self._map, self.ask(filled(self._map.measure, values))))]

    def put_in(self, channel: int, number: str, volts: float, mah: float) -> None:
        if self._map.put_in:
            self.send(filled(self._map.put_in, {"channel": channel, "number": number, "volts": volts, "mah": mah}))

    def close(self) -> None:
        with contextlib.suppress(Exception):  # it may be gone already, which is what is wanted
            self._resource.close()


def _reading(found: Mapping[str, float]) -> Reading:
    return Reading(found["voltage_v"], found.get("current_a"), found.get("time_s"), found.get("cell_degc"))


class LineLink:
    """A home-made logger that prints lines by itself: volts, or volts and amperes; through a resistor the current follows from volts.

    It orders nothing: whoever plugs the load is the one who switches. Addresses are pyserial's: a port, or `socket://host:port`.
    """

    def __init__(self, address: str, resistor_ohm: float | None) -> None:
        self._resistor_ohm, self._rest = resistor_ohm, b""
        try:
            self._port = serial.serial_for_url(address, baudrate=_BAUD, timeout=0)
        except (serial.SerialException, ValueError, OSError) as error:
            raise SilentError(str(error)[:200]) from error

    def identify(self) -> str:
        return ""

    def watchdog_s(self) -> float | None:
        return None

    def order(self, channel: int, order: Order) -> None:
        """Nothing to set."""

    def put_in(self, channel: int, number: str, volts: float, mah: float) -> None:
        """Nobody puts anything in but hands."""

    def read(self, channel: int, since_s: float) -> list[Reading]:  # noqa: ARG002  # a logger has one channel and no clock
        try:
            self._rest += self._port.read(65536)
        except (serial.SerialException, OSError) as error:
            raise SilentError(str(error)[:200]) from error
        *lines, self._rest = self._rest.split(b"\n")
        self._rest = self._rest[-4096:]
        return [self._line(line) for line in lines if line.strip()]

    def _line(self, line: bytes) -> Reading:
        try:
            numbers = [
                float(part)
                for part in re.split(r"[;\t ]+|,(?!\d)|(?<=\d),(?=\s)", line.decode("ascii").strip())
                if part
            ]
        except ValueError:
            try:
                numbers = [float(part) for part in line.decode("ascii").strip().split(",")]
            except ValueError:
                raise NonsenseError(repr(line[:60])) from None
        if len(numbers) == 1 and self._resistor_ohm:
            return Reading(numbers[0], -numbers[0] / self._resistor_ohm)
        if len(numbers) >= 2:
            return Reading(numbers[0], numbers[1])
        raise NonsenseError(repr(line[:60]))

    def close(self) -> None:
        self._port.close()


def open_link(kind: str, address: str, mapping: CommandMap, resistor_ohm: float | None) -> Link:
    """Opens an instrument and sends what it begins with.

    Raises:
        SilentError: nobody answers there.
    """
    if kind == "lines":
        return LineLink(address, resistor_ohm)
    link = ScpiLink(address, mapping)
    link.begin()
    return link
