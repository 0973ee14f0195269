"""From Enter at the bench to the judgement on the screen: a real browser, a real server, a real database.

PYTHONPATH=src python bench/entry.py [CELLS]
"""

from __future__ import annotations

import statistics
import sys
import tempfile
from datetime import UTC, datetime
from pathlib import Path

from playwright.sync_api import Page, expect, sync_playwright

from zembric.cli.migrations import migrate
from zembric.cli.postgres import free_port, run_server
from zembric.cli.serve import web_server
from zembric.operations import donors, people
from zembric.operations.bench import entries
from zembric.operations.database import make_engine, unit_of_work
from zembric.operations.donors import DonorToOpen
from zembric.operations.signing_in import passwords

CELLS = int(sys.argv[1]) if len(sys.argv) > 1 else 40
PASSWORD = "a benchmark's password"
ARGUMENTS = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"]
# From the key going down until the strip that tells the cell was judged stands in the page.
WATCH = """(number) => {
    let pressed = 0;
    addEventListener('keydown', event => { pressed = event.timeStamp; }, {once: true, capture: true});
    window.shown = new Promise(done => new MutationObserver((_, observer) => {
        const strip = [...document.querySelectorAll('[role=status]')].find(e => e.textContent.includes(number) && e.textContent.includes('kept'));
        if (strip) { observer.disconnect(); requestAnimationFrame(() => done(performance.now() - pressed)); }
    }).observe(document.body, {childList: true, subtree: true, characterData: true}));
}"""


def main() -> None:
    with tempfile.TemporaryDirectory(prefix="zembric-bench-") as made:
        directory = Path(made)
        directory.chmod(0o711)
        with run_server(directory) as server:
            numbers = _cells_to_measure(server.url)
            port = free_port()
            with web_server(server.url, "127.0.0.1", port, directory / "photos"), sync_playwright() as playwright:
                browser = playwright.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=ARGUMENTS)
                page = browser.new_page(viewport={"width": 1280, "height": 800})
                times = _measure(page, f"http://127.0.0.1:{port}", numbers)
                browser.close()
    print(f"bench entry to visible judgement, {len(times)} entries, durable database:")
    print(f"median {statistics.median(times):.0f} ms, worst {max(times):.0f} ms")


def _cells_to_measure(url: str) -> list[str]:
    engine = make_engine(url)
    migrate(engine)
    now = datetime.now(UTC)
    with unit_of_work(engine) as session:
        token = people.add_person(session, "Bench", "volunteer", now)
        actor = passwords.accept_invitation(session, token, "Bench", PASSWORD, now)
        donor = donors.open_donor(session, actor, DonorToOpen("laptop", "", CELLS, "18650", "layered-oxide"), now)
        numbers = [cell.number for cell in donor.cells]
        for number in numbers:
            entries.inspect(session, actor, number, [], now)
    engine.dispose()
    return numbers


def _measure(page: Page, address: str, numbers: list[str]) -> list[float]:
    page.goto(address)
    page.get_by_label("Name").fill("Bench")
    page.get_by_label("Password").fill(PASSWORD)
    page.keyboard.press("Enter")
    page.get_by_role("link", name="Measure voltage").click()
    times = []
    for number in numbers:
        field = page.get_by_label("Resting voltage")
        expect(field).to_have_value("")
        field.fill("3.71")
        page.evaluate(WATCH, number)
        page.keyboard.press("Enter")
        times.append(float(page.evaluate("() => window.shown")))
    return times


if __name__ == "__main__":
    main()
