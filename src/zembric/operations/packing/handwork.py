"""A pack step by step, by whoever has it in hand: building it, then proving it. Each act is a row; the last one of a step holds."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError, ConflictError, NotAllowedError, NotFoundError
from zembric.core.house import limits
from zembric.core.identify.numbering import read_number as read_cell_number
from zembric.core.measure.entry_checks import read_number
from zembric.core.measure.traces.analysis import analyse_log
from zembric.core.pack.layout import taps_of
from zembric.core.pack.layout.model import end_of
from zembric.core.pack.rules import refusals_by_checks
from zembric.core.pack.steps import BuildCell, Expected, ToBuild, building_steps, judge_readings, proving_steps
from zembric.core.said import as_said, named, one_after_another, said, to_json, volts
from zembric.models import PackStep
from zembric.operations.actors import require_coordinator
from zembric.operations.bench.keeping import WHY_MOST
from zembric.operations.known.rules import rules_in_force
from zembric.operations.packing.acts import last_acts
from zembric.operations.packing.checks import open_stops, take_up_pack
from zembric.operations.packing.layouts import body_of, cells_by_key, kept_layout
from zembric.operations.packing.on_paper import kind_of
from zembric.operations.packing.packs import get_pack, refusals_to_move, stopped_of
from zembric.operations.packing.parts import plan_of
from zembric.operations.packing.plans import pick_cell, repair_plan
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.measure.entry_checks import Quantity
    from zembric.core.pack.rules import Refusal
    from zembric.core.pack.steps import Asked, Finding, HandStep
    from zembric.core.pack.steps.model import JointKind
    from zembric.core.said import Said
    from zembric.models import CellRow, Pack, StepStage, StepState
    from zembric.operations.actors import Actor

_QUANTITY: Mapping[str, Quantity] = {
    "V": "voltage",
    "A": "amperes",
    "W": "power",
    "Wh": "energy",
    "h": "hours",
    "°C": "temperature",
}
_NEVER_BELOW_ZERO = ("A", "W", "Wh", "h")
#: A voltage so many times what is expected is a point in the wrong place, not a pack.
_SLIP_TIMES = 3
#: Where something is begun or joined that could be dangerous all checks of the plan are asked once more.
_CHECKED_AT = ("ready", "link-", "plug")
_PASSED: Sequence[StepState] = ("done", "confirmed", "waived")


@dataclass(frozen=True, slots=True)
class DoneStep:
    """A step and the act at it that holds; None: nobody was there yet, or it was taken back."""

    step: HandStep
    last: PackStep | None

    @property
    def is_passed(self) -> bool:
        if self.last is None:
            return False
        return self.last.state in (("confirmed", "waived") if self.step.needs_second else _PASSED)

    @property
    def waits_for_second(self) -> bool:
        return self.step.needs_second and self.last is not None and self.last.state == "done"


@dataclass(frozen=True, slots=True)
class RunInLog:
    """How long a pack ran [h], what came out of it [Wh], and where it stopped [V]."""

    hours: float
    energy_wh: float
    end_v: float


@dataclass(frozen=True, slots=True)
class Handwork:
    """All steps of a stage, which one is next (None: all are passed), and why it cannot go on."""

    stage: StepStage
    steps: tuple[DoneStep, ...]
    refused: tuple[Refusal, ...] = ()

    @property
    def next_key(self) -> str | None:
        return next((each.step.key for each in self.steps if not each.is_passed), None)

    def steps_alone(self) -> tuple[HandStep, ...]:
        return tuple(each.step for each in self.steps)

    def find(self, key: str) -> DoneStep:
        found = next((each for each in self.steps if each.step.key == key), None)
        if found is None:
            raise NotFoundError(said("no-such-step", step=key))
        return found


def building_of(session: Session, pack: Pack, now: datetime, *, with_checks: bool = True) -> Handwork:
    """How far a pack is joined, and what stands in the way; without its checks where they were asked a moment ago.

    Raises:
        ConflictError: a cell has no resting voltage, so nobody can say what to expect.
    """
    steps = building_steps(_to_build(session, pack, now), rules_in_force(session))
    last = last_acts(session, pack, "build")
    refused: tuple[Refusal, ...] = ()
    if pack.state == "planned":
        stops = refusals_by_checks([line.name for line in open_stops(session, pack, now)]) if with_checks else ()
        # A step that stands wrong is done anew; it does not stop itself.
        refused = (
            tuple(each for each in refusals_to_move(session, pack, "built", now) if each.code != "step-wrong") + stops
        )
    return Handwork("build", tuple(DoneStep(step, last.get(step.key)) for step in steps), refused)


def proving_of(session: Session, pack: Pack, now: datetime) -> Handwork:
    """How far a pack is proved since it was built or came back."""
    last = last_acts(session, pack, "prove")
    done = {key: act.figures for key, act in last.items() if act.state in _PASSED}
    steps = proving_steps(_expected(session, pack, now), done, rules_in_force(session))
    return Handwork("prove", tuple(DoneStep(step, last.get(step.key)) for step in steps))


def handwork_of(session: Session, pack: Pack, stage: StepStage, now: datetime, *, with_checks: bool = True) -> Handwork:
    if stage == "build":
        return building_of(session, pack, now, with_checks=with_checks)
    return proving_of(session, pack, now)


def do_step(
    session: Session, actor: Actor, typed: str, stage: StepStage, key: str, figures: Mapping[str, str], now: datetime
) -> tuple[Pack, Finding]:
    """Somebody did a step, or measured at it; what lies outside its band stops there.

    Raises:
        ConflictError: it is not the next one, or the pack does not stand where that is done.
        BadInputError: a figure is missing or is none.
    """
    pack, work = _taken_up(session, typed, stage, now, with_checks=key.startswith(_CHECKED_AT))
    found = work.find(key)
    if key != work.next_key or found.waits_for_second:
        raise ConflictError(said("not-the-next-step", step=found.step.title))
    read = {asked.key: value for asked in found.step.asked if (value := _read(asked, figures)) is not None}
    finding = judge_readings(found.step, read, rules_in_force(session))
    state: StepState = "wrong" if finding.state == "wrong" else "done"
    told = None if finding.state == "right" else finding
    _write(session, actor, pack, stage, key, state, read, told, now)
    if state == "done":
        _settle(session, actor, pack, work, key, now)
    return pack, finding


def figures_from_log(content: bytes) -> RunInLog:
    """What a tester's log tells of a run to the stop: its discharge, all parts of it.

    Raises:
        LogRefusedError: it cannot be read for certain; says where, and what would help.
        BadInputError: there is no discharge in it.
    """
    tests = [test for test in analyse_log(content).tests if test.discharge]
    if not tests:
        raise BadInputError(said("log-without-discharge"), field="file")
    last = tests[-1]
    return RunInLog(
        sum(step.duration_s for step in last.discharge) / 3600, (last.discharge_energy_mwh or 0.0) / 1000,
        last.discharge[-1].end_voltage_v,
    )  # fmt: skip


def confirm_step(session: Session, actor: Actor, typed: str, stage: StepStage, key: str, now: datetime) -> Pack:
    """A second person looked at it.

    Raises:
        ConflictError: there is nothing to confirm.
        NotAllowedError: it is the same person.
    """
    pack, work = _taken_up(session, typed, stage, now)
    found = work.find(key)
    if not found.waits_for_second or found.last is None:
        raise ConflictError(said("nothing-to-confirm", step=found.step.title))
    if found.last.by_id == actor.person_id:
        raise NotAllowedError(said("second-person-confirms", by=found.last.by.name))
    _write(session, actor, pack, stage, key, "confirmed", found.last.figures, None, now)
    return pack


def undo_step(session: Session, actor: Actor, typed: str, stage: StepStage, key: str, now: datetime) -> Pack:
    """Takes the last step back, to be done anew.

    Raises:
        ConflictError: another one was done after it.
    """
    pack, work = _taken_up(session, typed, stage, now)
    touched = [each.step.key for each in work.steps if each.last is not None]
    if not touched or touched[-1] != key:
        raise ConflictError(said("only-the-last-step", step=work.find(key).step.title))
    _write(session, actor, pack, stage, key, "undone", {}, None, now)
    if pack.commissioned_at is not None and stage == "prove":
        pack.commissioning, pack.commissioned_at, pack.commissioned_by_id = None, None, None
    return pack


def waive_step(session: Session, actor: Actor, typed: str, stage: StepStage, key: str, why: str, now: datetime) -> Pack:
    """A coordinator lets a point of proving pass unmeasured or failed, with a reason that stays.

    Raises:
        NotAllowedError: not a coordinator.
        ConflictError: it is not the next one, or it protects people.
        BadInputError: no reason.
    """
    require_coordinator(actor, said("doing-waiving-check"))
    pack, work = _taken_up(session, typed, stage, now)
    found = work.find(key)
    if key != work.next_key:
        raise ConflictError(said("not-the-next-step", step=found.step.title))
    if not found.step.may_be_waived:
        raise ConflictError(said("check-is-never-waived", check=found.step.title))
    why = " ".join(why.split())
    if not 3 <= len(why) <= WHY_MOST:
        raise BadInputError(said("say-why-in-few-words-characters", why=WHY_MOST), field="why")
    act = PackStep(
        pack_id=pack.id, stage=stage, step=key, state="waived", figures={}, finding=to_json(as_said(why)), at=now,
        by_id=actor.person_id,
    )  # fmt: skip
    session.add(act)
    note(session, actor, "step-waived", now, pack_id=pack.id, pack=pack.number, step=key, why=why)
    session.flush()
    _settle(session, actor, pack, work, key, now)
    return pack


def swap_cell(
    session: Session, actor: Actor, typed: str, out: str, comes: str, seen_version: int, now: datetime
) -> Pack:
    """A cell at the bench is exchanged for another: in the plan too, and its group is done anew.

    Raises:
        As `repair_plan` and `pick_cell`.
    """
    out, comes = read_cell_number("cell", out), read_cell_number("cell", comes)
    pack = get_pack(session, typed)
    group = next((key[0] for key, cell in cells_by_key(pack).items() if cell.number == out), None)
    pack = repair_plan(session, actor, typed, {out: comes}, seen_version, now)
    pick_cell(session, actor, pack.number, comes, now)
    done = [each for each in building_of(session, pack, now, with_checks=False).steps if each.last is not None]
    first = next((at for at, each in enumerate(done) if each.step.key == f"place-{group}"), len(done))
    for each in done[first:]:
        _write(session, actor, pack, "build", each.step.key, "undone", {}, None, now)
    return pack


def _taken_up(
    session: Session, typed: str, stage: StepStage, now: datetime, *, with_checks: bool = False
) -> tuple[Pack, Handwork]:
    pack = get_pack(session, typed)
    session.refresh(pack, with_for_update=True)
    stands = ("planned",) if stage == "build" else ("built", "back")
    if pack.state not in stands or stopped_of(pack) is not None:
        state = named("pack-state", "stopped" if stopped_of(pack) is not None else pack.state)
        raise ConflictError(
            said("pack-not-built-now", pack=pack.number, state=state)
            if stage == "build"
            else said("pack-not-put-to-test", pack=pack.number, state=state)
        )
    work = handwork_of(session, pack, stage, now, with_checks=with_checks)
    if work.refused:
        raise ConflictError(said("one-after-another", first=work.refused[0].said, then=work.refused[0].to_do))
    return pack, work


def _read(asked: Asked, figures: Mapping[str, str]) -> float | None:
    """A figure as it was typed; a slip of the point is asked about instead of being judged."""
    typed = figures.get(asked.key, "")
    if asked.is_optional and not typed.strip():
        return None
    value = read_number(typed, _QUANTITY[asked.unit], asked.key)
    if asked.unit in _NEVER_BELOW_ZERO and value < 0:
        raise BadInputError(said("number-above-zero-is-needed-here"), field=asked.key)
    if asked.unit == "V":
        most_v = max(_SLIP_TIMES * (asked.expected or 0.0), limits.CELL_MOST_V.value)
        if asked.expected is None and asked.key[0] not in "gr":
            return value
        if abs(value) > most_v:
            raise BadInputError(said("voltage-is-a-slip", value=volts(value), most=volts(most_v)), field=asked.key)
    return value


def _write(
    session: Session, actor: Actor, pack: Pack, stage: StepStage, key: str, state: StepState, figures: Mapping[str, float],
    finding: Finding | None, now: datetime,
) -> None:  # fmt: skip
    session.add(
        PackStep(
            pack_id=pack.id, stage=stage, step=key, state=state, figures=dict(figures),
            finding=to_json(_told(finding)) if finding else None, at=now, by_id=actor.person_id,
        )
    )  # fmt: skip
    if state in ("wrong", "undone"):
        note(session, actor, f"step-{state}", now, pack_id=pack.id, pack=pack.number, stage=stage, step=key)
    session.flush()


def _told(finding: Finding) -> Said:
    """What is wrong and what to do, as it is read by whoever comes later."""
    return one_after_another([finding.said, finding.then] if finding.then else [finding.said])


def _settle(session: Session, actor: Actor, pack: Pack, work: Handwork, key: str, now: datetime) -> None:
    """With its last point passed a pack is proved; `key` was just now."""
    if work.stage != "prove" or not all(each.is_passed or each.step.key == key for each in work.steps):
        return
    figures = {step: act.figures for step, act in last_acts(session, pack, "prove").items()}
    pack.commissioning = {"group_volts": list(figures["groups"].values()), "figures": figures}
    pack.commissioned_at, pack.commissioned_by_id = now, actor.person_id
    note(session, actor, "pack-commissioned", now, pack_id=pack.id, pack=pack.number)
    session.flush()


def _to_build(session: Session, pack: Pack, now: datetime) -> ToBuild:
    checked = take_up_pack(session, pack, now)
    unread = tuple(cell.number for group in checked.groups for cell in group if cell.resting_v is None)
    if unread:
        raise ConflictError(said("joining-wants-voltages", cells=unread), code="no-voltage")
    layout, cells, plan = kept_layout(pack), cells_by_key(pack), plan_of(pack)
    ends = {place.key: place.end for place in layout.places} if layout else {}
    groups = [
        [
            BuildCell(
                paper.number, ends.get((number, position), end_of(number)), paper.resting_v or 0.0, paper.capacity_mah,
                "holder" if plan.holder else _joint(cells[number, position]), _is_flat(cells[number, position]),
            )
            for position, paper in enumerate(group, start=1)
        ]
        for number, group in enumerate(checked.groups, start=1)
    ]  # fmt: skip
    taps = [cells[tap.cell].number for tap in taps_of(layout, body_of(pack))] if layout else []
    return ToBuild(groups, checked.full_v, checked.energy_wh, plan.board is not None, plan.fuse is not None, taps)


def _joint(cell: CellRow) -> JointKind:
    """Bare cans are welded; what has a tab or wires already is soldered there."""
    return "solder" if cell.terminals in ("stub", "wires", "soldered") or _is_flat(cell) else "weld"


def _is_flat(cell: CellRow) -> bool:
    return cell.build in ("pouch", "flat-can") or cell.thickness_mm is not None


def _expected(session: Session, pack: Pack, now: datetime) -> Expected:
    checked = take_up_pack(session, pack, now)
    family, full_v = kind_of(pack)
    rules, plan, runs = checked.rules, checked.plan, checked.runs
    promised_wh = None
    if plan.promise and plan.promise.capacity_mah and plan.promise.at_v:
        promised_wh = plan.promise.capacity_mah * plan.promise.at_v / 1000
    known = Expected(
        family, pack.series, full_v, rules.of(limits.CUT_OFF_V, family), rules.of(limits.STORE_AT_V, family),
        plan.board is not None, plan.charger is not None, _groups_v(session, pack), promised_wh=promised_wh,
        charged_v=min(full_v, plan.charger.full_v / pack.series) if plan.charger else None,
    )  # fmt: skip
    if runs is None or not runs.paper.run.seconds:
        return known
    paper = runs.paper
    return Expected(
        family, pack.series, full_v, known.cutoff_v, known.storage_v, known.has_board, known.has_charger, known.groups_v,
        [1 / sum(1000 / cell.resistance_mohm for cell in group) for group in paper.pack.groups],
        paper.over_time.load_a[0], paper.run.seconds / 3600, paper.run.ended_in, paper.run.energy_wh, promised_wh,
        known.charged_v,
    )  # fmt: skip


def _groups_v(session: Session, pack: Pack) -> list[float] | None:
    """What its groups read when they were joined; None: nobody measured, or it was in use since."""
    if pack.state != "built":
        return None
    acts = last_acts(session, pack, "build")
    read = [acts[key].figures.get("v") for number in range(1, pack.series + 1) if (key := f"group-{number}") in acts]
    known = [value for value in read if value is not None]
    return known if len(known) == pack.series else None
