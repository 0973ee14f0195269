"""Where the cells of a pack stand in their room: proposed, drawn to scale, its strips solved as a net, checked."""

from zembric.core.pack.layout.checks import check_layout
from zembric.core.pack.layout.faces import Link, Pole, links_of, poles_of, taps_of
from zembric.core.pack.layout.model import (
    ARRANGEMENTS,
    Arrangement,
    Body,
    Case,
    End,
    Face,
    PackLayout,
    Placed,
    Rect,
    pitch_mm,
)
from zembric.core.pack.layout.net import NetFlow, StripKind, solve_net
from zembric.core.pack.layout.outlines import Circle, Outline, plate_of
from zembric.core.pack.layout.propose import Proposal, propose

__all__ = [
    "ARRANGEMENTS",
    "Arrangement",
    "Body",
    "Case",
    "Circle",
    "End",
    "Face",
    "Link",
    "NetFlow",
    "Outline",
    "PackLayout",
    "Placed",
    "Pole",
    "Proposal",
    "Rect",
    "StripKind",
    "check_layout",
    "links_of",
    "pitch_mm",
    "plate_of",
    "poles_of",
    "propose",
    "solve_net",
    "taps_of",
]
