"""Errors into answers: the core's words, an HTTP status, and nothing about the inside."""

from __future__ import annotations

from http import HTTPStatus
from typing import TYPE_CHECKING, cast

import structlog
from flask import Response
from flask_wtf.csrf import CSRFError
from sqlalchemy.exc import OperationalError
from werkzeug.exceptions import HTTPException

from zembric.api.requests import as_json
from zembric.api.schemas import ProblemOut, WayOut
from zembric.api.words import told
from zembric.core import errors

if TYPE_CHECKING:
    from flask import Flask
    from pydantic import ValidationError

_STATUS_OF: tuple[tuple[type[errors.ZembricError], HTTPStatus], ...] = (
    (errors.OddInputError, HTTPStatus.UNPROCESSABLE_ENTITY),
    (errors.BadInputError, HTTPStatus.UNPROCESSABLE_ENTITY),
    (errors.DangerError, HTTPStatus.UNPROCESSABLE_ENTITY),
    (errors.NotFoundError, HTTPStatus.NOT_FOUND),
    (errors.ConflictError, HTTPStatus.CONFLICT),
    (errors.NotAllowedError, HTTPStatus.FORBIDDEN),
    (errors.NotSignedInError, HTTPStatus.UNAUTHORIZED),
    (errors.TooManyTriesError, HTTPStatus.TOO_MANY_REQUESTS),
)
_HTTP_TEXT = {
    404: "There is nothing at this address.",
    405: "This address does not take that.",
    413: "That is more than Zembric takes in one go.",
    415: "Send JSON.",
}
_log = structlog.get_logger()


def problem(status: int, code: str, text: str, field: str | None = None) -> Response:
    return as_json(ProblemOut(code=code, text=text, field=field, suggestion=None), status)


def show_invalid(error: ValidationError) -> Response:
    """A body or query that does not fit its description: the first misfit, in words, with its field."""
    first = error.errors()[0]
    where = ".".join(str(part) for part in first["loc"]) or None
    text = f"{where}: {first['msg'].lower()}." if where else "The request has to be a JSON object."
    return problem(HTTPStatus.UNPROCESSABLE_ENTITY, "bad-input", text, where)


def register_error_answers(app: Flask) -> None:
    @app.errorhandler(errors.ZembricError)
    def show_zembric_error(error: errors.ZembricError) -> Response:
        status = next(status for kind, status in _STATUS_OF if isinstance(error, kind))
        ways = [WayOut(code=code, text=told(way)) for code, way in error.ways]
        shown = ProblemOut(
            code=error.code, text=told(error.said), field=error.field, suggestion=error.suggestion, ways=ways
        )
        return as_json(shown, status)

    @app.errorhandler(CSRFError)
    def show_csrf_error(_error: CSRFError) -> Response:
        return problem(
            HTTPStatus.BAD_REQUEST, "stale-page", "This page is too old. Load it again; what you typed can be kept."
        )

    @app.errorhandler(OperationalError)
    def show_silent_database(_error: OperationalError) -> Response:
        _log.warning("database-silent")
        text = (
            "The database does not answer at the moment. Nothing was changed; what you typed is still here, try again."
        )
        return problem(HTTPStatus.SERVICE_UNAVAILABLE, "unavailable", text)

    @app.errorhandler(HTTPException)
    def show_http_error(error: HTTPException) -> Response:
        if error.response is not None:
            return cast("Response", error.response)  # pydantic's answer from show_invalid
        status = error.code or 500
        answer = problem(status, f"http-{status}", _HTTP_TEXT.get(status, error.description or error.name))
        for name, value in error.get_headers():
            if name.lower() not in ("content-type", "content-length"):
                answer.headers[name] = value
        return answer

    @app.errorhandler(Exception)
    def show_fault(error: Exception) -> Response:
        _log.error("fault", exc_info=error)
        text = (
            "Something went wrong inside Zembric. Nothing was changed; try again, and tell a coordinator if it stays."
        )
        return problem(HTTPStatus.INTERNAL_SERVER_ERROR, "fault", text)
