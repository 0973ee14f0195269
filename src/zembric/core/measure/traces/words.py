"""What headers of logs call their columns, in the languages testers come in, and the units they carry."""

from __future__ import annotations

import re
import unicodedata
from dataclasses import dataclass
from typing import Literal

Role = Literal["time", "voltage", "current", "capacity", "energy", "resistor", "state", "step", "index", "other"]

#: Unit as written (lower case where that is not ambiguous) to its own name.
_TIME_UNITS = {
    "s": "s", "sec": "s", "secs": "s", "second": "s", "seconds": "s", "sek": "s", "sekunden": "s", "seg": "s",
    "segundos": "s", "secondes": "s", "secondi": "s", "с": "s", "сек": "s", "秒": "s",
    "ms": "ms", "msec": "ms", "millisecond": "ms", "milliseconds": "ms", "millis": "ms", "мс": "ms",
    "us": "us", "µs": "us", "micros": "us", "microseconds": "us",
    "min": "min", "mins": "min", "minute": "min", "minutes": "min", "minuten": "min", "minutos": "min", "мин": "min", "分": "min",
    "h": "h", "hr": "h", "hrs": "h", "hour": "h", "hours": "h", "std": "h", "stunden": "h", "heures": "h", "ч": "h",
    "d": "d", "days": "d",
}  # fmt: skip
_VOLTAGE_UNITS = {
    "v": "V", "volt": "V", "volts": "V", "в": "V", "伏": "V",
    "mv": "mV", "millivolt": "mV", "millivolts": "mV", "мв": "mV",
    "uv": "uV", "µv": "uV",
}  # fmt: skip
_CURRENT_UNITS = {
    "a": "A", "amp": "A", "amps": "A", "ampere": "A", "amperes": "A", "а": "A", "安": "A",
    "ma": "mA", "milliamp": "mA", "milliamps": "mA", "milliampere": "mA", "ма": "mA",
    "ua": "uA", "µa": "uA",
}  # fmt: skip
_CAPACITY_UNITS = {
    "mah": "mAh", "ma.h": "mAh", "ma*h": "mAh", "ma·h": "mAh", "мач": "mAh", "milliampere_hour": "mAh",
    "ah": "Ah", "a.h": "Ah", "a*h": "Ah", "a·h": "Ah", "ampere_hour": "Ah", "ач": "Ah",
}  # fmt: skip
_ENERGY_UNITS = {"wh": "Wh", "w.h": "Wh", "watt_hour": "Wh", "mwh": "mWh", "mw.h": "mWh", "j": "J"}
_RESISTOR_UNITS = {
    "ohm": "Ohm",
    "ohms": "Ohm",
    "Ω": "Ohm",
    "ω": "Ohm",
    "mohm": "mOhm",
    "mω": "mOhm",
    "milliohm": "mOhm",
}
_OTHER_UNITS = {
    "w": "W", "mw": "mW", "watt": "W", "degc": "°C", "°c": "°C", "celsius": "°C", "c": "°C", "℃": "°C", "k": "K", "°f": "°F",
    "%": "%", "hz": "Hz",
}  # fmt: skip
_UNITS: tuple[tuple[Role, dict[str, str]], ...] = (
    ("time", _TIME_UNITS),
    ("voltage", _VOLTAGE_UNITS),
    ("current", _CURRENT_UNITS),
    ("capacity", _CAPACITY_UNITS),
    ("energy", _ENERGY_UNITS),
    ("resistor", _RESISTOR_UNITS),
    ("other", _OTHER_UNITS),
)
#: Seconds, volts, amperes, mAh and mWh in one of the unit.
FACTOR = {
    "s": 1.0, "ms": 1e-3, "us": 1e-6, "min": 60.0, "h": 3600.0, "d": 86400.0,
    "V": 1.0, "mV": 1e-3, "uV": 1e-6, "A": 1.0, "mA": 1e-3, "uA": 1e-6,
    "mAh": 1.0, "Ah": 1000.0, "mWh": 1.0, "Wh": 1000.0, "J": 1 / 3.6, "Ohm": 1.0, "mOhm": 1e-3,
}  # fmt: skip

