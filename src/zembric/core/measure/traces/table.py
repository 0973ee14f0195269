"""The shape of a log's text: how fields are parted, how numbers are written, where the header stands."""

from __future__ import annotations

import re
from collections import Counter
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import TYPE_CHECKING, Literal

from zembric.core.measure.traces.model import LogRefusedError, Remark
from zembric.core.measure.traces.words import is_unit_row, read_heading
from zembric.core.said import said

if TYPE_CHECKING:
    from collections.abc import Iterator, Sequence

FieldKind = Literal["number", "clock", "date", "text", "empty"]

_NUMBER = re.compile(
    r"[+\-\u2212]?(?:\d{1,3}(?:[ '\u2019\u00a0\u202f.,]\d{3})+(?:[.,]\d*)?|\d+[.,]?\d*|[.,]\d+)(?:[eE][+\-]?\d+)?"
    r"(?:\s*(?:[munkµ]?(?:[VAWs]|Ah|Wh)|sec|Ohm|Ω|%|°?C))?"
)
_CLOCK = re.compile(r"(?:\d+(?:[ d.\-]|\s?days?,?\s)\s*)?\d{1,7}:\d{1,2}(?::\d{1,2}(?:[.,:]\d+)?)?")
_DATE = re.compile(
    r"\d{1,4}[\-/.]\d{1,2}[\-/.]\d{1,4}(?:[ T_,]+\d{1,2}:\d{2}(?::\d{2}(?:[.,]\d+)?)?)?\s?(?:Z|[+\-]\d\d:?\d\d|[AaPp]\.?[Mm]\.?)?"
)
_NOT_A_NUMBER = re.compile(
    r"[+\-]?(nan|inf|infinity|null|none|n/?a|-{1,3}|overflow|ovl|ovf|#n/a|#value!|#div/0!)", re.IGNORECASE
)
_LABELLED = re.compile(
    r"([^\W\d][\w.\[\]()/]*)\s*[:=]\s*([+\-]?\d[\d.,eE+\-:]*)\s*((?:[A-Za-zµΩ]{1,4}(?![\w.\[\]()/]*\s*[:=]))?)[\s,;|]*"
)
_MONITOR_STAMP = re.compile(rb"^\d{1,2}:\d{2}:\d{2}(?:\.\d+)? -> ")
_DELIMITERS = ("\t", ";", "|", ",", " ")
_HEAD_LINES = 400
_STRETCHES, _STRETCH_LINES = 24, 16
_HEADER_ABOVE = 4


@dataclass(frozen=True, slots=True)
class Table:
    """A log's text laid open; `sample` are data lines as fields from the head (with their line numbers) and from all over (0)."""

    body: bytes
    delimiter: str
    decimal: Literal[".", ","]
    thousands: str | None
    fields: int
    headers: tuple[str, ...] | None
    header_line: int | None
    first_line: int
    kinds: tuple[FieldKind, ...]
    sample: tuple[tuple[int, tuple[str, ...]], ...]
    preamble: str
    remarks: tuple[Remark, ...]


@lru_cache(maxsize=16_384)  # a sample's fields are asked about by everybody who looks at it
def kind_of(field: str) -> FieldKind:
    """What one field is. Words for a missing number count as one; an empty field is told apart."""
    text = field.strip()
    if not text:
        return "empty"
    if _NUMBER.fullmatch(text) or _NOT_A_NUMBER.fullmatch(text):
        return "number"
    if _CLOCK.fullmatch(text):
        return "clock"
    return "date" if _DATE.fullmatch(text) else "text"


def split_line(line: str, delimiter: str) -> list[str]:
    """Fields of one line; quotes around a field are taken off, and protect a delimiter inside."""
    if delimiter == " ":
        return line.split()
    if '"' not in line:
        return [part.strip() for part in line.split(delimiter)]
    fields, quoted, current = [], False, ""
    for char in line:
        if char == '"':
            quoted = not quoted
        elif char == delimiter and not quoted:
            fields.append(current.strip())
            current = ""
        else:
            current += char
    return [*fields, current.strip()]


