"""Files beside the database, named by the hash of what is in them: the same content is kept once, and none is ever changed."""

from __future__ import annotations

import hashlib
import os
import tempfile
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from zembric.core.errors import NotFoundError


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

    def write(self, path: Path, content: bytes) -> None:
        """Writes a file whole before it has its name; several may write the same one at once."""
        path.parent.mkdir(parents=True, exist_ok=True)
        with tempfile.NamedTemporaryFile(dir=path.parent, suffix=".part", delete=False) as file:
            file.write(content)
            file.flush()
            os.fsync(file.fileno())
        part = Path(file.name)
        part.chmod(0o644)
        part.replace(path)

    def read(self, sha256: str) -> bytes:
        try:
            return self.path(sha256).read_bytes()
        except FileNotFoundError as error:
            raise NotFoundError(
                f"The file of this {self.what} is missing on the server. Was only the database restored?"
            ) from error
