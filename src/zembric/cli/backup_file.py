"""A backup's file: a tar with a manifest of sizes and hashes, the database as PostgreSQL dumps it, photos and logs.

First `manifest.json`, then every file it names in its order, at the end `manifest.sha256`, the hash of the manifest: a file that was cut
or changed anywhere, if only by one bit, is found out before anything of it is used.
"""

from __future__ import annotations

import hashlib
import io
import json
import re
import tarfile
from dataclasses import asdict, dataclass
from typing import IO, TYPE_CHECKING, Any

from zembric.cli.problems import CannotStartError
from zembric.paths import newest_migration_file

if TYPE_CHECKING:
    from collections.abc import Iterator, Sequence
    from pathlib import Path

DUMP = "database.dump"
_FORMAT, _WITHOUT_HASHES = 2, 1
_MANIFEST, _SEAL = "manifest.json", "manifest.sha256"
_KEPT = re.compile(r"(?:photos|logs)/(?P<sha256>[0-9a-f]{64})\.(?:jpg|log)")
_MOST_MANIFEST_BYTES = 512 * 1024 * 1024
_PIECE = 1 << 20


@dataclass(frozen=True, slots=True)
class Member:
    name: str
    size: int
    sha256: str


@dataclass(frozen=True, slots=True)
class Manifest:
    """`tables`: how many rows each had; nothing in a backup from before they were counted."""

    migration: str
    made_at: str
    tables: dict[str, int]
    files: tuple[Member, ...]


def write_backup_file(
    part: Path, migration: str, made_at: str, tables: dict[str, int], files: Sequence[tuple[str, Path]]
) -> None:
    """Raises:
    OSError: no room, or a file went away.
    """
    members = tuple(Member(name, path.stat().st_size, _hash_of_file(path)) for name, path in files)
    manifest = Manifest(migration, made_at, tables, members)
    told = json.dumps({"format": _FORMAT, **asdict(manifest)}, indent=1).encode()
    with tarfile.open(part, "w", format=tarfile.PAX_FORMAT) as archive:
        _add(archive, _MANIFEST, told)
        for name, path in files:
            archive.add(path, name, filter=_without_owner)
        _add(archive, _SEAL, hashlib.sha256(told).hexdigest().encode())


def open_backup_file(file: Path) -> tarfile.TarFile:
    """Raises:
    CannotStartError: it is not there, or no tar file.
    """
    try:
        return tarfile.open(file, "r:")
    except FileNotFoundError as error:
        raise CannotStartError(f"There is no file {file}.") from error
    except (tarfile.TarError, OSError) as error:
        raise CannotStartError(f"{file} is no backup that can be read: {error}.") from error


def checked_manifest(file: Path, archive: tarfile.TarFile) -> Manifest:
    """Reads the whole file once and holds every byte against its manifest.

    Raises:
        CannotStartError: what is damaged, missing or too much; or it is of a newer Zembric.
    """
    try:
        members = archive.getmembers()
        manifest, told, has_hashes = _read_manifest(file, archive, members)
        if not has_hashes:
            return _checked_by_names(archive, members, manifest)
        names = [member.name for member in members]
        if names != [_MANIFEST, *(each.name for each in manifest.files), _SEAL] or not all(m.isfile() for m in members):
            raise _damaged("its files are not those of its manifest; it may have been cut off")
        if names[1] != DUMP or not all(_is_named_by_content(each) for each in manifest.files[1:]):
            raise _damaged("it holds what no backup holds")
        if _opened(archive, members[-1]).read(128) != hashlib.sha256(told).hexdigest().encode():
            raise _damaged(f"{_MANIFEST} is not what it was")
        for member, wanted in zip(members[1:-1], manifest.files, strict=True):
            if member.size != wanted.size or _hash_of(_opened(archive, member)) != wanted.sha256:
                raise _damaged(f"{member.name} is not what it was")
    except (tarfile.TarError, OSError, EOFError) as error:
        raise _damaged(str(error)) from error
    return manifest


def _is_named_by_content(member: Member) -> bool:
    """Photos and logs lie under their hashes; another name could lead anywhere on the disk."""
    named = _KEPT.fullmatch(member.name)
    return named is not None and named["sha256"] == member.sha256


def members_of(archive: tarfile.TarFile, names: Sequence[str]) -> Iterator[tuple[str, IO[bytes]]]:
    for name in names:
        yield name, _opened(archive, archive.getmember(name))


def copy_into(source: IO[bytes], target: Path) -> None:
    with target.open("wb") as written:
        while piece := source.read(_PIECE):
            written.write(piece)


def _read_manifest(
    file: Path, archive: tarfile.TarFile, members: Sequence[tarfile.TarInfo]
) -> tuple[Manifest, bytes, bool]:
    if not any(member.name == _MANIFEST and member.isfile() for member in members):
        raise CannotStartError(f"{file} is no backup of Zembric's.")
    told = _opened(archive, archive.getmember(_MANIFEST)).read(_MOST_MANIFEST_BYTES)
    try:
        held: dict[str, Any] = json.loads(told)
        version, migration = held["format"], str(held["migration"])
        files = tuple(Member(**each) for each in held.get("files", ()))
        manifest = Manifest(migration, str(held["made_at"]), dict(held.get("tables", {})), files)
    except (KeyError, ValueError, TypeError, RecursionError) as error:
        raise _damaged(f"{_MANIFEST} cannot be read") from error
    if version not in {_FORMAT, _WITHOUT_HASHES} or migration > newest_migration_file():
        raise CannotStartError(f"{file} was written by a newer Zembric. Update this one first. Nothing was restored.")
    return manifest, told, version == _FORMAT


def _checked_by_names(archive: tarfile.TarFile, members: Sequence[tarfile.TarInfo], manifest: Manifest) -> Manifest:
    """Of the first kind of backup only photos and logs can be checked, by the hashes they are named by."""
    files = []
    for member in members:
        named = _KEPT.fullmatch(member.name)
        if (named or member.name == DUMP) and member.isfile():
            sha256 = _hash_of(_opened(archive, member))
            if named and sha256 != named["sha256"]:
                raise _damaged(f"{member.name} is not what it was")
            files.append(Member(member.name, member.size, sha256))
    if not any(each.name == DUMP for each in files):
        raise _damaged("there is no database in it")
    return Manifest(manifest.migration, manifest.made_at, {}, tuple(files))


def _damaged(what: str) -> CannotStartError:
    return CannotStartError(f"The backup is damaged: {what}. Nothing was restored.")


def _opened(archive: tarfile.TarFile, member: tarfile.TarInfo) -> IO[bytes]:
    found = archive.extractfile(member)
    if found is None:
        raise _damaged(f"{member.name} is no file")
    return found


def _hash_of(source: IO[bytes]) -> str:
    hashed = hashlib.sha256()
    while piece := source.read(_PIECE):
        hashed.update(piece)
    return hashed.hexdigest()


def _hash_of_file(path: Path) -> str:
    with path.open("rb") as source:
        return _hash_of(source)


def _add(archive: tarfile.TarFile, name: str, content: bytes) -> None:
    member = tarfile.TarInfo(name)
    member.size = len(content)
    archive.addfile(member, io.BytesIO(content))


def _without_owner(member: tarfile.TarInfo) -> tarfile.TarInfo:
    member.uid = member.gid = 0
    member.uname = member.gname = ""
    return member
