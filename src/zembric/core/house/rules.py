"""The house rules: which schools a repair cafe follows where practice differs, and its own values for house limits."""

from __future__ import annotations

import math
from dataclasses import dataclass, field, replace
from types import MappingProxyType
from typing import TYPE_CHECKING, Literal, get_args

from zembric.core.errors import BadInputError
from zembric.core.house import limits
from zembric.core.house.limits import Family, GradeSteps, Limit
from zembric.core.said import Said, named, plain, said

if TYPE_CHECKING:
    from collections.abc import Mapping

    from zembric.core.story import CellFacts

VoltageSchool = Literal["strict", "usual", "thrifty"]
# What speaks for each school, in its own words; a cafe chooses and says why.
WHY_VOLTAGE_SCHOOL: Mapping[VoltageSchool, Said] = MappingProxyType(
    {school: named("voltage-school-why", school) for school in get_args(VoltageSchool)}
)
GradeSchool = Literal["health", "bins", "fitness"]

VOLTAGE_SCHOOLS: Mapping[VoltageSchool, Said] = MappingProxyType(
    {school: named("voltage-school-means", school) for school in get_args(VoltageSchool)}
)
GRADE_SCHOOLS: Mapping[GradeSchool, Said] = MappingProxyType(
    {school: named("grade-school-means", school) for school in get_args(GradeSchool)}
)


@dataclass(frozen=True, slots=True)
class Switch:
    """Something that is settled differently from house to house, and no arithmetic decides: its choices, each with what speaks for it."""

    key: str
    choices: tuple[str, ...]
    usual: str

    @property
    def question(self) -> Said:
        return named("switch", self.key)

    def name_of(self, choice: str) -> Said:
        return Said(f"switch-{self.key}-{choice}")

    def why(self, choice: str) -> Said:
        return Said(f"switch-{self.key}-{choice}-why")


SWITCHES: Mapping[str, Switch] = MappingProxyType(
    {
        switch.key: switch
        for switch in (
            Switch("pack-sizes", ("one", "any"), "one"),
            Switch("pack-models", ("same", "near"), "same"),
            Switch("joining", ("spot-weld", "solder"), "spot-weld"),
            Switch("vape-cells", ("packs", "single-use"), "packs"),
            Switch("pack-board", ("with", "without"), "with"),
        )
    }
)


#: All house values by key, in the order they are shown in.
HOUSE_LIMITS: Mapping[str, Limit] = MappingProxyType(
    {key: limit for key, limit in limits.ALL_LIMITS.items() if limit.kind is limits.Kind.HOUSE}
)
#: Those that a coordinator may set otherwise: all that are no matter of life.
EDITABLE: Mapping[str, Limit] = MappingProxyType({key: limit for key, limit in HOUSE_LIMITS.items() if not limit.fixed})
#: A value further from its default than this factor is a slip, or no longer the rule it claims to be.
WIDEST_FACTOR = 4.0
_WIDER = (("strict", "usual"), ("usual", "relaxed"))
# Each pair must stand in this order, or the rules contradict themselves.
_IN_ORDER: tuple[tuple[Limit, Limit], ...] = (
    *((steps.c, steps.b) for steps in (limits.HEALTH_PCT, *limits.BINS_MAH_PER_CM3.values(), limits.POWER_C)),
    *((steps.b, steps.a) for steps in (limits.HEALTH_PCT, *limits.BINS_MAH_PER_CM3.values(), limits.POWER_C)),
    (limits.WATCH_MV_PER_DAY, limits.LEAKING_MV_PER_DAY),
    (limits.LIKELY_FROM, limits.SURE_FROM),
    (limits.CHARGED_WITHIN_V, limits.CHARGED_NEARLY_WITHIN_V),
    (limits.SETTLES_ENDED_V, limits.SETTLES_STOPPED_V),
    (limits.COMPARABLE_FROM_DEGC, limits.COMPARABLE_TO_DEGC),
    (limits.SMALL_FLAT_BELOW_CM3, limits.LARGE_FLAT_FROM_CM3),
    (limits.HIGH_DRAIN_OHM_AH, limits.RESISTANCE_GOOD_OHM_AH),
    *((density.doubtful, density.impossible) for density in limits.DENSITY_WH_PER_L.values()),
    *((density.doubtful, density.impossible) for density in limits.DENSITY_WH_PER_KG.values()),
    *((limits.NEAR_CAPACITY_PCT[low], limits.NEAR_CAPACITY_PCT[high]) for low, high in _WIDER),
    *((limits.NEAR_RESISTANCE_RATIO[low], limits.NEAR_RESISTANCE_RATIO[high]) for low, high in _WIDER),
    *((limits.NEAR_VOLTAGE_V[low], limits.NEAR_VOLTAGE_V[high]) for low, high in _WIDER),
)


