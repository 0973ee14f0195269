"""Sound cells and the slips people make with them, each by its name: none of them is thrown away or put aside."""

from __future__ import annotations

from tests.support.stories import (
    a_story,
    at,
    came_back,
    charged,
    fully_tested,
    looked,
    ran,
    recovered,
    resists,
    resting,
    shelved,
)
from zembric.core.house.limits import Family
from zembric.core.story import CapacityRun, Heat, Inspection, Story

LFP, LTO, HVC = Family.IRON_PHOSPHATE, Family.TITANATE, Family.HIGH_VOLTAGE_COBALT
LOOK = (looked(), resting(3.7, at(minutes=1)))
STORED = (*fully_tested(), charged(at(1.2), 3.8, complete=False), shelved(at(1.3)))


def _run(
    value_mah: float, day: float, *, complete: bool = True, started_full: bool | None = None, cut_off_v: float = 3.0
) -> CapacityRun:
    return CapacityRun(at(day), value_mah, "tester", complete, 1000, cut_off_v, started_full=started_full)


SOUND: dict[str, Story] = {
    "measured as usual": a_story(*fully_tested()),
    "a run from half full says nothing of its capacity": a_story(*LOOK, _run(900, 0.2), charged(at(1)), _run(2300, 2), resists(40, at(2.1))),
    "a run that was said not to start full": a_story(*LOOK, charged(at(0.2)), _run(900, 1, started_full=False), resists(40, at(1.1))),
    "a run that was stopped by hand": a_story(*LOOK, charged(at(0.2)), _run(700, 1, complete=False), resists(40, at(1.1))),
    "a run that stopped at 3.60 V": a_story(*LOOK, charged(at(0.2)), _run(800, 1, cut_off_v=3.6), resists(40, at(1.1))),
    "a charge that ended at 4.11 V": a_story(*LOOK, charged(at(0.2), 4.11), _run(2200, 1), resists(40, at(1.1))),
    "a charge that was taken off at 4.05 V": a_story(*LOOK, charged(at(0.2), 4.05, complete=False), _run(2000, 1), resists(40, at(1.1))),
    "emptied by us, 2.95 V an hour later": a_story(*fully_tested(), resting(2.95, at(1.1))),
    "emptied by us, 2.70 V two weeks later": a_story(*fully_tested(), resting(2.7, at(15))),
    "emptied by us, 3.25 V, then charged": a_story(*fully_tested(), resting(3.25, at(2)), charged(at(3)), resting(4.18, at(4))),
    "found at 3.05 V": a_story(looked(), resting(3.05)),
    "found full": a_story(looked(), resting(4.20)),
    "found at 4.24 V by a cheap meter": a_story(looked(), resting(4.24)),
    "found settling for two days": a_story(looked(), resting(3.75), resting(3.71, at(1)), resting(3.70, at(2))),
    "two meters that differ by 20 mV": a_story(*STORED, resting(3.80, at(3)), resting(3.78, at(3.01)), resting(3.80, at(20))),
    "stored for half a year": a_story(*STORED, resting(3.79, at(3)), resting(3.77, at(100)), resting(3.75, at(190))),
    "full, and half a year on the shelf": a_story(*fully_tested(), charged(at(2)), shelved(at(2)), resting(4.18, at(3)), resting(4.11, at(180))),
    "relaxing after its charge": a_story(*fully_tested(), charged(at(2)), resting(4.19, at(2, 1)), resting(4.17, at(2, 12)), resting(4.165, at(4))),
    "recovered once and stable since": a_story(looked(), resting(2.6), recovered("passed", at(0.05)), resting(3.2, at(0.1)), charged(at(0.3)), resting(4.17, at(4))),
    "recovered, and 2.85 V after its hour": a_story(looked(), resting(2.6), recovered("passed", at(0.05)), resting(2.85, at(0.1))),
    "back from a device, empty": a_story(*STORED, came_back(at(40), "device"), looked(when=at(41)), resting(3.1, at(41))),
    "back from a pack, looked at and measured": a_story(*STORED, came_back(at(40)), looked(when=at(41)), resting(3.6, at(41))),
    "warm just after its charge": a_story(*LOOK, charged(at(0.2)), Inspection(at(0.21), frozenset(), Heat(33, 20))),
    "44 °C in a device that was on": a_story(Inspection(at(minutes=10), frozenset(), Heat(44, 20)), opened_at=at()),
    "iron phosphate that relaxes from 3.60 V to 3.34 V": a_story(
        looked(), resting(3.28), charged(at(0.2), 3.6), resting(3.45, at(0.3)), resting(3.36, at(2)), resting(3.34, at(16)), family=LFP),
    "iron phosphate charged to 3.65 V": a_story(looked(), resting(3.28), charged(at(0.2), 3.65), family=LFP),
    "iron phosphate found at 2.6 V": a_story(looked(), resting(2.6), family=LFP),
    "titanate charged to 2.80 V": a_story(looked(), resting(2.3), charged(at(0.2), 2.8), family=LTO),
    "titanate found at 2.0 V": a_story(looked(), resting(2.0), family=LTO),
    "high-voltage cobalt at its mark": a_story(looked(), resting(3.8), charged(at(0.2), 4.4), resting(4.38, at(1)), family=HVC, full_v=4.4),
    "a small cell with a high but believable resistance": a_story(
        looked(), resting(3.7), charged(at(0.2)), ran(500, at(1)), resists(300, at(1.1)), size="13400", rated_mah=550),
    "a small flat cell that holds what it says": a_story(
        looked(), resting(3.8), charged(at(0.2)), ran(95, at(1)), resists(450, at(1.1)), size="402030", rated_mah=100),
    "the sound sibling of a weak cell": a_story(looked(), resting(3.70), siblings_v=(2.9, 3.70, 3.71)),
    "never claimed anything": a_story(*fully_tested(), rated_mah=None),
    "from a vape": a_story(looked(), resting(3.4), charged(at(0.2)), ran(520, at(1)), resists(60, at(1.1)), size="13400", rated_mah=550, donor="vape"),
}  # fmt: skip