def open_table(body: bytes) -> Table:
    """Finds delimiter, decimal mark, header and the first row of measured values.

    Raises:
        LogRefusedError: no rows of numbers are found.
    """
    body, labels, remarks = _without_monitor_dress(body)
    sample = _sample(body)
    delimiter = _delimiter_of([line for _, line in sample])
    rows = [(number, tuple(split_line(line, delimiter))) for number, line in sample]
    fields = _usual_width(rows)
    is_data = [len(row) == fields and _looks_measured(row) for _, row in rows]
    if not any(is_data):
        raise _no_rows(body)
    first_at = is_data.index(True)
    first_line = rows[first_at][0]
    above = sample[:first_at]
    headers, header_line = (labels, None) if labels else _header(above, delimiter, fields)
    if headers and _is_torn_apart(
        headers, fields, delimiter, [row for (_, row), good in zip(rows, is_data, strict=True) if good]
    ):
        joined = _joined_decimals(body, len(headers), fields)
        remark = Remark(
            "decimal-comma-joined",
            said("log-decimal-comma-joined", count=len(headers), fields=fields),
            first_line,
        )
        opened = open_table(joined)
        return replace(opened, remarks=(*remarks, *opened.remarks, remark))
    data = [(number, row) for (number, row), good in zip(rows, is_data, strict=True) if good]
    decimal, thousands = _number_marks([row for _, row in data])
    kinds = tuple(_kind_of_column([row[place] for _, row in data]) for place in range(fields))
    preamble = "\n".join(line for _, line in above)
    return Table(
        body, delimiter, decimal, thousands, fields, headers, header_line, first_line, kinds, tuple(data), preamble, tuple(remarks)
    )  # fmt: skip


def _without_monitor_dress(body: bytes) -> tuple[bytes, tuple[str, ...] | None, list[Remark]]:
    """Takes off what a serial monitor puts around the values: its time stamp, or a name before each value."""
    lines = [line for line in body[:20000].split(b"\n")[:60] if line.strip()]
    remarks: list[Remark] = []
    stamped = sum(1 for line in lines if _MONITOR_STAMP.match(line))
    if stamped > 0.6 * len(lines):
        rest = b"\n".join(line.split(b" -> ", 1)[1] for line in lines if b" -> " in line)
        delimiter = next((d for d in (b"\t", b";", b",") if d in rest), b" ")
        body = body.replace(b" -> ", delimiter)
        remarks.append(Remark("monitor-stamp", said("log-monitor-stamp")))
    names = [
        tuple(found.group(1) for found in _LABELLED.finditer(text))
        for line in lines
        if (text := line.decode("utf-8", "replace").strip()) and _LABELLED.sub("", text).strip() == ""
    ]
    if len(names) < 0.6 * len(lines) or not names:
        return body, None, remarks
    usual = Counter(names).most_common(1)[0][0]
    if len(usual) < 2:
        return body, None, remarks
    kept, units = [], [""] * len(usual)
    for line in body.decode("utf-8", "replace").split("\n"):
        found = list(_LABELLED.finditer(line))
        if tuple(match.group(1) for match in found) == usual:
            kept.append("\t".join(match.group(2).rstrip(",:") for match in found))
            units = [unit or match.group(3) for unit, match in zip(units, found, strict=True)]
        else:
            kept.append(line)
    labels = tuple(f"{name} [{unit}]" if unit else name for name, unit in zip(usual, units, strict=True))
    remarks.append(Remark("named-values", said("log-named-values", labels=tuple(labels))))
    return "\n".join(kept).encode(), labels, remarks


