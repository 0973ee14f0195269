"""A cell's story as a file: read, refused where it cannot be, written, and judged as the story itself."""

from __future__ import annotations

import json
from typing import Any

import pytest

from tests.support.judged_stories import CASES
from tests.support.stories import at
from zembric.cli.file_verbs import run_file_verb
from zembric.core.errors import BadInputError
from zembric.core.judge.judge import judge
from zembric.files.stories import read_story, write_judgement, write_story

NOW = at(10)


def document(*events: dict[str, Any], **more: Any) -> dict[str, Any]:
    cell = {"size": "18650", "family": "layered-oxide", "full_v": None, "rated_capacity_mah": 2600}
    return {"now": NOW.isoformat(), "cell": cell, "events": list(events)} | more


def event(kind: str, **more: Any) -> dict[str, Any]:
    return {"at": at(1).isoformat(), "kind": kind} | more


def read(found: dict[str, Any]) -> Any:
    return read_story(json.dumps(found).encode())


@pytest.mark.parametrize("name", CASES)
def test_a_story_written_and_read_again_is_judged_the_same(name: str) -> None:
    story, rules, now, *_ = CASES[name]
    back = read(write_story(story, rules, now))
    assert write_judgement(judge(back.story, back.rules, back.now)) == write_judgement(judge(story, rules, now))


def test_the_command_answers_with_one_object(capsys: pytest.CaptureFixture[str], tmp_path: Any) -> None:
    file = tmp_path / "story.json"
    events = [event("inspection", findings=[]), event("resting-voltage", value_v=2.6)]
    file.write_text(json.dumps(document(*events)))
    assert run_file_verb("judge", [str(file), "--json"]) == 0
    answer = json.loads(capsys.readouterr().out)
    assert (answer["grade"], answer["sure"], answer["next_step"]["code"]) == ("not-yet", None, "recover")
    assert answer["reasons"][0]["code"] == "missing"


def test_times_come_in_any_zone_and_any_order_and_unknown_fields_are_ignored() -> None:
    events: list[dict[str, Any]] = [
        {"at": "2026-03-04T21:00:00+02:00", "kind": "resting-voltage", "value_v": 3.7, "mood": "good"},
        {"at": "2026-03-04T18:00:00Z", "kind": "inspection", "findings": []},
    ]
    found = read(document(*events, weather="wet"))
    assert [type(each).__name__ for each in found.story.events] == ["Inspection", "RestingVoltage"]


REFUSED: dict[str, tuple[Any, str, str]] = {
    # name: the document, the code, what the text names
    "no now": ({"cell": {}, "events": []}, "missing", "now"),
    "a time without a zone": (document(now="2026-03-14T19:30:00"), "bad-input", "now"),
    "no time": (document(now="tonight"), "bad-input", "now"),
    "an event after now": (document(event("shelved", at=at(11).isoformat())), "bad-input", "events[0].at"),
    "an unknown kind": (document(event("look")), "unknown-kind", "events[0].kind"),
    "no kind": (document({"at": at(1).isoformat()}), "missing", "events[0].kind"),
    "an unknown finding": (document(event("inspection", findings=["ugly"])), "bad-input", "events[0].findings[0]"),
    "an unknown method": (
        document(event("capacity", value_mah=1, method="guess", complete=True)), "bad-input", "events[0].method"),
    "an unknown outcome": (document(event("recovery", outcome="maybe")), "bad-input", "events[0].outcome"),
    "an unknown school": (document(rules={"voltage_school": "lax"}), "bad-input", "rules.voltage_school"),
    "an unknown family": (document(cell={"family": "lead"}), "bad-input", "cell.family"),
    "an unknown donor": (document(donor={"kind": "ship"}), "bad-input", "donor.kind"),
    "a number as text": (document(event("resting-voltage", value_v="3.7")), "bad-input", "events[0].value_v"),
    "true as a number": (document(event("resting-voltage", value_v=True)), "bad-input", "events[0].value_v"),
    "a capacity of nothing": (
        document(event("capacity", value_mah=0, method="tester", complete=True)), "bad-input", "events[0].value_mah"),
    "a run that says not whether it was complete": (
        document(event("capacity", value_mah=2000, method="tester")), "missing", "events[0].complete"),
    "events that are no list": (document() | {"events": {}}, "bad-input", "events"),
    "a list": ([], "not-a-story", "object"),
}  # fmt: skip


@pytest.mark.parametrize("name", REFUSED)
def test_what_cannot_be_is_refused_with_its_place(name: str) -> None:
    found, code, place = REFUSED[name]
    with pytest.raises(BadInputError) as refused:
        read(found)
    assert refused.value.code == code
    assert place in str(refused.value)


@pytest.mark.parametrize(
    ("content", "code"),
    [
        (b"", "not-json"),
        (b"{", "not-json"),
        (b"\xff\xfe", "not-json"),
        (b'{"now": NaN}', "not-finite"),
        (b"[" * 99_999, "not-json"),
    ],
)
def test_what_is_no_json_is_refused(content: bytes, code: str) -> None:
    with pytest.raises(BadInputError) as refused:
        read_story(content)
    assert refused.value.code == code
