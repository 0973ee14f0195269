"""Who may do what: every route that writes, times every role, with bodies made from the description."""

from __future__ import annotations

import json
from typing import Any

import pytest

from tests.api.conftest import Person
from tests.api.test_api import DONOR
from tests.api.test_routes import FILLED
from zembric.paths import API_DESCRIPTION

# docs/security.md says why. What is only somebody's own, and letting a check of a pack pass, are tested with the operations.
FOR_COORDINATORS = {
    "post_catalogue_row", "put_catalogue_row", "put_rules", "post_decision", "post_overrule",
    "post_step_waiver", "delete_earlier_readings", "delete_instrument_correction",
    "post_earlier_readings", "post_instrument_correction", "put_instrument", "post_recall",
    "post_hand_over", "post_mark", "put_place", "put_print_language",
    "post_tester", "post_try", "put_slot", "put_tester",
}  # fmt: skip
# For coordinators as it stands in the test: a cell that is not out is thrown out, what was found is struck out.
HERE_FOR_COORDINATORS = {"post_out_box", "post_strike"}
# Where the least that fits the description is refused for another reason first.
BODIES: dict[str, dict[str, Any]] = {
    "post_catalogue_row": {"model": None, "tray_size": {"name": "Tin", "rows": 2, "columns": 3, "is_active": True}},
    "put_catalogue_row": {"seen_version": 1, "tray_size": {"name": "Tin", "rows": 2, "columns": 3, "is_active": True}},
    "put_print_language": {"language": "en"},
}
DESCRIBED = json.loads(API_DESCRIPTION.read_text(encoding="utf-8"))
WRITES = [
    (operation["operationId"], method, path, operation)
    for path, methods in DESCRIBED["paths"].items()
    for method, operation in methods.items()
    if method != "get" and not path.startswith(("/api/session", "/api/invitations", "/api/me"))
]


def example(schema: dict[str, Any]) -> Any:
    """The least that fits a schema."""
    if "$ref" in schema:
        return example(DESCRIBED["components"]["schemas"][schema["$ref"].rsplit("/", 1)[-1]])
    for key in ("anyOf", "oneOf", "allOf"):
        if key in schema:
            return example(schema[key][0])
    if "const" in schema or "enum" in schema:
        return schema.get("const", schema.get("enum", [None])[0])
    match schema.get("type"):
        case "object":
            return {name: example(schema["properties"][name]) for name in schema.get("required", [])}
        case "array":
            return [example(schema.get("prefixItems", [schema.get("items", {})])[0])] * schema.get("minItems", 0)
        case "integer" | "number":
            return schema.get("minimum", schema.get("exclusiveMinimum", 0) + 1)
        case "boolean":
            return True
        case "string":
            usual = "2026-01-01T00:00:00Z" if schema.get("format") == "date-time" else "3.7"
            return usual.ljust(schema.get("minLength", 0), "7")
    return None


@pytest.mark.parametrize("role", ["volunteer", "coordinator"])
def test_each_route_is_open_to_those_roles_that_the_table_says(
    volunteer_page: Person, coordinator_page: Person, role: str
) -> None:
    volunteer_page.post("/api/donors", DONOR)
    page = volunteer_page if role == "volunteer" else coordinator_page
    refused, misfits = set(), []
    for name, method, path, operation in WRITES:
        content = operation.get("requestBody", {}).get("content", {})
        body = example(content["application/json"]["schema"]) if "application/json" in content else None
        body = BODIES.get(name, body)
        answer = page.post(path.format(**FILLED | {"part": "tray-sizes"}), body, method=method.upper())
        if answer.status_code == 403:
            refused.add(name)
        elif answer.status_code == 422 and name in FOR_COORDINATORS and answer.json["code"] == "bad-input":
            misfits.append((name, answer.json["text"]))
    assert len(WRITES) > 100
    assert role == "coordinator" or misfits == []
    assert refused == (FOR_COORDINATORS | HERE_FOR_COORDINATORS if role == "volunteer" else set())
