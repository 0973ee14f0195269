"""A pack that comes back: what its looks and the voltages of its groups say; and how true promises turned out to be."""

from __future__ import annotations

from dataclasses import dataclass
from statistics import median
from typing import TYPE_CHECKING, Literal, get_args

from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.said import Amount, Said, named, said, volts

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.house.rules import HouseRules

Seen = Literal["swollen", "smells", "hot", "leaks", "wet", "fell", "case-broken", "charger-changed"]
SEEN_ON_PACK: tuple[Seen, ...] = get_args(Seen)
#: With one of these nobody goes on.
_DANGEROUS: tuple[Seen, ...] = ("swollen", "smells", "hot", "leaks")
#: With these it is opened and looked at before anything flows.
_OPEN_FIRST: tuple[Seen, ...] = ("wet", "fell", "case-broken", "charger-changed")
#: Groups further apart than so many times what they may be at rest have one among them that is odd.
_FEW = 3


@dataclass(frozen=True, slots=True)
class ReturnedPack:
    """What was seen on it, and the voltages of its groups at rest [V]; empty: not measured."""

    seen: tuple[str, ...]
    group_volts: tuple[float, ...]
    family: str


@dataclass(frozen=True, slots=True)
class ReturnFinding:
    """One thing that is to be said of it; `group`: the odd one (from 1), None: it is of no group."""

    said: Said
    then: Said
    is_danger: bool = False
    group: int | None = None


def look_at_return(pack: ReturnedPack) -> tuple[ReturnFinding, ...]:
    """The most dangerous first."""
    found = [
        ReturnFinding(said("back-danger", what=named("seen", each)), said("then-back-danger"), is_danger=True)
        for each in _DANGEROUS
        if each in pack.seen
    ]
    found += [
        ReturnFinding(said("back-open", what=named("seen", each)), said("then-back-open"))
        for each in _OPEN_FIRST
        if each in pack.seen
    ]
    if pack.group_volts:
        found += _groups(pack.group_volts, Family(pack.family))
    if not found:
        found.append(ReturnFinding(said("back-nothing"), said("then-back-nothing")))
    return tuple(found)


def _groups(group_volts: Sequence[float], family: Family) -> list[ReturnFinding]:
    """The odd group: below what its cells stand, or away from the middle of the others."""
    ruined, full = limits.NEVER_CHARGE_BELOW_V[family].value, limits.OVERFULL_FROM_V[family].value
    for number, value in enumerate(group_volts, start=1):
        if value < ruined - 1e-9:
            text = said("back-ruined", group=number, value=volts(value), least=volts(ruined))
            return [ReturnFinding(text, said("then-back-ruined"), group=number)]
        if value > full + limits.PROVE_FULL_V.value + 1e-9:
            text = said("back-overfull", group=number, value=volts(value), most=volts(full))
            return [ReturnFinding(text, said("then-back-danger"), is_danger=True, group=number)]
    apart = max(group_volts) - min(group_volts)
    within = limits.GROUPS_WITHIN_V.value
    if apart <= within + 1e-9:
        return [ReturnFinding(said("back-even", apart=volts(apart)), said("then-back-even"))]
    middle = median(group_volts)
    odd = max(range(len(group_volts)), key=lambda at: abs(group_volts[at] - middle))
    if len(group_volts) < _FEW:
        odd = min(range(len(group_volts)), key=lambda at: group_volts[at])
    value, others = group_volts[odd], volts(middle)
    if len(group_volts) < _FEW:
        others = volts(max(group_volts))
    is_low = value < others.value
    text = said("back-odd-low" if is_low else "back-odd-high", group=odd + 1, value=volts(value), others=others)
    return [ReturnFinding(text, said("then-back-odd", group=odd + 1), group=odd + 1)]


@dataclass(frozen=True, slots=True)
class KeptPromise:
    """A pack with the hours that were worked out for it and those that somebody told [h]."""

    number: str
    worked_out_h: float
    told_h: float

    @property
    def share(self) -> float:
        return self.told_h / self.worked_out_h


@dataclass(frozen=True, slots=True)
class HowTrue:
    """Of all promises what came of them in the middle; `times`: what cards should say of what is worked out."""

    promises: tuple[KeptPromise, ...]
    share: float
    is_off: bool
    times: float
    said: Said


#: From so many told hours on it is worth saying anything of all.
_ENOUGH = 3


def how_true(promises: Sequence[KeptPromise], rules: HouseRules) -> HowTrue | None:
    """Held against what cards say now; None: nobody told of any."""
    if not promises:
        return None
    share = median(promise.share for promise in promises)
    now = rules.value(limits.CARD_HOURS_TIMES)
    times = round(min(max(share, limits.CARD_HOURS_LEAST.value), 1.0), 2)
    off = abs(share / now - 1)
    is_off = len(promises) >= _ENOUGH and off > rules.value(limits.PROMISE_OFF_SHARE) and times != now
    told = Amount(100 * share, "%")
    return HowTrue(
        tuple(promises), share, is_off, times,
        said("promises-off", count=len(promises), share=told) if is_off
        else said("promises-few", count=len(promises), share=told) if len(promises) < _ENOUGH
        else said("promises-true", count=len(promises), share=told),
    )  # fmt: skip
