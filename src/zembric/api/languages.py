"""What somebody is told in: as they chose, else as their browser asks."""

from __future__ import annotations

from typing import TYPE_CHECKING

from flask import request, session

from zembric.core.errors import BadInputError
from zembric.core.said import said
from zembric.wording import languages, speak, spoken

if TYPE_CHECKING:
    from flask import Flask, Response

_CHOSEN = "language"


def speak_as_asked(app: Flask) -> None:
    """Before anything is said in a request."""

    @app.before_request
    def listen() -> None:
        speak(chosen() or asked_for())

    @app.after_request
    def tell(response: Response) -> Response:
        if request.path.startswith("/api/"):
            response.headers.setdefault("Content-Language", spoken())
        return response


def asked_for() -> str | None:
    """The first of the browser's languages that is here, if only by its family: Swiss German is told in German."""
    here = set(languages())
    asked = (tag for tag, _ in request.accept_languages)
    return next((each for tag in asked for each in (tag, tag.partition("-")[0]) if each in here), None)


def chosen() -> str | None:
    """What whoever is signed in chose; None: nothing."""
    found: str | None = session.get(_CHOSEN)
    return found


def choose(language: str | None) -> None:
    """Keeps it with the session, and speaks it at once."""
    session[_CHOSEN] = language
    speak(language or asked_for())


def checked(language: str | None) -> str | None:
    """Raises:
    BadInputError: there is no such language.
    """
    if language is not None and language not in languages():
        raise BadInputError(said("is-no-language-here", language=language, languages=languages()), field="language")
    return language
