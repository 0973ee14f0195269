"""What follows from a cell's story under the house rules: grounds that put it out, grades by figure, what is missing."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from zembric.core.errors import BadInputError
from zembric.core.grounds import WORST_GRADE_LAST, Grade, Reason
from zembric.core.house import limits
from zembric.core.house.limits import Family, GradeSteps, Limit
from zembric.core.identify.claims import check_claim
from zembric.core.identify.families import as_charged
from zembric.core.identify.sizes import Size, read_size
from zembric.core.measure.charges import charge_history
from zembric.core.measure.excess import excesses, undecided
from zembric.core.measure.figures import (
    METHODS_BEST_FIRST,
    Capacity,
    ContinuousCurrent,
    Resistance,
    continuous_current,
    dc_resistance,
    deciding_capacity,
    deciding_resistance,
    resistance_by,
    resistance_times_capacity,
)
from zembric.core.measure.first_voltage import (
    BandOfVoltage,
    band_of,
    counting_voltages,
    find_of,
    later_ground,
    recovery_proof,
    standing_voltage,
)
from zembric.core.measure.heat import found_hot, heat_words
from zembric.core.measure.odd_figures import far_from_siblings
from zembric.core.measure.repeats import falling_runs
from zembric.core.measure.self_discharge import Slope, first_said, self_discharge
from zembric.core.measure.uncertainty import Sureness, least_sure, sureness, surest
from zembric.core.said import Amount, Said, all_of, named, said, volts
from zembric.core.story import (
    HAZARDS,
    REPAIRABLE,
    Decision,
    Finding,
    Inspection,
    Overrule,
    Recovery,
    Repair,
    RestingVoltage,
    latest,
    voltage_as_found,
)

if TYPE_CHECKING:
    from zembric.core.house.rules import HouseRules
    from zembric.core.measure.charges import ChargeHistory
    from zembric.core.measure.first_voltage import RecoveryProof
    from zembric.core.story import CellFacts, Story


#: What a grade needs and may still be without.
Missing = Literal["inspection", "resting-voltage", "capacity", "rated-value", "resistance", "dc-resistance"]


@dataclass(frozen=True, slots=True)
class Graded:
    """A grade by one figure: what made it, and how sure it is against the nearest limit."""

    grade: Grade
    reason: Reason
    sure: Sureness


@dataclass(frozen=True, slots=True)
class Assessment:
    """All that follows from a story under the rules, before the next step is chosen."""

    story: Story
    rules: HouseRules
    size: Size | None
    #: Why it is a hazard, in words; empty: it is none.
    hazards: tuple[Reason, ...]
    to_mend: frozenset[Finding]
    voltages: tuple[RestingVoltage, ...]
    #: The resting voltage that still holds: nothing was charged, drawn or used since.
    standing: RestingVoltage | None
    history: ChargeHistory
    recovery: RecoveryProof
    #: The voltage it was found with before a recovery that marks it for life; None: it carries no mark.
    marked_by: RestingVoltage | None
    capacity: Capacity | None
    resistance: Resistance | None
    current: ContinuousCurrent | None
    slope: Slope
    outs: tuple[Reason, ...]  # whatever the figures: grounds that put the cell out
    by_capacity: Graded | None
    by_resistance: Graded | None  # present where r Q is judged; its grade is "out" or "A"
    by_power: Graded | None
    missing: tuple[Missing, ...]
    notes: tuple[Reason, ...]
    decisions_due: tuple[Reason, ...]
    grade: Grade
    sure: Sureness | None
    #: A coordinator's own judgement where one holds, and what the rules alone say.
    overrule: Overrule | None = None
    grade_by_rules: Grade | None = None

    @property
    def may_be_overruled(self) -> bool:
        """Only what the figures say; never a hazard or another ground that puts a cell out, and nothing that is not graded."""
        return not self.outs and (self.grade_by_rules or self.grade) != "not-yet"

    @property
    def on_watch(self) -> bool:
        return any(note.code == "watch" for note in self.notes)

    @property
    def resistance_skipped(self) -> bool:
        return self.story.skipped("resistance") is not None and self.resistance is None


def assess(story: Story, rules: HouseRules) -> Assessment:
    facts = story.facts
    rules = rules.for_cell(facts)
    size = size_of(facts)
    voltages = counting_voltages(story)
    history = charge_history(story, rules)
    capacity, resistance = deciding_capacity(history.complete, rules), deciding_resistance(story, rules)
    dc = dc_resistance(story, rules)
    sheet_ma = facts.most_discharge_ma
    current = continuous_current(dc, capacity, size, story.donor_kind, rules, sheet_ma) if dc and capacity else None
    slope = self_discharge(story, voltages, rules)
    recovery = recovery_proof(story, voltages, rules)
    hazards = _hazards(story)
    marked_by = _marked_by(story, rules)
    by_capacity = _grade_by_capacity(story, rules, size, capacity)
    by_resistance = _grade_by_resistance(story, rules, capacity)
    by_power = _grade_by_power(rules, capacity, current) if rules.grade_school == "fitness" else None
    outs = _outs(story, rules, hazards, voltages, recovery)
    decisions = _decisions_due(story, marked_by, recovery)
    missing = _missing(story, rules, voltages, capacity, resistance, by_capacity, by_power)
    grade, sure = _grade(outs, decisions, missing, facts.family, by_capacity, by_resistance, by_power)
    if grade == "A" and resistance is None:
        grade = "B"
    if sure == "sure" and grade != "out" and falling_runs(history.complete, rules):
        sure = "likely"
    by_rules, overrule = grade, latest(story.of(Overrule))
    if overrule is None or overrule.grade is None or outs or grade == "not-yet":
        overrule = None
    else:
        grade, sure = overrule.grade, "sure"
    notes = _notes(story, rules, size, voltages, slope, history, marked_by)
    return Assessment(
        story, rules, size, hazards, _to_mend(story), voltages, standing_voltage(story, voltages), history, recovery,
        marked_by, capacity, resistance, current, slope, outs, by_capacity, by_resistance, by_power, missing, notes,
        decisions, grade, sure, overrule, by_rules,
    )  # fmt: skip


def size_of(facts: CellFacts) -> Size | None:
    """The outline that counts: the measured one before the code's; None where neither tells."""
    return facts.outline or read_size_or_none(facts.size_code)


