"""People, one-time links, signing in, and writes that are sent twice."""

from __future__ import annotations

import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor

import pytest
from sqlalchemy import Engine, select, text
from sqlalchemy.orm import Session

from tests.support.benchwork import at, open_donor
from tests.support.people import PASSWORD
from zembric.core.errors import (
    BadInputError,
    ConflictError,
    NotFoundError,
    TooManyTriesError,
)
from zembric.models import AnsweredRequest, SignInTry
from zembric.operations import people
from zembric.operations.actors import Actor
from zembric.operations.answered import answer_once
from zembric.operations.database import unit_of_work
from zembric.operations.housekeeping import tidy
from zembric.operations.signing_in import passwords


def test_a_one_time_link_sets_a_password_once(session: Session) -> None:
    token = people.add_person(session, "Nova", "volunteer", at())
    actor = passwords.accept_invitation(session, token, "Nova R", "a long enough one", at(1))
    assert passwords.sign_in(session, "nova r", "a long enough one", "1.1.1.1", at(2)) == actor
    with pytest.raises(NotFoundError, match="used up"):
        passwords.accept_invitation(session, token, "Nova", "a long enough one", at(1))


def test_a_link_ends_after_three_days_and_when_a_newer_one_is_made(session: Session) -> None:
    old = people.add_person(session, "Nova", "volunteer", at())
    with pytest.raises(NotFoundError):
        people.invited_name(session, old, at(3.1))
    new = people.invite_again(session, "Nova", at(1))
    with pytest.raises(NotFoundError):
        people.invited_name(session, old, at(1))
    assert people.invited_name(session, new, at(2)) == "Nova"


@pytest.mark.parametrize(
    ("name", "password"), [("", "a long enough one"), ("Nova", "short"), ("Volunteer", "a long enough one")]
)
def test_a_bad_name_or_password_is_refused_and_the_link_stays(session: Session, name: str, password: str) -> None:
    token = people.add_person(session, "Nova", "volunteer", at())
    with pytest.raises(BadInputError):
        passwords.accept_invitation(session, token, name, password, at())
    assert people.invited_name(session, token, at()) == "Nova"


def test_names_are_unique_whatever_their_capitals(session: Session, volunteer: Actor) -> None:
    with pytest.raises(ConflictError):
        people.add_person(session, "VOLUNTEER", "volunteer", at())


def test_five_wrong_passwords_close_the_account_there_for_a_quarter_of_an_hour(
    session: Session, volunteer: Actor
) -> None:
    """Whoever guesses elsewhere keeps nobody out where they are."""
    for _ in range(5):
        assert passwords.sign_in(session, "Volunteer", "wrong", "1.1.1.1", at()) is None
    with pytest.raises(TooManyTriesError):
        passwords.sign_in(session, "volunteer ", PASSWORD, "1.1.1.1", at())
    assert passwords.sign_in(session, "Volunteer", PASSWORD, "2.2.2.2", at()) == volunteer


def test_many_guesses_from_one_address_close_it_for_every_name(session: Session, volunteer: Actor) -> None:
    for number in range(passwords.TRIES_PER_ADDRESS):
        session.add(SignInTry(at=at(), account=f"guess {number}", address="1.1.1.1"))
    with pytest.raises(TooManyTriesError):
        passwords.sign_in(session, "Volunteer", PASSWORD, "1.1.1.1", at())
    assert passwords.sign_in(session, "Volunteer", PASSWORD, "2.2.2.2", at()) == volunteer


def test_many_guesses_at_once_are_counted_before_they_are_looked_at(
    engine: Engine, session: Session, volunteer: Actor
) -> None:
    session.commit()

    def guess(_: int) -> str:
        try:
            with unit_of_work(engine) as own:
                passwords.sign_in(own, "Volunteer", "wrong", "1.1.1.1", at())
        except TooManyTriesError:
            return "refused"
        return "looked at"

    with ThreadPoolExecutor(12) as pool:
        told = list(pool.map(guess, range(12)))
    assert told.count("looked at") == passwords.TRIES_PER_ACCOUNT_AND_ADDRESS


def test_the_first_link_is_made_only_while_nobody_has_a_password(session: Session) -> None:
    assert people.first_invitation(session, at()) is None


def test_passwords_and_tokens_are_kept_as_hashes_only(session: Session) -> None:
    person = people.get_person(session, "Volunteer")
    assert (person.password_hash or "").startswith("$argon2id$")


def at_once(engine: Engine, work: Callable[[Session], object], times: int = 4) -> list[object]:
    """Does the same in several transactions that all begin before any of them works."""
    together = threading.Barrier(times)

    def transaction(_: int) -> object:
        with unit_of_work(engine) as session:
            session.execute(text("SELECT 1"))
            together.wait()
            return work(session)

    with ThreadPoolExecutor(times) as pool:
        return list(pool.map(transaction, range(times)))


def test_servers_that_start_at_once_agree_on_their_secret(engine: Engine) -> None:
    secrets = at_once(engine, people.server_secret)
    assert len(set(secrets)) == 1


def test_donors_opened_at_once_get_different_numbers_and_places(engine: Engine, volunteer: Actor) -> None:
    donors = at_once(engine, lambda session: open_donor(session, volunteer, 3))
    cells = [cell for donor in donors for cell in donor.cells]  # type: ignore[attr-defined]
    assert len({cell.number for cell in cells}) == 12
    assert sorted(cell.slot for cell in cells) == list(range(1, 13))


def test_a_write_sent_twice_is_done_once(session: Session, volunteer: Actor) -> None:
    done: list[int] = []

    def perform() -> tuple[int, dict[str, object]]:
        done.append(1)
        return 201, {"number": len(done)}

    first = answer_once(session, volunteer, "key-12345", b"body", at(), perform)
    second = answer_once(session, volunteer, "key-12345", b"body", at(), perform)
    assert (first, second, len(done)) == ((201, {"number": 1}), (201, {"number": 1}), 1)
    with pytest.raises(BadInputError, match="another request"):
        answer_once(session, volunteer, "key-12345", b"other body", at(), perform)


def test_tidying_forgets_only_what_nobody_asks_for_again(session: Session, volunteer: Actor) -> None:
    for key, when in (("an-old-key", at()), ("a-new-key", at(20))):
        answer_once(session, volunteer, key, b"", when, lambda: (200, {}))
    passwords.sign_in(session, "Volunteer", "wrong", "1.1.1.1", at())
    tidy(session, at(31))
    assert session.scalars(select(AnsweredRequest.key)).all() == ["a-new-key"]
    assert session.scalars(select(SignInTry.id)).all() == []
