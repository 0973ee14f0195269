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


_ALL: dict[str, Limit] = {}

DATA_SHEETS = "usual data-sheet value"
HOUSE_DEFAULT = "house default, 2026"
GUM = "Guide to the expression of uncertainty in measurement"


def _limit(key: str, value: float, unit: str, kind: Kind, source: str, meaning: str) -> Limit:
    if key in _ALL:
        raise ValueError(f"limit {key} is named twice")
    _ALL[key] = limit = Limit(key, value, unit, kind, source, meaning)
    return limit


def _per_family(
    key: str, unit: str, kind: Kind, source: str, meaning: str, values: dict[str, float]
) -> Mapping[Family, Limit]:
    return MappingProxyType(
        {
            Family(name): _limit(f"{key}/{name}", value, unit, kind, source, f"{meaning}, {name}")
            for name, value in values.items()
        }
    )


# --- Chemistry families ----------------------------------------------------------------------------------------------

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
)  # fmt: skip
PRE_CHARGE_BELOW_V = _per_family(
    "pre_charge_below_v", "V", Kind.STANDARD, DATA_SHEETS, "below this only a small current is allowed",
    {"layered-oxide": 3.0, "high-voltage-cobalt": 3.0, "iron-phosphate": 2.5, "titanate": 1.8},
)  # fmt: skip
NEVER_CHARGE_BELOW_V = _per_family(
    "never_charge_below_v", "V", Kind.HOUSE, HOUSE_DEFAULT, "below this copper may have dissolved: recycle",
    {"layered-oxide": 2.0, "high-voltage-cobalt": 2.0, "iron-phosphate": 1.5, "titanate": 1.0},
)  # fmt: skip
STORE_AT_V = _per_family(
    "store_at_v", "V", Kind.HOUSE, HOUSE_DEFAULT, "voltage for the shelf",
    {"layered-oxide": 3.8, "high-voltage-cobalt": 3.8, "iron-phosphate": 3.3, "titanate": 2.3},
)  # fmt: skip

MARKED_FULL_MOST_V = _limit(
    "marked_full_most_v",
    4.5,
    "V",
    Kind.STANDARD,
    DATA_SHEETS,
    "full voltage marked on a high-voltage cobalt cell, at most",
)
UNKNOWN_FAMILY_MOST_V = _limit(
    "unknown_family_most_v", 3.60, "V", Kind.HOUSE, HOUSE_DEFAULT, "no charge above it while the chemistry is unknown"
)

# --- First voltage ---------------------------------------------------------------------------------------------------

WATCHED_BELOW_V = _limit(
    "watched_below_v", 2.5, "V", Kind.HOUSE, HOUSE_DEFAULT, "layered oxide: below this recovery is watched, at C/20"
)
THRIFTY_FROM_V = _limit(
    "thrifty_from_v",
    1.5,
    "V",
    Kind.HOUSE,
    HOUSE_DEFAULT,
    "layered oxide, thrifty school: recovery from here, with a mark for life",
)
OVER_FULL_V = _limit(
    "over_full_v", 0.05, "V", Kind.STANDARD, DATA_SHEETS, "resting more than this above full is quarantine"
)
NO_READING_BELOW_V = _limit(
    "no_reading_below_v",
    0.05,
    "V",
    Kind.HOUSE,
    HOUSE_DEFAULT,
    "below this nothing was measured: protection tripped or a tab torn",
)
SIBLING_GAP_V = _limit(
    "sibling_gap_v", 0.2, "V", Kind.HOUSE, HOUSE_DEFAULT, "further from its siblings than this a cell is watched"
)
SCHOOL_LOOKS_AGAIN_AFTER_DAYS = _limit(
    "school_looks_again_after_days", 14, "d", Kind.HOUSE, HOUSE_DEFAULT, "a resting voltage this long after the last charge or discharge is a find again"
)  # fmt: skip
RECOVERED_BELOW_PRE_CHARGE_V = _limit(
    "recovered_below_pre_charge_v", 0.2, "V", Kind.HOUSE, HOUSE_DEFAULT, "resting further below the pre-charge limit than this after a recovery has failed"
)  # fmt: skip
RECOVERY_SETTLES_H = _limit(
    "recovery_settles_h", 1, "h", Kind.HOUSE, HOUSE_DEFAULT, "after this the voltage of a recovered cell counts"
)
RECOVERY_C = _limit("recovery_c", 0.1, "C", Kind.HOUSE, HOUSE_DEFAULT, "current of a recovery, at most")
WATCHED_RECOVERY_C = _limit(
    "watched_recovery_c", 0.05, "C", Kind.HOUSE, HOUSE_DEFAULT, "current of a watched recovery, at most"
)
RECOVERY_MINUTES = _limit(
    "recovery_minutes", 60, "min", Kind.HOUSE, HOUSE_DEFAULT, "a recovery that takes longer has failed"
)
RECOVERY_WARMING_K = _limit(
    "recovery_warming_k", 10, "K", Kind.HOUSE, HOUSE_DEFAULT, "a recovery that warms the cell by more has failed"
)

