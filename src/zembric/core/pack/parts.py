"""What a pack is built from and for: what is asked of each kind of part, and the plan that comes of the answers."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Any, Literal, get_args

from zembric.core.electric.conductors import check_awg
from zembric.core.errors import BadInputError
from zembric.core.house import limits
from zembric.core.inputs import Input, check_values
from zembric.core.said import named, plain, said

PartOfPack = Literal[
    "device", "promise", "converter", "charger", "board", "own-protection", "fuse", "cell-fuses", "holder", "wire",
    "strip", "switch", "connector",
]  # fmt: skip
PARTS_OF_PACK: tuple[PartOfPack, ...] = get_args(PartOfPack)
#: Of these a pack may have several.
SEVERAL: tuple[PartOfPack, ...] = ("wire", "strip", "switch", "connector")
MOST_PARTS = 40
ConverterKind = Literal["step-up", "step-down", "linear", "low-drop"]
ChargerKind = Literal["linear-module", "cc-cv", "singly", "solar"]
YesNoUnknown = Literal["unknown", "yes", "no"]
_YES_NO_UNKNOWN = get_args(YesNoUnknown)
_NAME_MOST, _PIECES_MOST = 60, 40


def _ask(
    key: str, unit: str = "", need: Any = "positive", *, optional: bool = False, example: str | None = None
) -> Input:
    return Input(key, unit, named("part-input", key), need, optional=optional, example=example)


def _choose(key: str, *choices: str) -> Input:
    return Input(key, "", named("part-input", key), "choice", choices=choices, example=choices[0])


_CONTACT = _ask("contact_mohm", "mΩ", "zero-or-more", optional=True)
#: What is asked of each kind, in the order of a form.
PART_INPUTS: Mapping[PartOfPack, tuple[Input, ...]] = MappingProxyType(
    {
        "device": (
            _ask("power_w", "W", optional=True), _ask("current_ma", "mA", optional=True),
            _ask("resistance_ohm", "Ω", optional=True), _ask("least_v", "V", optional=True),
            _ask("most_v", "V", optional=True), _ask("on_share", "", "share", example="1"),
            _ask("starts_times", "", optional=True), _ask("standing_ma", "mA", "zero-or-more", optional=True),
            _ask("cuts_off_v", "V", optional=True),
        ),
        "promise": (
            _ask("hours", "h", optional=True), _ask("power_w", "W", optional=True),
            _ask("capacity_mah", "mAh", optional=True), _ask("at_v", "V", optional=True),
            _choose("leaves", "by-hand", "post", "air"),
        ),
        "converter": (
            _choose("converter_kind", *get_args(ConverterKind)), _ask("out_v", "V"),
            _ask("efficiency_full", "", "share", optional=True), _ask("efficiency_empty", "", "share", optional=True),
            _ask("least_in_v", "V", optional=True), _ask("most_in_v", "V", optional=True),
            _ask("most_out_a", "A", optional=True), _ask("standing_ma", "mA", "zero-or-more", optional=True),
        ),
        "charger": (
            _choose("charger_kind", *get_args(ChargerKind)), _ask("full_v", "V"), _ask("current_ma", "mA"),
            _ask("end_ma", "mA", optional=True), _ask("supply_v", "V"), _ask("supply_ma", "mA", optional=True),
            _choose("lamp", "unknown", "known"), _choose("while_used", *_YES_NO_UNKNOWN),
            _ask("room_degc", "°C", "any", optional=True),
        ),
        "board": (
            _ask("series", "S"), _ask("over_v", "V"), _ask("under_v", "V"), _ask("most_a", "A"),
            _choose("balance", "none", "bleed", "active"), _ask("bleed_ma", "mA", optional=True),
            _choose("sleeps", *_YES_NO_UNKNOWN),
        ),
        "own-protection": (_choose("which", "some", "all"), _ask("under_v", "V"), _ask("most_a", "A", optional=True)),
        "fuse": (_ask("most_a", "A"), _CONTACT),
        "cell-fuses": (_ask("most_a", "A"),),
        "holder": (_ask("contact_mohm", "mΩ", optional=True), _ask("most_a", "A", optional=True)),
        "wire": (_ask("awg", "", "any"), _ask("length_mm", "mm")),
        "strip": (
            _choose("material", "nickel", "plated-steel", "copper"), _ask("thickness_mm", "mm", example="0.15"),
            _ask("width_mm", "mm", example="8"), _ask("length_mm", "mm"), _ask("pieces", "", example="1"),
        ),
        "switch": (_ask("most_a", "A"), _CONTACT),
        "connector": (_ask("most_a", "A"), _CONTACT),
    }
)  # fmt: skip

#: All that can be chosen of a part, but for the materials that conductors are told by elsewhere.
PART_CHOICES: tuple[str, ...] = tuple(
    dict.fromkeys(
        choice
        for inputs in PART_INPUTS.values()
        for asked in inputs
        if asked.key != "material"
        for choice in asked.choices
    )
)


@dataclass(frozen=True, slots=True)
class Device:
    """What the pack feeds: one of power [W], current [mA] or resistance [Ohm], within a window of voltage [V].

    `on_share` of the time it is on; `starts_times`: a motor takes so many times as much for under a second;
    `standing_ma` flows always; `cuts_off_v`: it lets go of the pack by itself at this voltage of the pack.
    """

    power_w: float | None
    current_ma: float | None
    resistance_ohm: float | None
    least_v: float | None
    most_v: float | None
    on_share: float
    starts_times: float | None
    standing_ma: float | None
    cuts_off_v: float | None


@dataclass(frozen=True, slots=True)
class Promise:
    """What somebody was told: hours, watts, or mAh (at a voltage); and how the pack leaves the house."""

    hours: float | None
    power_w: float | None
    capacity_mah: float | None
    at_v: float | None
    leaves: str


@dataclass(frozen=True, slots=True)
class Converter:
    """Between pack and device. Efficiencies (0 to 1) at the full and the empty pack; None: the house's."""

    converter_kind: ConverterKind
    out_v: float
    efficiency_full: float | None
    efficiency_empty: float | None
    least_in_v: float | None
    most_in_v: float | None
    most_out_a: float | None
    standing_ma: float | None

    @property
    def is_linear(self) -> bool:
        return self.converter_kind in ("linear", "low-drop")


