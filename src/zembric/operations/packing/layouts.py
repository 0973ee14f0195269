"""Where the cells of a pack stand: proposed, checked, kept, read from a file."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from zembric.core.errors import BadInputError, ChangedMeanwhileError, ConflictError
from zembric.core.house import limits
from zembric.core.identify.sizes import read_size
from zembric.core.pack.checks import Check
from zembric.core.pack.layout import Body, check_layout, plate_of, propose
from zembric.core.pack.layout.model import read_case
from zembric.core.said import named, plain, said
from zembric.files.layouts import as_plain, from_plain
from zembric.operations.cells.packed import members_of
from zembric.operations.known.rules import rules_in_force
from zembric.operations.packing.on_paper import paper_groups
from zembric.operations.packing.parts import plan_of
from zembric.operations.record import note

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.core.house.rules import HouseRules
    from zembric.core.identify.sizes import Shape
    from zembric.core.pack.checks import Checked
    from zembric.core.pack.layout import Case, NetFlow, Outline, PackLayout, Proposal
    from zembric.models import CellRow, Pack
    from zembric.operations.actors import Actor


@dataclass(frozen=True, slots=True)
class LaidOut:
    """A layout with its lines, and its net at the worst current [A]; None: nobody said what it feeds, or it is not joined."""

    layout: PackLayout
    lines: tuple[Check, ...]
    flow: NetFlow | None
    current_a: float | None


def kept_layout(pack: Pack) -> PackLayout | None:
    """The layout that was kept; None: none was, or its groups are no longer as large."""
    if pack.layout is None:
        return None
    layout = from_plain(pack.layout)
    return layout if {place.key for place in layout.places} == keys_of(pack) else None


def keys_of(pack: Pack) -> set[tuple[int, int]]:
    """Group and position of each cell, both from 1."""
    return {
        (group, position) for group, each in enumerate(pack.groups, 1) for position in range(1, len(each.cells) + 1)
    }


def cells_by_key(pack: Pack) -> dict[tuple[int, int], CellRow]:
    return {
        (group, position): member.cell
        for group, each in enumerate(pack.groups, 1)
        for position, member in enumerate(each.cells, 1)
    }


def body_of(pack: Pack) -> Body:
    """The largest of its cells, by caliper where that is known, else by its size.

    Raises:
        ConflictError: the size of some is not known, or there are cylinders and flat cells in it; or there are too many, or none any more.
    """
    cells = [member.cell for member in members_of(pack)]
    if not cells:
        raise ConflictError(said("layout-no-cells", pack=pack.number))
    most = int(limits.LAYOUT_MOST_CELLS.value)
    if len(cells) > most:
        raise ConflictError(said("layout-too-many", most=plain(most), count=len(cells)))
    unknown = tuple(cell.number for cell in cells if cell.width_mm is None and not cell.size_code)
    if unknown:
        raise ConflictError(said("layout-size-unknown", cells=unknown, count=len(unknown)))
    bodies = [_body(cell) for cell in cells]
    if len({body.shape for body in bodies}) > 1:
        raise ConflictError(said("layout-shapes-mixed"))
    first = bodies[0]
    thick = [body.thick_mm for body in bodies if body.thick_mm is not None]
    return Body(
        first.shape, max(body.across_mm for body in bodies), max(body.height_mm for body in bodies),
        max(thick) if thick else None,
    )  # fmt: skip


def _body(cell: CellRow) -> Body:
    if cell.width_mm is not None and cell.length_mm is not None:
        shape: Shape = "cylinder" if cell.thickness_mm is None else "flat"
        return Body(shape, cell.width_mm, cell.length_mm, cell.thickness_mm)
    size = read_size(cell.size_code or "")
    return Body(size.shape, size.width_mm, size.length_mm, size.thickness_mm)


def propose_layouts(session: Session, pack: Pack, case: Case | None) -> tuple[Proposal, ...]:
    """Layouts for its groups, the best first.

    Raises:
        BadInputError: the room cannot be.
        ConflictError: the sizes of its cells do not allow it.
    """
    rules = rules_in_force(session)
    if case is not None:
        read_case(case, rules)
    return propose([len(group.cells) for group in pack.groups], body_of(pack), case, rules)


def layout_lines(pack: Pack, checked: Checked) -> tuple[Check, ...]:
    """What is to be said of the kept layout beside the other lines of a plan; nothing where none is kept."""
    layout = kept_layout(pack)
    if layout is None:
        return ()
    current_a = checked.runs.worst_a if checked.runs else None
    try:
        body = body_of(pack)
    except ConflictError as cannot:
        # A cell is said to be of another size since: the drawing says so instead of the page staying away.
        return (Check("layout-fits", "stop", cannot.said, mend=said("mend-layout-anew")),)
    return check_layout(layout, body, checked.groups, checked.plan, current_a, checked.rules)[0]


def look_at_layout(session: Session, pack: Pack, layout: PackLayout, current_a: float | None, now: datetime) -> LaidOut:
    """Raises:
    BadInputError: it is no layout of this pack.
    ConflictError: the sizes of its cells do not allow it.
    """
    rules = rules_in_force(session)
    _refuse_other_cells(pack, layout, rules)
    lines, flow = check_layout(layout, body_of(pack), paper_groups(pack, now), plan_of(pack), current_a, rules)
    return LaidOut(layout, lines, flow, current_a)


def keep_layout(
    session: Session, actor: Actor, pack: Pack, layout: PackLayout | None, seen_version: int, now: datetime
) -> Pack:
    """Keeps where the cells stand; None: nothing is kept any more.

    Raises:
        ChangedMeanwhileError: somebody changed the pack after it was seen.
        ConflictError: it is out of the house or no more.
        BadInputError: it is no layout of this pack.
    """
    session.refresh(pack, with_for_update=True)
    if pack.version != seen_version:
        raise ChangedMeanwhileError(said("this-pack", pack=pack.number))
    if pack.state not in ("planned", "built", "back"):
        raise ConflictError(said("parts-not-in-state", pack=pack.number, state=named("pack-state", pack.state)))
    if layout is not None:
        body_of(pack)
        _refuse_other_cells(pack, layout, rules_in_force(session))
    pack.layout = as_plain(layout) if layout else None
    pack.version += 1
    note(session, actor, "pack-laid-out", now, pack_id=pack.id, pack=pack.number)
    session.flush()
    return pack


def plate_for(session: Session, pack: Pack) -> Outline:
    """What is cut for its kept layout.

    Raises:
        ConflictError: none is kept.
    """
    return plate_of(layout_for(pack), body_of(pack), rules_in_force(session))


def layout_for(pack: Pack) -> PackLayout:
    """Raises:
    ConflictError: none is kept.
    """
    layout = kept_layout(pack)
    if layout is None:
        raise ConflictError(said("no-layout-kept", pack=pack.number))
    return layout


def _refuse_other_cells(pack: Pack, layout: PackLayout, rules: HouseRules) -> None:
    if len(layout.places) != len(keys := keys_of(pack)) or {place.key for place in layout.places} != keys:
        raise BadInputError(said("layout-other-cells", pack=pack.number, count=len(keys)), field="places")
    most = rules.value(limits.CASE_MOST_MM)
    for place in layout.places:
        if not (-most <= place.x_mm <= most and -most <= place.y_mm <= most):
            raise BadInputError(said("case-cannot-be", most=plain(most)), field="places")
    first, last = len(pack.groups[0].cells), len(pack.groups[-1].cells)
    if not (1 <= layout.minus_at <= first and 1 <= layout.plus_at <= last):
        raise BadInputError(said("layout-other-cells", pack=pack.number, count=len(keys)), field="minus_at")
    if layout.case is not None:
        read_case(layout.case, rules)
    allowed = body_of(pack).arrangements
    if layout.arrangement not in allowed:
        raise BadInputError(said("layout-other-cells", pack=pack.number, count=len(keys)), field="arrangement")