RECOVERY_CHECK_MIN = _limit(
    "recovery_check_min", 15, "min", Kind.HOUSE, HOUSE_DEFAULT, "a running recovery is looked at every"
)
WATCHED_CHECK_MIN = _limit(
    "watched_check_min", 5, "min", Kind.HOUSE, HOUSE_DEFAULT, "a watched recovery is looked at every"
)
STATE_MATTERS_H = _limit(
    "state_matters_h",
    24,
    "h",
    Kind.HOUSE,
    HOUSE_DEFAULT,
    "so long after charge or load the state of a voltage is asked",
)
CLIMBING_WAIT_MIN = _limit(
    "climbing_wait_min", 30, "min", Kind.HOUSE, HOUSE_DEFAULT, "a voltage that still moves is taken again after"
)

# --- Charging and resting --------------------------------------------------------------------------------------------

CHARGE_RATE_C = _limit("charge_rate_c", 0.5, "C", Kind.STANDARD, DATA_SHEETS, "charge current over believed capacity")
CHARGE_RATE_MOST_C = _limit("charge_rate_most_c", 1.0, "C", Kind.HOUSE, HOUSE_DEFAULT, "charge current, at most")
CHARGE_END_C = _limit("charge_end_c", 0.05, "C", Kind.HOUSE, HOUSE_DEFAULT, "a charge ends at this current")
MODULE_END_SHARE = _limit(
    "module_end_share", 0.1, "", Kind.STANDARD, DATA_SHEETS, "a simple module ends at this share of its current"
)
FULL_STANDS_DAYS = _limit(
    "full_stands_days", 14, "d", Kind.HOUSE, HOUSE_DEFAULT, "a charged cell waits for its run at most"
)
EMPTY_STANDS_DAYS = _limit(
    "empty_stands_days", 7, "d", Kind.HOUSE, HOUSE_DEFAULT, "an emptied cell waits for a charge at most"
)
CHARGE_UNKNOWN_LARGE_MA = _limit(
    "charge_unknown_large_ma",
    500,
    "mA",
    Kind.HOUSE,
    HOUSE_DEFAULT,
    "charge current of an 18650 or larger of unknown capacity",
)
CHARGE_UNKNOWN_SMALL_MA = _limit(
    "charge_unknown_small_ma",
    200,
    "mA",
    Kind.HOUSE,
    HOUSE_DEFAULT,
    "charge current of a smaller cell of unknown capacity",
)
CHARGED_WITHIN_V = _limit(
    "charged_within_v", 0.05, "V", Kind.STANDARD, DATA_SHEETS, "a charge that ended this near to full was complete"
)
REST_BEFORE_DISCHARGE_MIN = _limit(
    "rest_before_discharge_min", 30, "min", Kind.STANDARD, "IEC 61960-3 and data sheets: 30 to 60 min", "rest between charge and capacity run"
)  # fmt: skip

# --- Self-discharge --------------------------------------------------------------------------------------------------

