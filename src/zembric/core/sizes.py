"""What a size code means in millimetres, and whether a claim can fit into it."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from typing import Literal

from zembric.core import limits
from zembric.core.errors import BadInputError
from zembric.core.families import as_charged
from zembric.core.limits import Density, Family

Shape = Literal["cylinder", "flat"]
SizeVerdict = Literal["believable", "doubtful", "impossible"]

_THIN_FLAT_MM = 1.5


@dataclass(frozen=True, slots=True)
class Size:
    """A cell's outline. `width_mm` is the diameter of a cylinder; `thickness_mm` is None for one."""

    code: str
    shape: Shape
    width_mm: float
    length_mm: float
    thickness_mm: float | None = None

    @property
    def volume_cm3(self) -> float:
        if self.thickness_mm is None:
            return math.pi / 4 * self.width_mm**2 * self.length_mm / 1000
        return self.thickness_mm * self.width_mm * self.length_mm / 1000

    @property
    def surface_cm2(self) -> float:
        """Whole outside, ends included [cm2]."""
        width, length, thickness = self.width_mm, self.length_mm, self.thickness_mm
        if thickness is None:
            return math.pi * width * (length + width / 2) / 100
        return 2 * (thickness * width + thickness * length + width * length) / 100


def read_size(code: str) -> Size:
    """Reads a cylinder code DDLLL (18650) or a flat-cell code TTWWLL (603048).

    A flat-cell code that would be thinner than 1.5 mm means whole millimetres (103450 is 10 x 34 x 50 mm).

    Raises:
        BadInputError: the code is neither.
    Source: common size codes of cells; volumes follow from the outline.
    """
    digits = re.sub(r"[\s-]", "", code)
    if re.fullmatch(r"\d{5}", digits) and int(digits[:2]) >= 8 and int(digits[2:]) >= 100:
        return Size(digits, "cylinder", float(digits[:2]), int(digits[2:]) / 10)
    if re.fullmatch(r"\d{6}", digits):
        thickness_mm, width_mm, length_mm = int(digits[:2]) / 10, float(digits[2:4]), float(digits[4:])
        if thickness_mm < _THIN_FLAT_MM:
            thickness_mm *= 10
        if 0 < thickness_mm < width_mm and length_mm > 0:
            return Size(digits, "flat", width_mm, length_mm, thickness_mm)
    raise BadInputError(
        f'"{code}" is not a size code. Five digits name a cylinder (18650: 18 mm by 65.0 mm), '
        "six digits a flat cell (603048: 6.0 by 30 by 48 mm).",
        field="size_code",
    )


@dataclass(frozen=True, slots=True)
class ClaimCheck:
    """A claimed capacity against what fits the size; both limits in mAh."""

    verdict: SizeVerdict
    doubtful_above_mah: float
    impossible_above_mah: float


def check_claim(size: Size, family: Family | None, claim_mah: float) -> ClaimCheck | None:
    """Whether a claim [mAh] can fit; an unknown family is taken as layered oxide, the densest. None for primary cells."""
    known = as_charged(family) or Family.LAYERED_OXIDE
    if known is Family.PRIMARY:
        return None
    nominal_v = limits.NOMINAL_V[family or known].value
    doubtful_wh_per_l, impossible_wh_per_l = _energy_limits(size, known)
    doubtful_mah = doubtful_wh_per_l * size.volume_cm3 / nominal_v
    impossible_mah = impossible_wh_per_l * size.volume_cm3 / nominal_v
    verdict: SizeVerdict = "believable"
    if claim_mah > impossible_mah:
        verdict = "impossible"
    elif claim_mah > doubtful_mah:
        verdict = "doubtful"
    return ClaimCheck(verdict, doubtful_mah, impossible_mah)


def _energy_limits(size: Size, family: Family) -> tuple[float, float]:
    """Doubtful and impossible [Wh/L]; a flat layered-oxide cell loses room to its pouch the smaller it is."""
    large = limits.DENSITY_WH_PER_L[family, size.shape]
    if size.shape == "cylinder" or family is not Family.LAYERED_OXIDE:
        return large.doubtful.value, large.impossible.value
    small = limits.DENSITY_SMALL_FLAT_WH_PER_L
    low, high = limits.SMALL_FLAT_BELOW_CM3.value, limits.LARGE_FLAT_FROM_CM3.value
    share = min(max((size.volume_cm3 - low) / (high - low), 0.0), 1.0)
    return _between(small, large, share)


def _between(small: Density, large: Density, share: float) -> tuple[float, float]:
    return (
        small.doubtful.value + share * (large.doubtful.value - small.doubtful.value),
        small.impossible.value + share * (large.impossible.value - small.impossible.value),
    )
