"""Lists in and out: all or nothing, never twice, and out again as they came."""

from __future__ import annotations

import csv
import io
import zipfile
from datetime import datetime

import pytest
from openpyxl import Workbook
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from tests.support.benchwork import at, open_donor
from zembric.core.errors import BadInputError, ConflictError
from zembric.models import CellRow, Donor
from zembric.operations.actors import Actor
from zembric.operations.cells.lookup import find
from zembric.operations.cells.stories import cell_story
from zembric.operations.papers import exports, lists
from zembric.wording import say

LIST = (
    b"Cell;Device;Kind;Size;Chem.;Capacity [Ah];Voltage (mV);IR mOhm;Condition;Remarks\r\n"
    b"A1;School laptop;laptop;18650;INR;2,31;3710;48;;\r\n"
    b"A2;School laptop;laptop;18650;INR;about 2.2;3700;51;torn-wrap;mended later\r\n"
    b"B1;Bicycle pump;;;;;;;swollen;\r\n"
)


def test_a_list_becomes_donors_and_cells_with_their_readings(session: Session, volunteer: Actor) -> None:
    preview = lists.preview_list(session, "cells.csv", LIST, None)
    assert (len(preview.cells), preview.problems) == (3, ())
    assert session.scalar(select(func.count()).select_from(CellRow)) == 0
    assert lists.take_in_list(session, volunteer, "cells.csv", LIST, None, at()).cells == 3
    one = find(session, "A1")
    told = cell_story(session, one.number, at(1)).listed.cell
    assert told.judgement
    # Nobody knows whether its voltage was taken before or after its run, so none still holds.
    assert (told.judgement.resting_voltage_v, told.judgement.capacity_mah, told.judgement.resistance_mohm) == (
        None, 2310, 48,
    )  # fmt: skip
    assert say(one.where) == "List cells.csv"
    assert say(find(session, "B1").where) == "Fire-safe box"
    assert session.scalars(select(Donor.description).order_by(Donor.id)).all() == ["School laptop", "Bicycle pump"]


def test_the_same_file_twice_is_refused_and_a_longer_one_brings_only_what_is_new(
    session: Session, volunteer: Actor
) -> None:
    lists.take_in_list(session, volunteer, "cells.csv", LIST, None, at())
    with pytest.raises(ConflictError, match="would double them"):
        lists.preview_list(session, "renamed.csv", LIST, None)
    longer = LIST + b"A3;School laptop;laptop;18650;INR;2,1;3690;49;;\r\n"
    assert lists.preview_list(session, "cells.csv", longer, None).already_here == {2, 3, 4}
    assert lists.take_in_list(session, volunteer, "cells.csv", longer, None, at(1)).cells == 1
    assert session.scalar(select(func.count()).select_from(CellRow)) == 4


def test_one_bad_line_keeps_everything_out_and_is_named(session: Session, volunteer: Actor) -> None:
    broken = LIST + b"C1;Torch;laptop;18-50;;;99000;;;\r\n"
    problems = lists.preview_list(session, "cells.csv", broken, None).problems
    assert [(problem.line, problem.header) for problem in problems] == [(5, "Size"), (5, "Voltage (mV)")]
    with pytest.raises(BadInputError, match=r"Line 5, Size: .* Nothing was taken in"):
        lists.take_in_list(session, volunteer, "cells.csv", broken, None, at())
    assert session.scalar(select(func.count()).select_from(CellRow)) == 0


def test_a_column_is_mapped_by_hand_and_a_wrong_mapping_is_refused(session: Session) -> None:
    odd = b"Fach,Wert\n1,2300\n2,2250\n"
    read = lists.preview_list(session, "odd.csv", odd, ["label", "capacity_mah"])
    assert [cell.capacity_mah.value if cell.capacity_mah else None for cell in read.cells] == [2300, 2250]
    for mapping, says in (
        (["label"], "2 columns"),
        (["label", "colour"], "not what a column"),
        ([None, None], "No col"),
    ):
        with pytest.raises(BadInputError, match=says):
            lists.preview_list(session, "odd.csv", odd, mapping)


def test_a_spreadsheet_is_read_like_a_csv(session: Session) -> None:
    book = Workbook()
    sheet = book.active
    assert sheet
    for row in (("Cell", "Size", "Capacity (mAh)", "Voltage"), ("A1", 18650, 2310.0, 3.71), (None, None, None, None)):
        sheet.append(row)
    out = io.BytesIO()
    book.save(out)
    (cell,) = lists.preview_list(session, "cells.xlsx", out.getvalue(), None).cells
    assert (cell.label, cell.size_code, cell.capacity_mah and cell.capacity_mah.value) == ("A1", "18650", 2310)


def test_a_spreadsheet_that_grows_when_it_is_unpacked_is_refused(session: Session) -> None:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("xl/worksheets/sheet1.xml", b" " * (101 * 1024 * 1024))
    with pytest.raises(BadInputError, match="too large once it is unpacked"):
        lists.preview_list(session, "cells.xlsx", out.getvalue(), None)


@pytest.mark.parametrize(
    "content",
    [b"", b"\n\n", b"PK\x03\x04 no zip", b"\x00\x01\x02", b"\xff\xfe\x00", b"Cell\n", b"x" * (5 * 1024 * 1024 + 1)],
)
def test_what_is_no_list_is_refused_and_said_so(session: Session, content: bytes) -> None:
    with pytest.raises(BadInputError):
        lists.preview_list(session, "cells.csv", content, None)


def test_the_template_is_a_list_that_can_be_taken_in(session: Session, volunteer: Actor) -> None:
    assert (
        lists.take_in_list(
            session, volunteer, "template.csv", lists.template_csv("A lamp", "about 2300", "a note"), None, at()
        ).cells
        == 1
    )


def test_what_goes_out_names_units_and_runs_nothing_in_a_spreadsheet(session: Session, volunteer: Actor) -> None:
    open_donor(session, volunteer, description='=HYPERLINK("x")')
    out = {name: b"".join(exports.export_csv(session, name)) for name in exports.EXPORTS}
    (donor,) = csv.DictReader(io.StringIO(out["donors"].decode()))
    assert donor["description"] == '\'=HYPERLINK("x")'
    (cell,) = csv.DictReader(io.StringIO(out["cells"].decode()))
    assert (cell["size"], cell["rated_capacity_mah"], cell["next_step"]) == ("18650", "2600", "inspect")
    assert b"".join(exports.export_csv(session, "cells")) == out["cells"]


def test_what_goes_out_reads_back_as_it_was(session: Session, volunteer: Actor) -> None:
    opened = open_donor(session, volunteer, description='a "blue" box, späti\r\nfrom the yard')
    (donor,) = csv.DictReader(io.StringIO(b"".join(exports.export_csv(session, "donors")).decode(), newline=""))
    assert (donor["description"], donor["symptom"]) == (opened.description, "")
    assert datetime.fromisoformat(donor["opened_at"]) == opened.opened_at


@pytest.mark.parametrize(
    ("written", "comes_out"),
    [
        ("+1", "'+1"),
        ("-1", "'-1"),
        ("@box", "'@box"),
        ("=1+1", "'=1+1"),
        ("1+1", "1+1"),
        ("Ämter", "Ämter"),
        ("'x", "'x"),
    ],
)
def test_only_what_a_spreadsheet_would_run_is_marked_on_its_way_out(
    session: Session, volunteer: Actor, written: str, comes_out: str
) -> None:
    open_donor(session, volunteer, description=written)
    (donor,) = csv.DictReader(io.StringIO(b"".join(exports.export_csv(session, "donors")).decode()))
    assert donor["description"] == comes_out
