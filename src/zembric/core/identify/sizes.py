"""What a size code means in millimetres, and whether a claim can fit into it."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from functools import lru_cache
from operator import itemgetter
from types import MappingProxyType
from typing import TYPE_CHECKING, Literal

from zembric.core.errors import BadInputError
from zembric.core.house import limits
from zembric.core.house.limits import Family
from zembric.core.said import OneOf, Said, plain, said

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.house.rules import HouseRules

Shape = Literal["cylinder", "flat"]

_THIN_FLAT_MM = 1.5
_LEAST_WHOLE_MM_CYLINDER = 18
_LONG_MM = (100, 400)
_PRIMARY_LETTERS = ("CR", "BR", "ER")
_COIN_LETTERS = ("CR", "BR")
_FAMILY_LETTERS = MappingProxyType(
    {
        "C": Family.LAYERED_OXIDE,
        "N": Family.LAYERED_OXIDE,
        "M": Family.LAYERED_OXIDE,
        "F": Family.IRON_PHOSPHATE,
        "T": Family.TITANATE,
    }
)
_PRIMARY = said("size-primary")
_ALSO_ER = said("size-also-er")
_ALSO_CR = said("size-also-cr")
_PRIMARY_SIZES = MappingProxyType(
    dict.fromkeys(("14250", "14335", "14500", "14505", "18505", "26500", "34615"), _ALSO_ER)
    | dict.fromkeys(("15270", "16340", "17335", "17345", "17450"), _ALSO_CR)
)
_PRINT = re.compile(
    r"(?P<count>\d{1,2}(?=I))?(?P<letters>I[A-Z][RP]|CR|BR|ER)?(?P<size>\d{1,3}(?:/\d{1,3}){1,2}|\d{4,8})(?:[^\d/].*)?",
    re.ASCII,
)
#: A model's own letters around a size of five digits and more; they tell no chemistry.
_MODEL_PRINT = re.compile(r"(?!I[A-Z][RP]\d)[A-Z]{1,8}[-_]?(?P<size>\d{5,8})(?:[^\d/].*)?", re.ASCII)
#: Voltage, charge and energy that stand beside a size and are none.
_BESIDE = re.compile(
    r"(?<![\d.,])\d{1,2}(?:[.,]\d{1,3})?\s*V\b|(?<![\d.,])\d+(?:[.,]\d+)?\s*(?:MAH|AH|MWH|WH|MA)\b", re.ASCII
)
#: A size with a voltage that follows it without a space.
_GLUED_VOLTAGE = re.compile(r"(?P<before>[A-Z]*(?:\d{6}|\d{5}))\d[.,]\d{1,3}V", re.ASCII)
#: An outline by caliper: across and long, or thick, wide and long, in mm.
_OUTLINE_PRINT = re.compile(
    r"(?P<first>_)[X×*](?P<second>_)(?:[X×*](?P<third>_))?".replace("_", r"\d{1,3}(?:[.,]\d{1,2})?(?:MM)?")
)
#: Round sizes with a name of their own: diameter and height in mm. Source: IEC 60086 and usual sheets.
_NAMED_ROUND = MappingProxyType(
    {
        "AAA": (10.5, 44.5), "AA": (14.5, 50.5), "A": (17.0, 50.0), "C": (26.2, 50.0), "D": (34.2, 61.5), "N": (12.0, 30.2),
        "F": (33.0, 91.0), "SUB-C": (23.0, 43.0), "1/2AA": (14.5, 25.0), "2/3AA": (14.5, 28.7), "2/3A": (17.0, 28.5),
        "4/5A": (17.0, 43.0), "4/5AA": (14.5, 43.0),
    }
)  # fmt: skip
_SAME_NAME = MappingProxyType(
    {"SC": "SUB-C", "SUBC": "SUB-C", "R6": "AA", "LR6": "AA", "R03": "AAA", "LR03": "AAA", "FR6": "AA", "FR03": "AAA"}
)
#: Cylinders that are usual in devices; what calipers tell is often one of them.
_USUAL_CYLINDERS = (
    "10180", "10250", "10280", "10440", "13300", "13350", "13400", "13450", "14250", "14300", "14350", "14430", "14500",
    "14650", "16340", "16400", "16500", "16650", "17335", "17500", "17650", "18350", "18500", "18650", "20700", "21700",
    "22430", "26500", "26650", "32650", "32700",
)  # fmt: skip
#: Primary lithium cells for cameras, by what is printed; the second is the size alone.
_NAMED_PRIMARY = MappingProxyType(
    {
        "CR123A": (17.0, 34.5),
        "CR123": (17.0, 34.5),
        "CR2": (15.6, 27.0),
        "CR1/3N": (11.6, 10.8),
        "CRAA": (14.5, 50.5),
        "CR1/2AA": (14.5, 25.0),
        "CR2/3A": (17.0, 33.5),
    }
)


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


@dataclass(frozen=True, slots=True)
class SizePrint:
    """What a print on a cell means. Of several readings the likeliest comes first.

    `family` is None where the print does not tell; `rechargeable` is None where it tells neither way.
    """

    code: str
    shape: Shape
    readings: tuple[Size, ...]
    ambiguous: bool
    family: Family | None
    rechargeable: bool | None
    remarks: tuple[Said, ...]


@lru_cache(maxsize=1024)
def read_size(code: str) -> Size:
    """The one size behind a print.

    Raises:
        BadInputError: it is not understood, or it can be read in more than one way.
    """
    found = read_print(code)
    if found.ambiguous:
        readings = OneOf(tuple(_outline(size) for size in found.readings))
        raise BadInputError(said("can-be", code=code, readings=readings), field="size_code")
    return found.readings[0]


def read_print(text: str) -> SizePrint:
    """Reads a size code or a standard designation as it is printed.

    Five digits name a cylinder (18650: 18 mm by 65.0 mm), four one of whole millimetres from 18 mm on (2170), six a
    flat cell in tenths of thickness (603048: 6.0 by 30 by 48 mm); thinner than 1.5 mm means whole millimetres
    (103450). Two or three numbers with an x between them are an outline by caliper (13.2 x 35.1). Seven and eight digits have a width or length from 100 mm on and are always ambiguous. Letters in front
    tell the chemistry; CR and BR with four digits are coins. Case, spaces, a count in front and what follows the size
    do not matter.

    Raises:
        BadInputError: not understood; tells what would be.
    Source: IEC 61960 designations (I, then C N M F T, then R or P), usual codes of flat cells.
    """
    outline = _OUTLINE_PRINT.fullmatch("".join(text.upper().split()))
    if outline:
        return _outline_print(outline)
    beside = _GLUED_VOLTAGE.sub(r"\g<before> ", _BESIDE.sub(" ", text.upper()))
    candidates = ("".join(beside.split()), *beside.split())
    for candidate in candidates:
        matched = _PRINT.fullmatch(candidate)
        readings = _readings(matched["letters"] or "", matched["size"]) if matched else ()
        if matched and readings:
            return _size_print(matched, readings)
    for candidate in candidates:
        found = _named_round(candidate) or _model_print(candidate)
        if found:
            return found
    raise BadInputError(
        said("is-not-size-code", strip=text.strip()[:40]),
        field="size_code",
    )


def measured_outline(width_mm: float, length_mm: float, thickness_mm: float | None = None) -> Size:
    """An outline taken by ruler or caliper: diameter and length, or width, length and thickness.

    Raises:
        BadInputError: no cell is that small or large, or it is thicker than wide.
    """
    least, most = limits.OUTLINE_MM_LEAST.value, limits.OUTLINE_MM_MOST.value
    for field, value in (("width_mm", width_mm), ("length_mm", length_mm), ("thickness_mm", thickness_mm)):
        if value is not None and not least <= value <= most:
            raise BadInputError(said("cell-measures-between-and-mm", least=plain(least), most=plain(most)), field=field)
    if thickness_mm is not None and thickness_mm > min(width_mm, length_mm):
        raise BadInputError(said("thickness-is-smallest-of-three"), field="thickness_mm")
    parts = (width_mm, length_mm) if thickness_mm is None else (thickness_mm, width_mm, length_mm)
    code = " x ".join(f"{part:g}" for part in parts)
    return Size(code, "cylinder" if thickness_mm is None else "flat", width_mm, length_mm, thickness_mm)


def nearest_usual(size: Size, more: Sequence[Size], rules: HouseRules) -> Size | None:
    """The usual size that an outline by caliper is most likely, among the usual cylinders and `more` of the house's own.

    None where none is that near, or where it is one already.
    """
    usual = [*(read_size(code) for code in _USUAL_CYLINDERS), *more]
    across, along = rules.value(limits.SIZE_NEAR_ACROSS_MM), rules.value(limits.SIZE_NEAR_ALONG_MM)
    near = [
        (abs(each.width_mm - size.width_mm) + abs(each.length_mm - size.length_mm), each)
        for each in usual
        if each.shape == size.shape
        and abs(each.width_mm - size.width_mm) <= across
        and abs(each.length_mm - size.length_mm) <= along
        and abs((each.thickness_mm or 0) - (size.thickness_mm or 0)) <= across
    ]
    found = min(near, key=itemgetter(0), default=(0, None))[1]
    return found if found and found.code != size.code else None


def primary_suspicion(code: str) -> Said | None:
    """A warning where primary cells of this size are common; None where they are not."""
    return _PRIMARY_SIZES.get(code)


def _outline_print(matched: re.Match[str]) -> SizePrint:
    parts = [float(part.removesuffix("MM").replace(",", ".")) for part in matched.groups() if part]
    if len(parts) == 2:
        across, long = parts
        readings = [measured_outline(across, long)]
        if across > long:
            # Whoever laid the caliper along it first means the same cell; only a coin is wider than long.
            readings.insert(0, measured_outline(long, across))
    else:
        thick, wide, long = parts
        readings = [measured_outline(wide, long, thick)]
    size = readings[0]
    return SizePrint(size.code, size.shape, tuple(readings), len(readings) > 1, None, None, ())


def _named_round(candidate: str) -> SizePrint | None:
    """A round size by its name: of a camera's primary cell, or one that several chemistries are made in."""
    primary = _NAMED_PRIMARY.get(candidate)
    if primary:
        size = Size(candidate, "cylinder", *primary)
        return SizePrint(candidate, "cylinder", (size,), False, Family.PRIMARY, False, (_PRIMARY,))
    name = _SAME_NAME.get(candidate, candidate)
    outline = _NAMED_ROUND.get(name)
    if outline is None:
        return None
    remark = said("size-is-no-chemistry", size=name)
    return SizePrint(name, "cylinder", (Size(name, "cylinder", *outline),), False, None, None, (remark,))


