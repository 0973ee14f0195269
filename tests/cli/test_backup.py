"""Backup and restore: the same exports byte for byte, never over anything, never half."""

from __future__ import annotations

import errno
import os
import tarfile
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from sqlalchemy import Engine, select, text
from sqlalchemy.orm import Session

from tests.support.benchwork import at, numbers_of, open_donor, shelf_of
from tests.support.databases import database_url
from zembric.cli.backup import run_backup, run_check, run_nightly_backup, run_restore
from zembric.cli.backup_file import write_backup_file
from zembric.cli.problems import CannotStartError
from zembric.demo.picture import draw_pack
from zembric.models import Photo
from zembric.operations.actors import Actor
from zembric.operations.bench import entries
from zembric.operations.cells.photos import PhotoStore, add_photo
from zembric.operations.database import make_engine
from zembric.operations.papers.exports import export_csv


@pytest.fixture
def empty(server_url: str, admin: Engine) -> Iterator[str]:
    """The address of a database with nothing in it."""
    with admin.connect() as connection:
        connection.execute(text("CREATE DATABASE an_empty_place TEMPLATE template0"))
    yield database_url(server_url, "an_empty_place")
    with admin.connect() as connection:
        connection.execute(text("DROP DATABASE an_empty_place WITH (FORCE)"))


@pytest.fixture
def at_place(monkeypatch: pytest.MonkeyPatch) -> Callable[[str, Path], None]:
    """Points the commands at a database and a directory of photos."""

    def point(url: str, photos: Path) -> None:
        monkeypatch.setenv("DATABASE_URL", url)
        monkeypatch.setenv("ZEMBRIC_PHOTOS", str(photos))

    return point


@pytest.fixture
def full(session: Session, volunteer: Actor, tmp_path: Path) -> Path:
    """A database with cells, readings and a photo; gives the directory of the photos."""
    shelf_of(session, volunteer, [2310, 2290])
    donor = open_donor(session, volunteer, 2, description="laptop with Ægir's “old” pack")
    entries.inspect(session, volunteer, numbers_of(donor)[0], ["swollen"], at(1))
    photos = tmp_path / "photos"
    add_photo(session, PhotoStore(photos), volunteer, draw_pack(3), at(1), donor)
    session.commit()
    return photos


def _url(engine: Engine) -> str:
    return engine.url.render_as_string(hide_password=False)


def test_a_restore_into_an_empty_place_gives_the_same_exports_and_photos_byte_for_byte(
    engine: Engine, session: Session, full: Path, empty: str, at_place: Callable[[str, Path], None], tmp_path: Path
) -> None:
    backup, elsewhere = tmp_path / "evening.zembric", tmp_path / "elsewhere"
    at_place(_url(engine), full)
    assert run_backup(backup, None) == 0
    at_place(empty, elsewhere)
    assert run_restore(backup, None) == 0
    restored = make_engine(empty)
    with Session(restored) as there:
        assert b"".join(export_csv(there, "cells")) == b"".join(export_csv(session, "cells"))
        (photo,) = there.scalars(select(Photo)).all()
    restored.dispose()
    assert PhotoStore(elsewhere).read(photo.sha256) == PhotoStore(full).read(photo.sha256)


def test_a_backup_replaces_no_file_and_a_restore_no_data(
    engine: Engine, full: Path, at_place: Callable[[str, Path], None], tmp_path: Path
) -> None:
    backup = tmp_path / "evening.zembric"
    at_place(_url(engine), full)
    run_backup(backup, None)
    with pytest.raises(CannotStartError, match="exists already"):
        run_backup(backup, None)
    with pytest.raises(CannotStartError, match="There is data in this place already"):
        run_restore(backup, None)
    with pytest.raises(CannotStartError, match="There is no directory"):
        run_backup(tmp_path / "nowhere" / "b", None)


def test_an_empty_database_is_nothing_to_back_up(
    empty: str, at_place: Callable[[str, Path], None], tmp_path: Path
) -> None:
    at_place(empty, tmp_path)
    with pytest.raises(CannotStartError, match="nothing to back up"):
        run_backup(tmp_path / "b", None)
    assert list(tmp_path.iterdir()) == []


