"""What a cell of a size can hold, and whether a claim or a rated value can be true of it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from zembric.core.errors import BadInputError, OddInputError
from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.identify.families import as_charged
from zembric.core.said import Amount, Said, said

if TYPE_CHECKING:
    from zembric.core.house.rules import HouseRules
    from zembric.core.identify.sizes import Size


SizeVerdict = Literal["believable", "doubtful", "impossible"]


@dataclass(frozen=True, slots=True)
class ClaimCheck:
    """A claimed capacity against what fits the size; both limits in mAh."""

    verdict: SizeVerdict
    doubtful_above_mah: float
    impossible_above_mah: float
    by: Literal["volume", "mass"]  # which of the two set the limit
    arithmetic: Said


def check_claim(
    size: Size, family: Family | None, claim_mah: float, rules: HouseRules, mass_g: float | None = None
) -> ClaimCheck | None:
    """Whether a claim [mAh] can fit, by volume and, where it was weighed, by mass: the lower limit counts.

    An unknown family is taken as layered oxide, the densest. None for primary cells.
    """
    known = as_charged(family) or Family.LAYERED_OXIDE
    if known is Family.PRIMARY:
        return None
    nominal_v = limits.NOMINAL_V[family or known].value
    by_volume_wh = [density * size.volume_cm3 / 1000 for density in _energy_limits(size, known, rules)]
    doubtful_wh, impossible_wh = by_volume_wh
    if mass_g is not None:
        by_mass = limits.DENSITY_WH_PER_KG[known]
        doubtful_wh = min(doubtful_wh, rules.value(by_mass.doubtful) * mass_g / 1000)
        impossible_wh = min(impossible_wh, rules.value(by_mass.impossible) * mass_g / 1000)
    is_by_mass = mass_g is not None and doubtful_wh < by_volume_wh[0]
    doubtful_mah, impossible_mah = 1000 * doubtful_wh / nominal_v, 1000 * impossible_wh / nominal_v
    verdict: SizeVerdict = "believable"
    if claim_mah > impossible_mah:
        verdict = "impossible"
    elif claim_mah > doubtful_mah:
        verdict = "doubtful"
    arithmetic = said(
        "holds-at-most",
        what=Amount(mass_g or 0, "g", 1) if is_by_mass else Amount(size.volume_cm3, "cm³", 1),
        energy=Amount(doubtful_wh, "Wh", 1),
        nominal=Amount(nominal_v, "V", 1),
        doubtful=Amount(doubtful_mah, "mAh"),
        impossible=Amount(impossible_mah, "mAh"),
    )
    return ClaimCheck(verdict, doubtful_mah, impossible_mah, "mass" if is_by_mass else "volume", arithmetic)


def most_mah(size: Size, family: Family | None, rules: HouseRules, mass_g: float | None = None) -> float | None:
    """The most that a cell of this size can hold [mAh]; of an unknown family as of the densest. None for primary cells."""
    check = check_claim(size, family, 0, rules, mass_g)
    return check.impossible_above_mah if check else None


def check_rated(
    size: Size | None, family: Family | None, rated_mah: float | None, rules: HouseRules, mass_g: float | None = None
) -> ClaimCheck | None:
    """Refuses a rated value [mAh] that no cell of the size can hold: a slip of a digit would set the charge current.

    Returns the arithmetic where it is possible but doubtful, so that it can be asked about; None: nothing to say.

    Raises:
        BadInputError: impossible for size, family and mass.
    """
    check = check_claim(size, family, rated_mah, rules, mass_g) if size and rated_mah else None
    if check is None or rated_mah is None or check.verdict == "believable":
        return None
    if check.verdict == "impossible":
        raise BadInputError(
            said("rated-cannot-be", rated=Amount(rated_mah, "mAh"), arithmetic=check.arithmetic),
            code="rated-impossible",
            field="rated_capacity_mah",
        )
    return check


def ask_about_rated(
    size: Size | None,
    family: Family | None,
    rated_mah: float | None,
    rules: HouseRules,
    mass_g: float | None = None,
    *,
    confirmed: bool,
) -> None:
    """A rated value [mAh] as a person sets it: refused where it cannot be, asked about once where it hardly can.

    Raises:
        BadInputError: as `check_rated`.
        OddInputError: more than such a cell usually holds, and not confirmed.
    """
    doubtful = check_rated(size, family, rated_mah, rules, mass_g)
    if doubtful is None or rated_mah is None or confirmed:
        return
    raise OddInputError(
        said("rated-is-more-than-such-cell", rated=Amount(rated_mah, "mAh"), arithmetic=doubtful.arithmetic),
        field="rated_capacity_mah",
    )


def _energy_limits(size: Size, family: Family, rules: HouseRules) -> tuple[float, float]:
    """Doubtful and impossible [Wh/L]; a flat layered-oxide cell loses room to its pouch the smaller it is."""
    large = limits.DENSITY_WH_PER_L[family, size.shape]
    doubtful, impossible = rules.value(large.doubtful), rules.value(large.impossible)
    if size.shape == "cylinder" or family is not Family.LAYERED_OXIDE:
        return doubtful, impossible
    small = limits.DENSITY_SMALL_FLAT_WH_PER_L
    low, high = rules.value(limits.SMALL_FLAT_BELOW_CM3), rules.value(limits.LARGE_FLAT_FROM_CM3)
    share = min(max((size.volume_cm3 - low) / (high - low), 0.0), 1.0)
    small_doubtful, small_impossible = rules.value(small.doubtful), rules.value(small.impossible)
    return small_doubtful + share * (doubtful - small_doubtful), small_impossible + share * (
        impossible - small_impossible
    )