def _model_print(candidate: str) -> SizePrint | None:
    matched = _MODEL_PRINT.fullmatch(candidate)
    readings = _readings("", matched["size"]) if matched else ()
    if not matched or not readings:
        return None
    code = matched["size"]
    remarks = (
        said("size-letters-of-model"),
        *((suspicion,) if (suspicion := primary_suspicion(code)) else ()),
        *_whole_mm_remark(readings[0]),
    )
    return SizePrint(code, readings[0].shape, readings, _is_ambiguous(code), None, None, remarks)


def _is_ambiguous(code: str) -> bool:
    return re.fullmatch(r"\d{7,8}", code) is not None


def _whole_mm_remark(size: Size) -> tuple[Said, ...]:
    if size.shape == "flat" or len(size.code) != 5 or size.length_mm < _LONG_MM[0]:
        return ()
    return (said("size-read-as", outline=_outline(size)),)


def _size_print(matched: re.Match[str], readings: tuple[Size, ...]) -> SizePrint:
    letters = matched["letters"] or ""
    is_primary = letters in _PRIMARY_LETTERS
    count = matched["count"]
    return SizePrint(
        code=matched["size"],
        shape=readings[0].shape,
        readings=readings,
        ambiguous=_is_ambiguous(matched["size"]),
        family=Family.PRIMARY if is_primary else _FAMILY_LETTERS.get(letters[1:2]) if letters else None,
        rechargeable=None if not letters else not is_primary,
        remarks=(
            *((said("size-count-left-out", typed=count),) if count else ()),
            *((_PRIMARY,) if is_primary else ()),
            *((suspicion,) if not letters and (suspicion := primary_suspicion(matched["size"])) else ()),
            *_whole_mm_remark(readings[0]),
        ),
    )