@dataclass(frozen=True, slots=True)
class Charger:
    """Charges the pack, or (`singly`) each group or cell by itself; `full_v` is what it ends at."""

    charger_kind: ChargerKind
    full_v: float
    current_ma: float
    end_ma: float | None
    supply_v: float
    supply_ma: float | None
    lamp: str
    while_used: YesNoUnknown
    room_degc: float | None


@dataclass(frozen=True, slots=True)
class Board:
    """Watches each group and disconnects; voltages [V] are those of a group."""

    series: float
    over_v: float
    under_v: float
    most_a: float
    balance: str
    bleed_ma: float | None
    sleeps: YesNoUnknown


@dataclass(frozen=True, slots=True)
class OwnProtection:
    """Some or all cells have a protection of their own."""

    which: str
    under_v: float
    most_a: float | None


@dataclass(frozen=True, slots=True)
class Rated:
    """A switch, connector or fuse: what it stands [A], what it adds [mOhm]."""

    most_a: float
    contact_mohm: float | None


@dataclass(frozen=True, slots=True)
class CellFuses:
    most_a: float


@dataclass(frozen=True, slots=True)
class Holder:
    """Two contacts a cell."""

    contact_mohm: float | None
    most_a: float | None


@dataclass(frozen=True, slots=True)
class Wire:
    """Copper; `length_mm` is there and back."""

    awg: float
    length_mm: float


@dataclass(frozen=True, slots=True)
class Strip:
    """Strips between groups; `length_mm` of all links one after another, `pieces` side by side."""

    material: str
    thickness_mm: float
    width_mm: float
    length_mm: float
    pieces: float