RELAXATION_H = _per_family(
    "relaxation_h", "h", Kind.HOUSE, HOUSE_DEFAULT, "voltage falls without loss for this long after a charge",
    {"layered-oxide": 24, "high-voltage-cobalt": 24, "iron-phosphate": 48, "titanate": 24},
)  # fmt: skip
LEAKING_MV_PER_DAY = _limit(
    "leaking_mv_per_day", 5, "mV/d", Kind.HOUSE, HOUSE_DEFAULT, "loses more, less two standard errors: out"
)
WATCH_MV_PER_DAY = _limit(
    "watch_mv_per_day", 2, "mV/d", Kind.HOUSE, HOUSE_DEFAULT, "loses more, less two standard errors: watch"
)
SLOPE_FROM_DAY = _limit(
    "slope_from_day", 3, "d", Kind.HOUSE, HOUSE_DEFAULT, "the last reading must lie beyond this day"
)
SLOPE_ERROR_MV_PER_DAY = _limit(
    "slope_error_mv_per_day", 1, "mV/d", Kind.HOUSE, HOUSE_DEFAULT, "a slope less certain than this says nothing yet"
)
WAIT_RESOLUTIONS = _limit(
    "wait_resolutions", 3, "", Kind.PHYSICS, "resolution against slope", "last digits that a slope must have moved"
)
WATCH_ONE_READING_V = _limit(
    "watch_one_reading_v",
    4.10,
    "V",
    Kind.HOUSE,
    HOUSE_DEFAULT,
    "one reading below this 14 days after a full charge to 4.20 V: watch",
)
WATCH_AGAIN_DAYS = _limit(
    "watch_again_days", 14, "d", Kind.HOUSE, HOUSE_DEFAULT, "a cell on watch is measured again after"
)

# --- Resistance and power --------------------------------------------------------------------------------------------

RESISTANCE_GOOD_OHM_AH = _limit(
    "resistance_good_ohm_ah",
    0.15,
    "Ω Ah",
    Kind.HOUSE,
    HOUSE_DEFAULT,
    "resistance times capacity of a good cell, at most",
)
HIGH_DRAIN_OHM_AH = _limit(
    "high_drain_ohm_ah",
    0.06,
    "Ω Ah",
    Kind.HOUSE,
    HOUSE_DEFAULT,
    "resistance times capacity of a high-drain cell, at most",
)
RESISTANCE_ROSE_PCT = _limit(
    "resistance_rose_pct", 20, "%", Kind.HOUSE, HOUSE_DEFAULT, "a resistance that rose by more is told"
)
CHARGE_DIFFERS_PCT = _limit(
    "charge_differs_pct", 10, "%", Kind.HOUSE, HOUSE_DEFAULT, "charge and discharge further apart are told"
)
RACED_MINUTES = _limit(
    "raced_minutes", 20, "min", Kind.HOUSE, HOUSE_DEFAULT, "from less than a third full to full in less is told"
)
RESISTANCE_OUT_OHM_AH = MappingProxyType(
    {
        method: _limit(
            f"resistance_out_ohm_ah/{method}",
            value,
            "Ω Ah",
            Kind.HOUSE,
            HOUSE_DEFAULT,
            f"r Q above this is out, {method}",
        )
        for method, value in {"ac-1khz": 0.30, "dc-1s": 0.45, "dc-10s": 0.60, "tester": 0.30}.items()
    }
)
EDGE_APART_S = _limit(
    "edge_apart_s", 10, "s", Kind.HOUSE, HOUSE_DEFAULT, "rows further apart than this show no resistance"
)
SAG_V = _limit("sag_v", 0.30, "V", Kind.HOUSE, HOUSE_DEFAULT, "sag that a continuous current may cause")
HEAT_18650_W = _limit(
    "heat_18650_w", 1.0, "W", Kind.HOUSE, HOUSE_DEFAULT, "heat an 18650 may make in a closed case; others by surface"
)
NO_SHEET_C = _limit("no_sheet_c", 1.0, "C", Kind.HOUSE, HOUSE_DEFAULT, "continuous current of a cell without a sheet")
NO_SHEET_VAPE_C = _limit(
    "no_sheet_vape_c", 2.0, "C", Kind.HOUSE, HOUSE_DEFAULT, "continuous current of a vape cell without a sheet"
)