def _readings(letters: str, size: str) -> tuple[Size, ...]:
    """All outlines that letters and digits can mean, the likeliest first; none: not understood."""
    if "/" in size:
        return _slashed(letters, [int(part) for part in size.split("/")])
    must_be_flat, must_be_cylinder = letters.endswith("P"), letters.endswith("R") and len(letters) == 3
    if letters in _COIN_LETTERS and len(size) == 4:
        return _valid(Size(size, "cylinder", float(size[:2]), int(size[2:]) / 10))
    found: tuple[Size, ...] = ()
    if len(size) == 5 and not must_be_flat:
        found = _valid(Size(size, "cylinder", float(size[:2]), _height_mm(letters, size)))
    elif len(size) == 4 and not must_be_flat and int(size[:2]) >= _LEAST_WHOLE_MM_CYLINDER:
        found = _valid(Size(size, "cylinder", float(size[:2]), float(size[2:])))
    elif not must_be_cylinder:
        splits = {6: ((2, 2, 2),), 7: ((2, 2, 3), (2, 3, 2)), 8: ((2, 3, 3),)}.get(len(size), ())
        found = _valid(*(size_ for split in splits if (size_ := _flat(size, split))))
    return found


def _height_mm(letters: str, size: str) -> float:
    """The height behind five digits: in tenths, or in whole millimetres from 100 on where that would be shorter than wide."""
    whole_mm = int(size[2:])
    is_coin = letters in _COIN_LETTERS
    return (
        float(whole_mm) if whole_mm >= _LONG_MM[0] and whole_mm / 10 < int(size[:2]) and not is_coin else whole_mm / 10
    )


