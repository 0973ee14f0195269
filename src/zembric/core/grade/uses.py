"""What a graded cell is good for, and what would settle a doubt about it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from zembric.core.house import limits
from zembric.core.measure.figures import resistance_times_capacity
from zembric.core.measure.uncertainty import capacity_u_mah, sureness
from zembric.core.said import Amount, Said, named, said

if TYPE_CHECKING:
    from zembric.core.grade.assessment import Assessment, Graded

Drain = Literal["high", "usual", "low"]


@dataclass(frozen=True, slots=True)
class GoodFor:
    """Which load a cell suits (None: not to be told), whether it only goes one by one, and why."""

    drain: Drain | None
    single_use: bool
    said: Said


def good_for(assessed: Assessment) -> GoodFor | None:
    """What a graded cell is good for by r Q, continuous current and the house's switches; None: not graded, or out.

    Source: r Q of high-drain cells 0.03 to 0.06 Ohm Ah, good below 0.15 at 1 kHz, doubled for DC at 10 s; house values.
    """
    if assessed.grade not in ("A", "B", "C"):
        return None
    drain, single_use = _drain(assessed), _is_single_use(assessed)
    if drain is None:
        load = said("good-for-unmeasured" if assessed.resistance_skipped else "good-for-untold")
    else:
        load = named("good-for", drain)
    return GoodFor(drain, single_use, said("good-for-single-use", load=load) if single_use else load)


def _drain(assessed: Assessment) -> Drain | None:
    resistance, capacity = assessed.resistance, assessed.capacity
    if resistance is None or capacity is None or resistance.method == "tester":
        return None
    product, _ = resistance_times_capacity(resistance, capacity)
    sees = limits.SEES_OF_1_KHZ.get(resistance.method)
    at_1_khz = product / (assessed.rules.value(sees) if sees else 1.0)
    if at_1_khz <= assessed.rules.value(limits.HIGH_DRAIN_OHM_AH) and assessed.grade != "C":
        return "high"
    return "usual" if at_1_khz <= assessed.rules.value(limits.RESISTANCE_GOOD_OHM_AH) else "low"


def _is_single_use(assessed: Assessment) -> bool:
    return assessed.story.donor_kind == "vape" and assessed.rules.switches["vape-cells"] == "single-use"


def settles(assessed: Assessment) -> Said | None:
    """What would settle a doubt: the measurement with which it would be sure, or that none here will. None: no doubt."""
    if assessed.sure in (None, "sure") or assessed.outs:
        return None
    figures: list[tuple[str, Graded | None]] = [
        ("capacity", assessed.by_capacity), ("resistance", assessed.by_resistance), ("power", assessed.by_power),
    ]  # fmt: skip
    doubtful = next((name for name, graded in figures if graded and graded.sure == assessed.sure), None)
    if doubtful == "capacity":
        return _by_a_trace(assessed)
    if doubtful == "resistance":
        best = assessed.resistance is not None and assessed.resistance.method == "ac-1khz"
        return said("settled-by-readings" if best else "settled-by-meter")
    if doubtful == "power":
        return said("settled-by-load")
    return None


def _by_a_trace(assessed: Assessment) -> Said | None:
    """Whether the finest way to a capacity would be sure of it at the value that is believed now."""
    graded, capacity = assessed.by_capacity, assessed.capacity
    if graded is None or capacity is None or graded.reason.value is None or graded.reason.limit is None:
        return None
    value, limit = graded.reason.value, graded.reason.limit.value
    fine_u = value * capacity_u_mah(capacity.value_mah, "trace", assessed.rules) / capacity.value_mah
    would_be = sureness(value, limit, fine_u, assessed.rules)
    if would_be != "borderline" and capacity.method != "trace":
        return said("settled-by-log", believed=Amount(capacity.value_mah, "mAh"), sure=named("sure", would_be))
    return said("settled-by-nothing", apart=Amount(abs(value - limit), graded.reason.limit.unit, 1))
