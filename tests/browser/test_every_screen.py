"""Every screen with the demo's data: nothing for axe to find, in light and dark, wide and narrow."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime

import pytest
from playwright.sync_api import BrowserContext, Page, expect
from sqlalchemy import select

from tests.browser.conftest import follow, served, sign_in
from tests.support.databases import Databases
from zembric.demo.load import COORDINATOR, load_demo
from zembric.models import CellRow, Donor, Pack, PackPage, Place, ReadingEntry, StepEntry
from zembric.operations.cells import home
from zembric.operations.cells.photos import PhotoStore
from zembric.operations.database import unit_of_work
from zembric.operations.measuring.log_traces import LogStore
from zembric.paths import ROOT

AXE = (ROOT / "frontend" / "node_modules" / "axe-core" / "axe.min.js").read_text(encoding="utf-8")
PASSWORD = "the demo's own password"


@dataclass(frozen=True)
class Demo:
    """The demo, served; every address there is, and how many cells want which step."""

    address: str
    screens: list[str]
    steps: dict[str, int]


@pytest.fixture(scope="module")
def demo(databases: Databases, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Demo]:
    photos = tmp_path_factory.mktemp("photos")
    with databases.fresh() as engine:
        with unit_of_work(engine) as session:
            load_demo(session, PhotoStore(photos), LogStore(photos.parent / "logs"), PASSWORD, datetime.now(UTC))
            cells = session.scalars(select(CellRow.number).order_by(CellRow.id)).all()
            donor = session.scalars(select(Donor.number).order_by(Donor.id.desc()).limit(1)).one()
            tray, box = (
                session.scalars(select(Place.number).where(Place.kind == kind).order_by(Place.id.desc()).limit(1)).one()
                for kind in ("tray", "shelf-box")
            )
            recovering = session.scalars(
                select(CellRow.number).join(StepEntry).where(StepEntry.step == "recovery-started")
            ).one()
            watched = session.scalars(
                select(CellRow.number)
                .join(ReadingEntry)
                .where(ReadingEntry.instrument_id.is_not(None))
                .order_by(ReadingEntry.id.desc())
                .limit(1)
            ).one()
            box_id = session.scalars(select(Place.id).where(Place.number == box)).one()
            pack = session.scalars(select(Pack.number).order_by(Pack.id).limit(1)).one()
            plan = session.scalars(select(Pack.number).where(Pack.state == "planned").limit(1)).one()
            proving, back = (
                session.scalars(select(Pack.number).where(Pack.state == state)).first() for state in ("built", "back")
            )
            token = session.scalars(select(PackPage.token)).first()
            steps = {group.step: group.count for group in home.by_step(session, datetime.now(UTC))}
        screens = [
            "/", "/open", f"/donors/{donor}", "/bench", "/bench?step=inspect", "/bench?step=measure-voltage",
            "/bench?step=charge", "/bench?step=repeat-measurement", "/bench?step=decide", "/bench?step=recover",
            "/bench?step=repair", "/bench?step=out-box", f"/bench/{cells[0]}", f"/cells/{cells[0]}", f"/cells/{cells[-1]}",
            "/shelf", "/shelf?where=everywhere&grade=out", "/shelf?grade=not-yet", "/match", "/packs", f"/packs/{pack}",
            f"/packs/{plan}", f"/packs/{plan}/measure", f"/packs/{plan}/build", f"/packs/{proving}/prove", f"/packs/{back}",
            f"/packs/{back}/layout", "/packs/take-in", "/recalls", f"/p/{token}", "/recell", "/catalogue?part=pack-parts",
            f"/trays/{tray}", f"/places/{box}", f"/bench/{recovering}", "/places", "/labels", "/lists", "/more", "/parts",
            "/catalogue", "/catalogue?part=donor-kinds", "/rules", "/out-box", "/nowhere", "/me", "/logs", "/logs/1", "/logs/5", "/logs/6",
            "/brought", "/practice", f"/compare?cells={cells[0]},{cells[-1]},{watched}", "/sums/join", "/sums/self-discharge", "/instruments", "/table", "/table/K101", "/table/K158", "/wall", "/testers", "/evening", f"/cells/{watched}", f"/bench?place={box_id}",
        ]  # fmt: skip
        with served(engine, photos) as address:
            yield Demo(address, screens, steps)


def test_the_demo_has_something_true_to_show_at_every_step(demo: Demo) -> None:
    assert {"inspect", "repair", "measure-voltage", "recover", "charge", "rest", "measure-capacity"} <= set(demo.steps)
    assert {"repeat-measurement", "keep", "recheck", "decide", "out-box", "hand-over", "in-pack"} <= set(demo.steps)
    assert sum(demo.steps.values()) >= 60


#: What can differ where a screen is only dark and narrow: colours on one another, and how large a thumb's target is.
OF_COLOUR_AND_SIZE = "{type: 'rule', values: ['color-contrast', 'target-size']}"
OF_EVERYTHING = "['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']"


def test_axe_finds_nothing_on_any_screen(new_context: Callable[..., BrowserContext], demo: Demo) -> None:
    address = demo.address
    page = new_context().new_page()
    page.goto(address)
    expect(page.get_by_label("Password")).to_be_visible()
    page.evaluate(AXE)
    found = {"/sign-in": _axe(page)}
    sign_in(page, address, COORDINATOR, PASSWORD)
    page.evaluate(AXE)
    for path in demo.screens:
        follow(page, path)
        found[path] = _axe(page)
    follow(page, "/match")
    page.get_by_role("button", name="Match 2S2P").click()
    page.get_by_text("Proven bound").wait_for()
    found["a match"] = _axe(page)
    follow(page, "/bench?step=inspect")
    page.get_by_role("button", name="Nothing found").press("h")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Dangerous? Enter again")).to_be_visible()
    page.keyboard.press("Enter")
    page.get_by_role("alertdialog").wait_for()
    found["the hazard screen"] = _axe(page)
    assert {path: violations for path, violations in found.items() if violations} == {}


def _axe(page: Page) -> list[str]:
    """What it finds wide in the light, then dark and narrow."""
    found = []
    for scheme, width, rules in (("light", 1280, OF_EVERYTHING), ("dark", 390, OF_COLOUR_AND_SIZE)):
        page.emulate_media(color_scheme=scheme)  # type: ignore[arg-type]
        page.set_viewport_size({"width": width, "height": 844})
        report = page.evaluate(f"() => axe.run(document, {{runOnly: {rules}, resultTypes: ['violations']}})")
        found += [
            f"{scheme}: {violation['id']}: {node['html'][:120]}"
            for violation in report["violations"]
            for node in violation["nodes"]
        ]
    return found
