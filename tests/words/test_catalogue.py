"""Every code has its words, every word its code, and a second language is one file: nothing of the first shows through."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from typing import get_args

import pytest

from tests.support.judged_stories import CASES
from tests.support.languages import accented
from zembric.cli.describe_codes import CODES
from zembric.core.codes import InstrumentKind, PlaceKind
from zembric.core.grade.assessment import Missing
from zembric.core.grounds import Grade
from zembric.core.house.limits import ALL_LIMITS, Family
from zembric.core.house.rules import SWITCHES, GradeSchool, VoltageSchool
from zembric.core.identify.donor_clues import SYMPTOMS
from zembric.core.identify.donor_kinds import NOT_FOR_THIS_TABLE
from zembric.core.identify.ends import BUILDS, TERMINALS
from zembric.core.identify.numbering import NumberedThing
from zembric.core.judge.judge import judge
from zembric.core.match.conditions import OneKind
from zembric.core.match.tolerances import TOLERANCE_KEYS
from zembric.core.measure.figures import METHODS_BEST_FIRST, SetBy
from zembric.core.measure.methods import METHODS
from zembric.core.measure.uncertainty import Sureness
from zembric.core.next_step.planner import STEP_RULES, Doubtful
from zembric.core.pack.cards import BringBack, Never
from zembric.core.pack.checks.model import CheckKey
from zembric.core.pack.joining import WayCode
from zembric.core.pack.outside import Seen
from zembric.core.pack.parts import PART_INPUTS
from zembric.core.pack.states import NEXT_STATES
from zembric.core.pack.steps.model import JointKind
from zembric.core.run.model import WrongCode
from zembric.core.said import Amount, Parameter, Said, Span, from_json, said, to_json, volts
from zembric.core.story import REPAIRABLE, CameFrom, DecisionAbout, Finding, VoltageState, Warmth
from zembric.core.sums.all import ALL_SUMS
from zembric.core.sums.things import THINGS
from zembric.paths import ROOT
from zembric.wording import USUAL_LANGUAGE, Words, catalogue_file, say, words

PARAMETER = re.compile(r"\{ \$(\w+)")
#: Members of each kind whose names stand in the catalogue.
NAMED = {
    "check": get_args(CheckKey),
    "check-why": get_args(CheckKey),
    "card-back": get_args(BringBack),
    "card-never": get_args(Never),
    "join-way": get_args(WayCode),
    "layout-face": ["top", "bottom", "tabs"],
    "at-hand": get_args(JointKind),
    "cell-joint": get_args(JointKind),
    "seen": get_args(Seen),
    "cell-end": ["up", "down"],
    "caution-joint": get_args(JointKind),
    "todo-joint": get_args(JointKind),
    "recell-never": ["polarity", "heat", "press", "sensor", "protection", "charger"],
    "recell-not": ["family", "full-voltage", "size", "current", "protection"],
    "mend-charger-full": ["series", "above", "below"],
    "mend-conductor": ["wire", "strip"],
    "mend-house": [f"{key}{never}" for key in ("pack-volts", "pack-energy") for never in ("", "-never")],
    "worked-balance": ["bleed", "active"],
    "worked-board-sleeps": ["yes", "unknown"],
    "worked-lamp": ["known", "unknown"],
    "worked-own-protection": ["series", "parallel", "both"],
    "worked-transport": ["by-hand", "post", "air"],
    "part-input": {asked.key for inputs in PART_INPUTS.values() for asked in inputs},
    "axis": ["minutes", "days-since-charge"],
    "formula": [*(f"way-{name}" for name in METHODS), *ALL_SUMS],
    "instrument-kind": get_args(InstrumentKind),
    "line": ["voltage", "higher-cell", "lower-cell", "readings", "fit"],
    "on-the-bench": [thing.code for thing in THINGS],
    "pack-state": [*NEXT_STATES, "stopped"],
    "place-kind": get_args(PlaceKind),
    "story-type": ["text", "list", "object", "yes-or-no", "number", "other"],
    "came-back": get_args(CameFrom),
    "conductor": ["wire", "strip"],
    "current-set-by": get_args(SetBy),
    "decision-about": get_args(DecisionAbout),
    "different": get_args(OneKind),
    "plan-gets": ["hot", "warm"],
    "doubtful": get_args(Doubtful),
    "expect": SYMPTOMS,
    "family": [*Family],
    "taker": ["converter", "device"],
    "run-wrong": get_args(WrongCode),
    "thing": get_args(NumberedThing),
    "finding": [*Finding, "dangerous"],
    "good-for": ["high", "usual", "low"],
    "grade": get_args(Grade),
    "mend": [*REPAIRABLE],
    "missing": get_args(Missing),
    "limit": [key.replace("/", "-") for key in ALL_LIMITS],
    "limits-about": {limit.group for limit in ALL_LIMITS.values()} - {""},
    "kept-out": [
        "banned",
        "marked",
        "grade",
        "estimated",
        "current",
        "resistance-unknown",
        "capacity",
        "resistance",
        "voltage",
    ],
    "milder": ["all"],
    "objection": [
        "hazard",
        "in-a-pack",
        "out",
        "not-graded",
        "not-on-shelf",
        "to-charge",
        "not-ready",
        "recovery-unproved",
        "on-watch",
        "other-family",
        "other-full-voltage",
        "from-a-vape",
        "not-here",
        "no-chemistry",
        "no-size",
        "other-size",
    ],
    "resistance-read": METHODS_BEST_FIRST,
    "role": ["time", "voltage", "current", "capacity"],
    "step": ["on-tester", "hand-over", "handed-over", "watched", "read-at-rest"],
    "sure": get_args(Sureness),
    "grade-school": get_args(GradeSchool),
    "grade-school-means": get_args(GradeSchool),
    "instead-of": ["wire", "strip"],
    "touch": ["taker", "giver"],
    "input-has-to-be": ["positive", "zero-or-more", "share"],
    "joining": TERMINALS,
    "switch": [
        name
        for key, switch in SWITCHES.items()
        for name in (key, *(f"{key}-{choice}{why}" for choice in switch.choices for why in ("", "-why")))
    ],
    "turned-away": [f"{code}{instead}" for code in NOT_FOR_THIS_TABLE for instead in ("", "-instead")],
    "usual-plus": BUILDS,
    "voltage-school": get_args(VoltageSchool),
    "voltage-school-means": get_args(VoltageSchool),
    "voltage-school-why": get_args(VoltageSchool),
    "voltage-state": get_args(VoltageState),
    "caution-through": ["protection", "holder", "leads"],
    "spoilt": [trap.key for method in METHODS.values() for trap in method.traps],
    "through": ["nothing", "protection", "holder", "leads"],
    "told-method": ["ac-1khz", "dc-10s", "tester"],
    "tolerance": TOLERANCE_KEYS,
    "trap": [trap.key for method in METHODS.values() for trap in method.traps],
    "warmth": get_args(Warmth),
    "when": [rule.key for rule in STEP_RULES],
}
#: Lines of a log that were left out, by the reader's own names for them.
LEFT_OUT = {"log-cut-line", "log-junk-line", "log-no-value"}
#: What the edge says by itself: of lengths of time, and of what was typed.
OF_THE_EDGE = {"as-said", "span-days", "span-hours", "span-minutes"}


def said_in_code() -> Iterator[tuple[str, set[str], str]]:
    """Every code that is said somewhere, with its parameters and the place."""
    for path in sorted((ROOT / "src" / "zembric").rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if not (isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in ("said", "_of")):
                continue
            first = node.args[0]
            codes = [first.body, first.orelse] if isinstance(first, ast.IfExp) else [first]
            given = {"cells", "count"} if node.func.id == "_of" else {keyword.arg or "" for keyword in node.keywords}
            for code in codes:
                if isinstance(code, ast.Constant):
                    yield str(code.value), given, f"{path.name}:{node.lineno}"
                if isinstance(code, ast.JoinedStr):
                    # All variants are handed the same, and not each needs all of it.
                    yield from ((one, given & asked_by(one), f"{path.name}:{node.lineno}") for one in variants(code))


def asked_by(code: str) -> set[str]:
    return set(PARAMETER.findall(words().source(code)))


def variants(code: ast.JoinedStr) -> Iterator[str]:
    """Codes that differ by a word in them: all of the catalogue that look so."""
    pattern = "".join(
        re.escape(str(part.value)) if isinstance(part, ast.Constant) else r"[\w-]+" for part in code.values
    )
    yield from (each for each in words().codes if re.fullmatch(pattern, each))


def named_by_pages() -> Iterator[tuple[str, str]]:
    """Kinds and codes that pages name, by the tables in their sources."""
    for path in (ROOT / "frontend" / "src").rglob("*.ts*"):
        for kind, codes in re.findall(r'= named\(\s*"([\w-]+)",\s*(\w+)', path.read_text(encoding="utf-8")):
            yield from ((kind, code.replace(" ", "-")) for code in CODES[codes])


def codes_of_members() -> set[str]:
    ours = {f"{kind}-{member}" for kind, members in NAMED.items() for member in members}
    return ours | {f"{kind}-{code}" for kind, code in named_by_pages()}


def test_every_code_has_words_and_every_word_its_code() -> None:
    used = {code for code, _, _ in said_in_code()} | codes_of_members() | OF_THE_EDGE | LEFT_OUT
    assert (sorted(used - words().codes), sorted(words().codes - used)) == ([], [])


def test_words_ask_for_what_is_said_and_for_nothing_else() -> None:
    asked = {code: asked_by(code) for code in words().codes}
    assert [(place, code) for code, given, place in said_in_code() if not asked[code] <= given] == []
    # A count may only choose between one and many.
    assert [(place, code) for code, given, place in said_in_code() if given - asked[code] - {"count"}] == []


def test_what_is_said_is_stored_and_comes_back_the_same() -> None:
    what = said("x", v=volts(3.71), s=Span(90), many=("a", 2, said("y", n=Amount(1, "mAh"))), why="brittle")
    assert from_json(to_json(what)) == what


@pytest.fixture(scope="module")
def made_up() -> Words:
    return Words("de", accented(catalogue_file(USUAL_LANGUAGE).read_text(encoding="utf-8")))


def test_another_language_is_one_file_and_sets_numbers_and_lists_its_own_way(made_up: Words) -> None:
    what = said("ground-health", measured=Amount(2310.4, "mAh"), rated=Amount(2600, "mAh"), health=Amount(88.85, "%", 1), limit=Amount(80, "%"))  # fmt: skip
    assert say(what) == "2310\u00a0mAh of 2600\u00a0mAh rated is 88.9\u00a0%; this grade starts at 80\u00a0%."
    assert "88,9\u00a0%; thîš gràdé štàrtš àt 80\u00a0%." in made_up.say(what)
    three = said("ground-missing", what=("A", "B", "C"))
    assert (say(three), made_up.say(three).rstrip("~")) == ("Still missing: A, B and C.", "Štîll mîššîñg: A, B und C.")


def test_a_figure_that_no_bench_knows_is_told_in_powers_of_ten(made_up: Words) -> None:
    what = said("input-beyond-benches", input="power", value=Amount(1.5e300, "W"))
    assert say(what).startswith("1.5E300\u00a0W")
    assert "1,5E300" in made_up.say(what)


@pytest.mark.parametrize("name", CASES)
def test_a_judgement_has_nothing_of_the_first_language_left_in_a_second(name: str, made_up: Words) -> None:
    story, rules, now, *_ = CASES[name]
    found = judge(story, rules, now)
    all_said = [*(reason.said for reason in found.reasons), found.next_step.said, *found.next_step.cautions]
    all_said += [
        each for each in (found.next_step.needs, found.settled_by, found.good_for and found.good_for.said) if each
    ]
    ours = {text for each in all_said for text in re.findall(r"[a-z]{4,}", made_up.say(blanked(each)))}
    assert ours == set()


def blanked(what: Said) -> Said:
    """The same without what people typed, which stays in their own language."""

    def without(name: str, value: Parameter) -> Parameter:
        if isinstance(value, Said):
            return blanked(value)
        # What was read is chosen by its name, and not shown.
        return "" if isinstance(value, str) and name != "how" else value

    return Said(what.code, tuple((name, without(name, value)) for name, value in what.parameters))
