"""A letter to whoever has a pack that is called back."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.identify.numbering import code_text
from zembric.core.said import said
from zembric.prints.marks import draw_mark
from zembric.prints.paper import bytes_of, draw_code, new_paper, write, write_lines

if TYPE_CHECKING:
    from zembric.models import RecalledPack

_WIDTH_MM, _HEIGHT_MM = 210.0, 297.0
_LEFT_MM = 24.0
_ROOM_MM = _WIDTH_MM - 2 * _LEFT_MM


def recall_letter_pdf(found: RecalledPack) -> bytes:
    """One A4 page: which pack, what is wrong, what to do now, what not to do."""
    paper = new_paper(_WIDTH_MM, _HEIGHT_MM)
    paper.add_page()
    pack, recall = found.pack, found.recall
    write(paper, pack.given_to or said("letter-to-whom"), _LEFT_MM, 50, _ROOM_MM * 0.6, 5)
    draw_code(paper, code_text(pack.number), _WIDTH_MM - _LEFT_MM - 25, 20, 1.1)
    draw_mark(paper, "flame", _LEFT_MM, 84, 14)
    write(paper, said("letter-head", pack=pack.number), _LEFT_MM + 18, 84, _ROOM_MM - 18, 9, bold=True)
    y = write_lines(paper, pack.purpose, _LEFT_MM + 18, 95, _ROOM_MM - 18, 5.5) + 8
    y = write_lines(paper, recall.why, _LEFT_MM, y, _ROOM_MM, 5.2) + 4
    y = write_lines(paper, recall.tell, _LEFT_MM, y, _ROOM_MM, 5.2) + 4
    for line in (said("letter-stop"), said("letter-bring"), said("letter-hot"), said("letter-free")):
        y = write_lines(paper, line, _LEFT_MM, y, _ROOM_MM, 5.2) + 2
    write(paper, said("letter-day", day=recall.at.date().isoformat()), _LEFT_MM, y + 8, _ROOM_MM, 4.6)
    return bytes_of(paper)
