"""Building and proving: the order that keeps voltages low, what each reading should be, and what a wrong one says."""

from __future__ import annotations

import pytest

from zembric.core.house.limits import Family
from zembric.core.house.rules import USUAL_RULES
from zembric.core.pack.layout.model import end_of
from zembric.core.pack.steps import (
    TROUBLE,
    BuildCell,
    Expected,
    Finding,
    HandStep,
    ToBuild,
    building_steps,
    judge_readings,
    proving_steps,
)
from zembric.core.pack.steps.building import link_order


def to_build(
    series: int, parallel: int = 2, *, full_v: float | None = None, energy_wh: float = 40, board: bool = True
) -> ToBuild:
    groups = [
        [BuildCell(f"C{group}{each}", end_of(group), 3.70, 2000, "weld", False) for each in range(parallel)]
        for group in range(1, series + 1)
    ]
    return ToBuild(groups, full_v or 4.2 * series, energy_wh, board, True)


def step(series: int, key: str, **more: object) -> HandStep:
    return next(each for each in building_steps(to_build(series, **more), USUAL_RULES) if each.key == key)  # type: ignore[arg-type]


def expected(**more: object) -> Expected:
    known = {
        "groups_v": (3.70, 3.70, 3.70, 3.70), "group_ohm": (0.025,) * 4, "load_a": 4.0, "hours": 5.0, "ended_in": 2,
        "energy_wh": 50.0,
    }  # fmt: skip
    return Expected(Family.LAYERED_OXIDE, 4, 4.2, 3.0, 3.75, True, True, **{**known, **more})  # type: ignore[arg-type]


def prove(
    key: str, figures: dict[str, float], done: dict[str, dict[str, float]] | None = None, **more: object
) -> Finding:
    point = next(each for each in proving_steps(expected(**more), done or {}, USUAL_RULES) if each.key == key)
    return judge_readings(point, figures, USUAL_RULES)


GROUPS = {f"g{number}": 3.70 for number in range(1, 5)}


# --- Building --------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("series", "order"), [(1, ()), (2, (1,)), (4, (1, 3, 2)), (5, (1, 4, 2, 3)), (7, (1, 6, 2, 5, 3, 4))]
)
def test_links_are_made_from_both_ends_and_the_middle_one_last(series: int, order: tuple[int, ...]) -> None:
    assert link_order(series) == order


def test_the_order_of_a_build_is_groups_links_leads_and_the_plug_last() -> None:
    keys = [each.key for each in building_steps(to_build(3), USUAL_RULES)]
    assert keys == [
        "ready", "rings", "place-1", "join-1", "group-1", "place-2", "join-2", "group-2", "place-3", "join-3", "group-3",
        "link-1", "link-2", "fuse", "tap-0", "tap-1", "tap-2", "tap-3", "plug", "wrap",
    ]  # fmt: skip


def test_a_link_is_measured_across_all_that_hangs_together_then() -> None:
    """4S: 1 to 2, then 3 to 4, and the middle link joins all four."""
    across = [step(4, f"link-{node}").asked[0] for node in (1, 3, 2)]
    assert [each.expected for each in across] == pytest.approx([7.4, 7.4, 14.8])
    assert (across[2].least, across[2].most) == pytest.approx((14.72, 14.88))


def test_a_group_lies_between_what_its_cells_rested_at() -> None:
    cells = [BuildCell("C1", "up", 3.70, 2000, "weld", False), BuildCell("C2", "up", 3.74, 1000, "weld", False)]
    pack = ToBuild([cells], 4.2, 10, False, False)
    asked = next(each for each in building_steps(pack, USUAL_RULES) if each.key == "group-1").asked[0]
    assert asked.expected == pytest.approx((3.70 * 2000 + 3.74 * 1000) / 3000)
    assert (asked.least, asked.most) == pytest.approx((3.68, 3.76))


