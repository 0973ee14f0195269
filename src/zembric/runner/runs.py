"""One run as the runner drives it: begun after a look at the voltage, driven by the core, taken up again after a gap."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from typing import TYPE_CHECKING, Literal

from zembric.core.house import limits
from zembric.core.said import Amount, Span, said
from zembric.core.tester.programs import from_json
from zembric.core.tester.run import (
    Alarm,
    Progress,
    Sample,
    begin,
    current_of,
    go_on,
    look_at_first,
    progress_from_json,
    wait_for_order,
)
from zembric.wire.links import Order

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from zembric.core.tester.programs import Program
    from zembric.models import SlotRun
    from zembric.operations.testers.running import RunTurn
    from zembric.wire.links import Link, Reading

#: Rows of an instrument that records by itself are no further apart [s].
_NOTHING_MISSED_S = 12.0
_Ordered = Literal["go", "off"] | None


@dataclass(frozen=True, slots=True)
class Instrument:
    """What a run has to know of the instrument it runs on in this turn."""

    link: Link
    #: Its currents end by themselves where nobody speaks to it.
    has_watchdog: bool
    #: The coolest of all its channels, taken for the room [°C]; None: it has no sensors.
    room_degc: float | None
    #: It was opened in this turn: what runs on it may have been left alone for a while.
    is_fresh: bool
    #: It only prints what it sees: nobody but hands can end what flows there.
    only_tells: bool


@dataclass(slots=True)
class Held:
    """A run as the runner drives it. What is kept in the database is what it was after the last turn that was committed."""

    run_id: int
    cell_number: str
    program: Program
    progress: Progress
    #: The instrument's clock, else the machine's, at which the run began [s]; None: it has not.
    began_s: float | None
    state: str
    channel: int
    stop_asked: bool = False
    #: Somebody found its cell to be a hazard.
    is_hazard: bool = False
    #: Seconds of its own clock in one of ours: 1 but for a simulated one.
    pace: float = 1.0
    #: Our clock and its own at the last turn.
    clock: tuple[float, float] | None = None
    #: When it was heard of last, by the machine's clock [s].
    heard_s: float = 0.0

    @staticmethod
    def of(run: SlotRun, clock_s: float) -> Held:
        progress = progress_from_json(run.progress) if run.progress else Progress()
        return Held(
            run.id, run.cell.number, from_json(run.plan), progress, run.began_clock_s, run.state, run.slot.channel or 1,
            heard_s=clock_s,
        )  # fmt: skip

    def turn(
        self,
        on: Instrument,
        readings: Sequence[Reading],
        of_run: RunTurn,
        now: datetime,
        clock_s: float,
        *,
        may_charge: bool,
    ) -> None:
        """Begins or drives it by what was read since the last turn, oldest first, and writes into `of_run` what there is to keep."""
        if self.state == "asked":
            self._begin(on, readings[-1], of_run, now, clock_s)
        else:
            self._drive(on, readings, of_run, clock_s, may_charge=may_charge)
        if (self.stop_asked or self.is_hazard) and of_run.state in ("running", "waits"):
            on.link.order(self.channel, Order("off"))
            of_run.state, of_run.end_said = "stopped", said("run-stopped-by-hand")
            if self.is_hazard:
                words = said("alarm-hazard-in-slot", cell=self.cell_number)
                of_run.end_said = words
                of_run.alarms.append(Alarm("take-it-off", words))
        if of_run.state in ("asked", "running", "waits"):
            self.state = of_run.state
        self._keep_pace(readings[-1].time_s, clock_s)
        self.heard_s = clock_s

    def _keep_pace(self, own_s: float | None, clock_s: float) -> None:
        if own_s is not None and self.clock is not None and clock_s > self.clock[0] + 0.05:
            self.pace = max((own_s - self.clock[1]) / (clock_s - self.clock[0]), 1.0)
        self.clock = (clock_s, own_s) if own_s is not None else None

    def _begin(self, on: Instrument, reading: Reading, of_run: RunTurn, now: datetime, clock_s: float) -> None:
        """Nothing flows yet: does what lies in the slot read as its cell should?"""
        charges = any(stage.kind == "charge" for stage in self.program.stages)
        sample = Sample(0.0, reading.voltage_v, 0.0, reading.cell_degc)
        alarm = look_at_first(self.program, sample, on.room_degc)
        if alarm is None and charges and not on.has_watchdog:
            alarm = Alarm("no-watchdog", said("alarm-no-watchdog"))
        if alarm is not None:
            of_run.state, of_run.alarms, of_run.end_said = "refused", [alarm], alarm.said
            return
        self.began_s = reading.time_s if reading.time_s is not None else clock_s
        self.progress = begin(sample)
        self._set(on.link, reading.voltage_v)
        of_run.state, of_run.began_at, of_run.began_clock_s = "running", now, self.began_s
        of_run.progress = self.progress
        of_run.rows.append((sample, 0))
        of_run.due_at = now + timedelta(seconds=sum(stage.planned_s for stage in self.program.stages))

    def _drive(
        self, on: Instrument, readings: Sequence[Reading], of_run: RunTurn, clock_s: float, *, may_charge: bool
    ) -> None:
        assert self.began_s is not None
        if (taken_up := self._taken_up_again(on, readings, of_run, clock_s)) is None:
            return
        readings, ordered = taken_up
        begins = False
        for reading in readings:
            time_s = (reading.time_s if reading.time_s is not None else clock_s) - self.began_s
            last = self.progress.last
            if last is not None and time_s <= last.time_s:
                continue
            sample = Sample(time_s, reading.voltage_v, reading.current_a or 0.0, reading.cell_degc)
            of_run.rows.append((sample, self.progress.stage))
            if ordered is None:
                verdict = go_on(self.program, self.progress, sample, on.room_degc)
                ordered, begins = verdict.order, verdict.progress.stage != self.progress.stage
            else:
                verdict = wait_for_order(self.program, self.progress, sample, on.room_degc, begins=begins)
            self.progress = of_run.progress = verdict.progress
            # Said before the line is needed; but it is over only once its current is off.
            if verdict.alarm is not None:
                of_run.alarms.append(verdict.alarm)
            if verdict.order == "off":
                on.link.order(self.channel, Order("off"))
            if verdict.is_over:
                of_run.state = "stopped" if verdict.alarm else "ended"
                of_run.end_said = verdict.alarm.said if verdict.alarm else None
                if on.only_tells:
                    of_run.alarms.append(Alarm("take-it-off", said("alarm-take-it-off", cell=self.cell_number)))
                break
        of_run.progress = self.progress
        if of_run.state not in ("running", "waits"):
            return
        of_run.state = "waits" if self.progress.lost_since_s is not None else "running"
        stage = self.program.stages[self.progress.stage]
        if stage.kind == "charge" and not may_charge:
            on.link.order(self.channel, Order("off"))
            words = said("alarm-nobody-here", minutes=Amount(limits.SOMEBODY_HERE_MIN.value, "min"))
            of_run.state, of_run.end_said = "stopped", words
            of_run.alarms.append(Alarm("nobody-here", words))
        elif ordered == "go" and self.progress.lost_since_s is None:
            self._set(on.link, readings[-1].voltage_v)

    def _taken_up_again(
        self, on: Instrument, readings: Sequence[Reading], of_run: RunTurn, clock_s: float
    ) -> tuple[Sequence[Reading], _Ordered] | None:
        """After a runner or a line was gone: what it goes on with, "go" where it is set anew after that. None: it is over.

        Within the watchdog's time nothing was interrupted. Later its currents have ended: a charge or a rest goes on, a discharge
        that was interrupted measures nothing any more, and ends as the part that was recorded.
        """
        assert self.began_s is not None
        if not on.is_fresh or self.progress.lost_since_s is not None:
            return readings, None
        last, latest = self.progress.last, readings[-1]
        stage = self.program.stages[min(self.progress.stage, len(self.program.stages) - 1)]
        clock = latest.time_s if latest.time_s is not None else clock_s
        if last is not None and readings[0].time_s is not None:
            missed_s = readings[0].time_s - self.began_s - last.time_s
            if 0 <= missed_s <= _NOTHING_MISSED_S:
                # It recorded all the while: what it did meanwhile is in its rows. A charge that ended with its watchdog goes on.
                return readings, "go" if stage.kind == "charge" and not _flows(readings) else None
        gone_s = clock - self.began_s - (last.time_s if last else 0.0)
        forgot = gone_s < -1.0
        jumped = last is not None and abs(latest.voltage_v - last.voltage_v) > 0.6
        if forgot or jumped or (stage.kind == "discharge" and not stage.is_pulse and not _flows(readings)):
            words = said("run-forgotten") if forgot else said("run-broken-off", gone=Span(max(gone_s, 0.0)))
            on.link.order(self.channel, Order("off"))
            of_run.state, of_run.end_said = "stopped", words
            of_run.alarms.append(Alarm("run-broken-off", words))
            of_run.progress = self.progress
            return None
        if stage.kind == "discharge" and _flows(readings):
            return readings, None
        return readings[-1:], "go"

    def _set(self, link: Link, voltage_v: float) -> None:
        """Sets the stage that is due, with all its limits in the instrument as well."""
        stage = self.program.stages[self.progress.stage]
        if stage.kind == "rest":
            link.order(self.channel, Order("off"))
            return
        last_s = self.progress.last.time_s if self.progress.last else 0.0
        took_s = last_s - self.progress.stage_began_s - self.progress.lost_s
        link.order(
            self.channel,
            Order(
                stage.kind, current_of(stage, voltage_v), stage.limit_v, stage.end_a, max(stage.most_s - took_s, 1.0)
            ),
        )


def _flows(readings: Sequence[Reading]) -> bool:
    return bool(readings) and abs(readings[-1].current_a or 0.0) > 0.005
