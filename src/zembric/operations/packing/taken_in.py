"""Packs made elsewhere, or before there was Zembric: taken in with what is known, then looked at and proved like any that came back."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError, DangerError
from zembric.core.house.limits import Family
from zembric.core.identify.numbering import make_number
from zembric.core.measure.entry_checks import read_number
from zembric.core.said import said
from zembric.models import PACK_NUMBERS, Pack, PackCell, PackGroup
from zembric.operations.bench import entries
from zembric.operations.bench.readings import TypedReading
from zembric.operations.donors import DonorToOpen, open_donor
from zembric.operations.matching.proposals import MatchRequest
from zembric.operations.packing.plans import read_purpose, refuse_too_large
from zembric.operations.record import note

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

#: What a device is called that nobody knows more of.
_KIND = "unknown"
_MOST_CELLS = 40


@dataclass(frozen=True, slots=True)
class PackToTakeIn:
    """What is known of it: purpose, shape, cells by family and size, what one is said to hold [mAh], group voltages from minus on.

    `looked_at`: somebody looked at it from outside and found nothing.
    """

    purpose: str
    series: int
    parallel: int
    family: str
    size_code: str
    capacity_mah: str
    group_volts: tuple[str, ...]
    looked_at: bool
    full_v: float | None = None


def take_in(session: Session, actor: Actor, wanted: PackToTakeIn, now: datetime) -> Pack:
    """Makes the pack as one that came back, with a number for each of its cells.

    Raises:
        BadInputError: something of it cannot be, or nobody looked at it.
        DangerError: above what volunteers build, or a group stands where no cell may.
        NotAllowedError: above what is built without a coordinator.
    """
    purpose = read_purpose(wanted.purpose)
    if not (
        1 <= wanted.series <= _MOST_CELLS and wanted.parallel >= 1 and wanted.series * wanted.parallel <= _MOST_CELLS
    ):
        raise BadInputError(said("taken-in-shape", most=_MOST_CELLS), field="series")
    if wanted.family not in {str(family) for family in Family if family is not Family.PRIMARY}:
        raise BadInputError(said("taken-in-family"), field="family")
    capacity_mah = read_number(wanted.capacity_mah, "capacity", "capacity_mah")
    if capacity_mah <= 0:
        raise BadInputError(said("number-above-zero-is-needed-here"), field="capacity_mah")
    if not wanted.looked_at:
        raise DangerError(said("taken-in-look-first"), field="looked_at")
    if len(wanted.group_volts) != wanted.series:
        raise BadInputError(said("return-wants-all-groups", series=wanted.series), field="group_volts")
    volts = [f"{read_number(text, 'voltage', 'group_volts'):.3f}" for text in wanted.group_volts]
    request = MatchRequest(wanted.series, wanted.parallel, Family(wanted.family), wanted.size_code, "C")
    refuse_too_large(actor, request, capacity_mah * wanted.series * wanted.parallel)
    donor = open_donor(
        session, actor,
        DonorToOpen(
            _KIND, purpose, wanted.series * wanted.parallel, wanted.size_code, wanted.family, full_v=wanted.full_v,
            claimed_capacity_mah=capacity_mah, parallel=wanted.parallel,
        ),
        now,
    )  # fmt: skip
    cells = list(donor.cells)
    for index, cell in enumerate(cells):
        reading = TypedReading("voltage", volts[index // wanted.parallel], "meter")
        entries.first_look(session, actor, cell.number, [], replace(reading, confirmed=True), now)
    pack = Pack(
        number=make_number("pack", session.scalar(PACK_NUMBERS)), purpose=purpose, state="back", series=wanted.series,
        parallel=wanted.parallel, request=request.as_json(), bound_mah=capacity_mah * wanted.parallel, made_at=now,
        made_by_id=actor.person_id, proving_since=now,
    )  # fmt: skip
    for number in range(wanted.series):
        mine = cells[number * wanted.parallel : (number + 1) * wanted.parallel]
        pack.groups.append(
            PackGroup(
                number=number + 1,
                cells=[
                    PackCell(position=position, cell=cell, capacity_mah=capacity_mah, released_at=None)
                    for position, cell in enumerate(mine, start=1)
                ],
            )
        )
    session.add(pack)
    for cell in cells:
        cell.place, cell.slot = None, None
    session.flush()
    note(session, actor, "pack-taken-in", now, pack_id=pack.id, pack=pack.number)
    session.flush()
    return pack
