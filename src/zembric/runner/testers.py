"""One instrument as the runner holds it: opened, asked, set, and given up for a while where it does not answer."""

from __future__ import annotations

import contextlib
import time
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.said import Span, said
from zembric.core.tester.run import Alarm, time_left
from zembric.operations.testers.running import RunTurn, TesterTurn, Turn
from zembric.runner.runs import Held, Instrument
from zembric.wire.links import Order, ScpiLink, SilentError, open_link
from zembric.wire.mapping import NonsenseError, read_map

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime
    from typing import Any

    from zembric.models import LineTry, Slot, SlotRun, WiredTester
    from zembric.wire.links import Link, Reading
    from zembric.wire.mapping import CommandMap

_NONSENSE_MOST = 3
#: Between two tries to open an instrument that does not answer: growing pauses [s].
_OPEN_AGAIN_S = (0.5, 1.0, 2.0, 5.0)
_MOST_ROWS = 5000


@dataclass(slots=True, eq=False)
class HeldTester:
    """An instrument with everything that runs on it. Used by one thread at a time."""

    tester_id: int
    version: int
    kind: str
    address: str
    mapping: CommandMap
    resistor_ohm: float | None
    link: Link | None = None
    runs: dict[int, Held] = field(default_factory=dict)
    state: str = "unknown"
    identity: str = ""
    has_watchdog: bool = False
    #: The machine's clock at the last good answer; the next try to open; how often it failed; answers in a row that were none.
    heard_s: float = 0.0
    open_from_s: float = 0.0
    failed: int = 0
    nonsense: int = 0
    #: Runs that are over here, until the database says so too.
    over: set[int] = field(default_factory=set)
    #: Of each channel the last row that was heard, by the instrument's clock [s].
    heard_until: dict[int, float] = field(default_factory=dict)
    #: Cells that a simulated tester was given, by slot.
    put_in: dict[int, str] = field(default_factory=dict)
    was_silent_s: float = 0.0
    #: The coolest of all its channels, taken for the room [°C]; None: it has no sensors.
    room_degc: float | None = None
    warmth: list[float] = field(default_factory=list)
    #: It was opened in this turn: what runs on it may have been left alone for a while.
    is_fresh: bool = False

    @staticmethod
    def of(tester: WiredTester) -> HeldTester:
        mapping = read_map(tester.mapping) if tester.link == "scpi" else read_map({"measure": "-"})
        return HeldTester(
            tester.id, tester.version, tester.link, tester.address, mapping, tester.resistor_ohm, state=tester.state,
            identity=tester.identity,
        )  # fmt: skip

    # --- One turn ----------------------------------------------------------------------------------------------------

    def turn(
        self,
        slots: Sequence[Slot],
        runs: Sequence[SlotRun],
        tries: Sequence[LineTry],
        now: datetime,
        *,
        may_charge: bool,
        on_hazards: frozenset[int] = frozenset(),
    ) -> Turn:
        """Asks every channel once, drives what runs, and gives what there is to keep."""
        turn, clock_s = Turn(), time.monotonic()
        before = (self.state, self.has_watchdog, self.identity)
        alarm: Alarm | None = None
        self._take_up(runs, clock_s)
        for held in self.runs.values():
            held.is_hazard = held.run_id in on_hazards
        try:
            if self._open(clock_s):
                self._try_lines(tries, turn)
                self.warmth.clear()
                for slot in slots:
                    self._turn_slot(slot, turn, now, clock_s, may_charge=may_charge)
                self.heard_s, self.nonsense, self.failed, self.was_silent_s = clock_s, 0, 0, 0.0
                self.state, self.is_fresh = "here", False
                self.room_degc = min(self.warmth, default=None)
            elif self.state != "nonsense":
                alarm = self._silent(clock_s, turn)
        except SilentError:
            self._give_up_link(clock_s)
            alarm = self._silent(clock_s, turn)
        except NonsenseError:
            self.nonsense += 1
            if self.nonsense >= _NONSENSE_MOST:
                self.state = "nonsense"
                alarm = Alarm("tester-talks-nonsense", said("alarm-tester-nonsense")) if self.runs else None
                self._give_up_link(clock_s)
        self._end_those_that_are_lost(clock_s, turn)
        if self.state == before[0]:
            # Said when it begins; whoever answered that is not told again and again.
            alarm = None
        if alarm is not None or (self.state, self.has_watchdog, self.identity) != before:
            trouble = {"silent": said("tester-is-silent"), "nonsense": said("tester-is-nonsense")}.get(self.state)
            turn.testers.append(
                TesterTurn(self.tester_id, self.state, self.identity, trouble, self.has_watchdog, alarm)  # type: ignore[arg-type]
            )
        return turn

    def stop_all(self) -> None:
        """Ends every current as well as the line allows; what cannot be reached ends by its own watchdog."""
        if self.link is None:
            return
        for held in self.runs.values():
            with contextlib.suppress(SilentError, NonsenseError):
                self.link.order(held.channel, Order("off"))
        self.close()

    def close(self) -> None:
        if self.link is not None:
            self.link.close()
            self.link = None

    # --- The instrument ----------------------------------------------------------------------------------------------

    def _open(self, clock_s: float) -> bool:
        if self.link is not None:
            return True
        if clock_s < self.open_from_s:
            return False
        link = open_link(self.kind, self.address, self.mapping, self.resistor_ohm)
        try:
            self.identity = link.identify() or self.identity
            watchdog_s = link.watchdog_s()
        except (SilentError, NonsenseError):
            link.close()
            raise
        self.has_watchdog = watchdog_s is not None and 0 < watchdog_s <= limits.WATCHDOG_S.value
        self.link, self.is_fresh = link, True
        return True

    def _silent(self, clock_s: float, turn: Turn) -> Alarm | None:
        self.was_silent_s = self.was_silent_s or clock_s
        if clock_s - max(self.was_silent_s, self.heard_s) < limits.WATCHDOG_S.value and self.state == "here":
            return None
        self.state = "silent"
        live = [held for held in self.runs.values() if held.state != "asked"]
        turn.runs += [
            RunTurn(
                held.run_id,
                "refused",
                end_said=said("alarm-tester-silent"),
                alarms=[Alarm("tester-silent", said("alarm-tester-silent"))],
            )
            for held in self.runs.values()
            if held.state == "asked" and clock_s - held.heard_s > limits.WATCHDOG_S.value
        ]
        return Alarm("tester-silent", said("alarm-tester-silent")) if live else None

    def _give_up_link(self, clock_s: float) -> None:
        self.close()
        self.open_from_s = clock_s + _OPEN_AGAIN_S[min(self.failed, len(_OPEN_AGAIN_S) - 1)]
        self.failed += 1

    def _try_lines(self, tries: Sequence[LineTry], turn: Turn) -> None:
        for tried in tries:
            if not isinstance(self.link, ScpiLink):
                turn.tries.append((tried.id, None, "lines"))
                continue
            try:
                answer = self.link.ask(tried.line) if "?" in tried.line else None
                if answer is None:
                    self.link.send(tried.line)
                turn.tries.append((tried.id, answer, None))
            except SilentError:
                turn.tries.append((tried.id, None, "silent"))
                raise
            except NonsenseError as error:
                turn.tries.append((tried.id, str(error), "nonsense"))

    # --- Runs --------------------------------------------------------------------------------------------------------

    def _take_up(self, runs: Sequence[SlotRun], clock_s: float) -> None:
        """Runs that are new, or that a runner before this one began; those that are over are let go."""
        live = {run.id for run in runs}
        for gone in self.runs.keys() - live:
            del self.runs[gone]
        self.over &= live
        for run in runs:
            if run.id in self.over:
                continue
            if run.id not in self.runs:
                self.runs[run.id] = Held.of(run, clock_s)
            self.runs[run.id].stop_asked = run.stop_asked_at is not None

    def _over(self, held: Held) -> None:
        self.runs.pop(held.run_id, None)
        self.over.add(held.run_id)

    def _turn_slot(self, slot: Slot, turn: Turn, now: datetime, clock_s: float, *, may_charge: bool) -> None:
        link, channel = self.link, slot.channel or 1
        assert link is not None
        held = next((held for held in self.runs.values() if held.channel == channel), None)
        if self.is_fresh and (held is None or held.state == "asked"):
            # What ended while nobody could tell it may flow still.
            link.order(channel, Order("off"))
        self._put_cell_in(slot, held)
        readings = link.read(channel, self._heard_until(channel, held))[-_MOST_ROWS:]
        if not readings:
            return
        if readings[-1].time_s is not None:
            self.heard_until[channel] = readings[-1].time_s
        if readings[-1].cell_degc is not None:
            self.warmth.append(readings[-1].cell_degc)
        if held is None:
            turn.live.append(_live(slot.id, readings[-1], None))
            return
        of_run = RunTurn(held.run_id, held.state)
        # Kept whatever happens to the line from here on: what was read is read.
        turn.runs.append(of_run)
        on = Instrument(link, self.has_watchdog, self.room_degc, self.is_fresh, self.kind == "lines")
        held.turn(on, readings, of_run, now, clock_s, may_charge=may_charge)
        if of_run.state not in ("asked", "running", "waits"):
            self._over(held)
        turn.live.append(_live(slot.id, readings[-1], held))

    def _heard_until(self, channel: int, held: Held | None) -> float:
        """The instrument's clock at the last row that is known: of a run taken up again that stands with the run."""
        if channel in self.heard_until:
            return self.heard_until[channel]
        if held is not None and held.began_s is not None and held.progress.last is not None:
            return held.began_s + held.progress.last.time_s
        return -1.0

    def _put_cell_in(self, slot: Slot, held: Held | None) -> None:
        """Only of a simulated tester: hands that put the cell of the slot in and take it out."""
        assert self.link is not None
        if not self.mapping.put_in or slot.channel is None:
            return
        number = slot.cell.number if slot.cell else ""
        if self.put_in.get(slot.id, "") == number:
            return
        if slot.cell is None:
            if isinstance(self.link, ScpiLink):
                self.link.send(f"SIM:CHAN{slot.channel}:OUT")
        elif held is not None and held.state == "asked":
            least, most = held.program.bounds.expected_v
            self.link.put_in(
                slot.channel,
                number,
                (max(least, held.program.bounds.never_charge_below_v) + most) / 2,
                held.program.bounds.believed_mah,
            )
        else:
            return
        self.put_in[slot.id] = number

    def _end_those_that_are_lost(self, clock_s: float, turn: Turn) -> None:
        """What was not heard of for minutes is over: its currents ended long ago."""
        most_s = limits.CONTACT_BACK_S.value
        for held in [*self.runs.values()]:
            if held.state != "asked" and clock_s - held.heard_s > most_s:
                words = said("run-broken-off", gone=Span(clock_s - held.heard_s))
                turn.runs.append(
                    RunTurn(
                        held.run_id, "stopped", held.progress, end_said=words, alarms=[Alarm("run-broken-off", words)]
                    )
                )
                self._over(held)


def _live(slot_id: int, reading: Reading, held: Held | None) -> dict[str, Any]:
    """What those who look are told of a slot: short names, as many watch and it is sent each second."""
    told: dict[str, Any] = {"s": slot_id, "v": round(reading.voltage_v, 3), "i": round(reading.current_a or 0.0, 3)}
    if reading.cell_degc is not None:
        told["c"] = round(reading.cell_degc, 1)
    if held is not None and held.progress.last is not None:
        left = time_left(held.program, held.progress)
        pace = held.pace
        told |= {
            "r": held.run_id, "t": round(held.progress.last.time_s), "g": held.progress.stage, "in": round(held.progress.in_mah, 1),
            "out": round(held.progress.out_mah, 1), "left": [round(left.least_s / pace), round(left.likely_s / pace), round(left.most_s / pace)],
        }  # fmt: skip
    return told