def read_size_or_none(code: str | None) -> Size | None:
    """The size behind a code; None where there is none or it is not understood."""
    if code is None:
        return None
    try:
        return read_size(code)
    except BadInputError:
        return None


# --- Grounds that put a cell out whatever its figures ----------------------------------------------------------------


def _hazards(story: Story) -> tuple[Reason, ...]:
    """Everything that makes it one: found by eye, hot on its own, overcharged, or a primary cell that was charged."""
    found = {finding for inspection in story.of(Inspection) for finding in inspection.findings} & HAZARDS
    reasons = []
    if found:
        reasons.append(Reason("hazard", said("ground-hazard-found", findings=all_of("finding", sorted(found)))))
    heat = found_hot(story)
    if heat and Finding.HOT not in found:
        reasons.append(Reason("hazard", said("ground-hazard-warm", heat=heat_words(heat))))
    reasons += [excess.reason for excess in excesses(story) if excess.is_hazard]
    return tuple(reasons)


def _to_mend(story: Story) -> frozenset[Finding]:
    """Only a repair mends; a later finding opens it again."""
    open_findings: set[Finding] = set()
    for event in story.events:
        if isinstance(event, Inspection):
            open_findings |= event.findings & REPAIRABLE
        elif isinstance(event, Repair):
            open_findings -= event.done
    return frozenset(open_findings)


