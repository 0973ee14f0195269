"""What a stretch of time brought."""

from __future__ import annotations

from sqlalchemy.orm import Session

from tests.support.benchwork import at, charge, numbers_of, open_donor, shelf_of, voltage
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.house.evenings import brought_since


def test_what_was_opened_tested_shelved_and_out_is_summed_from_a_time_on(session: Session, volunteer: Actor) -> None:
    """Three cells of 2000, 2100 and 1900 mAh at 3.6 V are 21.6 Wh; one of a vape is found too low."""
    shelf_of(session, volunteer, [2000, 2100, 1900])
    low, _fine = numbers_of(open_donor(session, volunteer, 2, kind="vape-single-use"))
    entries.inspect(session, volunteer, low, [], at(minutes=1))
    voltage(session, volunteer, low, "1.2", at(minutes=2))
    found = brought_since(session, at(), at(3))
    assert (found.donors, found.cells, found.tested, found.shelved, found.out) == (2, 5, 3, 3, 1)
    assert (found.rescued_mah, round(found.rescued_wh, 6)) == (6000, 21.6)
    assert [(kind.donors, kind.cells, kind.shelved, kind.out, kind.mean_mah) for kind in found.by_kind] == [
        (1, 3, 3, 0, 2000), (1, 2, 0, 1, None),
    ]  # fmt: skip
    later = brought_since(session, at(2), at(3))
    assert (later.donors, later.tested, later.shelved, later.out, later.rescued_wh) == (0, 0, 0, 0, 0)


def test_what_was_left_too_long_is_counted(session: Session, volunteer: Actor) -> None:
    shelf_of(session, volunteer, [2000])
    # Shelved on day 1; the look is due after 14 days, and overdue 30 days later.
    assert [brought_since(session, at(), at(days)).overdue for days in (14, 40)] == [0, 0]
    (number,) = numbers_of(open_donor(session, volunteer))
    entries.inspect(session, volunteer, number, [], at())
    voltage(session, volunteer, number, "3.7", at())
    charge(session, volunteer, number, "4.2", at(hours=3))
    voltage(session, volunteer, number, "4.18", at(2))
    assert [brought_since(session, at(), at(days)).overdue for days in (13, 16)] == [0, 1]
