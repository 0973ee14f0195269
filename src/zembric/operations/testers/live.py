"""How the table stands right now: every slot with its cell, its run and what is left of it, and the curve of a run."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import func, select, text

from zembric.core.tester.programs import from_json
from zembric.core.tester.run import TimeLeft, progress_from_json, time_left
from zembric.models import LIVE_STATES, Slot, SlotRun
from zembric.operations.testers.slots import all_slots

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

    from zembric.core.tester.programs import Program
    from zembric.core.tester.run import Progress

#: Of so many past runs it is learnt how long they take here, and from how many on that is believed.
_LEARNT_FROM, _LEAST_RUNS = 40, 4
_FAST = 2.0


@dataclass(frozen=True, slots=True)
class SlotNow:
    """A slot as it stands on the table. `run`: the one that goes on, or the last of the cell that lies in it."""

    slot: Slot
    run: SlotRun | None
    program: Program | None
    progress: Progress | None
    left: TimeLeft | None


@dataclass(frozen=True, slots=True)
class HouseTimes:
    """What runs of this house took against their plans, and how far they lie apart; of how many."""

    factor: float
    band: float
    runs: int


def slots_now(session: Session) -> tuple[SlotNow, ...]:
    """All slots, in one query for their runs."""
    slots = all_slots(session)
    times = house_times(session)
    ids = [slot.id for slot in slots if slot.cell_id is not None]
    last = (
        select(func.max(SlotRun.id)).join(Slot)
        .where(SlotRun.slot_id.in_(ids), SlotRun.cell_id == Slot.cell_id, SlotRun.asked_at >= Slot.cell_since)
        .group_by(SlotRun.slot_id)
    )  # fmt: skip
    runs = {run.slot_id: run for run in session.scalars(select(SlotRun).where(SlotRun.id.in_(last)))}
    return tuple(_now(slot, runs.get(slot.id), times) for slot in slots)


def _now(slot: Slot, run: SlotRun | None, times: HouseTimes) -> SlotNow:
    if run is None:
        return SlotNow(slot, None, None, None, None)
    program = from_json(run.plan)
    progress = progress_from_json(run.progress) if run.progress else None
    is_live = run.state in LIVE_STATES and progress is not None
    left = None
    if is_live and progress is not None and progress.last is not None and run.began_at and run.beat_at:
        left = time_left(program, progress, times.factor, times.band)
        # Its own clock may be a simulated one that runs faster than ours.
        pace = max(progress.last.time_s / max((run.beat_at - run.began_at).total_seconds(), 1.0), 1.0)
        left = TimeLeft(left.least_s / pace, left.likely_s / pace, left.most_s / pace) if pace > _FAST else left
    return SlotNow(slot, run, program, progress, left)


def house_times(session: Session) -> HouseTimes:
    """How long whole runs took here against what was planned: the median of the last ones, and their spread."""
    rows = session.execute(
        select(SlotRun.plan, SlotRun.progress)
        .where(SlotRun.state == "ended", SlotRun.progress.is_not(None), SlotRun.program.in_(("charge", "capacity", "cycle", "storage")))
        .order_by(SlotRun.id.desc()).limit(_LEARNT_FROM)
    )  # fmt: skip
    shares = sorted(share for plan, progress in rows if (share := _took_share(plan, progress)) is not None)
    if len(shares) < _LEAST_RUNS:
        return HouseTimes(1.0, 0.15, len(shares))
    middle = shares[len(shares) // 2]
    low, high = shares[len(shares) // 10], shares[-1 - len(shares) // 10]
    return HouseTimes(middle, max((high - low) / 2 / middle, 0.05), len(shares))


def _took_share(plan: dict[str, object], progress: dict[str, object]) -> float | None:
    stages = plan["stages"]
    assert isinstance(stages, list)
    fixed = sum(stage["most_s"] for stage in stages if stage["kind"] == "rest" or stage["is_pulse"])
    planned = sum(stage["planned_s"] for stage in stages) - fixed
    last = progress.get("last")
    if planned <= 0 or not isinstance(last, dict):
        return None
    share = (last["time_s"] - fixed) / planned
    return share if 0.1 < share < 4 else None


@dataclass(frozen=True, slots=True)
class RunCurve:
    """Points of a run for a picture: seconds, volts, amperes, degrees; never more than it can show."""

    time_s: tuple[float, ...]
    voltage_v: tuple[float, ...]
    current_a: tuple[float, ...]
    cell_degc: tuple[float | None, ...]


def curve_of(session: Session, run_id: int, columns: int) -> RunCurve:
    """The rows of a run, thinned by the database: of each column of the picture its first row, its lowest and its highest."""
    rows = session.execute(
        text("""
            WITH told AS (
                SELECT number, time_s, voltage_v, current_a, cell_degc, (number * :columns) / greatest(count(*) OVER (), 1) AS bin
                FROM run_row WHERE run_id = :run
            ), kept AS (
                SELECT number, time_s, voltage_v, current_a, cell_degc,
                    row_number() OVER (PARTITION BY bin ORDER BY number) AS first,
                    row_number() OVER (PARTITION BY bin ORDER BY voltage_v) AS lowest,
                    row_number() OVER (PARTITION BY bin ORDER BY voltage_v DESC) AS highest
                FROM told
            )
            SELECT time_s, voltage_v, current_a, cell_degc FROM kept WHERE 1 IN (first, lowest, highest) ORDER BY number
        """),
        {"run": run_id, "columns": columns},
    ).all()
    return RunCurve(*(tuple(column) for column in zip(*rows, strict=True))) if rows else RunCurve((), (), (), ())
