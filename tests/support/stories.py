"""Short ways to write a cell's story in tests."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any, Literal

from zembric.core.house.limits import Family
from zembric.core.house.rules import HouseRules
from zembric.core.judge.judge import judge
from zembric.core.judge.judgement import Judgement
from zembric.core.story import (
    UNSAID_HEAT,
    CameBack,
    CapacityRun,
    CellBuild,
    CellFacts,
    Charge,
    Decision,
    DonorKind,
    Event,
    Finding,
    Heat,
    Inspection,
    Overrule,
    Recovery,
    Repair,
    ResistanceReading,
    RestingVoltage,
    Shelved,
    Skip,
    Story,
)

START = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)
RULES = HouseRules(1, "usual", "health")


def at(days: float = 0, hours: float = 0, minutes: float = 0) -> datetime:
    return START + timedelta(days=days, hours=hours, minutes=minutes)


def looked(*findings: str, when: datetime = START) -> Inspection:
    return Inspection(when, frozenset(Finding(finding) for finding in findings))


def mended(*done: str, when: datetime = START) -> Repair:
    return Repair(when, frozenset(Finding(finding) for finding in done))


def resting(
    value_v: float, when: datetime = START, resolution_v: float = 0.01, heat: Heat = UNSAID_HEAT
) -> RestingVoltage:
    return RestingVoltage(when, value_v, resolution_v, heat)


def charged(when: datetime, end_v: float = 4.2, *, complete: bool = True, heat: Heat = UNSAID_HEAT) -> Charge:
    return Charge(when, complete, end_v, heat=heat)


def came_back(when: datetime, source: Any = "pack") -> CameBack:
    return CameBack(when, source)


def ran(
    value_mah: float, when: datetime, method: Any = "tester", *, complete: bool = True, cut_off_v: float | None = None
) -> CapacityRun:
    """A run; where nobody says what it stopped at, it stopped where the family's do."""
    return CapacityRun(when, value_mah, method, complete, 1000, cut_off_v)


def resists(value_mohm: float, when: datetime, method: Any = "ac-1khz") -> ResistanceReading:
    return ResistanceReading(when, value_mohm, method)


def recovered(outcome: Any, when: datetime) -> Recovery:
    return Recovery(when, outcome)


def decided(about: Any, outcome: Any, when: datetime) -> Decision:
    return Decision(when, about, outcome)


def skipped(when: datetime, what: Any = "resistance") -> Skip:
    return Skip(when, what, "no instrument here")


def overruled(grade: Any, when: datetime) -> Overrule:
    return Overrule(when, grade, "seen with my own eyes")


def shelved(when: datetime) -> Shelved:
    return Shelved(when)


def a_story(
    *events: Event,
    size: str | None = "18650",
    family: Family | None = Family.LAYERED_OXIDE,
    full_v: float | None = None,
    rated_mah: float | Literal["usual"] | None = "usual",
    claimed_mah: float | None = None,
    donor: DonorKind = "laptop",
    build: CellBuild | None = None,
    siblings_v: tuple[float, ...] = (),
    opened_at: datetime | None = None,
) -> Story:
    rated = (
        (1300 if family is Family.TITANATE else 1700 if family is Family.IRON_PHOSPHATE else 2600)
        if rated_mah == "usual"
        else rated_mah
    )
    facts = CellFacts(size, family, full_v, rated, claimed_mah, build=build)
    return Story(facts, donor, events, siblings_v, opened_at)


def fully_tested(capacity_mah: float = 2300, mohm: float = 40, method: Any = "ac-1khz") -> tuple[Event, ...]:
    """The usual way up to a resistance: looked at, 3.7 V, charged, run down a day later."""
    return (
        looked(),
        resting(3.7, at(minutes=1)),
        charged(at(hours=3)),
        ran(capacity_mah, at(days=1)),
        resists(mohm, at(days=1, minutes=5), method),
    )


def judged(story: Story, now: datetime, rules: HouseRules = RULES) -> Judgement:
    return judge(story, rules, now)
