"""A pack to be run on paper, or cells to be made even, as one JSON object; and the answer as one.

Keys carry their units. Whatever is wrong is told all at once, with the position of group (or rail) and cell from 1.
"""

from __future__ import annotations

import json
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Literal

from zembric.core.run import (
    Curve,
    Equalised,
    Load,
    PackRun,
    Rail,
    RefusedRunError,
    RunCell,
    RunPack,
    Wrong,
    equalise,
    run_pack,
)
from zembric.core.run.model import LOAD_KINDS, LoadKind, WrongCode, wrong_around_cells, wrong_in_cell, wrong_in_curves

#: More cells than these are no pack.
MOST_CELLS = 20_000
#: Beyond these no number is meant.
_MOST, _LEAST = 1e9, 1e-9


@dataclass(slots=True)
class _Reading:
    """What was found wrong so far, and where one is."""

    wrong: list[Wrong] = field(default_factory=list)

    def note(self, code: WrongCode, group: int | None = None, cell: int | None = None) -> None:
        self.wrong.append(Wrong(code, group, cell))

    def number(
        self,
        of: Mapping[str, Any],
        key: str,
        group: int | None = None,
        cell: int | None = None,
        usual: float | None = None,
    ) -> float:
        """The number under a key; not a number where there is none, which is noted."""
        value = of.get(key, usual)
        if isinstance(value, (int, float)) and not isinstance(value, bool):
            size = abs(value)
            if size == 0 or _LEAST <= size <= _MOST:
                return float(value)
        self.note("bad_value", group, cell)
        return math.nan


def answer_case(content: bytes) -> dict[str, Any]:
    """The answer to a case: `status` "ok" with what was worked out, or "refused" with all errors."""
    try:
        return {"status": "ok", **_worked_out(content)}
    except RefusedRunError as error:
        errors = [{"code": each.code, "group": each.group, "cell": each.cell} for each in error.wrong]
        return {"status": "refused", "errors": errors}


def _worked_out(content: bytes) -> dict[str, Any]:
    try:
        case = json.loads(content)
    except (ValueError, RecursionError):
        case = None
    if not isinstance(case, dict) or case.get("kind") not in {"run", "equalise"}:
        raise RefusedRunError([Wrong("bad_value")])
    return _run(case) if case["kind"] == "run" else _equalise(case)


def _run(case: Mapping[str, Any]) -> dict[str, Any]:
    reading = _Reading()
    curves = _curves(case, reading)
    groups = [cells for cells, _ in _groups(case, "groups", curves, reading)]
    asked = case.get("load")
    load = asked if isinstance(asked, dict) else {}
    kind: LoadKind = next((each for each in LOAD_KINDS if each == load.get("kind")), "current")
    if load.get("kind") != kind:
        reading.note("bad_value")
    pack = RunPack(
        curves,
        groups,
        Load(kind, reading.number(load, "value") if load else 1.0),
        reading.number(case, "cutoff_group_v"),
        reading.number(case, "cutoff_pack_v", usual=0),
        reading.number(case, "wiring_mohm", usual=0),
    )
    reading.wrong += wrong_around_cells(pack)
    if reading.wrong:
        raise RefusedRunError(reading.wrong)
    return _shown_run(run_pack(pack))


def _equalise(case: Mapping[str, Any]) -> dict[str, Any]:
    reading = _Reading()
    curves = _curves(case, reading)
    rails = []
    for number, (cells, rail) in enumerate(_groups(case, "rails", curves, reading), start=1):
        external_mohm = reading.number(rail, "external_mohm", number, usual=0)
        if external_mohm < 0:
            reading.note("resistance_not_positive", number)
        rails.append(Rail(cells, external_mohm))
    limit_mv = reading.number(case, "limit_mv")
    if limit_mv <= 0:
        reading.note("bad_value")
    if reading.wrong:
        raise RefusedRunError(reading.wrong)
    return _shown_equalised(equalise(curves, rails, limit_mv), rails)


