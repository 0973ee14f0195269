"""What a cell is: set by whoever has it in hand, until it was measured."""

from __future__ import annotations

from typing import Any

import pytest
from sqlalchemy.orm import Session

from tests.support.benchwork import at, capacity, charge, numbers_of, open_donor
from zembric.core.errors import BadInputError, DangerError, NotAllowedError
from zembric.core.said import named
from zembric.models import CellRow
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.bench.benchside import at_the_bench
from zembric.operations.cells.identity import set_facts
from zembric.wording import say


def _set(session: Session, who: Actor, cell: CellRow, siblings_too: bool = False, **facts: Any) -> CellRow:
    return set_facts(session, who, cell.number, cell.version, facts, at(1), siblings_too=siblings_too)


def test_only_what_is_told_is_changed_and_siblings_share_what_a_pack_shares(session: Session, volunteer: Actor) -> None:
    one, sibling = open_donor(session, volunteer, 2).cells
    _set(session, volunteer, one, True, claimed_capacity_mah=2800, mass_g=45.2, terminals="stub", protection="none")
    assert (one.rated_capacity_mah, one.claimed_capacity_mah, one.mass_g, one.terminals) == (2600, 2800, 45.2, "stub")
    assert (sibling.claimed_capacity_mah, sibling.protection, sibling.mass_g, sibling.terminals) == (
        2800, "none", None, None,
    )  # fmt: skip


def test_an_ambiguous_code_is_asked_and_a_ruler_settles_it(session: Session, volunteer: Actor) -> None:
    cell = open_donor(session, volunteer, size_code=None).cells[0]
    with pytest.raises(BadInputError, match="Measure it with a ruler") as refused:
        _set(session, volunteer, cell, size_code="1055275")
    assert refused.value.field == "size_code"
    _set(session, volunteer, cell, width_mm=55.0, length_mm=275.0, thickness_mm=10.0)
    assert (cell.width_mm, cell.length_mm, cell.thickness_mm) == (55, 275, 10)


def test_a_claim_is_held_against_volume_and_mass_with_the_arithmetic(session: Session, volunteer: Actor) -> None:
    cell = open_donor(session, volunteer, claimed_capacity_mah=9900, rated_capacity_mah=None).cells[0]
    by_volume = at_the_bench(session, cell.number, at(1)).claim
    assert by_volume
    assert (by_volume.verdict, by_volume.by) == ("impossible", "volume")
    _set(session, volunteer, cell, claimed_capacity_mah=3400, mass_g=30)
    by_mass = at_the_bench(session, cell.number, at(1)).claim
    assert by_mass
    assert (by_mass.verdict, by_mass.by) == ("impossible", "mass")
    assert "30" in say(by_mass.arithmetic)


