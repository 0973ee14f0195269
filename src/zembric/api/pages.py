"""The front end's files, and whether the server is well."""

from __future__ import annotations

import mimetypes
import secrets
from functools import cache
from pathlib import Path

from flask import Blueprint, Response, abort, current_app, request
from werkzeug.security import safe_join

from zembric.api.requests import as_json, engine
from zembric.api.schemas import HealthOut
from zembric.operations.health import look_at_health
from zembric.paths import API_DESCRIPTION
from zembric.wording import spoken

bp = Blueprint("pages", __name__)
_YEAR_S = 365 * 24 * 3600


@bp.get("/healthz")
def healthz() -> Response:
    """200 where all is well, else 503 and what is down."""
    wanted = current_app.config["NEWEST_MIGRATION"]
    health = look_at_health(engine(), wanted, current_app.extensions["zembric-photos"].directory.parent)
    at = health.migration
    answer = HealthOut(
        database="answers" if health.answers else "silent",
        migrations="unknown" if at is None else "current" if at == wanted else "behind",
        down=[*health.down],
    )
    return as_json(answer, 503 if health.down else 200)


@bp.get("/api/openapi.json")
def description() -> Response:
    """What all routes take and answer, for those who are signed in: the guard asks them in."""
    return Response(API_DESCRIPTION.read_bytes(), mimetype="application/json")


@bp.get("/assets/<path:name>")
def asset(name: str) -> Response:
    """Built files carry a hash in their name, so a browser may keep them for good."""
    response = _file(current_app.config["FRONTEND_DIST"] / "assets", name)
    response.cache_control.max_age = _YEAR_S
    response.cache_control.immutable = True
    return response


@bp.get("/favicon.svg")
def favicon() -> Response:
    return _file(current_app.config["FRONTEND_DIST"], "favicon.svg")


@bp.get("/sw.js")
def service_worker() -> Response:
    """What a browser runs where there is no network or no page of ours is open; never kept, so that a new version is found."""
    response = _file(current_app.config["FRONTEND_DIST"], "sw.js")
    response.headers["Cache-Control"] = "no-cache"
    return response


@bp.get("/robots.txt")
def robots() -> Response:
    """Nothing here is for search engines, pages of packs least of all."""
    return Response("User-agent: *\nDisallow: /\n", mimetype="text/plain")


@bp.get("/", defaults={"_path": ""})
@bp.get("/<path:_path>")
def page(_path: str) -> Response:
    """Every other address is a page of the front end, which has its own router."""
    if _path.startswith("api/"):
        abort(404)
    nonce = secrets.token_urlsafe(16)
    html = _index(current_app.config["FRONTEND_DIST"] / "index.html").replace("__CSP_NONCE__", nonce)
    html = html.replace('<html lang="en">', f'<html lang="{spoken()}">', 1)
    response = Response(html, mimetype="text/html")
    response.headers["Cache-Control"] = "no-store"
    response.headers["X-Robots-Tag"] = "noindex, nofollow"
    response.headers["Content-Security-Policy"] = content_security_policy(nonce)
    return response


def content_security_policy(nonce: str) -> str:
    return "; ".join(
        (
            "default-src 'none'", "base-uri 'none'", "form-action 'self'", "frame-ancestors 'none'", "connect-src 'self'",
            "img-src 'self' data: blob:", "font-src 'self'", "manifest-src 'self'", "script-src 'self' 'wasm-unsafe-eval'", "worker-src 'self'",
            f"style-src 'self' 'nonce-{nonce}'",
        )
    )  # fmt: skip


def _file(directory: Path, name: str) -> Response:
    """A file of the built front end: packed as it was built where the browser takes that, else whole, so that it can be compressed on its way."""
    path = safe_join(str(directory), name)
    if path is None or not Path(path).is_file():
        abort(404)
    packed = Path(f"{path}.br")
    is_packed = packed.is_file() and request.accept_encodings["br"] > 0
    content = (packed if is_packed else Path(path)).read_bytes()
    response = Response(content, mimetype=mimetypes.guess_type(name)[0] or "application/octet-stream")
    if packed.is_file():
        response.vary.add("Accept-Encoding")
    if is_packed:
        response.content_encoding = "br"
    return response


@cache
def _index(path: Path) -> str:
    return path.read_text(encoding="utf-8")