@dataclass(frozen=True, slots=True)
class PackPlan:
    """A pack with all around it; None: nobody said so."""

    device: Device | None = None
    promise: Promise | None = None
    converter: Converter | None = None
    charger: Charger | None = None
    board: Board | None = None
    own_protection: OwnProtection | None = None
    fuse: Rated | None = None
    cell_fuses: CellFuses | None = None
    holder: Holder | None = None
    wires: tuple[Wire, ...] = ()
    strips: tuple[Strip, ...] = ()
    switches: tuple[Rated, ...] = ()
    connectors: tuple[Rated, ...] = ()


@dataclass(frozen=True, slots=True)
class TypedPart:
    """A part as it was typed: values by key; `name` is for people."""

    kind: PartOfPack
    values: Mapping[str, str] = field(default_factory=dict)
    name: str = ""


_MADE: Mapping[PartOfPack, Callable[..., Any]] = MappingProxyType(
    {
        "device": Device, "promise": Promise, "converter": Converter, "charger": Charger, "board": Board,
        "own-protection": OwnProtection, "fuse": Rated, "cell-fuses": CellFuses, "holder": Holder, "wire": Wire,
        "strip": Strip, "switch": Rated, "connector": Rated,
    }
)  # fmt: skip
_FIELDS: Mapping[PartOfPack, str] = MappingProxyType(
    {"wire": "wires", "strip": "strips", "switch": "switches", "connector": "connectors"}
)


def read_part(part: TypedPart) -> Any:
    """One part with its figures.

    Raises:
        BadInputError: a value is missing or cannot be; names the key.
    """
    if len(part.name) > _NAME_MOST:
        raise BadInputError(said("part-name-too-long", most=_NAME_MOST), field="name")
    values = check_values(part.kind, PART_INPUTS[part.kind], part.values)
    if (
        part.kind == "device"
        and sum(values[key] is not None for key in ("power_w", "current_ma", "resistance_ohm")) != 1
    ):
        raise BadInputError(said("device-takes-one-of"), field="power_w")
    for low, high in (("least_v", "most_v"), ("least_in_v", "most_in_v"), ("under_v", "over_v")):
        least, most = values.get(low), values.get(high)
        if isinstance(least, float) and isinstance(most, float) and not least < most:
            raise BadInputError(said("part-lower-above-upper"), field=high)
    for key in ("efficiency_full", "efficiency_empty"):
        share = values.get(key)
        if isinstance(share, float) and share < limits.CONVERTER_LEAST_SHARE.value:
            from_share = plain(limits.CONVERTER_LEAST_SHARE.value)
            raise BadInputError(said("efficiency-below-least", share=plain(share), least=from_share), field=key)
    for key in ("series", "pieces"):
        count = values.get(key)
        if isinstance(count, float) and (count != int(count) or count > _PIECES_MOST):
            raise BadInputError(said("part-wants-whole-number", most=_PIECES_MOST), field=key)
    if isinstance(awg := values.get("awg"), float):
        check_awg(awg)
    if values.get("balance") == "bleed" and values["bleed_ma"] is None:
        raise BadInputError(said("say-how-much-it-bleeds"), field="bleed_ma")
    return _MADE[part.kind](**values)


def read_plan(parts: Sequence[TypedPart]) -> PackPlan:
    """The plan that the parts make.

    Raises:
        BadInputError: too many parts, two where there can be one, or a value that cannot be.
    """
    if len(parts) > MOST_PARTS:
        raise BadInputError(said("too-many-parts", most=MOST_PARTS), field="parts")
    found: dict[str, Any] = {}
    for part in parts:
        made = read_part(part)
        if part.kind in SEVERAL:
            name = _FIELDS[part.kind]
            found[name] = (*found.get(name, ()), made)
            continue
        name = part.kind.replace("-", "_")
        if name in found:
            raise BadInputError(said("only-one-of-part", part=named("part-of-pack", part.kind)), field="parts")
        found[name] = made
    return PackPlan(**found)
