"""A sign-in lives on the server and ends: by time, by hand, with a new password, another role, a closed account."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from sqlalchemy.orm import Session

from tests.support.benchwork import at
from tests.support.people import PASSWORD
from zembric.core.errors import ConflictError, NotFoundError, NotSignedInError
from zembric.operations import people
from zembric.operations.actors import Actor
from zembric.operations.signing_in import passwords, sign_ins

PHONE = sign_ins.Device(
    "10.0.0.7", "Mozilla/5.0 (Android 15; Mobile; rv:140.0) Gecko/140.0 Firefox/140.0"
)  # what it calls itself


def begin(session: Session, actor: Actor) -> str:
    return sign_ins.begin(session, actor, PHONE, "password", at())


def is_in(session: Session, token: str, hours: float = 1) -> bool:
    try:
        sign_ins.actor_of(session, token, at(hours=hours))
    except NotSignedInError:
        return False
    return True


def test_a_sign_in_ends_after_twelve_hours(session: Session, volunteer: Actor) -> None:
    token = begin(session, volunteer)
    assert (is_in(session, token, 11.9), is_in(session, token, 12)) == (True, False)


@pytest.mark.parametrize(
    "end",
    [
        lambda session: passwords.accept_invitation(
            session, people.invite_again(session, "Volunteer", at()), "Volunteer", "another long one", at()
        ),
        lambda session: sign_ins.change_role(session, "Volunteer", "coordinator", at()),
        lambda session: people.close_person(session, "Volunteer", at()),
    ],
    ids=["new password", "another role", "closed"],
)
def test_all_of_a_persons_sign_ins_end_and_nobody_elses(
    session: Session, volunteer: Actor, coordinator: Actor, end: Callable[[Session], None]
) -> None:
    mine, also_mine, other = begin(session, volunteer), begin(session, volunteer), begin(session, coordinator)
    end(session)
    assert [is_in(session, each) for each in (mine, also_mine, other)] == [False, False, True]


def test_a_password_is_changed_by_whoever_knows_the_old_one(session: Session, volunteer: Actor) -> None:
    token = begin(session, volunteer)
    assert not passwords.change_password(session, volunteer, "a wrong guess", "another long one", "1.1.1.1", at())
    assert is_in(session, token)
    assert passwords.change_password(session, volunteer, PASSWORD, "another long one", "1.1.1.1", at())
    assert not is_in(session, token)
    assert passwords.sign_in(session, "Volunteer", "another long one", "1.1.1.1", at()) == volunteer


def test_what_a_passkey_answered_lets_nobody_in_twice(session: Session, volunteer: Actor) -> None:
    sign_ins.begin(session, volunteer, PHONE, "passkey", at(), challenge=b"asked once")
    with pytest.raises(ConflictError):
        sign_ins.begin(session, volunteer, PHONE, "passkey", at(), challenge=b"asked once")


def test_one_ends_ones_own_on_another_device_and_nobody_elses(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    lost, other = begin(session, volunteer), begin(session, coordinator)
    mine = sign_ins.open_sign_ins(session, volunteer, at())[0]
    theirs = sign_ins.open_sign_ins(session, coordinator, at())[0]
    assert mine.device == "Firefox Mobile, Android"
    sign_ins.end_one(session, volunteer, mine.id, at())
    with pytest.raises(NotFoundError):
        sign_ins.end_one(session, volunteer, theirs.id, at())
    assert (is_in(session, lost), is_in(session, other)) == (False, True)


def test_the_record_keeps_who_came_in_and_who_was_refused(
    session: Session, volunteer: Actor, coordinator: Actor
) -> None:
    passwords.sign_in(session, "Volunteer", "a wrong guess", "10.0.0.7", at())
    passwords.sign_in(session, "my-secret-by-mistake", "x", "10.0.0.8", at())
    begin(session, volunteer)

    def seen_by(actor: Actor) -> list[tuple[str, str]]:
        return [
            (each.what, each.details.get("address", "")) for each in sign_ins.record_of_sign_ins(session, actor)[:3]
        ]

    everybody = [("sign-in", "10.0.0.7"), ("sign-in-refused", "10.0.0.8"), ("sign-in-refused", "10.0.0.7")]
    assert seen_by(coordinator) == everybody
    assert [each[1] for each in seen_by(volunteer)[:2]] == ["10.0.0.7", "10.0.0.7"]
    assert "my-secret" not in str([each.details for each in sign_ins.record_of_sign_ins(session, coordinator)])
