"""A large collection, made by SQL in a minute: cells in boxes, judged, with ten entries each. For benches only."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import TYPE_CHECKING

from sqlalchemy import text

from zembric.cli.migrations import migrate
from zembric.core.identify.numbering import NumberedThing, make_number
from zembric.core.judge.judge import JUDGE_VERSION
from zembric.operations import people
from zembric.operations.database import unit_of_work
from zembric.operations.signing_in import passwords

if TYPE_CHECKING:
    from sqlalchemy import Engine

NAME, PASSWORD = "Bench", "a long password for a bench"
BOXES, IN_LARGE_BOX, TRAYS = 200, 20_000, 30
#: Cells are spread so: most lie graded in boxes, some wait for a step in trays.
_FILL = """
INSERT INTO place (number, name, kind) SELECT number, 'Box ' || n, 'shelf-box' FROM box_numbers WHERE n <= {boxes};
INSERT INTO place (number, name, kind, rows, columns) SELECT replace(number, 'X', 'T'), 'Tray ' || n, 'tray', 10, 10 FROM box_numbers WHERE n > {boxes};
INSERT INTO donor (number, kind, description, opened_at, opened_by_id)
    SELECT 'D' || n, 'laptop', 'donor ' || n, now() - n % 1000 * interval '1 day', 1 FROM generate_series(1, {donors}) n;
INSERT INTO cell (number, donor_id, size_code, family, rated_capacity_mah, place_id, slot)
    SELECT numbers.number, (SELECT min(id) FROM donor) + (n - 1) / 6 % {donors}, CASE (n - 1) / 6 % 4 WHEN 0 THEN '21700' ELSE '18650' END,
           CASE (n - 1) / 6 % 11 WHEN 0 THEN 'iron-phosphate' ELSE 'layered-oxide' END, 2600,
           CASE WHEN n <= {trays} * 100 THEN (SELECT min(id) FROM place WHERE kind = 'tray') + (n - 1) / 100
                WHEN n <= {trays} * 100 + {large} THEN (SELECT min(id) FROM place WHERE kind = 'shelf-box')
                ELSE (SELECT min(id) FROM place WHERE kind = 'shelf-box') + n % {boxes} END,
           CASE WHEN n <= {trays} * 100 THEN 1 + (n - 1) % 100 END
    FROM numbers;
INSERT INTO judgement (cell_id, at, rule_set_version, grade, sure, reasons, next_step, next_said, next_not_before, next_then, judged_by,
                       resting_voltage_v, resting_voltage_at, capacity_mah, capacity_method, resistance_mohm, resistance_method, resistances_mohm)
    SELECT id, now(), 1, CASE WHEN waits THEN 'not-yet' ELSE (ARRAY['A', 'B', 'C'])[1 + id % 3] END, CASE WHEN waits THEN NULL ELSE 'sure' END,
           '[{{"code": "capacity", "said": {{"code": "as-said", "with": {{"text": "2300 mAh of 2600 mAh rated"}}}}, "value": 88.5, "margin": 8.5, "limit": null}}]',
           CASE WHEN waits THEN (ARRAY['charge', 'measure-capacity', 'measure-resistance'])[1 + id % 3] ELSE 'keep' END,
           '{{"code": "step-keep"}}', CASE WHEN waits THEN NULL ELSE now() + (id % 180 + 5) * interval '1 day' END,
           CASE WHEN waits THEN NULL ELSE 'recheck' END, {judge}, 3.6 + id % 30 / 100.0, now() - interval '1 day', 1300 + id::bigint * 7919 % 1300,
           'tester', 30 + id::bigint * 104729 % 60, 'ac-1khz', jsonb_build_object('ac-1khz', 30 + id::bigint * 104729 % 60)
    FROM (SELECT id, slot IS NOT NULL AS waits FROM cell) AS each;
UPDATE cell SET judgement_id = judgement.id FROM judgement WHERE judgement.cell_id = cell.id;
INSERT INTO judgement (cell_id, at, rule_set_version, grade, reasons, next_step, next_said)
    SELECT cell_id, at - n * interval '5 days', 1, 'not-yet', reasons, 'charge', next_said FROM judgement, generate_series(1, 4) n;
INSERT INTO entry (id, cell_id, kind, at, recorded_at, person_id) OVERRIDING SYSTEM VALUE
    SELECT id * 10 + n, id, CASE n WHEN 0 THEN 'inspection' WHEN 5 THEN 'step' ELSE 'reading' END, now() - (40 - n) * interval '1 day',
           now() - (40 - n) * interval '1 day', 1 FROM cell, generate_series(0, 9) n;
INSERT INTO inspection (id, findings) SELECT id, '{{}}' FROM entry WHERE kind = 'inspection';
INSERT INTO step (id, step, details) SELECT id, 'charge', '{{"complete": true, "end_v": 4.2}}' FROM entry WHERE kind = 'step';
INSERT INTO reading (id, quantity, value, unit, method, conditions, standard_u)
    SELECT entry.id, quantity, value, unit, method, conditions::jsonb, u FROM entry JOIN standing AS judgement ON judgement.cell_id = entry.cell_id,
    LATERAL (SELECT * FROM (VALUES
        (7, 'capacity', capacity_mah, 'mAh', 'tester', '{{"current_ma": 500, "cut_off_v": 2.8, "complete": true}}', 20.0),
        (8, 'resistance', resistance_mohm, 'mOhm', 'ac-1khz', '{{}}', 0.5),
        (-1, 'voltage', resting_voltage_v, 'V', 'meter', '{{"resolution_v": 0.01, "state": "resting"}}', 0.005)
    ) AS kinds (n, quantity, value, unit, method, conditions, u)
    WHERE n = entry.id % 10 OR (n = -1 AND entry.id % 10 NOT IN (7, 8))) AS read
    WHERE entry.kind = 'reading';
INSERT INTO happening (at, person_id, what, cell_id, details) SELECT recorded_at, 1, 'entry', cell_id, '{{}}' FROM entry WHERE id % 10 = 8;
SELECT setval(pg_get_serial_sequence('entry', 'id'), (SELECT max(id) FROM entry));
DROP TABLE numbers, box_numbers;
"""


def fill(engine: Engine, cells: int) -> None:
    """That many cells, ten entries each, and somebody who may sign in as `NAME` with `PASSWORD`."""
    migrate(engine)
    now = datetime.now(UTC)
    with unit_of_work(engine) as session:
        passwords.accept_invitation(session, people.add_person(session, NAME, "coordinator", now), NAME, PASSWORD, now)
    said = _FILL.format(
        boxes=BOXES, trays=TRAYS, large=min(IN_LARGE_BOX, cells // 5), donors=cells // 6 + 1, judge=JUDGE_VERSION
    )
    with engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
        connection.execute(text("CREATE TABLE numbers (n integer, number text)"))
        raw = connection.connection.driver_connection
        assert raw is not None
        connection.execute(text("CREATE TABLE box_numbers (n integer, number text)"))
        numbered: tuple[tuple[str, NumberedThing, int], ...] = (
            ("numbers", "cell", cells),
            ("box_numbers", "box", BOXES + TRAYS),
        )
        for table, thing, count in numbered:
            with raw.cursor().copy(f"COPY {table} FROM STDIN") as copy:
                for n in range(1, count + 1):
                    copy.write_row((n, make_number(thing, 100_000 + n)))
        for statement in said.split(";\n"):
            if statement.strip():
                connection.execute(text(statement.replace(":", "\\:")))
        connection.execute(text("VACUUM ANALYZE"))
