"""How all groups of routes are made."""

from __future__ import annotations

from typing import Any

from flask_openapi3.blueprint import APIBlueprint

from zembric.api.schemas import ProblemOut

_PROBLEMS: Any = {str(status): ProblemOut for status in (400, 401, 403, 404, 409, 422, 429, 503)}


def operation_id(*, name: str, path: str, method: str) -> str:  # noqa: ARG001  # flask-openapi3 hands over all three
    return name


def make_blueprint(name: str) -> APIBlueprint:
    return APIBlueprint(name, __name__, url_prefix="/api", abp_responses=_PROBLEMS, operation_id_callback=operation_id)
