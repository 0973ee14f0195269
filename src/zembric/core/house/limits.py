"""Every limit of the house rules in one place: value, unit, kind and source.

Three kinds are kept apart wherever a number is shown: physics or arithmetic, a standard or usual data-sheet value,
and a house value, a sound default that a repair cafe may change.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from types import MappingProxyType
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from collections.abc import Mapping


class Kind(StrEnum):
    PHYSICS = "physics"
    STANDARD = "standard"
    HOUSE = "house"


class Family(StrEnum):
    """Chemistry families; an unknown one is None wherever a family is asked for."""

    LAYERED_OXIDE = "layered-oxide"
    HIGH_VOLTAGE_COBALT = "high-voltage-cobalt"
    IRON_PHOSPHATE = "iron-phosphate"
    TITANATE = "titanate"
    PRIMARY = "primary"


@dataclass(frozen=True, slots=True)
class Limit:
    """One number with all that is needed to show it."""

    key: str
    value: float
    unit: str
    kind: Kind
    source: str
    meaning: str
    #: A house value that protects people: the same in every house, and no matter of taste.
    fixed: bool = False
    #: What a house may set it to; None: up to four times more or less.
    bounds: tuple[float, float] | None = None
    #: What it is about, as it is shown under.
    group: str = ""


_ALL: dict[str, Limit] = {}

_group = ""


def _about(group: str) -> None:
    """All limits from here on are about this."""
    global _group  # noqa: PLW0603  # read once, as the module is loaded
    _group = group


DATA_SHEETS = "usual data-sheet value"
HOUSE_DEFAULT = "house default, 2026"
GUM = "Guide to the expression of uncertainty in measurement"


def _limit(
    key: str,
    value: float,
    unit: str,
    kind: Kind,
    source: str,
    meaning: str,
    *,
    fixed: bool = False,
    bounds: tuple[float, float] | None = None,
) -> Limit:
    if key in _ALL:
        raise ValueError(f"limit {key} is named twice")
    _ALL[key] = limit = Limit(key, value, unit, kind, source, meaning, fixed, bounds, _group)
    return limit


def _house(key: str, value: float, unit: str, meaning: str, bounds: tuple[float, float] | None = None) -> Limit:
    """A house value that a coordinator may set otherwise."""
    return _limit(key, value, unit, Kind.HOUSE, HOUSE_DEFAULT, meaning, bounds=bounds)


def _guard(key: str, value: float, unit: str, meaning: str) -> Limit:
    """A house value that protects people, so nobody sets it otherwise."""
    return _limit(key, value, unit, Kind.HOUSE, HOUSE_DEFAULT, meaning, fixed=True)


def _per_family(
    key: str,
    unit: str,
    kind: Kind,
    source: str,
    meaning: str,
    values: dict[str, float],
    *,
    fixed: bool = False,
    bounds: dict[str, tuple[float, float]] | None = None,
) -> Mapping[Family, Limit]:
    return MappingProxyType(
        {
            Family(name): _limit(
                f"{key}/{name}",
                value,
                unit,
                kind,
                source,
                f"{meaning}, {name.replace('-', ' ')}",
                fixed=fixed,
                bounds=(bounds or {}).get(name),
            )
            for name, value in values.items()
        }
    )


# --- Chemistry families ----------------------------------------------------------------------------------------------

_about("Chemistry families")
NOMINAL_V = _per_family(
    "nominal_v", "V", Kind.STANDARD, DATA_SHEETS, "mean voltage of a discharge",
    {"layered-oxide": 3.6, "high-voltage-cobalt": 3.8, "iron-phosphate": 3.2, "titanate": 2.3},
)  # fmt: skip
FULL_V = _per_family(
    "full_v", "V", Kind.STANDARD, DATA_SHEETS, "voltage at the end of a charge",
    # High-voltage cobalt is marked with its own; where nobody read the mark it is charged as layered oxide.
    {"layered-oxide": 4.20, "high-voltage-cobalt": 4.20, "iron-phosphate": 3.60, "titanate": 2.70},
)  # fmt: skip
CUT_OFF_V = _per_family(
    "cut_off_v", "V", Kind.HOUSE, HOUSE_DEFAULT, "end of a discharge on the bench",
    {"layered-oxide": 3.0, "high-voltage-cobalt": 3.0, "iron-phosphate": 2.5, "titanate": 1.8},
    # What the families' sheets allow.
    bounds={"layered-oxide": (2.5, 3.3), "high-voltage-cobalt": (2.7, 3.3), "iron-phosphate": (2.0, 2.8), "titanate": (1.5, 2.0)},
)  # fmt: skip
PRE_CHARGE_BELOW_V = _per_family(
    "pre_charge_below_v", "V", Kind.STANDARD, DATA_SHEETS, "below this only a small current is allowed",
    {"layered-oxide": 3.0, "high-voltage-cobalt": 3.0, "iron-phosphate": 2.5, "titanate": 1.8},
)  # fmt: skip
NEVER_CHARGE_BELOW_V = _per_family(
    "never_charge_below_v", "V", Kind.HOUSE, HOUSE_DEFAULT, "below this copper may have dissolved: recycle",
    {"layered-oxide": 2.0, "high-voltage-cobalt": 2.0, "iron-phosphate": 1.5, "titanate": 1.0}, fixed=True,
)  # fmt: skip
STORE_AT_V = _per_family(
    "store_at_v", "V", Kind.HOUSE, HOUSE_DEFAULT, "voltage for the shelf",
    {"layered-oxide": 3.8, "high-voltage-cobalt": 3.8, "iron-phosphate": 3.3, "titanate": 2.3},
    bounds={"layered-oxide": (3.6, 3.9), "high-voltage-cobalt": (3.6, 3.9), "iron-phosphate": (3.2, 3.35), "titanate": (2.2, 2.45)},
)  # fmt: skip

#: Above this a cell without a mark of its own is overfull: the upper end of what its family's sheets say.
OVERFULL_FROM_V = _per_family(
    "overfull_from_v", "V", Kind.STANDARD, DATA_SHEETS, "full at most, where nothing is marked on the cell",
    {"layered-oxide": 4.20, "high-voltage-cobalt": 4.20, "iron-phosphate": 3.65, "titanate": 2.80},
)  # fmt: skip
MARKED_FULL_LEAST_V = _per_family(
    "marked_full_least_v", "V", Kind.STANDARD, DATA_SHEETS, "full voltage marked on a cell, at least",
    {"layered-oxide": 4.15, "high-voltage-cobalt": 4.30, "iron-phosphate": 3.55, "titanate": 2.60},
)  # fmt: skip
MARKED_FULL_MOST_V = _per_family(
    "marked_full_most_v", "V", Kind.STANDARD, DATA_SHEETS, "full voltage marked on a cell, at most",
    {"layered-oxide": 4.25, "high-voltage-cobalt": 4.50, "iron-phosphate": 3.70, "titanate": 2.85},
)  # fmt: skip
HIGH_VOLTAGE_USUAL_V = _limit(
    "high_voltage_usual_v", 4.45, "V", Kind.STANDARD, DATA_SHEETS,
    "what a high-voltage cobalt cell may be made for where nobody read its mark",
)  # fmt: skip

# --- First voltage ---------------------------------------------------------------------------------------------------

_about("First voltage and recovery")
WATCHED_BELOW_V = _guard("watched_below_v", 2.5, "V", "layered oxide: below this recovery is watched, at C/20")
THRIFTY_FROM_V = _guard(
    "thrifty_from_v", 1.5, "V", "layered oxide, thrifty school: recovery from here, with a mark for life"
)
OVER_FULL_V = _limit(
    "over_full_v", 0.05, "V", Kind.STANDARD, DATA_SHEETS, "resting more than this above full is quarantine"
)
OVER_HAZARD_V = _guard("over_hazard_v", 0.20, "V", "above full by more than this it is a hazard")
NO_READING_BELOW_V = _guard(
    "no_reading_below_v", 0.05, "V", "below this nothing was measured: protection tripped or a tab torn"
)
SIBLING_GAP_V = _house(
    "sibling_gap_v", 0.2, "V", "further below the middle of its siblings than this a cell is watched"
)
RECOVERED_BELOW_PRE_CHARGE_V = _guard(
    "recovered_below_pre_charge_v",
    0.2,
    "V",
    "resting further below the pre-charge limit than this after a recovery has failed",
)
RECOVERY_SETTLES_H = _guard("recovery_settles_h", 1, "h", "after this the voltage of a recovered cell counts")
RECOVERY_C = _guard("recovery_c", 0.1, "C", "current of a recovery, at most")
WATCHED_RECOVERY_C = _guard("watched_recovery_c", 0.05, "C", "current of a watched recovery, at most")
RECOVERY_MINUTES = _guard("recovery_minutes", 60, "min", "a recovery that takes longer has failed")
RECOVERY_WARMING_K = _guard("recovery_warming_k", 10, "K", "a recovery that warms the cell by more has failed")

RECOVERY_CHECK_MIN = _guard("recovery_check_min", 15, "min", "a running recovery is looked at every")
WATCHED_CHECK_MIN = _guard("watched_check_min", 5, "min", "a watched recovery is looked at every")
STATE_MATTERS_H = _house("state_matters_h", 24, "h", "so long after charge or load the state of a voltage is asked")
CLIMBING_WAIT_MIN = _house("climbing_wait_min", 30, "min", "a voltage that still moves is taken again after")

# --- Charging and resting --------------------------------------------------------------------------------------------

_about("Charging and resting")
CHARGE_RATE_C = _limit("charge_rate_c", 0.5, "C", Kind.STANDARD, DATA_SHEETS, "charge current over believed capacity")
CHARGE_RATE_MOST_C = _guard("charge_rate_most_c", 1.0, "C", "charge current, at most")
CHARGE_END_C = _house("charge_end_c", 0.05, "C", "a charge ends at this current")
MODULE_END_SHARE = _limit(
    "module_end_share", 0.1, "", Kind.STANDARD, DATA_SHEETS, "a simple module ends at this share of its current"
)
FULL_STANDS_DAYS = _house("full_stands_days", 14, "d", "a charged cell waits for its run at most")
EMPTY_STANDS_DAYS = _house("empty_stands_days", 7, "d", "an emptied cell waits for a charge at most")
CHARGE_UNKNOWN_LARGE_MA = _house(
    "charge_unknown_large_ma", 500, "mA", "charge current of an 18650 or larger of unknown capacity"
)
CHARGE_UNKNOWN_SMALL_MA = _house(
    "charge_unknown_small_ma", 200, "mA", "charge current of a smaller cell of unknown capacity"
)
CHARGED_WITHIN_V = _limit(
    "charged_within_v", 0.05, "V", Kind.STANDARD, DATA_SHEETS, "a charge that ended this near to full was complete"
)
TESTER_USUAL_MA = _house("tester_usual_ma", 1000, "mA", "what testers are usually set to, at most")
REST_BEFORE_DISCHARGE_MIN = _limit(
    "rest_before_discharge_min", 30, "min", Kind.STANDARD, "IEC 61960-3 and data sheets: 30 to 60 min", "rest between charge and capacity run"
)  # fmt: skip

CHARGED_NEARLY_WITHIN_V = _house(
    "charged_nearly_within_v", 0.10, "V", "a charge that ended this near to full counts, with a remark", (0.05, 0.15)
)
CHARGER_PLAY_V = _house(
    "charger_play_v", 0.10, "V", "a charge that ended this near below 4.20 V was one of a usual charger"
)
STORED_WITHIN_V = _house(
    "stored_within_v", 0.10, "V", "a charge that ended this near to the storage voltage was one for the shelf"
)
CHARGED_ABOVE_PRE_CHARGE_V = _house(
    "charged_above_pre_charge_v",
    0.2,
    "V",
    "charged this far above the pre-charge limit, a cell that is found below it later lost its charge by itself",
)
STOPPED_HIGH_V = _house(
    "stopped_high_v", 0.3, "V", "a discharge that stopped further above the bench cut-off is a part run"
)
RESTED_H = _guard("rested_h", 1, "h", "a voltage taken so long after charge, load or recovery is one at rest")

# --- Heat and cold ---------------------------------------------------------------------------------------------------

_about("Heat and cold")
HOT_DEGC = _guard("hot_degc", 45, "°C", "a cell warmer than this at rest is a hazard")
HOT_ABOVE_ROOM_K = _guard("hot_above_room_k", 10, "K", "a cell this much warmer than its room at rest is a hazard")
TOO_HOT_DEGC = _guard("too_hot_degc", 60, "°C", "hotter than this is a hazard at once, as too hot to hold is")
COOLED_DOWN_H = _guard(
    "cooled_down_h", 1, "h", "so long after its donor was opened, or after charge or load, warmth is the cell's own"
)
NEVER_CHARGE_BELOW_DEGC = _limit(
    "never_charge_below_degc",
    0,
    "°C",
    Kind.STANDARD,
    DATA_SHEETS,
    "no charge below: lithium plates out and shorts the cell later",
)
COLD_BELOW_DEGC = _guard("cold_below_degc", 10, "°C", "below this a cell is charged slowly")
COLD_CHARGE_C = _guard("cold_charge_c", 0.2, "C", "charge current in the cold, at most")

# --- Self-discharge --------------------------------------------------------------------------------------------------

_about("At rest")
RELAXATION_H = _per_family(
    "relaxation_h", "h", Kind.HOUSE, HOUSE_DEFAULT, "voltage falls without loss for this long after a charge",
    {"layered-oxide": 24, "high-voltage-cobalt": 24, "iron-phosphate": 48, "titanate": 24},
)  # fmt: skip
LEAKING_MV_PER_DAY = _house("leaking_mv_per_day", 5, "mV/d", "loses more, less two standard errors: out")
WATCH_MV_PER_DAY = _house("watch_mv_per_day", 2, "mV/d", "loses more, less two standard errors: watch")
SLOPE_FROM_DAY = _house("slope_from_day", 3, "d", "the last reading must lie beyond this day")
WAIT_RESOLUTIONS = _limit(
    "wait_resolutions", 3, "", Kind.PHYSICS, "resolution against slope", "last digits that a slope must have moved"
)
SETTLES_ENDED_V = _house(
    "settles_ended_v", 0.05, "V", "what a voltage may fall by settling after a charge that ended by itself"
)
SETTLES_STOPPED_V = _house(
    "settles_stopped_v", 0.15, "V", "what a voltage may fall by settling after a charge that was stopped"
)
CHARGE_END_KNOWN_V = _house("charge_end_known_v", 0.01, "V", "how well the voltage is known that a charge ended at")
FLAT_SETTLES_ABOVE_V = _house("flat_settles_above_v", 3.35, "V", "iron phosphate: still settles above")
FLAT_STARTS_AT_MOST_V = _house("flat_starts_at_most_v", 3.33, "V", "iron phosphate: settled, at most")
FLAT_TELLS_BELOW_V = _house("flat_tells_below_v", 3.25, "V", "iron phosphate: one reading tells only below")
WATCH_AGAIN_DAYS = _house("watch_again_days", 14, "d", "a cell on watch is measured again after")

# --- Resistance and power --------------------------------------------------------------------------------------------

_about("Resistance and power")
RESISTANCE_GOOD_OHM_AH = _house(
    "resistance_good_ohm_ah", 0.15, "Ω Ah", "resistance times capacity of a good cell, at most"
)
HIGH_DRAIN_OHM_AH = _house("high_drain_ohm_ah", 0.06, "Ω Ah", "resistance times capacity of a high-drain cell, at most")
RESISTANCE_ROSE_PCT = _house("resistance_rose_pct", 20, "%", "a resistance that rose by more is told")
CHARGE_DIFFERS_PCT = _house("charge_differs_pct", 10, "%", "charge and discharge further apart are told")
RACED_MINUTES = _house("raced_minutes", 20, "min", "from less than a third full to full in less is told")
_RESISTANCE_WAYS = {
    "ac-1khz": "by a 1 kHz meter", "dc-1s": "1 s under load", "dc-10s": "10 s under load", "tester": "by a tester itself",
}  # fmt: skip
RESISTANCE_OUT_OHM_AH = MappingProxyType(
    {
        method: _limit(
            f"resistance_out_ohm_ah/{method}",
            value,
            "Ω Ah",
            Kind.HOUSE,
            HOUSE_DEFAULT,
            f"resistance times capacity above this is out, {_RESISTANCE_WAYS[method]}",
        )
        for method, value in {"ac-1khz": 0.30, "dc-1s": 0.45, "dc-10s": 0.60, "tester": 0.30}.items()
    }
)
SHORTED_OHM_AH = _guard(
    "shorted_ohm_ah", 0.012, "Ω Ah", "below this over what its size can hold the leads touch each other"
)
SEES_OF_1_KHZ: Mapping[str, Limit] = MappingProxyType(
    {
        method: _house(
            f"sees_of_1_khz/{method}", value, "", f"times the resistance that 1 kHz sees, {_RESISTANCE_WAYS[method]}"
        )
        for method, value in {"dc-1s": 1.5, "dc-10s": 2.0}.items()
    }
)
TELLING_SHARE = _guard(
    "telling_share", 0.5, "", "a resistance from a log is told where its half width is less than this share of it"
)
EDGE_APART_S = _guard("edge_apart_s", 10, "s", "rows further apart than this show no resistance")
SAG_V = _house("sag_v", 0.30, "V", "sag that a continuous current may cause")
HEAT_18650_W = _house("heat_18650_w", 1.0, "W", "heat an 18650 may make in a closed case; others by surface")
NO_SHEET_C = _house("no_sheet_c", 1.0, "C", "continuous current of a cell without a sheet")
NO_SHEET_VAPE_C = _house("no_sheet_vape_c", 2.0, "C", "continuous current of a vape cell without a sheet")

# --- Grades ----------------------------------------------------------------------------------------------------------

_about("Grades")


@dataclass(frozen=True, slots=True)
class GradeSteps:
    """Least values for the grades A, B and C; below C is out."""

    a: Limit
    b: Limit
    c: Limit


def _steps(key: str, unit: str, values: tuple[float, float, float], meaning: str) -> GradeSteps:
    a, b, c = (
        _limit(f"{key}/{grade}", value, unit, Kind.HOUSE, HOUSE_DEFAULT, f"{meaning}, at least for {grade}")
        for grade, value in zip("ABC", values, strict=True)
    )
    return GradeSteps(a, b, c)


HEALTH_PCT = _steps("health_pct", "%", (80, 65, 50), "measured over rated capacity")
BINS_MAH_PER_CM3 = MappingProxyType(
    {
        (Family.LAYERED_OXIDE, "cylinder"): _steps(
            "bins/layered-oxide-cylinder", "mAh/cm³", (120, 90, 60), "capacity by volume of a layered oxide cylinder"
        ),
        (Family.LAYERED_OXIDE, "flat"): _steps(
            "bins/layered-oxide-flat", "mAh/cm³", (80, 60, 40), "capacity by volume of a flat layered oxide cell"
        ),
        (Family.IRON_PHOSPHATE, "cylinder"): _steps(
            "bins/iron-phosphate-cylinder", "mAh/cm³", (70, 55, 40), "capacity by volume of an iron phosphate cylinder"
        ),
    }
)
POWER_C = _steps("power_c", "C", (1.0, 0.5, 0.2), "continuous current over capacity")

# --- What can fit in a size ------------------------------------------------------------------------------------------

_about("What can fit in a size")


@dataclass(frozen=True, slots=True)
class Density:
    """Energy by volume: above `doubtful` a claim is doubtful, above `impossible` impossible."""

    doubtful: Limit
    impossible: Limit


def _density(key: str, doubtful: float, impossible: float) -> Density:
    return Density(
        _limit(
            f"{key}/doubtful",
            doubtful,
            "Wh/L",
            Kind.HOUSE,
            "house survey of data sheets, 2026",
            "a claim above this is doubtful",
        ),
        _limit(
            f"{key}/impossible",
            impossible,
            "Wh/L",
            Kind.HOUSE,
            "house survey of data sheets, 2026",
            "a claim above this is impossible",
            fixed=True,
        ),
    )


DENSITY_WH_PER_L = MappingProxyType(
    {
        (Family.LAYERED_OXIDE, "cylinder"): _density("density/layered-oxide-cylinder", 800, 880),
        (Family.LAYERED_OXIDE, "flat"): _density("density/layered-oxide-flat", 650, 750),
        (Family.IRON_PHOSPHATE, "cylinder"): _density("density/iron-phosphate-cylinder", 350, 400),
        (Family.IRON_PHOSPHATE, "flat"): _density("density/iron-phosphate-flat", 300, 350),
        (Family.TITANATE, "cylinder"): _density("density/titanate-cylinder", 180, 220),
        (Family.TITANATE, "flat"): _density("density/titanate-flat", 180, 220),
    }
)
DENSITY_WH_PER_KG = MappingProxyType(
    {
        family: Density(
            _limit(
                f"density_by_mass/{family}/doubtful",
                doubtful,
                "Wh/kg",
                Kind.HOUSE,
                "house survey of data sheets, 2026",
                "a claim above this is doubtful",
            ),
            _limit(
                f"density_by_mass/{family}/impossible",
                impossible,
                "Wh/kg",
                Kind.HOUSE,
                "house survey of data sheets, 2026",
                "a claim above this is impossible",
                fixed=True,
            ),
        )
        for family, doubtful, impossible in (
            (Family.LAYERED_OXIDE, 275, 300),
            (Family.IRON_PHOSPHATE, 180, 210),
            (Family.TITANATE, 100, 120),
        )
    }
)
DENSITY_SMALL_FLAT_WH_PER_L = _density("density/layered-oxide-flat-small", 450, 550)
SMALL_FLAT_BELOW_CM3 = _house("small_flat_below_cm3", 3, "cm³", "a flat cell below this counts as small")
LARGE_FLAT_FROM_CM3 = _house("large_flat_from_cm3", 5, "cm³", "a flat cell from this on counts as large")

# --- Uncertainty -----------------------------------------------------------------------------------------------------

_about("How sure")
_CAPACITY_WAYS = {
    "trace": "by a logged curve", "tester": "by a tester", "charge-counted": "counted by the charger",
    "usb-linear": "by a USB meter before a linear module", "resistor-log": "by a resistor and a log",
    "usb-switching": "by a USB meter before a switching charger", "usb-step-up": "by a USB meter behind a step-up",
    "resistor-clock": "by a resistor and a clock",
}  # fmt: skip
CAPACITY_HALF_WIDTH_PCT = MappingProxyType(
    {
        method: _limit(f"capacity_half_width_pct/{method}", value, "%", Kind.HOUSE, HOUSE_DEFAULT, f"capacity {_CAPACITY_WAYS[method]} is right within")
        for method, value in {
            "trace": 1, "tester": 3, "charge-counted": 3, "usb-linear": 4, "resistor-log": 5, "usb-switching": 8,
            "usb-step-up": 8, "resistor-clock": 10,
        }.items()
    }
)  # fmt: skip
RUNS_DISAGREE = _house(
    "runs_disagree", 2, "", "runs further apart than so many times what their method allows are told to disagree"
)
REFERENCE_C = _limit("reference_c", 0.2, "C", Kind.STANDARD, "IEC 61960-3", "current that capacities are compared at")
REFERENCE_ERROR_SHARE = _house(
    "reference_error_share",
    0.5,
    "",
    "share of the way to the reference that is added to the uncertainty of a capacity",
    (0.125, 1),
)
LIKE_CURRENT_RATIO = _house(
    "like_current_ratio", 2, "", "capacities by currents further apart than so many times are not alike"
)
LIKE_CUT_OFF_V = _house("like_cut_off_v", 0.2, "V", "capacities down to voltages further apart are not alike")
REFERENCE_MOST_LEFT = _house(
    "reference_most_left",
    0.3,
    "",
    "a run that leaves a larger share in the cell is brought to no reference",
    (0.075, 1),
)
CHARGE_EFFICIENCY = _house(
    "charge_efficiency", 0.99, "", "share of a counted charge that a healthy cell gives back", (0.2475, 1)
)
CONVERTER_EFFICIENCY = _house(
    "converter_efficiency", 0.88, "", "efficiency of a switching charger or a step-up", (0.22, 1)
)
STEP_DOWN_EFFICIENCY = _house("step_down_efficiency", 0.9, "", "efficiency of a step-down converter", (0.22, 1))
STEP_UP_LEAST_V = _house("step_up_least_v", 3.0, "V", "a step-up converter starts from, where nobody said")
STEP_DOWN_ROOM_V = _house(
    "step_down_room_v", 1.0, "V", "a step-down converter wants above its output, where nobody said"
)
COMPARABLE_FROM_DEGC = _house("comparable_from_degc", 15, "°C", "a figure measured colder is marked")
COMPARABLE_TO_DEGC = _house("comparable_to_degc", 30, "°C", "a figure measured warmer is marked")
AC_HALF_WIDTH_PCT = _house("ac_half_width_pct", 3, "%", "1 kHz meter, of the value")
AC_HALF_WIDTH_MOHM = _house("ac_half_width_mohm", 2, "mΩ", "1 kHz meter, at least")
DC_HALF_WIDTH_PCT = _house("dc_half_width_pct", 5, "%", "the load resistor, of the value")
TESTER_HALF_WIDTH_MOHM = _house("tester_half_width_mohm", 20, "mΩ", "a tester's two-wire resistance")
VOLTAGE_RESOLUTION_V = _house("voltage_resolution_v", 0.01, "V", "last digit of a cheap meter")
SURE_FROM = _house("sure_from", 0.95, "", "a judgement this probable is sure", (0.2375, 1))
LIKELY_FROM = _house(
    "likely_from", 0.75, "", "a judgement this probable is likely, below it is borderline", (0.1875, 1)
)
RUNS_TO_SETTLE = _house("runs_to_settle", 3, "", "after so many runs a borderline figure stands")

# --- Shelf -----------------------------------------------------------------------------------------------------------

_about("The shelf")
FIRST_RECHECK_DAYS = _house("first_recheck_days", 14, "d", "first look at a shelved cell after")
RECHECK_OVERDUE_DAYS = _house("recheck_overdue_days", 30, "d", "a look that is due is overdue after")
RECHECK_DAYS = _house("recheck_days", 180, "d", "later looks at a shelved cell after")
RECHECK_GENTLE_DAYS = _house("recheck_gentle_days", 180, "d", "later looks at a shelved cell of grade Gentle after")
STORED_ABOVE_V = _house(
    "stored_above_v", 0.2, "V", "a shelved cell that rests more than this above its storage voltage is told"
)

# --- Packs -----------------------------------------------------------------------------------------------------------

_about("Packs")
JOIN_WITHIN_V = _house("join_within_v", 0.05, "V", "resting voltages of cells to be joined differ by at most")
PACK_FULL_V = _guard("pack_full_v", 30, "V", "full voltage of a pack without a coordinator's yes")
PACK_ENERGY_WH = _guard("pack_energy_wh", 160, "Wh", "energy of a pack without a coordinator's yes")
PACK_FULL_MOST_V = _limit(
    "pack_full_most_v", 60, "V", Kind.STANDARD, "extra-low voltage", "full voltage of a pack, at most"
)
PACK_ENERGY_MOST_WH = _guard("pack_energy_most_wh", 500, "Wh", "energy of a pack, at most")
USED_LEAST_SHARE = _house(
    "used_least_share",
    0.5,
    "",
    "a device that leaves more than the rest of the charge in the cells is not proposed",
    (0.125, 1),
)
CHANGED_PCT = _house("changed_pct", 1, "%", "a capacity that changed by more since a plan was made is told")
GROUPS_WITHIN_V = _guard("groups_within_v", 0.05, "V", "voltages of the groups of a built pack differ by at most")
SIZE_NEAR_ACROSS_MM = _house(
    "size_near_across_mm", 0.6, "mm", "a caliper's outline is offered as a usual size: across within"
)
SIZE_NEAR_ALONG_MM = _house(
    "size_near_along_mm", 1.0, "mm", "a caliper's outline is offered as a usual size: along within"
)
ROOM_PLAY_MM = _house("room_play_mm", 1.0, "mm", "room that wrap, tape and strips take beside each cell")

# --- Wires, strips, modules ------------------------------------------------------------------------------------------

_about("Wires, strips, modules")
RESISTIVITY_OHM_M: Mapping[str, Limit] = MappingProxyType(
    {
        material: _limit(f"resistivity_ohm_m/{material}", value, "Ω m", Kind.STANDARD, source, f"resistivity of {material.replace('-', ' ')} at 20 °C")
        for material, value, source in (
            ("nickel", 6.99e-8, "tables of materials"), ("copper", 1.72e-8, "IEC 60028"), ("plated-steel", 1.43e-7, "tables of materials"),
        )
    }
)  # fmt: skip
#: In free air in a small case, 20 K warmer than it, by gauge.
WIRE_STANDS_A: Mapping[int, Limit] = MappingProxyType(
    {
        awg: _guard(f"wire_stands_a/{awg}", amperes, "A", f"current of an AWG {awg} wire beside cells, at most")
        for awg, amperes in {28: 1.5, 26: 2.2, 24: 3.5, 22: 5, 20: 7.5, 18: 10, 16: 13, 14: 17, 12: 23}.items()
    }
)
STRIP_THICKNESS_MM = _limit(
    "strip_thickness_mm", 0.15, "mm", Kind.STANDARD, "usual strip", "thickness of the usual strip"
)
STRIP_WIDTH_MM = _limit("strip_width_mm", 8, "mm", Kind.STANDARD, "usual strip", "width of the usual strip")
STRIP_STANDS_A = _guard(
    "strip_stands_a", 5, "A", "current of a nickel strip of 0.15 × 8 mm, at most; others by equal heat"
)
MODULE_THROTTLES_W = _house("module_throttles_w", 1.5, "W", "heat above which a linear charging chip throttles")
LOAD_STEP_C = _house(
    "load_step_c",
    0.5,
    "C",
    "load for ten seconds by which a resistance is measured: a cheap meter sees it, and a resistor from the drawer stands it",
)
RESISTOR_HOT_W = _house("resistor_hot_w", 0.5, "W", "a resistor with more is told to get hot")
JOIN_GENTLE_A = _house("join_gentle_a", 1, "A", "first current of cells that are joined, told above")
JOIN_PATIENCE_MIN = _house("join_patience_min", 600, "min", "joining through a resistor that takes longer is told")
METER_SEES_SHARE = _house(
    "meter_sees_share", 0.2, "", "a meter hardly sees a resistance whose error is a larger share of it", (0.05, 1)
)

# --- Nearness in a match ---------------------------------------------------------------------------------------------

_about("How near in a match")
#: How far the weakest cell may lie below the strongest, largest over smallest resistance, and resting voltages of cells
#: that are joined as they lie: strict for packs that work hard, usual for most, relaxed where the load is small.
NEAR_CAPACITY_PCT: Mapping[str, Limit] = MappingProxyType(
    {
        key: _house(
            f"near_capacity_pct/{key}", value, "%", f"match, {key}: the weakest cell below the strongest, at most"
        )
        for key, value in {"strict": 3, "usual": 10, "relaxed": 30}.items()
    }
)
NEAR_RESISTANCE_RATIO: Mapping[str, Limit] = MappingProxyType(
    {
        key: _house(
            f"near_resistance_ratio/{key}",
            value,
            "",
            f"match, {key}: largest over smallest resistance, at most",
            (1.05, 10),
        )
        for key, value in {"strict": 1.2, "usual": 1.5, "relaxed": 3}.items()
    }
)
NEAR_VOLTAGE_V: Mapping[str, Limit] = MappingProxyType(
    {
        key: _house(
            f"near_voltage_v/{key}", value, "V", f"match, {key}: resting voltages of cells that are joined as they lie"
        )
        for key, value in {"strict": 0.01, "usual": 0.02}.items()
    }
    | {"relaxed": JOIN_WITHIN_V}
)

# --- What a typed value can be ---------------------------------------------------------------------------------------

_about("What a typed value can be")
CELL_MOST_V = _limit(
    "cell_most_v", 5.0, "V", Kind.PHYSICS, "no lithium cell rests above it", "a typed voltage above this is a slip"
)
CELL_MOST_MAH = _guard("cell_most_mah", 60_000, "mAh", "a typed capacity above this is a slip")
CELL_MOST_MOHM = _guard("cell_most_mohm", 5000, "mΩ", "a typed resistance above this is a slip")
BENCH_LEAST_DEGC = _guard("bench_least_degc", -40, "°C", "temperature of a cell at the bench, at least")
BENCH_MOST_DEGC = _guard("bench_most_degc", 200, "°C", "temperature of a cell at the bench, at most")
MASS_G_MOST = _guard("mass_g_most", 2000, "g", "mass of a cell, at most")
OUTLINE_MM_LEAST = _guard("outline_mm_least", 0.5, "mm", "a measured side of a cell, at least")
OUTLINE_MM_MOST = _guard("outline_mm_most", 400, "mm", "a measured side of a cell, at most")
ODD_CHANGE_V = _house("odd_change_v", 0.2, "V", "a change without charge or discharge that is asked about")
ODD_OVER_RATED_PCT = _house("odd_over_rated_pct", 10, "%", "a capacity further above the rated value is asked about")
ODD_CHANGE_PCT = _house("odd_change_pct", 20, "%", "a change of capacity that is asked about")
LOW_CHARGE_SHARE = _house(
    "low_charge_share", 0.3, "", "below this share of its charge the voltage of every family tells it"
)
PRINT_NOMINAL_WITHIN_V = _limit(
    "print_nominal_within_v",
    0.03,
    "V",
    Kind.STANDARD,
    "prints are rounded",
    "a print is this near to the nominal voltage of its cells",
)
PRINT_DIFFERS_SHARE = _limit(
    "print_differs_share",
    0.05,
    "",
    Kind.STANDARD,
    "prints are rounded",
    "volts times ampere hours further from the printed watt-hours are told",
)
WITHIN_SHARE = _guard(
    "within_share", 0.97, "", "without a target a shortfall is told against this share of the weakest group"
)
ODD_MOHM = _house("odd_mohm", 500, "mΩ", "a resistance above this is asked about")

ABOUT_HALF_WIDTH_PCT = _house("about_half_width_pct", 5, "%", "what a value said as about may be off by")

ALL_LIMITS: Mapping[str, Limit] = MappingProxyType(_ALL)
