"""A cell at rest: its resting voltages over days."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.measure.first_voltage import counting_voltages
from zembric.core.measure.self_discharge import RestPicture, rest_picture
from zembric.operations.cells.judged import story_of
from zembric.operations.cells.stories import get_cell
from zembric.operations.known.instruments import get_instrument
from zembric.operations.known.rules import rules_in_force

if TYPE_CHECKING:
    from sqlalchemy.orm import Session


def rest_of_cell(session: Session, number: str, instrument: str | None) -> RestPicture | None:
    """The picture of a cell's rest, and what a meter will see next; without one the meter of the last reading."""
    cell = get_cell(session, number)
    meter = get_instrument(session, instrument) if instrument else None
    story = story_of(session, cell)
    return rest_picture(story, counting_voltages(story), rules_in_force(session), meter.resolution_v if meter else None)