@pytest.mark.parametrize(("full_v", "energy_wh", "second"), [(29.4, 159, False), (30.1, 159, True), (29.4, 161, True)])
def test_above_the_houses_limits_a_second_person_looks_at_links_and_plug(
    full_v: float, energy_wh: float, second: bool
) -> None:
    steps = building_steps(to_build(7, full_v=full_v, energy_wh=energy_wh), USUAL_RULES)
    assert {each.key for each in steps if each.needs_second} == (
        {"plug", *(f"link-{node}" for node in range(1, 7))} if second else set()
    )


@pytest.mark.parametrize(
    ("key", "value", "code"),
    [
        ("group-1", 3.72, "finding-right"), ("group-1", 3.721, "finding-group-off"), ("group-1", 3.679, "finding-group-off"),
        ("group-1", -3.70, "finding-reversed"), ("group-1", 0.02, "finding-nothing"),
        ("link-2", 14.88, "finding-right"), ("link-2", 14.90, "finding-link-off"), ("link-2", 7.41, "finding-one-turned"),
        ("link-2", 11.1, "finding-one-missing"),
        ("tap-2", 7.44, "finding-right"), ("tap-2", 7.46, "finding-tap-off"), ("tap-2", 3.70, "finding-other-tap"),
        ("tap-3", 7.40, "finding-other-tap"), ("tap-2", 0.0, "finding-nothing"), ("tap-2", -7.4, "finding-reversed"),
    ],
)  # fmt: skip
def test_a_reading_outside_its_band_says_what_it_means(key: str, value: float, code: str) -> None:
    found = judge_readings(step(4, key), {"v": value}, USUAL_RULES)
    assert found.said.code == code
    assert (found.state == "right") == (code == "finding-right") == (found.then is None)


# --- Proving ---------------------------------------------------------------------------------------------------------


def test_a_pack_is_proved_in_the_order_of_the_field() -> None:
    keys = [each.key for each in proving_steps(expected(), {}, USUAL_RULES)]
    assert keys == ["groups", "polarity", "taps", "pack", "board", "charge", "load", "run", "energy", "storage"]
    only_run_and_after = [each.key for each in proving_steps(expected(), {}, USUAL_RULES) if each.may_be_waived]
    assert only_run_and_after == ["run", "energy", "storage"]


def test_later_points_are_held_against_what_was_measured_before() -> None:
    done = {"groups": {"g1": 3.70, "g2": 3.71, "g3": 3.69, "g4": 3.70}}
    asked = {each.key: each for each in proving_steps(expected(), done, USUAL_RULES)}
    assert [each.expected for each in asked["taps"].asked] == pytest.approx([3.70, 7.41, 11.10, 14.80])
    assert asked["pack"].asked[0].expected == pytest.approx(14.80)
    assert prove("taps", {"t1": 3.7, "t2": 11.1, "t3": 7.41, "t4": 14.8}, done).said.code == "finding-other-tap"


@pytest.mark.parametrize(
    ("volts", "code"), [(4.10, "finding-right"), (4.04, "finding-full-below"), (4.20, "finding-full-above")]
)
def test_a_charger_that_ends_low_on_purpose_is_held_against_its_own_end(volts: float, code: str) -> None:
    assert prove("charge", dict.fromkeys(GROUPS, volts), charged_v=4.10).said.code == code


