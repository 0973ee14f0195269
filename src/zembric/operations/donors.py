"""Opening a donor: its cells get numbers and places in a tray in one go."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import func, select
from sqlalchemy.orm import selectinload

from zembric.core.errors import BadInputError, NotFoundError
from zembric.core.limits import CELL_MOST_MAH, FULL_V, MARKED_FULL_MOST_V, Family
from zembric.core.numbering import make_number, read_number
from zembric.core.sizes import read_print, read_size
from zembric.models import CELL_NUMBERS, DONOR_KINDS, DONOR_NUMBERS, CellRow, Donor
from zembric.operations.judging import rejudge
from zembric.operations.places import LARGEST_TRAY, room_in_tray
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

DESCRIPTION_MOST = 200


@dataclass(frozen=True, slots=True)
class DonorToOpen:
    """What is known of a dead device before its cells are out; None where it is not known."""

    kind: str
    description: str
    cells: int
    size_code: str | None = None
    family: str | None = None
    full_v: float | None = None
    claimed_capacity_mah: float | None = None
    rated_capacity_mah: float | None = None


def open_donor(session: Session, actor: Actor, wanted: DonorToOpen, now: datetime) -> Donor:
    """Makes the donor and its cells, each with a number, a place in a tray and a first judgement.

    Raises:
        BadInputError: an unknown kind or family, a size nobody understands, or a number of cells outside 1 to 40.
    """
    size_code = _check(wanted)
    donor = Donor(
        number=make_number("donor", session.scalar(DONOR_NUMBERS)),
        kind=wanted.kind,
        description=wanted.description.strip(),
        opened_at=now,
        opened_by_id=actor.person_id,
    )
    tray, slots = room_in_tray(session, wanted.cells)
    numbers = [make_number("cell", session.scalar(CELL_NUMBERS)) for _ in slots]
    cells = [
        CellRow(
            number=number,
            donor=donor,
            size_code=size_code,
            family=wanted.family,
            full_v=wanted.full_v,
            rated_capacity_mah=wanted.rated_capacity_mah,
            claimed_capacity_mah=wanted.claimed_capacity_mah,
            place=tray,
            slot=slot,
        )
        for number, slot in zip(numbers, slots, strict=True)
    ]
    session.add(donor)
    session.add_all(cells)
    session.flush()
    for cell in cells:
        rejudge(session, cell, now)
    note(session, actor, "donor-opened", now, donor_id=donor.id, cells=[cell.number for cell in cells])
    return donor


def get_donor(session: Session, typed: str) -> Donor:
    number = read_number("donor", typed)
    donor = session.scalar(
        select(Donor)
        .where(Donor.number == number)
        .options(
            selectinload(Donor.cells).joinedload(CellRow.judgement), selectinload(Donor.cells).joinedload(CellRow.place)
        )
    )
    if donor is None:
        raise NotFoundError(f"There is no donor {number}.")
    return donor


def recent_donors(session: Session, most: int = 30) -> Sequence[tuple[Donor, int]]:
    """The donors opened last, each with its number of cells."""
    counted = select(CellRow.donor_id, func.count().label("cells")).group_by(CellRow.donor_id).subquery()
    rows = session.execute(
        select(Donor, counted.c.cells)
        .join(counted, counted.c.donor_id == Donor.id)
        .order_by(Donor.id.desc())
        .limit(most)
    )
    return [(donor, cells) for donor, cells in rows]


def _check(wanted: DonorToOpen) -> str | None:
    """Raises BadInputError for the first thing that cannot be; returns the size code in its plain form."""
    if wanted.kind not in DONOR_KINDS:
        raise BadInputError(f'"{wanted.kind}" is not a kind of device.', field="kind")
    if len(wanted.description) > DESCRIPTION_MOST:
        raise BadInputError(f"Keep the description under {DESCRIPTION_MOST} characters.", field="description")
    if not 1 <= wanted.cells <= LARGEST_TRAY:
        raise BadInputError(f"1 to {LARGEST_TRAY} cells can be numbered in one go.", field="cells")
    if wanted.family is not None and wanted.family not in set(Family):
        raise BadInputError(f'"{wanted.family}" is not a chemistry family.', field="family")
    _check_full_voltage(wanted)
    for field in ("claimed_capacity_mah", "rated_capacity_mah"):
        value = getattr(wanted, field)
        if value is not None and not 0 < value <= CELL_MOST_MAH.value:
            raise BadInputError(f"A capacity in mAh lies between 1 and {CELL_MOST_MAH.value:.0f}.", field=field)
    if not wanted.size_code or not wanted.size_code.strip():
        return None
    size = read_size(wanted.size_code)
    if read_print(wanted.size_code).family is Family.PRIMARY and wanted.family != Family.PRIMARY:
        raise BadInputError(
            f'"{wanted.size_code.strip()}" is the print of a primary cell, which must never be charged. Choose primary.',
            field="family",
        )
    return size.code


def _check_full_voltage(wanted: DonorToOpen) -> None:
    if wanted.full_v is None:
        return
    if wanted.family != Family.HIGH_VOLTAGE_COBALT:
        raise BadInputError(
            "A marked full voltage belongs to high-voltage cobalt; the others have their family's.", field="full_v"
        )
    least, most = FULL_V[Family.HIGH_VOLTAGE_COBALT].value, MARKED_FULL_MOST_V.value
    if not least <= wanted.full_v <= most:
        raise BadInputError(f"A marked full voltage lies between {least:.2f} and {most:.2f} V.", field="full_v")
