"""What a cell's charges came to: when it was full, which runs began full and ended empty, and whether it never fills."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.identify.families import full_voltage_v
from zembric.core.measure.excess import charges_at_zero
from zembric.core.said import Said, said, volts
from zembric.core.story import (
    COUNTED_WHILE_CHARGING,
    CameBack,
    CapacityRun,
    Charge,
    empties,
)

if TYPE_CHECKING:
    from zembric.core.house.rules import HouseRules
    from zembric.core.story import Event, Story

_ROUNDING = 1e-9
_ENDS_TO_BELIEVE = 2
ChargeEnd = Literal["full", "nearly", "short", "part", "stored"]


@dataclass(frozen=True, slots=True)
class ChargeHistory:
    """What the charges and runs of a story came to, read once from its beginning.

    `full_since` is the charge to the end since the last discharge; None: it is not full. `complete` are the runs that
    went from full to a cut-off, `parts` the others with the reason why they are none.
    """

    full_since: Event | None
    complete: tuple[CapacityRun, ...]
    parts: tuple[tuple[CapacityRun, Said], ...]
    #: The last charge to the end, where it ended a little low.
    nearly: Charge | None
    #: The last end of a charge, where it was not the first in a row that stayed short.
    never_full: Charge | None
    #: The last charge, where it ended short for the first time.
    short: Charge | None


def charge_history(story: Story, rules: HouseRules) -> ChargeHistory:
    """Reads the charges and capacity runs in order of time.

    Source: charged to the end is complete and up to full - 0.05 V; a second short end in a row counts; complete means
    from full to a cut-off of the family. House values, docs/judging.md.
    """
    at_zero = charges_at_zero(story)
    full_since: Event | None = None
    complete: list[CapacityRun] = []
    parts: list[tuple[CapacityRun, Said]] = []
    short_in_row = 0
    nearly: Charge | None = None
    short: Charge | None = None
    for index, event in enumerate(story.events):
        if isinstance(event, CapacityRun):
            why = _why_part(story, rules, event, is_full=_began_full(event, full_since))
            if why:
                parts.append((event, why))
            else:
                complete.append(event)
        if isinstance(event, CameBack) or empties(event):
            full_since = None
        elif isinstance(event, CapacityRun) and event.complete and index not in at_zero:
            # Counted while charging: the others emptied it and were told apart above.
            full_since, short_in_row, nearly, short = event, 0, None, None
        elif isinstance(event, Charge) and event.complete and index not in at_zero:
            end = charge_end(story, rules, event, is_graded=bool(complete))
            if end in ("full", "nearly"):
                full_since, short_in_row, short = event, 0, None
                nearly = event if end == "nearly" else None
            elif end == "short":
                short_in_row, short, nearly = short_in_row + 1, event, None
                full_since = event if short_in_row >= _ENDS_TO_BELIEVE else full_since
    is_believed = short_in_row >= _ENDS_TO_BELIEVE
    return ChargeHistory(
        full_since,
        tuple(complete),
        tuple(parts),
        nearly,
        short if is_believed else None,
        None if is_believed else short,
    )


def _began_full(run: CapacityRun, full_since: Event | None) -> bool:
    """What somebody said of the run goes before what the charges written down tell."""
    return full_since is not None if run.started_full is None else run.started_full


def charge_end(story: Story, rules: HouseRules, charge: Charge, *, is_graded: bool) -> ChargeEnd:
    """Where a charge that ended by itself ended. `is_graded`: a capacity is known, so it may have been one for the shelf."""
    family = story.facts.family
    full_v = full_voltage_v(family, story.facts.full_v)
    if family is None or full_v is None:
        return "part"
    if charge.end_v >= full_v - limits.CHARGED_WITHIN_V.value - _ROUNDING:
        return "full"
    if charge.end_v >= full_v - rules.value(limits.CHARGED_NEARLY_WITHIN_V) - _ROUNDING:
        return "nearly"
    usual_v = limits.FULL_V[Family.LAYERED_OXIDE].value
    by_usual_charger = usual_v - rules.value(limits.CHARGER_PLAY_V) - _ROUNDING <= charge.end_v
    if family is Family.HIGH_VOLTAGE_COBALT and full_v > usual_v and by_usual_charger:
        return "part"
    from_store_v = abs(charge.end_v - rules.value(limits.STORE_AT_V[family]))
    if is_graded and from_store_v <= rules.value(limits.STORED_WITHIN_V) + _ROUNDING:
        return "stored"
    return "short"


def _why_part(story: Story, rules: HouseRules, run: CapacityRun, *, is_full: bool) -> Said | None:
    """Why a run is no complete capacity; None: it is one."""
    if not run.complete:
        return said("part-stopped")
    if run.method in COUNTED_WHILE_CHARGING:
        return None
    family = story.facts.family
    if family is not None and family is not Family.PRIMARY and run.cut_off_v is not None:
        least_v = rules.value(limits.CUT_OFF_V[family])
        if run.cut_off_v > least_v + rules.value(limits.STOPPED_HIGH_V) + _ROUNDING:
            return said("part-stopped-high", at=volts(run.cut_off_v), least=volts(least_v))
    return None if is_full else said("part-not-full")
