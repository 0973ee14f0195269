"""One cell's story as the judge reads it: what the cell is, and what was seen, measured and done, in order of time."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum
from typing import TYPE_CHECKING, Literal, TypeVar, cast

if TYPE_CHECKING:
    from collections.abc import Iterable
    from datetime import datetime

    from zembric.core.house.limits import Family
    from zembric.core.identify.sizes import Size


class Finding(StrEnum):
    SWOLLEN = "swollen"
    LEAKING = "leaking"
    HOT = "hot"
    HISS = "hiss"
    DENTED = "dented"
    PUNCTURED = "punctured"
    BURNT = "burnt"
    RUSTED_THROUGH = "rusted-through"
    VENT_OPEN = "vent-open"
    TORN_WRAP = "torn-wrap"
    TAB_REMAINS = "tab-remains"
    CORRODED_ENDS = "corroded-ends"


REPAIRABLE = frozenset({Finding.TORN_WRAP, Finding.TAB_REMAINS, Finding.CORRODED_ENDS})
HAZARDS = frozenset(Finding) - REPAIRABLE

CapacityMethod = Literal[
    "tester", "trace", "resistor-clock", "resistor-log", "charge-counted", "usb-linear", "usb-switching", "usb-step-up"
]
#: Counted while the cell is charged: they fill it, the others empty it.
COUNTED_WHILE_CHARGING: frozenset[CapacityMethod] = frozenset({"charge-counted", "usb-linear", "usb-switching"})
ResistanceMethod = Literal["ac-1khz", "dc-10s", "dc-1s", "tester"]
DonorKind = Literal["laptop", "vape", "power-tool", "phone", "other"]
#: Only a resting voltage is judged; the others are kept, each as what it is.
SkippedQuantity = Literal["voltage", "capacity", "resistance"]
OverruledGrade = Literal["A", "B", "C", "out"]
#: How a cell feels where no thermometer is at hand: too hot to hold is about 50 °C and more.
Warmth = Literal["cool", "warm", "too-hot"]
CellBuild = Literal["bare", "protected"]
#: Where a cell came back from: what it was used in or was done to it makes its last look and voltage void.
CameFrom = Literal["pack", "device", "fall", "stopped"]
#: What a cell has in common with one that was found a hazard.
Near = Literal["donor", "pack", "place"]
DecisionAbout = Literal["over-voltage", "recovery-mark"]
VoltageState = Literal["resting", "off-charger", "under-charge", "under-load", "climbing"]


@dataclass(frozen=True, slots=True)
class CellFacts:
    """What a cell is; None where it is not known. A claim is what is printed, never a rated value."""

    size_code: str | None
    family: Family | None
    full_v: float | None
    rated_capacity_mah: float | None
    claimed_capacity_mah: float | None
    #: Measured by ruler or caliper; goes before what the code says.
    outline: Size | None = None
    mass_g: float | None = None
    #: From a data sheet.
    most_charge_ma: float | None = None
    most_discharge_ma: float | None = None
    #: None: not known, and taken as protected.
    build: CellBuild | None = None


@dataclass(frozen=True, slots=True)
class Heat:
    """How warm a cell was [°C], its room, and how it felt; None: nobody said. `room_degc` of a charge: the lowest."""

    cell_degc: float | None = None
    room_degc: float | None = None
    warmth: Warmth | None = None


UNSAID_HEAT = Heat()


@dataclass(frozen=True, slots=True)
class Inspection:
    at: datetime
    findings: frozenset[Finding]  # empty: looked at, nothing found
    heat: Heat = UNSAID_HEAT


@dataclass(frozen=True, slots=True)
class Repair:
    at: datetime
    done: frozenset[Finding]


@dataclass(frozen=True, slots=True)
class RestingVoltage:
    at: datetime
    value_v: float
    #: The meter's last digit, or the whole width of what the value may be where it was said as "about" or as a range.
    resolution_v: float
    heat: Heat = UNSAID_HEAT


@dataclass(frozen=True, slots=True)
class UnrestedVoltage:
    """A voltage that is not one of the cell at rest: it is kept and never judged as one."""

    at: datetime
    value_v: float
    state: VoltageState


@dataclass(frozen=True, slots=True)
class SecondLook:
    """A hazard was found on a cell near this one: it is looked at again. `sibling` is that cell's number."""

    at: datetime
    sibling: str
    findings: frozenset[Finding]
    near: Near = "donor"


@dataclass(frozen=True, slots=True)
class Recovery:
    at: datetime
    outcome: Literal["passed", "failed"]
    heat: Heat = UNSAID_HEAT


