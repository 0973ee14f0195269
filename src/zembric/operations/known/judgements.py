"""What was last said of a cell."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.said import Said, from_json, said

if TYPE_CHECKING:
    from zembric.models import CellRow


def next_said(cell: CellRow) -> Said:
    """What its last judgement says to do next."""
    return from_json(cell.judgement.next_said) if cell.judgement else said("not-judged-yet")
