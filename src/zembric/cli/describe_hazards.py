"""The table of hazards and what stops each where, found out by asking the rules themselves about one cell after another."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError
from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.house.rules import USUAL_RULES, HouseRules
from zembric.core.identify.claims import check_rated
from zembric.core.identify.families import check_marked_full_v
from zembric.core.identify.sizes import read_size
from zembric.core.judge.judge import judge
from zembric.core.measure.entry_checks import refuse_shorted
from zembric.core.pack.rules import (
    NOT_ONTO_THE_SHELF,
    PackedCell,
    objection,
    refusals_to_build,
    refusals_to_give_out,
)
from zembric.core.said import Said, as_said
from zembric.core.story import (
    HAZARDS,
    CameBack,
    CapacityRun,
    CellFacts,
    Charge,
    Event,
    Finding,
    Heat,
    Inspection,
    Recovery,
    ResistanceReading,
    RestingVoltage,
    SecondLook,
    Shelved,
    Story,
)
from zembric.wording import say

if TYPE_CHECKING:
    from collections.abc import Callable

_START = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)
_OXIDE = CellFacts("18650", Family.LAYERED_OXIDE, None, 2600, None)
_THRIFTY = replace(USUAL_RULES, voltage_school="thrifty")


def _at(days: float, hours: float = 0) -> datetime:
    return _START + timedelta(days=days, hours=hours)


def _seen(*findings: Finding, days: float = 0, heat: Heat | None = None) -> Inspection:
    return Inspection(_at(days), frozenset(findings), heat or Heat())


def _rests(value_v: float, days: float, hours: float = 0) -> RestingVoltage:
    return RestingVoltage(_at(days, hours), value_v, 0.001)


#: What made a cell sound: looked at, measured, charged for storage, on the shelf, and measured there.
_SOUND: tuple[Event, ...] = (
    _seen(), _rests(3.71, 0), Charge(_at(0.2), complete=True, end_v=4.2),
    CapacityRun(_at(1), 2300, "tester", complete=True, current_ma=500, cut_off_v=2.8),
    ResistanceReading(_at(1.1), 45, "ac-1khz"), Charge(_at(1.2), complete=True, end_v=3.8), Shelved(_at(1.3)),
    _rests(3.79, 3), _rests(3.79, 9),
)  # fmt: skip
_NOW = _at(13)


@dataclass(frozen=True, slots=True)
class Danger:
    """A danger by its name: what happened to an otherwise sound cell (or instead of all that, with `alone`)."""

    name: str
    events: tuple[Event, ...]
    facts: CellFacts = _OXIDE
    rules: HouseRules = USUAL_RULES
    alone: bool = False

    @property
    def story(self) -> Story:
        return Story(self.facts, "laptop", self.events if self.alone else _SOUND + self.events)


def dangers() -> tuple[Danger, ...]:
    """Every danger the judge knows, from those found by eye to those that only time shows."""
    found = [Danger(f"Found: {kind.value.replace('-', ' ')}", (_seen(kind, days=12),)) for kind in sorted(HAZARDS)]
    repairable = [Danger(f"Found: {kind.value.replace('-', ' ')}", (_seen(kind, days=12),)) for kind in Finding if kind not in HAZARDS]  # fmt: skip
    low = (_seen(), _rests(2.6, 0))
    very_low = (_seen(), _rests(1.7, 0))
    woken = Recovery(_at(0.1), "passed")
    return (
        *found,
        Danger("At rest above 45 °C", (_seen(days=12, heat=Heat(cell_degc=51)),)),
        Danger("At rest 10 K above its room", (_seen(days=12, heat=Heat(cell_degc=33, room_degc=21)),)),
        Danger("Warm to the hand at rest", (_seen(days=12, heat=Heat(warmth="warm")),)),
        Danger("Hot in its recovery", (*low, Recovery(_at(0.1), "failed", Heat(cell_degc=65))), alone=True),
        Danger("Rested above full by more than 0.05 V", (_rests(4.28, 12),)),
        Danger("Rested or charged above full by more than 0.20 V", (_rests(4.41, 12),)),
        Danger(
            "Charged on a charger for another family",
            (_seen(), Charge(_at(0.2), complete=True, end_v=4.2)),
            replace(_OXIDE, family=Family.IRON_PHOSPHATE), alone=True,
        ),
        Danger("A primary cell", (_seen(), _rests(3.1, 0)), replace(_OXIDE, family=Family.PRIMARY), alone=True),
        Danger(
            "A primary cell that was charged",
            (_seen(), Charge(_at(0.2), complete=True, end_v=3.6)),
            replace(_OXIDE, family=Family.PRIMARY), alone=True,
        ),
        Danger("Of unknown chemistry", (_seen(), _rests(3.71, 0)), replace(_OXIDE, family=None), alone=True),
        Danger(
            "Charged while its chemistry was unknown",
            (_seen(), Charge(_at(0.2), complete=True, end_v=4.1)),
            replace(_OXIDE, family=None), alone=True,
        ),
        Danger(
            "Charged after it read next to nothing",
            (_seen(), _rests(0.0, 0), Charge(_at(0.2), complete=True, end_v=4.2), _rests(4.15, 2)), alone=True,
        ),
        Danger("Charged below 0 °C", (Charge(_at(12), complete=True, end_v=3.8, heat=Heat(cell_degc=-3)),)),
        Danger("Got hot while it was charged", (Charge(_at(12), complete=True, end_v=3.8, heat=Heat(cell_degc=55)),)),
        Danger("Found below its lowest voltage", (_seen(), _rests(1.9, 0)), alone=True),
        Danger("Found in its recovery band", low, alone=True),
        Danger("Read below its lowest voltage later", (_rests(0.9, 12),)),
        Danger("Lost its charge by itself", (Charge(_at(9.5), complete=True, end_v=4.2), _rests(2.9, 12))),
        Danger("Recovery not proved by a reading at rest", (*low, woken, *(_SOUND[2:7])), alone=True),
        Danger("Low again after its recovery", (*low, woken, Charge(_at(0.2), complete=False, end_v=3.1), _rests(2.79, 4)), alone=True),
        Danger("Recovered from very low: marked for life", (*very_low, woken, _rests(3.2, 0.2), *_SOUND[2:]), rules=_THRIFTY, alone=True),
        Danger("A cell of its donor was a hazard", (SecondLook(_at(12), "1002", frozenset({Finding.SWOLLEN}), "donor"),)),
        Danger("A cell of its pack was a hazard", (SecondLook(_at(12), "1002", frozenset({Finding.SWOLLEN}), "pack"),)),
        Danger("A cell beside it was a hazard", (SecondLook(_at(12), "1002", frozenset({Finding.SWOLLEN}), "place"),)),
        Danger("Came back, or out of a pack", (CameBack(_at(12), "pack"),)),
        Danger("Fell", (CameBack(_at(12), "fall"),)),
        Danger("Charged since it was measured", (Charge(_at(12), complete=True, end_v=3.8),)),
        *repairable,
    )  # fmt: skip


def describe_hazards() -> str:
    """docs/hazards.md: a row for each danger, a column for each place where it could go on."""
    lines = [
        "# Hazards, and what stops them where", "",
        "Made by `./zembric describe`: each row is a cell whose story is given to the judge and to the rules of packs, each entry "
        "what they answered. A cell is sound before (measured, graded, charged for storage, on the shelf) unless the danger lies in "
        "how it was found. The usual house rules hold; a mark for life comes from the thrifty school. `-`: nothing stops it there, and nothing "
        "has to.", "",
        "Two things hold for every hazard besides: it goes into the fire-safe box, the pack it stands in is stopped and who has that pack "
        "is named on the first page, and the cells of its donor, its pack and its box are looked at again.", "",
        "| danger | bench: next step | charge | shelf | match | build | out | back |", "| --- | --- | --- | --- | --- | --- | --- | --- |",
    ]  # fmt: skip
    lines += [_row(danger) for danger in dangers()]
    lines += ["", "## Refused at the entry", "", "| what | answer |", "| --- | --- |"]
    lines += [f"| {what} | {answer} |" for what, answer in _refused_entries()]
    lines += ["", "## Of the pack as a whole", "", "| what | where | answer |", "| --- | --- | --- |"]
    lines += [f"| {what} | {where} | {answer} |" for what, where, answer in _refused_packs()]
    return "\n".join([*lines, ""])


def _row(danger: Danger) -> str:
    judged = judge(danger.story, danger.rules, _NOW)
    step = judged.next_step.code
    cell = packed(danger)
    back = judge(Story(danger.facts, "laptop", (*danger.story.events, CameBack(_at(12.5), "pack"))), danger.rules, _NOW)
    cells = (
        danger.name,
        step,
        "-" if step in ("charge", "measure-capacity", "keep", "recheck") else "not charged",
        "refused" if judged.grade not in ("A", "B", "C") or step in NOT_ONTO_THE_SHELF else "-",
        _objection(cell, danger.rules) or ("a coordinator is asked" if cell.is_marked else "-"),
        ", ".join(found.code for found in refusals_to_build([cell], is_stale=False, unpicked=(), rules=danger.rules)) or "-",
        ", ".join(found.code for found in refusals_to_give_out([cell], stopped=None, is_commissioned=True)) or "-",
        back.next_step.code,
    )  # fmt: skip
    return f"| {' | '.join(cells)} |"


def _objection(cell: PackedCell, rules: HouseRules) -> str | None:
    against = objection(cell, Family.LAYERED_OXIDE, None, rules)
    return say(against) if against else None


def packed(danger: Danger) -> PackedCell:
    """The cell of a danger as it would stand in a pack."""
    judged = judge(danger.story, danger.rules, _NOW)
    return PackedCell(
        number="1001",
        grade=judged.grade,
        step=judged.next_step.code,
        family=danger.facts.family,
        full_v=danger.facts.full_v,
        resting_v=judged.resting_voltage_v,
        is_on_shelf=True,
        is_on_watch=any(reason.code == "watch" for reason in judged.reasons),
        is_marked=judged.is_marked,
        recovery_proved=judged.recovery_proved,
        has_capacity=judged.capacity is not None,
    )


def _refused_entries() -> list[tuple[str, str]]:
    """What no entry takes, with the answer it gets."""
    tried: list[tuple[str, Callable[[], object]]] = [
        ("A rated value its size cannot hold: 26000 mAh on an 18650", lambda: check_rated(read_size("18650"), Family.LAYERED_OXIDE, 26_000, USUAL_RULES)),
        ("A full voltage of another family: 4.20 V on iron phosphate", lambda: check_marked_full_v(Family.IRON_PHOSPHATE, 4.2)),
        ("The leads touched each other: 0.3 mΩ on an 18650", lambda: refuse_shorted(0.3, read_size("18650"), Family.LAYERED_OXIDE, USUAL_RULES)),
        ("A full voltage of an unknown chemistry", lambda: check_marked_full_v(None, 4.2)),
    ]  # fmt: skip
    found = []
    for what, ask in tried:
        try:
            ask()
        except BadInputError as refused:
            found.append((what, say(refused.said)))
    return found


def _refused_packs() -> list[tuple[str, str, str]]:
    """What stops a pack whose cells are all sound by themselves."""
    sound = packed(Danger("", ()))
    apart = replace(
        sound, number="1002", resting_v=(sound.resting_v or 0) + USUAL_RULES.value(limits.JOIN_WITHIN_V) + 0.01
    )
    unread = replace(sound, resting_v=None)
    asked = [
        ("Its plan is stale", [sound], True, ()),
        ("Cells that were not picked by their labels", [sound], False, ("1001",)),
        ("Cells that rest too far apart", [sound, apart], False, ()),
        ("A resting voltage that no longer holds", [unread], False, ()),
    ]
    rows = [
        (what, "build", " ".join((say(refusal.said), say(refusal.to_do))))
        for what, cells, is_stale, unpicked in asked
        for refusal in refusals_to_build(cells, is_stale=is_stale, unpicked=unpicked, rules=USUAL_RULES)
    ]
    given: list[tuple[str, Said | None, bool, tuple[str, ...]]] = [
        ("It was stopped", as_said("a hazard was found in it."), True, ()),
        ("It was not commissioned", None, False, ()),
        ("It is called back; so is a plan of such cells", None, True, ("their wrap melts.",)),
    ]
    for what, stopped, is_commissioned, why in given:
        for refusal in refusals_to_give_out([sound], stopped=stopped, is_commissioned=is_commissioned, called_back=why):
            rows.append((what, "out", " ".join((say(refusal.said), say(refusal.to_do)))))
    return rows
