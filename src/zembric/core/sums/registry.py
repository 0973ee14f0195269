"""What a bench sum is: inputs with units, a formula with its source, outputs."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from difflib import get_close_matches
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError, NotFoundError
from zembric.core.house.limits import Kind
from zembric.core.inputs import Ground, Input, Value, Values, check_values
from zembric.core.said import OneOf, Said, named, said

if TYPE_CHECKING:
    from zembric.core.house.limits import Limit
    from zembric.core.house.rules import HouseRules


@dataclass(frozen=True, slots=True)
class Output:
    key: str
    unit: str
    meaning: Said
    digits: int = 1


@dataclass(frozen=True, slots=True)
class Line:
    """One line of a picture; `low` and `high` bound a band around it."""

    name: Said
    x: tuple[float, ...]
    y: tuple[float, ...]
    low: tuple[float, ...] = ()
    high: tuple[float, ...] = ()
    as_points: bool = False


@dataclass(frozen=True, slots=True)
class RedLine:
    """A value beyond what stands: shown red, with the limit it passes and the kind of number that is."""

    code: str
    said: Said
    value: float
    limit: float
    unit: str
    kind: Kind
    source: Said


def beyond(
    code: str, what: Said, value: float, limit: Limit, at: float | None = None, unit: str = ""
) -> tuple[RedLine, ...]:
    """A warning where a value passes its limit, or what follows from it (`at`); none where it does not."""
    most = limit.value if at is None else at
    if value <= most * (1 + 1e-9):
        return ()
    return (RedLine(code, what, value, most, unit or limit.unit, limit.kind, limit.source),)


@dataclass(frozen=True, slots=True)
class Picture:
    x_label: Said
    unit: str
    lines: tuple[Line, ...]


@dataclass(frozen=True, slots=True)
class Result:
    """Outputs by key, what a person should know of them, and a picture where it says more."""

    outputs: Mapping[str, Value]
    worked: Said
    cautions: tuple[Said, ...] = ()
    picture: Picture | None = None
    warnings: tuple[RedLine, ...] = ()


@dataclass(frozen=True, slots=True)
class Sum:
    name: str
    title: Said
    purpose: Said
    inputs: tuple[Input, ...]
    outputs: tuple[Output, ...]
    grounds: tuple[Ground, ...]
    work_out: Callable[[Values, HouseRules], Result] = field(repr=False)

    @property
    def formula(self) -> Said:
        return named("formula", self.name)


def run_sum(known: Mapping[str, Sum], name: str, typed: Mapping[str, str], rules: HouseRules) -> Result:
    """Works out one sum from typed values.

    Raises:
        NotFoundError: there is no such sum; offers near names.
        BadInputError: a key is unknown or missing, or a value cannot be; names the key.
    """
    wanted = known.get(name)
    if wanted is None:
        near = tuple(get_close_matches(name, known, n=2))
        wrong = said("there-is-no-sum-perhaps", name=name[:40], near=OneOf(near))
        raise NotFoundError(
            wrong if near else said("there-is-no-sum-there-are", name=name[:40], names=tuple(known)), code="unknown-sum"
        )
    result = wanted.work_out(check_values(wanted.name, wanted.inputs, typed), rules)
    for key, value in result.outputs.items():
        if isinstance(value, float) and not math.isfinite(value):
            meaning = next(output.meaning for output in wanted.outputs if output.key == key)
            raise BadInputError(said("these-values-lead-to-no-number", meaning=meaning), field=wanted.inputs[0].key)
    return result
