"""Bringing up a low cell under supervision: what to set, what to measure when, and when it is over."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from typing import TYPE_CHECKING, Literal

from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.identify.families import as_charged
from zembric.core.measure.heat import is_hot
from zembric.core.said import Amount, Said, said, span, volts
from zembric.core.story import Finding

if TYPE_CHECKING:
    from datetime import datetime

    from zembric.core.measure.first_voltage import BandOfVoltage
    from zembric.core.story import Heat

RecoveryStatus = Literal["running", "passed", "failed"]


@dataclass(frozen=True, slots=True)
class RecoveryPlan:
    """What is done with a cell found low. The current is the most that may be set [mA]."""

    found_v: float
    current_ma: float
    rate_c: float
    watched: bool
    past_v: float

    @property
    def check_every(self) -> timedelta:
        return timedelta(minutes=(limits.WATCHED_CHECK_MIN if self.watched else limits.RECOVERY_CHECK_MIN).value)


@dataclass(frozen=True, slots=True)
class RecoveryCheck:
    """One look at a running recovery: its voltage [V], how much warmer than at the start [K] (None: not measured)."""

    at: datetime
    value_v: float
    warmer_k: float | None
    heat: Heat
    swells: bool = False

    @property
    def is_hazard(self) -> bool:
        """Warm or swelling while it is brought up: something inside shorts."""
        warmed = self.warmer_k is not None and self.warmer_k > limits.RECOVERY_WARMING_K.value + 1e-9
        return self.swells or warmed or is_hot(self.heat)


@dataclass(frozen=True, slots=True)
class RecoveryState:
    """How a recovery stands: still running with the time of the next look, or over with the reason."""

    status: RecoveryStatus
    said: Said
    next_check_at: datetime | None
    ends_at: datetime
    #: What makes the cell a hazard, where it is one now; empty: nothing.
    findings: frozenset[Finding] = frozenset()


def plan_recovery(found_v: float, band: BandOfVoltage, family: Family | None, believed_ma_at_1c: float) -> RecoveryPlan:
    """The plan for a voltage that lies in a recovery band; `believed_ma_at_1c` is what the cell is believed to hold."""
    watched = band.band == "watched-recovery"
    rate_c = (limits.WATCHED_RECOVERY_C if watched else limits.RECOVERY_C).value
    past_v = limits.PRE_CHARGE_BELOW_V[as_charged(family) or Family.LAYERED_OXIDE].value
    return RecoveryPlan(found_v, believed_ma_at_1c * rate_c, rate_c, watched, past_v)


def watch_recovery(
    plan: RecoveryPlan, started_at: datetime, checks: list[RecoveryCheck], now: datetime
) -> RecoveryState:
    """How the recovery stands after its checks. It passes by the voltage, it fails by warmth or by time.

    Warmth goes before voltage: a cell that came up hot has failed. Source: house rules of recovery.
    """
    ends_at = started_at + timedelta(minutes=limits.RECOVERY_MINUTES.value)
    for check in checks:
        if check.is_hazard:
            if check.swells:
                text = said("recovery-swells")
            elif check.warmer_k is not None and check.warmer_k > 0:
                text = said("recovery-warmed", warmer=Amount(check.warmer_k, "K"))
            else:
                text = said("recovery-warm")
            found = frozenset({Finding.SWOLLEN if check.swells else Finding.HOT})
            return RecoveryState("failed", text, None, ends_at, findings=found)
        took = span(check.at - started_at)
        if check.value_v >= plan.past_v - 1e-9:
            text = said("recovery-passed", voltage=volts(check.value_v), after=took)
            return RecoveryState("passed", text, None, ends_at)
        if check.at >= ends_at:
            within = Amount(limits.RECOVERY_MINUTES.value, "min")
            text = said(
                "recovery-too-slow",
                voltage=volts(check.value_v),
                after=took,
                past=volts(plan.past_v),
                within=within,
            )
            return RecoveryState("failed", text, None, ends_at)
    last = checks[-1].at if checks else started_at
    next_check_at = min(last + plan.check_every, ends_at)
    if now >= ends_at:
        text = said("recovery-hour-over")
    elif now >= next_check_at:
        text = said("recovery-measure-now")
    else:
        text = said("recovery-runs", current=Amount(plan.current_ma, "mA"), next=span(next_check_at - now))
    return RecoveryState("running", text, next_check_at, ends_at)
