"""Where things lie in a checkout."""

from __future__ import annotations

from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
MIGRATIONS = ROOT / "migrations"
FRONTEND_DIST = ROOT / "frontend" / "dist"
API_DESCRIPTION = ROOT / "frontend" / "src" / "api" / "openapi.json"
#: What is said, in words: a file a language.
WORDS = ROOT / "words"


def newest_migration_file() -> str:
    """The revision that the newest migration brings a database to: the number its file name starts with."""
    return max(path.name.split("_")[0] for path in (MIGRATIONS / "versions").glob("[0-9]*_*.py"))
