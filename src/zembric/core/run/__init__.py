"""A pack run on paper: every cell an open-circuit voltage over its charge behind a resistance, groups in series, one load.

What flows between cells of a group, who ends the run and when, what is left; and cells made even through resistors. The
limits of the model belong beside every figure: no temperature, no slow processes, above 1 C optimistic.
"""

from zembric.core.run.circuits import OverTime
from zembric.core.run.curves import Curve
from zembric.core.run.equalise import Equalised, EqualisedOverTime, Rail, equalise, equalise_over_time
from zembric.core.run.model import Efficiency, Load, LoadKind, RefusedRunError, RunCell, RunPack, Wrong, said_of
from zembric.core.run.runs import (
    CellRun,
    EndReason,
    GroupRun,
    PackRun,
    RunOverTime,
    group_times,
    load_over_time,
    run_at_a_look,
    run_over_time,
    run_pack,
    run_times,
)

__all__ = [
    "CellRun",
    "Curve",
    "Efficiency",
    "EndReason",
    "Equalised",
    "EqualisedOverTime",
    "GroupRun",
    "Load",
    "LoadKind",
    "OverTime",
    "PackRun",
    "Rail",
    "RefusedRunError",
    "RunCell",
    "RunOverTime",
    "RunPack",
    "Wrong",
    "equalise",
    "equalise_over_time",
    "group_times",
    "load_over_time",
    "run_at_a_look",
    "run_over_time",
    "run_pack",
    "run_times",
    "said_of",
]
