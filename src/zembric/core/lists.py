"""Lists of cells that were kept elsewhere: which column is what, and what each line would become.

A list is rows of texts. Columns are recognised by their headers with units; what was guessed can be set otherwise.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import TYPE_CHECKING, Literal, get_args

from zembric.core.errors import BadInputError, OddInputError, ZembricError
from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.identify.claims import check_rated
from zembric.core.identify.sizes import read_print, read_size
from zembric.core.measure.entry_checks import (
    KnownOfCell,
    check_capacity,
    check_resistance,
    check_voltage,
)
from zembric.core.measure.typed_amounts import Amount, read_amount
from zembric.core.said import Said, plain, said
from zembric.core.story import Finding

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

    from zembric.core.house.rules import HouseRules
    from zembric.core.measure.entry_checks import Quantity

Column = Literal[
    "label", "donor", "donor_kind", "size", "family", "rated_mah", "claimed_mah", "voltage_v", "capacity_mah", "resistance_mohm",
    "mass_g", "findings", "note",
]  # fmt: skip
COLUMNS: tuple[Column, ...] = get_args(Column)
#: How a template's columns are called, in order.
TEMPLATE_HEADER: tuple[str, ...] = (
    "label", "donor", "donor_kind", "size", "family", "rated_capacity_mah", "claimed_capacity_mah", "resting_voltage_v",
    "capacity_mah", "resistance_mohm", "mass_g", "findings", "note",
)  # fmt: skip
_HEADERS: tuple[tuple[Column, str], ...] = (
    ("donor_kind", r"(donor|device|source)[ _]*(kind|type)|kind|category"),
    ("label", r"label|number|no\.?|nr\.?|#|id|cell([ _]*(no\.?|nr\.?|id|number|#))?|serial|name"),
    ("donor", r"donor.*|device.*|source.*|from|origin|came out of"),
    ("size", r"size.*|format|form( factor)?|type"),
    ("family", r"family|chem.*|technology"),
    ("rated_mah", r"(rated|nominal|spec|data ?sheet).*"),
    ("claimed_mah", r"(claim\w*|print\w*|label(l)?ed|advertised).*"),
    ("resistance_mohm", r".*(resist|\bir\b|\bri\b|esr|dcir|acir|impedance|ohm|ω).*"),
    ("voltage_v", r".*(volt|ocv|\bu0?\b|open circuit).*|v"),
    ("mass_g", r"(mass|weight).*"),
    ("capacity_mah", r".*(capac|\bcap\b|mah|\bah\b).*"),
    ("findings", r"finding.*|damage.*|condition|inspection|state"),
    ("note", r"note.*|remark.*|comment.*"),
)
_UNIT_FACTORS: Mapping[Column, Mapping[str, float]] = MappingProxyType(
    {
        "voltage_v": {"v": 1.0, "mv": 0.001},
        "capacity_mah": {"mah": 1.0, "ah": 1000.0},
        "rated_mah": {"mah": 1.0, "ah": 1000.0},
        "claimed_mah": {"mah": 1.0, "ah": 1000.0},
        "resistance_mohm": {"mohm": 1.0, "mω": 1.0, "ohm": 1000.0, "ω": 1000.0},
        "mass_g": {"g": 1.0, "kg": 1000.0},
    }
)
_UNITS = tuple(sorted({unit for factors in _UNIT_FACTORS.values() for unit in factors}, key=len, reverse=True))
_FAMILY_WORDS: tuple[tuple[str, Family], ...] = (
    (r"lfp|life ?po.*|iron.*", Family.IRON_PHOSPHATE),
    (r"lto|titan.*", Family.TITANATE),
    (r"high.?volt.*|.*4\.(35|4|40|45).*", Family.HIGH_VOLTAGE_COBALT),
    (r"prim.*|cr|er|lithium metal|.*socl.*", Family.PRIMARY),
    (r"layer.*|nmc|nca|lco|lmo|icr|inr|imr|ncr|li-?ion|cobalt|.*manganese.*|nickel.*", Family.LAYERED_OXIDE),
)
_QUANTITY: Mapping[Column, Quantity] = MappingProxyType(
    {
        "voltage_v": "voltage", "capacity_mah": "capacity", "rated_mah": "capacity", "claimed_mah": "capacity",
        "resistance_mohm": "resistance", "mass_g": "mass",
    }
)  # fmt: skip
MOST_LINES = 5000
_NOTHING = frozenset({"", "-", "–", "?", "n/a", "na", "none", "null", "unknown"})


@dataclass(frozen=True, slots=True)
class ColumnGuess:
    """What a column of the list is taken for; None: left out. `unit` as its header says it, None where it does not."""

    header: str
    column: Column | None
    unit: str | None


@dataclass(frozen=True, slots=True)
class LineProblem:
    """Something in the list that cannot be: where, and what would be right. Lines count from 1 in the file."""

    line: int
    header: str
    said: Said


@dataclass(frozen=True, slots=True)
class ListedCell:
    """What one line of the list becomes; None where the list says nothing."""

    line: int
    label: str | None
    donor: str
    donor_kind: str | None
    size_code: str | None
    family: Family | None
    rated_mah: float | None
    claimed_mah: float | None
    voltage_v: Amount | None
    capacity_mah: Amount | None
    resistance_mohm: Amount | None
    mass_g: float | None
    findings: frozenset[Finding] | None
    note: str


@dataclass(frozen=True, slots=True)
class ReadList:
    cells: tuple[ListedCell, ...]
    problems: tuple[LineProblem, ...]


@dataclass
class _Line:
    """One line while it is read; problems gather instead of ending it."""

    number: int
    texts: Mapping[Column, tuple[str, ColumnGuess]]
    rules: HouseRules
    problems: list[LineProblem] = field(default_factory=list)

    def text(self, column: Column) -> str:
        text = self.texts.get(column, ("", None))[0].strip()
        return "" if text.lower() in _NOTHING else text

    def problem(self, column: Column, wrong: Said) -> None:
        self.problems.append(LineProblem(self.number, self.texts[column][1].header, wrong))


def guess_columns(header: Sequence[str]) -> tuple[ColumnGuess, ...]:
    """What each column is by its header; a meaning is given once, to the first column that has it."""
    taken: set[Column] = set()
    guesses = []
    for text in header:
        plain = re.sub(r"[_/]+", " ", text.strip().lower())
        words = re.sub(r"[\[\](){}]", " ", plain)
        unit = next((unit for unit in _UNITS if re.search(rf"(^|[\s.,]){re.escape(unit)}\s*$", words.strip())), None)
        bare = re.sub(rf"[\s,.]*({'|'.join(re.escape(u) for u in _UNITS)})\s*$", "", words).strip() or words.strip()
        column = next(
            (
                column
                for column, pattern in _HEADERS
                if column not in taken and (re.fullmatch(pattern, bare) or re.fullmatch(pattern, words.strip()))
            ),
            None,
        )
        if column:
            taken.add(column)
        guesses.append(ColumnGuess(text, column, unit if column in _UNIT_FACTORS else None))
    return tuple(guesses)


def read_list(
    rows: Sequence[Sequence[str]], columns: Sequence[ColumnGuess], kinds: frozenset[str], rules: HouseRules
) -> ReadList:
    """What each line becomes under a mapping of its columns, and every problem there is, not only the first.

    Args:
        rows: All rows of the file, the header first; empty lines are left out.
        columns: What each column is.
        kinds: The codes of the kinds of donor there are.
    """
    if len(rows) - 1 > MOST_LINES:
        raise BadInputError(said("at-most-lines-can-be-taken", most_lines=MOST_LINES, rows=len(rows) - 1), field="file")
    used = [guess.column for guess in columns if guess.column]
    if len(used) != len(set(used)):
        raise BadInputError(said("two-columns-are-taken-for-same"), field="columns")
    if not used:
        raise BadInputError(said("no-column-is-recognised"), field="columns")
    cells, problems = [], []
    seen: dict[tuple[str, str], int] = {}
    for number, row in enumerate(rows[1:], 2):
        if not any(text.strip() for text in row):
            continue
        texts = {
            guess.column: (row[index] if index < len(row) else "", guess)
            for index, guess in enumerate(columns)
            if guess.column
        }
        line = _Line(number, texts, rules)
        cell = _cell(line, kinds, rules)
        if cell.label:
            first = seen.setdefault((cell.donor, cell.label), number)
            if first != number:
                line.problem("label", said("stands-already", label=cell.label, line=first))
        problems += line.problems
        cells.append(cell)
    if not cells:
        raise BadInputError(said("there-is-no-line-below-header"), field="file")
    return ReadList(tuple(cells), tuple(problems))


def _cell(line: _Line, kinds: frozenset[str], rules: HouseRules) -> ListedCell:
    size_code, printed = _size(line)
    family = _family(line) or printed
    if printed is Family.PRIMARY and family is not Family.PRIMARY:
        line.problem("size", said("print-of-primary"))
    size = read_size(size_code) if size_code else None
    known = KnownOfCell(size=size, family=family)
    kind = line.text("donor_kind").lower().replace(" ", "-").replace(",", "") or None
    if kind and kind not in kinds:
        line.problem("donor_kind", said("is-no-kind-of-device", kind=kind, kinds=tuple(sorted(kinds))))
    capacity, voltage = _amount(line, "capacity_mah"), _amount(line, "voltage_v")
    resistance = _amount(line, "resistance_mohm")
    _checked(line, "voltage_v", voltage, lambda amount: check_voltage(amount.value, known, rules))
    _checked(line, "capacity_mah", capacity, lambda amount: check_capacity(amount.value, known, rules))
    _checked(line, "resistance_mohm", resistance, lambda amount: check_resistance(amount.value, known, rules))
    rated_mah, mass_g = (
        _positive(line, "rated_mah", limits.CELL_MOST_MAH.value),
        _positive(line, "mass_g", limits.MASS_G_MOST.value),
    )
    try:
        check_rated(size, family, rated_mah, rules, mass_g)
    except ZembricError as error:
        line.problem("rated_mah", error.said)
    return ListedCell(
        line=line.number,
        label=line.text("label")[:60] or None,
        donor=line.text("donor")[:200],
        donor_kind=kind,
        size_code=size_code,
        family=family,
        rated_mah=rated_mah,
        claimed_mah=_positive(line, "claimed_mah", limits.CELL_MOST_MAH.value),
        voltage_v=voltage,
        capacity_mah=capacity,
        resistance_mohm=resistance,
        mass_g=mass_g,
        findings=_findings(line),
        note=line.text("note")[:300],
    )


def _size(line: _Line) -> tuple[str | None, Family | None]:
    text = line.text("size")
    if not text:
        return None, None
    try:
        return read_size(text).code, read_print(text).family
    except ZembricError as error:
        line.problem("size", error.said)
        return None, None


def _family(line: _Line) -> Family | None:
    text = line.text("family").lower()
    if not text:
        return None
    if text in set(Family):
        return Family(text)
    found = next((family for pattern, family in _FAMILY_WORDS if re.fullmatch(pattern, text)), None)
    if found is None:
        line.problem("family", said("is-no-chemistry-here", typed=text, families=tuple(Family)))
    return found


def _amount(line: _Line, column: Column) -> Amount | None:
    text = line.text(column)
    if not text:
        return None
    try:
        amount = read_amount(text, _QUANTITY[column], column, line.rules)
    except ZembricError as error:
        line.problem(column, error.said)
        return None
    factor = _UNIT_FACTORS[column].get(line.texts[column][1].unit or "", 1.0)
    return Amount(amount.value * factor, amount.half_width * factor)


def _positive(line: _Line, column: Column, most: float) -> float | None:
    amount = _amount(line, column)
    if amount is None:
        return None
    if not 0 < amount.value <= most:
        line.problem(column, said("cannot-be-above-zero-at-most", value=plain(amount.value), most=plain(most)))
        return None
    return amount.value


def _checked(line: _Line, column: Column, amount: Amount | None, check: object) -> None:
    if amount is None or not callable(check):
        return
    try:
        check(amount)
    except OddInputError:
        return  # a list was written down by people who looked; what is only odd is taken
    except ZembricError as error:
        line.problem(column, error.said)


def _findings(line: _Line) -> frozenset[Finding] | None:
    """The findings of a look; None where the list does not say that anybody looked."""
    text = line.text("findings").lower()
    if not text:
        return None
    if text in ("nothing", "nothing found", "ok", "fine", "good", "clean"):
        return frozenset()
    words = [word.strip().replace(" ", "-") for word in re.split(r"[;,|+]", text)]
    wrong = [word for word in words if word not in set(Finding)]
    if wrong:
        line.problem("findings", said("is-nothing-to-find", typed=wrong[0], findings=tuple(Finding)))
        return None
    return frozenset(Finding(word) for word in words)
