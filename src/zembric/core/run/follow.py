"""Following many circuits through time until each comes to its end."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from zembric.core.run.circuits import Flow, OverTime
from zembric.core.run.model import RefusedRunError, Wrong
from zembric.core.run.steps import Cells, Here, Moving, State, grown, look, moving, take_step

if TYPE_CHECKING:
    from collections.abc import Callable

    from numpy.typing import NDArray

    from zembric.core.run.circuits import Circuit
    from zembric.core.run.steps import Care

    Floats = NDArray[np.float64]
    Flags = NDArray[np.bool_]
    Indices = NDArray[np.intp]
    #: How far each circuit is from its end, at or below 0 it has come to it.
    Room = Callable[[Circuit, Here], Floats]

_GROWS_MOST, _SHRINKS_MOST, _CAREFUL = 4.0, 0.2, 0.8
_MOST_STEPS = 200_000
#: The end is known to so much of the time that went by, or to so much room.
_END_KNOWN, _ROOM_KNOWN = 1e-11, 1e-10
#: The first step, in the time that the fastest cell needs to settle.
_FIRST = 0.02
#: Over a corner of a curve a step may be so many times as long as its cell needs to settle.
_SETTLED = 2.0


@dataclass(slots=True)
class Tracks:
    """What was seen on the way of each cell: largest currents out and in [A] and when [s], and lowest and highest charge."""

    out_a: Floats
    out_s: Floats
    in_a: Floats
    in_s: Floats
    least_soc: Floats
    most_soc: Floats

    @classmethod
    def at_start(cls, flow: Flow, soc: Floats) -> Tracks:
        zero = np.zeros_like(soc)
        out_a, in_a = np.maximum(flow.cell_a, 0), np.maximum(-flow.cell_a, 0)
        return cls(out_a, zero.copy(), in_a, zero.copy(), soc.copy(), soc.copy())

    def all(self) -> tuple[Floats, ...]:
        return self.out_a, self.out_s, self.in_a, self.in_s, self.least_soc, self.most_soc

    def of(self, cells: Flags) -> Tracks:
        return Tracks(*(values[cells] for values in self.all()))

    def note(self, cells: Flags, here: Here, time_s: Floats) -> None:
        """Takes in where some of the cells have come to."""
        for most, when, now in ((self.out_a, self.out_s, here.flow.cell_a), (self.in_a, self.in_s, -here.flow.cell_a)):
            is_more = cells & (now > most)
            most[is_more], when[is_more] = now[is_more], time_s[is_more]
        np.minimum(self.least_soc, here.state.soc, out=self.least_soc, where=cells)
        np.maximum(self.most_soc, here.state.soc, out=self.most_soc, where=cells)

    def join(self, earlier: Tracks) -> None:
        """Takes in what was seen before."""
        for most, when, was, was_when in (
            (self.out_a, self.out_s, earlier.out_a, earlier.out_s), (self.in_a, self.in_s, earlier.in_a, earlier.in_s),
        ):  # fmt: skip
            is_more = was >= most
            most[is_more], when[is_more] = was[is_more], was_when[is_more]
        np.minimum(self.least_soc, earlier.least_soc, out=self.least_soc)
        np.maximum(self.most_soc, earlier.most_soc, out=self.most_soc)

    def missed(self, was: Floats, rises: Floats, now: Floats, falls: Floats, step_s: Floats) -> Floats:
        """By what share of the largest a peak between two steps may stand above it.

        Where the tangents of both ends meet: at a corner of a curve just there, else below.
        """
        missed = np.zeros_like(was)
        turns = np.flatnonzero(rises * falls < 0)
        if len(turns):
            up, down, step_s = np.abs(rises[turns]), -np.abs(falls[turns]), step_s[turns]
            is_out = rises[turns] > 0
            sign = np.where(is_out, 1.0, -1.0)
            before, after = sign * was[turns], sign * now[turns]
            meet = np.minimum(np.maximum((after - before - down * step_s) / (up - down), 0), step_s)
            known = np.maximum(np.maximum(before, after), np.where(is_out, self.out_a[turns], self.in_a[turns]))
            missed[turns] = np.maximum((before + up * meet - known) / np.maximum(known, 1e-6), 0)
        return missed


@dataclass(slots=True)
class Ended:
    """Where each circuit came to its end, what was seen of its cells, and of the first one its load over time.

    `group_v` are the voltages [V] of its groups and `soc` the charges of its cells at the moments of that.
    """

    state: State
    flow: Flow
    tracks: Tracks
    over_time: OverTime
    group_v: Floats
    soc: Floats


class _Followed:
    """Circuits that are still under way; those that ended leave it, so that the last ones are as quick as alone."""

    def __init__(self, cells: Cells, circuit: Circuit, start: State, room: Room, care: Care) -> None:
        self.cells, self.circuit, self._room_of, self._care = cells, circuit, room, care
        self.here = look(cells, circuit, start)
        self.tracks = Tracks.at_start(self.here.flow, start.soc)
        self.moving = moving(cells, circuit, self.here)
        self.room = room(circuit, self.here)
        layout = circuit.layout
        circuits = len(layout.groups_in_circuit)
        self.ids, self.cell_ids = np.arange(circuits), np.arange(len(start.soc))
        self.group_ids = np.arange(len(layout.cells_in_group))
        fastest = np.maximum.reduceat(self.here.slope * layout.siemens / cells.charge_as, layout.cell_starts)
        self.step_s = _FIRST / fastest
        # Where an end was overstepped: how far ahead it lies at most [s], and the room there.
        self.ahead_s, self.room_ahead = np.full(circuits, np.inf), np.zeros(circuits)

    def moment(self) -> tuple[float, float, float]:
        """The time [s] of the first circuit, its load [A] and how that changes [A/s]."""
        now = self.moving
        if min(self._care.peaks, self._care.load) == np.inf:
            now = moving(self.cells, self.circuit, self.here)
        return float(self.here.state.time_s[0]), float(self.here.flow.load_a[0]), float(now.load_a[0])

    def take(self) -> Flags:
        """Tries a step of each; answers which of them came to their end."""
        is_bracketed = self.ahead_s < np.inf
        tried_s = self.step_s
        if is_bracketed.any():
            share = self.room / np.where(is_bracketed, self.room - self.room_ahead, 1)
            trial_s = np.where(is_bracketed, self.ahead_s * np.minimum(np.maximum(share, 0.02), 1), np.inf)
            tried_s = np.minimum(tried_s, trial_s)
        step = take_step(self.cells, self.circuit, self.here, tried_s, self._care)
        room = self._room_of(self.circuit, step.here)
        there, corner_s = self.moving, None
        if self._care.peaks < np.inf:
            corner_s = self._until_corner(step.here, tried_s)
            if corner_s is not None:
                step.error[corner_s < np.inf] = np.inf
            there = moving(self.cells, self.circuit, step.here)
            step.error = np.maximum(step.error, self._missed(step.here, there.cell_a, tried_s))
            sums, wrong = grown(self.moving, there, tried_s)
            step.here.state.sums = step.here.state.sums + sums
            step.error = np.maximum(step.error, wrong)
        elif self._care.load < np.inf:
            there = moving(self.cells, self.circuit, step.here)
            step.error = np.maximum(step.error, self._load_missed(step.here, there.load_a, tried_s))
        is_right = step.error <= 1
        grows = np.minimum(np.maximum(_CAREFUL * np.maximum(step.error, 1e-9) ** (-1 / 3), _SHRINKS_MOST), _GROWS_MOST)
        is_past = is_right & (room <= 0)
        known_s = _END_KNOWN * (self.here.state.time_s + tried_s)
        # A power that can hardly be carried changes faster than can be followed: that is its end.
        is_stuck = ~is_right & (tried_s <= known_s)
        has_ended = (is_past & ((room > -_ROOM_KNOWN) | (tried_s <= known_s))) | is_stuck
        goes_on = (is_right & ~is_past) | (has_ended & ~is_stuck)
        self._move(goes_on, step.here, room, there)
        is_short = is_right & ~is_past & (tried_s < self.step_s)
        self.step_s = np.where(is_short, np.maximum(self.step_s, tried_s * grows), tried_s * grows)
        if corner_s is not None:
            self.step_s = np.where(corner_s < np.inf, corner_s, self.step_s)
        self.ahead_s = np.where(is_past, tried_s, np.where(goes_on, self.ahead_s - tried_s, self.ahead_s))
        self.room_ahead = np.where(is_past, room, self.room_ahead / np.where(is_bracketed & goes_on, 2, 1))
        return has_ended

    def _until_corner(self, there: Here, step_s: Floats) -> Floats | None:
        """How long a step may be where one went over a corner of a curve faster than its cell settles; else inf, or None.

        Beside others in parallel a cell comes to the corner a moment before or after them and takes more or less for
        that moment, which lasts about as long as it needs to settle: r q over the slope.
        """
        layout, here = self.circuit.layout, self.here
        crosses = there.lines != here.lines
        if not crosses.any():
            return None
        settles_s = layout.ohm_through_others * self.cells.charge_as / np.maximum(here.slope, there.slope)
        of_cell = step_s[layout.circuit_of_cell]
        too_fast = crosses & (of_cell > _SETTLED * settles_s)
        if not too_fast.any():
            return None
        moved = np.where(too_fast, there.state.soc - here.state.soc, 1.0)
        way = self.cells.curves.knots_between(here.lines, there.lines) - here.state.soc
        before_s = of_cell * np.clip(way / moved, 0, 1) - settles_s / 2
        wanted_s = np.where(before_s > settles_s / 2, before_s, settles_s / 2)
        shortest: Floats = np.minimum.reduceat(np.where(too_fast, wanted_s, np.inf), layout.cell_starts)
        return shortest

    def _load_missed(self, there: Here, change_a: Floats, step_s: Floats) -> Floats:
        """Where the load bends within a step its ends do not tell how it went: change and slopes do not fit."""
        was_a, is_a = self.here.flow.load_a, there.flow.load_a
        unfit_a = np.abs(is_a - was_a - step_s * (self.moving.load_a + change_a) / 2)
        missed: Floats = unfit_a / (self._care.load * (np.abs(is_a) + 1e-12))
        return missed

    def _missed(self, there: Here, change_a: Floats, step_s: Floats) -> Floats:
        layout = self.circuit.layout
        missed = self.tracks.missed(
            self.here.flow.cell_a, self.moving.cell_a, there.flow.cell_a, change_a, step_s[layout.circuit_of_cell]
        )
        most: Floats = np.maximum.reduceat(missed, layout.cell_starts) / self._care.peaks
        return most

    def _move(self, circuits: Flags, there: Here, room: Floats, moves: Moving) -> None:
        if circuits.all():
            self.here, self.room, self.moving = there, room, moves
        elif circuits.any():
            layout = self.circuit.layout
            cells, groups = circuits[layout.circuit_of_cell], circuits[layout.circuit_of_group]
            self.here = _mixed(circuits, cells, groups, there, self.here)
            self.room = np.where(circuits, room, self.room)
            if moves is not self.moving:
                self.moving = moves.mixed(cells, circuits, self.moving)
        if self._care.peaks < np.inf:
            of_cell = self.circuit.layout.circuit_of_cell
            self.tracks.note(circuits[of_cell], self.here, self.here.state.time_s[of_cell])

    def keep(self, circuits: Flags) -> None:
        """Leaves the others behind."""
        layout = self.circuit.layout
        cells, groups = circuits[layout.circuit_of_cell], circuits[layout.circuit_of_group]
        self.cells = Cells(self.cells.charge_as[cells], self.cells.curves.of(self.cells.curves.which[cells]))
        state, flow = self.here.state, self.here.flow
        self.here = Here(
            State(state.time_s[circuits], state.soc[cells], state.sums[:, circuits]),
            self.here.lines[cells],
            self.here.ocv_v[cells],
            self.here.slope[cells],
            Flow(flow.cell_a[cells], flow.group_v[groups], *(each[circuits] for each in flow.of_circuits())),
        )
        self.tracks = self.tracks.of(cells)
        self.moving = self.moving.of(cells, circuits)
        self.ids, self.cell_ids, self.group_ids = self.ids[circuits], self.cell_ids[cells], self.group_ids[groups]
        self.room, self.step_s = self.room[circuits], self.step_s[circuits]
        self.ahead_s, self.room_ahead = self.ahead_s[circuits], self.room_ahead[circuits]
        self.circuit = self.circuit.kept(circuits)


def _mixed(circuits: Flags, cells: Flags, groups: Flags, there: Here, here: Here) -> Here:
    """Some circuits where they came to, the others where they were."""
    on_circuits = zip(there.flow.of_circuits(), here.flow.of_circuits(), strict=True)
    return Here(
        State(
            np.where(circuits, there.state.time_s, here.state.time_s),
            np.where(cells, there.state.soc, here.state.soc),
            np.where(circuits, there.state.sums, here.state.sums),
        ),
        np.where(cells, there.lines, here.lines),
        np.where(cells, there.ocv_v, here.ocv_v),
        np.where(cells, there.slope, here.slope),
        Flow(
            np.where(cells, there.flow.cell_a, here.flow.cell_a),
            np.where(groups, there.flow.group_v, here.flow.group_v),
            *(np.where(circuits, now, was) for now, was in on_circuits),
        ),
    )


def follow(cells: Cells, circuit: Circuit, start: State, room: Room, care: Care) -> Ended:
    """Each circuit from where it stands until `room` says that it has come to its end, which may be at once.

    Raises:
        RefusedRunError: the figures are so far apart that the end is not come to in any sensible number of steps.
    """
    under_way = _Followed(cells, circuit, start, room, care)
    first, layout = under_way.here, circuit.layout
    ended = Ended(
        State(start.time_s.copy(), start.soc.copy(), start.sums.copy()),
        Flow(*(values.copy() for values in (first.flow.cell_a, first.flow.group_v, *first.flow.of_circuits()))),
        under_way.tracks.of(np.ones(len(start.soc), dtype=bool)),
        OverTime(start.time_s, first.flow.load_a, first.flow.load_a),
        first.flow.group_v,
        start.soc,
    )
    groups, members = layout.groups_in_circuit[0], int(layout.cells_in_group[: layout.groups_in_circuit[0]].sum())
    moments, group_v, soc = [under_way.moment()], [first.flow.group_v[:groups]], [start.soc[:members]]
    has_ended = under_way.room <= 0
    # A step that leads out of all numbers is not taken: its error is no number either.
    with np.errstate(all="ignore"):
        for _ in range(_MOST_STEPS):
            if has_ended.any():
                _write(ended, under_way, has_ended)
                if has_ended.all():
                    ended.over_time = OverTime(*np.array(moments).T)
                    ended.group_v, ended.soc = np.array(group_v), np.array(soc)
                    return ended
                under_way.keep(~has_ended)
            has_ended = under_way.take()
            if under_way.ids[0] == 0 and under_way.here.state.time_s[0] > moments[-1][0]:
                moments.append(under_way.moment())
                group_v.append(under_way.here.flow.group_v[:groups].copy())
                soc.append(under_way.here.state.soc[:members].copy())
    raise RefusedRunError([Wrong("bad_value")])


def _write(ended: Ended, under_way: _Followed, circuits: Flags) -> None:
    """Puts down where some circuits came to their end."""
    layout, here = under_way.circuit.layout, under_way.here
    cells, groups = circuits[layout.circuit_of_cell], circuits[layout.circuit_of_group]
    ids, cell_ids, group_ids = under_way.ids[circuits], under_way.cell_ids[cells], under_way.group_ids[groups]
    ended.state.time_s[ids], ended.state.soc[cell_ids] = here.state.time_s[circuits], here.state.soc[cells]
    ended.state.sums[:, ids] = here.state.sums[:, circuits]
    ended.flow.cell_a[cell_ids] = here.flow.cell_a[cells]
    ended.flow.group_v[group_ids] = here.flow.group_v[groups]
    for mine, theirs in zip(ended.flow.of_circuits(), here.flow.of_circuits(), strict=True):
        mine[ids] = theirs[circuits]
    for mine, theirs in zip(ended.tracks.all(), under_way.tracks.all(), strict=True):
        mine[cell_ids] = theirs[cells]
