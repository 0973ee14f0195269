"""What the cafe knows beforehand: looked up by everybody, extended by coordinators."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any

from sqlalchemy import func, select

from zembric.core.errors import BadInputError, ChangedMeanwhileError, NotFoundError
from zembric.core.grade.assessment import read_size_or_none
from zembric.core.house.limits import Family
from zembric.core.identify.claims import ask_about_rated
from zembric.core.identify.families import check_marked_full_v
from zembric.core.identify.sizes import Size, measured_outline, read_print, read_size
from zembric.core.pack.parts import TypedPart, read_part
from zembric.core.said import said
from zembric.models import CellFormat, CellModel, Chemistry, DonorKindRow, PackPartKind, TraySize
from zembric.operations.actors import require_coordinator
from zembric.operations.known.rules import rules_in_force
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

CatalogueRow = DonorKindRow | CellFormat | Chemistry | CellModel | TraySize | PackPartKind
_TABLES: dict[str, tuple[type[CatalogueRow], str]] = {
    "donor-kinds": (DonorKindRow, "code"),
    "formats": (CellFormat, "code"),
    "chemistries": (Chemistry, "code"),
    "models": (CellModel, "id"),
    "tray-sizes": (TraySize, "id"),
    "pack-parts": (PackPartKind, "id"),
}


@dataclass(frozen=True, slots=True)
class ResolvedSize:
    """A size as a cell keeps it: the code that was read, and the outline where the code alone does not tell it."""

    code: str | None
    outline: Size | None
    is_primary: bool

    @property
    def size(self) -> Size | None:
        return self.outline or read_size_or_none(self.code)

    def columns(self) -> dict[str, Any]:
        outline = self.outline
        return {
            "size_code": self.code,
            "width_mm": outline.width_mm if outline else None,
            "length_mm": outline.length_mm if outline else None,
            "thickness_mm": outline.thickness_mm if outline else None,
        }


def resolve_size(session: Session, text: str | None) -> ResolvedSize:
    """What a typed size means: a format of the catalogue by its name, else a code or designation.

    Raises:
        BadInputError: neither, or a code that can be read in more than one way.
    """
    typed = (text or "").strip()
    if not typed:
        return ResolvedSize(None, None, False)
    known = session.scalar(select(CellFormat).where(func.upper(CellFormat.code) == typed.upper(), CellFormat.is_active))
    if known and not known.code.isdigit():
        return ResolvedSize(known.code, measured_outline(known.width_mm, known.length_mm, known.thickness_mm), False)
    size = read_size(typed)
    # An outline by caliper is a size of its own, kept with its millimetres.
    return ResolvedSize(size.code, size if " x " in size.code else None, read_print(typed).family is Family.PRIMARY)


def formats_as_sizes(session: Session) -> list[Size]:
    """The house's own formats as outlines."""
    rows = session.scalars(select(CellFormat).where(CellFormat.is_active).order_by(CellFormat.code))
    return [replace(measured_outline(row.width_mm, row.length_mm, row.thickness_mm), code=row.code) for row in rows]


def get_model(session: Session, model_id: int) -> CellModel:
    model = session.get(CellModel, model_id)
    if model is None or not model.is_active:
        raise BadInputError(said("there-is-no-such-model"), field="model_id")
    return model


def get_chemistry(session: Session, code: str) -> Chemistry:
    chemistry = session.get(Chemistry, code)
    if chemistry is None or not chemistry.is_active:
        raise BadInputError(said("there-is-no-chemistry-in-catalogue", code=code), field="chemistry_code")
    return chemistry


def all_rows(session: Session, what: str) -> Sequence[Any]:
    """All of one part of the catalogue, those that are no longer used at the end."""
    table, key = _table(what)
    order = DonorKindRow.position if table is DonorKindRow else getattr(table, key)
    return session.scalars(select(table).order_by(table.is_active.desc(), order)).all()


