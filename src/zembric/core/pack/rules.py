"""A pack goes no further than its cells: the one place for what may be matched, kept, built and given out, and why not.

Each refusal says with what to do. Whoever asks hands in the cells as they are now.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from zembric.core.house import limits
from zembric.core.identify.families import full_voltage_v
from zembric.core.said import Amount, Said, named, said, volts

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.grounds import Grade
    from zembric.core.house.limits import Family
    from zembric.core.house.rules import HouseRules

RefusalCode = Literal[
    "hazard", "out", "decide", "not-graded", "not-ready", "stale", "not-picked", "no-voltage", "voltages-apart", "marked",
    "recovery-unproved", "to-look", "stopped", "not-commissioned", "other-voltage", "red-check", "voltage-old",
    "step-wrong", "called-back",
]  # fmt: skip
_READY_STEPS = ("keep", "recheck")
# What a cell that came back, or stood beside a hazard, waits for: nobody knows how it is until that is done.
_LOOK_STEPS = ("inspect", "repair", "measure-voltage")
#: What has to be done or decided before a cell may lie on the shelf, whatever its grade.
NOT_ONTO_THE_SHELF = ("inspect", "repair", "measure-voltage", "recover", "decide", "fire-safe-box", "out-box")


@dataclass(frozen=True, slots=True)
class PackedCell:
    """A cell as the rules of packs see it. `resting_v` [V] is one that still holds; None: there is none.

    `step` is what the judge says to do next now, whatever pack holds it. `in_pack`: another pack that holds it.
    """

    number: str
    grade: Grade
    step: str
    family: Family | None
    full_v: float | None
    resting_v: float | None
    is_on_shelf: bool
    is_on_watch: bool = False
    is_from_vape: bool = False
    is_marked: bool = False
    mark_allowed: bool = False
    recovery_proved: bool = True
    in_pack: str | None = None
    has_capacity: bool = True
    #: How long ago its resting voltage was read [d].
    resting_days: float = 0.0


@dataclass(frozen=True, slots=True)
class Refusal:
    """One reason why a pack may not go on: what, which cells, and what to do."""

    code: RefusalCode
    said: Said
    cells: tuple[str, ...]
    to_do: Said


def objection(cell: PackedCell, family: Family, full_v: float | None, rules: HouseRules) -> Said | None:
    """What keeps a cell out of every match for packs of this family and full voltage [V]; None: nothing.

    What a coordinator or a builder may lift (a mark for life, a grade, a model) is asked elsewhere.
    """
    if cell.step == "fire-safe-box":
        return named("objection", "hazard")
    if cell.in_pack:
        return named("objection", "in-a-pack")
    if cell.grade == "out":
        return named("objection", "out")
    if cell.grade == "not-yet" or not cell.has_capacity:
        return named("objection", "not-graded")
    if not cell.is_on_shelf:
        return named("objection", "not-on-shelf")
    if cell.step not in _READY_STEPS:
        return named("objection", "to-charge") if cell.step == "charge" else named("objection", "not-ready")
    if not cell.recovery_proved:
        return named("objection", "recovery-unproved")
    if cell.is_on_watch:
        return named("objection", "on-watch")
    if cell.family is not family:
        return named("objection", "other-family")
    if full_voltage_v(cell.family, cell.full_v) != full_voltage_v(family, full_v):
        return named("objection", "other-full-voltage")
    if rules.switches["vape-cells"] == "single-use" and cell.is_from_vape:
        return named("objection", "from-a-vape")
    return None


def refusals_to_build(
    cells: Sequence[PackedCell], *, is_stale: bool, unpicked: Sequence[str], rules: HouseRules, wrong_steps: int = 0,
    called_back: Sequence[str] = (),
) -> tuple[Refusal, ...]:  # fmt: skip
    """Why a planned pack may not be joined; nothing: it may. `called_back`: why, for each recall that is not settled.

    Source: house rule: a pack goes no further than its cells.
    """
    found = _of_recalls(called_back) + _of_danger(cells)
    told = {number for refusal in found for number in refusal.cells}
    unready = tuple(c.number for c in cells if c.number not in told and c.step != "keep")
    if unready:
        found.append(
            Refusal("not-ready", _of("refused-not-ready", unready), unready, said("to-do-next-steps"))
        )  # fmt: skip
    if is_stale:
        found.append(
            Refusal("stale", said("refused-stale"), (), said("to-do-mend-plan"))
        )  # fmt: skip
    if unpicked:
        found.append(Refusal("not-picked", _of("refused-not-picked", unpicked), tuple(unpicked), said("to-do-pick")))
    found += refusals_to_join(cells, rules)
    found += _of_recoveries(cells)
    if wrong_steps:
        found.append(Refusal("step-wrong", said("refused-step-wrong", count=wrong_steps), (), said("to-do-step-wrong")))
    return tuple(found)


def refusals_by_checks(stops: Sequence[Said]) -> tuple[Refusal, ...]:
    """Why a pack whose plan has lines that stop it goes no further, by their names; nothing: none stops it."""
    if not stops:
        return ()
    text = said("refused-red-check", checks=tuple(stops), count=len(stops))
    return (Refusal("red-check", text, (), said("to-do-red-check")),)


def refusals_to_give_out(
    cells: Sequence[PackedCell], *, stopped: Said | None, is_commissioned: bool, called_back: Sequence[str] = ()
) -> tuple[Refusal, ...]:
    """Why a built pack may not leave the house; nothing: it may. `called_back`: as in `refusals_to_build`."""
    found = _of_recalls(called_back)
    if stopped:
        found.append(Refusal("stopped", said("refused-stopped", why=stopped), (), said("to-do-take-apart")))
    found += _of_danger(cells)
    unseen = tuple(cell.number for cell in cells if cell.step in _LOOK_STEPS)
    if unseen:
        found.append(Refusal("to-look", _of("refused-to-look", unseen), unseen, said("to-do-look")))
    if not is_commissioned:
        found.append(Refusal("not-commissioned", said("refused-not-commissioned"), (), said("to-do-commission")))
    return tuple(found)


def voltage_gap_v(cells: Sequence[PackedCell]) -> float | None:
    """How far the resting voltages that hold lie apart [V]; None where a cell has none."""
    known = [cell.resting_v for cell in cells if cell.resting_v is not None]
    return max(known) - min(known) if known and len(known) == len(cells) else None


def _of_recalls(called_back: Sequence[str]) -> list[Refusal]:
    """A pack that is asked back from others goes to nobody, and no new one of its kind is joined."""
    return [
        Refusal("called-back", said("refused-called-back", why=why), (), said("to-do-settle")) for why in called_back
    ]


def _of_danger(cells: Sequence[PackedCell]) -> list[Refusal]:
    """Hazards, cells that are out, and those that wait for a coordinator."""
    found = []
    hazards = tuple(cell.number for cell in cells if cell.step == "fire-safe-box")
    if hazards:
        found.append(Refusal("hazard", _of("refused-hazard", hazards), hazards, said("to-do-hazard")))
    out = tuple(cell.number for cell in cells if cell.grade == "out" and cell.number not in hazards)
    if out:
        found.append(Refusal("out", _of("refused-out", out), out, said("to-do-exchange")))
    told = {*hazards, *out}
    aside = tuple(cell.number for cell in cells if cell.step == "decide" and cell.number not in told)
    if aside:
        found.append(Refusal("decide", _of("refused-decide", aside), aside, said("to-do-decide")))
    return found


def refusals_to_join(cells: Sequence[PackedCell], rules: HouseRules) -> list[Refusal]:
    """Why cells may not be joined side by side as they rest: not measured, too long ago, or too far apart."""
    unread = tuple(cell.number for cell in cells if cell.resting_v is None)
    if unread:
        to_do = said("to-do-rest-and-measure", rest=Amount(limits.RESTED_H.value, "h"))
        return [Refusal("no-voltage", _of("refused-no-voltage", unread), unread, to_do)]
    most_days = rules.value(limits.JOIN_FRESH_DAYS)
    old = tuple(cell.number for cell in cells if cell.resting_days > most_days)
    if old:
        text = said("refused-voltage-old", cells=old, days=Amount(most_days, "d"))
        return [Refusal("voltage-old", text, old, said("to-do-measure-anew"))]
    gap_v, most_v = voltage_gap_v(cells), rules.value(limits.JOIN_WITHIN_V)
    if gap_v is None or gap_v <= most_v + 1e-9:
        return []
    rising = sorted(cells, key=lambda cell: cell.resting_v or 0.0)
    ends = (rising[0].number, rising[-1].number)
    text = said("refused-voltages-apart", gap=volts(gap_v), low=ends[0], high=ends[1], most=volts(most_v))
    return [Refusal("voltages-apart", text, ends, said("to-do-even-voltages"))]


def _of_recoveries(cells: Sequence[PackedCell]) -> list[Refusal]:
    found = []
    marked = tuple(cell.number for cell in cells if cell.is_marked and not cell.mark_allowed)
    if marked:
        found.append(Refusal("marked", _of("refused-marked", marked), marked, said("to-do-allow-mark")))
    unproved = tuple(cell.number for cell in cells if not cell.recovery_proved)
    if unproved:
        text = _of("refused-recovery-unproved", unproved)
        found.append(Refusal("recovery-unproved", text, unproved, said("to-do-prove-recovery")))
    return found


def _of(code: str, numbers: Sequence[str]) -> Said:
    """Something that holds for these cells."""
    return Said(code, (("cells", tuple(numbers)), ("count", len(numbers))))
