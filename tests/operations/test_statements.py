"""What threads share of the database's questions is made before there are threads."""

from __future__ import annotations

import importlib
import pkgutil

import pytest
from sqlalchemy import Engine, Select, literal, select
from sqlalchemy.orm.util import AliasedClass

import zembric.operations
from zembric.operations import statements


def test_what_every_entry_asks_is_built_before_anybody_asks(engine: Engine, monkeypatch: pytest.MonkeyPatch) -> None:
    built: list[str] = []
    monkeypatch.setattr(statements, "_builders", [])

    @statements.built_once
    def question() -> Select[int]:
        built.append("once")
        return select(literal(1))

    statements.compile_statements(engine)
    ready = list(built)
    assert (ready, question() is question(), built) == (["once"], True, ["once"])


def test_no_alias_is_shared_by_threads() -> None:
    """It makes its columns as it is first asked, and two at once would leave half of them."""
    modules = pkgutil.walk_packages(zembric.operations.__path__, "zembric.operations.")
    found = {module.name: vars(importlib.import_module(module.name)).values() for module in modules}
    shared = [name for name, values in found.items() if any(isinstance(value, AliasedClass) for value in values)]
    assert (len(found) > 20, shared) == (True, [])
