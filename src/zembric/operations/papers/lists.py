"""Lists in and out: a list that was kept elsewhere becomes donors and cells, all of it or nothing; and the other way."""

from __future__ import annotations

import csv
import hashlib
import io
from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import select

from zembric.core.errors import BadInputError, ConflictError
from zembric.core.identify.numbering import make_number
from zembric.core.lists import (
    COLUMNS,
    MOST_LINES,
    TEMPLATE_HEADER,
    ColumnGuess,
    LineProblem,
    ListedCell,
    guess_columns,
    read_list,
)
from zembric.core.measure.typed_amounts import Amount
from zembric.core.said import said
from zembric.files.spreadsheets import WORKBOOK_MAGIC, sheets
from zembric.files.tables import as_csv, without_guard
from zembric.models import (
    CELL_NUMBERS,
    DONOR_NUMBERS,
    CellRow,
    Donor,
    DonorKindRow,
    ListImport,
    Place,
)
from zembric.operations.bench import entries
from zembric.operations.bench.readings import TypedReading
from zembric.operations.cells.judged import rejudge
from zembric.operations.known.rules import rules_in_force
from zembric.operations.places import make_place_for_list
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

MOST_FILE_BYTES = 5 * 1024 * 1024
_MOST_COLUMNS = 200
_UNCERTAIN_METHODS = {"capacity": "tester", "resistance": "tester"}


@dataclass(frozen=True, slots=True)
class ListPreview:
    """What a list would become: its columns, its cells, and everything that stands in the way."""

    sha256: str
    columns: tuple[ColumnGuess, ...]
    cells: tuple[ListedCell, ...]
    problems: tuple[LineProblem, ...]
    already_here: frozenset[int]  # lines whose cell was taken in from an earlier list


def preview_list(session: Session, file_name: str, content: bytes, mapping: Sequence[str | None] | None) -> ListPreview:
    """Reads a list; nothing is stored.

    Args:
        mapping: What each column is (None: left out); None: as recognised by the header.

    Raises:
        BadInputError: no list that can be read.
        ConflictError: exactly this file was taken in before.
    """
    sha256 = hashlib.sha256(content).hexdigest()
    before = session.scalar(select(ListImport).where(ListImport.sha256 == sha256))
    if before:
        raise ConflictError(
            said("this-file-was-taken", on=f"{before.at:%Y-%m-%d}", person=before.person.name, cells=before.cells)
        )
    rows = read_rows(file_name, content)
    columns = guess_columns(rows[0])
    if mapping is not None:
        columns = _mapped(columns, mapping)
    kinds = frozenset(session.scalars(select(DonorKindRow.code).where(DonorKindRow.is_active)))
    read = read_list(rows, columns, kinds, rules_in_force(session))
    return ListPreview(sha256, columns, read.cells, read.problems, _already_here(session, read.cells))


def take_in_list(
    session: Session, actor: Actor, file_name: str, content: bytes, mapping: Sequence[str | None] | None, now: datetime
) -> ListImport:
    """Makes the donors and cells of a list with their readings; everything or nothing.

    Raises:
        BadInputError: a line has a problem; names the first.
        ConflictError: it was taken in before, or it brings nothing new.
    """
    preview = preview_list(session, file_name, content, mapping)
    if preview.problems:
        first = preview.problems[0]
        raise BadInputError(
            said("list-line-wrong", line=first.line, header=first.header, wrong=first.said), field="file"
        )
    new = [cell for cell in preview.cells if cell.line not in preview.already_here]
    if not new:
        raise ConflictError(said("every-cell-of-this-list"))
    box = make_place_for_list(session, file_name)
    by_donor: dict[tuple[str, str | None], list[ListedCell]] = {}
    for listed in new:
        by_donor.setdefault((listed.donor, listed.donor_kind), []).append(listed)
    for (description, kind), cells in by_donor.items():
        _make_donor(session, actor, description or file_name[:200], kind or "unknown", cells, box, now)
    taken = ListImport(
        sha256=preview.sha256, file_name=file_name[:200], at=now, person_id=actor.person_id, cells=len(new)
    )
    session.add(taken)
    session.flush()
    note(session, actor, "list-taken-in", now, file=file_name[:200], cells=len(new), donors=len(by_donor))
    return taken


