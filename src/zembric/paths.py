"""Where things lie in a checkout."""

from __future__ import annotations

from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
MIGRATIONS = ROOT / "migrations"
FRONTEND_DIST = ROOT / "frontend" / "dist"
API_DESCRIPTION = ROOT / "frontend" / "src" / "api" / "openapi.json"
