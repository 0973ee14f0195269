"""What the figures of a step say: right, or what is likely wrong and what to measure next."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.pack.steps.model import Finding
from zembric.core.said import Amount, said, volts

if TYPE_CHECKING:
    from collections.abc import Callable, Mapping

    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.steps.model import Asked, HandStep, JudgedAs

    Figures = Mapping[str, float]
    Judge = Callable[[HandStep, Figures, HouseRules], Finding | None]

#: Below this nothing is joined, or the meter touches nothing [V].
_NOTHING_V = 0.3
#: A whole group more or less, within so much of its voltage.
_ABOUT = 0.15


def judge_readings(step: HandStep, figures: Figures, rules: HouseRules) -> Finding:
    """The worst of what its figures say."""
    found = _JUDGES[step.judged_as](step, figures, rules) if step.judged_as in _JUDGES else None
    return found or Finding("right", said("finding-right"))


def _outside(asked: Asked, value: float) -> bool:
    below = asked.least is not None and value < asked.least - 1e-9
    return below or (asked.most is not None and value > asked.most + 1e-9)


def _band(asked: Asked) -> tuple[Amount, Amount]:
    digits = 1 if asked.unit in ("°C", "Wh", "h") else 2
    return Amount(asked.least or 0.0, asked.unit, digits), Amount(asked.most or 0.0, asked.unit, digits)


def _first_sight(asked: Asked, value: float) -> Finding | None:
    """What any voltage can tell: nothing there, or the wrong way round."""
    if asked.expected is not None and asked.expected > _NOTHING_V:
        if abs(value + asked.expected) <= _ABOUT * asked.expected:
            return Finding("wrong", said("finding-reversed", value=volts(value)), said("then-reversed"))
        if abs(value) < _NOTHING_V:
            return Finding("wrong", said("finding-nothing", value=volts(value)), said("then-nothing"))
    if value < -_NOTHING_V:
        return Finding("wrong", said("finding-reversed", value=volts(value)), said("then-reversed"))
    return None


def _one(step: HandStep, figures: Figures, tell: Callable[[Amount, Amount, Amount], Finding]) -> Finding | None:
    """A single voltage against its band; `tell` says what it means outside: value, least, most."""
    (asked,) = step.asked
    value = figures[asked.key]
    if not _outside(asked, value):
        return None
    return _first_sight(asked, value) or tell(volts(value), *_band(asked))


def _group(step: HandStep, figures: Figures, _rules: HouseRules) -> Finding | None:
    def tell(value: Amount, least: Amount, most: Amount) -> Finding:
        return Finding("wrong", said("finding-group-off", value=value, least=least, most=most), said("then-group-off"))

    return _one(step, figures, tell)


def _links(step: HandStep, figures: Figures, _rules: HouseRules) -> Finding | None:
    (asked,) = step.asked
    value, expected = figures[asked.key], asked.expected or 0.0
    if not _outside(asked, value):
        return None
    if seen := _first_sight(asked, value):
        return seen
    groups = _groups_in(asked)
    least, most = _band(asked)
    one = expected / groups if groups else expected
    # A group the wrong way round takes itself away twice.
    if groups > 1 and abs(value - (expected - 2 * one)) <= _ABOUT * one:
        return Finding(
            "wrong", said("finding-one-turned", value=volts(value), expected=volts(expected)), said("then-one-turned")
        )
    if groups > 1 and abs(value - (expected - one)) <= _ABOUT * one:
        return Finding(
            "wrong", said("finding-one-missing", value=volts(value), expected=volts(expected)), said("then-one-missing")
        )
    return Finding("wrong", said("finding-link-off", value=volts(value), least=least, most=most), said("then-link-off"))


def _groups_in(asked: Asked) -> int:
    """Across how many groups it is measured."""
    held = dict(asked.name.parameters)
    first, last = held.get("first"), held.get("last")
    return last - first + 1 if isinstance(first, int) and isinstance(last, int) else 1


def _taps(step: HandStep, figures: Figures, _rules: HouseRules) -> Finding | None:
    for asked in step.asked:
        value = figures[asked.key]
        if not _outside(asked, value):
            continue
        tap = _number_of(asked)
        if seen := _first_sight(asked, value):
            return seen
        one = (asked.expected or 0.0) / tap if tap else 0.0
        other = round(value / one) if one else tap
        least, most = _band(asked)
        if other != tap and other > 0 and abs(value - other * one) <= _ABOUT * one:
            return Finding(
                "wrong", said("finding-other-tap", tap=tap, value=volts(value), other=other), said("then-other-tap")
            )
        return Finding(
            "wrong", said("finding-tap-off", tap=tap, value=volts(value), least=least, most=most), said("then-tap-off", group=tap)
        )  # fmt: skip
    return None


def _number_of(asked: Asked) -> int:
    held = dict(asked.name.parameters)
    number = held.get("tap", held.get("group"))
    return number if isinstance(number, int) else 0


def _spread(step: HandStep, figures: Figures) -> tuple[float, int, int]:
    """How far groups lie apart [V], and which is lowest and highest (from 1)."""
    numbers = [asked for asked in step.asked if asked.key[0] == "g"]
    values = [figures[asked.key] for asked in numbers]
    low, high = values.index(min(values)), values.index(max(values))
    return max(values) - min(values), low + 1, high + 1


def _moved_together(step: HandStep, figures: Figures, rules: HouseRules) -> Finding | None:
    """All groups stand by the same beside what they were joined at: the pack was charged or discharged since."""
    if any(asked.expected is None or asked.may_be is None for asked in step.asked):
        return None
    moved = [figures[asked.key] - (asked.expected or 0.0) for asked in step.asked]
    inside = all(a.may_be is not None and a.may_be[0] <= figures[a.key] <= a.may_be[1] for a in step.asked)
    by_v = sum(moved) / len(moved)
    if not inside or max(moved) - min(moved) > rules.value(limits.STEP_GROUP_V) + 1e-9:
        return None
    if all(not _outside(asked, figures[asked.key]) for asked in step.asked):
        return None
    return Finding("look", said("finding-groups-moved", moved=volts(abs(by_v))), said("then-groups-moved"))


def _groups(step: HandStep, figures: Figures, rules: HouseRules) -> Finding | None:
    if moved := _moved_together(step, figures, rules):
        return _apart(step, figures, rules) or moved
    for asked in step.asked:
        value = figures[asked.key]
        if _outside(asked, value):
            if seen := _first_sight(asked, value):
                return seen
            least, most = _band(asked)
            text = said("finding-group-not", group=_number_of(asked), value=volts(value), least=least, most=most)
            return Finding("wrong", text, said("then-group-not", group=_number_of(asked)))
    return _apart(step, figures, rules)


def _apart(step: HandStep, figures: Figures, rules: HouseRules) -> Finding | None:
    apart, low, high = _spread(step, figures)
    within = rules.value(limits.GROUPS_WITHIN_V)
    if apart > within + 1e-9:
        text = said("finding-groups-apart", low=low, high=high, apart=volts(apart), within=volts(within))
        return Finding("wrong", text, said("then-groups-apart", low=low))
    return None


def _pack(step: HandStep, figures: Figures, _rules: HouseRules) -> Finding | None:
    def tell(value: Amount, least: Amount, most: Amount) -> Finding:
        return Finding("wrong", said("finding-pack-off", value=value, least=least, most=most), said("then-pack-off"))

    return _one(step, figures, tell)


def _board(step: HandStep, figures: Figures, _rules: HouseRules) -> Finding | None:
    (asked,) = step.asked
    value = figures[asked.key]
    if not _outside(asked, value):
        return None
    if abs(value) < _NOTHING_V:
        return Finding("wrong", said("finding-board-asleep", value=volts(value)), said("then-board-asleep"))
    least, most = _band(asked)
    return Finding(
        "wrong", said("finding-board-off", value=volts(value), least=least, most=most), said("then-board-off")
    )


def _full(step: HandStep, figures: Figures, rules: HouseRules) -> Finding | None:
    for asked in step.asked:
        value = figures[asked.key]
        if _outside(asked, value):
            least, most = _band(asked)
            is_above = asked.most is not None and value > asked.most
            text = said(
                "finding-full-above" if is_above else "finding-full-below", group=_number_of(asked), value=volts(value),
                least=least, most=most,
            )  # fmt: skip
            return Finding("wrong", text, said("then-full-above") if is_above else said("then-full-below"))
    apart, low, high = _spread(step, figures)
    well, fails = rules.value(limits.PROVE_SPREAD_WELL_V), rules.value(limits.PROVE_SPREAD_FAILS_V)
    if apart >= fails - 1e-9:
        text = said("finding-full-apart", low=low, high=high, apart=volts(apart), limit=volts(fails))
        return Finding("wrong", text, said("then-full-apart", low=low))
    if apart > well + 1e-9:
        text = said("finding-full-apart", low=low, high=high, apart=volts(apart), limit=volts(well))
        return Finding("look", text, said("then-full-look", low=low))
    return None


def _load(step: HandStep, figures: Figures, rules: HouseRules) -> Finding | None:
    by_key = {asked.key: asked for asked in step.asked}
    for key in ("cell_degc", "board_degc"):
        if key in figures and _outside(by_key[key], figures[key]):
            warm, most = Amount(figures[key], "°C"), Amount(by_key[key].most or 0.0, "°C")
            if key == "cell_degc":
                return Finding("wrong", said("finding-cells-hot", warm=warm, most=most), said("then-cells-hot"))
            return Finding("wrong", said("finding-board-hot", warm=warm, most=most), said("then-board-hot"))
    return _sag(step, figures, rules) or _lost(figures, rules)


def _sag(step: HandStep, figures: Figures, rules: HouseRules) -> Finding | None:
    """A joint that is too high shows as one group that sags more than the others and than was worked out."""
    by_key = {asked.key: asked for asked in step.asked}
    expected_a, current_a = by_key["a"].expected, figures["a"]
    if not expected_a or current_a <= 0:
        return None
    times, sees_v = 1 + rules.value(limits.PROVE_SAG_SHARE), 2 * rules.value(limits.VOLTAGE_RESOLUTION_V)
    worst: tuple[float, int, float, float] | None = None
    for asked in (each for each in step.asked if each.key[0] == "g" and each.expected is not None):
        before = by_key[f"r{_number_of(asked)}"]
        wanted_v = ((before.expected or 0.0) - (asked.expected or 0.0)) * current_a / expected_a
        sags_v = figures[before.key] - figures[asked.key]
        above_v = sags_v - max(times * wanted_v, wanted_v + sees_v)
        if above_v > 1e-9 and (worst is None or above_v > worst[0]):
            worst = (above_v, _number_of(asked), sags_v, wanted_v)
    if worst is None:
        return None
    _, group, sags_v, wanted_v = worst
    more = Amount(1000 * (sags_v - wanted_v) / current_a, "mΩ")
    text = said("finding-joint-high", group=group, sags=volts(sags_v), wanted=volts(wanted_v), more=more)
    return Finding("wrong", text, said("then-joint-high", group=group))


def _lost(figures: Figures, rules: HouseRules) -> Finding | None:
    """Power in and out of a converter."""
    if "in_w" not in figures or "out_w" not in figures or figures["in_w"] <= 0:
        return None
    share, usual = figures["out_w"] / figures["in_w"], rules.value(limits.CONVERTER_EFFICIENCY)
    told = Amount(100 * share, "%")
    if share > 1:
        return Finding("wrong", said("finding-more-out", share=told), said("then-more-out"))
    if share < usual * rules.value(limits.PROVE_LOW_SHARE):
        return Finding(
            "look",
            said("finding-converter-loses", share=told, usual=Amount(100 * usual, "%")),
            said("then-converter-loses"),
        )
    return None


def _run(step: HandStep, figures: Figures, _rules: HouseRules) -> Finding | None:
    ends = [asked for asked in step.asked if asked.key[0] == "g"]
    _, weakest, _ = _spread(step, figures)
    for asked in ends:
        if _outside(asked, figures[asked.key]):
            text = said(
                "finding-run-too-low",
                group=_number_of(asked),
                value=volts(figures[asked.key]),
                least=volts(asked.least or 0.0),
            )
            return Finding("wrong", text, said("then-run-too-low"))
    hours = step.asked[0]
    if _outside(hours, figures["hours"]):
        text = said(
            "finding-run-short", hours=Amount(figures["hours"], "h", 1), expected=Amount(hours.expected or 0.0, "h", 1), group=weakest
        )  # fmt: skip
        return Finding("wrong", text, said("then-run-short", group=weakest))
    return None


def _energy(step: HandStep, figures: Figures, _rules: HouseRules) -> Finding | None:
    (asked,) = step.asked
    if not _outside(asked, figures["wh"]):
        return None
    expected = asked.expected or 0.0
    share = Amount(100 * figures["wh"] / expected if expected else 0.0, "%")
    text = said(
        "finding-energy-low", energy=Amount(figures["wh"], "Wh", 1), expected=Amount(expected, "Wh", 1), share=share
    )
    return Finding("wrong", text, said("then-energy-low"))


def _storage(step: HandStep, figures: Figures, _rules: HouseRules) -> Finding | None:
    def tell(value: Amount, least: Amount, most: Amount) -> Finding:
        text = said("finding-storage-off", value=value, least=least, most=most)
        return Finding("wrong", text, said("then-storage-off"))

    return _one(step, figures, tell)


_JUDGES: Mapping[JudgedAs, Judge] = {
    "group": _group, "links": _links, "taps": _taps, "groups": _groups, "pack": _pack, "board": _board, "full": _full,
    "load": _load, "run": _run, "energy": _energy, "storage": _storage,
}  # fmt: skip
