"""What was said, in words: the catalogue `words/LANGUAGE.ftl` read by Fluent, numbers and lists set as the language sets them."""

from __future__ import annotations

import re
from contextvars import ContextVar
from functools import cache
from typing import TYPE_CHECKING

from babel import Locale
from babel.lists import format_list
from babel.numbers import format_decimal, format_scientific
from fluent.runtime import FluentBundle, FluentResource

from zembric.core.said import Amount, OneOf, Said, Span
from zembric.paths import WORDS

if TYPE_CHECKING:
    from collections.abc import Mapping
    from pathlib import Path

    from fluent.runtime.resolver import Pattern

    from zembric.core.said import Parameter

USUAL_LANGUAGE = "en"
#: From here on nobody counts the digits.
_TOO_LONG = 1e15
_speaking: ContextVar[str] = ContextVar("speaking", default=USUAL_LANGUAGE)
#: Where a language is set in more than one way.
_LOCALE_OF = {"en": "en_GB"}
_DAY_S, _HOUR_S, _MINUTE_S = 86_400, 3_600, 60
_BETWEEN = "\u00a0"
#: A message of the catalogue: its name at the beginning of a line, and all lines up to the next name.
_MESSAGE = re.compile(r"^(-?[a-zA-Z][\w-]*) =.*?(?=^-?[a-zA-Z#]|\Z)", re.MULTILINE | re.DOTALL)
#: Another message within one.
_REFERENCE = re.compile(r"\{ ([a-z][\w-]*) \}")


class Words:
    """One language. A message is parsed when it is first asked for: a command that says one thing does not read all of them."""

    def __init__(self, language: str, catalogue: str) -> None:
        self.language = language
        self._locale = Locale.parse(_LOCALE_OF.get(language, language))
        self._sources: Mapping[str, str] = {found[1]: found[0] for found in _MESSAGE.finditer(catalogue)}
        self._bundle = FluentBundle([language], use_isolating=False)
        self._parsed: dict[str, Pattern] = {}

    @property
    def codes(self) -> frozenset[str]:
        return frozenset(self._sources)

    def source(self, code: str) -> str:
        """A message as the catalogue has it."""
        return self._sources[code]

    def say(self, what: Said) -> str:
        """In words.

        Raises:
            KeyError: the catalogue has none for it.
            ValueError: its words ask for a parameter that it does not have.
        """
        told = {name: self._told(value) for name, value in what.parameters}
        text, faults = self._bundle.format_pattern(self._pattern(what.code), told)
        if faults:
            raise ValueError(f"{what}: {faults}")
        return str(text)

    def _pattern(self, code: str) -> Pattern:
        pattern = self._parsed.get(code)
        if pattern is None:
            self._bundle.add_resource(FluentResource(self._sources[code]))
            pattern = self._bundle.get_message(code).value
            assert pattern is not None  # a message with attributes alone is none of ours
            self._parsed[code] = pattern
            for other in _REFERENCE.findall(self._sources[code]):
                self._pattern(other)
        return pattern

    def _told(self, value: Parameter) -> str | int:
        match value:
            case Said():
                return self.say(value)
            case Amount():
                return self._amount(value)
            case Span():
                return self._span(value.seconds)
            case OneOf():
                return format_list([str(self._told(each)) for each in value.each], style="or", locale=self._locale)
            case tuple():
                return format_list([str(self._told(each)) for each in value], locale=self._locale)
            case _:
                return value

    def _amount(self, amount: Amount) -> str:
        if abs(amount.value) >= _TOO_LONG:
            number = format_scientific(float(f"{amount.value:.3g}"), locale=self._locale)
            return f"{number}{_BETWEEN}{amount.unit}" if amount.unit else number
        # Halves go up, as people round and as the browser does; formatting alone would take them to the even digit.
        nudged = amount.value + (1e-9 if amount.value >= 0 else -1e-9)
        digits = f"0.{'0' * amount.digits}" if amount.digits else "0"
        number = format_decimal(float(f"{nudged:.{amount.digits}f}"), format=digits, locale=self._locale)
        return f"{number}{_BETWEEN}{amount.unit}" if amount.unit else number

    def _span(self, seconds: float) -> str:
        for unit, least, each in (("days", 2 * _DAY_S, _DAY_S), ("hours", 2 * _HOUR_S, _HOUR_S)):
            if seconds >= least:
                count = int(seconds // each) if unit == "days" else round(seconds / each + 1e-9)
                return self.say(Said(f"span-{unit}", (("count", count),)))
        return self.say(Said("span-minutes", (("count", round(seconds / _MINUTE_S + 1e-9)),)))


@cache
def words(language: str = USUAL_LANGUAGE) -> Words:
    return Words(language, catalogue_file(language).read_text(encoding="utf-8"))


def catalogue_file(language: str) -> Path:
    return WORDS / f"{language}.ftl"


@cache
def languages() -> tuple[str, ...]:
    """The languages there are: a file each."""
    return tuple(sorted(path.stem for path in WORDS.glob("*.ftl")))


def speak(language: str | None) -> None:
    """Whatever is said from here on, in this request or command, is said in that language; None: the usual one."""
    _speaking.set(language if language in languages() else USUAL_LANGUAGE)


def spoken() -> str:
    return _speaking.get()


def say(what: Said, language: str | None = None) -> str:
    """What was said, in the words of a language, None: of the one that is spoken; raises as `Words.say`."""
    return words(language or spoken()).say(what)
