"""A run as it goes: each row that comes in is held against the stage it belongs to, and says what happens next.

Time is the tester's own, in seconds since the run began; currents are positive into the cell.
"""

from __future__ import annotations

import math
from dataclasses import asdict, dataclass, replace
from typing import TYPE_CHECKING, Any, Literal

from zembric.core.house import limits
from zembric.core.said import Amount, Said, Span, said, volts

if TYPE_CHECKING:
    from collections.abc import Mapping

    from zembric.core.tester.programs import Bounds, Program, Stage

#: Why a run stops before its program is through, or stands still. Those of the cell's own danger end it for good.
AlarmCode = Literal[
    "too-hot", "over-voltage", "over-time", "more-in-than-believed", "raced-to-full", "reversed", "too-low", "wrong-cell",
    "contact-lost", "tester-silent", "tester-talks-nonsense", "no-watchdog", "nobody-here", "cold", "run-broken-off", "charger-overdue", "take-it-off",
]  # fmt: skip
#: What takes over every screen in the room; the others stand in a strip.
DANGERS: frozenset[AlarmCode] = frozenset(
    {"too-hot", "over-voltage", "more-in-than-believed", "reversed", "over-time", "take-it-off"}
)

#: A voltage that moves by so much between two rows without a change of current is no cell's.
_CONTACT_V, _NO_CELL_V = 0.5, 0.3
#: A current below this share of what was set does not flow.
_FLOWS_SHARE, _LEAST_A = 0.2, 0.005
_AT_LIMIT_V = 0.015
#: From so far below its limit no charge fades to nothing in so short a time [s]: what shows the limit then is an open output.
_FADES_V, _FADES_S = 0.1, 300.0
#: So long a stage is given to begin before a missing current means something [s].
_SETTLES_S = 3.0
#: Where nothing flowed for so long nothing will [s].
_NEVER_FLOWED_S = 600.0
_REVERSED_V = -0.05
_ROWS_TO_BELIEVE = 2
#: A charge that fades shows a current near its end current before it ends. One of more than so many times that, which is gone within
#: so long [s], was cut off.
_CUT_OFF_TIMES, _CUT_OFF_S = 2.0, 60.0
#: A cell that is back reads the same twice; the output of a tester that was switched off without one sinks [V].
_STEADY_V = 0.05


@dataclass(frozen=True, slots=True)
class Sample:
    """One row of a tester: time since the run began [s], terminal voltage [V], current into the cell [A], temperature or None [°C]."""

    time_s: float
    voltage_v: float
    current_a: float
    cell_degc: float | None = None


@dataclass(frozen=True, slots=True)
class Progress:
    """How far a run is. `stage` is the place in the program; past its last one the run is over."""

    stage: int = 0
    stage_began_s: float = 0.0
    #: Charge of this stage, in and out of the whole run, all as magnitudes [mAh].
    stage_mah: float = 0.0
    in_mah: float = 0.0
    out_mah: float = 0.0
    last: Sample | None = None
    #: The voltage at which the stage began.
    began_v: float | None = None
    #: The last row of the stage in which current flowed, its first one where none did yet: voltage and time; None: there was no row.
    felt_v: float | None = None
    felt_s: float = 0.0
    #: Since when nothing is felt of the cell, and the last voltage before; None: contact is good.
    lost_since_s: float | None = None
    lost_at_v: float = 0.0
    #: Rows in a row that read like the cell again.
    back_rows: int = 0
    #: The current was cut off before it had faded, since when [s]; None: it flows, or faded.
    cut_off_s: float | None = None
    #: When the stage went on after a contact that was lost, and its charge until then [s, mAh]; None: it never was.
    resumed_s: float | None = None
    resumed_mah: float = 0.0
    #: Rows in a row that say that the stage is over, that it is too hot, or above its voltage.
    ended_rows: int = 0
    hot_rows: int = 0
    over_rows: int = 0
    #: Seconds of this stage that passed without contact.
    lost_s: float = 0.0
    #: How warm the cell was at most [°C]; None: nobody measures it.
    most_degc: float | None = None
    #: The lowest voltage under load in this stage [V]; None: nothing flowed yet.
    loaded_v: float | None = None


@dataclass(frozen=True, slots=True)
class Alarm:
    code: AlarmCode
    said: Said


@dataclass(frozen=True, slots=True)
class Verdict:
    """What a row leads to: the progress after it, and whether the channel is set anew.

    `order`: "go" sets the stage that is due, "off" ends all current, None leaves things as they are. `alarm` with "off" and `is_over` ends
    the run; with "off" alone it stands still until contact is back. Rows from before an order is carried out are for `wait_for_order`.
    """

    progress: Progress
    order: Literal["go", "off"] | None = None
    alarm: Alarm | None = None
    is_over: bool = False


