"""Working through the pages with nothing but a keyboard."""

from __future__ import annotations

from playwright.sync_api import Page

_FOCUSED = """() => {
    const element = document.activeElement;
    if (!element || element === document.body) return '';
    const labels = [...(element.labels ?? [])].map(label => label.textContent);
    const by = (element.getAttribute('aria-labelledby') ?? '').split(' ').map(id => document.getElementById(id)?.textContent ?? '');
    return [element.getAttribute('aria-label'), ...labels, ...by, element.textContent].filter(Boolean).join(' ');
}"""
_MOST_TABS = 120


def tab_to(page: Page, name: str) -> None:
    """Presses Tab until the thing with this name has the focus."""
    for _ in range(_MOST_TABS):
        if name in page.evaluate(_FOCUSED):
            return
        page.keyboard.press("Tab")
    raise AssertionError(f"Tab never reaches {name!r}")


def press_on(page: Page, name: str) -> None:
    tab_to(page, name)
    page.keyboard.press("Enter")


def type_into(page: Page, name: str, text: str) -> None:
    tab_to(page, name)
    page.keyboard.press("ControlOrMeta+a")
    page.keyboard.type(text)


def choose(page: Page, group_first: str, wanted: str) -> None:
    """Moves through a group with the arrows and takes the wanted one."""
    tab_to(page, group_first)
    for _ in range(12):
        if wanted in page.evaluate(_FOCUSED):
            page.keyboard.press("Enter")
            return
        page.keyboard.press("ArrowRight")
    raise AssertionError(f"the arrows never reach {wanted!r}")
