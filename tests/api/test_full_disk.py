"""A full disk is said in words, leaves no half file, and what waited goes on when there is room."""

from __future__ import annotations

import contextlib
import resource
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
import structlog
from sqlalchemy import Engine, text

from tests.api.conftest import Person
from tests.api.test_api import DONOR, reading
from tests.api.test_attacks import blank_png
from tests.operations.measuring.test_logs import large_log
from tests.support.worker import work_off_the_queue
from zembric.log_lines import write_log_lines
from zembric.operations.measuring.log_traces import LogStore


@contextlib.contextmanager
def full_disk() -> Iterator[None]:
    """No file of this process grows beyond a few bytes: the system's own refusal in the midst of a write."""
    soft, hard = resource.getrlimit(resource.RLIMIT_FSIZE)
    resource.setrlimit(resource.RLIMIT_FSIZE, (64, hard))
    try:
        yield
    finally:
        resource.setrlimit(resource.RLIMIT_FSIZE, (soft, hard))


@pytest.fixture(autouse=True)
def log_lines() -> Iterator[None]:
    """As the processes write them; a line may find no room either."""
    write_log_lines()
    yield
    structlog.reset_defaults()


@contextlib.contextmanager
def full_database(engine: Engine) -> Iterator[None]:
    """The server's own refusal wherever an entry is written."""
    with engine.begin() as connection:
        connection.exec_driver_sql(
            "CREATE FUNCTION no_room() RETURNS trigger LANGUAGE plpgsql AS "
            "$$ BEGIN RAISE EXCEPTION 'could not extend file' USING ERRCODE = '53100'; END $$"
        )
        connection.exec_driver_sql("CREATE TRIGGER no_room BEFORE INSERT ON entry EXECUTE FUNCTION no_room()")
    yield
    with engine.begin() as connection:
        connection.exec_driver_sql("DROP FUNCTION no_room CASCADE")


def test_an_entry_is_told_that_the_disk_is_full_and_goes_when_there_is_room(
    engine: Engine, volunteer_page: Person
) -> None:
    number = volunteer_page.post("/api/donors", DONOR).json["cells"][0]["number"]

    def enter() -> tuple[int, str | None]:
        answer = volunteer_page.post(
            f"/api/cells/{number}/readings", reading("3.71"), Idempotency_Key="one-and-the-same"
        )
        return answer.status_code, answer.json.get("code")

    with full_database(engine):
        assert enter() == (507, "disk-full")
    assert enter() == (200, None)


@pytest.mark.parametrize(
    ("address", "content"),
    [("/api/donors/{donor}/photos", lambda: blank_png(512)), ("/api/logs?name=night.csv", large_log)],
)
def test_of_a_file_that_finds_no_room_nothing_is_left(
    volunteer_page: Person, tmp_path: Path, address: str, content: Callable[[], bytes]
) -> None:
    address = address.format(donor=volunteer_page.post("/api/donors", DONOR).json["number"])
    sent = content()

    def send() -> int:
        return volunteer_page.client.post(address, data=sent, headers={"X-CSRFToken": volunteer_page.token}).status_code

    with full_disk():
        assert send() == 507
    assert not [path for path in tmp_path.rglob("*") if path.is_file()]
    assert send() == 201


def test_a_log_whose_trace_finds_no_room_is_read_when_there_is_some(
    engine: Engine, volunteer_page: Person, tmp_path: Path
) -> None:
    headers = {"X-CSRFToken": volunteer_page.token}
    log = volunteer_page.client.post("/api/logs?name=night.csv", data=large_log(), headers=headers).get_json()["id"]
    store = LogStore(tmp_path / "logs")
    with full_disk():
        work_off_the_queue(engine, store)
    assert not [*tmp_path.rglob("*.part"), *tmp_path.rglob("*.parquet")]
    with engine.begin() as connection:
        connection.execute(text("UPDATE procrastinate_jobs SET scheduled_at = now()"))
    work_off_the_queue(engine, store)
    assert volunteer_page.get(f"/api/logs/{log}").json["state"] == "read"
