"""Errors into answers: the core's words, an HTTP status, and nothing about the inside."""

from __future__ import annotations

import re
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
from zembric.core.said import Said, said
from zembric.operations.room import is_no_room

if TYPE_CHECKING:
    from flask import Flask
    from pydantic import ValidationError
    from pydantic_core import ErrorDetails

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
_HTTP_SAID = {
    404: said("http-no-such-address"),
    405: said("http-not-taken-here"),
    413: said("http-too-much-in-one-go"),
    415: said("http-send-json"),
}
#: The choices as pydantic lists them.
_QUOTED = re.compile(r"'([^']*)'")
_log = structlog.get_logger()


def problem(status: int, code: str, what: Said, field: str | None = None) -> Response:
    return as_json(ProblemOut(code=code, text=told(what), field=field, suggestion=None), status)


def show_invalid(error: ValidationError) -> Response:
    """A body or query that does not fit its description: the first misfit, in words, with its field."""
    first = error.errors()[0]
    where = ".".join(str(part) for part in first["loc"]) or None
    return problem(HTTPStatus.UNPROCESSABLE_ENTITY, "bad-input", _misfit(first, where), where)


def _misfit(first: ErrorDetails, where: str | None) -> Said:
    if where is None:
        return said("request-has-to-be-object")
    match first["type"]:
        case "missing":
            return said("request-lacks", field=where)
        case "extra_forbidden":
            return said("request-has-too-much", field=where)
        case "literal_error" | "enum":
            return said("request-is-one-of", field=where, choices=tuple(_QUOTED.findall(first["ctx"]["expected"])))
        case "string_too_long":
            return said("request-text-too-long", field=where, most=int(first["ctx"]["max_length"]))
        case _:
            return said("request-does-not-fit", field=where)


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
        return problem(HTTPStatus.BAD_REQUEST, "stale-page", said("page-is-too-old"))

    @app.errorhandler(OperationalError)
    def show_silent_database(error: OperationalError) -> Response:
        if is_no_room(error):
            return _show_no_room()
        _log.warning("database-silent")
        return problem(HTTPStatus.SERVICE_UNAVAILABLE, "unavailable", said("database-does-not-answer"))

    @app.errorhandler(RecursionError)
    def show_nested_too_deep(error: RecursionError) -> Response:
        _log.warning("nested-too-deep", exc_info=error)
        return problem(HTTPStatus.UNPROCESSABLE_ENTITY, "bad-input", said("request-has-to-be-object"))

    @app.errorhandler(HTTPException)
    def show_http_error(error: HTTPException) -> Response:
        if error.response is not None:
            return cast("Response", error.response)  # pydantic's answer from show_invalid
        status = error.code or 500
        answer = problem(status, f"http-{status}", _HTTP_SAID.get(status, said("http-refused", status=status)))
        for name, value in error.get_headers():
            if name.lower() not in ("content-type", "content-length"):
                answer.headers[name] = value
        return answer

    @app.errorhandler(Exception)
    def show_fault(error: Exception) -> Response:
        if is_no_room(error):
            return _show_no_room()
        _log.error("fault", exc_info=error)
        return problem(HTTPStatus.INTERNAL_SERVER_ERROR, "fault", said("fault-inside"))


def _show_no_room() -> Response:
    _log.error("disk-full")
    return problem(HTTPStatus.INSUFFICIENT_STORAGE, "disk-full", said("disk-is-full"))
