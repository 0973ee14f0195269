"""How all groups of routes are made."""

from __future__ import annotations

from typing import Any

from flask_openapi3.blueprint import APIBlueprint

from zembric.api.schemas import ProblemOut

_PROBLEMS: Any = {str(status): ProblemOut for status in (400, 401, 403, 404, 409, 413, 415, 422, 429, 500, 503, 507)}


_KINDS = {
    "": "application/octet-stream", ".csv": "text/csv", ".dxf": "image/vnd.dxf", ".jpg": "image/jpeg", ".json": "application/json",
    ".parquet": "application/vnd.apache.parquet", ".pdf": "application/pdf", ".svg": "image/svg+xml", ".zip": "application/zip",
}  # fmt: skip
#: Whether routes are described as they are made. To serve them nobody needs it, and it takes longer than all other imports.
_is_described = False


def describe_routes() -> None:
    """Has the routes that are made from now on describe themselves: before `zembric.api.app` is imported."""
    global _is_described  # noqa: PLW0603  # routes are made as their modules are imported, once for all
    _is_described = True


def operation_id(*, name: str, path: str, method: str) -> str:  # noqa: ARG001  # flask-openapi3 hands over all three
    return name


def a_file(ending: str) -> Any:
    """What a route answers that gives out a file, by its ending; without one: as it was taken in."""
    return {"200": {"description": "The file.", "content": {_KINDS[ending]: {}}}}


def make_blueprint(name: str) -> APIBlueprint:
    return APIBlueprint(
        name,
        __name__,
        url_prefix="/api",
        abp_responses=_PROBLEMS,
        operation_id_callback=operation_id,
        doc_ui=_is_described,
    )