def test_a_directory_without_data_is_told_and_not_made(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.delenv("DATABASE_URL", raising=False)
    with pytest.raises(CannotStartError, match="There is no data in"):
        run_backup(tmp_path / "b", tmp_path / "nowhere")
    assert list(tmp_path.iterdir()) == []


@pytest.mark.parametrize(
    "broken",
    [
        "missing",
        "no tar",
        "other tar",
        "cut off",
        "cut at a member's end",
        "one bit of the database",
        "one bit of the manifest",
        "a name that leads elsewhere",
        "newer",
    ],
)
def test_what_is_no_whole_backup_is_refused_and_nothing_is_restored(
    engine: Engine, full: Path, empty: str, at_place: Callable[[str, Path], None], tmp_path: Path, broken: str
) -> None:
    backup, elsewhere = tmp_path / "evening.zembric", tmp_path / "elsewhere"
    at_place(_url(engine), full)
    run_backup(backup, None)
    _break(backup, broken)
    at_place(empty, elsewhere)
    with pytest.raises(CannotStartError):
        run_restore(backup, None)
    checked = make_engine(empty)
    with checked.connect() as connection:
        assert connection.scalar(text("SELECT count(*) FROM pg_tables WHERE schemaname = 'public'")) == 0
    checked.dispose()
    assert not elsewhere.exists()
    assert not (tmp_path / "logs").exists()


def test_a_backup_is_proved_by_restoring_it_aside(
    engine: Engine,
    full: Path,
    at_place: Callable[[str, Path], None],
    tmp_path: Path,
    capsys: pytest.CaptureFixture[str],
) -> None:
    backup = tmp_path / "evening.zembric"
    at_place(_url(engine), full)
    run_backup(backup, None)
    assert run_check(backup) == 0
    assert "is whole: 1 photos and logs" in capsys.readouterr().out
    _break(backup, "one bit of the database")
    with pytest.raises(CannotStartError, match=r"database\.dump is not what it was"):
        run_check(backup)


def test_a_sealed_backup_opens_with_its_passphrase_only(
    engine: Engine, full: Path, at_place: Callable[[str, Path], None], tmp_path: Path
) -> None:
    right, wrong, backup = tmp_path / "right", tmp_path / "wrong", tmp_path / "evening.zembric.gpg"
    right.write_text("four cells in a row\n")
    wrong.write_text("three\n")
    at_place(_url(engine), full)
    run_backup(backup, None, right)
    assert b"manifest" not in backup.read_bytes()
    assert run_check(backup, right) == 0
    for passphrase in (wrong, None):
        with pytest.raises(CannotStartError, match=r"passphrase"):
            run_check(backup, passphrase)


def test_of_nightly_backups_the_last_fourteen_are_kept(
    engine: Engine, full: Path, at_place: Callable[[str, Path], None], tmp_path: Path
) -> None:
    at_place(_url(engine), full)
    kept = tmp_path / "data" / "backups"
    kept.mkdir(parents=True)
    for night in range(15):
        (kept / f"zembric-202601{night + 1:02}T020000Z.zembric").touch()
    (kept / "by-hand.zembric").touch()
    run_nightly_backup(tmp_path / "data")
    names = sorted(path.name for path in kept.iterdir())
    assert (len(names), names[0], names[1]) == (15, "by-hand.zembric", "zembric-20260103T020000Z.zembric")


def test_a_full_disk_is_said_and_leaves_nothing_of_a_backup(
    engine: Engine, full: Path, at_place: Callable[[str, Path], None], tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def no_room(*_: object) -> None:
        raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))

    at_place(_url(engine), full)
    monkeypatch.setattr("zembric.cli.backup.write_backup_file", no_room)
    before = sorted(tmp_path.iterdir())
    with pytest.raises(CannotStartError, match="No space left on device"):
        run_backup(tmp_path / "evening.zembric", None)
    assert sorted(tmp_path.iterdir()) == before


def _break(backup: Path, how: str) -> None:
    content = backup.read_bytes()
    match how:
        case "missing":
            backup.unlink()
        case "no tar":
            backup.write_bytes(b"cells and photos")
        case "other tar":
            with tarfile.open(backup, "w") as archive:
                archive.add(__file__, "letter.txt")
        case "cut off":
            backup.write_bytes(content[: len(content) // 2])
        case "cut at a member's end":
            with tarfile.open(backup) as archive:
                ends = [member.offset for member in archive.getmembers()][-2:]
            backup.write_bytes(content[: ends[0]])
        case "one bit of the database":
            with tarfile.open(backup) as archive:
                member = archive.getmember("database.dump")
            _flip(backup, member.offset_data + member.size // 2)
        case "a name that leads elsewhere":
            letter = backup.with_name("letter")
            letter.write_text("to whom it may concern")
            dump = backup.with_name("dump")
            with tarfile.open(backup) as archive:
                dump.write_bytes(_read(archive, "database.dump"))
            files = [("database.dump", dump), ("photos/../../../letter", letter)]
            write_backup_file(backup, "0001", "2026-01-01T00:00:00", {}, files)
        case "one bit of the manifest":
            _flip(backup, content.index(b'"made_at": "20') + 14)
        case _:
            backup.write_bytes(content.replace(b'"format": 2', b'"format": 9', 1))


def _read(archive: tarfile.TarFile, name: str) -> bytes:
    found = archive.extractfile(name)
    assert found is not None
    return found.read()


def _flip(backup: Path, at_byte: int) -> None:
    content = bytearray(backup.read_bytes())
    content[at_byte] ^= 1
    backup.write_bytes(content)
