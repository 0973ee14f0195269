"""Cells of one donor held against one another by the voltages they were found with."""

from __future__ import annotations

from typing import TYPE_CHECKING

from sqlalchemy import Double, bindparam, func, select, type_coerce
from sqlalchemy.orm import aliased

from zembric.core.measure.odd_figures import far_from_siblings
from zembric.models import CellRow, Donor, DonorKindRow
from zembric.operations.statements import built_once

if TYPE_CHECKING:
    from collections.abc import Collection

    from sqlalchemy import Select
    from sqlalchemy.orm import Session

    from zembric.core.house.rules import HouseRules


_FOUND = "zembric-found"


def voltages_as_found(session: Session, donor_ids: Collection[int]) -> dict[int, dict[int, float]]:
    """The last resting voltage [V] of each cell before anything was charged in or taken out, by donor and cell.

    Of a donor with more cells than one device of its kind holds there is none: those came out of many devices, and
    what one of them reads says nothing about another.
    An entry asks for its donor's at every turn; what a judgement changes of them is noted (`note_found`).
    """
    asked = session.get_transaction(), frozenset(donor_ids)
    known: tuple[object, dict[int, dict[int, float]]] | None = session.info.get(_FOUND)
    if known is not None and known[0] == asked:
        return known[1]
    found: dict[int, dict[int, float]] = {donor_id: {} for donor_id in donor_ids}
    for donor_id, cell_id, value_v in session.execute(_of_one_packs(), {"donor_ids": list(donor_ids)}):
        found[donor_id][cell_id] = value_v
    session.info[_FOUND] = asked, found
    return found


def voltages_of_its_kind(session: Session, donor_id: int) -> dict[int, float]:
    """The same voltages by cell, whether they came out of one pack or of many devices: to be looked at, not to be judged by."""
    rows = session.execute(_as_found(), {"donor_ids": [donor_id]})
    return {cell_id: value_v for _, cell_id, value_v in rows}


def one_packs(session: Session, donor_ids: Collection[int]) -> set[int]:
    """Those donors whose cells stood beside one another in one device: no more of them than its kind holds."""
    return set(session.scalars(_one_packs(), {"donor_ids": list(donor_ids)}))


def forget_found(session: Session) -> None:
    """Others may have entered something meanwhile: what is asked from here on is read anew."""
    session.info.pop(_FOUND, None)


def note_found(session: Session, cell: CellRow) -> None:
    """What the other cells of a donor are held against changed in this transaction."""
    of_donor = session.info[_FOUND][1].get(cell.donor_id) if _FOUND in session.info else None
    if of_donor and cell.found_v is not None:
        of_donor[cell.id] = cell.found_v
    else:
        # Of an empty one nobody knows whether it came out of one pack.
        forget_found(session)


@built_once
def _of_one_packs() -> Select[int, int, float]:
    return _as_found().where(CellRow.donor_id.in_(_one_packs()))


@built_once
def _as_found() -> Select[int, int, float]:
    return (
        select(CellRow.donor_id, CellRow.id, type_coerce(CellRow.found_v, Double()))
        .where(CellRow.donor_id.in_(bindparam("donor_ids", expanding=True)), CellRow.found_v.is_not(None))
        .order_by(CellRow.id)
    )


def _one_packs() -> Select[int]:
    others = aliased(CellRow, flat=True)
    counted = select(func.count()).where(others.donor_id == Donor.id).scalar_subquery()
    return (
        select(Donor.id)
        .join(DonorKindRow, DonorKindRow.code == Donor.kind)
        .where(Donor.id.in_(bindparam("donor_ids", expanding=True)), counted <= DonorKindRow.cells_most)
    )


def found_of_siblings(found: dict[int, float], cell_id: int) -> tuple[float, ...]:
    """The voltages [V] of a donor's other cells, in falling order: who was measured first does not matter."""
    return tuple(sorted((value for sibling, value in found.items() if sibling != cell_id), reverse=True))


def gap_to_siblings(session: Session, cell: CellRow, rules: HouseRules) -> float | None:
    """How far [V] a cell was found below its siblings of the same donor; None within the usual, or with nothing to compare."""
    if cell.found_v is None:
        return None
    found = voltages_as_found(session, [cell.donor_id])[cell.donor_id]
    return far_from_siblings(cell.found_v, found_of_siblings(found, cell.id), rules)
