"""Steps at a pack, as they go over the wire."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.api import schemas
from zembric.core.pack.steps import TROUBLE

if TYPE_CHECKING:
    from zembric.core.pack.steps import Finding
    from zembric.models import PackStep
    from zembric.operations.packing.handwork import DoneStep, Handwork


def show_handwork(work: Handwork) -> schemas.HandworkOut:
    return schemas.HandworkOut(
        stage=work.stage,
        next_key=work.next_key,
        steps=[_step(each) for each in work.steps],
        refused=[schemas.RefusalOut.model_validate(refusal) for refusal in work.refused],
    )


def show_finding(finding: Finding) -> schemas.FindingOut:
    return schemas.FindingOut.model_validate(finding)


def _step(each: DoneStep) -> schemas.StepOut:
    step = each.step
    return schemas.StepOut.model_validate(
        {
            "key": step.key, "title": step.title, "todo": list(step.todo), "cautions": list(step.cautions),
            "cells": list(step.cells), "asked": list(step.asked), "needs_second": step.needs_second,
            "may_be_waived": step.may_be_waived, "is_passed": each.is_passed, "waits_for_second": each.waits_for_second,
            "act": _act(each.last) if each.last else None,
        }
    )  # fmt: skip


def _act(act: PackStep) -> dict[str, object]:
    return {"state": act.state, "at": act.at, "by": act.by.name, "figures": act.figures, "finding": act.finding}


def show_trouble() -> schemas.TroubleOut:
    return schemas.TroubleOut.model_validate(
        {"forks": [{"key": key, "ask": fork.ask, "ways": list(fork.ways)} for key, fork in TROUBLE.items()]}
    )
