"""A large collection: how long each view takes beside the same in bare SQL, how large its answer is, what the web servers hold.

    PYTHONPATH=src:. python bench/scale.py [CELLS [ROUNDS]]

95 of 100 answers are faster than the figure (p95). Sizes are compressed. Bare SQL is one question for what a view is mainly about;
all that it shows takes more of them, and how long those that it asks take bare stands beside it.
"""

from __future__ import annotations

import contextlib
import logging
import os
import sys
import tempfile
import time
from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from statistics import median
from typing import Any

import structlog
from sqlalchemy import Engine, event, text

from bench.browser import Browser
from bench.collection import NAME, PASSWORD, fill
from zembric.api.app import create_app
from zembric.cli.postgres import free_port, run_server
from zembric.cli.serve import web_server
from zembric.operations.database import make_engine, newest_migration
from zembric.paths import FRONTEND_DIST

_FROM = """FROM cell JOIN judgement ON cell.judgement_id = judgement.id LEFT JOIN place ON place.id = cell.place_id
    LEFT JOIN pack_cell ON pack_cell.cell_id = cell.id AND pack_cell.released_at IS NULL WHERE cell.handed_over_at IS NULL"""
_PAGE = f"SELECT cell.*, judgement.*, place.name, (SELECT count(*) {_FROM} AND place.kind = 'shelf-box') {_FROM} AND place.kind = 'shelf-box'"
#: Name, address, and the same in bare SQL.
VIEWS = (
    ("first page", "/api/home", f"SELECT next_step, count(*) {_FROM} GROUP BY next_step"),
    ("shelf", "/api/cells?on_shelf=true&most=60", f"{_PAGE} ORDER BY cell.id LIMIT 60"),
    ("shelf by capacity", "/api/cells?on_shelf=true&sort=capacity&falling=true&most=60", f"{_PAGE} ORDER BY capacity_mah DESC NULLS LAST, cell.id LIMIT 60"),
    ("shelf by resistance", "/api/cells?on_shelf=true&sort=resistance&most=60", f"{_PAGE} ORDER BY resistance_mohm, cell.id LIMIT 60"),
    ("shelf by due, on", "/api/cells?on_shelf=true&sort=due&after={number}&most=60", f"{_PAGE} AND (next_not_before, cell.id) > (SELECT next_not_before, c.id FROM cell c JOIN judgement j ON j.id = c.judgement_id WHERE c.number = '{{number}}') ORDER BY next_not_before, cell.id LIMIT 60"),
    ("shelf by due, deep", "/api/cells?on_shelf=true&sort=due&offset=60000&most=60", f"{_PAGE} ORDER BY next_not_before, cell.id OFFSET 60000 LIMIT 60"),
    ("shelf, grade A", "/api/cells?on_shelf=true&grade=A&sort=capacity&most=60", f"{_PAGE} AND grade = 'A' ORDER BY capacity_mah, cell.id LIMIT 60"),
    ("map", "/api/shelf-map?on_shelf=true", f"SELECT width_bucket(judgement.capacity_mah, 0, 6000, 80), width_bucket(judgement.resistance_mohm, 0, 200, 60), count(*) {_FROM} AND place.kind = 'shelf-box' GROUP BY 1, 2"),
    ("large box", "/api/places/{box}", f"{_PAGE} AND place.number = '{{box}}' ORDER BY cell.id LIMIT 60"),
    ("places", "/api/places", "SELECT place.*, (SELECT count(*) FROM cell WHERE place_id = place.id) FROM place"),
    ("find a number", "/api/find?text={number}", "SELECT cell.* FROM cell WHERE number = '{number}'"),
    ("search in words", "/api/search?text=donor", "SELECT donor.* FROM donor WHERE description ILIKE '%%donor%%' ORDER BY id DESC LIMIT 20"),
    ("search for a day", "/api/search?text=yesterday", "SELECT cell.* FROM cell WHERE id IN (SELECT cell_id FROM entry WHERE at >= current_date - 1 AND at < current_date) ORDER BY id DESC LIMIT 12"),
    ("cell", "/api/cells/{number}", "SELECT entry.*, reading.* FROM entry LEFT JOIN reading USING (id) WHERE cell_id = (SELECT id FROM cell WHERE number = '{number}') ORDER BY at"),
    ("bench", "/api/cells/{number}/bench", "SELECT entry.*, reading.* FROM entry LEFT JOIN reading USING (id) WHERE cell_id = (SELECT id FROM cell WHERE number = '{number}') ORDER BY at"),
    ("donors", "/api/donors", "SELECT donor.*, (SELECT count(*) FROM donor) FROM donor ORDER BY opened_at DESC LIMIT 30"),
    ("brought", "/api/brought?days=1", "SELECT count(*) FROM happening WHERE at > now() - interval '1 day'"),
    ("evening", "/api/evening", "SELECT 1"),
)  # fmt: skip