def progress_as_json(progress: Progress) -> dict[str, Any]:
    return asdict(progress)


def progress_from_json(held: Mapping[str, Any]) -> Progress:
    last = held.get("last")
    return Progress(**{**held, "last": Sample(**last) if last else None})


def look_at_first(program: Program, sample: Sample, room_degc: float | None) -> Alarm | None:
    """Whether a run may begin with what lies in the slot; None: it may.

    Nothing flows yet, so this is a resting voltage: does it fit what the cell read last?
    """
    bounds, v = program.bounds, sample.voltage_v
    if v < _REVERSED_V:
        return Alarm("reversed", said("alarm-reversed", volts=volts(v)))
    if v < limits.NO_READING_BELOW_V.value:
        return Alarm("contact-lost", said("alarm-no-cell-felt", volts=volts(v)))
    if v > bounds.most_v + limits.OVER_FULL_V.value:
        return Alarm("over-voltage", said("alarm-over-voltage", volts=volts(v), full=volts(bounds.most_v)))
    least, most = bounds.expected_v
    if not least <= v <= most:
        return Alarm("wrong-cell", said("alarm-wrong-cell", volts=volts(v), least=volts(least), most=volts(most)))
    if v < bounds.never_charge_below_v:
        return Alarm("too-low", said("alarm-too-low", volts=volts(v), least=volts(bounds.never_charge_below_v)))
    # Below this a charge goes on slowly at best: here it does not begin.
    return _heat(bounds, sample, room_degc) or _cold(program, sample, room_degc, limits.COLD_BELOW_DEGC.value)


def go_on(program: Program, progress: Progress, sample: Sample, room_degc: float | None = None) -> Verdict:
    """One row further. The order of the questions is that of their weight: danger, contact, then whether the stage is over."""
    if progress.stage >= len(program.stages):
        return Verdict(progress, "off", is_over=True)
    stage = program.stages[progress.stage]
    counted = _counted(progress, sample)
    counted = replace(counted, cut_off_s=_cut_off_since(stage, progress, sample))
    danger, counted = _danger(program, stage, counted, sample, room_degc)
    if danger is not None:
        return Verdict(counted, "off", danger, is_over=True)
    if progress.lost_since_s is not None:
        return _without_contact(stage, progress, counted, sample)
    if _is_lost(stage, counted, progress.last, sample):
        at_v = sample.voltage_v if progress.felt_v is None else progress.felt_v
        lost = replace(counted, lost_since_s=sample.time_s, lost_at_v=at_v, ended_rows=0, back_rows=0, cut_off_s=None)
        return Verdict(lost, "off", _contact_lost(sample))
    return _stage_end(program, stage, counted, sample)


def _counted(progress: Progress, sample: Sample) -> Progress:
    """Charge by the trapezoid between two rows, split where the current changes its sign."""
    last = progress.last
    began_v = sample.voltage_v if progress.began_v is None else progress.began_v
    if sample.current_a < -_LEAST_A:
        progress = replace(progress, loaded_v=min(sample.voltage_v, progress.loaded_v or sample.voltage_v))
    if sample.cell_degc is not None:
        progress = replace(progress, most_degc=max(sample.cell_degc, progress.most_degc or sample.cell_degc))
    if abs(sample.current_a) >= _LEAST_A or progress.felt_v is None:
        progress = replace(progress, felt_v=sample.voltage_v, felt_s=sample.time_s)
    if last is None or sample.time_s <= last.time_s:
        return replace(progress, last=sample, began_v=began_v)
    hours = (sample.time_s - last.time_s) / 3600
    a, b = last.current_a, sample.current_a
    if a * b < 0:
        share = a / (a - b)
        parts = (a * share / 2, b * (1 - share) / 2)
    else:
        parts = ((a + b) / 2, 0.0)
    into = 1000 * hours * sum(part for part in parts if part > 0)
    out = -1000 * hours * sum(part for part in parts if part < 0)
    lost_s = sample.time_s - last.time_s if progress.lost_since_s is not None else 0.0
    return replace(
        progress, last=sample, began_v=began_v, in_mah=progress.in_mah + into, out_mah=progress.out_mah + out,
        stage_mah=progress.stage_mah + into + out, lost_s=progress.lost_s + lost_s,
    )  # fmt: skip


