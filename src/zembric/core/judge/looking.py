"""What to look for this time: the first look is at everything, later ones also ask what the last weeks may have done."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from typing import TYPE_CHECKING

from zembric.core.said import Said, all_of, said, span
from zembric.core.story import (
    Finding,
    Inspection,
    Recovery,
    SecondLook,
    empties,
    fills,
    latest,
)

if TYPE_CHECKING:
    from datetime import datetime

    from zembric.core.story import Story


@dataclass(frozen=True, slots=True)
class LookPrompt:
    """A question for this look, and the findings that would answer it."""

    said: Said
    findings: tuple[Finding, ...]


def look_prompts(story: Story, now: datetime) -> tuple[LookPrompt, ...]:
    """What deserves a second glance now, given what happened since the last look."""
    last_look = latest(story.of(Inspection))
    prompts = []
    sibling = latest(story.of(SecondLook))
    if sibling and (last_look is None or last_look.at <= sibling.at):
        findings = tuple(sorted(sibling.findings))
        found = all_of("finding", findings) or (said("finding-dangerous"),)
        prompts.append(LookPrompt(said("look-sibling", cell=sibling.sibling, findings=found), findings))
    used = latest(event for event in story.events if fills(event) or empties(event) or isinstance(event, Recovery))
    if used and now - used.at < timedelta(hours=24):
        prompts.append(LookPrompt(said("look-used", ago=span(now - used.at)), (Finding.HOT,)))
    elif last_look and now - last_look.at >= timedelta(days=7):
        prompts.append(
            LookPrompt(
                said("look-after-weeks", ago=span(now - last_look.at)),
                (Finding.SWOLLEN, Finding.LEAKING, Finding.RUSTED_THROUGH),
            )
        )
    if last_look is None and story.donor_kind == "vape":
        prompts.append(LookPrompt(said("look-wiped"), (Finding.LEAKING,)))
    return tuple(prompts)
