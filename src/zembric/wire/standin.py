"""The simulated tester: eight channels with the core's cell model in each, speaking the lines that real instruments speak.

    python -m zembric.wire.standin --port 5025 --speed 60

It listens on loopback only. Its own watchdog ends all current when no line came for so long as it was set to, by the wall's clock.
Lines beginning with SIM stand for hands and bad luck: a cell put in or taken out, a contact that is lost, garbage on the line.
"""

from __future__ import annotations

import argparse
import asyncio
import contextlib
import time
from random import Random
from typing import TYPE_CHECKING, Any

from zembric.core.house.limits import Family
from zembric.core.identify.families import state_of_charge
from zembric.core.tester.simulated import CellInSlot, SimulatedSlot
from zembric.wire.mapping import CommandMap

if TYPE_CHECKING:
    from collections.abc import Callable

CHANNELS = 8
_ROWS_MOST = 3000
#: Rows are a second apart, and ten once nothing changes and the clock runs fast.
_ROW_S, _CALM_ROW_S, _CALM_AFTER_S = 1.0, 10.0, 40.0
_TICK_S = 0.02

#: How it is spoken to: the same kind of map as that of any instrument.
STANDIN_MAP = CommandMap(
    identify="*IDN?", begin=("*CLS",), watchdog=("SYST:WATC {seconds:.0f}",), watchdog_ask="SYST:WATC?",
    charge=("CHAN{channel}:CHAR {current_a:.4f},{limit_v:.3f},{end_a:.4f},{seconds:.1f}",),
    discharge=("CHAN{channel}:DISC {current_a:.4f},{limit_v:.3f},{end_a:.4f},{seconds:.1f}",), off=("CHAN{channel}:OFF",),
    measure="CHAN{channel}:MEAS?", gives=("time_s", "voltage_v", "current_a", "cell_degc"), rows="CHAN{channel}:ROWS? {since:.2f}",
    error_ask="SYST:ERR?", put_in="SIM:CHAN{channel}:CELL {number},{volts:.3f},{mah:.0f}",
)  # fmt: skip


class _Channel:
    def __init__(self, chance: Random) -> None:
        self.slot = SimulatedSlot(chance)
        self.rows: list[str] = []
        self._next_row_s = self._changed_s = 0.0

    def forget(self) -> None:
        """As after a power cut: its clock begins anew, and what it recorded is gone."""
        self.rows.clear()
        self.slot.time_s = 0.0
        self.changed()

    def changed(self) -> None:
        self._changed_s = self.slot.time_s
        self._next_row_s = self.slot.time_s

    def advance(self, seconds: float, *, fast: bool) -> None:
        slot, end_s = self.slot, self.slot.time_s + seconds
        while slot.time_s < end_s - 1e-9:
            was = slot.mode
            slot.advance(min(max(self._next_row_s - slot.time_s, 0.05), end_s - slot.time_s))
            if slot.mode != was:
                self.changed()
            if slot.time_s >= self._next_row_s - 1e-9:
                self.rows.append(self.row())
                del self.rows[:-_ROWS_MOST]
                calm = fast and slot.time_s - self._changed_s > _CALM_AFTER_S
                self._next_row_s = slot.time_s + (_CALM_ROW_S if calm else _ROW_S)

    def since(self, seconds: float) -> list[str]:
        """Rows after a time of its own clock; all of them where that lies ahead, as its clock began anew since."""
        if seconds > self.slot.time_s:
            return self.rows
        return [row for row in self.rows if float(row.partition(",")[0]) > seconds + 1e-6]

    def row(self) -> str:
        slot = self.slot
        degc = slot.cell.degc if slot.cell else slot.room_degc
        return f"{slot.time_s:.2f},{slot.shows_v:.4f},{slot.flows_a:.4f},{degc:.1f}"


