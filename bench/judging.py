"""The judge on 100,000 stories; other house rules tried, and set, on a shelf of 20,000 cells with seven entries each.

PYTHONPATH=src python bench/judging.py [STORIES [CELLS]]
"""

from __future__ import annotations

import sys
import tempfile
import time
from datetime import UTC, datetime, timedelta
from pathlib import Path

from sqlalchemy import Engine, text

from zembric.cli.migrations import migrate
from zembric.cli.postgres import run_server
from zembric.core.house.limits import Family
from zembric.core.house.rules import HouseRules
from zembric.core.judge.judge import judge
from zembric.core.story import (
    CapacityRun,
    CellFacts,
    Charge,
    Event,
    Inspection,
    ResistanceReading,
    RestingVoltage,
    Shelved,
    Story,
)
from zembric.operations import people
from zembric.operations.actors import Actor
from zembric.operations.cells.all_judged import rejudge_all
from zembric.operations.database import make_engine, unit_of_work
from zembric.operations.house import rules
from zembric.operations.signing_in import passwords

STORIES = int(sys.argv[1]) if len(sys.argv) > 1 else 100_000
CELLS = int(sys.argv[2]) if len(sys.argv) > 2 else 20_000
START = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)
USUAL = HouseRules(0, "usual", "health")
STRICTER = HouseRules(0, "usual", "health", {"health_pct/A": 86.0, "health_pct/B": 72.0})
_ENTRY = "INSERT INTO entry (id, cell_id, person_id, at, recorded_at, kind) OVERRIDING SYSTEM VALUE SELECT"
_BY_CELL = f"FROM generate_series(1, {CELLS}) n"
FILL = f"""
INSERT INTO place (number, name, kind) VALUES ('S999', 'Shelf box 1', 'shelf-box');
INSERT INTO donor (number, kind, description, opened_at, opened_by_id)
    SELECT 'D' || n, 'laptop', 'donor ' || n, '{START}', 1 FROM generate_series(1, {CELLS // 6}) n;
INSERT INTO cell (number, donor_id, size_code, family, rated_capacity_mah, place_id)
    SELECT n::text, 1 + n % {CELLS // 6}, '18650', 'layered-oxide', 2600,
           (SELECT id FROM place WHERE kind = 'shelf-box') FROM generate_series(1, {CELLS}) n;
{_ENTRY} 7 * n + k, n, 1, '{START}'::timestamptz + k * interval '5 hours', now(),
    CASE WHEN k = 0 THEN 'inspection' WHEN k IN (1, 3, 4) THEN 'reading' ELSE 'step' END {_BY_CELL}, generate_series(0, 6) k;
INSERT INTO inspection (id, findings) SELECT 7 * n, '{{}}' {_BY_CELL};
INSERT INTO reading (id, quantity, value, unit, method, conditions, standard_u)
    SELECT 7 * n + 1, 'voltage', 3.6 + n % 40 / 100.0, 'V', 'meter', '{{"state": "resting", "resolution_v": 0.01}}', 0.003 {_BY_CELL};
INSERT INTO reading (id, quantity, value, unit, method, conditions, standard_u)
    SELECT 7 * n + 3, 'capacity', 1200 + n * 7919 % 1300, 'mAh', 'tester', '{{"complete": true, "current_ma": 1000, "cut_off_v": 3.0}}', 40 {_BY_CELL};
INSERT INTO reading (id, quantity, value, unit, method, conditions, standard_u)
    SELECT 7 * n + 4, 'resistance', 30 + n * 104729 % 60, 'mOhm', 'ac-1khz', '{{}}', 1.2 {_BY_CELL};
INSERT INTO step (id, step, details) SELECT 7 * n + 2, 'charge', '{{"complete": true, "end_v": 4.2}}' {_BY_CELL};
INSERT INTO step (id, step, details) SELECT 7 * n + 5, 'charge', '{{"complete": true, "end_v": 3.8}}' {_BY_CELL};
INSERT INTO step (id, step, details) SELECT 7 * n + 6, 'shelved', '{{"place": "Shelf box 1"}}' {_BY_CELL};
ANALYZE;
"""


def main() -> None:
    began = time.perf_counter()
    stories = [_story(number) for number in range(STORIES)]
    made = time.perf_counter()
    for story in stories:
        judge(story, USUAL, START + timedelta(days=9))
    judged_s = time.perf_counter() - made
    print(
        f"{STORIES} stories judged in {judged_s:.1f} s, {1e6 * judged_s / STORIES:.0f} µs each ({made - began:.1f} s to make)"
    )
    with tempfile.TemporaryDirectory(prefix="zembric-bench-") as directory:
        Path(directory).chmod(0o711)
        with run_server(Path(directory)) as server:
            engine = make_engine(server.url)
            _try_rules(engine)
            engine.dispose()


def _story(number: int) -> Story:
    facts = CellFacts("18650", Family.LAYERED_OXIDE, None, 2600, None)
    events: list[Event] = [
        Inspection(START, frozenset()),
        RestingVoltage(START + timedelta(hours=1), 3.6 + number % 40 / 100, 0.01),
        Charge(START + timedelta(hours=5), True, 4.2),
        CapacityRun(START + timedelta(days=1), 1200 + number * 7919 % 1300, "tester", True, 1000, 3.0),
        ResistanceReading(START + timedelta(days=2), 30 + number * 104729 % 60, "ac-1khz"),
        Charge(START + timedelta(days=3), True, 3.8),
        Shelved(START + timedelta(days=3)),
    ]
    return Story(facts, "laptop", tuple(events))


def _try_rules(engine: Engine) -> None:
    migrate(engine)
    now = datetime.now(UTC)
    with unit_of_work(engine) as session:
        person = people.add_person(session, "Bench", "coordinator", now)
        who: Actor = passwords.accept_invitation(session, person, "Bench", "a benchmark's password", now)
    with engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
        for statement in FILL.split(";\n"):
            if statement.strip():
                connection.execute(text(statement))
    began = time.perf_counter()
    with unit_of_work(engine) as session:
        rejudge_all(session, now)
    print(f"{CELLS} cells judged for the first time and kept in {time.perf_counter() - began:.1f} s")
    began = time.perf_counter()
    with unit_of_work(engine) as session:
        found = rules.preview_rules(session, STRICTER, now)
    print(f"preview: {found.changed} of {found.cells} would change, told in {time.perf_counter() - began:.1f} s")
    began = time.perf_counter()
    with unit_of_work(engine) as session:
        changed = rules.set_rules(session, who, 1, STRICTER, "benchmark", now)
    print(f"set: {changed} judged differently, all kept in {time.perf_counter() - began:.1f} s")


if __name__ == "__main__":
    main()
