"""Whether a donor's own charger suits its cells, where they are charged in it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.grade.assessment import size_of
from zembric.core.identify.claims import most_mah
from zembric.core.identify.donor_clues import InPlaceAdvice, charge_in_place_advice, program_current_ma
from zembric.operations.cells.judged import facts_of

if TYPE_CHECKING:
    from zembric.core.house.rules import HouseRules
    from zembric.models import CellRow, Donor


def in_place_of(donor: Donor, rules: HouseRules) -> InPlaceAdvice | None:
    """Whether a donor's own charger suits the weakest of its cells; None where they are charged out of it."""
    if donor.charged_in == "out":
        return None
    here = [cell for cell in donor.cells if cell.handed_over_at is None]
    believed = [mah for cell in here if (mah := _believed_mah(cell)) is not None]
    sizes = [(size, facts) for cell in here if (size := size_of(facts := facts_of(cell, cell.model)))]
    most = [mah for size, facts in sizes if (mah := most_mah(size, facts.family, rules, facts.mass_g)) is not None]
    return charge_in_place_advice(charge_current_of(donor), min(believed, default=None), min(most, default=None))


def _believed_mah(cell: CellRow) -> float | None:
    return (cell.judgement.capacity_mah if cell.judgement else None) or cell.rated_capacity_mah


def charge_current_of(donor: Donor) -> float | None:
    """The current [mA] that a donor's own linear charger is set to; None where its resistor is not on record."""
    if donor.charger_kind != "linear" or donor.charger_k_v is None or donor.charger_r1_ohm is None:
        return None
    return program_current_ma(donor.charger_k_v, donor.charger_r1_ohm, donor.charger_r2_ohm)


def in_place_of_cell(cell: CellRow, most: float | None) -> InPlaceAdvice | None:
    """Advice where the cell is charged in its device or its holder."""
    if cell.donor.charged_in == "out" and cell.in_use_in is None:
        return None
    return charge_in_place_advice(charge_current_of(cell.donor), _believed_mah(cell), most)