def test_after_its_capacity_was_measured_only_a_coordinator_says_anew_what_it_is(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    cell = open_donor(session, volunteer).cells[0]
    entries.inspect(session, volunteer, cell.number, [], at())
    capacity(session, volunteer, cell.number, "2300", at(minutes=5), started_full=True)
    with pytest.raises(NotAllowedError):
        _set(session, volunteer, cell, rated_capacity_mah=2400)
    _set(session, volunteer, cell, terminals="clean", mass_g=44)
    _set(session, coordinator, cell, rated_capacity_mah=2400)
    assert (cell.rated_capacity_mah, cell.mass_g) == (2400, 44)


def test_a_primary_print_is_no_chemistry_to_charge_and_stays_blocked(session: Session, volunteer: Actor) -> None:
    cell = open_donor(session, volunteer, kind="meter", size_code=None, family=None).cells[0]
    with pytest.raises(BadInputError, match="must never be charged") as refused:
        _set(session, volunteer, cell, size_code="CR2032")
    assert refused.value.field == "family"
    _set(session, volunteer, cell, family="primary")
    with pytest.raises(NotAllowedError):
        _set(session, volunteer, cell, family="layered-oxide")
    with pytest.raises(DangerError, match="never be charged"):
        charge(session, volunteer, cell.number, "3.0", at(1))


def test_a_volunteer_makes_no_unknown_or_primary_sibling_chargeable_by_the_way(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    known, unknown = open_donor(session, volunteer, 2).cells
    _set(session, coordinator, unknown, family="primary")
    with pytest.raises(NotAllowedError):
        _set(session, volunteer, known, True, family="titanate", rated_capacity_mah=1200)
    assert unknown.family == "primary"


@pytest.mark.parametrize(
    ("facts", "field"),
    [
        ({"rated_capacity_mah": 0}, "rated_capacity_mah"),
        ({"advertised_capacity_mah": 1e6}, "advertised_capacity_mah"),
        ({"mass_g": -1}, "mass_g"),
        ({"build": "glass"}, "build"),
        ({"plus_end": "both"}, "plus_end"),
        ({"width_mm": 18}, "width_mm"),
        ({"size_code": "18-50"}, "size_code"),
        ({"chemistry_code": "mud"}, "chemistry_code"),
        ({"model_id": 4711}, "model_id"),
    ],
)
def test_a_fact_that_cannot_be_is_refused_at_its_field(
    session: Session, volunteer: Actor, facts: dict[str, Any], field: str
) -> None:
    cell = open_donor(session, volunteer).cells[0]
    with pytest.raises(BadInputError) as refused:
        _set(session, volunteer, cell, **facts)
    assert refused.value.field == field


def test_how_its_ends_are_tells_how_it_can_be_joined(session: Session, volunteer: Actor) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    assert at_the_bench(session, number, at(1)).joining is None
    set_facts(session, volunteer, number, 1, {"terminals": "soldered", "build": "flat-can"}, at(1))
    side = at_the_bench(session, number, at(1))
    assert side.joining == named("joining", "soldered")
    assert side.plus == named("usual-plus", "flat-can")


@pytest.mark.parametrize(
    "facts",
    [
        {"full_v": 4.4},
        {"family": "iron-phosphate", "full_v": 4.2},
        {"family": "high-voltage-cobalt", "full_v": 4.9},
        {"family": "high-voltage-cobalt", "full_v": 3.6},
    ],
)
def test_no_cell_is_marked_fuller_than_its_family_bears(
    session: Session, volunteer: Actor, facts: dict[str, Any]
) -> None:
    cell = open_donor(session, volunteer).cells[0]
    with pytest.raises(BadInputError) as refused:
        _set(session, volunteer, cell, **facts)
    assert refused.value.field == "full_v"


def test_a_marked_full_voltage_goes_with_the_chemistry_it_was_read_with_for_siblings_too(
    session: Session, volunteer: Actor
) -> None:
    cell, sibling = open_donor(session, volunteer, 2, family="high-voltage-cobalt", full_v=4.4).cells
    _set(session, volunteer, cell, True, family="layered-oxide")
    assert (cell.full_v, sibling.family, sibling.full_v) == (None, "layered-oxide", None)
    entries.inspect(session, volunteer, cell.number, [], at(1))
    with pytest.raises(DangerError, match="too high"):
        charge(session, volunteer, cell.number, "4.40", at(1))


def test_calipers_are_a_size_that_a_volunteer_sets_for_all_siblings_measured_or_not(
    session: Session, volunteer: Actor
) -> None:
    first, second, third = open_donor(session, volunteer, 3, size_code=None, rated_capacity_mah=None).cells
    entries.inspect(session, volunteer, second.number, [], at())
    capacity(session, volunteer, second.number, "520", at(minutes=5), started_full=True, current_ma="200")
    _set(session, volunteer, first, siblings_too=True, width_mm=13.2, length_mm=35.1)
    assert {cell.size_code for cell in (first, second, third)} == {"13.2 x 35.1"}
    with pytest.raises(NotAllowedError):
        _set(session, volunteer, second, width_mm=14.0, length_mm=35.1)
