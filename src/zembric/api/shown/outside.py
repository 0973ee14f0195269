"""Packs outside, as they go over the wire."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.api import schemas
from zembric.operations.packing.outside import findings_of_return

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

    from zembric.core.pack.cards import VisitorCard
    from zembric.core.said import Said
    from zembric.models import Pack, PackReport, Recall, RecalledPack
    from zembric.operations.packing.recalls import Used


def show_report(report: PackReport, pack: Pack) -> schemas.ReportOut:
    figures = report.figures
    return schemas.ReportOut.model_validate(
        {
            "kind": report.kind, "at": report.at, "by": report.by.name, "words": report.words,
            "hours": figures.get("hours"), "weeks": figures.get("weeks"), "worked_out_h": figures.get("worked_out_h"), "seen": figures.get("seen", []),
            "group_volts": figures.get("group_volts", []), "decision": report.decision,
            "found": list(findings_of_return(pack, report)) if report.kind == "back" else [],
        }
    )  # fmt: skip


def show_proved_before(figures: Mapping[str, Mapping[str, float]]) -> schemas.ProvedBeforeOut | None:
    if "groups" not in figures:
        return None
    return schemas.ProvedBeforeOut(
        group_volts=list(figures["groups"].values()), full_volts=list(figures.get("charge", {}).values()),
        hours=figures.get("run", {}).get("hours"), energy_wh=figures.get("energy", {}).get("wh"),
    )  # fmt: skip


def show_recalled(found: RecalledPack) -> schemas.RecalledOut:
    return schemas.RecalledOut.model_validate(
        {
            "id": found.id, "number": found.pack.number, "purpose": found.pack.purpose, "state": found.pack.state,
            "given_to": found.pack.given_to, "cells": found.cells, "why": found.recall.why, "tell": found.recall.tell,
            "at": found.recall.at, "settled_at": found.settled_at, "settled_how": found.settled_how,
        }
    )  # fmt: skip


def show_recall_group(recall: Recall) -> schemas.RecallGroupOut:
    return schemas.RecallGroupOut.model_validate(
        {
            "id": recall.id, "about": recall.about, "asked": recall.asked, "why": recall.why, "tell": recall.tell,
            "at": recall.at, "by": recall.by.name, "packs": [show_recalled(each) for each in recall.packs],
        }
    )  # fmt: skip


def show_used(used: Used) -> schemas.UsedOut:
    pack = used.pack
    return schemas.UsedOut.model_validate(
        {
            "number": pack.number, "purpose": pack.purpose, "state": pack.state, "given_to": pack.given_to,
            "cells": list(used.cells),
        }
    )  # fmt: skip


def show_public(
    card: VisitorCard, story: Sequence[Said], notices: Sequence[str], *, is_stopped: bool
) -> schemas.PublicPackOut:
    return schemas.PublicPackOut.model_validate(
        {
            "number": card.number, "purpose": card.purpose, "what": list(card.what), "charging": list(card.charging),
            "never": list(card.never), "bring_back": list(card.bring_back), "when_hot": list(card.when_hot),
            "left": list(card.left), "story": list(story), "notices": list(notices), "is_stopped": is_stopped,
        }
    )  # fmt: skip
