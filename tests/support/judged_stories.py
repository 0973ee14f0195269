"""Stories with the grade, the weightiest reason and the next step that follow from the house rules, worked out by hand."""

from __future__ import annotations

from dataclasses import replace

from tests.support.stories import (
    RULES,
    a_story,
    at,
    came_back,
    charged,
    decided,
    fully_tested,
    looked,
    mended,
    overruled,
    ran,
    recovered,
    resists,
    resting,
    shelved,
    skipped,
)
from zembric.core.house.limits import Family
from zembric.core.story import Heat

LATER = at(days=1, hours=1)
STRICT, THRIFTY = replace(RULES, voltage_school="strict"), replace(RULES, voltage_school="thrifty")
BINS, FITNESS = replace(RULES, grade_school="bins"), replace(RULES, grade_school="fitness")
LFP, LTO, HVC, PRIMARY = Family.IRON_PHOSPHATE, Family.TITANATE, Family.HIGH_VOLTAGE_COBALT, Family.PRIMARY
# Full to 4.20 V on day 0, then a reading each on days 2, 9 and 16: loses 8 mV a day, or 3.
LEAKING = [resting(4.18 - 0.008 * d, at(days=1 + d)) for d in (2, 9, 16)]
LOSING = [resting(4.18 - 0.003 * d, at(days=1 + d), 0.001) for d in (2, 9, 16)]

