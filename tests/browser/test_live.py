"""What one person enters stands on the other's screen without a reload, whichever server process each of them talks to."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from playwright.sync_api import BrowserContext, Page, expect
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from tests.browser.conftest import served, sign_in
from tests.support.benchwork import numbers_of, open_donor
from zembric.operations.actors import Actor

# Far below the minute after which a page that is told of changes looks again by itself.
TOLD_WITHIN_MS = 5_000


def look_at(page: Page, number: str) -> None:
    page.get_by_role("button", name="Nothing found").click()
    expect(page.get_by_text("Nothing found, kept")).to_be_visible()


@pytest.mark.parametrize("servers", [1, 2])
def test_an_entry_in_one_browser_appears_in_the_other(
    servers: int,
    new_context: Callable[..., BrowserContext],
    engine: Engine,
    session: Session,
    volunteer: Actor,
    address: str,
    tmp_path: Path,
) -> None:
    (number,) = numbers_of(open_donor(session, volunteer))
    session.commit()
    with served(engine, tmp_path / "others") as second:
        watching = sign_in(new_context().new_page(), second if servers == 2 else address, "Coordinator")
        with watching.expect_response("**/api/changes"):
            watching.reload()
        expect(watching.get_by_text("Look at", exact=True)).to_be_visible()
        working = sign_in(new_context().new_page(), address, "Volunteer")
        working.goto(f"{address}/bench/{number}")
        look_at(working, number)
        expect(watching.get_by_text("Measure voltage", exact=True)).to_be_visible(timeout=TOLD_WITHIN_MS)
        expect(watching.get_by_text("Look at", exact=True)).to_have_count(0)


def test_where_nobody_tells_of_changes_the_page_looks_again_by_itself(
    new_context: Callable[..., BrowserContext], session: Session, volunteer: Actor, address: str
) -> None:
    (number,) = numbers_of(open_donor(session, volunteer))
    session.commit()
    context = new_context()
    context.route("**/api/changes", lambda route: route.fulfill(status=503, json={"code": "busy", "text": "busy"}))
    watching = sign_in(context.new_page(), address, "Coordinator")
    expect(watching.get_by_text("Look at", exact=True)).to_be_visible()
    working = sign_in(new_context().new_page(), address, "Volunteer")
    working.goto(f"{address}/bench/{number}")
    look_at(working, number)
    expect(watching.get_by_text("Measure voltage", exact=True)).to_be_visible()