class StandIn:
    """All channels behind one port. `speed`: how many seconds go by in one."""

    def __init__(self, speed: float, seed: int) -> None:
        self._chance = Random(seed)
        self.channels = [_Channel(Random(seed + at)) for at in range(CHANNELS)]
        self.speed, self.mood = speed, "well"
        self._watchdog_s, self._fed_at, self._ran_at = 0.0, time.monotonic(), time.monotonic()
        self._error = "0,no error"

    def run(self) -> None:
        """Lets the time go by that has gone by."""
        now = time.monotonic()
        if self._watchdog_s and now - self._fed_at > self._watchdog_s:
            self._all_off()
        seconds, self._ran_at = (now - self._ran_at) * self.speed, now
        for channel in self.channels:
            channel.advance(seconds, fast=self.speed > 10)

    def _all_off(self) -> None:
        for channel in self.channels:
            if channel.slot.mode != "off":
                channel.slot.order("off")
                channel.changed()

    def answer(self, line: str) -> str | None:
        """What one line is answered with; None: nothing."""
        self.run()
        is_sim = line.upper().startswith("SIM:")
        if not is_sim:
            self._fed_at = time.monotonic()
        head, _, rest = line.strip().partition(" ")
        head, parts = head.upper(), [part.strip() for part in rest.split(",")] if rest else []
        try:
            return (
                self._common(head, parts)
                if not head.removeprefix("SIM:").startswith("CHAN")
                else self._channel(head, parts)
            )
        except (ValueError, IndexError, KeyError):
            self._error = f"-100,not understood: {line[:40]}"
            return None

    def _common(self, head: str, parts: list[str]) -> str | None:
        answers: dict[str, Callable[[], str]] = {
            "*IDN?": lambda: f"Zembric,Simulated tester,{CHANNELS} channels,1", "SYST:ERR?": self._take_error,
            "SYST:WATC?": lambda: f"{self._watchdog_s:g}", "SYST:SPEED?": lambda: f"{self.speed:g}",
            "SIM:VIOL?": lambda: ";".join(f"{at + 1}:{c.slot.violations}" for at, c in enumerate(self.channels) if c.slot.violations) or "none",
        }  # fmt: skip
        if head in answers:
            return answers[head]()
        if head in ("*CLS", "*RST"):
            self._error = "0,no error"
            if head == "*RST":
                self._all_off()
        elif head == "SYST:WATC":
            self._watchdog_s = min(max(float(parts[0]), 1), 60)
        elif head == "SIM:MOOD":
            # well, silent, garbage, or cut: as after a power cut everything is off and forgotten.
            self.mood = parts[0]
            if self.mood == "cut":
                self._all_off()
                self._watchdog_s = 0.0
                for channel in self.channels:
                    channel.forget()
        elif head == "SIM:SPEED":
            self.speed = float(parts[0])
        else:
            raise ValueError(head)
        return None

    def _take_error(self) -> str:
        error, self._error = self._error, "0,no error"
        return error

    def _channel(self, head: str, parts: list[str]) -> str | None:
        name, _, verb = head.removeprefix("SIM:").partition(":")
        channel = self.channels[int(name.removeprefix("CHAN")) - 1]
        slot = channel.slot
        if verb == "MEAS?":
            return channel.row()
        if verb == "ROWS?":
            # What was asked for before has arrived: an answer that was lost is asked for once more.
            channel.rows = channel.since(float(parts[0]) if parts else -1.0)
            return ";".join(channel.rows) or channel.row()
        if verb in ("CHAR", "DISC"):
            current_a, limit_v, end_a, seconds = (float(part) for part in parts)
            if verb == "CHAR" and not self._watchdog_s:
                raise ValueError("no watchdog")
            slot.order("charge" if verb == "CHAR" else "discharge", current_a, limit_v, end_a, seconds)
        elif verb == "OFF":
            slot.order("off")
        elif verb == "CELL":
            slot.put_in(cell_of(parts[0], float(parts[1]), float(parts[2])))
        elif verb == "OUT":
            slot.take_out()
        elif verb == "FAULT":
            slot.fault = parts[0]  # type: ignore[assignment]
        else:
            raise ValueError(verb)
        channel.changed()
        return None


def cell_of(number: str, volts: float, mah: float) -> CellInSlot:
    """The cell with a number as it truly is: the same one whenever it is put in, near what is believed of it."""
    chance = Random(f"cell {number}")
    capacity_mah = mah * chance.uniform(0.72, 0.98)
    return CellInSlot(
        capacity_mah=capacity_mah, mohm=1e6 * chance.uniform(0.07, 0.13) / capacity_mah,
        state_of_charge=state_of_charge(Family.LAYERED_OXIDE, volts),
    )  # fmt: skip


async def serve(standin: StandIn, host: str, port: int) -> None:
    """Until it is cancelled."""

    async def talk(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        with contextlib.suppress(ConnectionError, asyncio.LimitOverrunError, ValueError):
            while line := await reader.readline():
                text = line.decode("ascii", "replace").strip()
                is_sim = text.upper().startswith("SIM:")
                if standin.mood in ("silent", "cut") and not is_sim:
                    continue
                answer = standin.answer(text)
                if answer is None:
                    continue
                if standin.mood == "garbage" and not is_sim:
                    writer.write(b"\xff\xfe%%#;;" + answer.encode()[::-1] + b"\n")
                else:
                    writer.write(answer.encode() + b"\n")
                await writer.drain()
        writer.close()

    server = await asyncio.start_server(talk, host, port)
    async with server:
        while True:
            await asyncio.sleep(_TICK_S)
            standin.run()


def main(arguments: list[str] | None = None) -> None:
    parser = argparse.ArgumentParser(description="A simulated tester with eight channels, on loopback.")
    parser.add_argument("--port", type=int, required=True)
    parser.add_argument("--speed", type=float, default=1.0)
    parser.add_argument("--seed", type=int, default=1)
    options: Any = parser.parse_args(arguments)
    with contextlib.suppress(KeyboardInterrupt, asyncio.CancelledError):
        asyncio.run(serve(StandIn(options.speed, options.seed), "127.0.0.1", options.port))


if __name__ == "__main__":
    main()