def add_row(
    session: Session, actor: Actor, what: str, values: dict[str, Any], now: datetime, *, confirmed: bool = False
) -> Any:
    """Something new in the catalogue.

    Raises:
        BadInputError: it is there already, or a value cannot be.
        OddInputError: a rated value that hardly fits the size, and not confirmed.
    """
    require_coordinator(actor, said("doing-extending-catalogue"))
    table, key = _table(what)
    _check(session, what, values, confirmed=confirmed)
    if key == "code" and session.get(table, values["code"]):
        raise BadInputError(said("is-in-catalogue-already", values=values["code"]), field="code")
    _check_name(session, table, values, None)
    if table is DonorKindRow:
        values = {**values, "position": (session.scalar(select(func.max(DonorKindRow.position))) or 0) + 1}
    row = table(**values)
    session.add(row)
    session.flush()
    note(session, actor, "catalogue-added", now, part=what, row=values.get("code") or values.get("name"))
    return row


def change_row(
    session: Session,
    actor: Actor,
    what: str,
    key: str,
    seen_version: int,
    values: dict[str, Any],
    now: datetime,
    *,
    confirmed: bool = False,
) -> Any:
    """Something in the catalogue, changed. What cells were told before stays with them.

    Raises:
        NotFoundError: there is none of that key.
        ChangedMeanwhileError: somebody changed it after it was seen.
        OddInputError: a new rated value that hardly fits the size, and not confirmed.
    """
    require_coordinator(actor, said("doing-changing-catalogue"))
    table, key_name = _table(what)
    is_number = key.isascii() and key.isdigit() and len(key) < 10
    row: Any = session.get(table, key) if key_name != "id" else session.get(table, int(key)) if is_number else None
    if row is None:
        raise NotFoundError(said("there-is-no-in-catalogue", key=key))
    if row.version != seen_version:
        raise ChangedMeanwhileError(said("this-by-name", name=row.name))
    values = {name: value for name, value in values.items() if name != "code"}
    is_same = what == "models" and values["rated_capacity_mah"] == row.rated_capacity_mah
    _check(session, what, values, confirmed=confirmed or is_same)
    _check_name(session, table, values, row)
    before = {name: getattr(row, name) for name in values}
    for name, value in values.items():
        setattr(row, name, value)
    session.flush()
    changed = {name: _plain(value) for name, value in values.items() if before[name] != value}
    note(session, actor, "catalogue-changed", now, part=what, row=key, changed=changed)
    return row


def _plain(value: object) -> object:
    """As the record keeps it: JSON has no dates."""
    return value if value is None or isinstance(value, (str, int, float, bool, list, dict)) else str(value)


def _table(what: str) -> tuple[type[Any], str]:
    if what not in _TABLES:
        raise NotFoundError(said("no-such-entry-in-catalogue", what=what))
    return _TABLES[what]


def _check_name(session: Session, table: type[Any], values: dict[str, Any], own: Any) -> None:
    if "name" not in values or table in (CellFormat, Chemistry):
        return
    same = session.scalar(select(table).where(func.lower(table.name) == values["name"].lower()))
    if same is not None and same is not own:
        raise BadInputError(said("is-in-catalogue-already", values=values["name"]), field="name")


def _check(session: Session, what: str, values: dict[str, Any], *, confirmed: bool) -> None:
    """Raises BadInputError for the first value that cannot be, OddInputError for a rated one that hardly can."""
    if what == "formats":
        measured_outline(values["width_mm"], values["length_mm"], values["thickness_mm"])
    if what in ("models", "chemistries"):
        check_marked_full_v(values["family"], values["full_v"])
    if what == "models":
        named, family = resolve_size(session, values["size_code"]), Family(values["family"])
        rules = rules_in_force(session).for_kind(family, named.code)
        ask_about_rated(named.size, family, values["rated_capacity_mah"], rules, confirmed=confirmed)
        if not values["source"].strip():
            raise BadInputError(said("say-where-sheet-came-from"), field="source")
    if what == "pack-parts":
        read_part(TypedPart(values["kind"], values["figures"], values["name"]))
    if what == "donor-kinds":
        if values["usual_size"]:
            resolve_size(session, values["usual_size"])
        if values["cells_least"] > values["cells_most"]:
            raise BadInputError(said("least-number-of-cells-is-above"), field="cells_least")
