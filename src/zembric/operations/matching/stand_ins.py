"""Cells of the shelf that may stand in for the poor cell of a good device."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError
from zembric.core.grade.assessment import read_size_or_none
from zembric.core.house.limits import Family
from zembric.core.identify.families import check_marked_full_v
from zembric.core.match.stand_ins import PoorDevice, Recell, ShelfCell, find_stand_ins
from zembric.core.measure.entry_checks import read_number
from zembric.core.said import said
from zembric.operations.cells.judged import outline_of
from zembric.operations.cells.shelf import CellFilter, candidates
from zembric.operations.known.catalogue import resolve_size
from zembric.operations.known.rules import rules_in_force

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.match.stand_ins import Seat
    from zembric.core.measure.entry_checks import Quantity
    from zembric.models import CellRow


@dataclass(frozen=True, slots=True)
class TypedDevice:
    """A device as it was typed; an empty text: not known."""

    size: str
    family: str
    held_mah: str
    seat: Seat
    full_v: str = ""
    draws_ma: str = ""
    peak_ma: str = ""
    charger_k_v: str = ""
    charger_ohm: str = ""
    has_sensor: bool = False
    counts_on_protection: bool = False


def stand_ins_for(session: Session, typed: TypedDevice, now: datetime) -> Recell:
    """What lies free on the shelf and fits.

    Raises:
        BadInputError: a size or a figure that cannot be read.
        DangerError: its cell is one that is never charged.
    """
    family = Family(typed.family)
    room = resolve_size(session, typed.size).size
    if room is None:
        raise BadInputError(said("say-which-size-it-has"), field="size")
    device = PoorDevice(
        family, _maybe(typed.full_v, "voltage", "full_v"), room,
        read_number(typed.held_mah, "capacity", "held_mah"), _maybe(typed.draws_ma, "current", "draws_ma"),
        _maybe(typed.peak_ma, "current", "peak_ma"), _maybe(typed.charger_k_v, "voltage", "charger_k_v"),
        _maybe(typed.charger_ohm, "resistor", "charger_ohm"), typed.has_sensor, typed.seat, typed.counts_on_protection,
    )  # fmt: skip
    if family is not Family.PRIMARY:
        check_marked_full_v(family, device.full_v)
    wanted = CellFilter(on_shelf=True, free=True, grades=("A", "B", "C"))
    shelf = [cell for each in candidates(session, wanted, now) if (cell := _shelf_cell(each.cell)) is not None]
    return find_stand_ins(device, shelf, rules_in_force(session))


def _maybe(text: str, quantity: Quantity, field: str) -> float | None:
    return read_number(text, quantity, field) if text.strip() else None


def _shelf_cell(cell: CellRow) -> ShelfCell | None:
    """None: its size or what it holds is not known."""
    size, judged = outline_of(cell) or read_size_or_none(cell.size_code), cell.judgement
    if size is None or judged is None or not judged.capacity_mah or not cell.family:
        return None
    return ShelfCell(
        cell.number, Family(cell.family), cell.full_v, size, judged.capacity_mah, judged.carries_a,
        has_protection=cell.protection == "inside",
    )  # fmt: skip