CASES = {
    # name: story, rules, now, grade, sure, weightiest reason, next step
    "nothing known": (a_story(), RULES, at(), "not-yet", None, "missing", "inspect"),
    "hazard wins over a perfect test": (
        a_story(*fully_tested(), looked("swollen", when=at(days=1, minutes=9))), RULES, LATER, "out", "sure", "hazard", "fire-safe-box"),
    "torn wrap": (a_story(looked("torn-wrap")), RULES, at(), "not-yet", None, "missing", "repair"),
    "wrap mended": (a_story(looked("torn-wrap"), mended("torn-wrap")), RULES, at(), "not-yet", None, "missing", "measure-voltage"),
    "wrap mended, torn again": (
        a_story(looked("torn-wrap"), mended("torn-wrap"), looked("torn-wrap", when=at(minutes=1))), RULES, at(minutes=1),
        "not-yet", None, "missing", "repair"),
    "a clean look mends nothing": (a_story(looked("torn-wrap"), looked(when=at(1))), RULES, at(1), "not-yet", None, "missing", "repair"),
    "primary": (a_story(family=PRIMARY), RULES, at(), "out", "sure", "primary", "out-box"),
    "usual: 1.99 V": (a_story(looked(), resting(1.99)), RULES, at(), "out", "sure", "too-low", "out-box"),
    "usual: 2.00 V belongs to the upper band": (a_story(looked(), resting(2.0)), RULES, at(), "not-yet", None, "missing", "recover"),
    "usual: 2.99 V": (a_story(looked(), resting(2.99)), RULES, at(), "not-yet", None, "missing", "recover"),
    "usual: 3.00 V": (a_story(looked(), resting(3.0)), RULES, at(), "not-yet", None, "missing", "charge"),
    "strict: 2.99 V": (a_story(looked(), resting(2.99)), STRICT, at(), "out", "sure", "too-low", "out-box"),
    "thrifty: 1.50 V": (a_story(looked(), resting(1.5)), THRIFTY, at(), "not-yet", None, "missing", "recover"),
    "thrifty: 1.49 V": (a_story(looked(), resting(1.49)), THRIFTY, at(), "out", "sure", "too-low", "out-box"),
    "thrifty: recovered with a mark": (
        a_story(looked(), resting(1.6), recovered("passed", at(hours=1))), THRIFTY, at(hours=1), "not-yet", None, "missing", "rest"),
    "thrifty: the mark is decided once its recovery is proved": (
        a_story(looked(), resting(1.6), recovered("passed", at(hours=1)), resting(3.1, at(hours=2))), THRIFTY, at(hours=2),
        "not-yet", None, "recovery-mark", "decide"),
    "thrifty: mark allowed": (
        a_story(looked(), resting(1.6), recovered("passed", at(hours=1)), resting(3.1, at(hours=2)), decided("recovery-mark", "go-on", at(hours=3))),
        THRIFTY, at(hours=3), "not-yet", None, "missing", "charge"),
    "thrifty: charged before it was proved, so it is decided at once": (
        a_story(looked(), resting(1.6), recovered("passed", at(hours=1)), charged(at(hours=4))), THRIFTY, at(hours=5),
        "not-yet", None, "recovery-mark", "decide"),
    "thrifty: a yes from before the proof is asked for again": (
        a_story(looked(), resting(1.6), recovered("passed", at(hours=1)), decided("recovery-mark", "go-on", at(hours=1.5)), resting(3.1, at(hours=2))),
        THRIFTY, at(hours=2), "not-yet", None, "recovery-mark", "decide"),
    "iron phosphate: 2.4 V": (a_story(looked(), resting(2.4), family=LFP), RULES, at(), "not-yet", None, "missing", "recover"),
    "iron phosphate: 1.4 V": (a_story(looked(), resting(1.4), family=LFP), RULES, at(), "out", "sure", "too-low", "out-box"),
    "iron phosphate, strict: 2.4 V": (a_story(looked(), resting(2.4), family=LFP), STRICT, at(), "out", "sure", "too-low", "out-box"),
    "titanate: 1.9 V goes on": (a_story(looked(), resting(1.9), family=LTO), RULES, at(), "not-yet", None, "missing", "charge"),
    "high-voltage cobalt as layered oxide": (a_story(looked(), resting(1.9), family=HVC), RULES, at(), "out", "sure", "too-low", "out-box"),
    "4.25 V is still full": (a_story(looked(), resting(4.25)), RULES, at(), "not-yet", None, "missing", "charge"),
    "4.26 V is over-voltage": (a_story(looked(), resting(4.26)), RULES, at(), "not-yet", None, "over-voltage", "decide"),
    "4.40 V is full where it is marked so": (a_story(looked(), resting(4.40), family=HVC, full_v=4.4), RULES, at(), "not-yet", None, "missing", "charge"),
    "over-voltage decided out": (
        a_story(looked(), resting(4.3), decided("over-voltage", "out", at(hours=1))), RULES, at(hours=1), "out", "sure", "over-voltage", "out-box"),
    "unknown family": (a_story(looked(), resting(3.7), family=None), RULES, at(), "not-yet", None, "unknown-family", "decide"),
    "zero once is no reading": (a_story(looked(), resting(0.0)), RULES, at(), "not-yet", None, "missing", "measure-voltage"),
    "zero twice counts": (a_story(looked(), resting(0.0), resting(0.01, at(1))), RULES, at(1), "out", "sure", "too-low", "out-box"),
    "an emptied cell at 2.9 V is no find": (
        a_story(*fully_tested(), resting(2.9, at(days=1, hours=1))), RULES, LATER, "A", "sure", "capacity", "charge"),
    "emptied by us, 2.9 V two weeks later is no find in any school": (
        a_story(*fully_tested(), resting(2.9, at(days=16))), STRICT, at(days=16), "A", "sure", "capacity", "charge"),
    "emptied by us and 1.99 V later is too low": (
        a_story(*fully_tested(), resting(1.99, at(days=16))), RULES, at(days=16), "out", "sure", "too-low", "out-box"),
    "thrifty too: 1.99 V after the first charge is too low": (
        a_story(*fully_tested(), charged(at(2), 3.8), shelved(at(2)), resting(1.99, at(30))), THRIFTY, at(30), "out", "sure", "too-low", "out-box"),
    "a shelf cell that reads 0.90 V": (
        a_story(*fully_tested(), charged(at(2), 3.8), shelved(at(2)), resting(0.9, at(16))), RULES, at(16), "out", "sure", "too-low", "out-box"),
    "charged, not drawn from, and 2.99 V: it lost its charge by itself": (
        a_story(*fully_tested(), charged(at(2), 3.2, complete=False), resting(2.99, at(2, 1))), RULES, at(2, 1), "out", "sure", "leaking", "out-box"),
    "charged to less than 3.20 V and 2.99 V says nothing": (
        a_story(*fully_tested(), charged(at(2), 3.19, complete=False), resting(2.99, at(2, 1))), RULES, at(2, 1), "A", "sure", "capacity", "shelve"),
    "what leaked once is not washed away by a charge": (
        a_story(*fully_tested(), charged(at(2)), resting(2.6, at(9)), charged(at(10)), resting(4.18, at(12))), RULES, at(12),
        "out", "sure", "leaking", "out-box"),
    "in use since, so 2.9 V is no leak": (
        a_story(*fully_tested(), charged(at(2), 3.8), came_back(at(40)), looked(when=at(41)), resting(2.9, at(41))), RULES, at(41),
        "A", "sure", "capacity", "shelve"),
    "iron phosphate, emptied by us, 1.49 V": (
        a_story(looked(), resting(3.2), charged(at(hours=2), 3.6), ran(1000, at(1)), resting(1.49, at(9)), family=LFP), RULES, at(9),
        "out", "sure", "too-low", "out-box"),
    "titanate, emptied by us, 1.0 V": (
        a_story(looked(), resting(2.3), charged(at(hours=2), 2.7), ran(1000, at(1)), resting(1.0, at(9)), family=LTO), RULES, at(9),
        "not-yet", None, "missing", "measure-resistance"),
    "found low again after a first recovery and a charge: it leaks": (
        a_story(looked(), resting(2.6), recovered("passed", at(hours=1)), charged(at(hours=3)), resting(2.85, at(2))), RULES, at(2),
        "out", "sure", "leaking", "out-box"),
    "a recovery is not passed before its reading at rest": (
        a_story(looked(), resting(2.6), recovered("passed", at(hours=1))), RULES, at(hours=1.5), "not-yet", None, "missing", "rest"),
    "rested after its recovery, it is measured": (
        a_story(looked(), resting(2.6), recovered("passed", at(hours=1))), RULES, at(hours=2), "not-yet", None, "missing", "measure-voltage"),
    "recovered and charged without: the first reading from day 3 on tells": (
        a_story(looked(), resting(2.6), recovered("passed", at(hours=1)), charged(at(hours=2), 3.1, complete=False), resting(2.79, at(4))), RULES, at(4),
        "out", "sure", "failed-recovery", "out-box"),
    "a discharge in between makes a low reading no relapse": (
        a_story(looked(), resting(2.6), recovered("passed", at(hours=1)), charged(at(hours=3)), ran(2300, at(1)), resting(2.7, at(5))), RULES, at(5),
        "not-yet", None, "missing", "measure-resistance"),
    "a no that a later yes took back": (
        a_story(looked(), resting(4.3), decided("over-voltage", "out", at(1)), decided("over-voltage", "go-on", at(2))), RULES, at(2),
        "not-yet", None, "missing", "charge"),
    "failed recovery": (a_story(looked(), resting(2.6), recovered("failed", at(hours=1))), RULES, at(hours=1), "out", "sure", "failed-recovery", "out-box"),
    "fell back after recovery": (
        a_story(looked(), resting(2.6), recovered("passed", at(hours=1)), resting(2.79, at(hours=2))), RULES, at(hours=2),
        "out", "sure", "failed-recovery", "out-box"),
    "fell back, but within the hour: it is measured again": (
        a_story(looked(), resting(2.6), recovered("passed", at(hours=1)), resting(2.79, at(hours=1.9))), RULES, at(hours=2),
        "not-yet", None, "missing", "measure-voltage"),
    "2.80 V after recovery is enough": (
        a_story(looked(), resting(2.6), recovered("passed", at(hours=1)), resting(2.8, at(hours=2))), RULES, at(hours=2),
        "not-yet", None, "missing", "charge"),
    "charged ten minutes ago": (
        a_story(looked(), resting(3.7), charged(at(hours=3))), RULES, at(hours=3, minutes=10), "not-yet", None, "missing", "rest"),
    "charged half an hour ago": (
        a_story(looked(), resting(3.7), charged(at(hours=3))), RULES, at(hours=3, minutes=30), "not-yet", None, "missing", "measure-capacity"),
    "charged, but not to the end": (
        a_story(looked(), resting(3.7), charged(at(hours=3), 4.09)), RULES, at(hours=4), "not-yet", None, "missing", "charge"),
    "a charge that ends 0.10 V short counts, with a remark": (
        a_story(looked(), resting(3.7), charged(at(hours=3), 4.1)), RULES, at(hours=4), "not-yet", None, "missing", "measure-capacity"),
    "the second short end in a row counts": (
        a_story(looked(), resting(3.7), charged(at(hours=3), 4.0), charged(at(hours=6), 4.01)), RULES, at(hours=7),
        "not-yet", None, "missing", "measure-capacity"),
    "a run that did not begin full is no capacity": (
        a_story(looked(), resting(4.1), ran(1200, at(1)), resists(40, at(1))), RULES, LATER, "not-yet", None, "missing", "charge"),
    "a run that stopped high is no capacity": (
        a_story(looked(), resting(3.7), charged(at(hours=3)), ran(1200, at(1), cut_off_v=3.31), resists(40, at(1))), RULES, LATER,
        "not-yet", None, "missing", "charge"),
    "a run that stopped 0.3 V above the bench's cut-off is one": (
        a_story(looked(), resting(3.7), charged(at(hours=3)), ran(2300, at(1), cut_off_v=3.3), resists(40, at(1))), RULES, LATER,
        "A", "sure", "capacity", "charge"),
    "charge counted fills it": (
        a_story(looked(), resting(3.7), ran(2200, at(hours=3), "charge-counted"), resists(40, at(hours=4))), RULES, at(hours=4),
        "A", "sure", "capacity", "shelve"),
    "an unfinished run is never graded": (
        a_story(looked(), resting(3.7), charged(at(hours=3)), ran(1500, at(hours=6), complete=False)), RULES, at(hours=6),
        "not-yet", None, "missing", "charge"),
    "no resistance yet": (a_story(*fully_tested()[:-1]), RULES, LATER, "not-yet", None, "missing", "measure-resistance"),
    "resistance skipped caps at B": (a_story(*fully_tested()[:-1], skipped(LATER)), RULES, LATER, "B", "sure", "capacity", "charge"),
    "health A": (a_story(*fully_tested(2300)), RULES, LATER, "A", "sure", "capacity", "charge"),
    "health B": (a_story(*fully_tested(1880)), RULES, LATER, "B", "sure", "capacity", "charge"),
    "health C": (a_story(*fully_tested(1500)), RULES, LATER, "C", "sure", "capacity", "charge"),
    "health out": (a_story(*fully_tested(1000)), RULES, LATER, "out", "sure", "capacity-low", "out-box"),
    "on the limit keeps the better grade, borderline": (a_story(*fully_tested(2080)), RULES, LATER, "A", "borderline", "capacity", "repeat-measurement"),
    "a low capacity alone puts nothing out before all four are there": (
        a_story(*fully_tested(900)[:-1]), RULES, LATER, "not-yet", None, "missing", "measure-resistance"),
    "a complete set of an unknown family is not graded": (
        a_story(*fully_tested(900), family=None), RULES, LATER, "not-yet", None, "unknown-family", "decide"),
    "a complete set above full is not graded": (
        a_story(*fully_tested(2300), resting(4.4, LATER)), RULES, LATER, "not-yet", None, "over-voltage", "decide"),
    "borderline out is measured again": (a_story(*fully_tested(1290)), RULES, LATER, "out", "borderline", "capacity-low", "repeat-measurement"),
    "borderline out three times is out": (
        a_story(*fully_tested(1290), charged(at(1, 5)), ran(1290, at(2)), charged(at(2, 5)), ran(1290, at(3))), RULES, at(3), "out", "borderline", "capacity-low", "out-box"),
    "the first run does not count": (
        a_story(*fully_tested(1000), charged(at(2)), ran(2300, at(3))), RULES, at(3), "A", "sure", "capacity", "charge"),
    "median of the last three": (
        a_story(*fully_tested(1000), charged(at(2)), ran(2300, at(3)), charged(at(3, 5)), ran(1000, at(4)), charged(at(4, 5)), ran(2310, at(5))), RULES, at(5),
        "A", "borderline", "capacity", "charge"),
    "bins without a rated value": (a_story(*fully_tested(2100), rated_mah=None), RULES, LATER, "A", "sure", "capacity", "charge"),
    "a claim is never rated": (a_story(*fully_tested(1400), rated_mah=None, claimed_mah=1500), RULES, LATER, "C", "sure", "capacity", "charge"),
    "bins school ignores the rated value": (a_story(*fully_tested(2100), rated_mah=3600), BINS, LATER, "A", "sure", "capacity", "charge"),
    "no bins for titanate, so the rated value counts in that school too": (
        a_story(looked(), resting(2.3), charged(at(hours=2), 2.7), ran(1150, at(1)), resists(20, at(1)), family=LTO), BINS, LATER,
        "A", "sure", "capacity", "charge"),
    "no bins for titanate": (
        a_story(looked(), resting(2.3), charged(at(hours=2), 2.7), ran(1200, at(1)), resists(20, at(1)), family=LTO, rated_mah=None),
        RULES, LATER, "not-yet", None, "missing", "decide"),
    "r Q out at 1 kHz": (a_story(*fully_tested(2300, 140)), RULES, LATER, "out", "sure", "resistance-out", "out-box"),
    "borderline by r Q is measured again": (
        a_story(*fully_tested(2300, 131)), RULES, LATER, "out", "borderline", "resistance-out", "repeat-measurement"),
    "out by a sure capacity and a borderline r Q is out": (
        a_story(*fully_tested(900, 340)), RULES, LATER, "out", "sure", "resistance-out", "out-box"),
    "r Q out by any method but the tester's": (
        a_story(*fully_tested(2300, 60), resists(300, LATER, "dc-10s")), RULES, LATER, "out", "sure", "resistance-out", "out-box"),
    "a tester's own value makes a grade less sure, never out": (
        a_story(*fully_tested(2300, 120, "tester")), RULES, LATER, "A", "likely", "capacity", "charge"),
    "r Q doubled for 10 s": (a_story(*fully_tested(2300, 140, "dc-10s")), RULES, LATER, "A", "sure", "capacity", "charge"),
    "a tester's high resistance is measured better": (a_story(*fully_tested(2300, 140, "tester")), RULES, LATER, "A", "likely", "capacity", "measure-resistance"),
    "fitness needs a DC resistance": (a_story(*fully_tested()), FITNESS, LATER, "not-yet", None, "missing", "measure-resistance"),
    "fitness: weak under load": (a_story(*fully_tested(2300, 220, "dc-10s")), FITNESS, LATER, "B", "sure", "power", "charge"),
    "fitness: a house cap is certain": (a_story(*fully_tested(2300, 60, "dc-10s")), FITNESS, LATER, "A", "sure", "capacity", "charge"),
    "leaking": (a_story(looked(), resting(3.7), charged(at(1)), *LEAKING), RULES, at(17), "out", "sure", "leaking", "out-box"),
    "on watch": (
        a_story(*fully_tested(), charged(at(days=1, hours=2)), shelved(at(2)), *LOSING), RULES, at(18), "A", "sure", "capacity", "keep"),
    "filled for storage, not shelved": (a_story(*fully_tested(), charged(LATER, 3.8)), RULES, LATER, "A", "sure", "capacity", "shelve"),
    "shelved": (a_story(*fully_tested(), charged(LATER, 3.8), shelved(at(2))), RULES, at(3), "A", "sure", "capacity", "keep"),
    "two weeks on the shelf": (a_story(*fully_tested(), charged(LATER, 3.8), shelved(at(2))), RULES, at(16), "A", "sure", "capacity", "recheck"),
    "charged again, so no longer on the shelf": (
        a_story(*fully_tested(), charged(LATER, 3.8), shelved(at(2)), charged(at(3))), RULES, at(3), "A", "sure", "capacity", "shelve"),
    "skipped capacity: no grade, and the step stays open": (
        a_story(looked(), resting(3.7), charged(at(hours=3)), skipped(at(hours=4), "capacity")), RULES, at(hours=4),
        "not-yet", None, "missing", "measure-capacity"),
    "a finding that only wants mending comes before the voltage": (
        a_story(looked("corroded-ends"), resting(3.7, at(minutes=1))), RULES, at(minutes=2), "not-yet", None, "missing", "repair"),
    "2.85 V after a recovery, three weeks later: nothing more is asked": (
        a_story(looked(), resting(2.6), recovered("passed", at(hours=1)), resting(2.85, at(21))), RULES, at(21), "not-yet", None, "missing", "charge"),
    "lower still within the hour after a recovery: it is no find, and measured again": (
        a_story(looked(), resting(2.6), recovered("passed", at(hours=1)), resting(2.5, at(hours=1.5))), RULES, at(hours=2),
        "not-yet", None, "missing", "measure-voltage"),
    "once failed, always failed": (
        a_story(looked(), resting(2.6), recovered("failed", at(hours=1)), recovered("passed", at(hours=3)), resting(3.6, at(hours=5))), RULES, at(hours=6),
        "out", "sure", "failed-recovery", "out-box"),
    "the lowest voltage before the first charge counts": (
        a_story(looked(), resting(1.9), resting(2.4, at(hours=2))), RULES, at(hours=2), "out", "sure", "too-low", "out-box"),
    "thrifty: a mark that a coordinator refused": (
        a_story(looked(), resting(1.6), recovered("passed", at(hours=1)), decided("recovery-mark", "out", at(hours=2))), THRIFTY, at(hours=2),
        "out", "sure", "recovery-mark", "out-box"),
    "no later reading washes an over-voltage away": (
        a_story(looked(), resting(4.3), resting(4.22, at(hours=3))), RULES, at(hours=3), "not-yet", None, "over-voltage", "decide"),
    "an over-voltage is decided by what comes after it only": (
        a_story(looked(), decided("over-voltage", "go-on", at()), resting(4.3, at(hours=1))), RULES, at(hours=1), "not-yet", None, "over-voltage", "decide"),
    "0.20 V above full is still decided": (
        a_story(looked(), resting(4.40)), RULES, at(), "not-yet", None, "over-voltage", "decide"),
    "more than 0.20 V above full is a hazard": (
        a_story(looked(), resting(4.41)), RULES, at(), "out", "sure", "hazard", "fire-safe-box"),
    "an overcharge stays a hazard whatever was decided and read": (
        a_story(looked(), charged(at(hours=1), 4.45), decided("over-voltage", "go-on", at(hours=2)), resting(4.1, at(3))), RULES, at(3),
        "out", "sure", "hazard", "fire-safe-box"),
    "iron phosphate on a charger for layered oxide is a hazard": (
        a_story(looked(), resting(3.3), charged(at(hours=1), 4.2), family=LFP), RULES, at(hours=1), "out", "sure", "hazard", "fire-safe-box"),
    "iron phosphate at 3.70 V goes on": (a_story(looked(), resting(3.70), family=LFP), RULES, at(), "not-yet", None, "missing", "charge"),
    "unmarked high-voltage cobalt at 4.45 V is decided": (
        a_story(looked(), resting(4.45), family=HVC), RULES, at(), "not-yet", None, "over-voltage", "decide"),
    "unmarked high-voltage cobalt above 4.65 V is a hazard": (
        a_story(looked(), resting(4.66), family=HVC), RULES, at(), "out", "sure", "hazard", "fire-safe-box"),
    "a primary cell that was charged is a hazard": (
        a_story(looked(), charged(at(hours=1), 3.5), family=PRIMARY), RULES, at(hours=1), "out", "sure", "hazard", "fire-safe-box"),
    "an unknown cell that was charged is decided": (
        a_story(charged(at(hours=1), 3.5), family=None), RULES, at(hours=1), "not-yet", None, "unknown-family", "decide"),
    "charged below freezing is decided": (
        a_story(looked(), resting(3.7), charged(at(hours=2), heat=Heat(room_degc=-1))), RULES, at(hours=3), "not-yet", None, "cold-charge", "decide"),
    "hot while it was charged is decided": (
        a_story(looked(), resting(3.7), charged(at(hours=2), heat=Heat(46, 21))), RULES, at(hours=3), "not-yet", None, "hot-charge", "decide"),
    "charged after it read nothing is decided": (
        a_story(looked(), resting(0.0), charged(at(hours=2)), resting(4.1, at(hours=4))), RULES, at(hours=4), "not-yet", None, "charged-at-zero", "decide"),
    "10 K above its room at rest is a hazard": (
        a_story(looked(), resting(3.7, heat=Heat(31.1, 21))), RULES, at(), "out", "sure", "hazard", "fire-safe-box"),
    "10 K above its room within the hour after a charge is not": (
        a_story(looked(), resting(3.7), charged(at(hours=3)), resting(4.1, at(hours=3.9), heat=Heat(31.1, 21))), RULES, at(hours=4),
        "not-yet", None, "missing", "measure-capacity"),
    "warm within the hour after a recovery is a hazard": (
        a_story(looked(), resting(2.6), recovered("passed", at(hours=1)), resting(3.0, at(hours=1.5), heat=Heat(65, 21))), RULES, at(hours=2),
        "out", "sure", "hazard", "fire-safe-box"),
    "45 degC at rest is not yet one": (
        a_story(looked(), resting(3.7, heat=Heat(45, 40))), RULES, at(), "not-yet", None, "missing", "charge"),
    "zero after a good reading is measured again": (
        a_story(looked(), resting(3.7), resting(0.0, at(hours=1))), RULES, at(hours=1), "not-yet", None, "missing", "measure-voltage"),
    "zero, good, zero is not twice in a row": (
        a_story(looked(), resting(0.0), resting(3.7, at(hours=1)), resting(0.0, at(hours=2))), RULES, at(hours=2), "not-yet", None, "missing", "measure-voltage"),
    "it came back: looked at before anything else": (
        a_story(*fully_tested(), charged(at(2), 3.8), shelved(at(2)), came_back(at(9))), RULES, at(9), "A", "sure", "capacity", "inspect"),
    "it came back and was looked at: measured before anything else": (
        a_story(*fully_tested(), charged(at(2), 3.8), came_back(at(9)), looked(when=at(10))), RULES, at(10), "A", "sure", "capacity", "measure-voltage"),
    "two weeks after a full charge, 4.09 V: on watch": (
        a_story(looked(), resting(3.7), charged(at(hours=3)), resting(4.09, at(14, 3))), RULES, at(14, 3), "not-yet", None, "missing", "measure-capacity"),
    "two weeks after a full charge, 4.05 V: leaking": (
        a_story(looked(), resting(3.7), charged(at(hours=3)), resting(4.05, at(14, 3))), RULES, at(14, 3), "out", "sure", "leaking", "out-box"),
    "stored at 3.80 V, 3.30 V three weeks later: leaking": (
        a_story(*fully_tested(), charged(LATER, 3.8), shelved(at(2)), resting(3.3, at(21))), RULES, at(21), "out", "sure", "leaking", "out-box"),
    "a large error never hides a larger loss": (
        a_story(looked(), resting(3.7), charged(at()), resting(4.1, at(2)), resting(2.0, at(2.5))), RULES, at(2.5), "out", "sure", "leaking", "out-box"),
    "iron phosphate settles from 3.45 V without leaking": (
        a_story(looked(), resting(3.3), charged(at(hours=1), 3.65), resting(3.42, at(3)), resting(3.34, at(10)), family=LFP), RULES, at(10),
        "not-yet", None, "missing", "measure-capacity"),
    "iron phosphate by volume": (
        a_story(looked(), resting(3.3), charged(at(hours=2), 3.65), ran(1000, at(1)), resists(40, at(1)), family=LFP, rated_mah=None), RULES, LATER,
        "B", "sure", "capacity", "charge"),
    "a flat cell by volume": (
        a_story(looked(), resting(3.7), charged(at(hours=2)), ran(800, at(1)), resists(60, at(1)), size="603048", rated_mah=None), RULES, LATER,
        "A", "sure", "capacity", "charge"),
    "no bins for flat iron phosphate": (
        a_story(looked(), resting(3.3), charged(at(hours=2), 3.65), ran(500, at(1)), resists(60, at(1)), family=LFP, size="603048", rated_mah=None),
        RULES, LATER, "not-yet", None, "missing", "decide"),
    "fitness: a resistance skipped leaves the capacity": (
        a_story(*fully_tested()[:-1], skipped(LATER)), FITNESS, LATER, "B", "sure", "capacity", "charge"),
    "high-voltage cobalt charged to its mark": (
        a_story(looked(), resting(3.8), charged(at(hours=2), 4.35), ran(2300, at(1)), resists(40, at(1)), family=HVC, full_v=4.4, size="21700"), RULES, LATER,
        "A", "sure", "capacity", "charge"),
    "high-voltage cobalt charged to 4.20 of 4.40 V is not full": (
        a_story(looked(), resting(3.8), charged(at(hours=2), 4.2), family=HVC, full_v=4.4), RULES, at(hours=3), "not-yet", None, "missing", "charge"),
    "a step-up empties it": (
        a_story(looked(), resting(3.7), charged(at(hours=3)), ran(2200, at(1), "usb-step-up"), resists(40, at(1))), RULES, LATER, "A", "likely", "capacity", "charge"),
    "half a year after the look that was due": (
        a_story(*fully_tested(), charged(LATER, 3.8), shelved(at(2)), resting(3.8, at(17))), RULES, at(197), "A", "sure", "capacity", "recheck"),
    "a coordinator judges lower": (
        a_story(*fully_tested(2300), overruled("C", LATER)), RULES, LATER, "C", "sure", "overruled", "charge"),
    "a coordinator judges it out": (
        a_story(*fully_tested(2300), overruled("out", LATER)), RULES, LATER, "out", "sure", "overruled", "out-box"),
    "a hazard goes before a coordinator's judgement": (
        a_story(*fully_tested(2300), overruled("A", LATER), looked("dented", when=LATER)), RULES, LATER, "out", "sure", "hazard", "fire-safe-box"),
    "a coordinator's judgement taken back": (
        a_story(*fully_tested(2300), overruled("C", LATER), overruled(None, LATER)), RULES, LATER, "A", "sure", "capacity", "charge"),
}  # fmt: skip
