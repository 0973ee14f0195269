"""The open format of one cell's story: JSON in and out. Fields that are not known are ignored."""

from __future__ import annotations

import json
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import asdict, dataclass
from datetime import UTC, datetime
from typing import TYPE_CHECKING, Any

from pydantic import (
    ValidationError,
)

from zembric.core.errors import BadInputError
from zembric.core.grade.assessment import size_of
from zembric.core.grounds import Reason
from zembric.core.house.rules import (
    SWITCHES,
    HouseRules,
)
from zembric.core.identify.claims import check_rated
from zembric.core.identify.families import check_marked_full_v
from zembric.core.identify.sizes import measured_outline
from zembric.core.judge.judgement import Judgement
from zembric.core.measure.entry_checks import refuse_shorted
from zembric.core.measure.excess import charges_at_zero
from zembric.core.measure.figures import run_u_mah
from zembric.core.measure.uncertainty import resistance_u_mohm
from zembric.core.said import Said, named, said
from zembric.core.story import (
    CameBack,
    CapacityRun,
    CellFacts,
    Charge,
    Decision,
    Event,
    Inspection,
    Overrule,
    Recovery,
    Repair,
    ResistanceReading,
    RestingVoltage,
    SecondLook,
    Shelved,
    Skip,
    Story,
    UnrestedVoltage,
)
from zembric.files.story_documents import CellDocument, ChargeDocument, ResistanceDocument, StoryDocument
from zembric.wording import say

if TYPE_CHECKING:
    from zembric.core.identify.sizes import Size

MOST_BYTES = 4 * 1024 * 1024


class StoryRefusedError(BadInputError):
    """A file that is no story, or says something that cannot be. `line` counts from 1; `column` names the field."""

    def __init__(
        self, text: Said | str, *, code: str | None = None, line: int | None = None, field: str | None = None
    ) -> None:
        super().__init__(text, code=code, field=field)
        self.line = line
        self.column = field


@dataclass(frozen=True, slots=True)
class StoryFile:
    """A story as it stands in a file, with the time it is judged at and the schools it is judged by."""

    story: Story
    rules: HouseRules
    now: datetime


def read_story(content: bytes) -> StoryFile:
    """The story in a JSON document.

    Raises:
        StoryRefusedError: no JSON, a field that is missing or cannot be, or an event that lies after now; names the field.
    """
    document = _validated(_parsed(content))
    for index, event in enumerate(document.events):
        if event.at > document.now:
            raise StoryRefusedError(
                said("story-event-after-now", index=index, at=event.at.isoformat(), now=document.now.isoformat()),
                field=f"events[{index}].at",
            )
    story = Story(
        _facts(document.cell),
        document.donor.kind,
        tuple(event.event() for event in document.events),
        tuple(document.donor.siblings_found_v),
        document.donor.opened_at,
    )
    rules = document.rules.rules()
    _refuse_impossible(document, story, rules)
    return StoryFile(story, rules, document.now)


def _refuse_impossible(document: StoryDocument, story: Story, rules: HouseRules) -> None:
    """What cannot be of this cell, as it is refused wherever somebody types it.

    Raises:
        StoryRefusedError: a rated value or a full voltage that cannot be, leads that touched, a charge at 0 V.
    """
    facts = story.facts
    size = size_of(facts)
    with _refused_at("cell.full_v"):
        check_marked_full_v(facts.family, facts.full_v)
    with _refused_at("cell.rated_capacity_mah"):
        check_rated(size, facts.family, facts.rated_capacity_mah, rules.for_cell(facts), facts.mass_g)
    for index, event in enumerate(document.events):
        if isinstance(event, ResistanceDocument):
            with _refused_at(f"events[{index}].value_mohm"):
                refuse_shorted(event.value_mohm, size, facts.family, rules.for_cell(facts))
    at_zero = charges_at_zero(story)
    order = sorted(range(len(document.events)), key=lambda index: document.events[index].at)
    for place in at_zero:
        index = order[place]
        event = document.events[index]
        if not (isinstance(event, ChargeDocument) and event.happened):
            raise StoryRefusedError(
                said("events-charge-after-cell-read-next", index=index),
                code="charge-at-zero",
                field=f"events[{index}]",
            )


@contextmanager
def _refused_at(field: str) -> Iterator[None]:
    """A refusal of the core as one of the file, with where it stands."""
    try:
        yield
    except BadInputError as error:
        raise StoryRefusedError(
            said("at-field", field=field, wrong=error.said), code=error.code, field=field
        ) from error


