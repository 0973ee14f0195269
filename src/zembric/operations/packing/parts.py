"""What a pack is built from and for: kept with its plan, from the catalogue, from a donor's kept parts or typed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import select

from zembric.core.errors import BadInputError, ConflictError
from zembric.core.pack.parts import PackPlan, TypedPart, read_plan
from zembric.core.said import said
from zembric.models import Pack, PackPart, Part

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

_LIVE = ("planned", "built", "given-out", "back")


@dataclass(frozen=True, slots=True)
class PartToKeep:
    """A part as it was typed, and which kept part of a donor it is; None: from elsewhere."""

    part: TypedPart
    part_id: int | None = None


def plan_of(pack: Pack) -> PackPlan:
    """The plan that a pack's parts make."""
    return read_plan([typed_part(part) for part in pack.parts])


def typed_part(part: PackPart) -> TypedPart:
    return TypedPart(part.kind, part.figures, part.name)  # type: ignore[arg-type]


def write_parts(session: Session, pack: Pack, parts: Sequence[PartToKeep]) -> None:
    """Puts these parts in the place of those that were.

    Raises:
        BadInputError: a part cannot be; names its field by its key alone, such as `most_a`.
        ConflictError: a donor's part is gone, or another pack has it.
    """
    read_plan([each.part for each in parts])
    own = {part.part_id for part in pack.parts if part.part_id is not None}
    claimed = [each.part_id for each in parts if each.part_id is not None]
    if len(claimed) != len(set(claimed)):
        raise BadInputError(said("part-twice-in-plan"), field="parts")
    for part_id in sorted(claimed):
        _claim(session, pack, part_id, is_own=part_id in own)
    pack.parts.clear()
    session.flush()
    pack.parts.extend(
        PackPart(
            position=position, kind=each.part.kind, name=" ".join(each.part.name.split()), part_id=each.part_id,
            figures={key: value.strip() for key, value in each.part.values.items() if value.strip()},
        )
        for position, each in enumerate(parts)
    )  # fmt: skip
    session.flush()


def _claim(session: Session, pack: Pack, part_id: int, *, is_own: bool) -> None:
    part = session.get(Part, part_id, with_for_update=True)
    if part is None or (part.gone_at is not None and not is_own):
        raise ConflictError(said("kept-part-is-gone"), field="parts")
    query = (
        select(Pack.number).join(PackPart).where(PackPart.part_id == part_id, Pack.id != pack.id, Pack.state.in_(_LIVE))
    )
    other = session.scalar(query)
    if other is not None:
        raise ConflictError(said("kept-part-in-pack", pack=other), field="parts")


def take_up_parts(session: Session, pack: Pack, now: datetime | None) -> None:
    """A built pack has taken its donors' parts; of one that was taken apart they lie here again (`now` None)."""
    for planned in pack.parts:
        if planned.part_id is not None:
            part = session.get_one(Part, planned.part_id, with_for_update=True)
            part.gone_at, part.gone_why = now, f"{pack.number}" if now else None
