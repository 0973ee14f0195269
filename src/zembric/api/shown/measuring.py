"""Instruments, logs and rests as they go over the wire."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any

from zembric.api import schemas
from zembric.api.words import told
from zembric.core.said import Amount, said

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.measure.self_discharge import RestPicture
    from zembric.core.measure.traces.thinning import Curve
    from zembric.core.sums.registry import Result
    from zembric.models import Base, Correction, Instrument, LogRow, ReadingEntry
    from zembric.operations.known.instruments import Agreement
    from zembric.operations.measuring.earlier_readings import Earlier
    from zembric.operations.measuring.methods import Measured

_PREVIEW_LINES, _PREVIEW_CHARS = 12, 200
_EARLIER_SHOWN = 50


def show_instrument(instrument: Instrument) -> schemas.InstrumentOut:
    corrections = [
        schemas.CorrectionOut.model_validate(
            _columns(c) | {"by": c.person.name, "ground": c.ground or _reads_otherwise(c)}
        )
        for c in instrument.corrections
    ]
    return schemas.InstrumentOut.model_validate(_columns(instrument) | {"corrections": corrections})


def _reads_otherwise(correction: Correction) -> str:
    """The ground of a correction for which nobody typed another one."""
    compared = correction.comparison
    by = Amount(float(compared["difference_pct"]), "%", 2)
    return told(said("reads-otherwise", by=by, against=str(compared["against"])))


def show_agreement(found: Agreement) -> schemas.AgreementOut:
    return schemas.AgreementOut(
        a=show_instrument(found.a),
        b=show_instrument(found.b),
        quantity=found.quantity,
        pairs=[schemas.PairOut.model_validate(pair) for pair in found.pairs],
        bias_pct=found.bias_pct,
        error_pct=found.error_pct,
        significant=found.significant,
        factor=found.factor,
    )


def show_sum(result: Result) -> schemas.SumAnswerOut:
    return schemas.SumAnswerOut(
        outputs=dict(result.outputs),
        worked=told(result.worked),
        cautions=[told(each) for each in result.cautions],
        red_lines=[schemas.RedLineOut.model_validate(red) for red in result.warnings],
        picture=schemas.PictureOut.model_validate(result.picture) if result.picture else None,
    )


def show_measured(measured: Measured, unit: str) -> schemas.MeasuredOut:
    worked = measured.worked
    return schemas.MeasuredOut(
        value=measured.adjusted.value,
        unit=unit,
        standard_u=worked.standard_u,
        method=worked.reading_method,
        worked=told(worked.worked),
        limited_by=told(worked.limited_by),
        cautions=[told(each) for each in worked.cautions],
        complete=worked.complete,
        adjusted=told(measured.adjusted.said) if measured.adjusted.said else "",
    )


def show_log(log: LogRow, kept: Sequence[ReadingEntry], head: bytes) -> schemas.LogOut:
    lines = head.decode("utf-8", "replace").replace("\x00", "").splitlines()[:_PREVIEW_LINES]
    return schemas.LogOut.model_validate(
        _listed(log)
        | {
            "bytes": log.bytes, "instrument": log.instrument.number if log.instrument else None, "read_as": log.read_as,
            "remarks": log.remarks or [], "refusal": log.refusal, "tests": log.tests or [],
            "kept_tests": sorted({int(reading.conditions["test"]) for reading in kept}),
            "said": {key: value for key, value in log.answers.items() if key in schemas.LogSaidOut.model_fields},
            "preview": [line[:_PREVIEW_CHARS] for line in lines if line.strip()],
        }
    )  # fmt: skip


def show_listed_log(log: LogRow) -> schemas.LogListedOut:
    last = log.tests[-1] if log.tests else {}
    return schemas.LogListedOut.model_validate(
        _listed(log)
        | {
            "discharge_capacity_mah": last.get("discharge_capacity_mah"),
            "tests": len(log.tests or ()),
            "instrument": log.instrument.name if log.instrument else None,
        }
    )


def _listed(log: LogRow) -> dict[str, Any]:
    return {
        "id": log.id, "file_name": log.file_name, "at": log.at, "by": log.person.name,
        "cell": log.cell.number if log.cell else None, "state": log.state, "progress_pct": log.progress_pct,
    }  # fmt: skip


def show_curve(curve: Curve) -> schemas.CurveOut:
    return schemas.CurveOut(
        time_s=[round(float(t), 3) for t in curve.time_s],
        voltage_v=[round(float(v), 5) for v in curve.voltage_v],
        current_a=[round(float(a), 5) for a in curve.current_a],
        charge_mah=[None if math.isnan(q) else round(float(q), 3) for q in curve.charge_mah],
    )


def show_earlier(earlier: Earlier) -> schemas.EarlierOut:
    readings = earlier.readings
    changed = [each for each in readings if each.grade_before != each.grade_after]
    return schemas.EarlierOut(
        count=len(readings),
        cells=len({each.number for each in readings}),
        corrected=earlier.corrected,
        readings=[schemas.EarlierReadingOut.model_validate(each) for each in readings[:_EARLIER_SHOWN]],
        other_grades=sorted({each.number for each in changed}),
    )


def show_rest(picture: RestPicture | None) -> schemas.RestOut:
    if picture is None:
        return schemas.RestOut(
            since=None, after_charge=False, readings=[], verdict="too-early", mv_per_day=None, error_mv_per_day=None,
            line=None, next_at=None, text=told(said("rest-of-nothing")),
        )  # fmt: skip
    return schemas.RestOut(
        since=picture.since,
        after_charge=picture.after_charge,
        readings=[schemas.RestReadingOut.model_validate(reading) for reading in picture.readings],
        verdict=picture.slope.verdict,
        mv_per_day=picture.slope.mv_per_day,
        error_mv_per_day=picture.slope.error_mv_per_day,
        line=schemas.FittedLineOut.model_validate(picture.line) if picture.line else None,
        next_at=picture.next_at,
        text=told(picture.said),
    )


def _columns(row: Base) -> dict[str, Any]:
    return {column.key: getattr(row, column.key) for column in row.__mapper__.column_attrs}