def _curves(case: Mapping[str, Any], reading: _Reading) -> dict[str, Curve]:
    """The tables by name; a faulty one is there too, so that its cells are not told to be of an unknown chemistry."""
    tables = case.get("chemistries")
    if not isinstance(tables, dict):
        reading.note("bad_value")
        return {}
    curves = {name: Curve(_numbers(table, "soc"), _numbers(table, "ocv_v")) for name, table in tables.items()}
    reading.wrong += wrong_in_curves(curves)
    return curves


def _numbers(table: Any, key: str) -> tuple[float, ...]:
    values = table.get(key) if isinstance(table, dict) else None
    if not isinstance(values, list):
        return ()
    is_number = all(isinstance(value, (int, float)) and not isinstance(value, bool) for value in values)
    return tuple(float(value) for value in values) if is_number and all(abs(value) <= _MOST for value in values) else ()


def _groups(
    case: Mapping[str, Any], key: Literal["groups", "rails"], curves: Mapping[str, Curve], reading: _Reading
) -> list[tuple[list[RunCell], Mapping[str, Any]]]:
    groups = case.get(key)
    if not isinstance(groups, list):
        reading.note("bad_value")
        return []
    if not groups:
        reading.note("empty_group")
    found: list[tuple[list[RunCell], Mapping[str, Any]]] = []
    for number, group in enumerate(groups, start=1):
        cells = group.get("cells") if isinstance(group, dict) else None
        if not isinstance(cells, list) or sum(len(each) for each, _ in found) + len(cells) > MOST_CELLS:
            reading.note("bad_value", number)
            continue
        if not cells:
            reading.note("empty_group", number)
        read = [_cell(cell, number, place, curves, reading) for place, cell in enumerate(cells, start=1)]
        found.append(([cell for cell in read if cell is not None], group))
    return found


def _cell(stated: Any, group: int, place: int, curves: Mapping[str, Curve], reading: _Reading) -> RunCell | None:
    if not isinstance(stated, dict) or not all(isinstance(stated.get(key), str) for key in ("id", "chemistry")):
        reading.note("bad_value", group, place)
        return None
    before = len(reading.wrong)
    cell = RunCell(
        stated["id"],
        stated["chemistry"],
        *(reading.number(stated, key, group, place) for key in ("capacity_mah", "resistance_mohm", "soc")),
    )
    if len(reading.wrong) == before:
        for code in wrong_in_cell(cell, curves):
            reading.note(code, group, place)
    return cell


# --- Answers ---------------------------------------------------------------------------------------------------------


def _shown_run(run: PackRun) -> dict[str, Any]:
    return {
        "run_time_s": run.seconds,
        "charge_ah": run.charge_ah,
        "energy_wh": run.energy_wh,
        "mean_voltage_v": run.mean_v,
        "heat_cells_wh": run.heat_cells_wh,
        "heat_wiring_wh": run.heat_wiring_wh,
        "stranded_wh": run.stranded_wh,
        "final_pack_voltage_v": run.final_v,
        "ended_by": {"reason": run.ended_by, "group": run.ended_in},
        "groups": [
            {
                "final_voltage_v": group.final_v,
                "left_ah": group.left_ah,
                "cells": [
                    {
                        "id": cell.key,
                        "final_soc": cell.final_soc,
                        "peak_discharge_a": cell.peak_discharge_a,
                        "peak_discharge_t_s": cell.peak_discharge_s,
                        "peak_charge_a": cell.peak_charge_a,
                        "peak_charge_t_s": cell.peak_charge_s,
                        "soc_out_of_range": cell.soc_out_of_range,
                    }
                    for cell in group.cells
                ],
            }
            for group in run.groups
        ],
    }


def _shown_equalised(found: Equalised, rails: Sequence[Rail]) -> dict[str, Any]:
    return {
        "time_to_limit_s": found.seconds,
        "final_voltage_v": found.final_v,
        "heat_total_wh": found.heat_wh,
        "rails": [
            {
                "cells": [
                    {"id": cell.key, "initial_current_a": first_a, "final_soc": soc}
                    for cell, first_a, soc in zip(rail.cells, first, final, strict=True)
                ]
            }
            for rail, first, final in zip(rails, found.first_a, found.final_soc, strict=True)
        ],
    }
