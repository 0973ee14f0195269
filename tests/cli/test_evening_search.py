"""A search in a process of its own gives a whole plan, and its failure is no plan; what is kept compiled is the search of today, or made anew."""

from __future__ import annotations

import subprocess
from pathlib import Path
from typing import Any, cast

import pytest

from tests.core.evening.test_order import problem
from tests.support.evenings import faults_of
from zembric.core.evening import native
from zembric.evening_search import compiled_turns, search_aside


def code_of_today() -> bytes:
    with pytest.MonkeyPatch.context() as asked:
        kept: list[bytes] = []
        asked.setattr(native, "Turns", kept.append)
        compiled_turns()
    return kept[0]


def test_a_plan_is_found_aside() -> None:
    asked = problem(cells=6)
    rows = search_aside(asked, 0.1)
    assert faults_of(asked, rows) == []
    assert len(rows) == 6


def test_what_fails_aside_is_no_empty_plan() -> None:
    with pytest.raises(subprocess.CalledProcessError):
        search_aside(cast(Any, "no problem at all"), 0.1)


@pytest.mark.parametrize("spoilt", [b"", b"cut short", b"of another version " * 5])
def test_code_that_is_not_the_search_of_today_is_made_anew_once(
    spoilt: bytes, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    code = code_of_today()
    made = iter((code,))
    monkeypatch.setattr(native, "compiled", lambda: next(made))
    monkeypatch.setenv("ZEMBRIC_COMPILED", str(tmp_path))
    (tmp_path / "turns").write_bytes(spoilt)
    compiled_turns()
    compiled_turns()
    assert not [*made]
