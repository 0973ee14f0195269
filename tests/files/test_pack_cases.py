"""Cases as files: what is read, what is answered, and everything that cannot be with where it stands."""

from __future__ import annotations

import json
from typing import Any

import pytest

from zembric.files.pack_cases import answer_case

A = {"id": "A", "chemistry": "demo", "capacity_mah": 1000, "resistance_mohm": 100, "soc": 0.9}
B = A | {"id": "B", "capacity_mah": 500, "resistance_mohm": 200, "soc": 0.8}
CASE: dict[str, Any] = {
    "kind": "run", "chemistries": {"demo": {"soc": [0, 1], "ocv_v": [3.0, 4.0]}}, "wiring_mohm": 50, "cutoff_group_v": 3.2,
    "load": {"kind": "current", "value": 0.5}, "groups": [{"cells": [A, B]}],
}  # fmt: skip
EVEN: dict[str, Any] = {
    "kind": "equalise", "chemistries": CASE["chemistries"], "limit_mv": 3,
    "rails": [{"external_mohm": 200, "cells": [A]}, {"cells": [B | {"soc": 0.6}]}],
}  # fmt: skip


def answered(case: object) -> dict[str, Any]:
    return answer_case(json.dumps(case).encode())


def with_cell(**changed: object) -> dict[str, Any]:
    return CASE | {"groups": [{"cells": [A, {key: value for key, value in (B | changed).items() if value != "gone"}]}]}


def test_a_run_is_answered_with_its_figures_by_group_and_cell() -> None:
    found = answered(CASE)
    assert found["status"] == "ok"
    assert (found["run_time_s"], found["energy_wh"], found["mean_voltage_v"]) == pytest.approx(
        (6840, 3.317083, 3.491667), rel=1e-5
    )
    assert found["ended_by"] == {"reason": "group_cutoff", "group": 1}
    (group,) = found["groups"]
    assert set(group) == {"final_voltage_v", "left_ah", "cells"}
    assert group["cells"][0] == {
        "id": "A", "final_soc": pytest.approx(0.2333333), "peak_discharge_a": pytest.approx(2 / 3), "peak_discharge_t_s": 0,
        "peak_charge_a": 0, "peak_charge_t_s": None, "soc_out_of_range": False,
    }  # fmt: skip


def test_cells_made_even_are_answered_rail_by_rail() -> None:
    found = answered(EVEN)
    assert (found["time_to_limit_s"], found["final_voltage_v"], found["heat_total_wh"]) == pytest.approx(
        (2763.102, 3.8, 0.015), rel=2e-4
    )
    assert found["rails"][1]["cells"] == [
        {"id": "B", "initial_current_a": pytest.approx(-0.6), "final_soc": pytest.approx(0.8)}
    ]


@pytest.mark.parametrize(
    ("case", "errors"),
    [
        (with_cell(resistance_mohm=0), [("resistance_not_positive", 1, 2)]),
        (with_cell(capacity_mah=-1), [("capacity_not_positive", 1, 2)]),
        (with_cell(soc=1.01), [("soc_out_of_range", 1, 2)]),
        (with_cell(chemistry="other"), [("unknown_chemistry", 1, 2)]),
        (with_cell(capacity_mah="2000"), [("bad_value", 1, 2)]),
        (with_cell(capacity_mah=True), [("bad_value", 1, 2)]),
        (with_cell(soc="gone"), [("bad_value", 1, 2)]),
        (with_cell(resistance_mohm=float("nan")), [("bad_value", 1, 2)]),
        (with_cell(resistance_mohm=float("inf")), [("bad_value", 1, 2)]),
        (with_cell(id=7), [("bad_value", 1, 2)]),
        (CASE | {"groups": []}, [("empty_group", None, None)]),
        (CASE | {"groups": [{"cells": [A]}, {"cells": []}]}, [("empty_group", 2, None)]),
        (CASE | {"groups": [{"cells": [A]}, 5]}, [("bad_value", 2, None)]),
        (CASE | {"groups": "none"}, [("bad_value", None, None)]),
        (CASE | {"chemistries": {"demo": {"soc": [0, 1], "ocv_v": [4, 3]}}}, [("table_not_increasing", None, None)]),
        (CASE | {"chemistries": {"demo": {"soc": [0, 0.9], "ocv_v": [3, 4]}}}, [("table_not_increasing", None, None)]),
        (CASE | {"chemistries": {"demo": {"soc": [0, 1], "ocv_v": [3, "4"]}}}, [("table_not_increasing", None, None)]),
        (CASE | {"chemistries": {"demo": {"soc": [0, 1]}}}, [("table_not_increasing", None, None)]),
        (CASE | {"load": {"kind": "current", "value": 0}}, [("load_not_positive", None, None)]),
        (CASE | {"load": {"kind": "motor", "value": 1}}, [("bad_value", None, None)]),
        (CASE | {"load": None}, [("bad_value", None, None)]),
        (CASE | {"cutoff_group_v": 0}, [("cutoff_not_positive", None, None)]),
        (CASE | {"cutoff_pack_v": -1}, [("cutoff_not_positive", None, None)]),
        (CASE | {"wiring_mohm": -1}, [("resistance_not_positive", None, None)]),
        (CASE | {"wiring_mohm": None}, [("bad_value", None, None)]),
        (CASE | {"cutoff_group_v": 3.9}, [("cutoff_not_below_start", 1, None)]),
        (CASE | {"cutoff_pack_v": 5}, [("cutoff_not_below_start", None, None)]),
        (CASE | {"kind": "walk"}, [("bad_value", None, None)]),
        ([CASE], [("bad_value", None, None)]),
        (EVEN | {"limit_mv": 0}, [("bad_value", None, None)]),
        (EVEN | {"rails": [{"external_mohm": -5, "cells": [A]}]}, [("resistance_not_positive", 1, None)]),
        (
            with_cell(soc=2, capacity_mah=0) | {"load": {"kind": "power", "value": -1}},
            [("capacity_not_positive", 1, 2), ("soc_out_of_range", 1, 2), ("load_not_positive", None, None)],
        ),
    ],
)
def test_what_cannot_be_is_refused_with_all_of_it_and_where(
    case: object, errors: list[tuple[str, int | None, int | None]]
) -> None:
    assert answered(case) == {
        "status": "refused",
        "errors": [{"code": code, "group": group, "cell": cell} for code, group, cell in errors],
    }


@pytest.mark.parametrize("content", [b"", b"[", b"\xff\xfe", b"[" * 100_000, b'{"kind": "run"}'])
def test_what_is_no_case_is_refused_and_never_a_crash(content: bytes) -> None:
    found = answer_case(content)
    assert found["status"] == "refused"
    assert {error["code"] for error in found["errors"]} == {"bad_value"}


def test_answers_hold_numbers_that_any_reader_takes() -> None:
    extreme = with_cell(capacity_mah=1e-6, resistance_mohm=1e-3, soc=0.5)
    json.dumps(answered(extreme), allow_nan=False)
