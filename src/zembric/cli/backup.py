"""`./zembric backup` and `./zembric restore`."""

from __future__ import annotations

import contextlib
import os
import shutil
import subprocess
import sys
import tempfile
from datetime import UTC, datetime
from pathlib import Path
from typing import TYPE_CHECKING

from sqlalchemy import MetaData, inspect, make_url, select, text

from zembric.cli.backup_file import (
    DUMP,
    Manifest,
    checked_manifest,
    copy_into,
    members_of,
    open_backup_file,
    write_backup_file,
)
from zembric.cli.migrations import migrate
from zembric.cli.postgres import client_program, run_server
from zembric.cli.problems import CannotStartError
from zembric.cli.run import database_at_hand
from zembric.cli.storage import default_directory
from zembric.models import LogRow, Photo
from zembric.operations.cells.photos import PhotoStore
from zembric.operations.database import make_engine, newest_migration
from zembric.operations.measuring.log_traces import LogStore

if TYPE_CHECKING:
    import tarfile
    from collections.abc import Iterator

    from sqlalchemy import Connection, Engine

_NIGHTS_KEPT = 14
_SEALED = ".gpg"


def run_backup(file: Path, data: Path | None, passphrase: Path | None = None) -> int:
    """Writes a backup, also while the server runs. The file is whole, or it is not there.

    Args:
        passphrase: A file whose first line seals it; then it can be read with it only.
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
        kept, missing = _write_backup(file, url, PhotoStore(photos), passphrase)
    print(f"Backup written: {file}, {kept} photos and logs.")
    if missing:
        print(f"{missing} photos or logs are on record but their files were missing beside {photos}.", file=sys.stderr)
    return 0


def run_nightly_backup(data: Path | None, passphrase: Path | None = None) -> int:
    """A backup named by its time into `backups` of the data directory; of those so named the last fourteen are kept."""
    directory = (data or default_directory("data")).absolute() / "backups"
    try:
        directory.mkdir(mode=0o700, parents=True, exist_ok=True)
    except OSError as error:
        raise CannotStartError(f"{directory} cannot be made: {error.strerror}.") from error
    name = f"zembric-{datetime.now(UTC):%Y%m%dT%H%M%SZ}.zembric{_SEALED if passphrase else ''}"
    run_backup(directory / name, data, passphrase)
    for old in sorted(directory.glob("zembric-*T*Z.zembric*"))[:-_NIGHTS_KEPT]:
        old.unlink()
    return 0


def run_check(file: Path, passphrase: Path | None = None) -> int:
    """Holds every byte of a backup against its manifest, restores it aside and counts what is there.

    Raises:
        CannotStartError: it is damaged, or what was restored is not what was backed up.
    """
    with (
        _opened(file, passphrase) as archive,
        tempfile.TemporaryDirectory(prefix="zembric-check-", dir=_reachable()) as scratch,
    ):
        aside = Path(scratch)
        aside.chmod(0o711)
        manifest = checked_manifest(file, archive)
        with run_server(aside, durable=False) as server:
            _restore(archive, manifest, server.url, PhotoStore(aside / "photos"))
            rows = sum(manifest.tables.values())
    print(f"{file} is whole: {len(manifest.files) - 1} photos and logs, restored aside, {rows} rows as they were.")
    return 0


def run_restore(file: Path, data: Path | None, passphrase: Path | None = None) -> int:
    """Brings a backup into a place where nothing is yet; an older one is brought to the newest shape.

    Raises:
        CannotStartError: no backup, a damaged one, one of a newer Zembric, or the place is not empty.
    """
    with _opened(file, passphrase) as archive:
        manifest = checked_manifest(file, archive)
        with database_at_hand(data, "a backup is being restored") as (url, photos):
            _restore(archive, manifest, url, PhotoStore(photos))
    made_at = manifest.made_at[:16].replace("T", " ")
    print(f"Restored the backup of {made_at} UTC, {len(manifest.files) - 1} photos and logs.")
    return 0


def _write_backup(file: Path, url: str, store: PhotoStore, passphrase: Path | None) -> tuple[int, int]:
    """How many photos and logs went in, and how many are on record without their file."""
    engine = make_engine(url)
    part = file.with_name(f".{file.name}.{os.getpid()}.part")
    try:
        migration = newest_migration(engine)
        if migration is None:
            raise CannotStartError("There is no Zembric in this database yet, so there is nothing to back up.")
        with tempfile.TemporaryDirectory(prefix=".zembric-backup-", dir=file.absolute().parent) as scratch:
            made_at, dump, plain = datetime.now(UTC), Path(scratch) / DUMP, Path(scratch) / "backup.tar"
            tables, on_record = _dump(engine, url, dump, store)
            files = sorted((name, path) for name, path in on_record if path.exists())
            part.touch(mode=0o600)  # the hashes of passwords are in it
            target = plain if passphrase else part
            write_backup_file(target, migration, made_at.isoformat(), tables, [(DUMP, dump), *files])
            if passphrase:
                _gpg(passphrase, "--symmetric", "--cipher-algo", "AES256", "--compress-algo", "none", plain, part)
        with part.open("rb") as written:
            os.fsync(written.fileno())
        part.replace(file)
    except OSError as error:
        raise CannotStartError(f"The backup cannot be written: {error.strerror}. Nothing of it is left.") from error
    finally:
        part.unlink(missing_ok=True)
        engine.dispose()
    return len(files), len(on_record) - len(files)


def _dump(engine: Engine, url: str, dump: Path, store: PhotoStore) -> tuple[dict[str, int], list[tuple[str, Path]]]:
    """Dumps the database as it is at one moment; how many rows each table had then, and the files that belong to it."""
    logs = logs_beside(store)
    with engine.connect().execution_options(isolation_level="REPEATABLE READ") as connection:
        snapshot = connection.scalar(text("SELECT pg_export_snapshot()"))
        _run(
            "pg_dump",
            url,
            "--format=custom",
            "--no-owner",
            "--no-privileges",
            f"--snapshot={snapshot}",
            f"--file={dump}",
        )
        tables = _rows_of(connection)
        # Photos are kept before anything names them and never changed, so those of the dump are all here by now.
        photos = connection.scalars(select(Photo.sha256).distinct())
        wanted = [(f"photos/{sha256}.jpg", store.path(sha256)) for sha256 in photos]
        wanted += [
            (f"logs/{sha256}.log", logs.path(sha256)) for sha256 in connection.scalars(select(LogRow.sha256).distinct())
        ]
    return tables, wanted


def _rows_of(connection: Connection) -> dict[str, int]:
    held = MetaData()
    held.reflect(connection)
    return {
        name: connection.scalar(text(f'SELECT count(*) FROM "{name}"')) or 0  # a name the database told
        for name in sorted(held.tables)
    }


def _restore(archive: tarfile.TarFile, manifest: Manifest, url: str, store: PhotoStore) -> None:
    engine = make_engine(url)
    logs = logs_beside(store)
    store.directory.parent.mkdir(parents=True, exist_ok=True)
    try:
        if inspect(engine).get_table_names():
            raise CannotStartError(
                "There is data in this place already, and a restore replaces none. "
                "Name a new directory with --data, or an empty database with DATABASE_URL."
            )
        with tempfile.TemporaryDirectory(prefix=".zembric-restore-", dir=store.directory.parent) as scratch:
            aside = Path(scratch)
            for kind in ("photos", "logs"):
                (aside / kind).mkdir()
            for name, content in members_of(archive, [member.name for member in manifest.files]):
                copy_into(content, aside / name)
            _run(
                "pg_restore",
                url,
                "--no-owner",
                "--no-privileges",
                "--exit-on-error",
                "--single-transaction",
                aside / DUMP,
            )
            _hold_against(engine, manifest)
            # Only now does anything of it lie where it will stay.
            kept = [(store.path, "photos"), (logs.path, "logs")]
            for path, kind in kept:
                for found in sorted((aside / kind).iterdir()):
                    path(found.stem).parent.mkdir(parents=True, exist_ok=True)
                    found.replace(path(found.stem))
        migrate(engine)
    except OSError as error:
        raise CannotStartError(f"The backup cannot be restored: {error.strerror}.") from error
    finally:
        engine.dispose()


def _hold_against(engine: Engine, manifest: Manifest) -> None:
    with engine.connect() as connection:
        rows = _rows_of(connection)
    differs = [name for name, count in manifest.tables.items() if rows.get(name) != count]
    if differs:
        raise CannotStartError(f"What was restored is not what was backed up: {', '.join(differs)} have other rows.")


def logs_beside(store: PhotoStore) -> LogStore:
    """Where the logs lie: beside the photos."""
    return LogStore(store.directory.parent / "logs")


@contextlib.contextmanager
def _opened(file: Path, passphrase: Path | None) -> Iterator[tarfile.TarFile]:
    """The archive in a backup's file, unsealed aside where it is sealed."""
    if not file.is_file():
        raise CannotStartError(f"There is no file {file}.")
    if passphrase is None:
        if file.suffix == _SEALED:
            raise CannotStartError(f"{file} is sealed. Name the file with its passphrase: --passphrase-file FILE.")
        with open_backup_file(file) as archive:
            yield archive
        return
    with tempfile.TemporaryDirectory(prefix="zembric-unsealed-") as scratch:
        plain = Path(scratch) / "backup.tar"
        _gpg(passphrase, "--decrypt", file, plain)
        with open_backup_file(plain) as archive:
            yield archive


