"""What a cell is: size, chemistry, model, claims, ends. Set by whoever has it in hand until it was measured."""

from __future__ import annotations

from types import SimpleNamespace
from typing import TYPE_CHECKING, Any

from sqlalchemy import select
from sqlalchemy.orm import joinedload

from zembric.core.errors import BadInputError, ChangedMeanwhileError
from zembric.core.grade.assessment import size_of
from zembric.core.house.limits import CELL_MOST_MAH, MASS_G_MOST, Family
from zembric.core.identify.claims import ask_about_rated
from zembric.core.identify.ends import BUILDS, PLUS_ENDS, PROTECTIONS, TERMINALS
from zembric.core.identify.families import check_marked_full_v
from zembric.core.identify.numbering import read_number
from zembric.core.identify.sizes import measured_outline
from zembric.core.said import plain, said
from zembric.core.words import unit_of
from zembric.models import CellRow
from zembric.operations.actors import require_coordinator
from zembric.operations.cells.judged import facts_of, rejudge
from zembric.operations.cells.stories import cell_story
from zembric.operations.known.catalogue import get_chemistry, get_model, resolve_size
from zembric.operations.known.rules import rules_in_force
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

_CHOICES = {"build": BUILDS, "plus_end": PLUS_ENDS, "protection": PROTECTIONS, "terminals": TERMINALS}
_CAPACITIES = ("rated_capacity_mah", "claimed_capacity_mah", "advertised_capacity_mah")
_OUTLINE = ("width_mm", "length_mm", "thickness_mm")
# What siblings out of one pack have in common; mass and the state of the ends belong to each cell alone.
_SHARED = (
    "size_code", *_OUTLINE, "family", "chemistry_code", "full_v", "model_id", *_CAPACITIES, "build", "plus_end", "protection",
)  # fmt: skip


def set_facts(
    session: Session,
    actor: Actor,
    typed: str,
    seen_version: int,
    facts: dict[str, Any],
    now: datetime,
    *,
    siblings_too: bool = False,
    confirmed: bool = False,
) -> CellRow:
    """What a cell is, set anew; only what is given is changed. With `siblings_too` also of its siblings that were not
    measured yet; those that were and have no size get that.

    Once its capacity was measured only a coordinator changes what it is, and so of an unknown or primary chemistry;
    a size where there was none is no change.

    Raises:
        ChangedMeanwhileError: the cell has another version than the one that was seen.
        BadInputError: something that cannot be.
    """
    number = read_number("cell", typed)
    session.execute(select(CellRow.id).where(CellRow.number == number).with_for_update(key_share=True))
    cell = cell_story(session, typed, now).listed.cell
    if cell.version != seen_version:
        raise ChangedMeanwhileError(said("this-cell", cell=cell.number))
    facts = _resolved(session, cell, dict(facts))
    _require_leave(actor, cell, facts)
    _apply(session, actor, cell, facts, now, confirmed=confirmed)
    if siblings_too:
        shared = {key: value for key, value in facts.items() if key in _SHARED}
        for sibling in _siblings(session, cell):
            is_measured = sibling.judgement and sibling.judgement.capacity_mah is not None
            told = _size_of_nothing(sibling, shared) if is_measured else shared
            _require_leave(actor, sibling, told)
            _apply(session, actor, sibling, told, now, confirmed=confirmed)
    return cell


def _apply(
    session: Session, actor: Actor, cell: CellRow, facts: dict[str, Any], now: datetime, *, confirmed: bool
) -> None:
    check_marked_full_v(facts.get("family", cell.family), facts.get("full_v", cell.full_v))
    _check_rated(session, cell, facts, confirmed=confirmed)
    before = {key: getattr(cell, key) for key in facts}
    changed = {key: value for key, value in facts.items() if before[key] != value}
    if not changed:
        return
    for key, value in changed.items():
        setattr(cell, key, value)
    cell.version += 1
    note(session, actor, "facts-set", now, cell_id=cell.id, before={key: before[key] for key in changed}, after=changed)
    session.flush()
    session.refresh(cell, ["model"])
    rejudge(session, cell, now)


def _check_rated(session: Session, cell: CellRow, facts: dict[str, Any], *, confirmed: bool) -> None:
    """A rated value that its size cannot hold is refused, one that hardly can is asked about once.

    Raises:
        BadInputError: impossible. OddInputError: doubtful, and not confirmed.
    """
    keys = (
        "size_code",
        "family",
        "full_v",
        "rated_capacity_mah",
        "claimed_capacity_mah",
        "mass_g",
        "protection",
        *_OUTLINE,
    )
    after = facts_of(SimpleNamespace(**{key: facts.get(key, getattr(cell, key)) for key in keys}), None)
    is_new = facts.get("rated_capacity_mah") not in (None, cell.rated_capacity_mah)
    ask_about_rated(
        size_of(after), after.family, after.rated_capacity_mah, rules_in_force(session).for_cell(after), after.mass_g,
        confirmed=confirmed or not is_new,
    )  # fmt: skip


