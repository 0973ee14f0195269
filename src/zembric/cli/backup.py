"""`./zembric backup` and `./zembric restore`: the database as PostgreSQL dumps it, photos and logs, in one tar file."""

from __future__ import annotations

import hashlib
import io
import json
import os
import re
import subprocess
import sys
import tarfile
import tempfile
from datetime import UTC, datetime
from pathlib import Path
from typing import IO, Any

from sqlalchemy import inspect, make_url, select
from sqlalchemy.orm import Session

from zembric.cli.migrations import migrate
from zembric.cli.postgres import client_program
from zembric.cli.problems import CannotStartError
from zembric.cli.run import database_at_hand
from zembric.cli.storage import default_directory
from zembric.models import LogRow, Photo
from zembric.operations.cells.photos import PhotoStore
from zembric.operations.database import make_engine, newest_migration
from zembric.operations.measuring.log_traces import LogStore
from zembric.paths import newest_migration_file

_FORMAT = 1
_MANIFEST, _DUMP = "manifest.json", "database.dump"
_KEPT = re.compile(r"(?P<kind>photos|logs)/(?P<sha256>[0-9a-f]{64})\.(?:jpg|log)")
_MOST_MANIFEST_BYTES = 64 * 1024


def run_backup(file: Path, data: Path | None) -> int:
    """Writes a backup, also while the server runs. The file is whole, or it is not there.

    Raises:
        CannotStartError: the file exists, the database was never set up, or it cannot be written.
    """
    if file.exists():
        raise CannotStartError(f"{file} exists already. A backup never replaces another; choose a new name.")
    if not file.absolute().parent.is_dir():
        raise CannotStartError(f"There is no directory {file.absolute().parent}.")
    directory = (data or default_directory("data")).absolute()
    if not os.environ.get("DATABASE_URL") and not (directory / "pg").exists():
        raise CannotStartError(f"There is no data in {directory}. Name the directory with --data, as for start.")
    with database_at_hand(data, "a backup is being written") as (url, photos):
        kept, missing = _write_backup(file, url, PhotoStore(photos))
    print(f"Backup written: {file}, {kept} photos and logs.")
    if missing:
        print(f"{missing} photos or logs are on record but their files were missing beside {photos}.", file=sys.stderr)
    return 0


def run_restore(file: Path, data: Path | None) -> int:
    """Brings a backup into a place where nothing is yet; an older one is brought to the newest shape.

    Raises:
        CannotStartError: no backup, one of a newer Zembric, or the place is not empty.
    """
    try:
        with tarfile.open(file) as archive:
            manifest = _read_manifest(file, archive)
            with database_at_hand(data, "a backup is being restored") as (url, photos):
                kept = _restore(archive, url, PhotoStore(photos))
    except FileNotFoundError as error:
        raise CannotStartError(f"There is no file {file}.") from error
    except (tarfile.TarError, KeyError, OSError) as error:
        raise CannotStartError(f"{file} is no backup that can be read: {error}.") from error
    print(f"Restored the backup of {manifest['made_at'][:16].replace('T', ' ')} UTC, {kept} photos and logs.")
    return 0


def _write_backup(file: Path, url: str, store: PhotoStore) -> tuple[int, int]:
    """How many photos and logs went in, and how many are on record without their file."""
    logs = logs_beside(store)
    engine = make_engine(url)
    part = file.with_name(f".{file.name}.{os.getpid()}.part")
    try:
        migration = newest_migration(engine)
        if migration is None:
            raise CannotStartError("There is no Zembric in this database yet, so there is nothing to back up.")
        part.touch(mode=0o600)  # the hashes of passwords are in it
        with tempfile.TemporaryDirectory() as scratch, tarfile.open(part, "w") as archive:
            dump = Path(scratch) / _DUMP
            _run("pg_dump", url, "--format=custom", "--no-owner", "--no-privileges", f"--file={dump}")
            # Photos are kept before anything names them and never changed, so those of the dump are all here by now.
            with Session(engine) as session:
                wanted = [
                    (f"photos/{sha256}.jpg", store.path(sha256))
                    for sha256 in session.scalars(select(Photo.sha256).distinct())
                ]
                wanted += [
                    (f"logs/{sha256}.log", logs.path(sha256))
                    for sha256 in session.scalars(select(LogRow.sha256).distinct())
                ]
            manifest = {"format": _FORMAT, "migration": migration, "made_at": datetime.now(UTC).isoformat()}
            _add(archive, _MANIFEST, json.dumps(manifest).encode())
            archive.add(dump, _DUMP)
            missing = _add_files(archive, sorted(wanted))
        part.replace(file)
    except OSError as error:
        raise CannotStartError(f"The backup cannot be written: {error.strerror}.") from error
    finally:
        part.unlink(missing_ok=True)
        engine.dispose()
    return len(wanted) - missing, missing


