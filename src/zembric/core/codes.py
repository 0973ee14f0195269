"""Codes that tables, wire and pages share, and that no rule of the core decides by. Each list stands here and nowhere else;
those that a rule decides by stand beside it."""

from __future__ import annotations

from typing import Literal

Role = Literal["volunteer", "coordinator"]
PlaceKind = Literal["tray", "holding-box", "shelf-box", "out-box", "fire-safe-box"]
InstrumentKind = Literal["voltmeter", "tester", "ac-meter", "usb-meter", "charger", "load", "supply", "logger"]
LogState = Literal["waiting", "reading", "asks", "read", "refused", "cancelled"]
#: How an instrument on a wire is spoken to: SCPI lines that are answered, or a logger that prints by itself.
LinkKind = Literal["scpi", "lines"]
TesterState = Literal["unknown", "here", "silent", "nonsense"]
SlotKind = Literal["tester", "charger"]
#: asked: the runner has not begun it; waits: no contact for the moment; ended: through; stopped: before it was through.
RunState = Literal["asked", "running", "waits", "ended", "stopped", "refused"]
SearchState = Literal["waiting", "searching", "done", "failed"]
EntryKind = Literal["inspection", "reading", "step", "withdrawal"]
#: Something done with a cell, as it is kept.
DoneKind = Literal[
    "repair", "recovery", "recovery-started", "recovery-check", "decision", "charge", "skip", "shelved", "second-look",
    "overruled", "came-back",
]  # fmt: skip
# --- Of donors ---
DonorDrain = Literal["low", "high", "mixed"]
DonorProtection = Literal["own board", "pack board", "bare", "mixed"]
ChargerKind = Literal["none", "linear", "switching", "pack-board", "unknown"]
DonorConverter = Literal["none", "step-up", "step-down", "both", "unknown"]
ChargedIn = Literal["out", "holder", "device"]
PartKind = Literal["charger-board", "protection-board", "holder", "switch", "sensor", "converter", "connector", "other"]
YesNoUnknown = Literal["yes", "no", "unknown"]

#: By what packs are looked for that cells were used in.
RecallAbout = Literal["donor", "model", "batch", "part", "volunteer", "made-on", "opened-on"]
