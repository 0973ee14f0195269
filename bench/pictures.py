"""The pictures of the README, taken anew from a demo that has run for a minute or two.

    PYTHONPATH=src:. python bench/pictures.py ADDRESS PASSWORD [NAME ...]

Whoever changed a view names its picture; without names all are taken.
"""

from __future__ import annotations

import re
import sys
from typing import TYPE_CHECKING, Any

from playwright.sync_api import expect, sync_playwright

from zembric.demo.load import COORDINATOR, VOLUNTEER
from zembric.paths import ROOT

if TYPE_CHECKING:
    from collections.abc import Callable

    from playwright.sync_api import Browser, Page

PICTURES = ROOT / "docs" / "screenshots"
#: What slides or is drawn a moment after the page is there.
SETTLES_MS = 800
WIDE, NARROW = (1280, 800), (390, 844)


def asked(page: Page, path: str) -> Any:
    """What the server says to whoever is signed in on that page."""
    answer = page.request.get(path)
    assert answer.ok, (path, answer.status)
    return answer.json()


def a_pack(page: Page, state: str) -> str:
    """The number of the newest pack in that state that nobody has to call somebody about."""
    packs = asked(page, "/api/packs")["packs"]
    return str(next(each["number"] for each in packs if each["state"] == state and each["stopped_why"] is None))


def a_log(page: Page) -> int:
    """One that was analysed."""
    return int(next(each["id"] for each in asked(page, "/api/logs")["logs"] if each["state"] == "read"))


def a_cell(page: Page, step: str) -> str:
    return str(asked(page, f"/api/cells?step={step}&grade=A")["cells"][0]["number"])


def a_tray(page: Page) -> str:
    """One in which something is still to be looked at."""
    trays = asked(page, "/api/home")["trays"]
    return str(next(each["number"] for each in trays if any(step["step"] == "inspect" for step in each["steps"])))


def _to(path: str) -> Callable[[Page], None]:
    return lambda page: _open(page, path)


def _open(page: Page, path: str) -> None:
    page.goto(path)
    page.get_by_role("heading", level=1).first.wait_for()


def _hazard(page: Page) -> None:
    _open(page, "/bench?step=inspect")
    page.get_by_role("button", name="Nothing found").press("s")
    page.keyboard.press("Enter")
    page.keyboard.press("Enter")
    page.get_by_role("alertdialog").wait_for()


def _match(page: Page) -> None:
    _open(page, "/match")
    page.get_by_role("button", name="Match 2S2P").click()
    page.get_by_text("Proven bound").scroll_into_view_if_needed()


def _evening(page: Page) -> None:
    _open(page, "/evening")
    plan, planned = page.get_by_role("button", name="Plan it"), page.get_by_text("can be finished tonight")
    plan.or_(planned).wait_for()
    if plan.is_visible():
        plan.click()
    planned.wait_for()


def _on_paper(page: Page) -> None:
    _open(page, f"/packs/{a_pack(page, 'planned')}")
    page.get_by_role("heading", name="On paper").evaluate("heading => heading.scrollIntoView()")


VIEWS: dict[str, tuple[tuple[int, int], Callable[[Page], None]]] = {
    "home": (WIDE, _to("/")),
    "open": (WIDE, _to("/open")),
    "tray": (WIDE, lambda page: _open(page, f"/trays/{a_tray(page)}")),
    "bench": (WIDE, _to("/bench?step=measure-voltage")),
    "shelf": (WIDE, _to("/shelf")),
    "rules": (WIDE, _to("/rules")),
    "sums": (WIDE, _to("/sums")),
    "table": (WIDE, _to("/table")),
    "evening": ((1280, 960), _evening),
    "log": (WIDE, lambda page: _open(page, f"/logs/{a_log(page)}")),
    "cell": (WIDE, lambda page: _open(page, f"/cells/{a_cell(page, 'charge')}")),
    "match": (WIDE, _match),
    "on-paper": (WIDE, _on_paper),
    "layout": (WIDE, lambda page: _open(page, f"/packs/{a_pack(page, 'back')}/layout")),
    "prove": (WIDE, lambda page: _open(page, f"/packs/{a_pack(page, 'built')}/prove")),
    "pack": (WIDE, lambda page: _open(page, f"/packs/{a_pack(page, 'given-out')}")),
    "bench-phone": (NARROW, _to("/bench?step=measure-voltage")),
    "tray-phone": (NARROW, lambda page: _open(page, f"/trays/{a_tray(page)}")),
    "hazard": (WIDE, _hazard),
}


def take(browser: Browser, address: str, password: str, name: str) -> None:
    (width, height), show = VIEWS[name]
    context = browser.new_context(
        viewport={"width": width, "height": height}, base_url=address, locale="en-GB", reduced_motion="reduce",
        color_scheme="dark" if name == "bench-phone" else "light",
    )  # fmt: skip
    page = context.new_page()
    page.goto("/")
    page.get_by_label("Name").fill(VOLUNTEER if width == NARROW[0] else COORDINATOR)
    page.get_by_label("Password").fill(password)
    page.keyboard.press("Enter")
    page.get_by_role("heading", name="What is next").wait_for()
    show(page)
    expect(page.get_by_text(re.compile("^(Fetching|Looking) "))).to_have_count(0)
    page.wait_for_timeout(SETTLES_MS)
    page.screenshot(path=PICTURES / f"{name}.png")
    context.close()


def main() -> None:
    address, password, *names = sys.argv[1:]
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox"])
        for name in names or VIEWS:
            take(browser, address, password, name)
            print(name, flush=True)


if __name__ == "__main__":
    main()
