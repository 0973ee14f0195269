"""Short ways to work at the bench in tests of the operations."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

from sqlalchemy.orm import Session

from tests.support.databases import Remembered
from zembric.core.house.limits import Family
from zembric.core.pack.parts import PartOfPack, TypedPart
from zembric.demo.hands import prove
from zembric.models import CellRow, Donor, Pack
from zembric.operations import donors
from zembric.operations.actors import Actor
from zembric.operations.bench import entries, whereabouts
from zembric.operations.bench.readings import TypedReading
from zembric.operations.donors import DonorToOpen
from zembric.operations.matching.proposals import MatchRequest, propose
from zembric.operations.packing import packs, plans
from zembric.operations.packing.parts import PartToKeep

START = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)
_shelves = Remembered[list[str]]()
TWO_BY_TWO = MatchRequest(2, 2, Family.LAYERED_OXIDE, "18650")


def at(days: float = 0, hours: float = 0, minutes: float = 0) -> datetime:
    return START + timedelta(days=days, hours=hours, minutes=minutes)


def open_donor(session: Session, who: Actor, cells: int = 1, **known: Any) -> Donor:
    """A laptop pack of 18650 cells rated at 2600 mAh, unless said otherwise."""
    usual: dict[str, Any] = {
        "kind": "laptop", "description": "school laptop", "size_code": "18650", "family": "layered-oxide",
        "rated_capacity_mah": 2600,
    }  # fmt: skip
    return donors.open_donor(session, who, DonorToOpen(cells=cells, **(usual | known)), START)


def numbers_of(donor: Donor) -> list[str]:
    return [cell.number for cell in donor.cells]


def voltage(session: Session, who: Actor, number: str, value: str, when: datetime, **more: Any) -> CellRow:
    return entries.measure(session, who, number, TypedReading("voltage", value, "meter", **more), when)


def capacity(session: Session, who: Actor, number: str, value: str, when: datetime, **more: Any) -> CellRow:
    more = {"method": "tester", "current_ma": "1000", "cut_off_v": "3.0"} | more
    return entries.measure(session, who, number, TypedReading("capacity", value, **more), when)


def resistance(
    session: Session, who: Actor, number: str, value: str, when: datetime, method: str = "ac-1khz"
) -> CellRow:
    return entries.measure(session, who, number, TypedReading("resistance", value, method), when)


def charge(
    session: Session, who: Actor, number: str, end_v: str, when: datetime, *, complete: bool = True, **more: Any
) -> CellRow:
    return entries.charge(session, who, number, entries.TypedCharge(end_v, complete, **more), when)


def to_the_shelf(
    session: Session,
    who: Actor,
    number: str,
    capacity_mah: int = 2300,
    resting: str = "3.70",
    rests: str = "3.80",
    *,
    found: bool = True,
) -> CellRow:
    """All the way from the donor to the shelf, two days after it was opened; there it rests at 3.80 V.

    `found`: looked at and measured as it came; else somebody did that already.
    """
    if found:
        entries.inspect(session, who, number, [], at(minutes=1))
        voltage(session, who, number, resting, at(minutes=2))
    charge(session, who, number, "4.20", at(hours=3))
    capacity(session, who, number, str(capacity_mah), at(days=1))
    resistance(session, who, number, "40", at(days=1, minutes=5))
    charge(session, who, number, "3.90", at(days=1, minutes=30), complete=False)
    voltage(session, who, number, rests, at(days=1, hours=1, minutes=45))
    return whereabouts.shelve(session, who, number, None, at(days=1, hours=2))


def shelf_of(session: Session, who: Actor, capacities_mah: list[int]) -> list[str]:
    """Cells of one donor that were brought onto the shelf."""

    def bring() -> list[str]:
        numbers = numbers_of(open_donor(session, who, len(capacities_mah)))
        for number, capacity_mah in zip(numbers, capacities_mah, strict=True):
            to_the_shelf(session, who, number, capacity_mah)
        return numbers

    return list(_shelves.do(session, (who, *capacities_mah), bring))


def keep(session: Session, who: Actor, request: MatchRequest = TWO_BY_TWO, purpose: str = "gate counter") -> Pack:
    groups = tuple(group.keys for group in propose(session, request, at(2)).best.groups)
    return plans.keep_pack(session, who, plans.PackToKeep(purpose, request, groups), at(2))


def move(session: Session, who: Actor, pack: Pack, state: str, when: datetime, **more: Any) -> Pack:
    return packs.move_pack(session, who, pack.number, packs.PackMove(state, pack.version, **more), when)


def well_planned(series: int, full_v: float = 4.2) -> list[PartToKeep]:
    """Parts of a pack for a small lamp that has nothing to stop it."""
    figures: dict[PartOfPack, dict[str, str]] = {
        "device": {"current_ma": "200", "on_share": "1"},
        "charger": {
            "charger_kind": "cc-cv", "full_v": f"{series * full_v:g}", "current_ma": "500", "supply_v": "24",
            "lamp": "known", "while_used": "no",
        },
        "board": {
            "series": str(series), "over_v": "4.25", "under_v": "2.8", "most_a": "3", "balance": "active", "sleeps": "no",
        },
        "fuse": {"most_a": "0.4"},
        "cell-fuses": {"most_a": "2"},
    }  # fmt: skip
    return [PartToKeep(TypedPart(kind, values)) for kind, values in figures.items()]


def build(session: Session, who: Actor, pack: Pack, when: datetime) -> Pack:
    """Planned well, picked cell by cell, and joined."""
    packs.set_parts(session, who, pack.number, well_planned(pack.series), pack.version, when)
    for group in pack.groups:
        for member in group.cells:
            plans.pick_cell(session, who, pack.number, member.cell.number, when)
    return move(session, who, pack, "built", when)


def give_out(session: Session, who: Actor, pack: Pack, when: datetime) -> Pack:
    """Proved, and away."""
    prove(session, who, pack.number, when)
    return move(session, who, pack, "given-out", when, given_to="the duck pond's keeper")