def _siblings(session: Session, cell: CellRow) -> Sequence[CellRow]:
    session.execute(
        select(CellRow.id).where(CellRow.donor_id == cell.donor_id).order_by(CellRow.id).with_for_update(key_share=True)
    )
    query = select(CellRow).where(
        CellRow.donor_id == cell.donor_id, CellRow.id != cell.id, CellRow.handed_over_at.is_(None)
    )
    options = (joinedload(CellRow.donor, innerjoin=True), joinedload(CellRow.judgement))
    return session.scalars(query.options(*options).order_by(CellRow.id)).all()


def _size_of_nothing(cell: CellRow, facts: dict[str, Any]) -> dict[str, Any]:
    """The size among the facts, for a cell that has none yet: that adds, and changes nothing that was measured by it."""
    if cell.size_code is not None or cell.width_mm is not None:
        return {}
    return {key: value for key, value in facts.items() if key == "size_code" or key in _OUTLINE}


def _require_leave(actor: Actor, cell: CellRow, facts: dict[str, Any]) -> None:
    changes = {key for key, value in facts.items() if getattr(cell, key) != value} - set(_size_of_nothing(cell, facts))
    if cell.judgement and cell.judgement.capacity_mah is not None and changes & set(_SHARED):
        require_coordinator(actor, said("doing-changing-what-measured-cell-is"))
    if "family" in changes and cell.family in (None, Family.PRIMARY) and facts["family"] != Family.PRIMARY:
        require_coordinator(actor, said("doing-saying-what-unknown-or-primary-chemistry"))


def _resolved(session: Session, cell: CellRow, facts: dict[str, Any]) -> dict[str, Any]:
    """The facts as a cell keeps them, each checked; a model or a chemistry brings its own with it."""
    if facts.get("model_id"):
        model = get_model(session, facts["model_id"])
        facts |= {
            "size_code": model.size_code, "family": model.family, "full_v": model.full_v,
            "rated_capacity_mah": model.rated_capacity_mah,
        }  # fmt: skip
    elif facts.get("chemistry_code"):
        chemistry = get_chemistry(session, facts["chemistry_code"])
        facts |= {"family": chemistry.family, "full_v": chemistry.full_v}
    if facts.get("family") not in {None, *Family}:
        raise BadInputError(said("is-not-chemistry-family", facts=facts["family"]), field="family")
    if facts.get("family", cell.family) != cell.family:
        facts.setdefault("full_v", None)  # a mark belongs to the chemistry it was read with
    for key, allowed in _CHOICES.items():
        if facts.get(key) not in {None, *allowed}:
            raise BadInputError(said("is-not-one-of", facts=facts[key], allowed=tuple(allowed)), field=key)
    for key, most in (*((key, CELL_MOST_MAH.value) for key in _CAPACITIES), ("mass_g", MASS_G_MOST.value)):
        value = facts.get(key)
        if value is not None and not 0 < value <= most:
            unit = unit_of(key)
            raise BadInputError(
                said("cannot-be-above-zero-to-most", value=plain(value), unit=unit, most=plain(most)), field=key
            )
    _resolve_outline(session, cell, facts)
    return facts


def _resolve_outline(session: Session, cell: CellRow, facts: dict[str, Any]) -> None:
    """A ruler's outline goes before a code; a new code without a ruler takes the old outline away."""
    if facts.get("width_mm") is not None and facts.get("length_mm") is not None:
        outline = measured_outline(facts["width_mm"], facts["length_mm"], facts.get("thickness_mm"))
        # Without a print it is a size of its own, so that it can be matched, listed and labelled by it.
        code = facts.get("size_code", cell.size_code)
        if not code or " x " in code:
            facts["size_code"] = outline.code
        return
    if any(facts.get(key) is not None for key in _OUTLINE):
        raise BadInputError(said("outline-has-at-least-width"), field="width_mm")
    for key in _OUTLINE:
        facts.pop(key, None)
    if "size_code" not in facts or (facts["size_code"] or None) == cell.size_code:
        return
    size = resolve_size(session, facts["size_code"])
    if size.is_primary and facts.get("family", cell.family) != Family.PRIMARY:
        raise BadInputError(
            said("is-print-of-primary-cell-which", facts=facts["size_code"]),
            field="family",
        )
    facts |= size.columns()