def _outs(
    story: Story,
    rules: HouseRules,
    hazards: tuple[Reason, ...],
    voltages: tuple[RestingVoltage, ...],
    recovery: RecoveryProof,
) -> tuple[Reason, ...]:
    """The grounds in the order in which they are named."""
    found = [
        *hazards[:1],
        Reason("primary", said("ground-primary")) if story.facts.family is Family.PRIMARY else None,
        _too_low(story, rules, voltages),
        _failed_recovery(recovery),
        _decided_out(story),
        _leaking(story, rules, voltages),
    ]
    return tuple(reason for reason in found if reason)


def _failed_recovery(recovery: RecoveryProof) -> Reason | None:
    failed = recovery.failed
    if failed is None:
        return None
    if isinstance(failed, Recovery):
        return Reason("failed-recovery", said("ground-recovery-failed"))
    return Reason("failed-recovery", said("ground-fell-back", voltage=volts(failed.value_v)), failed.value_v, None)


def banded_find(story: Story, rules: HouseRules) -> tuple[RestingVoltage, BandOfVoltage] | None:
    """How the cell was found, with the band of its school; None without a reading or a chargeable family."""
    family, found = story.facts.family, find_of(story)
    if family is None or family is Family.PRIMARY or found is None:
        return None
    return found, band_of(found.value_v, family, story.facts.full_v, rules.voltage_school)


def recovery_due(story: Story, rules: HouseRules) -> tuple[RestingVoltage, BandOfVoltage] | None:
    """The find that calls for a recovery and has had none since."""
    banded = banded_find(story, rules)
    if banded is None or banded[1].band not in ("recovery", "watched-recovery"):
        return None
    return None if any(recovery.at >= banded[0].at for recovery in story.of(Recovery)) else banded


def _marked_by(story: Story, rules: HouseRules) -> RestingVoltage | None:
    banded = banded_find(story, rules)
    if banded is None or not banded[1].marks or not story.of(Recovery):
        return None
    return banded[0]


def _too_low(story: Story, rules: HouseRules, voltages: tuple[RestingVoltage, ...]) -> Reason | None:
    family = as_charged(story.facts.family) or Family.LAYERED_OXIDE
    banded = banded_find(story, rules)
    if banded and banded[1].band == "recycle":
        reading, limit = banded[0], _lowest_limit(family, rules)
        school = named("voltage-school", rules.voltage_school)
        text = said("ground-found-too-low", voltage=volts(reading.value_v), school=school, limit=volts(limit.value))
    else:
        later = later_ground(story, voltages, rules)
        if later is None or later[0] != "too-low":
            return None
        reading, limit = later[1], limits.NEVER_CHARGE_BELOW_V[family]
        text = said("ground-fell-too-low", voltage=volts(reading.value_v), limit=volts(limit.value))
    return Reason("too-low", text, reading.value_v, limit)


def _lowest_limit(family: Family, rules: HouseRules) -> Limit:
    if rules.voltage_school == "strict":
        return limits.PRE_CHARGE_BELOW_V[family]
    if rules.voltage_school == "thrifty" and family is Family.LAYERED_OXIDE:
        return limits.THRIFTY_FROM_V
    return limits.NEVER_CHARGE_BELOW_V[family]


def _decided_out(story: Story) -> Reason | None:
    """A coordinator's no, unless a later decision about the same took it back."""
    last = {decision.about: decision for decision in story.of(Decision)}
    decided = next((decision for decision in last.values() if decision.outcome == "out"), None)
    if decided is None:
        return None
    return Reason(decided.about, said("ground-decided-out", about=named("decision-about", decided.about)))


def _leaking(story: Story, rules: HouseRules, voltages: tuple[RestingVoltage, ...]) -> Reason | None:
    later = later_ground(story, voltages, rules)
    if later and later[0] == "lost-its-charge":
        family = as_charged(story.facts.family) or Family.LAYERED_OXIDE
        limit = limits.PRE_CHARGE_BELOW_V[family]
        text = said("ground-lost-its-charge", voltage=volts(later[1].value_v))
        return Reason("leaking", text, later[1].value_v, limit)
    slope = first_said("leaking", story, voltages, rules)
    if slope is None:
        return None
    limit = rules.limit(limits.LEAKING_MV_PER_DAY)
    return Reason("leaking", said("ground-leaking", loss=loss_of(slope)), slope.mv_per_day, limit)