# --- Grades ----------------------------------------------------------------------------------------------------------


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
            "bins/layered-oxide-cylinder", "mAh/cm³", (120, 90, 60), "capacity by volume"
        ),
        (Family.LAYERED_OXIDE, "flat"): _steps(
            "bins/layered-oxide-flat", "mAh/cm³", (80, 60, 40), "capacity by volume"
        ),
        (Family.IRON_PHOSPHATE, "cylinder"): _steps(
            "bins/iron-phosphate-cylinder", "mAh/cm³", (70, 55, 40), "capacity by volume"
        ),
    }
)
POWER_C = _steps("power_c", "C", (1.0, 0.5, 0.2), "continuous current over capacity")

# --- What can fit in a size ------------------------------------------------------------------------------------------


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
SMALL_FLAT_BELOW_CM3 = _limit(
    "small_flat_below_cm3", 3, "cm³", Kind.HOUSE, HOUSE_DEFAULT, "a flat cell below this counts as small"
)
LARGE_FLAT_FROM_CM3 = _limit(
    "large_flat_from_cm3", 5, "cm³", Kind.HOUSE, HOUSE_DEFAULT, "a flat cell from this on counts as large"
)

# --- Uncertainty -----------------------------------------------------------------------------------------------------

CAPACITY_HALF_WIDTH_PCT = MappingProxyType(
    {
        method: _limit(f"capacity_half_width_pct/{method}", value, "%", Kind.HOUSE, HOUSE_DEFAULT, f"capacity by {method} is right within")
        for method, value in {
            "trace": 1, "tester": 3, "charge-counted": 3, "usb-linear": 4, "resistor-log": 5, "usb-switching": 8,
            "usb-step-up": 8, "resistor-clock": 10,
        }.items()
    }
)  # fmt: skip
CHARGE_EFFICIENCY = _limit(
    "charge_efficiency", 0.99, "", Kind.HOUSE, HOUSE_DEFAULT, "share of a counted charge that a healthy cell gives back"
)
CONVERTER_EFFICIENCY = _limit(
    "converter_efficiency", 0.88, "", Kind.HOUSE, HOUSE_DEFAULT, "efficiency of a switching charger or a step-up"
)
COMPARABLE_FROM_DEGC = _limit(
    "comparable_from_degc", 15, "°C", Kind.HOUSE, HOUSE_DEFAULT, "a figure measured colder is marked"
)
COMPARABLE_TO_DEGC = _limit(
    "comparable_to_degc", 30, "°C", Kind.HOUSE, HOUSE_DEFAULT, "a figure measured warmer is marked"
)
AC_HALF_WIDTH_PCT = _limit("ac_half_width_pct", 3, "%", Kind.HOUSE, HOUSE_DEFAULT, "1 kHz meter, of the value")
AC_HALF_WIDTH_MOHM = _limit("ac_half_width_mohm", 2, "mΩ", Kind.HOUSE, HOUSE_DEFAULT, "1 kHz meter, at least")
DC_HALF_WIDTH_PCT = _limit("dc_half_width_pct", 5, "%", Kind.HOUSE, HOUSE_DEFAULT, "the load resistor, of the value")
TESTER_HALF_WIDTH_MOHM = _limit(
    "tester_half_width_mohm", 20, "mΩ", Kind.HOUSE, HOUSE_DEFAULT, "a tester's two-wire resistance"
)
VOLTAGE_RESOLUTION_V = _limit(
    "voltage_resolution_v", 0.01, "V", Kind.HOUSE, HOUSE_DEFAULT, "last digit of a cheap meter"
)
SURE_FROM = _limit("sure_from", 0.95, "", Kind.HOUSE, HOUSE_DEFAULT, "a judgement this probable is sure")
LIKELY_FROM = _limit(
    "likely_from", 0.75, "", Kind.HOUSE, HOUSE_DEFAULT, "a judgement this probable is likely, below it is borderline"
)
RUNS_TO_SETTLE = _limit(
    "runs_to_settle", 3, "", Kind.HOUSE, HOUSE_DEFAULT, "after so many runs a borderline figure stands"
)

# --- Shelf -----------------------------------------------------------------------------------------------------------

