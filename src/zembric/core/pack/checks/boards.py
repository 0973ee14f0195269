"""What stops an empty pack, what keeps its groups even, and whether the board fits cells and load."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.core.house import limits
from zembric.core.house.limits import Family, Kind
from zembric.core.pack.checks.model import Check, CheckState, amount, of_limit
from zembric.core.said import named, said

if TYPE_CHECKING:
    from collections.abc import Iterator

    from zembric.core.pack.checks.model import Checked
    from zembric.core.pack.parts import Board


def check_boards(checked: Checked) -> Iterator[Check]:
    """A low cut-off somewhere and, from two groups on, balance: else it is not built, whoever says so."""
    yield _low_cut_off(checked)
    if checked.series > 1:
        yield _balance(checked)
    board = checked.plan.board
    if board is not None:
        yield _groups(checked, board)
        yield _over(checked, board)
        yield _under(checked, board)
        yield from _current(checked, board)
        yield from _bleed(checked, board)
        if board.sleeps != "no":
            yield Check(
                "board-sleeps", "look", named("worked-board-sleeps", board.sleeps), mend=said("mend-board-sleeps")
            )
    own = checked.plan.own_protection
    if own is not None and checked.series * checked.parallel > 1:
        variant = "both" if checked.series > 1 < checked.parallel else "series" if checked.series > 1 else "parallel"
        yield Check("own-protection", "look", named("worked-own-protection", variant), mend=said("mend-own-protection"))


def _low_cut_off(checked: Checked) -> Check:
    """A board, a protection on every cell, or a device that lets go in time."""
    plan = checked.plan
    least_v = limits.BOARD_UNDER_LEAST_V[checked.family].value
    if plan.board is not None:
        return Check("low-cut-off", "holds", said("worked-low-cut-off-board", under=amount(plan.board.under_v, "V", 2)))
    own = plan.own_protection
    if own is not None and own.which == "all":
        state: CheckState = "holds" if own.under_v >= least_v - 1e-9 else "stop"
        return Check(
            "low-cut-off", state, said("worked-low-cut-off-own", under=amount(own.under_v, "V", 2)),
            amount(own.under_v, "V", 2), **of_limit(limits.BOARD_UNDER_LEAST_V[checked.family]),
            mend=None if state == "holds" else said("mend-low-cut-off"),
        )  # fmt: skip
    cuts_off_v = plan.device.cuts_off_v if plan.device else None
    if cuts_off_v is not None:
        house_v = checked.series * checked.rules.of(limits.CUT_OFF_V, checked.family)
        is_early = cuts_off_v >= house_v - 1e-9
        # Of several groups the weakest may be far below while the sum still looks well.
        state = "stop" if not is_early or checked.series > 1 else "holds"
        variant = "series" if checked.series > 1 else "device"
        return Check(
            "low-cut-off", state, said(f"worked-lets-go-{variant}", cuts=amount(cuts_off_v, "V", 2), house=amount(house_v, "V", 2)),
            amount(cuts_off_v, "V", 2), amount(house_v, "V", 2), Kind.HOUSE,
            None if state == "holds" else said("mend-low-cut-off"),
        )  # fmt: skip
    return Check("low-cut-off", "stop", said("worked-low-cut-off-none"), mend=said("mend-low-cut-off"))


def _balance(checked: Checked) -> Check:
    board, charger = checked.plan.board, checked.plan.charger
    if board is not None and board.balance != "none":
        return Check("balance", "holds", named("worked-balance", board.balance))
    if charger is not None and charger.charger_kind == "singly":
        return Check("balance", "holds", said("worked-balance-singly"))
    return Check("balance", "stop", said("worked-balance-none", series=checked.series), mend=said("mend-balance"))


def _groups(checked: Checked, board: Board) -> Check:
    fits = board.series == checked.series
    return Check(
        "board-groups", "holds" if fits else "stop",
        said("worked-board-groups", board=int(board.series), series=checked.series),
        amount(board.series, "S", 0), amount(checked.series, "S", 0), mend=None if fits else said("mend-board-groups"),
    )  # fmt: skip


def _over(checked: Checked, board: Board) -> Check:
    """It has to let the cells become full, and no more than what their family bears."""
    limit = limits.BOARD_OVER_MOST_V[checked.family]
    most_v = limit.value
    if checked.family is Family.HIGH_VOLTAGE_COBALT:
        most_v = max(most_v, checked.cell_full_v + limits.BOARD_ABOVE_FULL_V.value)
    is_above, is_below = board.over_v > most_v + 1e-9, board.over_v < checked.cell_full_v - 1e-9
    state: CheckState = "stop" if is_above else "look" if is_below else "holds"
    return Check(
        "board-over", state,
        said("worked-board-over", over=amount(board.over_v, "V", 2), full=amount(checked.cell_full_v, "V", 2), most=amount(most_v, "V", 2)),
        amount(board.over_v, "V", 2), **of_limit(limit, most_v),
        mend=None if state == "holds" else said("mend-board-over-above" if is_above else "mend-board-over-below"),
    )  # fmt: skip


def _under(checked: Checked, board: Board) -> Check:
    limit = limits.BOARD_UNDER_LEAST_V[checked.family]
    is_low = board.under_v < limit.value - 1e-9
    return Check(
        "board-under", "stop" if is_low else "holds",
        said("worked-board-under", under=amount(board.under_v, "V", 2), least=amount(limit.value, "V", 2)),
        amount(board.under_v, "V", 2), **of_limit(limit), mend=said("mend-board-under") if is_low else None,
    )  # fmt: skip


def _current(checked: Checked, board: Board) -> Iterator[Check]:
    if checked.runs is None:
        return
    most_a, times = checked.runs.worst_a, limits.HEADROOM_TIMES.value
    state: CheckState = "holds" if board.most_a >= times * most_a - 1e-9 else "stop"
    yield Check(
        "board-current", state,
        said("worked-rated", rated=amount(board.most_a, "A", 1), current=amount(most_a, "A", 2), times=amount(times, "", 2), wanted=amount(times * most_a, "A", 2)),
        amount(board.most_a, "A", 1), **of_limit(limits.HEADROOM_TIMES, times * most_a, "A"),
        mend=None if state == "holds" else said("mend-board-current", wanted=amount(times * most_a, "A", 1)),
        may_be_waived=board.most_a >= most_a,
    )  # fmt: skip


def _bleed(checked: Checked, board: Board) -> Iterator[Check]:
    """Hours to take the spread of the groups off the fullest: dQ / I."""
    if board.balance != "bleed" or not board.bleed_ma or checked.series < 2:  # two groups differ
        return
    sums = [sum(cell.capacity_mah for cell in group) for group in checked.groups]
    spread_mah = max(sums) - min(sums)
    hours = spread_mah / board.bleed_ma
    is_long = hours > checked.rules.value(limits.BLEED_PATIENCE_H)
    yield Check(
        "bleed-time", "look" if is_long else "holds",
        said("worked-bleed-time", spread=amount(spread_mah, "mAh", 0), bleed=amount(board.bleed_ma, "mA", 0), hours=amount(hours, "h", 1)),
        amount(hours, "h", 1), **of_limit(limits.BLEED_PATIENCE_H, checked.rules.value(limits.BLEED_PATIENCE_H), digits=0),
        mend=said("mend-bleed-time") if is_long else None,
    )  # fmt: skip
