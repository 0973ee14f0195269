"""A pack goes no further than its cells: the one place for what may be matched, kept, built and given out, and why not.

Each refusal says with what to do. Whoever asks hands in the cells as they are now.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from zembric.core.house import limits
from zembric.core.identify.families import full_voltage_v
from zembric.core.words import amount, listed, volts

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.grounds import Grade
    from zembric.core.house.limits import Family
    from zembric.core.house.rules import HouseRules

RefusalCode = Literal[
    "hazard", "out", "decide", "not-graded", "not-ready", "stale", "not-picked", "no-voltage", "voltages-apart", "marked",
    "recovery-unproved", "to-look", "stopped", "not-commissioned", "other-voltage",
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


@dataclass(frozen=True, slots=True)
class Refusal:
    """One reason why a pack may not go on: what, which cells, and what to do."""

    code: RefusalCode
    text: str
    cells: tuple[str, ...]
    to_do: str


def objection(cell: PackedCell, family: Family, full_v: float | None, rules: HouseRules) -> str | None:
    """What keeps a cell out of every match for packs of this family and full voltage [V]; None: nothing.

    What a coordinator or a builder may lift (a mark for life, a grade, a model) is asked elsewhere.
    """
    if cell.step == "fire-safe-box":
        return "a hazard"
    if cell.in_pack:
        return "in a pack"
    if cell.grade == "out":
        return "out"
    if cell.grade == "not-yet" or not cell.has_capacity:
        return "not graded yet"
    if not cell.is_on_shelf:
        return "not on the shelf"
    if cell.step not in _READY_STEPS:
        return "to be charged first" if cell.step == "charge" else "not ready for the shelf"
    if not cell.recovery_proved:
        return "recovered, and not proved by a reading at rest"
    if cell.is_on_watch:
        return "on watch"
    if cell.family is not family:
        return "another chemistry"
    if full_voltage_v(cell.family, cell.full_v) != full_voltage_v(family, full_v):
        return "another full voltage"
    if rules.switches["vape-cells"] == "single-use" and cell.is_from_vape:
        return "from a vape: only one by one, say the house rules"
    return None


def refusals_to_build(
    cells: Sequence[PackedCell], *, is_stale: bool, unpicked: Sequence[str], rules: HouseRules
) -> tuple[Refusal, ...]:
    """Why a planned pack may not be joined; nothing: it may.

    Source: house rule: a pack goes no further than its cells.
    """
    found = list(_of_danger(cells))
    told = {number for refusal in found for number in refusal.cells}
    unready = tuple(c.number for c in cells if c.number not in told and c.step != "keep")
    if unready:
        found.append(
            Refusal("not-ready", f"{listed(list(unready))} {_are(unready)} not ready.", unready, "Do the next step of each first; it stands on the cell's page.")
        )  # fmt: skip
    if is_stale:
        found.append(
            Refusal("stale", "The plan is stale: a cell is no longer what it was planned as.", (), "Mend the plan first.")
        )  # fmt: skip
    if unpicked:
        text = f"{listed(list(unpicked))} {_were(unpicked)} not picked."
        found.append(
            Refusal(
                "not-picked", text, tuple(unpicked), "Pick each cell by its label, so that none is taken for another."
            )
        )
    found += _of_voltages(cells, rules)
    found += _of_recoveries(cells)
    return tuple(found)


def refusals_to_give_out(
    cells: Sequence[PackedCell], *, stopped_why: str | None, is_commissioned: bool
) -> tuple[Refusal, ...]:
    """Why a built pack may not leave the house; nothing: it may."""
    found = []
    if stopped_why:
        text = f"The pack is stopped: {stopped_why}"
        found.append(Refusal("stopped", text, (), "Take it apart; it goes to nobody."))
    found += _of_danger(cells)
    unseen = tuple(cell.number for cell in cells if cell.step in _LOOK_STEPS)
    if unseen:
        text = f"{listed(list(unseen))} {_have(unseen)} to be looked at again."
        to_do = "Look at each and note its voltage; joined in parallel, a cell has that of its group."
        found.append(Refusal("to-look", text, unseen, to_do))
    if not is_commissioned:
        text = "It was not put to the test since it was built or came back."
        found.append(
            Refusal("not-commissioned", text, (), "Measure its groups, its polarity, its charge and its load first.")
        )
    return tuple(found)


def voltage_gap_v(cells: Sequence[PackedCell]) -> float | None:
    """How far the resting voltages that hold lie apart [V]; None where a cell has none."""
    known = [cell.resting_v for cell in cells if cell.resting_v is not None]
    return max(known) - min(known) if known and len(known) == len(cells) else None


def _of_danger(cells: Sequence[PackedCell]) -> list[Refusal]:
    """Hazards, cells that are out, and those that wait for a coordinator."""
    found = []
    hazards = tuple(cell.number for cell in cells if cell.step == "fire-safe-box")
    if hazards:
        text = f"{listed(list(hazards))} {_are(hazards)} a hazard."
        found.append(Refusal("hazard", text, hazards, "Into the fire-safe box; the pack is taken apart."))
    out = tuple(cell.number for cell in cells if cell.grade == "out" and cell.number not in hazards)
    if out:
        text = f"{listed(list(out))} may not stand in a pack any more: out."
        found.append(Refusal("out", text, out, "Exchange what is out."))
    told = {*hazards, *out}
    aside = tuple(cell.number for cell in cells if cell.step == "decide" and cell.number not in told)
    if aside:
        found.append(
            Refusal(
                "decide",
                f"{listed(list(aside))} {_wait(aside)} for a coordinator.",
                aside,
                "Ask a coordinator to decide.",
            )
        )
    return found


def _of_voltages(cells: Sequence[PackedCell], rules: HouseRules) -> list[Refusal]:
    unread = tuple(cell.number for cell in cells if cell.resting_v is None)
    if unread:
        text = f"{listed(list(unread))} {_have(unread)} no resting voltage that still holds."
        to_do = f"Let each rest {amount(limits.RESTED_H.value, 'h')} after its last charge or load, then measure it."
        return [Refusal("no-voltage", text, unread, to_do)]
    gap_v, most_v = voltage_gap_v(cells), rules.value(limits.JOIN_WITHIN_V)
    if gap_v is None or gap_v <= most_v + 1e-9:
        return []
    rising = sorted(cells, key=lambda cell: cell.resting_v or 0.0)
    ends = (rising[0].number, rising[-1].number)
    text = f"The cells rest {volts(gap_v)} apart, from {ends[0]} to {ends[1]}; {volts(most_v)} is the most."
    to_do = "Bring all to the same voltage first: charge each to the same end, let them rest, measure again."
    return [Refusal("voltages-apart", text, ends, to_do)]


def _of_recoveries(cells: Sequence[PackedCell]) -> list[Refusal]:
    found = []
    marked = tuple(cell.number for cell in cells if cell.is_marked and not cell.mark_allowed)
    if marked:
        text = f"{listed(list(marked))} {_carry(marked)} a mark for life: recovered from very low."
        found.append(
            Refusal(
                "marked", text, marked, "A coordinator says yes to it for this pack, with a reason, or it is exchanged."
            )
        )
    unproved = tuple(cell.number for cell in cells if not cell.recovery_proved)
    if unproved:
        text = f"The recovery of {listed(list(unproved))} is not proved by a reading at rest."
        found.append(Refusal("recovery-unproved", text, unproved, "Measure from the third day after its charge on."))
    return found


def _are(numbers: Sequence[str]) -> str:
    return "is" if len(numbers) == 1 else "are"


def _were(numbers: Sequence[str]) -> str:
    return "was" if len(numbers) == 1 else "were"


def _have(numbers: Sequence[str]) -> str:
    return "has" if len(numbers) == 1 else "have"


def _wait(numbers: Sequence[str]) -> str:
    return "waits" if len(numbers) == 1 else "wait"


def _carry(numbers: Sequence[str]) -> str:
    return "carries" if len(numbers) == 1 else "carry"