FIRST_RECHECK_DAYS = _limit(
    "first_recheck_days", 14, "d", Kind.HOUSE, HOUSE_DEFAULT, "first look at a shelved cell after"
)
RECHECK_OVERDUE_DAYS = _limit(
    "recheck_overdue_days", 30, "d", Kind.HOUSE, HOUSE_DEFAULT, "a look that is due is overdue after"
)
RECHECK_DAYS = _limit("recheck_days", 180, "d", Kind.HOUSE, HOUSE_DEFAULT, "later looks at a shelved cell after")
RECHECK_GENTLE_DAYS = _limit(
    "recheck_gentle_days", 180, "d", Kind.HOUSE, HOUSE_DEFAULT, "later looks at a shelved cell of grade Gentle after"
)
STORED_ABOVE_V = _limit(
    "stored_above_v", 0.2, "V", Kind.HOUSE, HOUSE_DEFAULT, "a shelved cell that rests more than this above its storage voltage is told"
)  # fmt: skip

# --- Packs -----------------------------------------------------------------------------------------------------------

JOIN_WITHIN_V = _limit(
    "join_within_v", 0.05, "V", Kind.HOUSE, HOUSE_DEFAULT, "resting voltages of cells to be joined differ by at most"
)
PACK_FULL_V = _limit(
    "pack_full_v", 30, "V", Kind.HOUSE, HOUSE_DEFAULT, "full voltage of a pack without a coordinator's yes"
)
PACK_ENERGY_WH = _limit(
    "pack_energy_wh", 160, "Wh", Kind.HOUSE, HOUSE_DEFAULT, "energy of a pack without a coordinator's yes"
)
PACK_FULL_MOST_V = _limit(
    "pack_full_most_v", 60, "V", Kind.STANDARD, "extra-low voltage", "full voltage of a pack, at most"
)
PACK_ENERGY_MOST_WH = _limit("pack_energy_most_wh", 500, "Wh", Kind.HOUSE, HOUSE_DEFAULT, "energy of a pack, at most")
ROOM_PLAY_MM = _limit(
    "room_play_mm", 1.0, "mm", Kind.HOUSE, HOUSE_DEFAULT, "room that wrap, tape and strips take beside each cell"
)

# --- What a typed value can be ---------------------------------------------------------------------------------------

CELL_MOST_V = _limit(
    "cell_most_v", 5.0, "V", Kind.PHYSICS, "no lithium cell rests above it", "a typed voltage above this is a slip"
)
CELL_MOST_MAH = _limit(
    "cell_most_mah", 60_000, "mAh", Kind.HOUSE, HOUSE_DEFAULT, "a typed capacity above this is a slip"
)
CELL_MOST_MOHM = _limit(
    "cell_most_mohm", 5000, "mΩ", Kind.HOUSE, HOUSE_DEFAULT, "a typed resistance above this is a slip"
)
BENCH_LEAST_DEGC = _limit(
    "bench_least_degc", -10, "°C", Kind.HOUSE, HOUSE_DEFAULT, "temperature of a cell at the bench, at least"
)
BENCH_MOST_DEGC = _limit(
    "bench_most_degc", 60, "°C", Kind.HOUSE, HOUSE_DEFAULT, "temperature of a cell at the bench, at most"
)
MASS_G_MOST = _limit("mass_g_most", 2000, "g", Kind.HOUSE, HOUSE_DEFAULT, "mass of a cell, at most")
OUTLINE_MM_LEAST = _limit(
    "outline_mm_least", 0.5, "mm", Kind.HOUSE, HOUSE_DEFAULT, "a measured side of a cell, at least"
)
OUTLINE_MM_MOST = _limit("outline_mm_most", 400, "mm", Kind.HOUSE, HOUSE_DEFAULT, "a measured side of a cell, at most")
ODD_CHANGE_V = _limit(
    "odd_change_v", 0.2, "V", Kind.HOUSE, HOUSE_DEFAULT, "a change without charge or discharge that is asked about"
)
ODD_CHANGE_PCT = _limit(
    "odd_change_pct", 20, "%", Kind.HOUSE, HOUSE_DEFAULT, "a change of capacity that is asked about"
)
ODD_MOHM = _limit("odd_mohm", 500, "mΩ", Kind.HOUSE, HOUSE_DEFAULT, "a resistance above this is asked about")

ABOUT_HALF_WIDTH_PCT = _limit(
    "about_half_width_pct", 5, "%", Kind.HOUSE, HOUSE_DEFAULT, "what a value said as about may be off by"
)

ALL_LIMITS: Mapping[str, Limit] = MappingProxyType(_ALL)
