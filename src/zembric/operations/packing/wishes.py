"""Wishes: packs that the shelf cannot meet yet, with what is missing and which untested cells are likely to do."""

from __future__ import annotations

from dataclasses import dataclass
from statistics import median
from typing import TYPE_CHECKING

from sqlalchemy import func, select

from zembric.core.errors import ConflictError, NotFoundError
from zembric.core.match import missing_cells, sift
from zembric.core.said import Amount, Said, said
from zembric.models import CellRow, JudgementRow, Wish
from zembric.operations.actors import require_them
from zembric.operations.cells.shelf import CellFilter, candidates, kinds_on_shelf
from zembric.operations.known.rules import rules_in_force
from zembric.operations.matching.proposals import checked_request, job_of, pool_for, request_from_json
from zembric.operations.packing.plans import read_purpose
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor
    from zembric.operations.cells.listed import ListedCell
    from zembric.operations.matching.proposals import MatchRequest

#: What a used cell usually keeps of its rated capacity, to guess at one that nobody measured.
_USUALLY_KEPT = 0.75
_MOST_LIKELY = 24
#: With so many times the cells that are needed nobody looks at each of them.
_CERTAINLY = 20


@dataclass(frozen=True, slots=True)
class LikelyCell:
    """A cell that is not graded yet and may do; `why` says on what ground."""

    listed: ListedCell
    expected_mah: float | None
    why: Said


@dataclass(frozen=True, slots=True)
class WishState:
    """How far a wish is: cells that may take part, what is missing for its groups, what may come of the untested."""

    wish: Wish
    request: MatchRequest
    have: int
    missing: int
    likely: tuple[LikelyCell, ...]

    @property
    def needed(self) -> int:
        return self.request.series * self.request.parallel


def make_wish(session: Session, actor: Actor, purpose: str, request: MatchRequest, now: datetime) -> Wish:
    """Raises:
    BadInputError: no purpose, or a request that cannot be.
    """
    checked_request(session, request, rules_in_force(session))
    wish = Wish(purpose=read_purpose(purpose), request=request.as_json(), made_at=now, made_by_id=actor.person_id)
    session.add(wish)
    session.flush()
    note(session, actor, "wished", now, wish=wish.id, purpose=wish.purpose)
    session.refresh(wish)
    return wish


def give_up_wish(session: Session, actor: Actor, wish_id: int, now: datetime) -> Wish:
    wish = session.get(Wish, wish_id, with_for_update={"of": Wish})
    if wish is None:
        raise NotFoundError(said("there-is-no-such-wish"))
    if wish.closed_at is not None:
        raise ConflictError(said("this-wish-was-met-or-given"))
    require_them(actor, wish.made_by, said("doing-giving-up-wish"))
    wish.closed_at = now
    note(session, actor, "wish-given-up", now, wish=wish.id, purpose=wish.purpose)
    session.flush()
    return wish


def open_wishes(session: Session) -> Sequence[Wish]:
    return session.scalars(select(Wish).where(Wish.closed_at.is_(None)).order_by(Wish.id)).all()


def wish_states(session: Session, now: datetime) -> list[WishState]:
    """All open wishes, the oldest first, each with how far it is."""
    return [_state(session, wish, now) for wish in open_wishes(session)]


def wishes_that_can_be_met(session: Session, now: datetime) -> list[Wish]:
    """Open wishes for which enough cells lie free on the shelf that keep every rule.

    The home screen asks for it again and again: it counts first, and looks at the cells only where there are hardly enough.
    """
    wishes = open_wishes(session)
    if not wishes:
        return []
    every: tuple[tuple[str, ...], ...] = (("A",), ("A", "B"), ("A", "B", "C"))
    counted = {grades: kinds_on_shelf(session, now, grades) for grades in every}
    ready = []
    for wish in wishes:
        request = request_from_json(wish.request)
        grades = tuple("ABC"[: "ABC".index(request.least_grade) + 1])
        have = sum(
            kind.count
            for kind in counted[grades]
            if kind.family == request.family.value and request.size_code in (None, kind.size_code)
        )
        needed = request.series * request.parallel
        if have >= _CERTAINLY * needed or (have >= needed and _missing(session, request, now) == 0):
            ready.append(wish)
    return ready


def _missing(session: Session, request: MatchRequest, now: datetime) -> int:
    rules = rules_in_force(session)
    pool = pool_for(session, request, rules, now, only_free=True)
    conditions = job_of(request, rules).conditions
    eligible = sift(pool.candidates, conditions, request.series, request.parallel).eligible
    return missing_cells(eligible, conditions, request.series, request.parallel)


def _state(session: Session, wish: Wish, now: datetime) -> WishState:
    request, rules = request_from_json(wish.request), rules_in_force(session)
    pool = pool_for(session, request, rules, now)
    conditions = job_of(request, rules).conditions
    eligible = sift(pool.candidates, conditions, request.series, request.parallel).eligible
    missing = missing_cells(eligible, conditions, request.series, request.parallel)
    return WishState(wish, request, len(eligible), missing, _likely(session, request, now) if missing else ())


def _likely(session: Session, request: MatchRequest, now: datetime) -> tuple[LikelyCell, ...]:
    """Cells of the kind that nobody has measured yet, those that will hold most by their siblings or their print first."""
    untested = [
        listed
        for listed in candidates(session, CellFilter(size_code=request.size_code, family=request.family), now)
        if listed.pack_number is None and listed.cell.judgement and listed.cell.judgement.grade == "not-yet"
    ]
    by_donor = _measured_by_donor(session, {listed.cell.donor_id for listed in untested})
    found = []
    for listed in untested:
        siblings = by_donor.get(listed.cell.donor_id)
        rated = listed.cell.rated_capacity_mah
        if siblings:
            expected = median(siblings)
            why = said("likely-by-siblings", expected=Amount(expected, "mAh"))
        elif rated:
            expected = _USUALLY_KEPT * rated
            why = said("likely-by-rated", rated=Amount(rated, "mAh"), expected=Amount(expected, "mAh"))
        else:
            found.append(LikelyCell(listed, None, said("likely-unknown")))
            continue
        found.append(LikelyCell(listed, expected, why))
    found.sort(key=lambda each: (-(each.expected_mah or 0), each.listed.cell.id))
    return tuple(found[:_MOST_LIKELY])


def _measured_by_donor(session: Session, donor_ids: set[int]) -> dict[int, list[float]]:
    query = (
        select(CellRow.donor_id, func.array_agg(JudgementRow.capacity_mah))
        .join(JudgementRow, CellRow.judgement_id == JudgementRow.id)
        .where(CellRow.donor_id.in_(donor_ids), JudgementRow.capacity_mah.is_not(None))
        .group_by(CellRow.donor_id)
    )
    return {donor_id: [value for value in values if value] for donor_id, values in session.execute(query)}
