"""A language is one file: with it there, people are told in it, and paper is printed in it."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from pathlib import Path

import pypdfium2
import pytest
from sqlalchemy.orm import Session

from tests.api.conftest import Person
from tests.support.benchwork import numbers_of, open_donor
from tests.support.languages import accented
from zembric import wording
from zembric.core.identify.numbering import make_number
from zembric.operations.actors import Actor

NO_SUCH_CELL = f"/api/cells/{make_number('cell', 5)}"
ENGLISH, OTHER = "There is no cell", "Théré îš ñõ çéll"


@pytest.fixture(autouse=True)
def second_language(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    english = wording.catalogue_file("en").read_text(encoding="utf-8")
    (tmp_path / "en.ftl").write_text(english, encoding="utf-8")
    (tmp_path / "de.ftl").write_text(accented(english), encoding="utf-8")
    monkeypatch.setattr(wording, "WORDS", tmp_path)
    wording.languages.cache_clear()
    yield
    wording.words.cache_clear()
    wording.languages.cache_clear()
    wording.speak(None)


def told(person: Person, asks_for: str) -> tuple[str, str]:
    answer = person.client.get(NO_SUCH_CELL, headers={"Accept-Language": asks_for})
    return answer.headers["Content-Language"], answer.get_json()["text"]


def choose(person: Person, language: str | None, path: str = "/api/session/language") -> int:
    status: int = person.post(path, {"language": language}, "PUT").status_code
    return status


@pytest.mark.parametrize(
    ("asks_for", "language", "begins"),
    [("de-CH, en;q=0.5", "de", OTHER), ("en-GB", "en", ENGLISH), ("fi", "en", ENGLISH)],
)
def test_whoever_chose_nothing_is_told_as_their_browser_asks(
    volunteer_page: Person, asks_for: str, language: str, begins: str
) -> None:
    spoken, text = told(volunteer_page, asks_for)
    assert (spoken, text[: len(begins)]) == (language, begins)


def test_what_a_person_chose_holds_wherever_they_sign_in_until_they_take_it_back(
    volunteer_page: Person, anybody: Callable[[], Person]
) -> None:
    assert choose(volunteer_page, "de") == 200
    elsewhere = anybody()
    assert elsewhere.sign_in("Volunteer").json["is_language_chosen"]
    assert told(elsewhere, "en")[0] == "de"
    assert choose(elsewhere, None) == 200
    assert told(elsewhere, "en")[0] == "en"


def test_a_language_that_is_not_there_is_refused(volunteer_page: Person) -> None:
    assert choose(volunteer_page, "fi") == 422


def test_the_page_itself_names_the_language_it_is_read_in(volunteer_page: Person) -> None:
    page = volunteer_page.client.get("/", headers={"Accept-Language": "de"})
    assert '<html lang="de">' in page.text


def test_what_was_judged_before_is_told_in_the_new_language(
    session: Session, volunteer: Actor, volunteer_page: Person
) -> None:
    number = numbers_of(open_donor(session, volunteer))[0]
    session.commit()
    answer = volunteer_page.client.get(f"/api/cells/{number}", headers={"Accept-Language": "de"}).get_json()
    cell = answer["cell"]
    said = [cell["step_text"], *(reason["text"] for reason in cell["reasons"])]
    assert [re.findall(r"[a-z]{4,}", text) for text in said] == [[] for _ in said]


def test_paper_is_printed_in_the_language_of_the_house_whoever_prints_it(
    session: Session, volunteer: Actor, volunteer_page: Person, coordinator_page: Person
) -> None:
    tray = open_donor(session, volunteer, 4).cells[0].place
    session.commit()
    assert tray
    assert choose(volunteer_page, "de", "/api/print-language") == 403

    def printed() -> str:
        document = pypdfium2.PdfDocument(volunteer_page.get(f"/api/trays/{tray.number}/sheet.pdf").data)
        try:
            return str(document[0].get_textpage().get_text_range())
        finally:
            document.close()

    assert "Look first" in printed()
    assert choose(coordinator_page, "de", "/api/print-language") == 200
    assert "Look first" not in printed()
    assert "Lõõk fîršt" in printed()
