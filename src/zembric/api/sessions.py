"""Routes: signing in and out, and one-time links."""

from __future__ import annotations

from flask import Response, request, session
from flask_login import login_user, logout_user
from flask_wtf.csrf import generate_csrf

from zembric.api import schemas
from zembric.api.blueprints import make_blueprint
from zembric.api.errors import problem
from zembric.api.languages import checked, choose, chosen
from zembric.api.requests import SignedIn, as_json, clock, engine, signed_in_actor
from zembric.core.errors import NotSignedInError
from zembric.core.said import said
from zembric.operations import people
from zembric.operations.actors import Actor
from zembric.operations.database import unit_of_work
from zembric.wording import USUAL_LANGUAGE, languages, spoken

bp = make_blueprint("sessions")


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
        actor = people.sign_in(unit, body.name, body.password, request.remote_addr or "", clock())
    if actor is None:
        return problem(401, "wrong-sign-in", said("wrong-sign-in"), "password")
    return _begin(actor)


@bp.delete("/session", responses={"200": schemas.SessionOut})
def sign_out() -> Response:
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
        actor = people.accept_invitation(unit, path.token, body.name, body.password, clock())
    return _begin(actor)


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


def _begin(actor: Actor) -> Response:
    """A fresh session: whatever the cookie carried before is dropped."""
    session.clear()
    session.permanent = True
    login_user(SignedIn(actor.person_id))
    with unit_of_work(engine()) as unit:
        choose(people.language_of(unit, actor.person_id))
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
