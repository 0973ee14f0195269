"""Files beside the database, named by the hash of what is in them: the same content is kept once, and none is ever changed."""

from __future__ import annotations

import contextlib
import hashlib
import os
import tempfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import IO, ClassVar

from zembric.core.errors import BadInputError, NotFoundError
from zembric.core.said import said

_CHUNK = 1024 * 1024


@dataclass(frozen=True, slots=True)
class Received:
    """A file that is in the store: its hash and how long it is."""

    sha256: str
    bytes: int


@dataclass(frozen=True, slots=True)
class FileStore:
    """One kind of file in one directory."""

    directory: Path
    ending: ClassVar[str]
    what: ClassVar[str]

    def path(self, sha256: str) -> Path:
        return self.directory / sha256[:2] / f"{sha256}.{self.ending}"

    def keep(self, content: bytes) -> str:
        """Stores a file and gives its hash."""
        sha256 = hashlib.sha256(content).hexdigest()
        if not self.path(sha256).exists():
            self.write(self.path(sha256), content)
        return sha256

    def receive(self, stream: IO[bytes], most_bytes: int) -> Received:
        """Stores a file as it comes, without ever holding it whole.

        Raises:
            BadInputError: longer than it may be; nothing is left of it.
        """
        digest, size = hashlib.sha256(), 0
        with _part_in(self.directory) as (file, part):
            while chunk := stream.read(_CHUNK):
                size += len(chunk)
                if size > most_bytes:
                    raise BadInputError(
                        said("has-at-most-mb", what=self.what, most_bytes=most_bytes // _CHUNK), field="file"
                    )
                digest.update(chunk)
                file.write(chunk)
            _name(file, part, self.path(digest.hexdigest()))
        return Received(digest.hexdigest(), size)

    def write(self, path: Path, content: bytes) -> None:
        """Writes a file whole before it has its name; several may write the same one at once."""
        with _part_in(path.parent) as (file, part):
            file.write(content)
            _name(file, part, path)

    def found(self, sha256: str) -> Path:
        """Where a file lies.

        Raises:
            NotFoundError: it is not there any more.
        """
        path = self.path(sha256)
        if not path.exists():
            raise NotFoundError(said("file-of-this-is-missing", what=self.what))
        return path

    def read(self, sha256: str) -> bytes:
        return self.found(sha256).read_bytes()


@contextlib.contextmanager
def _part_in(directory: Path) -> Iterator[tuple[IO[bytes], Path]]:
    """A file that has no name of its own yet; nothing is left of it unless it gets one."""
    directory.mkdir(parents=True, exist_ok=True)
    with tempfile.NamedTemporaryFile(dir=directory, suffix=".part", delete=False) as file:
        part = Path(file.name)
        try:
            yield file, part
        except BaseException:
            part.unlink(missing_ok=True)
            raise


def _name(file: IO[bytes], part: Path, path: Path) -> None:
    file.flush()
    os.fsync(file.fileno())
    path.parent.mkdir(parents=True, exist_ok=True)
    part.chmod(0o644)
    part.replace(path)