#: Name, address, and the tables that bare SQL copies.
_CELLS = "SELECT cell.*, judgement.grade, judgement.sure, judgement.capacity_mah, place.number, donor.number FROM cell JOIN judgement ON judgement.id = judgement_id LEFT JOIN place ON place.id = place_id JOIN donor ON donor.id = donor_id ORDER BY cell.id"
EXPORTS = (
    ("cells.csv", "/api/exports/cells.csv", (_CELLS,)),
    ("zembric.zip", "/api/exports/zembric.zip", (_CELLS, "SELECT * FROM donor ORDER BY id")),
)


def p95_ms(ask: Callable[[], object], rounds: int) -> float:
    took = []
    for _ in range(rounds):
        began = time.perf_counter()
        ask()
        took.append(1000 * (time.perf_counter() - began))
    return sorted(took)[max(0, round(0.95 * len(took)) - 1)]


class Asked:
    """The application in this process, which tells what it asks the database for an answer."""

    def __init__(self, engine: Engine, photos: Path):
        structlog.configure(wrapper_class=structlog.make_filtering_bound_logger(logging.ERROR))
        newest = newest_migration(engine)
        assert newest is not None
        app = create_app(engine, secret=b"bench", newest_migration=newest, frontend_dist=FRONTEND_DIST, photos=photos)
        self._client, self._engine = app.test_client(), engine
        token = self._client.get("/api/session").get_json()["csrf_token"]
        signing_in = {"name": NAME, "password": PASSWORD}
        self._client.post("/api/session", json=signing_in, headers={"X-CSRFToken": token})

    def statements(self, address: str) -> list[tuple[str, Any]]:
        asked: list[tuple[str, Any]] = []

        def note(_connection: Any, _cursor: Any, statement: str, parameters: Any, _context: Any, _many: bool) -> None:
            asked.append((statement, parameters))

        event.listen(self._engine, "before_cursor_execute", note)
        status = self._client.get(address).status_code
        event.remove(self._engine, "before_cursor_execute", note)
        assert status == 200, (address, status)
        return asked


def ask_bare(cursor: Any, statements: list[tuple[str, Any]]) -> None:
    for statement, parameters in statements:
        cursor.execute(statement, parameters)
        if cursor.description:
            cursor.fetchall()


def _export_s(engine: Engine, browser: Browser, path: str, tables: Sequence[str]) -> tuple[float, float]:
    """How long it takes over http, and the same rows in bare SQL."""
    began = time.perf_counter()
    browser.ask("GET", path)
    ours, began = time.perf_counter() - began, time.perf_counter()
    with engine.connect() as connection:
        raw = connection.connection.driver_connection
        assert raw is not None
        for each in tables:
            with raw.cursor().copy(f"COPY ({each}) TO STDOUT CSV") as copy:
                for _ in copy:
                    pass
    return ours, time.perf_counter() - began


