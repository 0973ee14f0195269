"""A pack's plan, run on paper and checked with what is known of its cells now; and what a coordinator lets pass."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError, ConflictError, NotFoundError
from zembric.core.measure.entry_checks import read_number
from zembric.core.pack.checks import Check, Checked, check_all, efficiencies, take_up
from zembric.core.pack.parts import Device
from zembric.core.said import said, to_json
from zembric.models import PackWaiver
from zembric.operations.actors import require_coordinator
from zembric.operations.bench.keeping import WHY_MOST
from zembric.operations.cells.stories import get_cell
from zembric.operations.known.rules import rules_in_force
from zembric.operations.matching.needs import QUANTITY_OF_LOAD
from zembric.operations.packing.layouts import layout_lines
from zembric.operations.packing.on_paper import kind_of, paper_cell, paper_groups
from zembric.operations.packing.parts import plan_of
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.house.limits import Family
    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.on_paper import PaperCell, StartsFrom
    from zembric.core.pack.parts import PackPlan
    from zembric.core.run import LoadKind
    from zembric.models import Pack
    from zembric.operations.actors import Actor

_LEAST_WORDS = 3


@dataclass(frozen=True, slots=True)
class WhatIf:
    """What is looked at otherwise than it is planned; nothing is kept.

    A load in mA, W or Ohm by its kind in the place of the device's; cells each with the one that comes for it, or with None
    where it is left out; a converter that loses `colder_pct` of its efficiency. `quick`: without bands, at a look.
    """

    starts_from: StartsFrom = "full"
    load_kind: LoadKind | None = None
    load: str = ""
    exchanges: Mapping[str, str | None] = field(default_factory=dict)
    colder_pct: float = 0.0
    quick: bool = False


@dataclass(frozen=True, slots=True)
class CheckedPack:
    """A pack with its lines, and which of them a coordinator let pass; of earlier waivers, those that hold no more too."""

    checked: Checked
    lines: tuple[Check, ...]
    waived: Mapping[str, PackWaiver]
    lapsed: tuple[PackWaiver, ...]


def check_pack(session: Session, pack: Pack, now: datetime, what_if: WhatIf | None = None) -> CheckedPack:
    """The plan of a pack, run and checked.

    Raises:
        BadInputError: a load or a cell of a what-if that cannot be.
    """
    asked = what_if or WhatIf()
    family, full_v = kind_of(pack)
    groups = _exchanged(session, paper_groups(pack, now), asked.exchanges, family, now)
    rules = rules_in_force(session)
    checked = take_up(
        groups, family, full_v, _planned(pack, asked, rules), rules,
        starts_from=asked.starts_from, with_band=not asked.quick,
    )  # fmt: skip
    lines = check_all(checked)
    if what_if is None:
        lines += layout_lines(pack, checked)
    holding = {waiver.check: waiver for waiver in pack.waivers if _holds(waiver, lines)}
    lapsed = tuple(waiver for waiver in pack.waivers if waiver not in holding.values())
    return CheckedPack(checked, lines, holding, lapsed)


def take_up_pack(session: Session, pack: Pack, now: datetime) -> Checked:
    """A pack with its plan and its run as they are known now, at a look: no lines, no bands."""
    family, full_v = kind_of(pack)
    rules = rules_in_force(session)
    return take_up(paper_groups(pack, now), family, full_v, plan_of(pack), rules, with_band=False)


def worst_current_a(session: Session, pack: Pack, now: datetime) -> float | None:
    """The highest current its plan can draw [A]; None: nobody said what it feeds, or it cannot be run."""
    runs = take_up_pack(session, pack, now).runs
    return runs.worst_a if runs else None


def open_stops(session: Session, pack: Pack, now: datetime) -> list[Check]:
    """The lines that stop a pack from being built or given out: red, and not waived as they read now."""
    told = check_pack(session, pack, now)
    return [line for line in told.lines if line.state == "stop" and line.id not in told.waived]


def waive(session: Session, actor: Actor, pack: Pack, check: str, why: str, now: datetime) -> None:
    """A coordinator lets a line pass as it reads now, with a reason that stays.

    Raises:
        NotAllowedError: not a coordinator.
        NotFoundError: there is no such line now.
        ConflictError: it stops nothing, or it protects people and is never waived.
        BadInputError: no reason.
    """
    require_coordinator(actor, said("doing-waiving-check"))
    line = next((each for each in check_pack(session, pack, now).lines if each.id == check), None)
    if line is None:
        raise NotFoundError(said("no-such-check"))
    if line.state != "stop":
        raise ConflictError(said("check-stops-nothing", check=line.name))
    if not line.may_be_waived:
        raise ConflictError(said("check-is-never-waived", check=line.name))
    why = " ".join(why.split())
    if not _LEAST_WORDS <= len(why) <= WHY_MOST:
        raise BadInputError(said("say-why-in-few-words-characters", why=WHY_MOST), field="why")
    pack.waivers.append(PackWaiver(check=check, finding=to_json(line.worked), why=why, at=now, by_id=actor.person_id))
    pack.version += 1
    note(session, actor, "check-waived", now, pack_id=pack.id, pack=pack.number, check=check, why=why)
    session.flush()


def _holds(waiver: PackWaiver, lines: Sequence[Check]) -> bool:
    return any(
        line.id == waiver.check and line.may_be_waived and to_json(line.worked) == waiver.finding for line in lines
    )


def _planned(pack: Pack, asked: WhatIf, rules: HouseRules) -> PackPlan:
    plan = plan_of(pack)
    if asked.load_kind is not None:
        value = read_number(asked.load, QUANTITY_OF_LOAD[asked.load_kind], "load")
        if value <= 0:
            raise BadInputError(said("number-above-zero-is-needed-here"), field="load")
        takes = {kind: value if kind == asked.load_kind else None for kind in QUANTITY_OF_LOAD}
        device = plan.device or Device(None, None, None, None, None, 1.0, None, None, None)
        device = replace(
            device, power_w=takes["power"], current_ma=takes["current"], resistance_ohm=takes["resistor"]
        )  # fmt: skip
        plan = replace(plan, device=device)
    if asked.colder_pct and plan.converter is not None:
        full, empty = (each * (1 - asked.colder_pct / 100) for each in efficiencies(plan.converter, rules))
        plan = replace(plan, converter=replace(plan.converter, efficiency_full=full, efficiency_empty=empty))
    return plan


def _exchanged(
    session: Session,
    groups: list[list[PaperCell]],
    exchanges: Mapping[str, str | None],
    family: Family,
    now: datetime,
) -> list[list[PaperCell]]:
    known = {cell.number for group in groups for cell in group}
    for out, comes in exchanges.items():
        if out not in known:
            raise BadInputError(said("cell-not-in-this-pack", cell=out), field="exchanges")
        new = None
        if comes is not None:
            row = get_cell(session, comes)
            if row.family != family.value or not row.judgement or not row.judgement.capacity_mah:
                raise BadInputError(said("cell-cannot-come-into-run", cell=row.number), field="exchanges")
            if row.number in known:
                raise BadInputError(said("cell-in-this-pack-already", cell=row.number), field="exchanges")
            new = paper_cell(row, row.judgement.capacity_mah, now)
        groups = [[each for cell in group if (each := new if cell.number == out else cell)] for group in groups]
    if any(not group for group in groups):
        raise BadInputError(said("group-would-be-empty"), field="exchanges")
    return groups
