"""Which end is plus, how a cell is built, and how it can be joined by the state of its ends."""

from __future__ import annotations

import pytest

from zembric.core.identify.ends import (
    BUILDS,
    PLUS_ENDS,
    TERMINALS,
    Build,
    how_to_join,
    usual_build,
    usual_plus,
)
from zembric.core.identify.sizes import measured_outline, read_size
from zembric.wording import say


@pytest.mark.parametrize(("code", "build"), [("18650", "wrapped-can"), ("13400", "wrapped-can"), ("603048", "pouch")])
def test_a_shape_is_mostly_built_one_way(code: str, build: str) -> None:
    assert usual_build(read_size(code)) == build


def test_without_a_size_nothing_is_assumed() -> None:
    assert usual_build(None) is None


@pytest.mark.parametrize(
    ("build", "plus", "warns"),
    [
        ("wrapped-can", "button", "minus is everywhere"),
        ("bare-can", "button", "wrap it"),
        ("flat-can", "can", "Measure before you join"),
        ("pouch", "marked-tab", "colour of a wire proves nothing"),
    ],
)
def test_each_build_has_its_usual_plus_and_its_warning(build: Build, plus: str, warns: str) -> None:
    end, sentence = usual_plus(build)
    assert end == plus
    assert warns in say(sentence)


def test_every_build_and_every_state_of_the_ends_is_told() -> None:
    assert {usual_plus(build)[0] for build in BUILDS} <= set(PLUS_ENDS)
    assert len({say(how_to_join(terminals)) for terminals in TERMINALS}) == len(TERMINALS)


def test_a_cell_that_was_soldered_is_not_soldered_again() -> None:
    assert "holder" in say(how_to_join("soldered"))
    assert "never onto the can" in say(how_to_join("stub"))


@pytest.mark.parametrize(
    ("width_mm", "length_mm", "thickness_mm", "shape", "volume_cm3"),
    [(18.3, 65.2, None, "cylinder", 17.15), (30, 48, 6, "flat", 8.64), (10, 20, 3, "flat", 0.6)],
)
def test_a_ruler_gives_shape_and_volume(
    width_mm: float, length_mm: float, thickness_mm: float | None, shape: str, volume_cm3: float
) -> None:
    size = measured_outline(width_mm, length_mm, thickness_mm)
    assert size.shape == shape
    assert size.volume_cm3 == pytest.approx(volume_cm3, abs=0.01)
