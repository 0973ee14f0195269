"""Coming in by passkey, and ending what one is signed in with elsewhere."""

from __future__ import annotations

from collections.abc import Callable

from playwright.sync_api import BrowserContext, Page, expect

from tests.browser.conftest import sign_in
from tests.support.people import PASSWORD


def by_name(address: str) -> str:
    """Passkeys belong to a name; an address of digits has none."""
    return address.replace("127.0.0.1", "localhost")


def give_it_an_authenticator(page: Page) -> None:
    """The browser's own stand-in for a phone that asks for a finger."""
    devtools = page.context.new_cdp_session(page)
    devtools.send("WebAuthn.enable")
    options = {
        "protocol": "ctap2", "transport": "internal", "hasResidentKey": True, "hasUserVerification": True, "isUserVerified": True,
        "automaticPresenceSimulation": True,
    }  # fmt: skip
    devtools.send("WebAuthn.addVirtualAuthenticator", {"options": options})


def test_a_passkey_is_added_with_the_password_and_lets_one_in(
    new_context: Callable[..., BrowserContext], address: str
) -> None:
    page = sign_in(new_context().new_page(), by_name(address), "Volunteer", PASSWORD)
    give_it_an_authenticator(page)
    page.get_by_role("link", name="Volunteer").click()
    page.get_by_label("Your password, once more").fill("a wrong guess")
    page.get_by_role("button", name="Add a passkey of this device").click()
    expect(page.get_by_text("That is not your password.")).to_be_visible()
    page.get_by_label("Your password, once more").fill(PASSWORD)
    page.get_by_role("button", name="Add a passkey of this device").click()
    expect(page.get_by_text("for localhost, never used yet")).to_be_visible()
    page.get_by_role("button", name="Sign out").click()
    page.get_by_role("button", name="Sign in with a passkey").click()
    expect(page.get_by_role("link", name="Volunteer")).to_be_visible()
    expect(page.get_by_text("came in by passkey").first).to_be_visible()
    page.get_by_role("button", name="Take away").click()
    expect(page.get_by_text("passkey taken away")).to_be_visible()
    page.get_by_role("button", name="Sign out").click()
    page.get_by_role("button", name="Sign in with a passkey").click()
    expect(page.get_by_text("This passkey opens nothing here.")).to_be_visible()


def test_a_tablet_that_was_left_signed_in_is_ended_from_the_phone(
    new_context: Callable[..., BrowserContext], address: str
) -> None:
    tablet, phone = (sign_in(new_context().new_page(), address, "Volunteer", PASSWORD) for _ in range(2))
    phone.goto(f"{address}/me")
    # The tablet's stands below; the last one is another that every database of the tests has.
    phone.get_by_role("button", name="End", exact=True).first.click()
    expect(phone.get_by_role("button", name="End", exact=True)).to_have_count(1)
    tablet.reload()
    expect(tablet.get_by_role("heading", name="Sign in")).to_be_visible()
