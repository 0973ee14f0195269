"""What others worked on is changed by them or by a coordinator, and by nobody else."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from sqlalchemy.orm import Session

from tests.support.benchwork import (
    TWO_BY_TWO,
    at,
    build,
    keep,
    move,
    numbers_of,
    open_donor,
    shelf_of,
    voltage,
)
from tests.support.people import PASSWORD
from zembric.core.errors import NotAllowedError
from zembric.operations import people
from zembric.operations.actors import Actor
from zembric.operations.bench import taking_back
from zembric.operations.bench.readings import TypedReading
from zembric.operations.known.entries import entries_of
from zembric.operations.matching import searches
from zembric.operations.packing import outside, wishes
from zembric.operations.signing_in import passwords

Act = Callable[[Session, Actor], object]


def correcting(session: Session, owner: Actor) -> Act:
    (number,) = numbers_of(open_donor(session, owner))
    cell = voltage(session, owner, number, "3.17", at(minutes=1))
    wrong, right = entries_of(session, cell.id)[-1].id, TypedReading("voltage", "3.71", "meter")
    return lambda session, actor: taking_back.correct(session, actor, number, wrong, right, "swapped", at(minutes=5))


def giving_up_a_wish(session: Session, owner: Actor) -> Act:
    wish = wishes.make_wish(session, owner, "lamp of the quay", TWO_BY_TWO, at())
    return lambda session, actor: wishes.give_up_wish(session, actor, wish.id, at(1))


def stopping_a_search(session: Session, owner: Actor) -> Act:
    search = searches.ask_for_search(session, owner, TWO_BY_TWO, 5, at())
    return lambda session, actor: searches.stop_search(session, actor, search.id)


def dropping_a_pack(session: Session, owner: Actor) -> Act:
    shelf_of(session, owner, [2300] * 4)
    pack = keep(session, owner)
    return lambda session, actor: move(session, actor, pack, "dropped", at(3))


def withdrawing_a_page(session: Session, owner: Actor) -> Act:
    shelf_of(session, owner, [2300] * 4)
    pack = build(session, owner, keep(session, owner), at(3))
    outside.open_page(session, owner, pack.number, at(4))
    return lambda session, actor: outside.withdraw_page(session, actor, pack.number, at(5))


@pytest.mark.parametrize(
    "prepare", [correcting, giving_up_a_wish, stopping_a_search, dropping_a_pack, withdrawing_a_page]
)
def test_it_is_for_its_owner_or_a_coordinator(
    session: Session, volunteer: Actor, coordinator: Actor, prepare: Callable[[Session, Actor], Act]
) -> None:
    link = people.add_person(session, "Nova", "volunteer", at())
    other = passwords.accept_invitation(session, link, "Nova", PASSWORD, at())
    act = prepare(session, volunteer)
    with pytest.raises(NotAllowedError, match="is for Volunteer or a coordinator"):
        act(session, other)
    act(session, coordinator)
