"""Logs that come in as something else than text."""

from __future__ import annotations

import io

from openpyxl import Workbook

from zembric.core.measure.traces.analysis import analyse_log
from zembric.files.logs import log_text


def test_a_workbook_with_short_rows_of_numbers_is_read_to_its_end() -> None:
    book = Workbook()
    for second in range(400):
        book.active.append([second, round(4.2 - second / 400, 2), 1])  # type: ignore[union-attr]
    file = io.BytesIO()
    book.save(file)
    found = analyse_log(log_text(file.getvalue()))
    assert [test.trace.time_s.size for test in found.tests] == [400]
