"""Instruments' commands as data, answers that are none, and loggers that print lines by themselves."""

from __future__ import annotations

import socket
from collections.abc import Iterator

import pytest

from zembric.core.errors import BadInputError
from zembric.wire.links import LineLink, Reading, SilentError, open_link
from zembric.wire.mapping import CommandMap, NonsenseError, as_json, filled, read_answer, read_map
from zembric.wire.standin import STANDIN_MAP, StandIn

LOAD = {"measure": "MEAS:VOLT?;CURR?", "gives": ["voltage_v", "minus_current_a"], "off": "INP OFF"}


def test_a_map_comes_back_as_it_was_typed() -> None:
    assert read_map(as_json(STANDIN_MAP)) == STANDIN_MAP


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"fire": "X"}, "map-unknown-key"), ({"off": 5}, "map-not-lines"), ({"off": ["CURR {amps}"]}, "map-unknown-place"),
        ({"off": ["CURR {current_a}"]}, "map-unknown-place"), ({"off": ["CURR {current_a"]}, "map-braces"), ({"off": ["A\nB"]}, "map-line-length"), ({"gives": ["watts"]}, "map-gives"),
        ({"off": ["INP OFF"] * 13}, "map-not-lines"), ({"measure": ""}, "map-measures-nothing"),
    ],
)  # fmt: skip
def test_a_map_that_cannot_be_is_refused(change: dict[str, object], says: str) -> None:
    with pytest.raises(BadInputError) as refused:
        read_map(LOAD | {"off": ["INP OFF"]} | change)
    assert refused.value.said.code == says


def test_a_line_is_filled_with_as_many_digits_as_it_asks_for() -> None:
    assert (
        filled("SOUR{channel}:CURR {current_a:.3f},{limit_v}", {"channel": 2, "current_a": 0.5, "limit_v": 4.2})
        == "SOUR2:CURR 0.500,4.2"
    )


def test_a_load_that_counts_its_discharge_as_positive_is_turned_round() -> None:
    mapping = CommandMap(measure="M?", gives=("voltage_v", "minus_current_a"))
    assert read_answer(mapping, "3.71,0.5") == {"voltage_v": 3.71, "current_a": -0.5}


@pytest.mark.parametrize("answer", ["", "3.7", "3.7,abc", "nan,1", "inf,0", "3,7;1"])
def test_an_answer_that_is_none_is_no_reading(answer: str) -> None:
    with pytest.raises(NonsenseError):
        read_answer(CommandMap(measure="M?"), answer)


def test_where_nobody_answers_it_is_silent() -> None:
    with socket.create_server(("127.0.0.1", 0)) as taken:
        port = taken.getsockname()[1]
    with pytest.raises(SilentError):
        open_link("scpi", f"TCPIP::127.0.0.1::{port}::SOCKET", STANDIN_MAP, None)


@pytest.fixture
def logger() -> Iterator[tuple[LineLink, socket.socket]]:
    with socket.create_server(("127.0.0.1", 0)) as server:
        link = LineLink(f"socket://127.0.0.1:{server.getsockname()[1]}", 10.0)
        line, _ = server.accept()
        with line:
            yield link, line
        link.close()


@pytest.mark.parametrize(
    ("printed", "volts", "amperes"),
    [(b"3.700\n", 3.7, -0.37), (b"3.7, -0.5\n", 3.7, -0.5), (b"3.7 -0.5\r\n", 3.7, -0.5), (b"3.7;-0.5\n", 3.7, -0.5)],
)
def test_a_home_made_logger_prints_volts_or_volts_and_amperes(
    logger: tuple[LineLink, socket.socket], printed: bytes, volts: float, amperes: float
) -> None:
    link, line = logger
    line.sendall(printed)
    readings: list[Reading] = []
    while not readings:
        readings = link.read(1, -1)
    assert [readings[0].voltage_v, readings[0].current_a] == pytest.approx([volts, amperes])


def test_without_its_watchdog_the_simulated_tester_charges_nothing() -> None:
    standin = StandIn(1, 1)
    standin.answer("SIM:CHAN1:CELL 9,3.7,2000")
    standin.answer("CHAN1:CHAR 0.5,4.2,0.05,100")
    assert (standin.answer("SYST:ERR?") or "").startswith("-100")
    standin.answer("SYST:WATC 10")
    standin.answer("CHAN1:CHAR 0.5,4.2,0.05,100")
    assert standin.answer("SYST:ERR?") == "0,no error"
