"""Programs of a tester: stages made for one cell, each inside what the cell bears, whatever was asked for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from typing import TYPE_CHECKING, Any, Literal, get_args

from zembric.core.electric.charging import plan_charge
from zembric.core.errors import BadInputError, DangerError
from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.identify.claims import most_mah
from zembric.core.identify.families import as_charged, has_ocv_table, state_of_charge
from zembric.core.next_step.planner import (
    believed_capacity_mah,
    charge_setting,
    last_use,
    next_step,
    run_current_ma,
    run_cut_off_v,
)
from zembric.core.said import Amount, said, volts
from zembric.core.story import Charge, empties, fills
from zembric.core.tester.waiting import usual_programs

if TYPE_CHECKING:
    from datetime import datetime

    from zembric.core.grade.assessment import Assessment

ProgramCode = Literal["charge", "rest", "capacity", "cycle", "pulse", "storage"]
StageKind = Literal["charge", "discharge", "rest"]
PROGRAMS: tuple[ProgramCode, ...] = get_args(ProgramCode)

_PULSE_S, _PULSE_REST_S = 10.0, 20.0
#: After a run the cell is left for so long before it is charged again.
_COOL_S = 600.0
#: Without a table of the family a charge is reckoned with this much more than its charge over its current.
_UNTIMED = 1.4
_CURRENT_PLAY = 1.001


@dataclass(frozen=True, slots=True)
class Stage:
    """One thing a tester does: currents are magnitudes [A].

    A charge goes on at `current_a` (at `slow_a` until `slow_until_v`), held at `limit_v`, until the current has faded to `end_a`; a
    discharge down to `limit_v`, or for `most_s` where it is a pulse; a rest for `most_s`. `planned_s` is how long it should take;
    a charge or discharge that is not over after `most_s`, or has put in more than `most_mah`, is stopped.
    """

    kind: StageKind
    current_a: float
    limit_v: float
    end_a: float
    planned_s: float
    most_s: float
    most_mah: float
    slow_a: float = 0.0
    slow_until_v: float = 0.0
    is_pulse: bool = False


@dataclass(frozen=True, slots=True)
class Bounds:
    """What no stage of any program may pass for this cell. Voltages of the cell [V], currents as magnitudes [A], temperatures [°C, K]."""

    most_v: float
    least_v: float
    never_charge_below_v: float
    most_charge_a: float
    most_discharge_a: float
    most_in_mah: float
    hot_degc: float
    above_room_k: float
    #: What it is believed to hold, and whether anybody measured it or a sheet says so.
    believed_mah: float
    is_known: bool
    #: What it should read when it is put in: least and most [V].
    expected_v: tuple[float, float]
    #: A charge from low to full that took less time than this [s] and put in less than this [mAh] raced.
    raced_s: float
    little_mah: float
    #: So far a voltage falls back when a charge has ended by itself [V].
    settles_v: float
    #: A discharge that ended further above its cut-off than this measured nothing [V].
    stopped_high_v: float


@dataclass(frozen=True, slots=True)
class Program:
    code: ProgramCode
    stages: tuple[Stage, ...]
    bounds: Bounds


def as_json(program: Program) -> dict[str, Any]:
    return asdict(program)


def from_json(held: Mapping[str, Any]) -> Program:
    bounds = held["bounds"]
    return Program(
        held["code"],
        tuple(Stage(**stage) for stage in held["stages"]),
        Bounds(**(bounds | {"expected_v": tuple(bounds["expected_v"])})),
    )


def make_program(
    code: ProgramCode,
    assessed: Assessment,
    now: datetime,
    *,
    slot_charge_a: float,
    slot_discharge_a: float,
    switches: bool = True,
) -> Program:
    """The stages of a program for one cell on a slot that gives and takes so much.

    `switches`: False where what hangs there only tells what flows, and hands put the load on and take it off.

    Raises:
        DangerError: a cell that must not be charged: out, primary, nobody knows the family, too low, or one somebody has to decide on.
        BadInputError: the slot cannot do what the program asks.
    """
    _refuse(code, assessed, now)
    bounds = bounds_of(assessed, now)
    make = _Maker(assessed, bounds, slot_charge_a, slot_discharge_a)
    if not switches and code != "capacity":
        raise BadInputError(said("program-only-watches"), field="program")
    stages = make.stages(code, now) if switches else (make.discharge(),)
    program = Program(code, stages, bounds)
    check_program(program)
    return program


def planned_minutes(
    code: ProgramCode, assessed: Assessment, now: datetime, *, slot_charge_a: float, slot_discharge_a: float
) -> float:
    """How long a program will take on a slot, whether or not it is its turn yet [min].

    Raises:
        BadInputError: the slot cannot do what the program asks.
    """
    make = _Maker(assessed, bounds_of(assessed, now), slot_charge_a, slot_discharge_a)
    stages = make.measure() if code == "capacity" else make.stages(code, now)
    return sum(stage.planned_s for stage in stages) / 60


def check_program(program: Program) -> None:
    """Holds every stage against what the cell bears, whoever made it.

    Raises:
        DangerError: a stage goes past a limit.
    """
    bounds = program.bounds
    for stage in program.stages:
        most_a = bounds.most_charge_a if stage.kind == "charge" else bounds.most_discharge_a
        if stage.kind != "rest" and not 0 < stage.current_a <= most_a * _CURRENT_PLAY:
            raise DangerError(
                said("program-current", asked=Amount(stage.current_a, "A", 2), most=Amount(most_a, "A", 2))
            )
        if stage.kind == "charge" and stage.limit_v > bounds.most_v + 1e-9:
            raise DangerError(said("program-voltage", asked=volts(stage.limit_v), most=volts(bounds.most_v)))
        if stage.kind == "discharge" and stage.limit_v < bounds.least_v - 1e-9:
            raise DangerError(said("program-voltage-low", asked=volts(stage.limit_v), least=volts(bounds.least_v)))


def bounds_of(assessed: Assessment, now: datetime) -> Bounds:
    """What a cell bears on a tester.

    Source: stop rules of charging (house values and data sheets); where nobody knows what it holds, what goes in is held against
    the most that fits into its size, while its currents stay those of a small cell.
    """
    facts, rules = assessed.story.facts, assessed.rules
    family = as_charged(facts.family) or Family.LAYERED_OXIDE
    setting = charge_setting(assessed)
    believed_mah = believed_capacity_mah(assessed)
    is_known = bool(assessed.capacity or facts.rated_capacity_mah)
    fits_mah = most_mah(assessed.size, facts.family, rules, facts.mass_g) if assessed.size and not is_known else None
    full_v = setting.full_v or limits.FULL_V[family].value
    sheet_a = (facts.most_charge_ma or 1e9) / 1000
    return Bounds(
        most_v=full_v,
        least_v=rules.of(limits.CUT_OFF_V, family) - 0.5,
        never_charge_below_v=limits.NEVER_CHARGE_BELOW_V[family].value,
        most_charge_a=min(believed_mah * limits.CHARGE_RATE_MOST_C.value / 1000, sheet_a),
        most_discharge_a=believed_mah / 1000,
        most_in_mah=limits.CHARGED_IN_MOST_SHARE.value * (fits_mah or believed_mah),
        hot_degc=limits.HOT_DEGC.value,
        above_room_k=limits.HOT_ABOVE_ROOM_K.value,
        believed_mah=believed_mah,
        is_known=is_known,
        expected_v=expected_v(assessed, full_v, now),
        raced_s=60 * rules.value(limits.RACED_MINUTES),
        little_mah=rules.value(limits.LOW_CHARGE_SHARE) / 3 * believed_mah,
        settles_v=rules.value(limits.SETTLES_ENDED_V),
        stopped_high_v=rules.value(limits.STOPPED_HIGH_V),
    )


def expected_v(assessed: Assessment, full_v: float, now: datetime) -> tuple[float, float]:
    """What the cell should read when it is put in: by its last resting voltage, or by what was done to it since."""
    rules = assessed.rules
    play_v = rules.value(limits.SAME_CELL_WITHIN_V)
    used = last_use(assessed.story)
    last = assessed.voltages[-1] if assessed.voltages else None
    if last is not None and (used is None or last.at >= used.at):
        days = max((now - last.at).total_seconds() / 86400, 0.0)
        # What a watched cell may lose meanwhile.
        return max(
            last.value_v - play_v - days * rules.value(limits.LEAKING_MV_PER_DAY) / 1000, 0.05
        ), last.value_v + play_v
    if isinstance(used, Charge):
        return max(used.end_v - rules.value(limits.SETTLES_STOPPED_V) - play_v, 0.05), used.end_v + play_v / 2
    return 0.05, full_v + limits.OVER_FULL_V.value


def _refuse(code: ProgramCode, assessed: Assessment, now: datetime) -> None:
    """Only a cell whose next step a tester can do is given to one: all else waits for eyes, a meter or a coordinator."""
    facts = assessed.story.facts
    if facts.family is Family.PRIMARY:
        raise DangerError(said("program-primary"))
    if facts.family is None:
        raise DangerError(said("program-family-unknown"))
    if not usual_programs(assessed, now):
        raise DangerError(said("program-step-first", step=next_step(assessed, now).said))
    if code == "capacity" and assessed.history.full_since is None:
        raise BadInputError(said("program-not-full"), field="program")


class _Maker:
    """Makes the stages of one cell on one slot."""

    def __init__(self, assessed: Assessment, bounds: Bounds, slot_charge_a: float, slot_discharge_a: float) -> None:
        self._assessed, self._bounds = assessed, bounds
        self._slot_charge_a, self._slot_discharge_a = slot_charge_a, slot_discharge_a
        facts = assessed.story.facts
        self._family = as_charged(facts.family) or Family.LAYERED_OXIDE
        self._pre_charge_v = limits.PRE_CHARGE_BELOW_V[self._family].value
        self._mohm = (
            assessed.resistance.value_mohm
            if assessed.resistance
            else 1e6 * assessed.rules.value(limits.RESISTANCE_GOOD_OHM_AH) / bounds.believed_mah
        )

    def stages(self, code: ProgramCode, now: datetime) -> tuple[Stage, ...]:
        settle = self.rest(60 * limits.REST_BEFORE_DISCHARGE_MIN.value)
        match code:
            case "charge":
                return (self.charge_full(),)
            case "rest":
                return (settle,)
            case "capacity":
                return (*self.settle(now), *self.measure())
            case "cycle":
                return (self.charge_full(), settle, *self.measure())
            case "pulse":
                return self.pulse()
            case "storage":
                return (self.charge_to_store(),)

    def measure(self) -> tuple[Stage, ...]:
        """Resistance and capacity, and not left empty: what is emptied is charged for the shelf where the slot can."""
        after = (self.rest(_COOL_S), self.charge_to_store()) if self._slot_charge_a > 0 else ()
        return (*self.pulse(), self.discharge(), *after)

    def rest(self, seconds: float) -> Stage:
        return Stage("rest", 0, 0, 0, seconds, seconds, 0)

    def settle(self, now: datetime) -> tuple[Stage, ...]:
        """What is left of the rest after a charge."""
        used = last_use(self._assessed.story)
        if used is None or not fills(used) or empties(used):
            return ()
        left_s = 60 * limits.REST_BEFORE_DISCHARGE_MIN.value - (now - used.at).total_seconds()
        return (self.rest(left_s),) if left_s > 1 else ()

    def charge_full(self) -> Stage:
        return self._charge(self._bounds.most_v)

    def charge_to_store(self) -> Stage:
        store_v = self._assessed.rules.of(limits.STORE_AT_V, self._family)
        return self._charge(min(store_v, self._bounds.most_v))

    def _charge(self, to_v: float) -> Stage:
        if self._slot_charge_a <= 0:
            raise BadInputError(said("program-slot-does-not-charge"), field="program")
        bounds = self._bounds
        current_a = min(charge_setting(self._assessed).current_ma / 1000, self._slot_charge_a, bounds.most_charge_a)
        end_a = min(bounds.believed_mah * self._assessed.rules.value(limits.CHARGE_END_C) / 1000, current_a / 2)
        holds_mah = bounds.most_in_mah / limits.CHARGED_IN_MOST_SHARE.value
        planned_s = self._charge_s(bounds.believed_mah, current_a, to_v, end_a)
        longest_s = self._charge_s(holds_mah, current_a, to_v, end_a)
        return Stage(
            "charge", current_a, to_v, end_a, planned_s, limits.OVER_TIME_TIMES.value * longest_s, bounds.most_in_mah,
            slow_a=min(bounds.believed_mah * limits.RECOVERY_C.value / 1000, current_a), slow_until_v=self._pre_charge_v,
        )  # fmt: skip

    def _charge_s(self, holds_mah: float, current_a: float, to_v: float, end_a: float) -> float:
        family = self._family
        if not has_ocv_table(family):
            return 3600 * holds_mah / (1000 * current_a) * _UNTIMED
        plan = plan_charge(holds_mah, 1000 * current_a, to_v, 1000 * end_a, 0.0, self._mohm, family)
        share = state_of_charge(family, to_v)
        return max(60 * plan.minutes, 3600 * holds_mah * share / (1000 * current_a))

    def discharge(self) -> Stage:
        current_a = self._run_a()
        holds_mah = self._bounds.most_in_mah / limits.CHARGED_IN_MOST_SHARE.value
        cut_off_v = run_cut_off_v(self._assessed)
        planned_s = 3.6 * self._bounds.believed_mah / current_a
        most_s = limits.OVER_TIME_TIMES.value * 3.6 * holds_mah / current_a
        return Stage("discharge", current_a, cut_off_v, 0, planned_s, most_s, 2 * holds_mah)

    def pulse(self) -> tuple[Stage, ...]:
        """Rest, a load for ten seconds, rest: from its edges the resistance after one and after ten seconds."""
        current_a = self._run_a()
        load = Stage(
            "discharge",
            current_a,
            run_cut_off_v(self._assessed),
            0,
            _PULSE_S,
            _PULSE_S,
            self._bounds.believed_mah,
            is_pulse=True,
        )
        return (self.rest(_PULSE_REST_S), load, self.rest(_PULSE_REST_S))

    def _run_a(self) -> float:
        if self._slot_discharge_a <= 0:
            raise BadInputError(said("program-slot-does-not-discharge"), field="program")
        return min(run_current_ma(self._assessed) / 1000, self._slot_discharge_a, self._bounds.most_discharge_a)