def _restore(archive: tarfile.TarFile, url: str, store: PhotoStore) -> int:
    """How many photos and logs came with it."""
    engine = make_engine(url)
    try:
        if inspect(engine).get_table_names():
            raise CannotStartError(
                "There is data in this place already, and a restore replaces none. "
                "Name a new directory with --data, or an empty database with DATABASE_URL."
            )
        kept = _restore_files(archive, store)
        with tempfile.TemporaryDirectory() as scratch:
            dump = Path(scratch) / _DUMP
            dump.write_bytes(_member(archive, _DUMP).read())
            _run("pg_restore", url, "--no-owner", "--no-privileges", "--exit-on-error", "--single-transaction", dump)
        migrate(engine)
    finally:
        engine.dispose()
    return kept


def logs_beside(store: PhotoStore) -> LogStore:
    """Where the logs lie: beside the photos."""
    return LogStore(store.directory.parent / "logs")


def _add(archive: tarfile.TarFile, name: str, content: bytes) -> None:
    member = tarfile.TarInfo(name)
    member.size = len(content)
    archive.addfile(member, io.BytesIO(content))


def _add_files(archive: tarfile.TarFile, wanted: list[tuple[str, Path]]) -> int:
    """How many of the wanted ones were missing."""
    missing = 0
    for name, path in wanted:
        if path.exists():
            archive.add(path, name)
        else:
            missing += 1
    return missing


def _read_manifest(file: Path, archive: tarfile.TarFile) -> dict[str, Any]:
    try:
        manifest: dict[str, Any] = json.loads(_member(archive, _MANIFEST).read(_MOST_MANIFEST_BYTES))
        migration, made_at = manifest["migration"], manifest["made_at"]
    except (KeyError, ValueError, TypeError) as error:
        raise CannotStartError(f"{file} is no backup of Zembric's.") from error
    if manifest.get("format") != _FORMAT or str(migration) > newest_migration_file() or not isinstance(made_at, str):
        raise CannotStartError(f"{file} was written by a newer Zembric. Update this one first.")
    return manifest


def _member(archive: tarfile.TarFile, name: str) -> IO[bytes]:
    found = archive.extractfile(name)
    if found is None:
        raise KeyError(name)
    return found


def _restore_files(archive: tarfile.TarFile, store: PhotoStore) -> int:
    kept, logs = 0, logs_beside(store)
    for member in archive:
        matched = _KEPT.fullmatch(member.name)
        if not matched or not member.isfile():
            continue
        content = _member(archive, member.name).read()
        if hashlib.sha256(content).hexdigest() != matched["sha256"]:
            raise CannotStartError(f"The backup is damaged: {member.name} is not what it was. Nothing was restored.")
        (store if matched["kind"] == "photos" else logs).keep(content)
        kept += 1
    return kept


def _run(program: str, url: str, *arguments: str | Path) -> None:
    """Runs a client program on a database; the password goes by the environment, where no other user sees it."""
    at = make_url(url)
    environment = {
        **os.environ,
        **{
            name: str(value)
            for name, value in (
                ("PGHOST", at.host), ("PGPORT", at.port), ("PGUSER", at.username), ("PGPASSWORD", at.password),
                ("PGDATABASE", at.database), *((f"PG{key.upper()}", value) for key, value in at.query.items()),
            )
            if value is not None
        },
    }  # fmt: skip
    target = [f"--dbname={at.database}"] if program == "pg_restore" else []
    done = subprocess.run(
        [client_program(program), *target, *arguments], env=environment, check=False, capture_output=True, text=True
    )
    if done.returncode != 0:
        raise CannotStartError(f"{program} failed: {done.stderr.strip()}")
