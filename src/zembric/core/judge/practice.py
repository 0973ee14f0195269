"""Simulated cells for newcomers to judge, and their judgement held against the judge's own. All randomness is handed in."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from typing import TYPE_CHECKING

from zembric.core.house.limits import Family
from zembric.core.judge.judge import judge
from zembric.core.measure.simulation import SimulatedCell
from zembric.core.said import Amount, Said, all_of, named, said, volts
from zembric.core.story import (
    CapacityRun,
    CellFacts,
    Charge,
    Finding,
    Inspection,
    Repair,
    ResistanceReading,
    RestingVoltage,
    Skip,
    Story,
)

if TYPE_CHECKING:
    from datetime import datetime
    from random import Random

    from zembric.core.grounds import Grade
    from zembric.core.house.rules import HouseRules
    from zembric.core.judge.judgement import Judgement
    from zembric.core.story import Event

_RATED_MAH = (2000, 2200, 2600, 2900)
_HAZARDS = (Finding.SWOLLEN, Finding.DENTED, Finding.LEAKING, Finding.RUSTED_THROUGH)


@dataclass(frozen=True, slots=True)
class PracticeCell:
    """A made-up cell: its story, when it is judged, and what is seen of it, in words."""

    story: Story
    now: datetime
    told: tuple[Said, ...]


@dataclass(frozen=True, slots=True)
class PracticeAnswer:
    """A newcomer's grade against the judge's, with a sentence on it."""

    judgement: Judgement
    is_right: bool
    said: Said


def practice_cell(chance: Random, start: datetime) -> PracticeCell:
    """A cell with a believable story. One in seven has a hazard, one in seven was found low, some lack a measurement."""
    rated_mah = chance.choice(_RATED_MAH)
    true = SimulatedCell(rated_mah * chance.uniform(0.42, 0.98), chance.uniform(40, 190), chance.uniform(0.1, 0.7))
    facts = CellFacts("18650", Family.LAYERED_OXIDE, None, rated_mah, chance.choice([None, None, 9900]))
    at = start
    turn = chance.randrange(7)
    found = (
        frozenset({chance.choice(_HAZARDS)})
        if turn == 0
        else frozenset({Finding.TORN_WRAP})
        if turn == 1
        else frozenset()
    )
    events: list[Event] = [Inspection(at, found)]
    if Finding.TORN_WRAP in found and chance.random() < 0.5:
        events.append(Repair(at + timedelta(minutes=5), found))
    low_v = round(chance.uniform(1.4, 2.9), 2)
    first_v = low_v if turn == 2 else true.resting_v(chance)
    events.append(RestingVoltage(at + timedelta(minutes=10), first_v, 0.01))
    if turn != 2:
        at += timedelta(hours=4)
        events.append(Charge(at, True, 4.2))
        if turn != 3:
            at += timedelta(hours=20)
            events.append(CapacityRun(at, true.measured_capacity_mah(chance), "tester", True, 1000, 3.0))
            events.append(_resistance(chance, true, at + timedelta(minutes=5)))
    story = Story(facts, "laptop", tuple(events))
    return PracticeCell(story, at + timedelta(hours=1), _told(story))


def hold_against(cell: PracticeCell, rules: HouseRules, grade: Grade) -> PracticeAnswer:
    """What the judge says of the same cell under the house's rules."""
    judged = judge(cell.story, rules, cell.now)
    is_right = judged.grade == grade
    if is_right:
        text = said("practice-right", grade=named("grade", grade))
    elif judged.sure == "borderline":
        text = said("practice-unsure", grade=named("grade", judged.grade))
    else:
        text = said("practice-wrong", grade=named("grade", judged.grade), yours=named("grade", grade))
    return PracticeAnswer(judged, is_right, text)


def _resistance(chance: Random, true: SimulatedCell, at: datetime) -> Event:
    if chance.random() < 0.15:
        return Skip(at, "resistance", "")
    method = chance.choice(["ac-1khz", "dc-10s", "tester"])
    value = {
        "ac-1khz": true.ac_resistance_mohm, "dc-10s": true.load_resistance_mohm, "tester": true.tester_resistance_mohm,
    }[method](chance)  # fmt: skip
    return ResistanceReading(at, value, method)  # type: ignore[arg-type]


def _told(story: Story) -> tuple[Said, ...]:
    """What happened, as somebody at the table would tell it."""
    told = [said("told-cell", rated=Amount(story.facts.rated_capacity_mah or 0, "mAh"))]
    if story.facts.claimed_capacity_mah:
        told.append(said("told-claim", claim=Amount(story.facts.claimed_capacity_mah, "mAh")))
    for event in story.events:
        match event:
            case Inspection(findings=findings) if findings:
                told.append(said("told-found", findings=all_of("finding", sorted(findings))))
            case Inspection():
                told.append(said("told-nothing-found"))
            case Repair():
                told.append(said("told-new-wrap"))
            case RestingVoltage():
                told.append(said("told-rested", voltage=volts(event.value_v)))
            case Charge():
                told.append(said("told-charged", ended=volts(event.end_v)))
            case CapacityRun():
                told.append(said("told-emptied", capacity=Amount(event.value_mah, "mAh")))
            case ResistanceReading():
                method = named("told-method", event.method)
                told.append(said("told-resistance", resistance=Amount(event.value_mohm, "mΩ"), method=method))
            case Skip():
                told.append(said("told-no-meter"))
    return tuple(told)
