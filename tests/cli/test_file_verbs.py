"""Verbs on files and prints, as a script would call them."""

from __future__ import annotations

import json
from typing import Any

import pytest

from zembric.cli.__main__ import main


def run(capsys: pytest.CaptureFixture[str], *arguments: str) -> tuple[int, Any]:
    """Exit code and the one JSON object of a verb."""
    code = main([*arguments, "--json"])
    return code, json.loads(capsys.readouterr().out)


def test_size_tells_readings_volume_and_whether_a_claim_can_be(capsys: pytest.CaptureFixture[str]) -> None:
    code, answer = run(capsys, "size", "603048", "--claim-mah", "3500")
    assert code == 0
    assert answer == {
        "code": "603048",
        "shape": "flat",
        "readings": [{"thickness_mm": 6.0, "width_mm": 30.0, "length_mm": 48.0, "volume_cm3": 8.64}],
        "ambiguous": False,
        "family": None,
        "rechargeable": None,
        "remarks": [],
        "claim": {"verdict": "impossible", "doubtful_above_mah": 1560.0, "impossible_above_mah": 1800.0},
    }


def test_size_of_a_designation_knows_its_family(capsys: pytest.CaptureFixture[str]) -> None:
    _, answer = run(capsys, "size", "IFR26650", "--claim-mah", "3500")
    assert (answer["family"], answer["rechargeable"], answer["claim"]["verdict"]) == (
        "iron-phosphate",
        True,
        "believable",
    )
    _, answer = run(capsys, "size", "CR2032")
    assert (answer["family"], answer["rechargeable"]) == ("primary", False)
    assert answer["readings"] == [{"diameter_mm": 20.0, "length_mm": 3.2, "volume_cm3": 1.005}]


@pytest.mark.parametrize(
    "arguments",
    [
        ("hello",),
        ("",),
        (),
        ("18650", "--claim-mah", "-5"),
        ("18650", "--claim-mah", "nan"),
        ("18650", "--claim-mah", "many"),
        ("18650", "--mass-g", "0"),
        ("18650", "--family", "lemon"),
        ("INR18650", "--family", "iron-phosphate"),
        ("CR2032", "--claim-mah", "220"),
        ("18650", "--family", "primary", "--claim-mah", "3000"),
        ("18650", "--colour", "blue"),
    ],
)
def test_size_refuses_with_a_reason_and_exit_code_two(
    capsys: pytest.CaptureFixture[str], arguments: tuple[str, ...]
) -> None:
    code, answer = run(capsys, "size", *arguments)
    assert code == 2
    assert set(answer) == {"refused"}
    assert answer["refused"]["text"].endswith(".")
    assert (answer["refused"]["line"], answer["refused"]["column"]) == (None, None)


def test_without_json_a_person_can_read_it_and_remarks_go_beside(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["size", "2INR18650"]) == 0
    told = capsys.readouterr()
    assert "family: " in told.out
    assert "count 2" in told.err
