"""Routes: signing in and out, one-time links, and what one is signed in with."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

from flask import Response, request, session
from flask_login import login_user, logout_user
from flask_wtf.csrf import generate_csrf
from pydantic import Field

from zembric.api import schemas
from zembric.api.blueprints import make_blueprint
from zembric.api.errors import problem
from zembric.api.languages import checked, choose, chosen
from zembric.api.requests import (
    SignedIn,
    as_json,
    clock,
    device,
    engine,
    read,
    signed_in_actor,
    token_of_sign_in,
    write,
)
from zembric.core.errors import ConflictError, NotSignedInError
from zembric.core.said import said
from zembric.operations import people
from zembric.operations.actors import Actor
from zembric.operations.database import unit_of_work
from zembric.operations.signing_in import passkeys, passwords, sign_ins
from zembric.wording import USUAL_LANGUAGE, languages, spoken

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

bp = make_blueprint("sessions")
_CHALLENGE, _ANSWER_WITHIN_S = "challenge", 300.0


class MinePath(schemas.In):
    id: Annotated[int, Field(ge=1, le=2**31 - 1)]


class TokenPath(schemas.In):
    token: schemas.Number


@bp.get("/session", responses={"200": schemas.SessionOut})
def get_session() -> Response:
    try:
        with unit_of_work(engine()) as unit:
            return _show(signed_in_actor(unit))
    except NotSignedInError:
        return _show(None)


@bp.post("/session", responses={"200": schemas.SessionOut})
def sign_in(body: schemas.SignInIn) -> Response:
    with unit_of_work(engine()) as unit:
        actor = passwords.sign_in(unit, body.name, body.password, device().address, clock())
    if actor is None:
        return problem(401, "wrong-sign-in", said("wrong-sign-in"), "password")
    return _begin(actor, "password")


@bp.post("/session/passkey-question", responses={"200": schemas.PasskeyQuestionOut})
def ask_for_passkey() -> Response:
    """What the browser asks its device, to sign in without name and password."""
    return _asked(passkeys.ask_for_any(_place()))


@bp.post("/session/passkey", responses={"200": schemas.SessionOut})
def sign_in_by_passkey(body: schemas.PasskeyAnswerIn) -> Response:
    challenge = _challenge()
    with unit_of_work(engine()) as unit:
        actor = passkeys.sign_in_by_passkey(unit, _place(), challenge, body.answer, device().address, clock())
    if actor is None:
        return problem(401, "wrong-passkey", said("wrong-passkey"), "answer")
    return _begin(actor, "passkey", challenge)


@bp.delete("/session", responses={"200": schemas.SessionOut})
def sign_out() -> Response:
    token = token_of_sign_in()
    if token is not None:
        with unit_of_work(engine()) as unit:
            sign_ins.end_this(unit, token, clock())
    logout_user()
    session.clear()
    return _show(None)


@bp.get("/invitations/<string:token>", responses={"200": schemas.InvitationOut})
def get_invitation(path: TokenPath) -> Response:
    with unit_of_work(engine()) as unit:
        return as_json(schemas.InvitationOut(name=people.invited_name(unit, path.token, clock())))


@bp.post("/invitations/<string:token>", responses={"200": schemas.SessionOut})
def accept_invitation(path: TokenPath, body: schemas.AcceptIn) -> Response:
    with unit_of_work(engine()) as unit:
        actor = passwords.accept_invitation(unit, path.token, body.name, body.password, clock())
    return _begin(actor, "link")


@bp.put("/session/language", responses={"200": schemas.SessionOut})
def put_language(body: schemas.LanguageIn) -> Response:
    """What the person is told in from now on, wherever they sign in."""
    with unit_of_work(engine()) as unit:
        actor = signed_in_actor(unit)
        people.set_language(unit, actor, checked(body.language))
    choose(body.language)
    return _show(actor)


@bp.put("/print-language", responses={"200": schemas.SessionOut})
def put_print_language(body: schemas.LanguageIn) -> Response:
    """What labels, lists and sheets are printed in."""
    with unit_of_work(engine()) as unit:
        actor = signed_in_actor(unit)
        people.set_print_language(unit, actor, checked(body.language), clock())
    return _show(actor)


@bp.get("/me", responses={"200": schemas.MeOut})
def get_me() -> Response:
    """Where one is signed in, by which passkeys one comes in, and who came in lately."""
    return read(_show_me)


@bp.delete("/me/sign-ins/<int:id>", responses={"200": schemas.MeOut})
def end_sign_in(path: MinePath) -> Response:
    def perform(unit: Session, actor: Actor, now: datetime) -> schemas.MeOut:
        sign_ins.end_one(unit, actor, path.id, now)
        return _show_me(unit, actor, now)

    return write(perform)


@bp.put("/me/password", responses={"200": schemas.SessionOut})
def put_password(body: schemas.NewPasswordIn) -> Response:
    """A new password by whoever knows the old one. Everywhere else the sign-in ends."""
    with unit_of_work(engine()) as unit:
        actor = signed_in_actor(unit)
        fits = passwords.change_password(unit, actor, body.old, body.new, device().address, clock())
    return _begin(actor, "password") if fits else _wrong_password("old")


@bp.post("/me/passkey-question", responses={"200": schemas.PasskeyQuestionOut})
def ask_for_new_passkey(body: schemas.PasswordIn) -> Response:
    """What the browser asks its device to make. The password is asked for: a tablet that was left signed in is not enough."""
    with unit_of_work(engine()) as unit:
        actor = signed_in_actor(unit)
        fits = passwords.sign_in(unit, actor.name, body.password, device().address, clock()) is not None
        asked = passkeys.ask_for_new(unit, actor, _place()) if fits else None
    return _asked(asked) if asked else _wrong_password("password")


@bp.post("/me/passkeys", responses={"201": schemas.MeOut})
def post_passkey(body: schemas.PasskeyAnswerIn) -> Response:
    challenge = _challenge()

    def perform(unit: Session, actor: Actor, now: datetime) -> schemas.MeOut:
        passkeys.add_passkey(unit, actor, _place(), challenge, body.answer, device(), now)
        return _show_me(unit, actor, now)

    return write(perform, 201)


@bp.delete("/me/passkeys/<int:id>", responses={"200": schemas.MeOut})
def delete_passkey(path: MinePath) -> Response:
    def perform(unit: Session, actor: Actor, now: datetime) -> schemas.MeOut:
        passkeys.remove_passkey(unit, actor, path.id, now)
        return _show_me(unit, actor, now)

    return write(perform)


def _show_me(unit: Session, actor: Actor, now: datetime) -> schemas.MeOut:
    token = token_of_sign_in() or ""
    return schemas.MeOut(
        sign_ins=[
            schemas.OpenSignInOut(
                id=each.id, device=each.device, begun_at=each.begun_at, ends_at=each.ends_at,
                is_this=sign_ins.is_of(each, token),
            )
            for each in sign_ins.open_sign_ins(unit, actor, now)
        ],
        passkeys=[
            schemas.PasskeyOut(
                id=each.id, device=each.device, host=each.host, added_at=each.added_at, used_at=each.used_at
            )
            for each in passkeys.passkeys_of(unit, actor)
        ],
        record=[
            schemas.SignInEventOut(
                at=each.at, what=each.what, by=each.person.name if each.person else None,  # type: ignore[arg-type]
                device=each.details.get("device") or "", address=each.details.get("address") or "",
                how=each.details.get("how") or "",
            )
            for each in sign_ins.record_of_sign_ins(unit, actor)
        ],
    )  # fmt: skip


def _wrong_password(field: str) -> Response:
    return problem(403, "wrong-password", said("wrong-password"), field)


def _place() -> passkeys.Place:
    return passkeys.Place(request.host.rsplit(":", 1)[0], request.host_url.rstrip("/"))


def _asked(asked: passkeys.Asked) -> Response:
    """The challenge goes along in the cookie, signed; that it opens nothing twice the database sees to."""
    session[_CHALLENGE] = (asked.challenge.hex(), clock().timestamp())
    return as_json(schemas.PasskeyQuestionOut(options=asked.options))


def _challenge() -> bytes:
    challenge, asked_s = session.pop(_CHALLENGE, ("", 0.0))
    if not challenge or clock().timestamp() - asked_s > _ANSWER_WITHIN_S:
        raise ConflictError(said("this-was-asked-too-long-ago"))
    return bytes.fromhex(challenge)


def _begin(actor: Actor, how: str, challenge: bytes | None = None) -> Response:
    """A fresh session: whatever the cookie carried before is dropped."""
    before = token_of_sign_in()
    with unit_of_work(engine()) as unit:
        if before is not None:
            sign_ins.end_this(unit, before, clock())
        token = sign_ins.begin(unit, actor, device(), how, clock(), challenge=challenge)
        language = people.language_of(unit, actor.person_id)
    session.clear()
    session.permanent = True
    login_user(SignedIn(token))
    choose(language)
    return _show(actor)


def _show(actor: Actor | None) -> Response:
    person, printed = None, None
    if actor:
        person = schemas.PersonOut(name=actor.name, role=actor.role)
        with unit_of_work(engine()) as unit:
            printed = people.print_language(unit)
    response = as_json(
        schemas.SessionOut(
            person=person, csrf_token=generate_csrf(), language=spoken(), is_language_chosen=chosen() is not None,
            languages=list(languages()), print_language=printed or USUAL_LANGUAGE,
        )
    )  # fmt: skip
    response.headers["Cache-Control"] = "no-store"
    return response
