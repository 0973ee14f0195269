"""A joined pack is proved in a fixed order, each point with what was worked out for it and between which bounds.

Source: domain practice, docs/pack-in-hand.md; the bands are house values.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.pack.steps.model import Asked, HandStep
from zembric.core.said import Amount, Said, said, volts

if TYPE_CHECKING:
    from collections.abc import Iterator, Mapping, Sequence

    from zembric.core.house.limits import Family
    from zembric.core.house.rules import HouseRules


@dataclass(frozen=True, slots=True)
class Expected:
    """What is known of a pack before it is proved; None: nobody can say.

    `groups_v` are the voltages of its groups at rest, from minus on; under load `load_a` the first moments of the run on
    paper; `hours`, `ended_in` (from 1) and `energy_wh` its end, `promised_wh` what somebody was promised.
    """

    family: Family
    series: int
    full_v: float
    cutoff_v: float
    storage_v: float
    has_board: bool
    has_charger: bool
    groups_v: Sequence[float] | None = None
    group_ohm: Sequence[float] | None = None
    load_a: float | None = None
    hours: float | None = None
    ended_in: int | None = None
    energy_wh: float | None = None
    promised_wh: float | None = None
    #: Where its charger ends, a group [V]; None: at full.
    charged_v: float | None = None


def proving_steps(pack: Expected, done: Mapping[str, Mapping[str, float]], rules: HouseRules) -> tuple[HandStep, ...]:
    """All points in their order; what was measured at earlier ones is what later ones are held against."""
    return tuple(_points(pack, done, rules))


def _points(pack: Expected, done: Mapping[str, Mapping[str, float]], rules: HouseRules) -> Iterator[HandStep]:
    band = rules.value(limits.STEP_GROUP_V)
    numbers = range(1, pack.series + 1)
    yield HandStep(
        "groups", said("prove-groups"), (said("todo-prove-groups"),),
        asked=tuple(_group(number, pack, band, rules) for number in numbers), judged_as="groups",
    )  # fmt: skip
    measured = done.get("groups", {})
    known = [measured.get(f"g{number}") for number in numbers]
    each = [value for value in known if value is not None]
    is_known = len(each) == pack.series
    yield HandStep("polarity", said("prove-polarity"), (said("todo-prove-polarity"),))
    if pack.has_board and pack.series > 1:
        yield HandStep(
            "taps", said("prove-taps"), (said("todo-prove-taps"),),
            asked=tuple(
                _near(f"t{number}", said("asked-tap", tap=number), sum(each[:number]) if is_known else None, number * band)
                for number in numbers
            ),
            judged_as="taps",
        )  # fmt: skip
    whole = sum(each) if is_known else None
    yield HandStep(
        "pack", said("prove-pack"), (said("todo-prove-pack"),),
        asked=(_near("v", said("asked-pack"), whole, pack.series * band),), judged_as="pack",
    )  # fmt: skip
    if pack.has_board:
        yield HandStep(
            "board", said("prove-board"), (said("todo-prove-board"),),
            asked=(_near("v", said("asked-behind-board"), whole, pack.series * band),), judged_as="board",
        )  # fmt: skip
    yield _charge(pack, rules)
    yield _load(pack, rules)
    yield _run(pack, rules)
    yield _energy(pack, rules)
    yield HandStep(
        "storage", said("prove-storage"), (said("todo-prove-storage", volts=volts(pack.series * pack.storage_v)),),
        asked=(
            Asked(
                "v", "V", said("asked-pack"), pack.series * pack.storage_v, pack.series * pack.cutoff_v,
                pack.series * (pack.storage_v + rules.value(limits.STORED_ABOVE_V)),
            ),
        ),
        judged_as="storage", may_be_waived=True,
    )  # fmt: skip


def _group(number: int, pack: Expected, band: float, rules: HouseRules) -> Asked:
    least, most = limits.NEVER_CHARGE_BELOW_V[pack.family].value, pack.full_v + rules.value(limits.PROVE_FULL_V)
    name = said("asked-group", group=number)
    if pack.groups_v is None:
        return Asked(f"g{number}", "V", name, None, least, most)
    expected = pack.groups_v[number - 1]
    return Asked(f"g{number}", "V", name, expected, expected - band, expected + band, may_be=(least, most))


def _near(key: str, name: Said, expected: float | None, band: float) -> Asked:
    if expected is None:
        return Asked(key, "V", name)
    return Asked(key, "V", name, expected, expected - band, expected + band)


def _charge(pack: Expected, rules: HouseRules) -> HandStep:
    """The charger ends by itself, each group at full."""
    within, ends_v = rules.value(limits.PROVE_FULL_V), pack.charged_v or pack.full_v
    todo = [
        said("todo-prove-charge" if pack.has_charger else "todo-prove-charge-here"),
        said("todo-prove-charge-watch"),
    ]
    return HandStep(
        "charge", said("prove-charge"), tuple(todo), (said("caution-first-charge"),),
        asked=tuple(
            Asked(
                f"g{number}", "V", said("asked-group-full", group=number), ends_v, ends_v - within, ends_v + within
            )
            for number in range(1, pack.series + 1)
        ),
        judged_as="full",
    )  # fmt: skip


def _load(pack: Expected, rules: HouseRules) -> HandStep:
    """Groups under the load, a moment after it is on; the current and how warm it gets; power in and out where there is a converter."""
    sagged = None
    if pack.load_a is not None and pack.group_ohm is not None:
        sagged = [pack.full_v - pack.load_a * ohm for ohm in pack.group_ohm]
    asked = [Asked("a", "A", said("asked-load-current"), pack.load_a, 0.0)]
    for number in range(1, pack.series + 1):
        loaded = sagged[number - 1] if sagged else None
        asked.append(Asked(f"r{number}", "V", said("asked-group-before", group=number), pack.full_v))
        asked.append(Asked(f"g{number}", "V", said("asked-group-loaded", group=number), loaded))
    asked += [
        Asked("cell_degc", "°C", said("asked-cells-warm"), None, None, rules.value(limits.PROVE_CELL_DEGC)),
        Asked("board_degc", "°C", said("asked-board-warm"), None, None, rules.value(limits.PROVE_BOARD_DEGC), is_optional=True),
        Asked("in_w", "W", said("asked-power-in"), is_optional=True),
        Asked("out_w", "W", said("asked-power-out"), is_optional=True),
    ]  # fmt: skip
    return HandStep(
        "load", said("prove-load"), (said("todo-prove-load"),), (said("caution-load"),), asked=tuple(asked), judged_as="load"
    )  # fmt: skip


def _run(pack: Expected, rules: HouseRules) -> HandStep:
    hours = Amount(pack.hours, "h", 1) if pack.hours is not None else None
    ended = pack.ended_in or 0
    todo = said("todo-prove-run", hours=hours, group=ended) if hours else said("todo-prove-run-unknown")
    slack = rules.value(limits.PROVE_LOW_SHARE)
    return HandStep(
        "run", said("prove-run"), (todo,),
        asked=(
            Asked("hours", "h", said("asked-hours"), pack.hours, pack.hours * slack if pack.hours else None),
            *(
                Asked(f"g{number}", "V", said("asked-group-end", group=number), None, pack.cutoff_v - rules.value(limits.STEP_GROUP_V))
                for number in range(1, pack.series + 1)
            ),
        ),
        judged_as="run", may_be_waived=True,
    )  # fmt: skip


def _energy(pack: Expected, rules: HouseRules) -> HandStep:
    slack = rules.value(limits.PROVE_LOW_SHARE)
    wanted = pack.promised_wh or pack.energy_wh
    return HandStep(
        "energy", said("prove-energy"), (said("todo-prove-energy"),),
        asked=(Asked("wh", "Wh", said("asked-energy"), wanted, wanted * slack if wanted else None),),
        judged_as="energy", may_be_waived=True,
    )  # fmt: skip
