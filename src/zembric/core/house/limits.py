"""Every limit of the house rules in one place: value, unit, kind and source.

Three kinds are kept apart wherever a number is shown: physics or arithmetic, a standard or usual data-sheet value,
and a house value, a sound default that a repair cafe may change.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from types import MappingProxyType
from typing import TYPE_CHECKING

from zembric.core.said import Said, named, said

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
    source: Said
    #: A house value that protects people: the same in every house, and no matter of taste.
    fixed: bool = False
    #: What a house may set it to; None: up to four times more or less.
    bounds: tuple[float, float] | None = None
    #: What it is about, as it is shown under.
    group: str = ""

    @property
    def meaning(self) -> Said:
        return named("limit", self.key.replace("/", "-"))

    @property
    def about(self) -> Said:
        return named("limits-about", self.group)


_ALL: dict[str, Limit] = {}

_group = ""


def _about(group: str) -> None:
    """All limits from here on are about this."""
    global _group  # noqa: PLW0603  # read once, as the module is loaded
    _group = group


# Where a number or a law comes from.
DATA_SHEETS = said("source-data-sheets")
HOUSE_DEFAULT = said("source-house-default-2026")
HOUSE_SURVEY = said("source-house-survey-2026")
GUM = said("source-gum")
IEC_61960_3 = said("source-iec-61960-3")
IEC_61960_3_AND_SHEETS = said("source-iec-61960-3-and-sheets")
IEC_60028 = said("source-iec-60028")
MATERIALS = said("source-tables-of-materials")
USUAL_STRIP = said("source-usual-strip")
ROUNDED_PRINTS = said("source-rounded-prints")
EXTRA_LOW_VOLTAGE = said("source-extra-low-voltage")
NO_CELL_ABOVE = said("source-no-cell-above")
RESOLUTION_AGAINST_SLOPE = said("source-resolution-against-slope")
LAWS = said("source-laws")


def _limit(
    key: str,
    value: float,
    unit: str,
    kind: Kind,
    source: Said,
    *,
    fixed: bool = False,
    bounds: tuple[float, float] | None = None,
) -> Limit:
    if key in _ALL:
        raise ValueError(f"limit {key} is named twice")
    _ALL[key] = limit = Limit(key, value, unit, kind, source, fixed, bounds, _group)
    return limit


def _house(key: str, value: float, unit: str, bounds: tuple[float, float] | None = None) -> Limit:
    """A house value that a coordinator may set otherwise."""
    return _limit(key, value, unit, Kind.HOUSE, HOUSE_DEFAULT, bounds=bounds)


def _guard(key: str, value: float, unit: str) -> Limit:
    """A house value that protects people, so nobody sets it otherwise."""
    return _limit(key, value, unit, Kind.HOUSE, HOUSE_DEFAULT, fixed=True)


def _per_family(
    key: str,
    unit: str,
    kind: Kind,
    source: Said,
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
                fixed=fixed,
                bounds=(bounds or {}).get(name),
            )
            for name, value in values.items()
        }
    )


# --- Chemistry families ----------------------------------------------------------------------------------------------

_about("chemistry-families")
NOMINAL_V = _per_family(
    "nominal_v", "V", Kind.STANDARD, DATA_SHEETS,
    {"layered-oxide": 3.6, "high-voltage-cobalt": 3.8, "iron-phosphate": 3.2, "titanate": 2.3},
)  # fmt: skip
FULL_V = _per_family(
    "full_v", "V", Kind.STANDARD, DATA_SHEETS,
    # High-voltage cobalt is marked with its own; where nobody read the mark it is charged as layered oxide.
    {"layered-oxide": 4.20, "high-voltage-cobalt": 4.20, "iron-phosphate": 3.60, "titanate": 2.70},
)  # fmt: skip
CUT_OFF_V = _per_family(
    "cut_off_v", "V", Kind.HOUSE, HOUSE_DEFAULT,
    {"layered-oxide": 3.0, "high-voltage-cobalt": 3.0, "iron-phosphate": 2.5, "titanate": 1.8},
    # What the families' sheets allow.
    bounds={"layered-oxide": (2.5, 3.3), "high-voltage-cobalt": (2.7, 3.3), "iron-phosphate": (2.0, 2.8), "titanate": (1.5, 2.0)},
)  # fmt: skip
PRE_CHARGE_BELOW_V = _per_family(
    "pre_charge_below_v", "V", Kind.STANDARD, DATA_SHEETS,
    {"layered-oxide": 3.0, "high-voltage-cobalt": 3.0, "iron-phosphate": 2.5, "titanate": 1.8},
)  # fmt: skip
NEVER_CHARGE_BELOW_V = _per_family(
    "never_charge_below_v", "V", Kind.HOUSE, HOUSE_DEFAULT,
    {"layered-oxide": 2.0, "high-voltage-cobalt": 2.0, "iron-phosphate": 1.5, "titanate": 1.0}, fixed=True,
)  # fmt: skip
STORE_AT_V = _per_family(
    "store_at_v", "V", Kind.HOUSE, HOUSE_DEFAULT,
    {"layered-oxide": 3.8, "high-voltage-cobalt": 3.8, "iron-phosphate": 3.3, "titanate": 2.3},
    bounds={"layered-oxide": (3.6, 3.9), "high-voltage-cobalt": (3.6, 3.9), "iron-phosphate": (3.2, 3.35), "titanate": (2.2, 2.45)},
)  # fmt: skip

#: Above this a cell without a mark of its own is overfull: the upper end of what its family's sheets say.
OVERFULL_FROM_V = _per_family(
    "overfull_from_v", "V", Kind.STANDARD, DATA_SHEETS,
    {"layered-oxide": 4.20, "high-voltage-cobalt": 4.20, "iron-phosphate": 3.65, "titanate": 2.80},
)  # fmt: skip
MARKED_FULL_LEAST_V = _per_family(
    "marked_full_least_v", "V", Kind.STANDARD, DATA_SHEETS,
    {"layered-oxide": 4.15, "high-voltage-cobalt": 4.30, "iron-phosphate": 3.55, "titanate": 2.60},
)  # fmt: skip
MARKED_FULL_MOST_V = _per_family(
    "marked_full_most_v", "V", Kind.STANDARD, DATA_SHEETS,
    {"layered-oxide": 4.25, "high-voltage-cobalt": 4.50, "iron-phosphate": 3.70, "titanate": 2.85},
)  # fmt: skip
HIGH_VOLTAGE_USUAL_V = _limit(
    "high_voltage_usual_v", 4.45, "V", Kind.STANDARD, DATA_SHEETS,
)  # fmt: skip

# --- First voltage ---------------------------------------------------------------------------------------------------

_about("first-voltage-and-recovery")
WATCHED_BELOW_V = _guard("watched_below_v", 2.5, "V")
THRIFTY_FROM_V = _guard("thrifty_from_v", 1.5, "V")
OVER_FULL_V = _limit("over_full_v", 0.05, "V", Kind.STANDARD, DATA_SHEETS)
OVER_HAZARD_V = _guard("over_hazard_v", 0.20, "V")
NO_READING_BELOW_V = _guard("no_reading_below_v", 0.05, "V")
SIBLING_GAP_V = _house("sibling_gap_v", 0.2, "V")
RECOVERED_BELOW_PRE_CHARGE_V = _guard(
    "recovered_below_pre_charge_v",
    0.2,
    "V",
)
RECOVERY_SETTLES_H = _guard("recovery_settles_h", 1, "h")
RECOVERY_C = _guard("recovery_c", 0.1, "C")
WATCHED_RECOVERY_C = _guard("watched_recovery_c", 0.05, "C")
RECOVERY_MINUTES = _guard("recovery_minutes", 60, "min")
RECOVERY_WARMING_K = _guard("recovery_warming_k", 10, "K")

RECOVERY_CHECK_MIN = _guard("recovery_check_min", 15, "min")
WATCHED_CHECK_MIN = _guard("watched_check_min", 5, "min")
STATE_MATTERS_H = _house("state_matters_h", 24, "h")
CLIMBING_WAIT_MIN = _house("climbing_wait_min", 30, "min")

# --- Charging and resting --------------------------------------------------------------------------------------------

_about("charging-and-resting")
CHARGE_RATE_C = _limit("charge_rate_c", 0.5, "C", Kind.STANDARD, DATA_SHEETS)
CHARGE_RATE_MOST_C = _guard("charge_rate_most_c", 1.0, "C")
CHARGE_END_C = _house("charge_end_c", 0.05, "C")
MODULE_END_SHARE = _limit("module_end_share", 0.1, "", Kind.STANDARD, DATA_SHEETS)
FULL_STANDS_DAYS = _house("full_stands_days", 14, "d")
EMPTY_STANDS_DAYS = _house("empty_stands_days", 7, "d")
CHARGE_UNKNOWN_LARGE_MA = _house("charge_unknown_large_ma", 500, "mA")
CHARGE_UNKNOWN_SMALL_MA = _house("charge_unknown_small_ma", 200, "mA")
CHARGED_WITHIN_V = _limit("charged_within_v", 0.05, "V", Kind.STANDARD, DATA_SHEETS)
TESTER_USUAL_MA = _house("tester_usual_ma", 1000, "mA")
REST_BEFORE_DISCHARGE_MIN = _limit(
    "rest_before_discharge_min", 30, "min", Kind.STANDARD, IEC_61960_3_AND_SHEETS
)  # fmt: skip

CHARGED_NEARLY_WITHIN_V = _house("charged_nearly_within_v", 0.10, "V", (0.05, 0.15))
CHARGER_PLAY_V = _house("charger_play_v", 0.10, "V")
STORED_WITHIN_V = _house("stored_within_v", 0.10, "V")
CHARGED_ABOVE_PRE_CHARGE_V = _house(
    "charged_above_pre_charge_v",
    0.2,
    "V",
)
STOPPED_HIGH_V = _house("stopped_high_v", 0.3, "V")
RESTED_H = _guard("rested_h", 1, "h")

# --- Heat and cold ---------------------------------------------------------------------------------------------------

_about("heat-and-cold")
HOT_DEGC = _guard("hot_degc", 45, "°C")
HOT_ABOVE_ROOM_K = _guard("hot_above_room_k", 10, "K")
TOO_HOT_DEGC = _guard("too_hot_degc", 60, "°C")
COOLED_DOWN_H = _guard("cooled_down_h", 1, "h")
NEVER_CHARGE_BELOW_DEGC = _limit(
    "never_charge_below_degc",
    0,
    "°C",
    Kind.STANDARD,
    DATA_SHEETS,
)
COLD_BELOW_DEGC = _guard("cold_below_degc", 10, "°C")
COLD_CHARGE_C = _guard("cold_charge_c", 0.2, "C")

# --- Self-discharge --------------------------------------------------------------------------------------------------

_about("at-rest")
RELAXATION_H = _per_family(
    "relaxation_h", "h", Kind.HOUSE, HOUSE_DEFAULT,
    {"layered-oxide": 24, "high-voltage-cobalt": 24, "iron-phosphate": 48, "titanate": 24},
)  # fmt: skip
LEAKING_MV_PER_DAY = _house("leaking_mv_per_day", 5, "mV/d")
WATCH_MV_PER_DAY = _house("watch_mv_per_day", 2, "mV/d")
SLOPE_FROM_DAY = _house("slope_from_day", 3, "d")
WAIT_RESOLUTIONS = _limit("wait_resolutions", 3, "", Kind.PHYSICS, RESOLUTION_AGAINST_SLOPE)
SETTLES_ENDED_V = _house("settles_ended_v", 0.05, "V")
SETTLES_STOPPED_V = _house("settles_stopped_v", 0.15, "V")
CHARGE_END_KNOWN_V = _house("charge_end_known_v", 0.01, "V")
FLAT_SETTLES_ABOVE_V = _house("flat_settles_above_v", 3.35, "V")
FLAT_STARTS_AT_MOST_V = _house("flat_starts_at_most_v", 3.33, "V")
FLAT_TELLS_BELOW_V = _house("flat_tells_below_v", 3.25, "V")
WATCH_AGAIN_DAYS = _house("watch_again_days", 14, "d")

# --- Resistance and power --------------------------------------------------------------------------------------------

_about("resistance-and-power")
RESISTANCE_GOOD_OHM_AH = _house("resistance_good_ohm_ah", 0.15, "Ω Ah")
HIGH_DRAIN_OHM_AH = _house("high_drain_ohm_ah", 0.06, "Ω Ah")
RESISTANCE_ROSE_PCT = _house("resistance_rose_pct", 20, "%")
CHARGE_DIFFERS_PCT = _house("charge_differs_pct", 10, "%")
RACED_MINUTES = _house("raced_minutes", 20, "min")
RESISTANCE_OUT_OHM_AH = MappingProxyType(
    {
        method: _limit(
            f"resistance_out_ohm_ah/{method}",
            value,
            "Ω Ah",
            Kind.HOUSE,
            HOUSE_DEFAULT,
        )
        for method, value in {"ac-1khz": 0.30, "dc-1s": 0.45, "dc-10s": 0.60, "tester": 0.30}.items()
    }
)
SHORTED_OHM_AH = _guard("shorted_ohm_ah", 0.012, "Ω Ah")
SEES_OF_1_KHZ: Mapping[str, Limit] = MappingProxyType(
    {method: _house(f"sees_of_1_khz/{method}", value, "") for method, value in {"dc-1s": 1.5, "dc-10s": 2.0}.items()}
)
TELLING_SHARE = _guard("telling_share", 0.5, "")
EDGE_APART_S = _guard("edge_apart_s", 10, "s")
SAG_V = _house("sag_v", 0.30, "V")
HEAT_18650_W = _house("heat_18650_w", 1.0, "W")
NO_SHEET_C = _house("no_sheet_c", 1.0, "C")
NO_SHEET_VAPE_C = _house("no_sheet_vape_c", 2.0, "C")

# --- Grades ----------------------------------------------------------------------------------------------------------

_about("grades")


@dataclass(frozen=True, slots=True)
class GradeSteps:
    """Least values for the grades A, B and C; below C is out."""

    a: Limit
    b: Limit
    c: Limit


def _steps(key: str, unit: str, values: tuple[float, float, float]) -> GradeSteps:
    a, b, c = (
        _limit(f"{key}/{grade}", value, unit, Kind.HOUSE, HOUSE_DEFAULT)
        for grade, value in zip("ABC", values, strict=True)
    )
    return GradeSteps(a, b, c)


HEALTH_PCT = _steps("health_pct", "%", (80, 65, 50))
BINS_MAH_PER_CM3 = MappingProxyType(
    {
        (Family.LAYERED_OXIDE, "cylinder"): _steps("bins/layered-oxide-cylinder", "mAh/cm³", (120, 90, 60)),
        (Family.LAYERED_OXIDE, "flat"): _steps("bins/layered-oxide-flat", "mAh/cm³", (80, 60, 40)),
        (Family.IRON_PHOSPHATE, "cylinder"): _steps("bins/iron-phosphate-cylinder", "mAh/cm³", (70, 55, 40)),
    }
)
POWER_C = _steps("power_c", "C", (1.0, 0.5, 0.2))

# --- What can fit in a size ------------------------------------------------------------------------------------------

_about("what-can-fit-in-a-size")


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
            HOUSE_SURVEY,
        ),
        _limit(
            f"{key}/impossible",
            impossible,
            "Wh/L",
            Kind.HOUSE,
            HOUSE_SURVEY,
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
                HOUSE_SURVEY,
            ),
            _limit(
                f"density_by_mass/{family}/impossible",
                impossible,
                "Wh/kg",
                Kind.HOUSE,
                HOUSE_SURVEY,
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
SMALL_FLAT_BELOW_CM3 = _house("small_flat_below_cm3", 3, "cm³")
LARGE_FLAT_FROM_CM3 = _house("large_flat_from_cm3", 5, "cm³")

# --- Uncertainty -----------------------------------------------------------------------------------------------------

_about("how-sure")
CAPACITY_HALF_WIDTH_PCT = MappingProxyType(
    {
        method: _limit(f"capacity_half_width_pct/{method}", value, "%", Kind.HOUSE, HOUSE_DEFAULT)
        for method, value in {
            "trace": 1, "tester": 3, "charge-counted": 3, "usb-linear": 4, "resistor-log": 5, "usb-switching": 8,
            "usb-step-up": 8, "resistor-clock": 10,
        }.items()
    }
)  # fmt: skip
RUNS_DISAGREE = _house("runs_disagree", 2, "")
REFERENCE_C = _limit("reference_c", 0.2, "C", Kind.STANDARD, IEC_61960_3)
REFERENCE_ERROR_SHARE = _house(
    "reference_error_share",
    0.5,
    "",
    (0.125, 1),
)
LIKE_CURRENT_RATIO = _house("like_current_ratio", 2, "")
LIKE_CUT_OFF_V = _house("like_cut_off_v", 0.2, "V")
REFERENCE_MOST_LEFT = _house(
    "reference_most_left",
    0.3,
    "",
    (0.075, 1),
)
CHARGE_EFFICIENCY = _house("charge_efficiency", 0.99, "", (0.2475, 1))
CONVERTER_EFFICIENCY = _house("converter_efficiency", 0.88, "", (0.22, 1))
STEP_DOWN_EFFICIENCY = _house("step_down_efficiency", 0.9, "", (0.22, 1))
STEP_UP_LEAST_V = _house("step_up_least_v", 3.0, "V")
STEP_DOWN_ROOM_V = _house("step_down_room_v", 1.0, "V")
COMPARABLE_FROM_DEGC = _house("comparable_from_degc", 15, "°C")
COMPARABLE_TO_DEGC = _house("comparable_to_degc", 30, "°C")
AC_HALF_WIDTH_PCT = _house("ac_half_width_pct", 3, "%")
AC_HALF_WIDTH_MOHM = _house("ac_half_width_mohm", 2, "mΩ")
DC_HALF_WIDTH_PCT = _house("dc_half_width_pct", 5, "%")
TESTER_HALF_WIDTH_MOHM = _house("tester_half_width_mohm", 20, "mΩ")
VOLTAGE_RESOLUTION_V = _house("voltage_resolution_v", 0.01, "V")
SURE_FROM = _house("sure_from", 0.95, "", (0.2375, 1))
LIKELY_FROM = _house("likely_from", 0.75, "", (0.1875, 1))
RUNS_TO_SETTLE = _house("runs_to_settle", 3, "")

# --- Shelf -----------------------------------------------------------------------------------------------------------

_about("the-shelf")
FIRST_RECHECK_DAYS = _house("first_recheck_days", 14, "d")
RECHECK_OVERDUE_DAYS = _house("recheck_overdue_days", 30, "d")
RECHECK_DAYS = _house("recheck_days", 180, "d")
RECHECK_GENTLE_DAYS = _house("recheck_gentle_days", 180, "d")
STORED_ABOVE_V = _house("stored_above_v", 0.2, "V")

# --- Packs -----------------------------------------------------------------------------------------------------------

_about("packs")
JOIN_WITHIN_V = _house("join_within_v", 0.05, "V")
PACK_FULL_V = _guard("pack_full_v", 30, "V")
PACK_ENERGY_WH = _guard("pack_energy_wh", 160, "Wh")
PACK_FULL_MOST_V = _limit("pack_full_most_v", 60, "V", Kind.STANDARD, EXTRA_LOW_VOLTAGE)
PACK_ENERGY_MOST_WH = _guard("pack_energy_most_wh", 500, "Wh")
USED_LEAST_SHARE = _house(
    "used_least_share",
    0.5,
    "",
    (0.125, 1),
)
CHANGED_PCT = _house("changed_pct", 1, "%")
GROUPS_WITHIN_V = _guard("groups_within_v", 0.05, "V")
SIZE_NEAR_ACROSS_MM = _house("size_near_across_mm", 0.6, "mm")
SIZE_NEAR_ALONG_MM = _house("size_near_along_mm", 1.0, "mm")
ROOM_PLAY_MM = _house("room_play_mm", 1.0, "mm")

# --- Wires, strips, modules ------------------------------------------------------------------------------------------

_about("wires-strips-modules")
RESISTIVITY_OHM_M: Mapping[str, Limit] = MappingProxyType(
    {
        material: _limit(f"resistivity_ohm_m/{material}", value, "Ω m", Kind.STANDARD, source)
        for material, value, source in (
            ("nickel", 6.99e-8, MATERIALS), ("copper", 1.72e-8, IEC_60028), ("plated-steel", 1.43e-7, MATERIALS),
        )
    }
)  # fmt: skip
#: In free air in a small case, 20 K warmer than it, by gauge.
WIRE_STANDS_A: Mapping[int, Limit] = MappingProxyType(
    {
        awg: _guard(f"wire_stands_a/{awg}", amperes, "A")
        for awg, amperes in {28: 1.5, 26: 2.2, 24: 3.5, 22: 5, 20: 7.5, 18: 10, 16: 13, 14: 17, 12: 23}.items()
    }
)
STRIP_THICKNESS_MM = _limit("strip_thickness_mm", 0.15, "mm", Kind.STANDARD, USUAL_STRIP)
STRIP_WIDTH_MM = _limit("strip_width_mm", 8, "mm", Kind.STANDARD, USUAL_STRIP)
STRIP_STANDS_A = _guard("strip_stands_a", 5, "A")
MODULE_THROTTLES_W = _house("module_throttles_w", 1.5, "W")
LOAD_STEP_C = _house(
    "load_step_c",
    0.5,
    "C",
)
RESISTOR_HOT_W = _house("resistor_hot_w", 0.5, "W")
JOIN_GENTLE_A = _house("join_gentle_a", 1, "A")
JOIN_PATIENCE_MIN = _house("join_patience_min", 600, "min")
METER_SEES_SHARE = _house("meter_sees_share", 0.2, "", (0.05, 1))

# --- Nearness in a match ---------------------------------------------------------------------------------------------

_about("how-near-in-a-match")
#: How far the weakest cell may lie below the strongest, largest over smallest resistance, and resting voltages of cells
#: that are joined as they lie: strict for packs that work hard, usual for most, relaxed where the load is small.
NEAR_CAPACITY_PCT: Mapping[str, Limit] = MappingProxyType(
    {
        key: _house(f"near_capacity_pct/{key}", value, "%")
        for key, value in {"strict": 3, "usual": 10, "relaxed": 30}.items()
    }
)
NEAR_RESISTANCE_RATIO: Mapping[str, Limit] = MappingProxyType(
    {
        key: _house(
            f"near_resistance_ratio/{key}",
            value,
            "",
            (1.05, 10),
        )
        for key, value in {"strict": 1.2, "usual": 1.5, "relaxed": 3}.items()
    }
)
NEAR_VOLTAGE_V: Mapping[str, Limit] = MappingProxyType(
    {key: _house(f"near_voltage_v/{key}", value, "V") for key, value in {"strict": 0.01, "usual": 0.02}.items()}
    | {"relaxed": JOIN_WITHIN_V}
)

# --- A pack on paper --------------------------------------------------------------------------------------------------

_about("pack-on-paper")
#: Half width of a resting voltage by a cheap meter, and the widest band of charge that a voltage may leave.
PAPER_VOLTAGE_PCT = _house("paper_voltage_pct", 0.5, "%", (0.05, 2))
PAPER_CHARGE_BAND = _house("paper_charge_band", 0.25, "", (0.05, 1))
#: Standard uncertainty of a resistance where nobody said one.
PAPER_RESISTANCE_PCT = _house("paper_resistance_pct", 10, "%", (1, 50))
#: Above this rate the model is optimistic.
PAPER_OPTIMISTIC_C = _house("paper_optimistic_c", 1, "C")
#: Above this rate groups for the longest run are offered beside those of capacity.
RUN_MATCH_ABOVE_C = _house("run_match_above_c", 0.5, "C")

# --- Joining ----------------------------------------------------------------------------------------------------------

_about("joining")
#: A resting voltage says nothing for joining once it is older than this.
JOIN_FRESH_DAYS = _house("join_fresh_days", 7, "d", (1, 14))

# --- What a pack is built from ----------------------------------------------------------------------------------------

_about("what-a-pack-is-built-from")
#: A board's limits a group: it may let charge go on up to here, and discharge down to here.
BOARD_OVER_MOST_V = _per_family(
    "board_over_most_v", "V", Kind.STANDARD, DATA_SHEETS,
    {"layered-oxide": 4.28, "high-voltage-cobalt": 4.28, "iron-phosphate": 3.75, "titanate": 2.85},
)  # fmt: skip
BOARD_UNDER_LEAST_V = _per_family(
    "board_under_least_v", "V", Kind.STANDARD, DATA_SHEETS,
    {"layered-oxide": 2.4, "high-voltage-cobalt": 2.4, "iron-phosphate": 2.0, "titanate": 1.5},
)  # fmt: skip
#: A marked cell's board may stand so much above the mark.
BOARD_ABOVE_FULL_V = _limit("board_above_full_v", 0.08, "V", Kind.STANDARD, DATA_SHEETS)
HEADROOM_TIMES = _limit("headroom_times", 1.25, "", Kind.STANDARD, DATA_SHEETS)
FUSE_LEAST_TIMES = _limit("fuse_least_times", 1.5, "", Kind.STANDARD, DATA_SHEETS)
FUSE_MOST_TIMES = _limit("fuse_most_times", 2, "", Kind.STANDARD, DATA_SHEETS)
DROP_MOST_PCT = _house("drop_most_pct", 2, "%")
CONTACT_MOHM = _house("contact_mohm", 20, "mΩ", (10, 30))
CONVERTER_LEAST_SHARE = _guard("converter_least_share", 0.2, "")
LINEAR_DROP_OUT_V = _limit("linear_drop_out_v", 1.3, "V", Kind.STANDARD, DATA_SHEETS)
LOW_DROP_OUT_V = _limit("low_drop_out_v", 0.3, "V", Kind.STANDARD, DATA_SHEETS)
REGULATOR_SINK_W = _house("regulator_sink_w", 1.5, "W")
REGULATOR_MOST_W = _house("regulator_most_w", 5, "W")
MODULE_SUPPLY_LEAST_V = _limit("module_supply_least_v", 4.5, "V", Kind.STANDARD, DATA_SHEETS)
MODULE_SUPPLY_MOST_V = _limit("module_supply_most_v", 5.5, "V", Kind.STANDARD, DATA_SHEETS)
SUPPLY_SHARE = _house("supply_share", 0.9, "", (0.5, 1))
STANDING_WEEKS = _house("standing_weeks", 8, "wk")
CARD_CHARGE_WEEKS = _house("card_charge_weeks", 26, "wk")
BLEED_PATIENCE_H = _house("bleed_patience_h", 48, "h")
WINDOW_GOOD_SHARE = _house("window_good_share", 0.8, "", (0.5, 1))

# --- Where the cells of a pack stand ----------------------------------------------------------------------------------

_about("where-cells-stand")
CELL_GAP_MM = _house("cell_gap_mm", 0.5, "mm", (0.2, 5))
HOLDER_GAP_MM = _limit("holder_gap_mm", 2.2, "mm", Kind.STANDARD, DATA_SHEETS)
SWELLING_SHARE = _limit("swelling_share", 0.1, "", Kind.STANDARD, DATA_SHEETS)
#: Bare cans of two groups closer than this want something between them.
APART_MM = _guard("apart_mm", 1, "mm")
#: What strips and paper above and below the cells take in all.
LAYOUT_HEAD_MM = _house("layout_head_mm", 2, "mm")
#: A piece of strip goes so many pitches far.
STRIP_REACH = _house("strip_reach", 1.25, "", (1.05, 1.35))
UNEVEN_WAY_PCT = _house("uneven_way_pct", 10, "%", (2, 50))
PLATE_EDGE_MM = _house("plate_edge_mm", 3, "mm")
HOLE_PLAY_MM = _house("hole_play_mm", 0.3, "mm", (0, 2))
#: More cells are not drawn.
LAYOUT_MOST_CELLS = _guard("layout_most_cells", 400, "")
CASE_MOST_MM = _guard("case_most_mm", 1000, "mm")

# --- Building and proving ---------------------------------------------------------------------------------------------

_about("building-and-proving")
#: What a measured voltage may lie beside what was worked out, a group.
STEP_GROUP_V = _house("step_group_v", 0.02, "V", (0.005, 0.05))
PROVE_FULL_V = _guard("prove_full_v", 0.05, "V")
#: How far groups lie apart when all are full: well up to the first, a failure from the second on.
PROVE_SPREAD_WELL_V = _house("prove_spread_well_v", 0.03, "V", (0.01, 0.05))
PROVE_SPREAD_FAILS_V = _guard("prove_spread_fails_v", 0.1, "V")
PROVE_SAG_SHARE = _house("prove_sag_share", 0.2, "", (0.05, 0.5))
PROVE_CELL_DEGC = _guard("prove_cell_degc", 45, "°C")
PROVE_BOARD_DEGC = _guard("prove_board_degc", 60, "°C")
PROVE_LOW_SHARE = _house("prove_low_share", 0.8, "", (0.5, 1))
#: Packs may run so much longer or shorter than worked out before a house is told how to mend its promises.
PROMISE_OFF_SHARE = _house("promise_off_share", 0.1, "", (0.03, 0.5))
#: Of the hours that are worked out a card says so much.
CARD_HOURS_LEAST = _guard("card_hours_least", 0.3, "")
CARD_HOURS_TIMES = _house("card_hours_times", 1, "", (0.3, 1))

# --- Testers on the wire ---------------------------------------------------------------------------------------------

_about("testers-on-the-wire")
CHARGED_IN_MOST_SHARE = _guard("charged_in_most_share", 1.2, "")
OVER_TIME_TIMES = _guard("over_time_times", 2, "")
SAME_CELL_WITHIN_V = _house("same_cell_within_v", 0.12, "V", (0.05, 0.3))
#: A tester whose master says nothing for so long ends its currents by itself, or charges nothing at all.
WATCHDOG_S = _guard("watchdog_s", 10, "s")
CONTACT_BACK_S = _guard("contact_back_s", 120, "s")
SOMEBODY_HERE_MIN = _guard("somebody_here_min", 30, "min")

# --- What a typed value can be ---------------------------------------------------------------------------------------

_about("what-a-typed-value-can-be")
CELL_MOST_V = _limit("cell_most_v", 5.0, "V", Kind.PHYSICS, NO_CELL_ABOVE)
CELL_MOST_MAH = _guard("cell_most_mah", 60_000, "mAh")
CELL_MOST_MOHM = _guard("cell_most_mohm", 5000, "mΩ")
BENCH_LEAST_DEGC = _guard("bench_least_degc", -40, "°C")
BENCH_MOST_DEGC = _guard("bench_most_degc", 200, "°C")
MASS_G_MOST = _guard("mass_g_most", 2000, "g")
OUTLINE_MM_LEAST = _guard("outline_mm_least", 0.5, "mm")
OUTLINE_MM_MOST = _guard("outline_mm_most", 400, "mm")
ODD_CHANGE_V = _house("odd_change_v", 0.2, "V")
ODD_OVER_RATED_PCT = _house("odd_over_rated_pct", 10, "%")
ODD_CHANGE_PCT = _house("odd_change_pct", 20, "%")
LOW_CHARGE_SHARE = _house("low_charge_share", 0.3, "")
PRINT_NOMINAL_WITHIN_V = _limit(
    "print_nominal_within_v",
    0.03,
    "V",
    Kind.STANDARD,
    ROUNDED_PRINTS,
)
PRINT_DIFFERS_SHARE = _limit(
    "print_differs_share",
    0.05,
    "",
    Kind.STANDARD,
    ROUNDED_PRINTS,
)
WITHIN_SHARE = _guard("within_share", 0.97, "")
ODD_MOHM = _house("odd_mohm", 500, "mΩ")

ABOUT_HALF_WIDTH_PCT = _house("about_half_width_pct", 5, "%")

ALL_LIMITS: Mapping[str, Limit] = MappingProxyType(_ALL)