def rss_mb(pid: int) -> float:
    for line in Path(f"/proc/{pid}/status").read_text(encoding="ascii").splitlines():
        if line.startswith("VmRSS"):
            return int(line.split()[1]) / 1000
    return 0.0


def workers_of(pid: int) -> list[int]:
    return [int(each) for each in Path(f"/proc/{pid}/task/{pid}/children").read_text(encoding="ascii").split()]


def main() -> None:
    cells = int(sys.argv[1]) if len(sys.argv) > 1 else 100_000
    rounds = int(sys.argv[2]) if len(sys.argv) > 2 else 20
    with tempfile.TemporaryDirectory(prefix="zembric-scale-", dir="/var/tmp") as made, contextlib.ExitStack() as stack:
        directory = Path(made)
        directory.chmod(0o711)
        # A collection that is there already is taken as it is.
        url = os.environ.get("DATABASE_URL") or stack.enter_context(run_server(directory, durable=False)).url
        engine = make_engine(url)
        if newest_migration(engine) is None:
            began = time.monotonic()
            fill(engine, cells)
            print(f"{cells} cells, {cells * 10} entries, made in {time.monotonic() - began:.0f} s", flush=True)
        port = free_port()
        ours = stack.enter_context(web_server(url, "127.0.0.1", port, directory / "photos"))
        measure(engine, port, rounds, Asked(engine, directory / "photos"))
        held = [rss_mb(pid) for pid in workers_of(ours.processes[0].pid)]
        print("held by the web servers: " + ", ".join(f"{each:.0f} MB" for each in held))
        engine.dispose()


def measure(engine: Engine, port: int, rounds: int, asked: Asked) -> None:
    with engine.connect() as connection:
        number = connection.scalar(text("SELECT number FROM cell ORDER BY id OFFSET 5000 LIMIT 1"))
        box = connection.scalar(
            text(
                "SELECT place.number FROM place JOIN cell ON place_id = place.id GROUP BY place.id ORDER BY count(*) DESC LIMIT 1"
            )
        )
    browser = Browser(port).sign_in(NAME, PASSWORD)
    print(f"{'view':22}{'p95':>9}{'bare SQL':>11}{'its own':>11}{'of':>4}{'times':>8}{'answer':>11}")
    for name, path, bare in VIEWS:
        address, query = path.format(number=number, box=box), bare.format(number=number, box=box)
        status, content = browser.ask("GET", address)
        assert status == 200, (name, status, content[:300])
        times = 3 if p95_ms(lambda a=address: browser.ask("GET", a), 1) > 3000 else rounds  # type: ignore[misc]
        ours = p95_ms(lambda a=address: browser.ask("GET", a), times)  # type: ignore[misc]
        with engine.connect() as connection:
            theirs = p95_ms(lambda q=query: connection.exec_driver_sql(q).all(), rounds)  # type: ignore[misc]
            statements, cursor = asked.statements(address), connection.connection.cursor()
            own = p95_ms(partial(ask_bare, cursor, statements), rounds)
            connection.rollback()
        print(
            f"{name:22}{ours:6.0f} ms{theirs:8.1f} ms{own:8.1f} ms{len(statements):4}{ours / own:8.1f}{len(content) / 1000:8.1f} kB",
            flush=True,
        )
    for name, path, tables in EXPORTS:
        taken = [_export_s(engine, browser, path, tables) for _ in range(5)]
        here, there = median(each[0] for each in taken), median(each[1] for each in taken)
        print(f"{name:22}{here:6.2f} s {there:8.2f} s{here / there:24.1f}", flush=True)
    began = time.perf_counter()
    status, content = browser.ask(
        "POST",
        "/api/matches",
        {"series": 4, "parallel": 5, "family": "layered-oxide", "size_code": "18650", "least_grade": "C"},
    )
    print(f"{'match':22}{time.perf_counter() - began:6.1f} s  {status} {content[:160]!r}")


if __name__ == "__main__":
    main()
