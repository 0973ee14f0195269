"""A real browser on a real server; console errors, page errors and policy violations fail the test."""

from __future__ import annotations

import contextlib
import re
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
import structlog.testing
import structlog.typing
from flask import Flask
from flask.sessions import SecureCookieSessionInterface
from playwright.sync_api import Browser, BrowserContext, ConsoleMessage, Page, Playwright, expect, sync_playwright
from sqlalchemy import Engine
from werkzeug.serving import ThreadedWSGIServer, WSGIRequestHandler

from tests.conftest import tokens
from tests.support.applications import SECRET, application
from zembric.paths import FRONTEND_DIST

CHROMIUM_ARGUMENTS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync",
]  # fmt: skip
# The browser itself reports every refused request; those are answers, not faults of the page.
_REFUSALS = ("status of 400", "status of 401", "status of 403", "status of 404", "status of 409", "status of 422")
# While a server is killed and started again its pages keep asking.
_OFFLINE = (
    "status of 503",
    "ERR_INTERNET_DISCONNECTED",
    "ERR_CONNECTION_REFUSED",
    "ERR_CONNECTION_RESET",
    "ERR_EMPTY_RESPONSE",
    "ERR_FAILED",
    "ERR_SOCKET_NOT_CONNECTED",
)
_REPORT_POLICY = (
    "document.addEventListener('securitypolicyviolation', e => console.error('policy', e.violatedDirective))"
)

# However slow the machine is: what comes at all comes within a minute.
expect.set_options(timeout=60_000)


@pytest.fixture(autouse=True)
def server_log() -> Iterator[list[structlog.typing.EventDict]]:
    """What the server logs. A page that still asks for something while its test ends would write into pytest's own output."""
    with structlog.testing.capture_logs() as events:
        yield events


@pytest.fixture(scope="session")
def playwright() -> Iterator[Playwright]:
    with sync_playwright() as playwright:
        yield playwright


@pytest.fixture(scope="session")
def chromium(playwright: Playwright) -> Iterator[Browser]:
    browser = playwright.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=CHROMIUM_ARGUMENTS)
    yield browser
    browser.close()


@pytest.fixture
def new_context(
    chromium: Browser, server_log: list[structlog.typing.EventDict]
) -> Iterator[Callable[..., BrowserContext]]:
    """Makes separate browsers, each with its own cookies, all watched for faults."""
    faults: list[str] = []
    contexts: list[BrowserContext] = []

    def note(message: ConsoleMessage) -> None:
        if message.type == "error" and not any(known in message.text for known in (*_REFUSALS, *_OFFLINE)):
            faults.append(message.text)

    def make(width: int = 1280, height: int = 800, **options: object) -> BrowserContext:
        options.setdefault("service_workers", "block")  # a page that opens alone would hide what the server says
        context = chromium.new_context(viewport={"width": width, "height": height}, locale="en-GB", **options)  # type: ignore[arg-type]
        context.add_init_script(_REPORT_POLICY)
        context.on("console", note)
        context.on("weberror", lambda error: faults.append(str(error.error)))
        context.set_default_timeout(60_000)
        contexts.append(context)
        return context

    yield make
    for context in contexts:
        context.close()
    # What the server said of its own faults stands beside what the browser saw of them.
    assert faults + [str(event) for event in server_log if event["log_level"] in ("error", "critical")] == []


class _Handler(WSGIRequestHandler):
    #: A browser opens connections it then asks nothing on: closing would wait for them for ever [s].
    timeout = 20


@contextlib.contextmanager
def served(engine: Engine, photos: Path, port: int = 0, dist: Path = FRONTEND_DIST) -> Iterator[str]:
    """The application on a database, in a thread of the tests: quicker than a server of its own for each test."""
    with application(engine, photos, dist) as app:
        server = ThreadedWSGIServer("127.0.0.1", port, app, handler=_Handler)
        server.daemon_threads = False  # so that closing waits for answers under way, which hold connections
        thread = threading.Thread(target=server.serve_forever, args=(0.05,))
        thread.start()
        try:
            yield f"http://127.0.0.1:{server.server_port}"
        finally:
            server.shutdown()
            app.extensions["zembric-changes"].close()
            thread.join()
            server.server_close()


