"""Servers of our own: nothing is left behind, whatever ends the parent."""

from __future__ import annotations

import contextlib
import os
import signal
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path

import pytest
from sqlalchemy import Connection, Engine, create_engine, text

from zembric.cli import web
from zembric.cli.postgres import free_port, run_server
from zembric.cli.problems import CannotStartError
from zembric.cli.serve import choose_port
from zembric.cli.storage import make_directory, only_one, publish_server, published_server
from zembric.paths import ROOT

_HOLDS_A_SERVER = """
import sys, time
from pathlib import Path
from zembric.cli.postgres import run_server
with run_server(Path(sys.argv[1])) as server:
    print(server.child.process.pid, flush=True)
    time.sleep(600)
"""


@pytest.fixture
def directory() -> Iterator[Path]:
    with tempfile.TemporaryDirectory(prefix="zembric-cli-") as made:
        path = Path(made)
        path.chmod(0o711)
        yield path


@contextlib.contextmanager
def connected(url: str) -> Iterator[Connection]:
    engine = create_engine(url)
    with engine.begin() as connection:
        yield connection
    engine.dispose()


def is_running(pid: int) -> bool:
    """Whether a process runs; one that ended but was not reaped yet does not."""
    try:
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] != "Z"
    except FileNotFoundError:
        return False


def test_postgresql_ends_with_its_parent_and_starts_again_on_the_same_data(directory: Path) -> None:
    with run_server(directory) as server, connected(server.url) as connection:
        connection.execute(text("CREATE TABLE kept AS SELECT 42 AS answer"))
    parent = subprocess.Popen(
        [sys.executable, "-c", _HOLDS_A_SERVER, str(directory)], stdout=subprocess.PIPE, text=True, env=os.environ
    )
    assert parent.stdout
    pid = int(parent.stdout.readline())
    assert is_running(pid)
    parent.send_signal(signal.SIGKILL)
    parent.communicate()
    with run_server(directory) as server:
        with connected(server.url) as connection:
            assert connection.scalar(text("SELECT answer FROM kept")) == 42
        assert not is_running(pid)


def test_the_server_listens_on_loopback_only_and_wants_a_password(directory: Path) -> None:
    with run_server(directory) as server, connected(server.url) as connection:
        assert connection.scalar(text("SHOW listen_addresses")) == "127.0.0.1"
        assert connection.scalar(text("SHOW server_encoding")) == "UTF8"
        rules = connection.scalars(text("SELECT DISTINCT auth_method FROM pg_hba_file_rules")).all()
        assert set(rules) == {"scram-sha-256"}
    assert (directory / "password").stat().st_mode & 0o077 == 0


def test_a_half_made_cluster_does_not_hinder(directory: Path) -> None:
    (directory / "pg.new").mkdir()
    (directory / "pg.new" / "rubbish").write_text("left by a killed start")
    with run_server(directory) as server:
        assert server.child.process.poll() is None


def test_one_data_directory_serves_one_start_at_a_time(directory: Path) -> None:
    with only_one(directory, "look at http://127.0.0.1:8420"):
        publish_server(directory, "postgresql://here")
        with pytest.raises(CannotStartError, match=r"already runs.*8420"), only_one(directory, "second"):
            pass
        assert published_server(directory) == "postgresql://here"
    assert published_server(directory) is None


def test_a_directory_that_cannot_be_is_refused_in_one_line(directory: Path) -> None:
    (directory / "file").write_text("")
    with pytest.raises(CannotStartError, match="cannot be used"):
        make_directory(directory / "file" / "below")


def test_without_a_wish_a_free_port_is_chosen() -> None:
    assert choose_port(None, usual=free_port()) > 0


def test_every_verb_explains_itself_and_an_unknown_one_is_refused() -> None:
    told = subprocess.run([str(ROOT / "zembric"), "--help"], capture_output=True, text=True, check=True).stdout
    assert all(f"./zembric {verb}" in told for verb in ("demo", "start", "person", "test"))
    unknown = subprocess.run([str(ROOT / "zembric"), "fly"], capture_output=True, text=True, check=False)
    assert (unknown.returncode, 'no verb "fly"' in unknown.stderr) == (2, True)


def test_a_person_is_added_from_the_command_line_and_gets_a_link(engine: Engine) -> None:
    environment = {**os.environ, "DATABASE_URL": engine.url.render_as_string(hide_password=False)}

    def person(*arguments: str) -> subprocess.CompletedProcess[str]:
        command = [sys.executable, "-m", "zembric.cli", "person", *arguments]
        return subprocess.run(command, capture_output=True, text=True, check=False, env=environment)

    assert "/welcome/" in person("add", "Nova").stdout
    # Said where people look for it, too.
    assert "Nova\tvolunteer\tinvited\n" in person("list").stdout
    again = person("add", "nova")
    assert (again.returncode, "already somebody" in again.stderr) == (2, True)


def test_a_web_worker_takes_hardly_more_connections_than_the_other_unless_that_one_is_silent(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    balance, now_s = web.Balance(2), 1000.0
    monkeypatch.setattr("time.monotonic", lambda: now_s)
    balance.may_have(0, 5)
    assert balance.may_have(1, 1) > 1
    assert balance.may_have(0, 5) <= 5
    now_s += 60
    assert balance.may_have(0, 5) > 5