@pytest.mark.parametrize(
    ("key", "figures", "state", "code"),
    [
        ("groups", GROUPS | {"g3": 3.72}, "right", "finding-right"),
        ("groups", GROUPS | {"g3": 3.73}, "wrong", "finding-group-not"),
        # Charged since it was joined: all by the same. One that moved otherwise is none of that, nor is one above full.
        ("groups", dict.fromkeys(GROUPS, 4.10) | {"g2": 4.09}, "look", "finding-groups-moved"),
        ("groups", dict.fromkeys(GROUPS, 4.10) | {"g2": 4.07}, "wrong", "finding-group-not"),
        ("groups", dict.fromkeys(GROUPS, 4.26), "wrong", "finding-group-not"),
        ("board", {"v": 0.1}, "wrong", "finding-board-asleep"),
        ("charge", dict.fromkeys(GROUPS, 4.20) | {"g2": 4.17}, "right", "finding-right"),
        ("charge", dict.fromkeys(GROUPS, 4.20) | {"g2": 4.16}, "look", "finding-full-apart"),
        ("charge", {"g1": 4.25, "g2": 4.15, "g3": 4.2, "g4": 4.2}, "wrong", "finding-full-apart"),
        ("charge", dict.fromkeys(GROUPS, 4.26), "wrong", "finding-full-above"),
        ("charge", dict.fromkeys(GROUPS, 4.14), "wrong", "finding-full-below"),
        ("storage", {"v": 15.0}, "right", "finding-right"), ("storage", {"v": 16.4}, "wrong", "finding-storage-off"),
        ("energy", {"wh": 40.0}, "right", "finding-right"), ("energy", {"wh": 39.9}, "wrong", "finding-energy-low"),
        ("run", dict.fromkeys(GROUPS, 3.0) | {"hours": 4.0}, "right", "finding-right"),
        ("run", dict.fromkeys(GROUPS, 3.0) | {"hours": 3.9}, "wrong", "finding-run-short"),
        ("run", dict.fromkeys(GROUPS, 3.0) | {"hours": 4.0, "g4": 2.97}, "wrong", "finding-run-too-low"),
    ],
)  # fmt: skip
def test_each_point_fails_beyond_its_band_and_not_before(
    key: str, figures: dict[str, float], state: str, code: str
) -> None:
    done = {"groups": GROUPS} if key == "board" else {}
    found = prove(key, figures, done)
    assert (found.state, found.said.code) == (state, code)


def under_load(**more: float) -> dict[str, float]:
    """4 A through 25 mOhm a group: each falls by 0.10 V."""
    figures = {f"r{number}": 4.20 for number in range(1, 5)} | {f"g{number}": 4.10 for number in range(1, 5)}
    return figures | {"a": 4.0, "cell_degc": 30.0} | more


@pytest.mark.parametrize(
    ("more", "code"),
    [
        ({}, "finding-right"), ({"g3": 4.08}, "finding-right"), ({"g3": 4.07}, "finding-joint-high"),
        ({"a": 2.0, "g1": 4.15, "g2": 4.15, "g3": 4.12, "g4": 4.15}, "finding-joint-high"),
        ({"cell_degc": 45}, "finding-right"), ({"cell_degc": 46}, "finding-cells-hot"), ({"board_degc": 61}, "finding-board-hot"),
        ({"in_w": 50, "out_w": 36}, "finding-right"), ({"in_w": 50, "out_w": 34}, "finding-converter-loses"),
        ({"in_w": 50, "out_w": 51}, "finding-more-out"),
    ],
)  # fmt: skip
def test_under_load_the_joint_that_is_too_high_is_named(more: dict[str, float], code: str) -> None:
    found = prove("load", under_load(**more))
    assert found.said.code == code
    if code == "finding-joint-high":
        told = dict(found.said.parameters)
        assert told["group"] == 3


def test_without_a_device_nothing_is_promised_and_what_is_measured_is_taken() -> None:
    nothing = {"load_a": None, "group_ohm": None, "hours": None, "energy_wh": None, "groups_v": None}
    assert prove("load", under_load(g3=3.9), **nothing).state == "right"
    assert prove("energy", {"wh": 1.0}, **nothing).state == "right"


# --- Trouble ---------------------------------------------------------------------------------------------------------


def test_every_way_of_the_questions_ends_with_something_to_do() -> None:
    reached, ahead = set(), ["switch"]
    while ahead:
        here = ahead.pop()
        reached.add(here)
        for way in TROUBLE[here].ways:
            assert (way.to is None) != (way.do is None)
            assert way.to not in reached or way.to == "groups"
            if way.to and way.to not in reached:
                ahead.append(way.to)
    assert reached == set(TROUBLE)