@pytest.fixture
def address(engine: Engine, tmp_path: Path) -> Iterator[str]:
    """Where the test's own database is served."""
    with served(engine, tmp_path / "photos") as address:
        yield address


@pytest.fixture
def page(new_context: Callable[..., BrowserContext], address: str) -> Page:
    """A volunteer, signed in, who has opened nothing yet."""
    return signed_in(new_context().new_page(), address, "Volunteer")


def signed_in(page: Page, address: str, name: str) -> Page:
    """With the sign-in that every database of the tests has; nothing is opened."""
    until = time.time() + 12 * 3600  # a browser that is closed keeps it, as it keeps the server's own
    page.context.add_cookies([{"name": "zembric", "value": _cookie_of(name), "url": address, "expires": until}])
    return page


def sign_in(page: Page, address: str, name: str, password: str | None = None) -> Page:
    """On the first page; by name and password where one is given."""
    if password is None:
        signed_in(page, address, name)
    page.goto(address)
    if password is not None:
        page.get_by_label("Name").fill(name)
        page.get_by_label("Password").fill(password)
        page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="What is next")).to_be_visible()
    return page


def _cookie_of(name: str) -> str:
    signer = Flask(__name__)
    signer.secret_key = SECRET
    serializer = SecureCookieSessionInterface().get_signing_serializer(signer)
    assert serializer is not None
    return str(serializer.dumps({"_user_id": tokens[name], "_permanent": True}))


def follow(page: Page, path: str) -> None:
    """As a link inside the page leads there, without loading anything anew; over a page that is none, so that the heading changes."""
    for each in ("/no-page", path):
        page.evaluate("to => { history.pushState(null, '', to); dispatchEvent(new PopStateEvent('popstate')); }", each)
        is_none = page.get_by_role("heading", level=1, name="Nothing here")
        expect(is_none).to_have_count(1 if each in ("/no-page", "/nowhere") else 0)
    page.get_by_role("heading", level=1).wait_for()
    expect(page.get_by_text(re.compile("^(Fetching|Looking) "))).to_have_count(0)


def be_late(page: Page, latency_ms: int) -> None:
    """From now on every answer of the server takes so long to come."""
    conditions = {"offline": False, "latency": latency_ms, "downloadThroughput": -1, "uploadThroughput": -1}
    page.context.new_cdp_session(page).send("Network.emulateNetworkConditions", conditions)


def wait_until(page: Page, condition: str, wanted: object = True) -> None:
    """Until an asynchronous function of the page gives what is wanted; the browser's driver waits for plain ones only."""
    page.evaluate(
        f"""async (wanted) => {{
            const condition = {condition};
            const until = Date.now() + 60_000;
            while ((await condition()) !== wanted) {{
                if (Date.now() > until) throw new Error("waited in vain");
                await new Promise((resolve) => setTimeout(resolve, 50));
            }}
        }}""",
        wanted,
    )


def waits_for_server(page: Page, entries: int) -> None:
    """Until so many entries are left in the browser that the server has not taken."""
    wait_until(
        page,
        """() => new Promise((resolve) => {
            const opening = indexedDB.open("zembric");
            opening.onsuccess = () => {
                const counting = opening.result.transaction("waiting").objectStore("waiting").count();
                counting.onsuccess = () => (opening.result.close(), resolve(counting.result));
            };
        })""",
        entries,
    )


def choose_option(page: Page, label: str, option: str | re.Pattern[str]) -> None:
    """One of many choices, in a list that opens."""
    page.get_by_role("button", name=re.compile(rf"{re.escape(label)}$")).click()
    page.get_by_role("option", name=option).first.click()
