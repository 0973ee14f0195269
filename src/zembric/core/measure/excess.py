"""What went too far: over-voltage, charges that must not have been. It stays until a coordinator decides, or for ever."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from zembric.core.grounds import Reason
from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.identify.families import hazard_above_v, overfull_above_v
from zembric.core.measure.heat import heat_words, is_cold_to_charge, is_hot
from zembric.core.said import Said, said, volts
from zembric.core.story import Charge, Decision, RestingVoltage, UnrestedVoltage, fills

if TYPE_CHECKING:
    from zembric.core.story import Event, Story

ExcessCode = Literal[
    "over-voltage", "cold-charge", "hot-charge", "unknown-charged", "charged-at-zero", "primary-charged"
]
_ROUNDING = 1e-9


@dataclass(frozen=True, slots=True)
class Excess:
    """One thing that went too far: what, and whether it makes the cell a hazard by itself."""

    code: ExcessCode
    is_hazard: bool
    reason: Reason


def excesses(story: Story) -> tuple[Excess, ...]:
    """All that went too far with a cell, in order of time, whatever was decided since."""
    return tuple(excess for event, excess in _found(story) if excess)


def undecided(story: Story) -> tuple[Excess, ...]:
    """What went too far and no coordinator decided about since."""
    open_: list[Excess] = []
    for event, excess in _found(story):
        if isinstance(event, Decision) and event.about == "over-voltage":
            open_ = []
        elif excess and not excess.is_hazard:
            open_.append(excess)
    return tuple(open_)


def charges_at_zero(story: Story) -> frozenset[int]:
    """Which events (by their place in the story) charged a cell whose last reading was next to nothing."""
    found, last_v = set(), None
    for index, event in enumerate(story.events):
        if (isinstance(event, RestingVoltage) and event.value_v >= 0) or (
            isinstance(event, UnrestedVoltage) and event.state != "under-charge"
        ):
            last_v = event.value_v
        elif fills(event) and last_v is not None and 0 <= last_v < limits.NO_READING_BELOW_V.value:
            found.add(index)
    return frozenset(found)


def _found(story: Story) -> list[tuple[Event, Excess | None]]:
    """Every event in order of time with what went too far in it; an event that went too far twice stands twice."""
    at_zero = charges_at_zero(story)
    pairs: list[tuple[Event, Excess | None]] = []
    for index, event in enumerate(story.events):
        found = [_over_voltage(story, event), _of_charge(story, event, at_zero=index in at_zero)]
        pairs += [(event, excess) for excess in found if excess] or [(event, None)]
    return pairs


def _over_voltage(story: Story, event: Event) -> Excess | None:
    """A reading under charge or just off the charger shows the charger too, so it is decided on and never a hazard."""
    facts = story.facts
    most_v, hazard_v = overfull_above_v(facts.family, facts.full_v), hazard_above_v(facts.family, facts.full_v)
    if most_v is None or hazard_v is None:
        return None
    if isinstance(event, Charge):
        value_v, how = event.end_v, "charged"
    elif isinstance(event, RestingVoltage):
        value_v, how = event.value_v, "rested"
    elif isinstance(event, UnrestedVoltage) and event.state in ("off-charger", "under-charge"):
        value_v, how = event.value_v, "on-charger"
    else:
        return None
    if value_v <= most_v + _ROUNDING:
        return None
    is_hazard = value_v > hazard_v + _ROUNDING and not isinstance(event, UnrestedVoltage)
    limit = limits.OVER_HAZARD_V if is_hazard else limits.OVER_FULL_V
    full_v = most_v - limits.OVER_FULL_V.value if not is_hazard else hazard_v - limits.OVER_HAZARD_V.value
    text = said(
        "ground-overcharged" if is_hazard else "ground-over-voltage",
        read=said("read-over", how=how, voltage=volts(value_v)),
        full=volts(full_v),
        beyond=volts(limit.value),
    )
    return Excess("over-voltage", is_hazard, Reason("hazard" if is_hazard else "over-voltage", text, value_v, limit))


def _of_charge(story: Story, event: Event, *, at_zero: bool) -> Excess | None:
    family = story.facts.family
    if not fills(event):
        return None
    if family is Family.PRIMARY:
        return _excess("primary-charged", said("ground-primary-charged"), is_hazard=True)
    if family is None:
        return _excess("unknown-charged", said("ground-unknown-charged"))
    if at_zero:
        return _excess("charged-at-zero", said("ground-charged-at-zero"))
    if isinstance(event, Charge) and is_hot(event.heat):
        return _excess("hot-charge", said("ground-hot-charge", heat=heat_words(event.heat)))
    if isinstance(event, Charge) and is_cold_to_charge(event.heat):
        return _excess("cold-charge", said("ground-cold-charge"))
    return None


def _excess(code: ExcessCode, text: Said, *, is_hazard: bool = False) -> Excess:
    return Excess(code, is_hazard, Reason("hazard" if is_hazard else code, text))
