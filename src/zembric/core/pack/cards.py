"""What goes with a pack to whoever gets it: what it is, how it is charged, what not to do, when to bring it back.

In plain words; each line is one thing to know.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal, get_args

from zembric.core.house import limits
from zembric.core.pack.charge_left import ChargeLeft, charge_left
from zembric.core.pack.checks.runs import standing_ma
from zembric.core.said import Amount, named, said

if TYPE_CHECKING:
    from datetime import date

    from zembric.core.pack.checks import Check, Checked
    from zembric.core.said import Said

Never = Literal["open", "wet", "other-charger", "metal", "post"]
#: Across and along in millimetres.
PackLabelSize = Literal["100x60", "70x45"]
BringBack = Literal["warm", "swells", "smells", "fell", "stops"]
_WEEK_H = 7 * 24
#: Charged anew long before it is empty by what flows always.
_OFTEN = 0.5


@dataclass(frozen=True, slots=True)
class VisitorCard:
    """The lines of a card, section by section."""

    number: str
    purpose: str
    what: tuple[Said, ...]
    charging: tuple[Said, ...]
    never: tuple[Said, ...]
    bring_back: tuple[Said, ...]
    when_hot: tuple[Said, ...]
    left: tuple[ChargeLeft, ...]


@dataclass(frozen=True, slots=True)
class PackLabel:
    """What stands on the pack itself: its number and what whoever opens the case has to know."""

    number: str
    purpose: str
    lines: tuple[Said, ...]


def pack_label(number: str, purpose: str, checked: Checked, made_on: date) -> PackLabel:
    """The label of a pack: shape, volts, energy, what charges it, the most it carries on paper, and when it was made."""
    lines = [
        said(
            "pack-label-what", shape=f"{checked.series}S{checked.parallel}P", family=named("family", checked.family),
            nominal=Amount(checked.series * checked.nominal_v, "V", 1), full=Amount(checked.full_v, "V", 1),
            energy=Amount(checked.energy_wh, "Wh"),
        )
    ]  # fmt: skip
    charger = checked.plan.charger
    if charger is None:
        lines.append(said("pack-label-charged-here"))
    else:
        ends, current = Amount(charger.full_v, "V", 2), Amount(charger.current_ma, "mA")
        lines.append(said("pack-label-charge", ends=ends, current=current))
    if checked.runs is not None and checked.runs.paper.run.seconds:
        lines.append(said("pack-label-most", most=Amount(checked.runs.worst_a, "A", 1)))
    lines += [said("pack-label-made", day=made_on.isoformat()), said("pack-label-never")]
    return PackLabel(number, purpose, tuple(lines))


def visitor_card(number: str, purpose: str, checked: Checked, lines: tuple[Check, ...]) -> VisitorCard:
    """The card of a pack by its plan, its run and its checks."""
    runs = checked.runs
    what = [
        said(
            "card-what", cells=checked.series * checked.parallel, nominal=Amount(checked.series * checked.nominal_v, "V", 1),
            full=Amount(checked.full_v, "V", 1), energy=Amount(checked.energy_wh, "Wh"), family=named("family", checked.family),
        )
    ]  # fmt: skip
    bring_back = [named("card-back", each) for each in get_args(BringBack)]
    if runs is not None and runs.paper.run.seconds:
        hours = runs.paper.shortest_s / 3600 * checked.rules.value(limits.CARD_HOURS_TIMES)
        what.append(said("card-runs", hours=Amount(hours, "h", 1 if hours < 10 else 0)))
        bring_back.insert(0, said("card-back-short", hours=Amount(hours / 2, "h", 1 if hours < 10 else 0)))
    return VisitorCard(
        number, purpose, tuple(what), _charging(checked, lines), tuple(named("card-never", each) for each in get_args(Never)),
        tuple(bring_back), (said("card-hot"), said("card-hot-call")), charge_left(runs.paper) if runs else (),
    )  # fmt: skip


def _charging(checked: Checked, lines: tuple[Check, ...]) -> tuple[Said, ...]:
    charger = checked.plan.charger
    found = []
    if charger is None:
        found.append(said("card-charged-here"))
    else:
        ends, current = Amount(charger.full_v, "V", 2), Amount(charger.current_ma, "mA")
        found.append(said("card-charge-with", ends=ends, current=current, supply=Amount(charger.supply_v, "V", 1)))
        hours = next((line.value for line in lines if line.key == "charge-hours"), None)
        if hours is not None:
            found.append(said("card-charge-hours", hours=hours))
        found.append(said("card-charge-not-in-use" if charger.while_used != "yes" else "card-charge-in-use"))
    found += [said("card-charge-where"), said("card-charge-cold")]
    drain_ma = standing_ma(checked.plan)
    most = checked.rules.value(limits.CARD_CHARGE_WEEKS)
    weeks = checked.weakest_mah / drain_ma / _WEEK_H * _OFTEN if drain_ma else most
    found.append(said("card-store", count=int(max(1, min(weeks, most)))))
    return tuple(found)
