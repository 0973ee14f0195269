"""What to look for this time: the first look is at everything, later ones also ask what the last weeks may have done."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from typing import TYPE_CHECKING

from zembric.core.story import (
    Finding,
    Inspection,
    Recovery,
    SecondLook,
    empties,
    fills,
    latest,
)
from zembric.core.words import duration, listed

if TYPE_CHECKING:
    from datetime import datetime

    from zembric.core.story import Story


@dataclass(frozen=True, slots=True)
class LookPrompt:
    """A question for this look, and the findings that would answer it."""

    text: str
    findings: tuple[Finding, ...]


def look_prompts(story: Story, now: datetime) -> tuple[LookPrompt, ...]:
    """What deserves a second glance now, given what happened since the last look."""
    last_look = latest(story.of(Inspection))
    prompts = []
    sibling = latest(story.of(SecondLook))
    if sibling and (last_look is None or last_look.at <= sibling.at):
        found = listed([finding.value.replace("-", " ") for finding in sorted(sibling.findings)])
        prompts.append(
            LookPrompt(
                f"Its sibling {sibling.sibling} was found {found}. Is this one?", tuple(sorted(sibling.findings))
            )
        )
    used = latest(event for event in story.events if fills(event) or empties(event) or isinstance(event, Recovery))
    if used and now - used.at < timedelta(hours=24):
        prompts.append(
            LookPrompt(f"It was used {duration(now - used.at)} ago: is it warmer than its neighbours?", (Finding.HOT,))
        )
    elif last_look and now - last_look.at >= timedelta(days=7):
        prompts.append(
            LookPrompt(
                f"Last looked at {duration(now - last_look.at)} ago: swollen, damp or rusty since?",
                (Finding.SWOLLEN, Finding.LEAKING, Finding.RUSTED_THROUGH),
            )
        )
    if last_look is None and story.donor_kind == "vape":
        prompts.append(LookPrompt("Was it wiped? Vape residue smells sweet as well.", (Finding.LEAKING,)))
    return tuple(prompts)