def _sample(body: bytes) -> list[tuple[int, str]]:
    """Lines from the head and from stretches all over the file, those of the head with their numbers (the others: 0), without blank ones."""

    def lines_from(position: int, count: int, number: int) -> Iterator[tuple[int, str]]:
        for _ in range(count):
            end = body.find(b"\n", position)
            if end < 0:
                return
            yield number, body[position:end].decode("utf-8", "replace")
            number, position = number + bool(number), end + 1

    found = list(lines_from(0, _HEAD_LINES, 1))
    if len(found) == _HEAD_LINES:
        for part in range(1, _STRETCHES):
            start = body.rfind(b"\n", 0, len(body) * part // _STRETCHES) + 1
            found += lines_from(start, _STRETCH_LINES, 0)
        end = body.rfind(b"\n", 0, max(len(body) - 80 * _STRETCH_LINES, 1)) + 1
        found += list(lines_from(end, _STRETCH_LINES, 0))[:-1]
    return [(number, line) for number, line in found if line.strip()]


def _delimiter_of(lines: Sequence[str]) -> str:
    best, best_score = ",", -1.0
    absent = [delimiter for delimiter in _DELIMITERS if not any(delimiter in line for line in lines)]
    for delimiter in _DELIMITERS:
        # Lines are whole with each of those that part none: one of them is tried for all.
        if delimiter in absent[1:]:
            continue
        rows = [split_line(line, delimiter) for line in lines]
        measured = [row for row in rows if _looks_measured(row)]
        if not measured:
            continue
        width, count = Counter(len(row) for row in measured).most_common(1)[0]
        numeric = [
            sum(kind_of(f) not in ("text",) for f in row if f) / max(1, sum(1 for f in row if f)) for row in measured
        ]
        # Blanks part fields only where nothing else does: "2026-03-14 19:30:00;3.71" has both.
        score = count / len(lines) * (sum(numeric) / len(numeric)) + 0.001 * (width > 2) - 0.01 * (delimiter == " ")
        if score > best_score + 1e-9:
            best, best_score = delimiter, score
    return best


def _looks_measured(row: Sequence[str]) -> bool:
    kinds = [kind_of(field) for field in row]
    return sum(kind in ("number", "clock", "date") for kind in kinds) >= 2 or (len(row) == 1 and kinds == ["number"])


def _usual_width(rows: Sequence[tuple[int, tuple[str, ...]]]) -> int:
    widths = Counter(len(row) for _, row in rows if _looks_measured(row))
    return widths.most_common(1)[0][0] if widths else 0


def _no_rows(body: bytes) -> LogRefusedError:
    first = body[:200].decode("utf-8", "replace").strip().split("\n")[0][:60]
    return LogRefusedError(
        said("no-rows-of-numbers-were-found", first=first),
        code="no-rows",
        line=1,
    )


def _header(above: Sequence[tuple[int, str]], delimiter: str, fields: int) -> tuple[tuple[str, ...] | None, int | None]:
    """The header over the data: names, and a row of units below them where there is one."""
    near = list(reversed(above[-_HEADER_ABOVE:]))
    best: tuple[int, tuple[str, ...], int] | None = None
    for at, (number, line) in enumerate(near):
        names = _header_fields(line, delimiter, fields)
        if names is None:
            continue
        if is_unit_row(list(names)) and at + 1 < len(near):
            over = _header_fields(near[at + 1][1], delimiter, fields)
            if over and len(over) == len(names) and sum(read_heading(n).role != "other" for n in over) >= 1:
                units = [unit.strip().strip("[](){}") for unit in names]
                both = tuple(f"{name} [{unit}]" if unit else name for name, unit in zip(over, units, strict=True))
                return both, near[at + 1][0]
        score = sum(read_heading(name).role != "other" for name in names)
        if score and (best is None or score > best[0]):
            best = (score, names, number)
    return (best[1], best[2]) if best else (None, None)


def _header_fields(line: str, delimiter: str, fields: int) -> tuple[str, ...] | None:
    text = line.lstrip("#%/* ")
    candidates = [split_line(text, delimiter)]
    if delimiter == " ":
        candidates += [
            [f.strip() for f in re.split(r"\t|\s{2,}", text.strip())],
            split_line(text, ","),
            split_line(text, ";"),
        ]
    for names in candidates:
        named = sum(kind_of(name) == "text" for name in names) >= 0.5 * len(names)
        if len(names) >= 2 and named and (len(names) == fields or delimiter != " "):
            return tuple(names)
    return None


def _is_torn_apart(headers: Sequence[str], fields: int, delimiter: str, rows: Sequence[Sequence[str]]) -> bool:
    """Whether decimal commas were taken for delimiters: about twice as many parts as names, all of whole digits."""
    if delimiter != "," or len(headers) < 2 or fields not in (2 * len(headers), 2 * len(headers) - 1):
        return False
    return all(re.fullmatch(r"-?\d+", field) for row in rows for field in row)


def _joined_decimals(body: bytes, names: int, fields: int) -> bytes:
    alone = 2 * names - fields  # 1: the first column has whole numbers only

    def join(line: bytes) -> bytes:
        parts = line.split(b",")
        if len(parts) != fields or not all(part.strip(b" -+").isdigit() for part in parts):
            return line.replace(b",", b";") if not parts[0][:1].isdigit() else line
        pairs = [b".".join(parts[at : at + 2]) for at in range(alone, fields, 2)]
        return b";".join([*parts[:alone], *pairs])

    return b"\n".join(join(line) for line in body.split(b"\n"))


def _number_marks(rows: Sequence[Sequence[str]]) -> tuple[Literal[".", ","], str | None]:
    """Decimal mark and thousands mark, by what only one of them can be."""
    points = {".": 0, ",": 0}
    groups: Counter[str] = Counter()
    undecided: Counter[str] = Counter()
    by_column: dict[int, list[str]] = {}
    for row in rows:
        for place, field in enumerate(row):
            if kind_of(field) != "number":
                continue
            number = re.sub(r"[^\d.,' \u2019\u00a0\u202f]|[eE].*$", "", field.strip())
            by_column.setdefault(place, []).append(number)
            for mark in " '\u2019\u00a0\u202f":
                if mark in number and re.search(rf"\d{mark}\d{{3}}", number):
                    groups[mark] += 1
            marks = re.findall(r"[.,]", number)
            if not marks:
                continue
            if len(set(marks)) == 2:
                points[marks[-1]] += 5
                groups[marks[0]] += 5
            elif len(marks) > 1:
                groups[marks[0]] += 5
            elif re.search(r"^0?[.,]|^\d{4,}[.,]", number) or len(number.partition(marks[0])[2]) != 3:
                points[marks[0]] += 1
            else:
                undecided[marks[0]] += 1
    for mark in (".", ","):
        if undecided[mark] and not points[mark] and _counts_in_thousands(by_column, mark):
            groups[mark] += undecided[mark]
            undecided[mark] = 0
    decimal: Literal[".", ","] = "," if points[","] + undecided[","] > points["."] + undecided["."] else "."
    possible = {mark: count for mark, count in groups.items() if mark != decimal}
    return decimal, max(possible, key=lambda mark: possible[mark]) if possible else None


def _counts_in_thousands(by_column: dict[int, list[str]], mark: str) -> bool:
    """Whether a column runs 998, 999, 1,000: a mark that comes only from a thousand on parts thousands."""
    for numbers in by_column.values():
        bare = [int(n) for n in numbers if n.isdigit()]
        marked = [n for n in numbers if re.fullmatch(rf"[1-9]\d{{0,2}}{re.escape(mark)}\d{{3}}", n)]
        if marked and bare and len(bare) + len(marked) == len(numbers) and max(bare) < 1000 and len(set(bare)) > 3:
            return True
    return False


def _kind_of_column(fields: Sequence[str]) -> FieldKind:
    counts = Counter(kind_of(field) for field in fields)
    for kind in ("date", "clock"):
        if counts[kind] > 0.5 * len(fields):
            return kind
    filled = Counter({kind: count for kind, count in counts.items() if kind != "empty"})
    return filled.most_common(1)[0][0] if filled else "empty"