@dataclass(frozen=True, slots=True)
class CameBack:
    """It came back, was taken out of a pack, fell, or was stopped: it is looked at and measured before anything else."""

    at: datetime
    source: CameFrom


@dataclass(frozen=True, slots=True)
class Decision:
    """A coordinator's decision. About over-voltage it is one on everything that went too far before it."""

    at: datetime
    about: DecisionAbout
    outcome: Literal["go-on", "out"]


@dataclass(frozen=True, slots=True)
class Charge:
    at: datetime
    complete: bool
    end_v: float
    #: From start to end; None: nobody looked at the clock.
    minutes: float | None = None
    heat: Heat = UNSAID_HEAT


@dataclass(frozen=True, slots=True)
class CapacityRun:
    at: datetime
    value_mah: float
    method: CapacityMethod
    complete: bool
    current_ma: float | None
    cut_off_v: float | None
    #: Beyond the method's own allowance, where the value was said as "about" or as a range.
    half_width_mah: float = 0.0
    #: The run's own standard uncertainty, all included; None: by its method and half width.
    own_u_mah: float | None = None
    #: Whether somebody said that it was full before; None: by the entries of its charges.
    started_full: bool | None = None


@dataclass(frozen=True, slots=True)
class ResistanceReading:
    at: datetime
    value_mohm: float
    method: ResistanceMethod
    resolution_v: float | None = None
    load_ohm: float | None = None
    half_width_mohm: float = 0.0
    #: The reading's own standard uncertainty, all included; None: by its method and half width.
    own_u_mohm: float | None = None


@dataclass(frozen=True, slots=True)
class Skip:
    at: datetime
    what: SkippedQuantity
    why: str


@dataclass(frozen=True, slots=True)
class Overrule:
    """A coordinator judges otherwise than the rules; grade None takes that back."""

    at: datetime
    grade: OverruledGrade | None
    why: str


@dataclass(frozen=True, slots=True)
class Shelved:
    at: datetime


Event = (
    Inspection
    | Repair
    | RestingVoltage
    | UnrestedVoltage
    | SecondLook
    | Recovery
    | Decision
    | Overrule
    | Charge
    | CapacityRun
    | ResistanceReading
    | Skip
    | Shelved
    | CameBack
)
E = TypeVar("E", bound=Event)


@dataclass(frozen=True, slots=True)
class Story:
    """A cell with its events; sorted by time on construction, equal times keep the order they were given in."""

    facts: CellFacts
    donor_kind: DonorKind
    events: tuple[Event, ...] = field(default=())
    #: The resting voltages [V] that cells of the same donor were found with.
    siblings_found_v: tuple[float, ...] = ()
    #: When its donor was opened; None: not known, and long ago.
    opened_at: datetime | None = None
    _by_kind: dict[type, tuple[Event, ...]] = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        events = tuple(sorted(self.events, key=lambda event: event.at))
        by_kind: dict[type, list[Event]] = {}
        for event in events:
            by_kind.setdefault(type(event), []).append(event)
        object.__setattr__(self, "events", events)
        object.__setattr__(self, "_by_kind", {kind: tuple(found) for kind, found in by_kind.items()})

    def skipped(self, what: SkippedQuantity) -> Skip | None:
        """The last time somebody said that this cannot be measured here; None: nobody did."""
        return latest(skip for skip in self.of(Skip) if skip.what == what)

    def of(self, kind: type[E]) -> tuple[E, ...]:
        """All events of one kind, in order of time."""
        return cast("tuple[E, ...]", self._by_kind.get(kind, ()))


def uses(event: Event) -> bool:
    """Whether the event changed what the cell holds, so that a resting voltage from before says nothing any more."""
    return fills(event) or empties(event) or isinstance(event, Recovery | CameBack)


def voltage_as_found(story: Story) -> RestingVoltage | None:
    """The last resting voltage before anything was charged in or taken out; None: there was none."""
    found = None
    for event in story.events:
        if isinstance(event, Charge | CapacityRun | Recovery):
            break
        if isinstance(event, RestingVoltage):
            found = event
    return found


def latest(events: Iterable[E]) -> E | None:
    """The last of events that are in order of time, None of none."""
    found = None
    for event in events:
        found = event
    return found


def empties(event: Event) -> bool:
    """Whether the event took charge out of the cell, complete or not."""
    return isinstance(event, CapacityRun) and event.method not in COUNTED_WHILE_CHARGING


def fills(event: Event) -> bool:
    """Whether the event put charge into the cell, complete or not."""
    return isinstance(event, Charge) or (isinstance(event, CapacityRun) and event.method in COUNTED_WHILE_CHARGING)