_WORDS: tuple[tuple[Role, str], ...] = (
    # The first that is found in a header decides, so the longer and rarer stand first.
    ("capacity", r"capacit|capaci|kapazit|ladungsmenge|charge_?capacity|емкост|ёмкост|pojemno|容量|\bq\b|coulomb|\bcharged\b"),
    ("energy", r"energ|énergie|能量|arbeit"),
    ("other", r"power|leistung|puissance|potencia|potenza|мощност|功率|\bp\b"),
    ("other", r"temp(?!s|o)|°c|温度|\bntc\b|thermist"),
    ("index", r"^(index|nr|no|n|number|#|row|zeile|record|sample|point|data_?point|datapoint|序号|id|seq)$|record_?(number|no|id)|sample_?(number|no)"),
    ("step", r"\bcycle|\bzyklus|\bstep(?![_ ]?time)|\bschritt|工步|循环|\bciclo|\bns\b|\bprogram"),
    ("state", r"\bstate|\bstatus|\bmode\b|\bmodus|\bphase|\bzustand|\bbetrieb|\bestado|\bétat|\betat|状态|\bmd\b|step_?type"),
    ("resistor", r"resist|widerstand|résistance|resistencia|\bohm|\bir\b|\besr\b|\bri\b|\brload\b|\br_load\b|\br\b"),
    ("time", r"time|zeit|temps|tiempo|tempo|tijd|время|czas|čas|cas\b|時間|时间|elapsed|duration|dauer|timestamp|\bdate|datum|fecha|uhr|millis|\bt\b|seconds|sekunden"),
    ("voltage", r"volt|spannung|tension|tensión|tensione|spanning|napi[eę]c|napět|напряж|电压|電圧|ocv|\bvbat|\bubat|ewe|ecell|\bpotential|\bu\b|\bv\b|\be\b|\bucell|\bvcell|\bu_|\bv_"),
    ("current", r"current|strom|courant|intensit|corriente|corrente|stroom|pr[aą]d|proud|(^|\W)ток|电流|電流|amperage|\bi\b|\bibat|\bi_|\biload"),
)  # fmt: skip
#: A header with one of these is not the cell's own running value.
_NOT_ITS_OWN = re.compile(
    r"\bset|target|soll|limit|\bmax|\bmin(imum)?\b(?!ut)|average|\bavg|mean|mittel|\bref|\baux|cpu|supply|input|\bvin\b|\busb|"
    r"cut.?off|\bend_|d[vi]_?/?dt|\bdelta|dq_?/?dv|noise|error|calc|protect"
)
_LIKELIER_OWN = re.compile(r"measured|mess|cell|batt|akku|zelle|dut")
_LESS_LIKELY_OWN = re.compile(r"load|charger|source|netz|psu|bus")
_LESS_LIKELY_TIME = re.compile(
    r"step_?time|schrittzeit|relative|date|datum|clock|uhrzeit|fecha|cycle_?time|记录时间|real_?time|abs"
)
_LIKELIER_TIME = re.compile(r"test_?time|total|elapsed|gesamt|test_time|运行时间|总时间")


@dataclass(frozen=True, slots=True)
class Heading:
    """What one header says: the role and the unit it names; `weight` ranks several of one role, 0 is not meant at all."""

    text: str
    role: Role
    unit: str | None
    weight: int


def read_heading(text: str) -> Heading:
    """What a column's header says of it; role `other` where it says nothing known."""
    plain = unicodedata.normalize("NFKC", text).replace("\ufeff", "").strip().strip('"').strip()
    name, unit = _split_unit(plain)
    words = re.sub(r"[\s_\-]+", "_", name.lower()).strip("_")
    role = _role_of(words)
    unit_role = _unit_role(unit, role)
    if (
        role == "other"
        and unit_role
        and unit_role[0] in ("time", "voltage", "current", "capacity", "energy")
        and not _power(words)
    ):
        role = unit_role[0]
    if role == "other" and not words and unit_role:
        role = unit_role[0]
    if unit_role and role != unit_role[0] and role in ("time", "voltage", "current"):
        # "charge (mAh)", "current capacity [Ah]": the unit knows better than the words.
        role = unit_role[0]
    weight = 2
    if _NOT_ITS_OWN.search(words):
        weight = 0
    elif role == "time":
        weight = 1 if _LESS_LIKELY_TIME.search(words) else 3 if _LIKELIER_TIME.search(words) else 2
    elif role in ("voltage", "current"):
        weight = 3 if _LIKELIER_OWN.search(words) else 1 if _LESS_LIKELY_OWN.search(words) else 2
    elif role == "resistor" and re.search(r"load|last|shunt|entlade", words):
        weight = 3
    return Heading(plain, role, unit_role[1] if unit_role else None, weight)