def _slashed(letters: str, parts: list[int]) -> tuple[Size, ...]:
    """Diameter/height or thickness/width/height in whole millimetres, as standard designations write them."""
    code = "/".join(str(part) for part in parts)
    if len(parts) == 2 and not letters.endswith("P"):
        return _valid(Size(code, "cylinder", float(parts[0]), float(parts[1])))
    if len(parts) == 3 and not letters.endswith("R"):
        return _valid(Size(code, "flat", float(parts[1]), float(parts[2]), float(parts[0])))
    return ()


def _flat(digits: str, split: tuple[int, int, int]) -> Size | None:
    """One way to split the digits; a three-digit field lies between 100 and 400 mm."""
    first, second, _ = split
    fields = (digits[:first], digits[first : first + second], digits[first + second :])
    if any(len(field) == 3 and not _LONG_MM[0] <= int(field) <= _LONG_MM[1] for field in fields):
        return None
    thickness_mm = int(fields[0]) / 10
    if thickness_mm < _THIN_FLAT_MM:
        thickness_mm *= 10
    return Size(digits, "flat", float(fields[1]), float(fields[2]), thickness_mm)


def _valid(*sizes: Size) -> tuple[Size, ...]:
    return tuple(
        size
        for size in sizes
        if size.width_mm > 0
        and size.length_mm > 0
        and (size.thickness_mm is None or 0 < size.thickness_mm < min(size.width_mm, size.length_mm))
    )


def _outline(size: Size) -> Said:
    width, length = plain(size.width_mm), plain(size.length_mm, "mm")
    if size.thickness_mm is None:
        return said("outline-round", width=width, length=length)
    return said("outline-flat", thickness=plain(size.thickness_mm), width=width, length=length)
