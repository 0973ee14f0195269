"""Each check of a plan on either side of its limit, worked out by hand. Most are of one ampere out of two groups of two cells."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

import pytest

from tests.support.stories import RULES
from zembric.core.errors import BadInputError
from zembric.core.house.limits import Family, Kind
from zembric.core.pack.checks import Check, Checked, check_all, take_up
from zembric.core.pack.on_paper import PaperCell
from zembric.core.pack.parts import PartOfPack, TypedPart, read_plan
from zembric.wording import say

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

CELL = PaperCell("C1", 2000, 30, 40, 2, "dc-10s", 3.82, 2.0)
#: One ampere, two groups of 2 x 2000 mAh: nothing to look at.
GOOD: Mapping[PartOfPack, Mapping[str, str]] = {
    "device": {"current_ma": "1000", "least_v": "6", "most_v": "8.4", "on_share": "1", "standing_ma": "1"},
    "promise": {"hours": "3.5", "leaves": "by-hand"},
    "charger": {
        "charger_kind": "cc-cv", "full_v": "8.4", "current_ma": "2000", "supply_v": "12", "supply_ma": "2000",
        "lamp": "known", "while_used": "no", "room_degc": "20",
    },
    "board": {
        "series": "2", "over_v": "4.25", "under_v": "2.8", "most_a": "2", "balance": "bleed", "bleed_ma": "50",
        "sleeps": "no",
    },
    "fuse": {"most_a": "2"},
    "cell-fuses": {"most_a": "2"},
    "wire": {"awg": "22", "length_mm": "200"},
    "switch": {"most_a": "2"},
    "connector": {"most_a": "2"},
}  # fmt: skip
Changes = dict[str, dict[str, str] | None]


def pack_of(
    changes: Changes, *, series: int = 2, parallel: int = 2, family: Family = Family.LAYERED_OXIDE, full_v: float = 4.2,
    cell: PaperCell = CELL, first: PaperCell | None = None, with_band: bool = True,
) -> Checked:  # fmt: skip
    """The good plan with some parts changed; None: without it. `first` is the first cell where it is another."""
    parts = [
        TypedPart(kind, {**values, **(changes.get(kind) or {})})
        for kind, values in GOOD.items()
        if kind not in changes or changes[kind] is not None
    ]
    parts += [TypedPart(kind, more) for kind, more in changes.items() if kind not in GOOD and more is not None]  # type: ignore[arg-type]
    groups = [[replace(cell, number=f"C{g}{p}") for p in range(parallel)] for g in range(series)]
    if first is not None:
        groups[0][0] = first
    return take_up(groups, family, full_v, read_plan(parts), RULES, with_band=with_band)


def line(checked: Checked, key: str) -> Check:
    return next(each for each in check_all(checked) if each.key == key)


def told(check: Check) -> str:
    return say(check.worked).replace("\u00a0", " ")


def test_a_good_plan_has_nothing_to_look_at() -> None:
    lines = check_all(pack_of({}))
    assert [(each.key, told(each)) for each in lines if each.state != "holds"] == []
    assert {"run-time", "cell-current", "charger-full", "low-cut-off", "balance", "fuse", "transport"} <= {
        each.key for each in lines
    }


#: Lines that a band or a run to another end is drawn for; the others are as quick as a look.
OF_A_BAND = {"promise-hours", "window-share", "end-board", "end-device", "end-house"}
LINEAR = {"charger_kind": "linear-module", "full_v": "4.2", "current_ma": "1000", "supply_v": "5"}
#: What is changed, which line it moves, how it stands on either side, and a piece of its arithmetic.
SIDES: Sequence[tuple[str, Changes, str, Changes, str, str]] = [
    # 2 x 2000 mAh at 1 A: 3.99 h, in nine of ten cases more than 3.9 h.
    ("promise-hours", {"promise": {"hours": "3.8"}}, "holds", {"promise": {"hours": "4.5"}}, "stop", "Promised 4.5 h"),
    # Each cell 2 A, each group 4 A, at the end 5.96 V: 23.8 W.
    ("promise-power", {"promise": {"power_w": "23"}}, "holds", {"promise": {"power_w": "25"}}, "stop", "is 24 W"),
    # 29.1 Wh: 5 V x 5.8 Ah.
    ("promise-charge", {"promise": {"capacity_mah": "5000", "at_v": "5"}}, "holds", {"promise": {"capacity_mah": "10000", "at_v": "5"}}, "stop", "10000 mAh at 5.0 V are 50.0 Wh"),
    ("promise-charge", {"promise": {"capacity_mah": "5000", "at_v": "5"}}, "holds", {"promise": {"capacity_mah": "5000"}}, "stop", "without a voltage"),
    ("window-above", {"device": {"most_v": "8.4"}}, "holds", {"device": {"most_v": "8.3"}}, "stop", "It gets 8.40 V at most"),
    # Below 7.6 V (3.8 V a cell) lies more than half of the charge.
    ("window-share", {"device": {"least_v": "6.5"}}, "holds", {"device": {"least_v": "7.6"}}, "stop", "above 7.60 V"),
    # 4000 mAh / 3 mA = 1333 h = 7.9 weeks.
    ("standing-drain", {"device": {"standing_ma": "2.9"}}, "holds", {"device": {"standing_ma": "3"}}, "look", "= 7.9 wk"),
    # Half of 4 A is what a cell may give.
    ("cell-current", {"device": {"current_ma": "3900"}}, "holds", {"device": {"current_ma": "4100"}}, "stop", "it may give 2.00 A"),
    ("one-cell-lost", {"device": {"current_ma": "1900"}}, "holds", {"device": {"current_ma": "2100"}}, "look", "carries 2.10 A"),
    # 5 x 1 A sags by 4 A x 45 mOhm more than 1 A; the board trips above 2 A.
    ("motor-start", {"device": {"starts_times": "1.9"}}, "holds", {"device": {"starts_times": "2.1"}}, "stop", "2.1 × is 2.1 A"),
    ("charger-full", {"charger": {"full_v": "8.5"}}, "holds", {"charger": {"full_v": "8.6"}}, "stop", "2 × 4.20 V are 8.40 V"),
    ("charger-full", {"charger": {"full_v": "8.3"}}, "holds", {"charger": {"full_v": "8.2"}}, "look", "a part charge"),
    # 0.5 C of 4000 mAh.
    ("charger-current", {"charger": {"current_ma": "2000"}}, "holds", {"charger": {"current_ma": "2100"}}, "stop", "is 0.53 C"),
    ("supply-volts", {"charger": {"supply_v": "8.4", "supply_ma": "4000"}}, "holds", {"charger": {"supply_v": "8.3", "supply_ma": "4000"}}, "look", "has to come to 8.4 V"),
    # 8.4 V x 2 A / (0.9 x 12 V) = 1.556 A against 0.9 of the supply.
    ("supply-current", {"charger": {"supply_ma": "1740"}}, "holds", {"charger": {"supply_ma": "1700"}}, "stop", "It takes 1556 mA"),
    ("charging-while-used", {"charger": {"while_used": "no"}}, "none", {"charger": {"while_used": "yes"}}, "stop", "takes 1000 mA from the full pack; the charge ends at 200 mA"),
    ("lamp", {"charger": {"lamp": "known"}}, "holds", {"charger": {"lamp": "unknown"}}, "look", "Nobody wrote down"),
    # 0.2 C of 4000 mAh are 800 mA below 10 degC.
    ("charging-cold", {"charger": {"room_degc": "5", "current_ma": "800"}}, "holds", {"charger": {"room_degc": "5", "current_ma": "900"}}, "stop", "at most 800 mA"),
    ("charging-cold", {"charger": {"room_degc": "0", "current_ma": "800"}}, "holds", {"charger": {"room_degc": "-1", "current_ma": "100"}}, "stop", "below 0 °C never"),
    ("balance", {"board": {"balance": "active"}}, "holds", {"board": {"balance": "none"}}, "stop", "nothing keeps them even"),
    ("board-groups", {"board": {"series": "2"}}, "holds", {"board": {"series": "3"}}, "stop", "A board for 3 groups on 2"),
    ("board-over", {"board": {"over_v": "4.28"}}, "holds", {"board": {"over_v": "4.3"}}, "stop", "bears 4.28 V at most"),
    ("board-over", {"board": {"over_v": "4.2"}}, "holds", {"board": {"over_v": "4.15"}}, "look", "full at 4.20 V"),
    ("board-under", {"board": {"under_v": "2.4"}}, "holds", {"board": {"under_v": "2.3"}}, "stop", "bears 2.40 V at least"),
    ("end-board", {"board": {"under_v": "2.9"}}, "holds", {"board": {"under_v": "3.0"}}, "look", "3.00 V a group"),
    ("board-current", {"board": {"most_a": "1.25"}}, "holds", {"board": {"most_a": "1.2"}}, "stop", "1.25 × 1.00 A = 1.25 A"),
    ("board-sleeps", {"board": {"sleeps": "no"}}, "none", {"board": {"sleeps": "yes"}}, "look", "until a charger wakes it"),
    ("low-cut-off", {}, "holds", {"board": None}, "stop", "Nothing stops it"),
    ("own-protection", {}, "none", {"own-protection": {"which": "all", "under_v": "2.5"}}, "look", "whole pack's voltage"),
    # AWG 28 stands 1.5 A.
    ("wire", {"wire": {"awg": "28"}, "device": {"current_ma": "1450"}}, "holds", {"wire": {"awg": "28"}, "device": {"current_ma": "1550"}}, "stop", "stands 1.5 A"),
    # 0.15 x 8 mm of nickel stands 5 A; two pieces share.
    ("strip", {"strip": {"material": "nickel", "thickness_mm": "0.15", "width_mm": "8", "length_mm": "60", "pieces": "2"}, "device": {"current_ma": "9900"}}, "holds", {"strip": {"material": "nickel", "thickness_mm": "0.15", "width_mm": "8", "length_mm": "60", "pieces": "1"}, "device": {"current_ma": "5100"}}, "stop", "stands 5.0 A"),
    # AWG 22: 52.9 mOhm a metre; 2 % of 5.96 V at 1 A are 119 mOhm, 2.2 m.
    ("wiring-drop", {"wire": {"length_mm": "2200"}}, "holds", {"wire": {"length_mm": "2350"}}, "look", "of the lowest voltage"),
    ("switch", {"switch": {"most_a": "1.25"}}, "holds", {"switch": {"most_a": "1.2"}}, "stop", "rated for 1.2 A"),
    ("connector", {"connector": {"most_a": "1.25"}}, "holds", {"connector": {"most_a": "1.2"}}, "stop", "rated for 1.2 A"),
    # Half an ampere a cell through 20 mOhm.
    ("holder", {"holder": {"most_a": "0.6"}}, "holds", {"holder": {"most_a": "0.4"}}, "stop", "through each contact of 20 mΩ"),
    ("fuse", {"fuse": {"most_a": "2"}}, "holds", {"fuse": {"most_a": "2.2"}}, "look", "1.5 A to 2.0 A"),
    ("fuse", {"fuse": {"most_a": "1.5"}}, "holds", {"fuse": {"most_a": "1.4"}}, "look", "1.5 A to 2.0 A"),
    # AWG 22 stands 5 A.
    ("fuse", {"fuse": {"most_a": "2"}}, "holds", {"fuse": {"most_a": "6"}}, "stop", "the thinnest wire stands 5.0 A"),
    # A neighbour of 40 mOhm gives a shorted cell 105 A.
    ("cell-fuses", {"cell-fuses": {"most_a": "5"}}, "holds", {"cell-fuses": {"most_a": "110"}}, "stop", "gets 105 A"),
    ("cell-fuses", {}, "holds", {"cell-fuses": None}, "stop", "none has a fuse of its own"),
    ("transport", {}, "holds", {"promise": {"leaves": "post"}}, "stop", "By post"),
    ("run-time", {}, "holds", {"device": None}, "stop", "Nobody said what it feeds"),
    ("converter-input", {"converter": {"converter_kind": "step-down", "out_v": "5", "most_in_v": "8.5"}}, "holds", {"converter": {"converter_kind": "step-down", "out_v": "5", "most_in_v": "8.3"}}, "stop", "takes 8.30 V at most"),
    ("converter-input", {"converter": {"converter_kind": "step-up", "out_v": "9"}}, "holds", {"converter": {"converter_kind": "step-up", "out_v": "8"}}, "stop", "takes 8.00 V at most"),
    ("converter-output", {"converter": {"converter_kind": "step-down", "out_v": "5", "most_out_a": "1"}}, "holds", {"converter": {"converter_kind": "step-down", "out_v": "5", "most_out_a": "0.9"}}, "stop", "gives 0.90 A at most"),
    ("window-below", {"device": {"least_v": "5"}, "converter": {"converter_kind": "step-down", "out_v": "5"}}, "none", {"device": {"least_v": "5"}, "converter": {"converter_kind": "step-down", "out_v": "4.9"}}, "stop", "it works from 5.00 V"),
    # (8.4 - 5) V x 0.44 A and 1.5 A.
    ("regulator-heat", {"converter": {"converter_kind": "linear", "out_v": "5"}, "device": {"current_ma": "440"}}, "holds", {"converter": {"converter_kind": "linear", "out_v": "5"}, "device": {"current_ma": "1500"}}, "stop", "= 5.1 W"),
    # 5 V + 0.3 V lies below, 5 V + 1.3 V above the 6 V of the empty pack.
    ("drop-out", {"converter": {"converter_kind": "low-drop", "out_v": "5"}}, "holds", {"converter": {"converter_kind": "linear", "out_v": "5"}}, "look", "are 6.30 V; the pack is empty at 6.00 V"),
]  # fmt: skip


@pytest.mark.parametrize(("key", "within", "stands", "beyond", "falls", "words"), SIDES)
def test_a_line_on_either_side_of_its_limit(
    key: str, within: Changes, stands: str, beyond: Changes, falls: str, words: str
) -> None:
    lines: list[dict[str, Check]] = [
        {each.key: each for each in check_all(pack_of(changes, with_band=key in OF_A_BAND))}
        for changes in (within, beyond)
    ]
    assert [found[key].state if key in found else "none" for found in lines] == [stands, falls]
    check = lines[1][key]
    assert words in told(check)
    assert check.mend is not None
    assert say(check.mend)
    assert say(check.why)


SMALL = {"current_ma": "300", "least_v": "3", "most_v": "4.2"}
ONE: Changes = {"board": {"series": "1"}, "device": SMALL}


@pytest.mark.parametrize(
    ("key", "within", "beyond", "state", "words"),
    [
        ("supply-volts", {"supply_v": "5.5"}, {"supply_v": "5.6"}, "stop", "4.5 V to 5.5 V"),
        ("supply-volts", {"supply_v": "4.5"}, {"supply_v": "4.4"}, "look", "4.5 V to 5.5 V"),
        # (5 - 3) V x 0.75 A and 0.8 A.
        ("module-heat", {"current_ma": "750"}, {"current_ma": "800"}, "look", "= 1.6 W"),
    ],
)
def test_a_linear_module_charges_one_group_from_a_plain_supply(
    key: str, within: dict[str, str], beyond: dict[str, str], state: str, words: str
) -> None:
    first, second = (line(pack_of(ONE | {"charger": LINEAR | more}, series=1), key) for more in (within, beyond))
    assert (first.state, second.state) == ("holds", state)
    assert words in told(second)
    wrong = line(pack_of({"charger": LINEAR}), "charger-full")
    assert (wrong.state, wrong.may_be_waived) == ("stop", False)
    assert "cannot charge 2 in a row" in told(wrong)


def test_one_group_may_be_cut_off_by_its_device_and_two_may_not() -> None:
    def state(device: dict[str, str], series: int, **more: dict[str, str]) -> str:
        changes: Changes = {
            "board": None,
            "device": device,
            **{key.replace("_", "-"): value for key, value in more.items()},
        }
        return line(pack_of(changes, series=series), "low-cut-off").state

    assert state(SMALL | {"cuts_off_v": "3.0"}, 1) == "holds"
    assert state(SMALL | {"cuts_off_v": "2.9"}, 1) == "stop"
    assert state({"cuts_off_v": "6.5"}, 2) == "stop"
    assert state({}, 2, own_protection={"which": "all", "under_v": "2.5"}) == "holds"
    assert state({}, 2, own_protection={"which": "all", "under_v": "2.3"}) == "stop"
    assert state({}, 2, own_protection={"which": "some", "under_v": "2.5"}) == "stop"


def test_groups_that_are_charged_singly_are_kept_even_by_that() -> None:
    singly = {"charger_kind": "singly", "full_v": "4.2", "supply_v": "5", "supply_ma": "5000"}
    checked = pack_of({"board": {"balance": "none"}, "charger": singly})
    assert (line(checked, "balance").state, line(checked, "charger-full").state) == ("holds", "holds")


@pytest.mark.parametrize(
    ("series", "parallel", "key", "state", "waived"),
    [
        (7, 1, "pack-volts", "holds", True), (8, 1, "pack-volts", "stop", True), (15, 1, "pack-volts", "stop", False),
        (4, 5, "pack-energy", "holds", True), (4, 6, "pack-energy", "stop", True), (10, 7, "pack-energy", "stop", False),
    ],
)  # fmt: skip
def test_volts_and_energy_of_the_house_and_of_a_coordinator(
    series: int, parallel: int, key: str, state: str, waived: bool
) -> None:
    """4.2 V and 7.2 Wh a cell: 29.4, 33.6 and 63 V; 144, 173 and 504 Wh."""
    check = line(pack_of({"device": None}, series=series, parallel=parallel), key)
    assert (check.state, check.may_be_waived) == (state, waived)


def test_what_protects_people_is_never_waived_and_the_rest_only_by_a_coordinator() -> None:
    def stops(changes: Changes) -> dict[str, bool]:
        return {each.key: each.may_be_waived for each in check_all(pack_of(changes)) if each.state == "stop"}

    never = stops(
        {"board": None, "charger": {"full_v": "12.6", "current_ma": "4100", "supply_ma": "9000"}, "promise": {"leaves": "air"}, "fuse": {"most_a": "9"}}
    )  # fmt: skip
    assert never == dict.fromkeys(
        ("low-cut-off", "balance", "charger-full", "charger-current", "transport", "fuse"), False
    )
    some = stops(
        {"promise": {"hours": "9"}, "charger": None, "fuse": None, "cell-fuses": None, "board": {"most_a": "1.1"}}
    )
    assert some == dict.fromkeys(("promise-hours", "charger", "fuse", "cell-fuses", "board-current"), True)


def test_the_worst_moment_of_an_uneven_group_counts() -> None:
    """20 and 40 mOhm side by side: the better one carries two thirds of 3.3 A at first, the other what is left at the end."""
    strong = replace(CELL, number="CX", resistance_mohm=20.0)
    check = line(pack_of({"device": {"current_ma": "3300"}}, first=strong), "cell-current")
    assert (check.state, check.kind) == ("stop", Kind.HOUSE)
    assert "C01 carries up to 2.38 A" in told(check)
    assert check.value is not None
    assert check.value.value > 3.3 * 2 / 3


def test_groups_that_hold_unlike_take_hours_to_be_made_even() -> None:
    """A spread of 2600 mAh at 50 mA: 52 h; of 2300: 46 h."""
    checked = [pack_of({}, first=replace(CELL, number="CX", capacity_mah=mah)) for mah in (4300, 4600)]
    assert [line(each, "bleed-time").state for each in checked] == ["holds", "look"]
    assert "= 52.0 h" in told(line(checked[1], "bleed-time"))


def test_a_load_that_is_on_part_of_the_time_lasts_longer_but_for_what_flows_always() -> None:
    """0.25 of 1 A and 50 mA always: 3.99 Ah / 0.3 A."""
    checked = pack_of({"device": {"on_share": "0.25", "standing_ma": "50"}})
    assert checked.runs is not None
    assert checked.runs.paper.lasts_s / 3600 == pytest.approx(3.99 / 0.3, rel=0.003)


def test_where_the_device_ends_it_the_houses_end_is_told_too() -> None:
    """Below 7.2 V two cells of 3.6 V hold 0.3 of their charge: 4 h to the house's end, 2.8 h and a little less to the device's."""
    checked = pack_of({"device": {"least_v": "7.2"}})
    house, device = line(checked, "end-house").value, line(checked, "end-device").value
    assert house is not None
    assert device is not None
    assert (house.value, device.value) == pytest.approx((4.0, 2.7), abs=0.11)


def test_without_a_resistance_nothing_is_run_and_nothing_is_claimed_of_currents() -> None:
    lines = {each.key: each for each in check_all(pack_of({}, first=replace(CELL, number="CX", resistance_mohm=None)))}
    assert (lines["run-time"].state, lines["cell-fuses"].state) == ("look", "look")
    assert "CX lack a capacity or a resistance" in told(lines["run-time"])
    assert not {"cell-current", "wire", "fuse", "board-current", "promise-hours"} & set(lines)
    assert lines["low-cut-off"].state == "holds"


def test_iron_phosphate_and_titanate_have_limits_of_their_own() -> None:
    """3.65 V stops an iron phosphate cell in time and 4.25 V does not; no table follows titanate."""
    phosphate: Changes = {
        "device": {"least_v": "5", "most_v": "7.4"}, "board": {"over_v": "3.7", "under_v": "2.3"}, "charger": {"full_v": "7.2"},
    }  # fmt: skip
    cell = replace(CELL, resting_v=3.3)
    good = pack_of(phosphate, family=Family.IRON_PHOSPHATE, full_v=3.6, cell=cell)
    assert [each.key for each in check_all(good) if each.state == "stop"] == []
    wrong = pack_of(phosphate | {"board": {"over_v": "4.25"}}, family=Family.IRON_PHOSPHATE, full_v=3.6, cell=cell)
    assert line(wrong, "board-over").state == "stop"
    titanate = pack_of(
        {"charger": {"full_v": "5.4"}, "board": {"over_v": "2.8", "under_v": "1.6"}}, family=Family.TITANATE, full_v=2.7
    )
    assert line(titanate, "run-time").state == "look"
    assert line(titanate, "board-under").state == "holds"


def test_without_a_band_none_is_claimed() -> None:
    groups = [[replace(CELL, number=f"C{g}{p}") for p in range(2)] for g in range(2)]
    plan = read_plan([TypedPart(kind, values) for kind, values in GOOD.items()])
    lines = check_all(take_up(groups, Family.LAYERED_OXIDE, 4.2, plan, RULES, with_band=False))
    assert not any("nine of ten" in told(each) for each in lines)


def test_through_a_converter_energy_comes_out_by_its_efficiency() -> None:
    """5 W out: the same watt-hours in but for a tenth."""
    checked = pack_of({"device": {"current_ma": "", "power_w": "5", "least_v": "", "most_v": ""}, "converter": {"converter_kind": "step-down", "out_v": "5", "efficiency_full": "0.9", "least_in_v": "5.5"}})  # fmt: skip
    assert checked.runs is not None
    run = checked.runs.paper.run
    out_wh = line(checked, "energy").value
    assert out_wh is not None
    assert out_wh.value == pytest.approx(0.9 * run.energy_wh, abs=0.06)
    assert checked.runs.most_a == pytest.approx(5 / 0.9 / checked.runs.least_v, rel=1e-4)


def test_a_steady_power_draws_most_where_the_board_cuts_off() -> None:
    """The run on paper ends at 3.0 V a cell; nothing switches off there, and below it the current still grows."""
    checked = pack_of({"device": {"current_ma": "", "power_w": "5", "least_v": "", "most_v": ""}, "board": {"under_v": "2.5", "most_a": "1.25"}})  # fmt: skip
    assert checked.runs is not None
    assert checked.runs.worst_a == pytest.approx(5 / (2 * 2.5))
    assert checked.runs.most_a < 5 / (2 * 2.5)
    assert line(checked, "board-current").state == "holds"
    assert "1.25 × 1.00 A" in told(line(checked, "board-current"))


@pytest.mark.parametrize(("which", "worst_a"), [("all", 5 / (2 * 2.4)), ("some", 5 / (2 * 3.0))])
def test_without_a_board_the_protection_of_all_cells_says_where_it_cuts_off(which: str, worst_a: float) -> None:
    own = {"which": which, "under_v": "2.4"}
    checked = pack_of({"device": {"current_ma": "", "power_w": "5", "least_v": "", "most_v": ""}, "own-protection": own, "board": None})  # fmt: skip
    assert checked.runs is not None
    assert checked.runs.worst_a == pytest.approx(worst_a, rel=0.01)


@pytest.mark.parametrize(
    ("part", "field"),
    [
        (TypedPart("device", {"on_share": "1"}), "power_w"),
        (TypedPart("device", {"power_w": "5", "current_ma": "100", "on_share": "1"}), "power_w"),
        (TypedPart("device", {"power_w": "5", "on_share": "1.5"}), "on_share"),
        (TypedPart("device", {"power_w": "5", "on_share": "1", "least_v": "9", "most_v": "8"}), "most_v"),
        (TypedPart("board", dict(GOOD["board"]) | {"bleed_ma": ""}), "bleed_ma"),
        (TypedPart("fuse", {"most_a": "two"}), "most_a"),
        (
            TypedPart("converter", {"converter_kind": "step-up", "out_v": "5", "efficiency_full": "0.1"}),
            "efficiency_full",
        ),
        (TypedPart("wire", {"awg": "51", "length_mm": "100"}), "awg"),
        (TypedPart("board", dict(GOOD["board"]) | {"series": "2.5"}), "series"),
        (TypedPart("fuse", {"most_a": "2"}, "x" * 61), "name"),
    ],
)
def test_a_part_that_cannot_be_is_refused_by_its_field(part: TypedPart, field: str) -> None:
    with pytest.raises(BadInputError) as refused:
        read_plan([part])
    assert refused.value.field == field


def test_there_is_one_board_and_there_may_be_many_wires() -> None:
    wire = TypedPart("wire", GOOD["wire"])
    assert len(read_plan([wire, wire]).wires) == 2
    with pytest.raises(BadInputError, match="one part of this kind only"):
        read_plan([TypedPart("fuse", GOOD["fuse"])] * 2)
    with pytest.raises(BadInputError, match="40 parts at most"):
        read_plan([wire] * 41)
