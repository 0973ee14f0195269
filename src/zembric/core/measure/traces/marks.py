"""One field into a number, a clock into seconds, a date into seconds."""

from __future__ import annotations

import math
import re
from datetime import UTC, datetime
from typing import Literal

DateOrder = Literal["ymd", "dmy", "mdy"]
_NAN = math.nan
_STRAY = re.compile(r"[^\d.,eE+\-]+$")
_DATE = re.compile(
    r"(\d{1,4})[\-/.](\d{1,2})[\-/.](\d{1,4})(?:[ T_,]+(\d{1,2}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?)?\s?(?:Z|([+\-]\d\d):?(\d\d)|([AaPp])\.?[Mm]\.?)?"
)
_CLOCK = re.compile(r"(?:(\d+)(?:[ d.\-]|\s?days?,?\s)\s*)?(\d{1,7}):(\d{1,2})(?::(\d{1,2}(?:[.,:]\d+)?))?")


def to_number(field: str, decimal: str, thousands: str | None) -> float:
    """A number as the log writes them, a unit behind it left aside; NaN where it is none or not finite."""
    text = _STRAY.sub("", field.strip().replace("\u2212", "-"))
    if thousands:
        text = text.replace(thousands, "")
    if decimal != ".":
        text = text.replace(decimal, ".")
    try:
        value = float(text)
    except ValueError:
        return _NAN
    return value if math.isfinite(value) else _NAN


def clock_s(field: str, *, minutes_first: bool) -> float:
    """Seconds of hh:mm:ss (also beyond 24 h, with days before it); of two parts hh:mm, or mm:ss where minutes come first."""
    matched = _CLOCK.fullmatch(field.strip())
    if not matched:
        return _NAN
    days, first, second, third = matched.groups()
    if third is None:
        return int(first) * 60.0 + int(second) if minutes_first else int(first) * 3600.0 + int(second) * 60
    seconds = float(re.sub(r"[,:]", ".", third))
    return int(days or 0) * 86400.0 + int(first) * 3600.0 + int(second) * 60 + seconds


def date_s(field: str, order: DateOrder) -> float:
    """Seconds since 1970 of a date with or without a clock; NaN where there is no such day."""
    matched = _DATE.fullmatch(field.strip())
    if not matched:
        return _NAN
    one, two, three, hour, minute, second, zone_h, zone_min, half = matched.groups()
    year, month, day = {"ymd": (one, two, three), "dmy": (three, two, one), "mdy": (three, one, two)}[order]
    hours = int(hour or 0)
    if half:
        hours = hours % 12 + (12 if half.lower() == "p" else 0)
    seconds = float((second or "0").replace(",", "."))
    full_year = int(year) + (2000 if len(year) <= 2 else 0)
    try:
        start = datetime(full_year, int(month), int(day), tzinfo=UTC).timestamp()
    except ValueError:
        return _NAN
    zone_s = (int(zone_h) * 3600 + int(f"{zone_h[0]}{zone_min}") * 60) if zone_h else 0
    return start + hours * 3600.0 + int(minute or 0) * 60 + seconds - zone_s


def date_order(fields: list[str]) -> DateOrder:
    """Which of day, month and year stands where: by what cannot be a month, else as the separator suggests."""
    parts = [matched.groups()[:3] for field in fields if (matched := _DATE.fullmatch(field.strip()))]
    if any(len(one) == 4 or int(one) > 31 for one, _, _ in parts):
        return "ymd"
    if any(int(one) > 12 for one, _, _ in parts):
        return "dmy"
    if any(int(two) > 12 for _, two, _ in parts):
        return "mdy"
    return "mdy" if any("/" in field for field in fields) else "dmy"