def _danger(
    program: Program, stage: Stage, progress: Progress, sample: Sample, room_degc: float | None
) -> tuple[Alarm | None, Progress]:
    bounds, v = program.bounds, sample.voltage_v
    heat = _heat(bounds, sample, room_degc)
    over = v > bounds.most_v + limits.OVER_FULL_V.value
    progress = replace(
        progress, hot_rows=progress.hot_rows + 1 if heat else 0, over_rows=progress.over_rows + 1 if over else 0
    )
    if heat and progress.hot_rows >= _ROWS_TO_BELIEVE:
        return heat, progress
    if over and progress.over_rows >= _ROWS_TO_BELIEVE:
        return Alarm("over-voltage", said("alarm-over-voltage", volts=volts(v), full=volts(bounds.most_v))), progress
    if v < _REVERSED_V:
        return Alarm("reversed", said("alarm-reversed", volts=volts(v))), progress
    if progress.lost_since_s is not None or stage.kind == "rest":
        return None, progress
    if stage.kind == "charge" and sample.current_a > _LEAST_A and (cold := _cold(program, sample, room_degc)):
        return cold, progress
    if stage.kind == "charge" and progress.stage_mah > stage.most_mah:
        told = said(
            "alarm-more-in",
            put_in=Amount(progress.stage_mah, "mAh"),
            believed=Amount(stage.most_mah / limits.CHARGED_IN_MOST_SHARE.value, "mAh"),
        )
        return Alarm("more-in-than-believed", told), progress
    took_s = sample.time_s - progress.stage_began_s - progress.lost_s
    if not stage.is_pulse and took_s > stage.most_s:
        return Alarm("over-time", said("alarm-over-time", took=Span(took_s), planned=Span(stage.planned_s))), progress
    return None, progress


def _heat(bounds: Bounds, sample: Sample, room_degc: float | None) -> Alarm | None:
    degc = sample.cell_degc
    if degc is None:
        return None
    if degc > bounds.hot_degc or (room_degc is not None and degc > room_degc + bounds.above_room_k):
        return Alarm("too-hot", said("alarm-too-hot", cell=Amount(degc, "°C")))
    return None


def _cold(
    program: Program, sample: Sample, room_degc: float | None, least_degc: float = limits.NEVER_CHARGE_BELOW_DEGC.value
) -> Alarm | None:
    """Charging a cell that is too cold plates lithium; without a sensor on the cell its room tells."""
    degc = sample.cell_degc if sample.cell_degc is not None else room_degc
    charges = any(stage.kind == "charge" for stage in program.stages)
    if degc is None or not charges or degc >= least_degc:
        return None
    return Alarm("cold", said("alarm-cold", cell=Amount(degc, "°C")))


def _contact_lost(sample: Sample) -> Alarm:
    return Alarm("contact-lost", said("alarm-contact-lost", volts=volts(sample.voltage_v)))


def _cut_off_since(stage: Stage, progress: Progress, sample: Sample) -> float | None:
    """Since when the current of a charge is gone that had not faded."""
    before = progress.last
    if stage.kind != "charge" or abs(sample.current_a) >= _LEAST_A:
        return None
    if progress.cut_off_s is not None or before is None:
        return progress.cut_off_s
    was_strong = before.current_a > _CUT_OFF_TIMES * max(stage.end_a, _LEAST_A)
    return before.time_s if was_strong and sample.time_s - before.time_s < _CUT_OFF_S else None


def _is_lost(stage: Stage, progress: Progress, before: Sample | None, sample: Sample) -> bool:
    """Whether nothing is felt of the cell: no voltage, one that jumped away, or no current where one flowed until now."""
    if not math.isfinite(sample.voltage_v) or sample.voltage_v < _NO_CELL_V:
        return True
    if before is None or stage.kind != "charge" or abs(sample.current_a) >= _LEAST_A:
        return False
    if progress.cut_off_s is not None and sample.time_s - progress.cut_off_s > _SETTLES_S:
        return True
    # An open output of a charger rises to its limit at once and nothing flows.
    is_far = progress.felt_v is not None and progress.felt_v < stage.limit_v - _FADES_V
    opened = sample.voltage_v - before.voltage_v > _CONTACT_V or (
        sample.voltage_v >= stage.limit_v - _AT_LIMIT_V and is_far and sample.time_s - progress.felt_s < _FADES_S
    )
    return opened and sample.time_s - progress.stage_began_s > _SETTLES_S