def says_step_time(header: str) -> bool:
    """Whether a time starts anew with every step."""
    return bool(re.search(r"step[\s_]*time|schrittzeit|relative|工步时间", header.lower()))


def is_unit_row(fields: list[str]) -> bool:
    """Whether a row holds nothing but units, as some testers write below the names."""
    filled = [field.strip().strip("[](){}\"'") for field in fields if field.strip()]
    known = sum(1 for field in filled if _named_unit(field) or re.fullmatch(r"(hh?:)?mm:ss(\.\w+)?", field.lower()))
    return bool(filled) and known >= max(1, 0.6 * len(filled))


#: What states of a tester are called: the sign of the current by words.
STATE_WORDS: tuple[tuple[Literal["discharge", "charge", "rest"], re.Pattern[str]], ...] = (
    ("discharge", re.compile(r"dis|dch|d_?chg|entl|décharg|descarg|scaric|ontla|разр|放电|\bd\b|load")),
    ("charge", re.compile(r"charg|chg|\bch\b|lad|charge|carga|carica|заряд|充电|\bc\b|cccv|cc_cv")),
    ("rest", re.compile(r"rest|pause|idle|ruhe|wait|stop|ocv|搁置|静置|repos|\br\b|finish|done|end")),
)


def state_of(word: str) -> Literal["discharge", "charge", "rest"] | None:
    """The kind of step a tester's own word means; None where it is not known."""
    lowered = word.lower().strip()
    return next((kind for kind, pattern in STATE_WORDS if pattern.search(lowered)), None)


def _power(words: str) -> bool:
    return bool(re.search(r"power|leistung|temp|\bp\b", words))


def _role_of(words: str) -> Role:
    spaced = words.replace("_", " ")
    for role, pattern in _WORDS:
        if re.search(pattern, words) or re.search(pattern, spaced):
            return role
    return "other"


def _split_unit(plain: str) -> tuple[str, str | None]:
    """A header's name and the unit in brackets, behind a slash, an underscore, a comma or a blank."""
    if matched := re.fullmatch(r"(.*?)\s*[\[({<]\s*([^\[\](){}<>]{1,20}?)\s*[\])}>]\s*(.*)", plain):
        inner = matched[2].split("/")[0] if matched[2].lower().startswith(("v/", "a/")) else matched[2]
        return f"{matched[1]} {matched[3]}".strip(), inner
    if (matched := re.fullmatch(r"(.+?)\s*/\s*([^/]{1,12})", plain)) and _named_unit(matched[2]):
        return matched[1], matched[2]
    matched = re.fullmatch(r"(.+?)[\s_,:;\-]+(ampere_hour|watt_hour|[^\s_,:;]{1,12})", plain)
    if matched and _named_unit(matched[2]):
        return matched[1], matched[2]
    if _named_unit(plain):
        return ("", plain) if len(plain) > 1 or plain in ("s", "V", "A", "h") else (plain, None)
    return plain, None


def _named_unit(text: str) -> tuple[Role, str] | None:
    lowered = text.strip().strip(".").lower()
    return next(((role, units[lowered]) for role, units in _UNITS if lowered in units), None)


def _unit_role(unit: str | None, role: Role) -> tuple[Role, str] | None:
    if unit is None:
        return None
    named = _named_unit(unit)
    if named is None:
        return None
    # Small letters that mean two things go with the words: "time [min]", "t (h)", "T / K".
    return named if named[0] != "other" or role == "other" else None
