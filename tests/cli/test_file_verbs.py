"""Verbs on files and prints, as a script would call them."""

from __future__ import annotations

import json
from pathlib import Path
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


POOL = "cell_id,capacity_mah,ir_mohm,note\nC1,2400,40,a\nC2,1600,50,\nC3,2300.5,60,\nC4,1700,70,\nC5,1000,80,\n"


def pool_file(tmp_path: Path, text: str) -> str:
    path = tmp_path / "pool.csv"
    path.write_text(text, encoding="utf-8")
    return str(path)


def test_match_answers_with_the_groups_and_their_proof(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    code, answer = run(capsys, "match", pool_file(tmp_path, POOL), "--series", "2", "--parallel", "2")
    assert code == 0
    assert answer.pop("seconds") < 2
    assert answer == {
        "groups": [["C3", "C4"], ["C1", "C2"]], "weakest_group_mah": 4000, "strongest_group_mah": 4000.5,
        "spread_mah": 0.5, "bound_mah": 4000, "proved_best": True, "worst_resistance_ratio": 1.25,
        "group_resistance_spread_pct": 36.991, "total_taken_mah": 8000.5, "left_over": ["C5"],
    }  # fmt: skip


@pytest.mark.parametrize(
    ("options", "said"),
    [
        ((), {"code": "too-few-cells", "needed": 6, "have": 5}),
        (("--use-all",), {"code": "not-exactly", "needed": 6, "have": 5}),
        (("--series", "2", "--target-mah", "4100"), {"code": "target-out-of-reach", "reachable_mah": 4000}),
        (("--series", "0"), {"code": "bad-input"}),
        (("--seconds", "0"), {"code": "bad-arguments"}),
        (("--give-pct", "nan"), {"code": "bad-input"}),
        (("--use-all", "--target-mah", "5"), {"code": "bad-arguments"}),
    ],
)
def test_match_refuses_with_what_would_do(
    options: tuple[str, ...], said: dict[str, Any], capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    code, answer = run(capsys, "match", pool_file(tmp_path, POOL), "--series", "3", "--parallel", "2", *options)
    assert code == 2
    assert answer["refused"] | said == answer["refused"]


@pytest.mark.parametrize(
    ("text", "line", "column"),
    [
        ("", 1, "cell_id"),
        ("cell_id,capacity_mah\nC1,2000\n", 1, "ir_mohm"),
        ("cell_id,capacity_mah,ir_mohm\nC1,2000,40\nC2,many,40\n", 3, "capacity_mah"),
        ("cell_id,capacity_mah,ir_mohm\nC1,-5,40\n", 2, "capacity_mah"),
        ("cell_id,capacity_mah,ir_mohm\nC1,nan,40\n", 2, "capacity_mah"),
        ("cell_id,capacity_mah,ir_mohm\nC1,2000,0\n", 2, "ir_mohm"),
        ("cell_id,capacity_mah,ir_mohm\nC1,2000,40\n\nC1,2000,40\n", 4, "cell_id"),
        ("cell_id,capacity_mah,ir_mohm\n,2000,40\n", 2, "cell_id"),
        ('cell_id,capacity_mah,ir_mohm\n"C1,2000,40\n', 2, None),
    ],
)
def test_match_says_where_a_pool_cannot_be_read(
    text: str, line: int, column: str | None, capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    code, answer = run(capsys, "match", pool_file(tmp_path, text), "--series", "1", "--parallel", "1")
    assert code == 2
    assert (answer["refused"]["line"], answer["refused"]["column"]) == (line, column)


def case_of(**figures: float) -> dict[str, Any]:
    """A pack of one cell to be run on paper."""
    cell = {"id": "A", "chemistry": "demo", "resistance_mohm": 100, **figures}
    return {
        "kind": "run", "chemistries": {"demo": {"soc": [0, 1], "ocv_v": [3.0, 4.0]}}, "cutoff_group_v": 3.2,
        "load": {"kind": "current", "value": 0.5}, "groups": [{"cells": [cell]}],
    }  # fmt: skip


def test_packrun_answers_a_case_and_ends_with_2_where_it_is_refused(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    case = case_of(capacity_mah=1000, soc=1)
    file = tmp_path / "case.json"
    file.write_text(json.dumps(case))
    code, answer = run(capsys, "packrun", str(file))
    assert (code, answer["status"], answer["run_time_s"]) == (0, "ok", pytest.approx(5400))
    file.write_text(json.dumps(case | {"groups": []}))
    assert run(capsys, "packrun", str(file)) == (
        2, {"status": "refused", "errors": [{"code": "empty_group", "group": None, "cell": None}]},
    )  # fmt: skip


def test_packrun_tells_people_in_words_all_that_cannot_be(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    file = tmp_path / "case.json"
    file.write_text(json.dumps(case_of(capacity_mah=-1, soc=2)))
    assert main(["packrun", str(file)]) == 2
    assert capsys.readouterr().out.splitlines() == [
        "Group 1, cell 1: The capacity has to be above zero.",
        "Group 1, cell 1: The state of charge lies between 0 (empty) and 1 (full).",
    ]


def test_match_for_a_load_tells_the_run_beside_that_of_capacity_alone(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    pool = tmp_path / "pool.csv"
    rows = [f"C{index},{2000 + 37 * index % 500},{300 if index == 3 else 30 + index}" for index in range(8)]
    pool.write_text("\n".join(["cell_id,capacity_mah,ir_mohm", *rows]))
    shape = ("match", str(pool), "--series", "3", "--parallel", "2", "--load")
    code, answer = run(capsys, *shape, "current=8")
    assert (code, set(answer["run"])) == (
        0,
        {"run_time_s", "by_capacity_run_time_s", "ideal_run_time_s", "bound_run_time_s"},
    )
    assert answer["run"]["run_time_s"] >= answer["run"]["by_capacity_run_time_s"] > 0
    assert "C3" in answer["left_over"]
    for load, refused in (("current=0", "bad-load"), ("motor=2", "bad-load"), ("power=9999", "load-too-large")):
        code, answer = run(capsys, *shape, load)
        assert (code, answer["refused"]["code"]) == (2, refused)
    assert answer["refused"]["most_w"] < 9999