def _without_contact(stage: Stage, before: Progress, progress: Progress, sample: Sample) -> Verdict:
    """Nothing flows; it goes on by itself where the same voltage is back soon, else it is over."""
    assert before.lost_since_s is not None
    gone_s, v = sample.time_s - before.lost_since_s, sample.voltage_v
    back_rows = 0
    if v >= _NO_CELL_V and _is_like(stage, before.lost_at_v, v) and abs(sample.current_a) < _LEAST_A:
        is_steady = before.last is not None and abs(v - before.last.voltage_v) < _STEADY_V
        back_rows = before.back_rows + 1 if is_steady else 1
    progress = replace(progress, back_rows=back_rows)
    if back_rows >= _ROWS_TO_BELIEVE:
        began_s = sample.time_s if stage.is_pulse else progress.stage_began_s
        back = replace(
            progress, lost_since_s=None, back_rows=0, stage_began_s=began_s, felt_v=v, felt_s=sample.time_s, ended_rows=0,
            resumed_s=sample.time_s, resumed_mah=progress.stage_mah,
        )  # fmt: skip
        return Verdict(back, "go")
    if gone_s > limits.CONTACT_BACK_S.value:
        return Verdict(
            progress, "off", Alarm("run-broken-off", said("alarm-contact-stays-lost", gone=Span(gone_s))), is_over=True
        )
    return Verdict(progress)


def _is_like(stage: Stage, lost_at_v: float, voltage_v: float) -> bool:
    """Whether a voltage at rest may be that of the cell that read this last: one that was charged reads no more than then."""
    most_v = lost_at_v + (_STEADY_V if stage.kind == "charge" else _CONTACT_V)
    return lost_at_v - _CONTACT_V < voltage_v < most_v


def _stage_end(program: Program, stage: Stage, progress: Progress, sample: Sample) -> Verdict:
    took_s = sample.time_s - progress.stage_began_s
    if stage.kind == "rest" or stage.is_pulse:
        return _next(program, progress, sample) if took_s >= stage.most_s else Verdict(progress)
    current_a = abs(sample.current_a)
    # A row may still be from before the channel was set: only what has flowed can end by itself.
    begun_s = progress.stage_began_s if progress.resumed_s is None else progress.resumed_s
    has_begun = progress.stage_mah > progress.resumed_mah or sample.time_s - begun_s > _NEVER_FLOWED_S
    if stage.kind == "charge":
        at_limit = sample.voltage_v >= stage.limit_v - _AT_LIMIT_V
        # A tester that ends by itself shows no current and a voltage that falls back.
        ended_itself = (
            has_begun
            and current_a < _LEAST_A
            and took_s > _SETTLES_S
            and sample.voltage_v >= stage.limit_v - program.bounds.settles_v
        )
        # Before it has settled no current at all may be an open output.
        may_be_full = took_s > _SETTLES_S and (progress.resumed_s is None or has_begun)
        has_faded = current_a <= stage.end_a and (current_a >= _LEAST_A or may_be_full)
        is_above = sample.voltage_v > stage.limit_v + _AT_LIMIT_V
        is_over = progress.cut_off_s is None and ((at_limit and has_faded) or ended_itself or is_above)
    else:
        ended_itself = has_begun and current_a < min(_LEAST_A, _FLOWS_SHARE * stage.current_a) and took_s > _SETTLES_S
        if ended_itself and (
            progress.loaded_v is None or progress.loaded_v > stage.limit_v + program.bounds.stopped_high_v
        ):
            # It ended far above its cut-off: whatever it was, it measured no capacity.
            words = said(
                "run-ended-high", volts=volts(progress.loaded_v or sample.voltage_v), least=volts(stage.limit_v)
            )
            return Verdict(progress, "off", Alarm("run-broken-off", words), is_over=True)
        is_over = sample.voltage_v <= stage.limit_v or ended_itself
    rows = progress.ended_rows + 1 if is_over else 0
    progress = replace(progress, ended_rows=rows)
    # Past the cut-off nothing is waited for while current flows: the cell would be driven lower.
    is_low = stage.kind == "discharge" and sample.voltage_v <= stage.limit_v and current_a >= _LEAST_A
    if rows < _ROWS_TO_BELIEVE and not is_low:
        return _slow_start(stage, progress, sample)
    raced = _raced(program, stage, progress, took_s)
    if raced is not None:
        return Verdict(progress, "off", raced, is_over=True)
    return _next(program, progress, sample)


def _slow_start(stage: Stage, progress: Progress, sample: Sample) -> Verdict:
    """A low cell begins with a tenth, and is set anew once it has passed the pre-charge limit."""
    is_slow = stage.kind == "charge" and 0 < sample.current_a <= stage.slow_a * 1.02 < stage.current_a
    far = sample.voltage_v < stage.limit_v - _AT_LIMIT_V
    if is_slow and far and sample.voltage_v >= stage.slow_until_v + _AT_LIMIT_V:
        return Verdict(progress, "go")
    return Verdict(progress)


