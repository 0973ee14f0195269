"""The shelf with 20,000 cells: what the API takes against the bare SQL query behind it.

PYTHONPATH=src python bench/shelf.py [CELLS [ROUNDS]]
"""

from __future__ import annotations

import statistics
import sys
import tempfile
import time
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

from sqlalchemy import Engine, text

from zembric.api.app import create_app
from zembric.cli.migrations import migrate
from zembric.cli.postgres import run_server
from zembric.operations import people
from zembric.operations.database import make_engine, unit_of_work
from zembric.operations.signing_in import passwords
from zembric.paths import FRONTEND_DIST, ROOT, newest_migration_file

CELLS = int(sys.argv[1]) if len(sys.argv) > 1 else 20_000
ROUNDS = int(sys.argv[2]) if len(sys.argv) > 2 else 40
PASSWORD = "a benchmark's password"
FILL = f"""
INSERT INTO place (number, name, kind) VALUES ('S999', 'Shelf box 1', 'shelf-box');
INSERT INTO donor (number, kind, description, opened_at, opened_by_id)
    SELECT 'D' || n, 'laptop', 'donor ' || n, now(), 1 FROM generate_series(1, {CELLS // 6}) n;
INSERT INTO cell (number, donor_id, size_code, family, rated_capacity_mah, place_id)
    SELECT n::text, 1 + n % {CELLS // 6}, CASE n % 4 WHEN 0 THEN '21700' ELSE '18650' END, 'layered-oxide', 2600,
           (SELECT id FROM place WHERE kind = 'shelf-box') FROM generate_series(1, {CELLS}) n;
INSERT INTO judgement (cell_id, at, rule_set_version, grade, sure, reasons, next_step, next_said, next_not_before, next_then,
                       resting_voltage_v, capacity_mah, capacity_method, resistance_mohm, resistance_method)
    SELECT id, now(), 1, (ARRAY['A', 'B', 'C'])[1 + id % 3], 'sure',
           '[{{"code": "capacity", "said": {{"code": "as-said", "with": {{"text": "2300 mAh of 2600 mAh rated"}}}}, "value": 88.5, "margin": 8.5, "limit": null}}]',
           'keep', '{{"code": "step-keep"}}', now() + id % 180 * interval '1 day', 'recheck', 3.6 + id % 30 / 100.0, 1300 + id * 7919 % 1300,
           'tester', 30 + id * 104729 % 60, 'ac-1khz' FROM cell;
UPDATE cell SET judgement_id = judgement.id FROM judgement WHERE judgement.cell_id = cell.id;
ANALYZE;
"""
BARE = """
SELECT cell.*, judgement.*, place.name, donor.number, (SELECT count(*) FROM cell c JOIN judgement j ON c.judgement_id = j.id
    JOIN place p ON p.id = c.place_id WHERE p.kind = 'shelf-box' AND j.grade = 'A' AND c.handed_over_at IS NULL) AS total
FROM cell JOIN judgement ON cell.judgement_id = judgement.id JOIN place ON place.id = cell.place_id
JOIN donor ON donor.id = cell.donor_id LEFT JOIN pack_cell ON pack_cell.cell_id = cell.id AND pack_cell.released_at IS NULL
WHERE place.kind = 'shelf-box' AND judgement.grade = 'A' AND cell.handed_over_at IS NULL
ORDER BY judgement.capacity_mah DESC NULLS LAST, cell.id LIMIT 60
"""


def main() -> None:
    with tempfile.TemporaryDirectory(prefix="zembric-bench-") as made:
        directory = Path(made)
        directory.chmod(0o711)
        with run_server(directory) as server:
            engine = make_engine(server.url)
            _fill(engine)
            bare_ms, api_ms = _median_ms(_bare_query(engine)), _median_ms(_shelf_page(engine))
            engine.dispose()
    print(f"shelf, {CELLS} cells, filtered and sorted, 60 shown, median of {ROUNDS}:")
    print(f"bare SQL {bare_ms:.1f} ms, API {api_ms:.1f} ms, ratio {api_ms / bare_ms:.2f}")


def _fill(engine: Engine) -> None:
    migrate(engine)
    now = datetime.now(UTC)
    with unit_of_work(engine) as session:
        passwords.accept_invitation(
            session, people.add_person(session, "Bench", "volunteer", now), "Bench", PASSWORD, now
        )
    with engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
        for statement in FILL.split(";\n"):
            if statement.strip():
                connection.execute(text(statement))


def _bare_query(engine: Engine) -> Callable[[], object]:
    def ask() -> object:
        with engine.connect() as connection:
            return connection.execute(text(BARE)).all()

    return ask


def _shelf_page(engine: Engine) -> Callable[[], object]:
    app = create_app(
        engine, secret=b"bench", newest_migration=newest_migration_file(), frontend_dist=FRONTEND_DIST, photos=ROOT
    )
    client = app.test_client()
    token = client.get("/api/session").get_json()["csrf_token"]
    client.post("/api/session", json={"name": "Bench", "password": PASSWORD}, headers={"X-CSRFToken": token})

    def ask() -> object:
        answer = client.get("/api/cells?on_shelf=true&grade=A&sort=capacity&falling=true&most=60")
        if answer.status_code != 200 or len(answer.get_json()["cells"]) != 60:
            raise RuntimeError(answer.get_data(as_text=True))
        return answer

    return ask


def _median_ms(ask: Callable[[], object]) -> float:
    ask()
    times = []
    for _ in range(ROUNDS):
        started = time.perf_counter()
        ask()
        times.append(1000 * (time.perf_counter() - started))
    return statistics.median(times)


if __name__ == "__main__":
    main()