def read_rows(file_name: str, content: bytes) -> list[list[str]]:
    """The rows of a CSV file or a spreadsheet as texts, the header first.

    Raises:
        BadInputError: too large, empty, or neither of the two.
    """
    if len(content) > MOST_FILE_BYTES:
        raise BadInputError(said("list-has-at-most-mb", most_file_bytes=MOST_FILE_BYTES // 1024 // 1024), field="file")
    rows = _sheet_rows(content) if content.startswith(WORKBOOK_MAGIC) else _csv_rows(file_name, content)
    while rows and not any(text.strip() for text in rows[0]):
        rows = rows[1:]
    if not rows:
        raise BadInputError(said("list-is-empty"), field="file")
    return rows


def template_csv(donor: str, capacity: str, note: str) -> bytes:
    """An empty list with the columns as Zembric calls them, and one line that shows how they are filled."""
    example = (
        "A1", donor, "laptop", "18650", "layered-oxide", "2600", "", "3.71", capacity, "48", "45.5", "torn-wrap", note,
    )  # fmt: skip
    return as_csv([TEMPLATE_HEADER, example])


# --- Reading ---------------------------------------------------------------------------------------------------------


def _csv_rows(file_name: str, content: bytes) -> list[list[str]]:
    if content[:2] in (b"\xff\xfe", b"\xfe\xff"):
        encodings: tuple[str, ...] = ("utf-16",)
    else:
        encodings = ("utf-8-sig", "cp1252")
    for encoding in encodings:
        try:
            text = content.decode(encoding)
            break
        except UnicodeDecodeError:
            continue
    else:
        raise BadInputError(said("is-no-text-that-can", file_name=file_name), field="file")
    if "\x00" in text:
        raise BadInputError(said("is-neither-csv-file-nor-spreadsheet", file_name=file_name), field="file")
    first = next((line for line in text.splitlines() if line.strip()), "")
    delimiter = max(";\t,|", key=first.count) if any(first.count(mark) for mark in ";\t,|") else ","
    try:
        return [
            [without_guard(text) for text in row]
            for row in csv.reader(io.StringIO(text, newline=""), delimiter=delimiter)
        ]
    except csv.Error as error:
        raise BadInputError(said("is-no-csv-that-can", file_name=file_name, error=str(error)), field="file") from error


def _sheet_rows(content: bytes) -> list[list[str]]:
    """The first sheet of a workbook."""
    return next(sheets(content, most_rows=MOST_LINES + 2, most_columns=_MOST_COLUMNS), [])


def _mapped(columns: Sequence[ColumnGuess], mapping: Sequence[str | None]) -> tuple[ColumnGuess, ...]:
    if len(mapping) != len(columns):
        raise BadInputError(said("list-has-columns", count=len(columns), given=len(mapping)), field="columns")
    wrong = [column for column in mapping if column is not None and column not in COLUMNS]
    if wrong:
        raise BadInputError(said("is-no-column-of-a-list", wrong=wrong[0]), field="columns")
    again = guess_columns([column.header for column in columns])
    return tuple(
        ColumnGuess(guess.header, column, guess.unit)  # type: ignore[arg-type]
        for guess, column in zip(again, mapping, strict=True)
    )


def _already_here(session: Session, cells: Sequence[ListedCell]) -> frozenset[int]:
    """Lines whose label and donor are those of a cell that came from a list before."""
    labels = [cell.label for cell in cells if cell.label]
    query = select(CellRow.own_label, Donor.description).join(Donor).where(CellRow.own_label.in_(labels))
    here = {(label, description) for label, description in session.execute(query)}
    return frozenset(cell.line for cell in cells if cell.label and (cell.label, cell.donor) in here)


# --- Making ----------------------------------------------------------------------------------------------------------


def _make_donor(
    session: Session, actor: Actor, description: str, kind: str, listed: Sequence[ListedCell], box: Place, now: datetime
) -> None:
    donor = Donor(
        number=make_number("donor", session.scalar(DONOR_NUMBERS)), kind=kind, description=description, opened_at=now,
        opened_by_id=actor.person_id, taped_at=now, taped_by_id=actor.person_id,
    )  # fmt: skip
    session.add(donor)
    session.flush()
    for each in listed:
        cell = CellRow(
            number=make_number("cell", session.scalar(CELL_NUMBERS)), donor=donor, size_code=each.size_code,
            family=each.family, rated_capacity_mah=each.rated_mah, claimed_capacity_mah=each.claimed_mah, mass_g=each.mass_g,
            own_label=each.label, place=box,
        )  # fmt: skip
        session.add(cell)
        session.flush()
        rejudge(session, cell, now)
        note(session, actor, "from-list", now, cell_id=cell.id, label=each.label, line=each.line, why=each.note or None)
        _add_entries(session, actor, cell.number, each, now)


def _add_entries(session: Session, actor: Actor, number: str, listed: ListedCell, now: datetime) -> None:
    if listed.findings is not None:
        cell = entries.inspect(session, actor, number, sorted(listed.findings), now)
        if cell.judgement and cell.judgement.next_step == "fire-safe-box":
            return  # what was measured of a hazard decides nothing any more
    for quantity, amount in (
        ("voltage", listed.voltage_v), ("capacity", listed.capacity_mah), ("resistance", listed.resistance_mohm),
    ):  # fmt: skip
        if amount is not None:
            method = _UNCERTAIN_METHODS.get(quantity, "meter")
            # A capacity in somebody's list is one that they took for whole.
            reading = TypedReading(quantity, _as_typed(amount), method, confirmed=True, started_full=True)  # type: ignore[arg-type]
            entries.measure(session, actor, number, reading, now)


def _as_typed(amount: Amount) -> str:
    return f"{amount.value:.6g}" + (f" ± {amount.half_width:.6g}" if amount.half_width else "")