@dataclass(frozen=True, slots=True)
class SpecialRule:
    """Values that hold for one family or one size only, and go before the general ones."""

    values: Mapping[str, float]
    family: Family | None = None
    size_code: str | None = None


_NOTHING: Mapping[str, float] = MappingProxyType({})
_USUAL: Mapping[str, str] = MappingProxyType({key: switch.usual for key, switch in SWITCHES.items()})


@dataclass(frozen=True, slots=True)
class HouseRules:
    """One version of the rules. `version` goes into every judgement made under it.

    `values` are the house's own where they differ from the defaults, by limit key; `special` those of a family or a size.
    """

    version: int
    voltage_school: VoltageSchool
    grade_school: GradeSchool
    values: Mapping[str, float] = field(default_factory=lambda: _NOTHING)
    special: tuple[SpecialRule, ...] = ()
    switches: Mapping[str, str] = field(default_factory=lambda: _USUAL)

    def value(self, limit: Limit) -> float:
        """The value of a limit under these rules."""
        return self.values.get(limit.key, limit.value)

    def of(self, limits_of_families: Mapping[Family, Limit], family: Family) -> float:
        """The value that a limit set for each family has for this one."""
        return self.value(limits_of_families[family])

    def limit(self, limit: Limit) -> Limit:
        """The limit as it holds under these rules."""
        if limit.key not in self.values:
            return limit
        return replace(limit, value=self.values[limit.key], source=said("source-house-rules", version=self.version))

    def steps(self, steps: GradeSteps) -> GradeSteps:
        return GradeSteps(self.limit(steps.a), self.limit(steps.b), self.limit(steps.c))

    def for_cell(self, facts: CellFacts) -> HouseRules:
        """These rules as they hold for one cell: what is said of its size goes before its family, that before the general."""
        return self.for_kind(facts.family, facts.size_code)

    def for_kind(self, family: Family | None, size_code: str | None) -> HouseRules:
        """As `for_cell`, of a kind of cell that is not there yet."""
        of_family = [rule for rule in self.special if rule.family is not None and rule.family == family]
        of_size = [rule for rule in self.special if rule.size_code is not None and rule.size_code == size_code]
        if not of_family and not of_size:
            return self
        values = dict(self.values)
        for rule in (*of_family, *of_size):
            values |= rule.values
        return replace(self, values=values, special=())


#: What holds where no house has said anything: on the command line, and before the first start.
USUAL_RULES = HouseRules(0, "usual", "health")


def read_values(typed: Mapping[str, str]) -> dict[str, float]:
    """Values of house limits as typed, comma or point; what was left empty is as usual.

    Raises:
        BadInputError: one is no number; names its key.
    """
    values = {}
    for key, text in typed.items():
        if not text.strip():
            continue
        try:
            values[key] = float(text.strip().replace(",", ".").replace("\u2212", "-"))
        except ValueError:
            raise BadInputError(said("is-not-one-number", strip=text.strip()[:40]), field=key[:60]) from None
    return values