def loss_of(slope: Slope) -> Said:
    """How much a cell loses a day, and by what it was told."""
    return said(
        "loss-by-last" if slope.readings == 1 else "loss-by-line",
        loss=Amount(slope.mv_per_day or 0, "", 1),
        error=Amount(slope.error_mv_per_day or 0, "mV", 1),
    )


# --- Grades by a figure ----------------------------------------------------------------------------------------------


def _step_grade(value: float, standard_u: float, rules: HouseRules, usual: GradeSteps) -> tuple[Grade, Limit, Sureness]:
    """The grade, the limit that made it (of a cell that is out: the one it missed), and how sure by the nearest limit."""
    steps = rules.steps(usual)
    ladder: tuple[tuple[Grade, Limit], ...] = (("A", steps.a), ("B", steps.b), ("C", steps.c))
    nearest = min((limit for _, limit in ladder), key=lambda limit: abs(value - limit.value))
    sure = sureness(value, nearest.value, standard_u, rules)
    for grade, limit in ladder:
        if value >= limit.value:
            return grade, limit, sure
    return "out", steps.c, sure


def _grade_by_capacity(story: Story, rules: HouseRules, size: Size | None, capacity: Capacity | None) -> Graded | None:
    if capacity is None:
        return None
    rated_mah = story.facts.rated_capacity_mah
    measured = Amount(capacity.value_mah, "mAh")
    family = as_charged(story.facts.family)
    steps = limits.BINS_MAH_PER_CM3.get((family, size.shape)) if size and family else None
    # Where no bins exist a rated value is all there is to go by, whatever the school.
    if rated_mah and (rules.grade_school != "bins" or steps is None):
        health_pct = 100 * capacity.value_mah / rated_mah
        grade, limit, sure = _step_grade(health_pct, 100 * capacity.u_mah / rated_mah, rules, limits.HEALTH_PCT)
        text = said(
            "ground-health-out" if grade == "out" else "ground-health",
            measured=measured,
            rated=Amount(rated_mah, "mAh"),
            health=Amount(health_pct, "%", 1),
            limit=_least(limit),
        )
        return Graded(grade, Reason("capacity-low" if grade == "out" else "capacity", text, health_pct, limit), sure)
    if steps is None or size is None:
        return None
    by_volume = capacity.value_mah / size.volume_cm3
    grade, limit, sure = _step_grade(by_volume, capacity.u_mah / size.volume_cm3, rules, steps)
    text = said(
        "ground-by-volume-out" if grade == "out" else "ground-by-volume",
        measured=measured,
        volume=Amount(size.volume_cm3, "cm³", 1),
        density=Amount(by_volume, "mAh/cm³"),
        limit=_least(limit),
    )
    if rules.grade_school != "bins":
        text = said("ground-no-rated", ground=text)
    return Graded(grade, Reason("capacity-low" if grade == "out" else "capacity", text, by_volume, limit), sure)


def _least(limit: Limit) -> Amount:
    return Amount(limit.value, limit.unit, 0 if limit.value >= 10 else 1)


def _grade_by_resistance(story: Story, rules: HouseRules, capacity: Capacity | None) -> Graded | None:
    """r Q by each method: the first that is out, else the deciding one. A tester's two wires never decide alone."""
    if capacity is None:
        return None
    judged: list[Graded] = []
    for method in METHODS_BEST_FIRST:
        resistance = resistance_by(story, method, rules)
        if resistance is None:
            continue
        limit = rules.limit(limits.RESISTANCE_OUT_OHM_AH[method])
        product, product_u = resistance_times_capacity(resistance, capacity)
        is_out = product > limit.value and method != "tester"
        text = said(
            "ground-resistance-by-tester" if method == "tester" else "ground-resistance",
            resistance=Amount(resistance.value_mohm, "mΩ"),
            method=named("resistance-read", method),
            capacity=Amount(capacity.value_mah, "mAh"),
            product=Amount(product, "Ω Ah", 2),
            limit=Amount(limit.value, "Ω Ah", 2),
        )
        reason = Reason("resistance-out" if is_out else "resistance", text, product, limit)
        judged.append(Graded("out" if is_out else "A", reason, sureness(product, limit.value, product_u, rules)))
    return next((graded for graded in judged if graded.grade == "out"), judged[0] if judged else None)


