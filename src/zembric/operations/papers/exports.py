"""All donors and all cells as CSV with a unit in every column name, as the database itself writes it: row by row in Python would take five times as long."""

from __future__ import annotations

from types import MappingProxyType
from typing import TYPE_CHECKING, Any

import psycopg
from psycopg.pq import ExecStatus
from sqlalchemy import DateTime, Float, Text, case, collate, func, literal, select, text

from zembric.files.tables import RUN_BY_SPREADSHEETS
from zembric.models import CellRow, Donor, JudgementRow, Place

if TYPE_CHECKING:
    from collections.abc import Iterator, Mapping

    from psycopg.pq.abc import PGresult
    from sqlalchemy import ColumnElement, Connection
    from sqlalchemy.orm import Session

EXPORTS = ("donors", "cells")
_PIECE_BYTES = 64 * 1024
#: What nobody types freely: Zembric's own numbers and words out of fixed lists, none of which a spreadsheet would run.
_FROM_LISTS = frozenset(
    {
        "number", "donor", "family", "build", "plus_end", "protection", "terminals", "place", "grade", "sure", "next_step",
        "capacity_method", "resistance_method",
    }
)  # fmt: skip
#: Digits behind the point that mean something; what arithmetic leaves behind them does not. Rounding them away is half the work that
#: counting digits is to the database.
_MILLION = 1_000_000.0


def export_csv(session: Session, name: str) -> Iterator[bytes]:
    """One of `EXPORTS`, piece by piece. Times in UTC, numbers as they are, and no text that a spreadsheet would run."""
    columns = _DONOR_COLUMNS if name == "donors" else _CELL_COLUMNS
    query = select(*(_written(header, column).label(header) for header, column in columns.items()))
    if name == "cells":
        query = query.join_from(CellRow, JudgementRow, CellRow.judgement_id == JudgementRow.id).join(Donor)
        query = query.outerjoin(Place, Place.id == CellRow.place_id)
    query = query.order_by(CellRow.id if name == "cells" else Donor.id)
    connection = session.connection()
    asked = query.compile(dialect=connection.dialect, compile_kwargs={"literal_binds": True})
    session.execute(text("SELECT"))  # begins the transaction, as the copy goes past the driver
    yield from _copied(connection, str(asked))


def _copied(connection: Connection, asked: str) -> Iterator[bytes]:
    """As the database's own library hands it over: its driver asks for each row by itself, which takes as long as to make them."""
    driver = connection.connection.driver_connection
    assert isinstance(driver, psycopg.Connection)
    server, piece = driver.pgconn, bytearray()
    _check(driver, server.exec_(f"COPY ({asked}) TO STDOUT (FORMAT csv, HEADER)".encode()))
    try:
        while (row := server.get_copy_data(0))[0] > 0:
            piece += row[1]
            if len(piece) > _PIECE_BYTES:
                yield bytes(piece)
                piece.clear()
    except BaseException:
        # Whoever takes no more leaves a connection that others can use.
        driver.cancel_safe()
        while server.get_copy_data(0)[0] > 0:
            pass
        raise
    finally:
        ends = list(iter(server.get_result, None))
    for end in ends:
        _check(driver, end)
    yield bytes(piece)


def _check(driver: psycopg.Connection, result: PGresult) -> None:
    if result.status not in (ExecStatus.COPY_OUT, ExecStatus.COMMAND_OK):
        raise psycopg.errors.error_from_result(result, encoding=driver.info.encoding)


def _written(header: str, column: Any) -> ColumnElement[Any]:
    if isinstance(column.type, DateTime):
        return func.to_char(func.timezone("UTC", column), 'YYYY-MM-DD"T"HH24:MI:SS.US"+00:00"')
    if isinstance(column.type, Float):
        return func.round(column * _MILLION) / _MILLION
    if isinstance(column.type, Text) and header not in _FROM_LISTS:
        # Most are words; what a spreadsheet runs comes before all letters.
        is_word = collate(column, "C") >= "A"
        runs = func.left(column, 1).in_(RUN_BY_SPREADSHEETS)
        return case((is_word, column), (runs, literal("'") + column), else_=func.nullif(column, ""))
    return column  # type: ignore[no-any-return]


_DONOR_COLUMNS: Mapping[str, Any] = MappingProxyType(
    {
        "number": Donor.number,
        "kind": Donor.kind,
        "description": Donor.description,
        "opened_at": Donor.opened_at,
        "symptom": Donor.symptom,
        "ran_min": Donor.ran_min,
        "runs_now_min": Donor.runs_now_min,
        "claimed_voltage_v": Donor.claimed_v,
        "claimed_energy_wh": Donor.claimed_wh,
        "claimed_capacity_mah": Donor.claimed_mah,
        "charger_kind": Donor.charger_kind,
        "charger_k_v": Donor.charger_k_v,
        "charger_r1_ohm": Donor.charger_r1_ohm,
        "charger_r2_ohm": Donor.charger_r2_ohm,
        "protection": Donor.protection,
        "protection_cut_off_v": Donor.protection_cut_off_v,
        "protection_release_v": Donor.protection_release_v,
        "temperature_sensor": Donor.temperature_sensor,
        "converter": Donor.converter,
        "connector": Donor.connector,
        "charged_in": Donor.charged_in,
        "taped_at": Donor.taped_at,
    }
)
_CELL_COLUMNS: Mapping[str, Any] = MappingProxyType(
    {
        "number": CellRow.number,
        "label": CellRow.own_label,
        "donor": Donor.number,
        "size": CellRow.size_code,
        "family": CellRow.family,
        "full_voltage_v": CellRow.full_v,
        "rated_capacity_mah": CellRow.rated_capacity_mah,
        "claimed_capacity_mah": CellRow.claimed_capacity_mah,
        "advertised_capacity_mah": CellRow.advertised_capacity_mah,
        "width_mm": CellRow.width_mm,
        "length_mm": CellRow.length_mm,
        "thickness_mm": CellRow.thickness_mm,
        "mass_g": CellRow.mass_g,
        "build": CellRow.build,
        "plus_end": CellRow.plus_end,
        "protection": CellRow.protection,
        "terminals": CellRow.terminals,
        "place": Place.number,
        "slot": CellRow.slot,
        "in_use_in": CellRow.in_use_in,
        "grade": JudgementRow.grade,
        "sure": JudgementRow.sure,
        "next_step": JudgementRow.next_step,
        "resting_voltage_v": JudgementRow.resting_voltage_v,
        "capacity_mah": JudgementRow.capacity_mah,
        "capacity_u_mah": JudgementRow.capacity_u_mah,
        "capacity_method": JudgementRow.capacity_method,
        "resistance_mohm": JudgementRow.resistance_mohm,
        "resistance_u_mohm": JudgementRow.resistance_u_mohm,
        "resistance_method": JudgementRow.resistance_method,
        "handed_over_at": CellRow.handed_over_at,
    }
)