def differences(before: HouseRules, after: HouseRules) -> tuple[Said, ...]:
    """What changed from one version of the rules to another."""
    found: list[Said] = []
    if before.voltage_school != after.voltage_school:
        found.append(
            said(
                "changed-voltage-school",
                before=named("voltage-school", before.voltage_school),
                after=named("voltage-school", after.voltage_school),
            )
        )
    if before.grade_school != after.grade_school:
        found.append(
            said(
                "changed-grade-school",
                before=named("grade-school", before.grade_school),
                after=named("grade-school", after.grade_school),
            )
        )
    for limit in EDITABLE.values():
        if before.value(limit) != after.value(limit):
            found.append(
                said(
                    "changed-limit",
                    limit=limit.meaning,
                    before=plain(before.value(limit)),
                    after=plain(after.value(limit), limit.unit),
                )
            )
    for rule in after.special:
        if rule not in before.special:
            values = tuple(
                said("limit-is", limit=EDITABLE[key].meaning, value=plain(value, EDITABLE[key].unit))
                for key, value in rule.values.items()
            )
            found.append(said("changed-special", of=rule.family or rule.size_code or "", values=values))
    found += [
        said("changed-no-special", of=rule.family or rule.size_code or "")
        for rule in before.special
        if rule not in after.special
    ]
    for key, switch in SWITCHES.items():
        if before.switches[key] != after.switches[key]:
            found.append(said("one-after-another", first=switch.question, then=switch.name_of(after.switches[key])))
    return tuple(found)


def check_rules(rules: HouseRules) -> HouseRules:
    """The rules themselves where they can be; values that are the default are left out.

    Raises:
        BadInputError: an unknown school, switch or limit, a value that cannot be, or values that contradict one another.
    """
    if rules.voltage_school not in get_args(VoltageSchool):
        raise BadInputError(
            said("is-no-voltage-school", voltage_school=rules.voltage_school, voltage_schools=tuple(VOLTAGE_SCHOOLS)),
            field="voltage_school",
        )
    if rules.grade_school not in get_args(GradeSchool):
        raise BadInputError(
            said("is-no-grade-school", grade_school=rules.grade_school, grade_schools=tuple(GRADE_SCHOOLS)),
            field="grade_school",
        )
    for key, choice in rules.switches.items():
        switch = SWITCHES.get(key)
        if switch is None:
            raise BadInputError(said("is-no-switch", key=key[:40], switches=tuple(SWITCHES)), field="switches")
        if choice not in switch.choices:
            raise BadInputError(
                said("is-no-choice-of-switch", choice=choice[:40], choices=tuple(switch.choices)), field=key
            )
    general = _checked_values(rules.values, {})
    special = []
    for rule in rules.special:
        if (rule.family is None) == (rule.size_code is None):
            raise BadInputError(said("special-rule-is-for-one-family"), field="special")
        values = _checked_values(rule.values, general)
        if values:
            special.append(replace(rule, values=values))
    return replace(rules, values=general, special=tuple(special), switches={**_USUAL, **rules.switches})


def _checked_values(values: Mapping[str, float], general: Mapping[str, float]) -> dict[str, float]:
    for key, value in values.items():
        limit = EDITABLE.get(key)
        if limit is None:
            raise BadInputError(said("is-no-value-of-house-rules", key=key[:60]), field=key[:60])
        least, most = limit.bounds or (limit.value / WIDEST_FACTOR, limit.value * WIDEST_FACTOR)
        if not math.isfinite(value) or not least <= value <= most:
            raise BadInputError(
                said(
                    "limit-cannot-be",
                    limit=limit.meaning,
                    value=plain(value),
                    least=plain(least),
                    most=plain(most, limit.unit),
                ),
                field=key,
            )
    holds = {**general, **values}
    for low, high in _IN_ORDER:
        below, above = holds.get(low.key, low.value), holds.get(high.key, high.value)
        if below >= above:
            raise BadInputError(
                said(
                    "must-lie-below",
                    meaning=low.meaning,
                    below=plain(below),
                    other=high.meaning,
                    above=plain(above),
                ),
                field=low.key if low.key in values else high.key,
            )
    usual = {key: general.get(key, EDITABLE[key].value) for key in values}
    return {key: value for key, value in values.items() if value != usual[key]}