def _parsed(content: bytes) -> Any:
    if len(content) > MOST_BYTES:
        raise StoryRefusedError(said("story-has-at-most-mb", most_bytes=MOST_BYTES // 1024 // 1024), code="too-large")
    try:
        return json.loads(content.decode("utf-8-sig"), parse_constant=_no_number)
    except UnicodeDecodeError as error:
        raise StoryRefusedError(said("file-is-not-text-in-utf-8"), code="not-json") from error
    except json.JSONDecodeError as error:
        raise StoryRefusedError(
            said("this-is-not-json", msg=error.msg, lineno=error.lineno), code="not-json", line=error.lineno
        ) from error
    except RecursionError as error:
        raise StoryRefusedError(said("this-is-nested-too-deeply"), code="not-json") from error


def _no_number(name: str) -> float:
    raise StoryRefusedError(said("is-not-number-leave-it-out", name=name), code="not-finite")


def _validated(found: Any) -> StoryDocument:  # whatever JSON holds
    if not isinstance(found, dict):
        raise StoryRefusedError(said("story-is-one-json-object"), code="not-a-story")
    try:
        return StoryDocument.model_validate(found)
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        field = _path(first["loc"]) + (".kind" if first["type"].startswith("union_tag") else "")
        raise StoryRefusedError(
            said("at-field", field=field, wrong=_said(first)), field=field, code=_CODES.get(first["type"], "bad-input")
        ) from error


_CODES = {"missing": "missing", "union_tag_invalid": "unknown-kind", "union_tag_not_found": "missing"}
_TYPES = (("string", "text"), ("list", "list"), ("dict", "object"), ("model", "object"), ("bool", "yes-or-no"), ("float", "number"), ("int", "number"))  # fmt: skip


def _said(error: Any) -> Said:  # one of pydantic's error details, a plain mapping
    shown = _shown(error["input"])
    match error["type"]:
        case "missing":
            return said("story-missing")
        case "union_tag_invalid":
            return said("story-no-kind-of-event", tag=str(error["ctx"]["tag"])[:40], tags=error["ctx"]["expected_tags"])
        case "union_tag_not_found":
            return said("story-has-no-kind")
        case "literal_error" | "enum":
            return said("story-not-one-of", shown=shown, choices=error["ctx"]["expected"])
        case "greater_than":
            return said("story-above-zero", shown=shown)
        case "value_error":
            return said("story-no-number", shown=shown)
        case "timezone_aware":
            return said("story-no-time-zone", shown=shown)
        case other if "datetime" in other:
            return said("story-no-time", shown=shown)
        case other:
            right = next((right for type_, right in _TYPES if other.startswith(type_)), "other")
            return said("story-wrong-type", shown=shown, right=named("story-type", right))


def _shown(value: object) -> str:
    return json.dumps(value, ensure_ascii=False, default=str)[:60]


def _path(parts: tuple[str | int, ...]) -> str:
    """events[3].value_v; the kind that pydantic puts between is left out."""
    path = ""
    for index, part in enumerate(parts):
        if isinstance(part, int):
            path += f"[{part}]"
        elif not (index == 2 and parts[0] == "events" and len(parts) > 3):
            path += f".{part}" if path else part
    return path


def _facts(cell: CellDocument) -> CellFacts:
    outline: Size | None = None
    if cell.width_mm is not None and cell.length_mm is not None:
        outline = measured_outline(cell.width_mm, cell.length_mm, cell.thickness_mm)
    return CellFacts(
        cell.size, cell.family, cell.full_v, cell.rated_capacity_mah, cell.claimed_capacity_mah, outline, cell.mass_g,
        cell.most_charge_ma, cell.most_discharge_ma, cell.build,
    )  # fmt: skip


# --- Out -------------------------------------------------------------------------------------------------------------


def write_story(story: Story, rules: HouseRules, now: datetime) -> dict[str, Any]:
    """The document of a story; read again it is judged as the story itself."""
    facts, outline, at_zero = story.facts, story.facts.outline, charges_at_zero(story)
    return {
        "now": _time(now),
        "rules": write_rules(rules),
        "cell": {
            "size": facts.size_code, "family": facts.family, "full_v": facts.full_v,
            "rated_capacity_mah": facts.rated_capacity_mah, "claimed_capacity_mah": facts.claimed_capacity_mah,
            "mass_g": facts.mass_g, "width_mm": outline.width_mm if outline else None,
            "length_mm": outline.length_mm if outline else None, "thickness_mm": outline.thickness_mm if outline else None,
            "most_charge_ma": facts.most_charge_ma, "most_discharge_ma": facts.most_discharge_ma, "build": facts.build,
        },
        "donor": {
            "kind": story.donor_kind, "siblings_found_v": list(story.siblings_found_v),
            "opened_at": _time(story.opened_at) if story.opened_at else None,
        },
        "events": [
            {"at": _time(event.at), **_written(event, rules), **({"happened": True} if index in at_zero else {})}
            for index, event in enumerate(story.events)
        ],
    }  # fmt: skip


def write_rules(rules: HouseRules) -> dict[str, Any]:
    """A set of rules as a document; values and switches that are as usual are left out."""
    return {
        "voltage_school": rules.voltage_school,
        "grade_school": rules.grade_school,
        "values": dict(rules.values),
        "special": [
            {"family": rule.family, "size_code": rule.size_code, "values": dict(rule.values)} for rule in rules.special
        ],
        "switches": {key: choice for key, choice in rules.switches.items() if choice != SWITCHES[key].usual},
    }


_KIND_OF: dict[type, str] = {
    Inspection: "inspection", Repair: "repair", RestingVoltage: "resting-voltage", UnrestedVoltage: "other-voltage",
    Recovery: "recovery", Decision: "decision", Overrule: "overrule", Charge: "charge", CapacityRun: "capacity",
    ResistanceReading: "resistance", Skip: "skip", SecondLook: "second-look", Shelved: "shelved", CameBack: "came-back",
}  # fmt: skip
#: What goes into a figure's own standard uncertainty, which is written instead.
_WITHIN_U = ("half_width_mah", "own_u_mah", "half_width_mohm", "own_u_mohm")
_HEAT = {"cell_degc": "temperature_degc", "room_degc": "room_degc", "warmth": "warmth"}


def _written(event: Event, rules: HouseRules) -> dict[str, Any]:
    """The event's fields as they are named here, with sets as lists."""
    written: dict[str, Any] = {"kind": _KIND_OF[type(event)]}
    for key, value in asdict(event).items():
        if key == "heat":
            written |= {_HEAT[part]: said for part, said in value.items() if said is not None}
        elif key != "at" and key not in _WITHIN_U:
            written[key] = sorted(value) if isinstance(value, frozenset) else value
    if isinstance(event, CapacityRun):
        written["standard_u_mah"] = run_u_mah(event, rules)
    elif isinstance(event, ResistanceReading):
        written["standard_u_mohm"] = resistance_u_mohm(event, rules)
    return written


def write_judgement(judgement: Judgement) -> dict[str, Any]:
    """A judgement as `./zembric judge` answers it."""
    step, capacity, resistance = judgement.next_step, judgement.capacity, judgement.resistance
    return {
        "grade": judgement.grade,
        "sure": judgement.sure,
        "reasons": [_reason(reason) for reason in judgement.reasons],
        "next_step": {
            "code": step.code,
            "not_before": _time(step.not_before) if step.not_before else None,
            "text": say(step.said),
            "overdue_at": _time(step.overdue_at) if step.overdue_at else None,
            "minutes": step.minutes,
            "needs": say(step.needs) if step.needs else None,
            "cautions": [say(caution) for caution in step.cautions],
        },
        "capacity_mah": capacity.value_mah if capacity else None,
        "capacity_u_mah": capacity.u_mah if capacity else None,
        "resistance_mohm": resistance.value_mohm if resistance else None,
        "resistance_u_mohm": resistance.u_mohm if resistance else None,
        "resistance_method": resistance.method if resistance else None,
        "continuous_current_a": judgement.continuous_current.value_a if judgement.continuous_current else None,
        "good_for": say(judgement.good_for.said) if judgement.good_for else None,
        "drain": judgement.good_for.drain if judgement.good_for else None,
        "settled_by": say(judgement.settled_by) if judgement.settled_by else None,
        "charge": asdict(judgement.charge) if judgement.charge else None,
        "resting_voltage_v": judgement.resting_voltage_v,
        "marked_for_life": judgement.is_marked,
        "recovery_proved": judgement.recovery_proved,
        "watched_reading_at": _time(judgement.watched_reading_at) if judgement.watched_reading_at else None,
    }


def _reason(reason: Reason) -> dict[str, Any]:
    limit = reason.limit
    return {
        "code": reason.code, "text": say(reason.said), "value": reason.value, "limit": limit.value if limit else None,
        "unit": limit.unit if limit else None, "margin": reason.margin, "kind_of_limit": limit.kind.value if limit else None,
    }  # fmt: skip


def _time(at: datetime) -> str:
    return at.astimezone(UTC).isoformat().replace("+00:00", "Z")
