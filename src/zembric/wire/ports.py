"""Ports of this machine where an instrument may hang. The web server asks for them, so nothing that is large comes with it."""

from __future__ import annotations

from dataclasses import dataclass

from serial.tools import list_ports


@dataclass(frozen=True, slots=True)
class FoundPort:
    """A port where something may hang: its address, and what the system calls it."""

    address: str
    name: str


def found_ports() -> tuple[FoundPort, ...]:
    """Serial ports that are plugged in here, as instruments are addressed."""
    return tuple(
        FoundPort(f"ASRL{port.device}::INSTR", port.description or port.device) for port in list_ports.comports()
    )