def _gpg(passphrase: Path, *how: str | Path) -> None:
    """GnuPG, on its own: no keys and no agent of the user's. The last two of `how` are what is read and what is written."""
    program = shutil.which("gpg")
    if program is None:
        raise CannotStartError("gpg is missing. Install it: apt-get install --no-install-recommends gnupg")
    if not passphrase.is_file() or not passphrase.read_bytes().split(b"\n", 1)[0].strip():
        raise CannotStartError(f"{passphrase} is to hold the passphrase in its first line.")
    *options, source, target = how
    with tempfile.TemporaryDirectory(prefix="zembric-gpg-") as home:
        done = subprocess.run(
            [
                program, "--homedir", home, "--batch", "--yes", "--quiet", "--pinentry-mode", "loopback",
                "--passphrase-file", passphrase, "--output", target, *options, source,
            ],
            check=False, capture_output=True, text=True,
        )  # fmt: skip
        subprocess.run(["gpgconf", "--homedir", home, "--kill", "gpg-agent"], check=False, capture_output=True)
    if done.returncode != 0:
        raise CannotStartError(f"gpg failed; is it the right passphrase? {done.stderr.strip()}")


def _reachable() -> Path | None:
    """Where a server of our own may work for a while: as root it runs as another user."""
    return Path("/var/tmp") if os.geteuid() == 0 else None


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