def current_of(stage: Stage, voltage_v: float) -> float:
    """What a stage is set to at this voltage [A]."""
    return stage.slow_a if stage.kind == "charge" and voltage_v < stage.slow_until_v else stage.current_a


def _raced(program: Program, stage: Stage, progress: Progress, took_s: float) -> Alarm | None:
    """From low to full within minutes: hardly any capacity, or a high resistance."""
    if stage.kind != "charge" or progress.began_v is None:
        return None
    was_low = progress.began_v < stage.limit_v - 4 * limits.CHARGED_WITHIN_V.value
    little = progress.stage_mah < program.bounds.little_mah
    if was_low and little and took_s < program.bounds.raced_s and stage.limit_v >= program.bounds.most_v - 1e-9:
        told = said(
            "alarm-raced", began=volts(progress.began_v), took=Span(took_s), put_in=Amount(progress.stage_mah, "mAh")
        )
        return Alarm("raced-to-full", told)
    return None


def begin(sample: Sample) -> Progress:
    """A run whose first stage is about to be set."""
    return _stage_begun(Progress(), sample)


def wait_for_order(
    program: Program, progress: Progress, sample: Sample, room_degc: float | None = None, *, begins: bool
) -> Verdict:
    """A row from before the order of a verdict was carried out: it is counted; a danger ends the run, a lost contact lets it wait.

    Where a stage `begins` it begins after this row.
    """
    counted = _stage_begun(progress, sample) if begins else _idle(progress, sample)
    danger, counted = _danger(program, program.stages[progress.stage], counted, sample, room_degc)
    if danger:
        return Verdict(counted, "off", danger, is_over=True)
    if progress.lost_since_s is None and counted.lost_since_s is not None:
        return Verdict(counted, "off", _contact_lost(sample))
    return Verdict(counted)


def _stage_begun(progress: Progress, sample: Sample) -> Progress:
    v, at_s = sample.voltage_v, sample.time_s
    return replace(_counted(progress, sample), stage_began_s=at_s, began_v=v, felt_v=v, felt_s=at_s)


def _idle(progress: Progress, sample: Sample) -> Progress:
    """While nothing flows the time of a stage does not run, and what was felt of the cell before is as old as this row."""
    counted, v, at_s = _counted(progress, sample), sample.voltage_v, sample.time_s
    if progress.last is None or abs(sample.current_a) >= _LEAST_A or progress.lost_since_s is not None:
        return counted
    if v < _NO_CELL_V:
        return replace(counted, lost_since_s=at_s, lost_at_v=progress.felt_v or v, back_rows=0)
    felt_v = v if progress.felt_v is None else min(v, progress.felt_v)
    return replace(
        counted, lost_s=progress.lost_s + at_s - progress.last.time_s, felt_v=felt_v, felt_s=at_s, cut_off_s=None,
        resumed_s=at_s, resumed_mah=counted.stage_mah,
    )  # fmt: skip


def _next(program: Program, progress: Progress, sample: Sample) -> Verdict:
    stage = progress.stage + 1
    after = replace(
        progress,
        stage=stage,
        stage_began_s=sample.time_s,
        stage_mah=0.0,
        began_v=None,
        felt_v=None,
        ended_rows=0,
        lost_s=0.0,
        loaded_v=None,
        cut_off_s=None,
        resumed_s=None,
        resumed_mah=0.0,
    )
    if stage >= len(program.stages):
        return Verdict(after, "off", is_over=True)
    return Verdict(after, "go")


@dataclass(frozen=True, slots=True)
class TimeLeft:
    """How long a run still takes [s]: likely, and the band it lies in."""

    least_s: float
    likely_s: float
    most_s: float


def time_left(program: Program, progress: Progress, factor: float = 1.0, band: float = 0.15) -> TimeLeft:
    """What is planned and not over yet; the stage at hand by what has flowed where that is known.

    `factor` and `band`: what this house's runs took against their plans, and how far they lay apart.
    """
    sure = likely = 0.0
    now_s = progress.last.time_s if progress.last else progress.stage_began_s
    for at, stage in enumerate(program.stages[progress.stage :]):
        took_s = now_s - progress.stage_began_s if at == 0 else 0.0
        if stage.kind == "rest" or stage.is_pulse:
            sure += max(stage.most_s - took_s, 0.0)
            continue
        planned_s = stage.planned_s * factor
        # Towards its end a stage is never quite over: a tenth of what it took is left to it.
        likely += max(planned_s - took_s, 0.1 * min(took_s, planned_s))
    return TimeLeft(sure + likely * (1 - band), sure + likely, sure + likely * (1 + 2 * band))