def _grade_by_power(rules: HouseRules, capacity: Capacity | None, current: ContinuousCurrent | None) -> Graded | None:
    if capacity is None or current is None:
        return None
    per_c = 1000 / capacity.value_mah
    rate_c = round(current.value_a * per_c, 9)
    grade, limit, sure = _step_grade(rate_c, current.u_a * per_c, rules, limits.POWER_C)
    text = said(
        "ground-power-out" if grade == "out" else "ground-power",
        current=Amount(current.value_a, "A", 1),
        set_by=named("current-set-by", current.set_by),
        rate=Amount(rate_c, "C", 1),
        limit=_least(limit),
    )
    # A house cap is a decision, not a measurement: a cell capped at exactly 1 C is no borderline case.
    return Graded(grade, Reason("power", text, rate_c, limit), sure if current.u_a else "sure")


# --- Putting it together ---------------------------------------------------------------------------------------------


def _missing(
    story: Story,
    rules: HouseRules,
    voltages: tuple[RestingVoltage, ...],
    capacity: Capacity | None,
    resistance: Resistance | None,
    by_capacity: Graded | None,
    by_power: Graded | None,
) -> tuple[Missing, ...]:
    missing: list[Missing] = []
    if not story.of(Inspection):
        missing.append("inspection")
    if not voltages:
        missing.append("resting-voltage")
    if capacity is None:
        missing.append("capacity")
    elif by_capacity is None and story.facts.family is not None:
        missing.append("rated-value")
    if resistance is None and not story.skipped("resistance"):
        missing.append("resistance")
    elif rules.grade_school == "fitness" and capacity and by_power is None and resistance is not None:
        missing.append("dc-resistance")
    return tuple(missing)


def _decisions_due(story: Story, marked_by: RestingVoltage | None, recovery: RecoveryProof) -> tuple[Reason, ...]:
    """What a coordinator has to decide before the cell goes on."""
    due = [excess.reason for excess in undecided(story)]
    mark_from = recovery.stands_from
    decision = latest(each for each in story.of(Decision) if each.about == "recovery-mark")
    if marked_by and mark_from and (decision is None or decision.at < mark_from):
        text = said("ground-recovery-mark", voltage=volts(marked_by.value_v))
        due.append(Reason("recovery-mark", text, marked_by.value_v, limits.NEVER_CHARGE_BELOW_V[Family.LAYERED_OXIDE]))
    return tuple(due)


def _notes(
    story: Story,
    rules: HouseRules,
    size: Size | None,
    voltages: tuple[RestingVoltage, ...],
    slope: Slope,
    history: ChargeHistory,
    marked_by: RestingVoltage | None,
) -> tuple[Reason, ...]:
    """What does not change the grade but belongs beside it."""
    notes = []
    if marked_by:
        text = said("ground-marked-for-life", voltage=volts(marked_by.value_v))
        notes.append(Reason("marked-for-life", text, marked_by.value_v))
    if slope.verdict == "watch":
        notes.append(
            Reason(
                "watch",
                said("ground-watch", loss=loss_of(slope)),
                slope.mv_per_day,
                rules.limit(limits.WATCH_MV_PER_DAY),
            )
        )
    elif slope.rises:
        notes.append(Reason("voltage-rises", said("ground-voltage-rises"), slope.mv_per_day))
    notes += _siblings_note(story, rules, voltages, slope)
    notes += _charge_notes(rules, history)
    claim_mah = story.facts.claimed_capacity_mah
    mass_g = story.facts.mass_g
    check = check_claim(size, story.facts.family, claim_mah, rules, mass_g) if size and claim_mah else None
    if check and claim_mah and size and check.verdict != "believable":
        most = check.impossible_above_mah if check.verdict == "impossible" else check.doubtful_above_mah
        by_mass = mass_g is not None and check.by == "mass"
        text = said(
            "ground-claim",
            claim=Amount(claim_mah, "mAh"),
            cell=Amount(mass_g, "g") if mass_g and by_mass else Amount(size.volume_cm3, "cm³", 1),
            most=Amount(most, "mAh"),
        )
        notes.append(Reason(f"claim-{check.verdict}", text, claim_mah))
    return tuple(notes)


