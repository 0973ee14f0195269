"""Labels as they come out of a printer: measured in millimetres, read back at 203 dots per inch."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator
from datetime import UTC, date, datetime
from itertools import pairwise
from typing import Any

import pypdfium2
import pytest
import zxingcpp
from PIL import ImageOps

from tests.core.pack.test_checks import pack_of
from zembric.core.errors import BadInputError
from zembric.core.identify.numbering import code_text, make_number
from zembric.core.labels import LAYOUTS, get_layout, label_places
from zembric.core.pack.cards import PackLabelSize, pack_label, visitor_card
from zembric.core.pack.checks import check_all
from zembric.core.said import said
from zembric.files.plans import PlanFile, PlannedCell, Waived
from zembric.operations.papers.labels import LabelText
from zembric.prints.labels import label_pdf
from zembric.prints.pack_labels import pack_label_pdf
from zembric.prints.pick_lists import pick_list_pdf
from zembric.prints.sheets import TraySheet, ruler_page_pdf, tray_sheet_pdf
from zembric.prints.visitor_cards import visitor_card_pdf
from zembric.wording import say

PRINTER_DPI = 203
MM_PER_INCH = 25.4
POINTS_PER_MM = 72 / MM_PER_INCH
NUMBERS = [make_number("cell", sequence) for sequence in range(100, 130)]


@contextlib.contextmanager
def opened(content: bytes) -> Iterator[Any]:
    document = pypdfium2.PdfDocument(content)
    try:
        yield document
    finally:
        document.close()


def _rendered(document: Any, page: int = 0) -> tuple[tuple[float, float], Any]:
    """A page's size [mm] and its picture as the printer's dots."""
    opened_page = document[page]
    bitmap = opened_page.render(scale=PRINTER_DPI / 72, grayscale=True)
    size = tuple(side / POINTS_PER_MM for side in opened_page.get_size())
    picture = bitmap.to_pil().copy()
    bitmap.close()
    opened_page.close()
    return size, picture


def _words(document: Any) -> tuple[str, float]:
    """The words of a first page, and how far above its lower edge the lowest letter ends [pt]."""
    opened_page = document[0]
    text = opened_page.get_textpage()
    words = " ".join(text.get_text_bounded().split())
    lowest = min(text.get_charbox(index)[1] for index in range(text.count_chars()))
    text.close()
    opened_page.close()
    return words, lowest


def _texts(count: int) -> list[LabelText]:
    return [LabelText(number, "18650", "from D1015") for number in NUMBERS[:count]]


@pytest.mark.parametrize("key", LAYOUTS)
def test_the_first_and_the_last_label_lie_where_the_paper_has_them_and_can_be_read(key: str) -> None:
    layout = get_layout(key)
    count = min(layout.labels_per_page, len(NUMBERS))
    first = layout.labels_per_page - count + 1
    with opened(label_pdf(layout, _texts(count), first)) as document:
        assert len(document) == 1
        size, picture = _rendered(document)
    assert size == pytest.approx((layout.page_width_mm, layout.page_height_mm), abs=0.05)
    places = list(label_places(layout, count, first))
    for place, number in ((places[0], NUMBERS[0]), (places[-1], NUMBERS[count - 1])):
        box = (
            place.left_mm,
            place.top_mm,
            place.left_mm + layout.label_width_mm,
            place.top_mm + layout.label_height_mm,
        )
        label = picture.crop(tuple(round(edge / MM_PER_INCH * PRINTER_DPI) for edge in box))
        on_its_backing = ImageOps.expand(label, 16, 255)
        assert {code.text for code in zxingcpp.read_barcodes(on_its_backing)} == {code_text(number)}


@pytest.mark.parametrize("key", [key for key, layout in LAYOUTS.items() if layout.paper == "sheet"])
def test_labels_of_a_sheet_stand_one_pitch_apart_inside_the_page(key: str) -> None:
    layout = get_layout(key)
    places = list(label_places(layout, layout.labels_per_page))
    lefts, tops = sorted({p.left_mm for p in places}), sorted({p.top_mm for p in places})
    assert (len(lefts), len(tops)) == (layout.columns, layout.rows)
    assert {round(b - a, 6) for a, b in pairwise(lefts)} <= {round(layout.pitch_x_mm, 6)}
    assert {round(b - a, 6) for a, b in pairwise(tops)} <= {round(layout.pitch_y_mm, 6)}
    assert lefts[0] >= 0 <= tops[0]
    assert lefts[-1] + layout.label_width_mm <= layout.page_width_mm + 0.01
    assert tops[-1] + layout.label_height_mm <= layout.page_height_mm + 0.01


def test_a_pitch_is_kept_in_the_drawing_not_only_in_the_table() -> None:
    layout = get_layout("a4-65")
    with opened(label_pdf(layout, _texts(10))) as document:
        _, picture = _rendered(document)
    found = {code.text: code.position for code in zxingcpp.read_barcodes(picture)}
    upper_left = {text: (position.top_left.x, position.top_left.y) for text, position in found.items()}
    one, next_one, below = (upper_left[code_text(NUMBERS[index])] for index in (0, 1, 5))
    dot_mm = MM_PER_INCH / PRINTER_DPI
    assert (next_one[0] - one[0]) * dot_mm == pytest.approx(layout.pitch_x_mm, abs=0.3)
    assert (below[1] - one[1]) * dot_mm == pytest.approx(layout.pitch_y_mm, abs=0.3)


def test_a_shift_moves_every_label_by_so_many_millimetres() -> None:
    layout = get_layout("a4-24")
    where = []
    for shift in (0.0, 3.0):
        with opened(label_pdf(layout, _texts(1), 1, shift, 0.0)) as document:
            _, picture = _rendered(document)
        where.append(zxingcpp.read_barcodes(picture)[0].position.top_left.x * MM_PER_INCH / PRINTER_DPI)
    assert where[1] - where[0] == pytest.approx(3.0, abs=0.2)


def test_more_labels_than_places_go_onto_a_second_sheet() -> None:
    layout = get_layout("a4-24")
    with opened(label_pdf(layout, _texts(30))) as document:
        assert len(document) == 2
        _, second = _rendered(document, 1)
    assert {code.text for code in zxingcpp.read_barcodes(second)} == {code_text(number) for number in NUMBERS[24:30]}


def test_a_tray_sheet_has_the_code_of_the_tray_and_of_every_cell_in_it() -> None:
    tray = make_number("tray", 12)
    sheet = TraySheet(tray, "Tray 2", 4, 5, {1: NUMBERS[0], 7: NUMBERS[1], 20: NUMBERS[2]})
    with opened(tray_sheet_pdf(sheet)) as document:
        size, picture = _rendered(document)
    assert sorted(size) == [pytest.approx(210, abs=0.05), pytest.approx(297, abs=0.05)]
    assert {code.text for code in zxingcpp.read_barcodes(picture)} == {tray, *(code_text(n) for n in NUMBERS[:3])}


def test_the_ruler_on_a_test_page_is_100_mm_long_in_both_directions() -> None:
    with opened(ruler_page_pdf(get_layout("a4-65"))) as document:
        _, picture = _rendered(document)
    dot_mm = MM_PER_INCH / PRINTER_DPI
    # Half a millimetre beside the fifth tick only the ticks of whole centimetres are that long.
    across = picture.crop((round(39 / dot_mm), round(65.5 / dot_mm), round(141 / dot_mm), round(65.5 / dot_mm) + 1))
    down = picture.crop((round(45.5 / dot_mm), round(59 / dot_mm), round(45.5 / dot_mm) + 1, round(161 / dot_mm)))
    for line in (across, down):
        dark = [index for index, grey in enumerate(line.tobytes()) if grey < 128]
        assert (dark[-1] - dark[0]) * dot_mm == pytest.approx(100, abs=0.3)


@pytest.mark.parametrize("key", LAYOUTS)
def test_every_paper_has_a_test_page_of_its_own_size(key: str) -> None:
    layout = get_layout(key)
    with opened(ruler_page_pdf(layout)) as document:
        size, picture = _rendered(document)
    assert size == pytest.approx((layout.page_width_mm, layout.page_height_mm), abs=0.05)
    assert picture.getextrema()[0] < 128


@pytest.mark.parametrize(("labels", "first"), [(0, 1), (1, 0), (1, 66), (100_000, 1)])
def test_places_that_no_sheet_has_are_refused(labels: int, first: int) -> None:
    with pytest.raises(BadInputError):
        list(label_places(get_layout("a4-65"), labels, first))


def test_a_pick_list_has_every_cell_in_walking_order_and_only_the_packs_own_code() -> None:
    """A code of a cell on the paper could be scanned in place of the label on the cell."""

    def planned(number: str, place: str) -> PlannedCell:
        return PlannedCell(number, 2400, 20, 40, "18650", place, None, is_picked=False)

    cells = [planned(number, "Shelf box 1" if index < 20 else "Shelf box 2") for index, number in enumerate(NUMBERS)]
    groups = tuple(tuple(cells[at : at + 6]) for at in range(0, 30, 6))
    pack = make_number("pack", 12)
    plan = PlanFile(pack, "Gate counter", "planned", "layered-oxide", 5, 6, 21.0, 14400, groups, tuple(NUMBERS))
    words: list[str] = []
    with opened(pick_list_pdf(plan)) as document:
        assert len(document) == 2
        for page in range(2):
            _, picture = _rendered(document, page)
            assert [code.text for code in zxingcpp.read_barcodes(picture)] == [code_text(pack)]
            opened_page = document[page]
            text = opened_page.get_textpage()
            words += text.get_text_bounded().split()
            text.close()
            opened_page.close()
    assert [word for word in words if word in set(NUMBERS)] == NUMBERS


@pytest.mark.parametrize(("is_large", "size_mm"), [(False, (105, 148)), (True, (148, 210))])
def test_a_visitors_card_has_everything_on_one_side(is_large: bool, size_mm: tuple[int, int]) -> None:
    checked = pack_of({})
    card = visitor_card(make_number("pack", 12), "Gate counter", checked, check_all(checked))
    with opened(visitor_card_pdf(card, is_large=is_large)) as document:
        assert len(document) == 1
        size, picture = _rendered(document)
        assert size == pytest.approx(size_mm, abs=0.1)
        assert [code.text for code in zxingcpp.read_barcodes(picture)] == [code_text(card.number)]
        words, lowest = _words(document)
    assert lowest > 2
    for line in (*card.what, *card.charging, *card.never, *card.bring_back, *card.when_hot):
        assert " ".join(say(line).split()) in words


@pytest.mark.parametrize(("size", "size_mm"), [("100x60", (100, 60)), ("70x45", (70, 45))])
def test_a_packs_own_label_has_its_true_millimetres_and_all_that_whoever_opens_it_has_to_know(
    size: PackLabelSize, size_mm: tuple[int, int]
) -> None:
    label = pack_label(make_number("pack", 12), "Gate counter at the duck pond", pack_of({}), date(2026, 3, 2))
    with opened(pack_label_pdf(label, size)) as document:
        assert len(document) == 1
        found_mm, picture = _rendered(document)
        assert found_mm == pytest.approx(size_mm, abs=0.1)
        assert [code.text for code in zxingcpp.read_barcodes(picture)] == [code_text(label.number)]
        words, lowest = _words(document)
    assert lowest > 1
    for line in label.lines:
        assert " ".join(say(line).split()) in words


def test_what_was_let_pass_stands_on_the_pick_list() -> None:
    cell = PlannedCell(NUMBERS[0], 2400, 20, 40, "18650", "Shelf box 1", None, is_picked=False)
    let_pass = Waived(
        "fuse", said("worked-lamp-known"), "one of its own", "Oona", datetime(2026, 3, 2, tzinfo=UTC), holds=True
    )
    lapsed = Waived(
        "balance", said("worked-lamp-known"), "was other", "Oona", datetime(2026, 3, 2, tzinfo=UTC), holds=False
    )
    plan = PlanFile(
        make_number("pack", 12), "Gate counter", "planned", "layered-oxide", 1, 1, 4.2, 2400, ((cell,),), (NUMBERS[0],),
        waivers=(let_pass, lapsed),
    )  # fmt: skip
    with opened(pick_list_pdf(plan)) as document:
        words, _ = _words(document)
    assert "Let pass by Oona: The main fuse." in words
    assert "Reason: one of its own" in words
    assert "was other" not in words
