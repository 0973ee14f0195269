"""What a pack will really do under a load: how long, how much, what ends it, what each cell carried, what is left."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

import numpy as np

from zembric.core.run.circuits import GivenCurrent, Layout, OverTime, SeriesCircuit
from zembric.core.run.follow import Tracks, follow
from zembric.core.run.laid import at_start, lay_out
from zembric.core.run.model import Load, RefusedRunError, Wrong, wrong_in_pack
from zembric.core.run.steps import ABOUT, ALL_TOGETHER, AT_A_LOOK, EACH_CELL, ENDS, ROUGHLY, Cells, State, look

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

    from numpy.typing import NDArray

    from zembric.core.run.circuits import Circuit, Flow
    from zembric.core.run.curves import Curve
    from zembric.core.run.follow import Ended
    from zembric.core.run.model import RunCell, RunPack
    from zembric.core.run.steps import Here

    Floats = NDArray[np.float64]

EndReason = Literal["load_not_carried", "group_cutoff", "pack_cutoff"]
#: A state of charge beyond empty or full by more than this is told.
_OUT_OF_RANGE = 1e-4
_SECONDS_AN_HOUR = 3600.0
#: As near as an end is found [V].
_JUST_V = 1e-9
#: Until this share of the run the groups are followed each by itself.
_NEARLY = 0.995


@dataclass(frozen=True, slots=True)
class CellRun:
    """A cell on its way: state of charge at the end, largest current out and in [A] and when [s] (None: never)."""

    key: str
    final_soc: float
    peak_discharge_a: float
    peak_discharge_s: float | None
    peak_charge_a: float
    peak_charge_s: float | None
    soc_out_of_range: bool


@dataclass(frozen=True, slots=True)
class GroupRun:
    """A group at the end: its voltage [V], what is left in it [Ah], its cells."""

    final_v: float
    left_ah: float
    cells: tuple[CellRun, ...]


@dataclass(frozen=True, slots=True)
class PackRun:
    """A run to its end. Energy is that at the terminals, after the wiring; `mean_v` is None where nothing flowed.

    `stranded_wh` could still have been had from the cells down to the group cut-off, one by one. `ended_in` is the group
    (from 1) that came to its cut-off.
    """

    seconds: float
    charge_ah: float
    energy_wh: float
    mean_v: float | None
    heat_cells_wh: float
    heat_wiring_wh: float
    stranded_wh: float
    final_v: float
    ended_by: EndReason
    ended_in: int | None
    groups: tuple[GroupRun, ...]


def run_pack(pack: RunPack) -> PackRun:
    """The run of one pack.

    First all cells together, which tells what the load takes over time. Then each group by itself under that current, as
    groups do not see each other otherwise: where cells of 0.02 mOhm come to a corner of their curve one group wants steps
    of milliseconds while the others do not. At last, shortly before the end, all of them again to the very end.

    Raises:
        RefusedRunError: something of it cannot be; says all of it.
    """
    cells, circuit, soc = _set_up(pack)
    ends, start = _Ends(pack.cutoff_group_v, pack.cutoff_pack_v), at_start(soc, 1)
    first = circuit.flow(cells.curves.voltages(soc)[0], start.time_s)
    if first.room[0] < 0:
        # A load that cannot be carried at the first moment is off.
        flow = circuit.open(cells.curves.voltages(soc)[0])
        tracks = Tracks.at_start(flow, soc)
        return _told(pack, cells, circuit.layout, _End(start, flow, tracks, "load_not_carried"))
    if len(pack.groups) == 1:
        return _told(pack, cells, circuit.layout, ends.of(follow(cells, circuit, start, ends.room, EACH_CELL)))
    # At a constant current only the end is asked for.
    together = follow(cells, circuit, start, ends.room, ROUGHLY if pack.load.kind == "current" else ALL_TOGETHER)
    seconds = float(together.state.time_s[0])
    if not seconds:
        return _told(pack, cells, circuit.layout, ends.of(together))
    alone = _groups_alone(cells, circuit.layout, soc, pack.load, together.over_time, seconds * _NEARLY)
    cells_ws, square_as = alone.state.sums
    sums = np.array([[cells_ws.sum()], [square_as[0]]])
    near = State(np.array([seconds * _NEARLY]), alone.state.soc, sums)
    if ends.room(circuit, look(cells, circuit, near))[0] <= 0:  # the end was not known well enough
        return _told(pack, cells, circuit.layout, ends.of(follow(cells, circuit, start, ends.room, EACH_CELL)))
    end = follow(cells, circuit, near, ends.room, EACH_CELL)
    end.tracks.join(alone.tracks)
    return _told(pack, cells, circuit.layout, ends.of(end))


def _groups_alone(cells: Cells, layout: Layout, soc: Floats, load: Load, over_time: OverTime, until_s: float) -> Ended:
    """Each group by itself under the current that all together had, until a moment."""
    groups = len(layout.cells_in_group)
    alone = Layout(layout.siemens, layout.cells_in_group, np.ones(groups, dtype=np.intp))
    given: Circuit = GivenCurrent(alone, over_time)
    if load.kind == "current":
        given = SeriesCircuit.of(alone, np.zeros(groups), load)

    def time_left(_circuit: Circuit, here: Here) -> Floats:
        return until_s - here.state.time_s

    ended = follow(cells, given, at_start(soc, groups), time_left, EACH_CELL)
    if load.kind != "current":
        # Each group took its own steps along the load: what they missed of its charge is put right, so that all gave the same.
        gave_as = alone.by_group(cells.charge_as * (soc - ended.state.soc))
        slope = cells.curves.voltages(ended.state.soc)[1]
        # All voltages of a group by the same: else its cells would drive currents through each other.
        missed_v = (over_time.charge_as(until_s) - gave_as) / alone.by_group(cells.charge_as / slope)
        ended.state.soc -= missed_v[alone.group_of_cell] / slope
    return ended


def run_times(
    curves: Mapping[str, Curve],
    packs: Sequence[Sequence[Sequence[RunCell]]],
    load: Load,
    cutoff_group_v: float,
    cutoff_pack_v: float = 0.0,
    wiring_mohm: float = 0.0,
    *,
    is_about: bool = False,
) -> Floats:
    """The run times [s] of many packs at once under one load each; a pack is its groups.

    The cells are taken as they are: whoever asks has checked them. `is_about`: within a thousandth is enough.
    """
    cells, layout, soc = lay_out(curves, packs)
    circuit = SeriesCircuit.of(layout, np.full(len(packs), wiring_mohm / 1000), load)
    room = _Ends(cutoff_group_v, cutoff_pack_v).room
    return follow(cells, circuit, at_start(soc, len(packs)), room, ABOUT if is_about else ENDS).state.time_s


def load_over_time(pack: RunPack) -> tuple[float, OverTime]:
    """How long a pack runs [s], and what its load takes until then; goes on after that as it ends.

    Raises:
        RefusedRunError: something of it cannot be.
    """
    cells, circuit, soc = _set_up(pack)
    ended = follow(cells, circuit, at_start(soc, 1), _Ends(pack.cutoff_group_v, pack.cutoff_pack_v).room, ALL_TOGETHER)
    seconds, over_time = float(ended.state.time_s[0]), ended.over_time
    if not seconds:
        over_time = OverTime(np.array([0.0, 1.0]), np.repeat(over_time.load_a, 2), np.zeros(2))
    return seconds, over_time


@dataclass(frozen=True, slots=True)
class RunOverTime:
    """A run as it goes: at moments [s] the pack's voltage [V] and current [A], and the voltage of each group [V].

    `soc` and `cell_a` are the charge (0 to 1) and current [A] of each cell, group by group, at each moment.
    """

    moments_s: tuple[float, ...]
    pack_v: tuple[float, ...]
    load_a: tuple[float, ...]
    group_v: tuple[tuple[float, ...], ...]
    soc: tuple[tuple[float, ...], ...]
    cell_a: tuple[tuple[float, ...], ...]


def run_over_time(pack: RunPack, most: int = 200) -> RunOverTime:
    """A run as it goes, at `most` moments that lie close together where it changes much.

    Raises:
        RefusedRunError: something of it cannot be.
    """
    cells, circuit, soc = _set_up(pack)
    ends = _Ends(pack.cutoff_group_v, pack.cutoff_pack_v)
    return _over_time(pack, cells, circuit, follow(cells, circuit, at_start(soc, 1), ends.room, ALL_TOGETHER), most)


def run_at_a_look(pack: RunPack, most: int = 200) -> tuple[PackRun, RunOverTime]:
    """A run and how it goes, followed once and less carefully: peaks within a few per cent, the end within a thousandth.

    For looks that have to be answered at once.

    Raises:
        RefusedRunError: something of it cannot be.
    """
    cells, circuit, soc = _set_up(pack)
    ends, start = _Ends(pack.cutoff_group_v, pack.cutoff_pack_v), at_start(soc, 1)
    if circuit.flow(cells.curves.voltages(soc)[0], start.time_s).room[0] < 0:
        return run_pack(pack), run_over_time(pack, most)
    ended = follow(cells, circuit, start, ends.room, AT_A_LOOK)
    return _told(pack, cells, circuit.layout, ends.of(ended)), _over_time(pack, cells, circuit, ended, most)


def _over_time(pack: RunPack, cells: Cells, circuit: SeriesCircuit, ended: Ended, most: int) -> RunOverTime:
    moments = ended.over_time
    taken = np.unique(np.linspace(0, len(moments.moments_s) - 1, most).round().astype(np.intp))
    load_a, group_v, soc = moments.load_a[taken], ended.group_v[taken], ended.soc[taken]
    ocv_v = np.array([cells.curves.voltages(each)[0] for each in soc])
    cell_a = (ocv_v - group_v[:, circuit.layout.group_of_cell]) * circuit.layout.siemens
    return RunOverTime(
        tuple(moments.moments_s[taken].tolist()),
        tuple((group_v.sum(axis=1) - load_a * pack.wiring_mohm / 1000).tolist()),
        tuple(load_a.tolist()),
        *(tuple(tuple(row) for row in values.T.tolist()) for values in (group_v, soc, cell_a)),
    )


def group_times(
    curves: Mapping[str, Curve], groups: Sequence[Sequence[RunCell]], over_time: OverTime, cutoff_group_v: float
) -> Floats:
    """About how long [s] each of many groups lasts under one current that is known over time."""
    cells, layout, soc = lay_out(curves, [[group] for group in groups])
    given: Circuit = GivenCurrent(layout, over_time)
    if not np.ptp(over_time.load_a):
        given = SeriesCircuit.of(layout, np.zeros(len(groups)), Load("current", float(over_time.load_a[0])))
    room = _Ends(cutoff_group_v, 0.0).room
    return follow(cells, given, at_start(soc, len(groups)), room, ABOUT).state.time_s


@dataclass(frozen=True, slots=True)
class _End:
    state: State
    flow: Flow
    tracks: Tracks
    reason: EndReason


@dataclass(frozen=True, slots=True)
class _Ends:
    """Where a run ends [V]."""

    group_v: float
    pack_v: float

    def room(self, circuit: Circuit, here: Here) -> Floats:
        """How far each circuit is from its end [V]."""
        flow = here.flow
        lowest = np.minimum.reduceat(flow.group_v, circuit.layout.circuit_starts)
        room: Floats = np.minimum(np.minimum(lowest - self.group_v, flow.load_v - self.pack_v), flow.room)
        return room

    def of(self, ended: Ended) -> _End:
        """The end of the only pack."""
        return _End(ended.state, ended.flow, ended.tracks, self.reason(ended.flow))

    def reason(self, flow: Flow) -> EndReason:
        """What ended the run of the only pack: the first that holds, to the rounding of where the end was found.

        None holds where the load took more so fast that it could not be followed: it is not carried.
        """
        if flow.room[0] > _JUST_V:
            if flow.group_v.min() - self.group_v <= _JUST_V:
                return "group_cutoff"
            if flow.load_v[0] - self.pack_v <= _JUST_V:
                return "pack_cutoff"
        return "load_not_carried"


def _set_up(pack: RunPack) -> tuple[Cells, SeriesCircuit, Floats]:
    wrong = list(wrong_in_pack(pack))
    if wrong:
        raise RefusedRunError(wrong)
    cells, layout, soc = lay_out(pack.curves, [pack.groups])
    circuit = SeriesCircuit.of(layout, np.array([pack.wiring_mohm / 1000]), pack.load)
    still = circuit.open(cells.curves.voltages(soc)[0])
    below = np.flatnonzero(still.group_v <= pack.cutoff_group_v)
    if len(below):
        raise RefusedRunError([Wrong("cutoff_not_below_start", int(group) + 1) for group in below])
    if still.load_v[0] <= pack.cutoff_pack_v:
        raise RefusedRunError([Wrong("cutoff_not_below_start")])
    return cells, circuit, soc


def _told(pack: RunPack, cells: Cells, layout: Layout, ended: _End) -> PackRun:
    state, flow, tracks = ended.state, ended.flow, ended.tracks
    cells_ws, square_as = (float(value) for value in state.sums[:, 0])
    wiring_ws = square_as * pack.wiring_mohm / 1000
    soc = np.array([cell.soc for group in pack.groups for cell in group])
    charge_as = float((cells.charge_as * (soc - state.soc))[: len(pack.groups[0])].sum())
    held_ws = cells.charge_as * (cells.curves.area(soc) - cells.curves.area(state.soc))
    # What the cells no longer hold went out at the terminals, but for the heat.
    energy_ws = float(held_ws.sum()) - cells_ws - wiring_ws if state.time_s[0] else 0.0
    hours = _SECONDS_AN_HOUR
    lowest = cells.curves.charges(pack.cutoff_group_v)
    stranded = cells.charge_as * (cells.curves.area(state.soc) - cells.curves.area(lowest))
    left_ah = layout.by_group(cells.charge_as * state.soc) / hours
    told = [
        CellRun(
            key=cell.key,
            final_soc=float(state.soc[index]),
            peak_discharge_a=float(tracks.out_a[index]),
            peak_discharge_s=float(tracks.out_s[index]) if tracks.out_a[index] > 0 else None,
            peak_charge_a=float(tracks.in_a[index]),
            peak_charge_s=float(tracks.in_s[index]) if tracks.in_a[index] > 0 else None,
            soc_out_of_range=bool(
                tracks.least_soc[index] < -_OUT_OF_RANGE or tracks.most_soc[index] > 1 + _OUT_OF_RANGE
            ),
        )
        for index, cell in enumerate(cell for group in pack.groups for cell in group)
    ]
    starts = [*layout.group_starts.tolist(), len(told)]
    return PackRun(
        seconds=float(state.time_s[0]),
        charge_ah=charge_as / hours,
        energy_wh=energy_ws / hours,
        mean_v=energy_ws / charge_as if charge_as else None,
        heat_cells_wh=cells_ws / hours,
        heat_wiring_wh=wiring_ws / hours,
        stranded_wh=float(np.maximum(stranded, 0).sum()) / hours,
        final_v=float(flow.load_v[0]),
        ended_by=ended.reason,
        ended_in=int(flow.group_v.argmin()) + 1 if ended.reason == "group_cutoff" else None,
        groups=tuple(
            GroupRun(
                float(flow.group_v[number]), float(left_ah[number]), tuple(told[starts[number] : starts[number + 1]])
            )
            for number in range(len(pack.groups))
        ),
    )
