"""A search in a process of its own gives a whole plan, and its failure is no plan."""

from __future__ import annotations

import subprocess
from typing import Any, cast

import pytest

from tests.core.evening.test_order import problem
from tests.support.evenings import faults_of
from zembric.evening_search import search_aside


def test_a_plan_is_found_aside() -> None:
    asked = problem(cells=6)
    rows = search_aside(asked, 0.1)
    assert faults_of(asked, rows) == []
    assert len(rows) == 6


def test_what_fails_aside_is_no_empty_plan() -> None:
    with pytest.raises(subprocess.CalledProcessError):
        search_aside(cast(Any, "no problem at all"), 0.1)
