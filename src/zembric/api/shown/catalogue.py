"""The catalogue, the house rules, prints and lists, as they go over the wire."""

from __future__ import annotations

from itertools import zip_longest
from typing import TYPE_CHECKING, Any, get_args

from zembric.api import schemas
from zembric.api.words import told
from zembric.core.house.limits import Family
from zembric.core.house.rules import (
    GRADE_SCHOOLS,
    HOUSE_LIMITS,
    SWITCHES,
    VOLTAGE_SCHOOLS,
    WHY_VOLTAGE_SCHOOL,
    differences,
)
from zembric.core.identify.donor_kinds import NOT_FOR_THIS_TABLE
from zembric.core.labels import LAYOUTS
from zembric.core.measure.first_voltage import bands_upwards
from zembric.core.pack.parts import PART_INPUTS, SEVERAL
from zembric.core.said import named
from zembric.operations.known import catalogue
from zembric.operations.known.rules import rules_of

if TYPE_CHECKING:
    from collections.abc import Sequence

    from sqlalchemy.orm import Session

    from zembric.core.measure.typed_amounts import Amount
    from zembric.models import LabelPrint, RuleSet
    from zembric.operations.papers.lists import ListPreview


def show_catalogue(session: Session) -> schemas.CatalogueOut:
    def rows(what: str, shown: type[schemas.Out]) -> list[Any]:
        return [shown.model_validate(row) for row in catalogue.all_rows(session, what)]

    return schemas.CatalogueOut(
        donor_kinds=rows("donor-kinds", schemas.DonorKindOut),
        turned_away=[schemas.TurnedAwayOut.model_validate(kind) for kind in NOT_FOR_THIS_TABLE.values()],
        formats=rows("formats", schemas.FormatOut),
        chemistries=rows("chemistries", schemas.ChemistryOut),
        models=rows("models", schemas.ModelOut),
        tray_sizes=rows("tray-sizes", schemas.TraySizeOut),
        pack_parts=rows("pack-parts", schemas.PackPartKindOut),
        parts_asked=[
            schemas.PartAskedOut.model_validate(
                {"kind": kind, "name": named("part-of-pack", kind), "several": kind in SEVERAL, "needs": list(needs)}
            )
            for kind, needs in PART_INPUTS.items()
        ],
    )


def show_rules(versions: Sequence[RuleSet], names: dict[int, str], changed: int | None = None) -> schemas.RulesOut:
    in_force = rules_of(versions[0])
    families = [Family(code) for code in get_args(schemas.ChargeableFamily)]
    return schemas.RulesOut(
        versions=[
            schemas.RuleVersionOut.model_validate(
                {
                    "differences": differences(rules_of(earlier), rules_of(row)) if earlier else [], "version": row.version, "voltage_school": row.voltage_school, "grade_school": row.grade_school, "at": row.at,
                    "by": names.get(row.person_id) if row.person_id else None, "why": row.why,
                }
            )
            for row, earlier in zip_longest(versions, versions[1:])
        ],
        limits=[
            schemas.EditableLimitOut(
                key=limit.key, meaning=told(limit.meaning), unit=limit.unit, usual=limit.value, value=in_force.value(limit),
                group=told(limit.about), is_fixed=limit.fixed,
            )
            for limit in HOUSE_LIMITS.values()
        ],
        special=[schemas.SpecialRuleOut.model_validate(rule) for rule in in_force.special],
        switches=[
            schemas.SwitchOut(
                key=switch.key, question=told(switch.question), chosen=in_force.switches[switch.key],
                choices=[
                    schemas.SwitchChoiceOut.model_validate({"code": code, "text": switch.name_of(code), "why": switch.why(code)})
                    for code in switch.choices
                ],
            )
            for switch in SWITCHES.values()
        ],
        voltage_schools=[
            schemas.VoltageSchoolOut(
                code=code,
                text=told(means),
                why=told(WHY_VOLTAGE_SCHOOL[code]),
                families=[
                    schemas.FamilyBandsOut(
                        family=family,
                        bands=[schemas.BandOut.model_validate(band) for band in bands_upwards(family, code)],
                    )
                    for family in families
                ],
            )
            for code, means in VOLTAGE_SCHOOLS.items()
        ],
        grade_schools=[schemas.GradeSchoolOut(code=code, text=told(means)) for code, means in GRADE_SCHOOLS.items()],
        changed=changed,
    )  # fmt: skip


def show_layouts() -> list[schemas.LabelLayoutOut]:
    return [schemas.LabelLayoutOut.model_validate(layout) for layout in LAYOUTS.values()]


def show_print(row: LabelPrint) -> schemas.PrintOut:
    return schemas.PrintOut(
        id=row.id, at=row.at, by=row.person.name, layout=row.layout, first=row.first, numbers=row.numbers, again=row.again,
        why=row.why,
    )  # fmt: skip


def show_preview(preview: ListPreview) -> schemas.ListPreviewOut:
    new = [cell for cell in preview.cells if cell.line not in preview.already_here]
    return schemas.ListPreviewOut(
        columns=[schemas.ListColumnOut.model_validate(column) for column in preview.columns],
        cells=[
            schemas.ListedCellOut.model_validate(
                {
                    "line": cell.line, "label": cell.label, "donor": cell.donor, "size_code": cell.size_code,
                    "family": cell.family, "rated_mah": cell.rated_mah, "voltage_v": _value(cell.voltage_v),
                    "capacity_mah": _value(cell.capacity_mah), "resistance_mohm": _value(cell.resistance_mohm),
                    "is_here": cell.line in preview.already_here,
                }
            )
            for cell in preview.cells
        ],
        problems=[schemas.ListProblemOut.model_validate(problem) for problem in preview.problems],
        new=len(new),
        donors=len({(cell.donor, cell.donor_kind) for cell in new}),
    )  # fmt: skip


def _value(amount: Amount | None) -> float | None:
    return amount.value if amount else None
