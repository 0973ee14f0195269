"""Donors with what follows from their clues, as they go over the wire."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from zembric.api import schemas
from zembric.api.shown.cells import show_cell
from zembric.api.words import told
from zembric.core.errors import BadInputError
from zembric.core.house.limits import SIBLING_GAP_V
from zembric.core.identify.donor_clues import compare_groups, expect_from_symptom, read_pack_print
from zembric.operations.cells.in_place import charge_current_of, in_place_of

if TYPE_CHECKING:
    from collections.abc import Sequence

    from zembric.core.house.rules import HouseRules
    from zembric.models import Donor, GroupReading, Part, Photo
    from zembric.operations.cells.listed import ListedCell

_TYPED = (
    "symptom", "ran_min", "runs_now_min", "claimed_v", "claimed_wh", "claimed_mah", "charger_kind", "charger_k_v", "charger_r1_ohm",
    "charger_r2_ohm", "protection", "protection_cut_off_v", "protection_release_v", "temperature_sensor", "converter", "connector",
    "charged_in",
)  # fmt: skip


def show_donor(
    donor: Donor,
    listed: Sequence[ListedCell],
    rules: HouseRules,
    taped_by: str | None = None,
    groups: GroupReading | None = None,
    parts: Sequence[Part] = (),
    photos: Sequence[Photo] = (),
) -> schemas.DonorOut:
    kind = donor.kind_row
    return schemas.DonorOut.model_validate(
        {
            "number": donor.number, "kind": donor.kind, "kind_name": kind.name, "cautions": kind.cautions, "traps": kind.traps,
            "description": donor.description, "opened_at": donor.opened_at, "taped_at": donor.taped_at, "taped_by": taped_by,
            "version": donor.version, "clues": _clues(donor, listed, rules), "groups": show_groups(groups, rules) if groups else None,
            "parts": [show_part(part, donor) for part in parts],
            "photos": [schemas.PhotoOut.model_validate(photo) for photo in photos],
            "cells": [show_cell(cell) for cell in listed],
        }
    )  # fmt: skip


def show_donor_line(donor: Donor, cells: int) -> schemas.DonorLineOut:
    return schemas.DonorLineOut(
        number=donor.number, kind=donor.kind, kind_name=donor.kind_row.name, description=donor.description,
        opened_at=donor.opened_at, cells=cells,
    )  # fmt: skip


def show_part(part: Part, donor: Donor) -> schemas.PartOut:
    return schemas.PartOut.model_validate(
        {
            "id": part.id, "kind": part.kind, "description": part.description, "kept_at": part.kept_at, "gone_at": part.gone_at,
            "gone_why": part.gone_why, "donor_number": donor.number,
            "donor_description": donor.description or donor.kind_row.name,
        }
    )  # fmt: skip


def show_groups(reading: GroupReading, rules: HouseRules) -> schemas.GroupsOut:
    groups, found = compare_groups(reading.voltages_v, rules.value(SIBLING_GAP_V))
    return schemas.GroupsOut(
        at=reading.at,
        by=reading.person.name,
        parallel=reading.parallel,
        groups=[schemas.GroupVoltageOut.model_validate(group) for group in groups],
        said=told(found),
        total_v=sum(reading.voltages_v),
    )


def _clues(donor: Donor, listed: Sequence[ListedCell], rules: HouseRules) -> schemas.CluesOut:
    """What was typed, and what it means; a symptom or a print that cannot be is told, never dropped."""
    shown: dict[str, Any] = {key: getattr(donor, key) for key in _TYPED}
    shown["expectation"] = (
        expect_from_symptom(donor.symptom, donor.ran_min, donor.runs_now_min) if donor.symptom else None  # type: ignore[arg-type]
    )
    board_ma = charge_current_of(donor)
    shown["charge_ma"] = board_ma
    advice = in_place_of(donor, rules)
    shown["in_place"], shown["in_place_refused"] = advice and advice.said, advice is not None and advice.is_refused
    shown["pack_print"] = _pack_print(donor, len(listed))
    return schemas.CluesOut.model_validate(shown)


def _pack_print(donor: Donor, cells: int) -> schemas.PackPrintOut | None:
    if donor.claimed_v is None:
        return None
    try:
        found = read_pack_print(donor.claimed_v, cells, donor.claimed_wh, donor.claimed_mah)
    except BadInputError as error:
        return schemas.PackPrintOut(readings=[], remark=None, problem=told(error.said))
    readings = [schemas.PackReadingOut.model_validate(reading) for reading in found.readings]
    return schemas.PackPrintOut(readings=readings, remark=told(found.remark) if found.remark else None, problem=None)
