"""Makes the web application."""

from __future__ import annotations

import time
from pathlib import Path
from typing import TYPE_CHECKING

import structlog
from flask import Flask, Response, g, request
from flask.sessions import SecureCookieSessionInterface
from flask_compress import Compress
from flask_login import LoginManager
from flask_openapi3.models.info import Info
from flask_openapi3.openapi import OpenAPI
from flask_wtf.csrf import CSRFProtect
from werkzeug.middleware.proxy_fix import ProxyFix

from zembric.api import (
    catalogue,
    cells,
    donors,
    evening,
    handwork,
    layouts,
    live,
    matching,
    measuring,
    outside,
    packs,
    pages,
    papers,
    places,
    practice,
    sessions,
    testers,
)
from zembric.api.blueprints import operation_id
from zembric.api.errors import register_error_answers, show_invalid
from zembric.api.guard import guard_routes
from zembric.api.languages import speak_as_asked
from zembric.api.requests import SignedIn
from zembric.api.schemas import ProblemOut
from zembric.operations.cells.photos import MOST_UPLOAD_BYTES, PhotoStore
from zembric.operations.changes import Changes
from zembric.operations.measuring.log_traces import LogStore
from zembric.operations.measuring.logs import MOST_LOG_BYTES
from zembric.operations.papers.lists import MOST_FILE_BYTES
from zembric.operations.signing_in.sign_ins import SIGN_IN_LASTS

if TYPE_CHECKING:
    from sqlalchemy import Engine

MOST_BODY_BYTES = 256 * 1024
# What may be larger than a form: a list goes as text, a third longer than its file.
_LARGER_BODIES = {
    "papers.post_list": MOST_FILE_BYTES * 3 // 2,
    "papers.post_list_preview": MOST_FILE_BYTES * 3 // 2,
    "papers.post_donor_photo": MOST_UPLOAD_BYTES + 1,
    "papers.post_cell_photo": MOST_UPLOAD_BYTES + 1,
    "measuring.post_log": MOST_LOG_BYTES + 1,
}
#: The camera for labels, the screen kept awake at the bench; nothing else, and nobody who frames us.
_MAY_ASK_FOR = "camera=(self), screen-wake-lock=(self), geolocation=(), microphone=(), payment=(), usb=(), serial=()"
_log = structlog.get_logger()


class _SecureUnderHttps(SecureCookieSessionInterface):
    """Marks the session cookie as secure whenever the request came over https."""

    def get_cookie_secure(self, app: Flask) -> bool:  # noqa: ARG002  # Flask's own signature
        return request.is_secure


def create_app(
    engine: Engine, *, secret: bytes, newest_migration: str, frontend_dist: Path, photos: Path, proxies: int = 0
) -> OpenAPI:
    """The application on one database.

    Args:
        secret: Signs session cookies; the same for all servers on a database.
        newest_migration: What /healthz compares the database with.
        frontend_dist: The built front end.
        photos: Directory of the photos' files, beside which the logs lie; made when the first one is kept.
        proxies: How many proxies stand in front and set X-Forwarded headers.
    """
    app = OpenAPI(
        __name__,
        info=Info(title="Zembric", version="0.1.0"),
        doc_ui=False,
        static_folder=None,
        operation_id_callback=operation_id,
        validation_error_model=ProblemOut,
        validation_error_callback=show_invalid,
    )
    app.config.update(
        SECRET_KEY=secret,
        NEWEST_MIGRATION=newest_migration,
        FRONTEND_DIST=frontend_dist,
        MAX_CONTENT_LENGTH=MOST_BODY_BYTES,
        SESSION_COOKIE_NAME="zembric",
        SESSION_COOKIE_HTTPONLY=True,
        SESSION_COOKIE_SAMESITE="Lax",
        PERMANENT_SESSION_LIFETIME=SIGN_IN_LASTS,
        SESSION_REFRESH_EACH_REQUEST=False,
        WTF_CSRF_TIME_LIMIT=None,
        COMPRESS_ALGORITHM=["br", "gzip"],
        COMPRESS_BR_LEVEL=5,
    )
    connect(app, engine, photos)
    app.session_interface = _SecureUnderHttps()
    if proxies:
        app.wsgi_app = ProxyFix(app.wsgi_app, x_for=proxies, x_proto=proxies, x_host=proxies)  # type: ignore[method-assign]
    speak_as_asked(app)
    _remember_people(app)
    guard_routes(app)
    _take_larger_bodies(app)
    CSRFProtect(app)
    Compress(app)
    register_error_answers(app)
    _log_requests(app)
    for blueprint in (
        catalogue.bp,
        cells.bp,
        donors.bp,
        evening.bp,
        measuring.bp,
        matching.bp,
        packs.bp,
        layouts.bp,
        handwork.bp,
        outside.bp,
        papers.bp,
        places.bp,
        practice.bp,
        sessions.bp,
        testers.bp,
    ):
        app.register_api(blueprint)
    app.register_blueprint(live.bp)
    app.register_blueprint(pages.bp)
    return app


def connect(app: Flask, engine: Engine, photos: Path) -> None:
    """What is stored where; the routes stay as they are."""
    app.extensions["zembric-engine"] = engine
    app.extensions["zembric-changes"] = Changes(engine)
    app.extensions["zembric-photos"] = PhotoStore(photos)
    app.extensions["zembric-logs"] = LogStore(photos.parent / "logs")


def _take_larger_bodies(app: Flask) -> None:
    @app.before_request
    def set_most_bytes() -> None:
        request.max_content_length = _LARGER_BODIES.get(request.endpoint or "", MOST_BODY_BYTES)


def _remember_people(app: Flask) -> None:
    manager = LoginManager(app)
    manager.session_protection = None  # binds to the address, which changes in a hall with two networks

    @manager.user_loader
    def load(token: str) -> SignedIn:
        return SignedIn(token)


def _log_requests(app: Flask) -> None:
    """One line a request, with the route and never the address or the numbers in it."""

    @app.before_request
    def start_clock() -> None:
        g.started = time.perf_counter()

    @app.after_request
    def finish(response: Response) -> Response:
        response.headers.setdefault("X-Content-Type-Options", "nosniff")
        response.headers.setdefault("Referrer-Policy", "same-origin")
        response.headers.setdefault("Permissions-Policy", _MAY_ASK_FOR)
        if request.is_secure:
            response.headers.setdefault("Strict-Transport-Security", "max-age=31536000")
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
            response.headers.setdefault("Content-Security-Policy", "default-src 'none'; frame-ancestors 'none'")
        started = g.get("started")
        _log.info(
            "request",
            method=request.method,
            route=request.url_rule.rule if request.url_rule else None,
            status=response.status_code,
            ms=round(1000 * (time.perf_counter() - started), 1) if started else None,
        )
        return response
