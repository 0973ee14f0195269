"""`./zembric sums [NAME key=value ...]`: the bench sums on the command line."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from zembric.core.errors import BadInputError
from zembric.core.said import said
from zembric.core.sums.all import ALL_SUMS, work_out
from zembric.wording import say

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.inputs import Input
    from zembric.core.sums.registry import Sum

_DIGITS = 9


def answer_sums(words: Sequence[str]) -> dict[str, Any]:
    """The list of all sums without a name, else the outputs of one at the top level.

    Raises:
        NotFoundError: there is no such sum.
        BadInputError: a word is no key=value, or a value cannot be.
    """
    if not words:
        return {"sums": [_described(entry) for entry in ALL_SUMS.values()]}
    name, *pairs = words
    typed: dict[str, str] = {}
    for pair in pairs:
        key, equals, value = pair.partition("=")
        if not equals:
            raise BadInputError(f'"{pair[:40]}" is no key=value.', code="bad-arguments")
        if key in typed:
            raise BadInputError(f'"{key}" is said twice.', code="bad-arguments", field=key)
        typed[key] = value
    try:
        result = work_out(name, typed)
    except BadInputError as error:
        # Whoever types keys is told the key; the words are those of the form.
        if error.field and error.code != "unknown-key":
            error.said = said("at-field", field=error.field, wrong=error.said)
        raise
    answer: dict[str, Any] = {key: _plain(value) for key, value in result.outputs.items()}
    answer["warnings"] = [
        {"code": red.code, "text": say(red.said), "value": _plain(red.value), "limit": _plain(red.limit), "kind_of_limit": red.kind.value}
        for red in result.warnings
    ]  # fmt: skip
    answer["remarks"] = [say(each) for each in (*(red.said for red in result.warnings), *result.cautions)]
    return answer


def _described(entry: Sum) -> dict[str, Any]:
    return {
        "name": entry.name,
        "title": say(entry.title),
        "inputs": [_input(given) for given in entry.inputs],
        "outputs": [{"key": out.key, "unit": out.unit, "meaning": say(out.meaning)} for out in entry.outputs],
        "formula": say(entry.formula),
        "grounds": [{"text": say(g.said), "kind": g.kind.value, "source": say(g.source)} for g in entry.grounds],
    }


def _input(given: Input) -> dict[str, Any]:
    shown: dict[str, Any] = {
        "key": given.key,
        "unit": given.unit,
        "meaning": say(given.meaning),
        "optional": given.optional,
    }
    return shown | ({"choices": list(given.choices)} if given.choices else {})


def _plain(value: float | str | bool | None) -> float | str | bool | None:
    if isinstance(value, bool) or not isinstance(value, float):
        return value
    return float(f"{value:.{_DIGITS}g}")
