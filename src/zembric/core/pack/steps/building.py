"""From picked cells to a joined pack, in steps that keep the voltage at hand low.

Groups first, each measured; then series links from both ends inwards, the one in the middle last; balance leads minus
first, then in ascending order, each measured before; the plug last. Source: domain practice, docs/pack-in-hand.md.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.pack.steps.model import Asked, HandStep, StepCell
from zembric.core.said import Said, named, said, volts

if TYPE_CHECKING:
    from collections.abc import Iterator, Sequence

    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.layout.model import End
    from zembric.core.pack.steps.model import JointKind


@dataclass(frozen=True, slots=True)
class BuildCell:
    """A cell as the hand takes it: which way up, where it rests [V], how it is joined."""

    number: str
    end: End
    rest_v: float
    capacity_mah: float
    joint: JointKind
    is_flat: bool


@dataclass(frozen=True, slots=True)
class ToBuild:
    """A pack that is going to be joined; `taps` are the cells at which balance leads are joined, from minus on."""

    groups: Sequence[Sequence[BuildCell]]
    full_v: float
    energy_wh: float
    has_board: bool
    has_fuse: bool
    taps: Sequence[str] = ()


def building_steps(pack: ToBuild, rules: HouseRules) -> tuple[HandStep, ...]:
    """All steps in their order."""
    return tuple(_steps(pack, rules))


def _steps(pack: ToBuild, rules: HouseRules) -> Iterator[HandStep]:
    series = len(pack.groups)
    is_strong = _is_strong(pack, rules)
    expected = [group_v(group) for group in pack.groups]
    is_flat = pack.groups[0][0].is_flat
    yield HandStep(
        "ready",
        said("step-ready"),
        _at_hand(pack),
        (said("caution-alone"), said("caution-metal"), said("caution-sand")),
    )
    yield HandStep(
        "rings", said("step-rings"), (said("todo-pouch-paper" if is_flat else "todo-rings"),), (said("caution-can"),)
    )
    for number, group in enumerate(pack.groups, start=1):
        cells = tuple(StepCell(cell.number, cell.end, cell.joint) for cell in group)
        yield HandStep(f"place-{number}", said("step-place", group=number), (said("todo-place"),), cells=cells)
        if len(group) > 1:
            joints = sorted({cell.joint for cell in group})
            yield HandStep(
                f"join-{number}", said("step-join", group=number), tuple(named("todo-joint", joint) for joint in joints),
                (*(named("caution-joint", joint) for joint in joints), said("caution-one-terminal")), cells,
            )  # fmt: skip
        yield HandStep(
            f"group-{number}", said("step-group", group=number), (said("todo-group"),), asked=(_of_group(number, group, rules),),
            judged_as="group",
        )  # fmt: skip
    for place, node in enumerate(link_order(series)):
        is_last = place == series - 2
        joined = _joined_by(node, link_order(series)[: place + 1])
        together = sum(expected[first - 1] for first in joined)
        yield HandStep(
            f"link-{node}", said("step-link-last" if is_last else "step-link", first=node, second=node + 1),
            (said("todo-link-face", face=named("layout-face", "top" if node % 2 else "bottom")), said("todo-paper")),
            (said("caution-link", volts=volts(together)), said("caution-one-terminal")),
            asked=(
                _volts("v", said("asked-across", first=min(joined), last=max(joined)), together, len(joined), rules),
            ),
            judged_as="links", needs_second=is_strong,
        )  # fmt: skip
    if pack.has_fuse:
        yield HandStep("fuse", said("step-fuse"), (said("todo-fuse"),), (said("caution-fuse"),))
    if pack.has_board and series > 1:
        yield from _taps(pack, expected, rules)
        yield HandStep(
            "plug", said("step-plug"), (said("todo-plug"),), (said("caution-plug"),), needs_second=is_strong
        )  # fmt: skip
    elif pack.has_board:
        yield HandStep("plug", said("step-board-one"), (said("todo-board-one"),), (said("caution-plug"),))
    yield HandStep("wrap", said("step-wrap"), (said("todo-wrap"),), (said("caution-wrap"),))


def _is_strong(pack: ToBuild, rules: HouseRules) -> bool:
    """Above what volunteers build without somebody beside them."""
    above_v = pack.full_v > rules.value(limits.PACK_FULL_V) + 1e-9
    return above_v or pack.energy_wh > rules.value(limits.PACK_ENERGY_WH) + 1e-9


def _at_hand(pack: ToBuild) -> tuple[Said, ...]:
    joints = {cell.joint for group in pack.groups for cell in group}
    needed = [said("at-hand-always")]
    needed += [named("at-hand", joint) for joint in sorted(joints)]
    if pack.has_board:
        needed.append(said("at-hand-board"))
    return tuple(needed)


def group_v(group: Sequence[BuildCell]) -> float:
    """Where cells that were joined side by side come to rest together, near enough: by the charge they hold [V]."""
    return sum(cell.rest_v * cell.capacity_mah for cell in group) / sum(cell.capacity_mah for cell in group)


def link_order(series: int) -> tuple[int, ...]:
    """The links (1 joins groups 1 and 2) from both ends inwards: the middle one, which doubles the voltage at hand, last."""
    middle = series / 2
    return tuple(sorted(range(1, series), key=lambda node: (-abs(node - middle), node)))


def _joined_by(node: int, links: Sequence[int]) -> list[int]:
    """The groups that hang together once these links are made, of which `node` joins two."""
    made, low, high = set(links), node, node + 1
    while low - 1 in made:
        low -= 1
    while high in made:
        high += 1
    return list(range(low, high + 1))


def _of_group(number: int, group: Sequence[BuildCell], rules: HouseRules) -> Asked:
    band = rules.value(limits.STEP_GROUP_V)
    rests = [cell.rest_v for cell in group]
    return Asked("v", "V", said("asked-group", group=number), group_v(group), min(rests) - band, max(rests) + band)


def _volts(key: str, name: Said, expected: float, groups: int, rules: HouseRules) -> Asked:
    band = groups * rules.value(limits.STEP_GROUP_V)
    return Asked(key, "V", name, expected, expected - band, expected + band)


def _taps(pack: ToBuild, expected: Sequence[float], rules: HouseRules) -> Iterator[HandStep]:
    """Soldered one by one to leads whose plug is off the board, then measured at the plug."""
    for node in range(len(pack.groups) + 1):
        at = pack.taps[node] if pack.taps else ""
        todo = [said("todo-tap-at", cell=at)] if at else []
        todo.append(said("todo-tap-first" if node == 0 else "todo-tap"))
        asked: tuple[Asked, ...] = ()
        if node:
            asked = (_volts("v", said("asked-tap", tap=node), sum(expected[:node]), node, rules),)
        yield HandStep(
            f"tap-{node}", said("step-tap", tap=node), tuple(todo), (said("caution-tap"),), asked=asked,
            judged_as="taps" if node else "nothing",
        )  # fmt: skip
