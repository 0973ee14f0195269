"""A pack step by step: joined in an order that keeps voltages low, then proved against what was worked out."""

from zembric.core.pack.steps.building import BuildCell, ToBuild, building_steps
from zembric.core.pack.steps.model import Asked, Finding, HandStep, StepCell
from zembric.core.pack.steps.proving import Expected, proving_steps
from zembric.core.pack.steps.readings import judge_readings
from zembric.core.pack.steps.trouble import TROUBLE, Fork, TroubleWay

__all__ = [
    "TROUBLE",
    "Asked",
    "BuildCell",
    "Expected",
    "Finding",
    "Fork",
    "HandStep",
    "StepCell",
    "ToBuild",
    "TroubleWay",
    "building_steps",
    "judge_readings",
    "proving_steps",
]