def _siblings_note(story: Story, rules: HouseRules, voltages: tuple[RestingVoltage, ...], slope: Slope) -> list[Reason]:
    """A cell that was found well below its siblings often leaks: it is watched until a line at rest clears it."""
    own = voltage_as_found(story)
    gap_v = far_from_siblings(own.value_v, story.siblings_found_v, rules) if own else None
    if own is None or gap_v is None:
        return []
    found_v, below_v, limit = volts(own.value_v), volts(-gap_v), rules.limit(limits.SIBLING_GAP_V)
    if first_said("fine", story, voltages, rules):
        text = said("ground-siblings-differ-holds", voltage=found_v, below=below_v)
        return [Reason("siblings-differ", text, -gap_v, limit)]
    if slope.verdict == "watch":
        text = said("ground-siblings-differ-wait", voltage=found_v, below=below_v)
        return [Reason("siblings-differ", text, -gap_v, limit)]
    # The watch says why and against which limit; what belongs to it is not said and drawn a second time.
    return [
        Reason("watch", said("ground-watch-by-siblings", voltage=found_v, below=below_v), -gap_v, limit),
        Reason("siblings-differ", said("ground-two-weeks-tell"), -gap_v),
    ]


def _charge_notes(rules: HouseRules, history: ChargeHistory) -> list[Reason]:
    notes = []
    if history.never_full:
        text = said("ground-never-full", ended=volts(history.never_full.end_v))
        notes.append(Reason("never-full", text, history.never_full.end_v))
    elif history.nearly:
        text = said("ground-nearly-full", ended=volts(history.nearly.end_v))
        notes.append(Reason("nearly-full", text, history.nearly.end_v, rules.limit(limits.CHARGED_NEARLY_WITHIN_V)))
    if history.parts and not history.complete:
        run, why = history.parts[-1]
        text = said("ground-part-run", measured=Amount(run.value_mah, "mAh"), why=why)
        notes.append(Reason("part-run", text, run.value_mah))
    return notes


def _grade(
    outs: tuple[Reason, ...],
    decisions_due: tuple[Reason, ...],
    missing: tuple[Missing, ...],
    family: Family | None,
    by_capacity: Graded | None,
    by_resistance: Graded | None,
    by_power: Graded | None,
) -> tuple[Grade, Sureness | None]:
    if outs:
        return "out", "sure"
    if by_resistance and by_resistance.grade == "out":
        # Out by both is as sure as the surer of them.
        by_both = by_capacity is not None and by_capacity.grade == "out" and not missing
        return "out", surest([by_resistance.sure, *([by_capacity.sure] if by_capacity and by_both else [])])
    went_too_far = any(due.code != "recovery-mark" for due in decisions_due)
    if family is None or missing or by_capacity is None or went_too_far:
        return "not-yet", None
    if by_capacity.grade == "out":
        return "out", by_capacity.sure
    graded = [figure for figure in (by_capacity, by_resistance, by_power) if figure]
    worst = max((figure.grade for figure in graded), key=WORST_GRADE_LAST.index)
    return worst, least_sure([figure.sure for figure in graded])
