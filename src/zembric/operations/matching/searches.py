"""Long searches for a match: asked for, run by the worker with new starts until time is up, stopped with the best so far."""

from __future__ import annotations

from itertools import count
from time import monotonic
from typing import TYPE_CHECKING

from sqlalchemy import select, update

from zembric.core.errors import BadInputError, ConflictError, NotFoundError, ZembricError
from zembric.core.match import Plan, is_better_plan, make_plan
from zembric.core.said import said, to_json
from zembric.models import MatchSearch, Person
from zembric.operations.actors import require_them
from zembric.operations.database import unit_of_work
from zembric.operations.known.rules import rules_in_force
from zembric.operations.matching.proposals import (
    checked_request,
    job_of,
    pool_for,
    proposal_of_groups,
    request_from_json,
)
from zembric.operations.queue import SEARCH_MATCH, SEARCHES, put_into_queue

if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from datetime import datetime

    from sqlalchemy import Engine
    from sqlalchemy.orm import Session

    from zembric.core.match import Candidate, Job
    from zembric.operations.actors import Actor
    from zembric.operations.matching.proposals import MatchRequest, Proposal

MOST_S = 600
#: So often the search says how far it is and looks whether it should stop.
_TELL_EVERY_S = 0.5
#: After so many new starts that brought nothing the answer stands.
_IDLE_STARTS = 25


def ask_for_search(session: Session, actor: Actor, request: MatchRequest, seconds: int, now: datetime) -> MatchSearch:
    """Puts a search into the worker's queue.

    Raises:
        BadInputError: a time that cannot be, or a request.
    """
    if not 1 <= seconds <= MOST_S:
        raise BadInputError(said("search-takes-1-to-s", most=MOST_S), field="seconds")
    checked_request(session, request, rules_in_force(session))
    search = MatchSearch(
        request=request.as_json(), seconds=seconds, state="waiting", share=0.0, is_stop_asked=False, asked_at=now,
        asked_by_id=actor.person_id,
    )  # fmt: skip
    session.add(search)
    session.flush()
    put_into_queue(session, SEARCH_MATCH, SEARCHES, search_id=search.id)
    return search


def get_search(session: Session, search_id: int) -> MatchSearch:
    search = session.get(MatchSearch, search_id)
    if search is None:
        raise NotFoundError(said("there-is-no-such-search"))
    return search


def best_so_far(session: Session, search_id: int, now: datetime) -> Proposal:
    """Raises:
    ConflictError: nothing was found yet, or its cells may no longer take part.
    """
    search = get_search(session, search_id)
    if search.groups is None or search.bound_mah is None:
        raise ConflictError(said("this-search-has-found-nothing-yet"))
    return proposal_of_groups(session, request_from_json(search.request), search.groups, search.bound_mah, now)


def stop_search(session: Session, actor: Actor, search_id: int) -> MatchSearch:
    """Asks a search to end; what it has so far stays."""
    search = get_search(session, search_id)
    require_them(actor, session.get_one(Person, search.asked_by_id), said("doing-stopping-search"))
    search.is_stop_asked = True
    session.flush()
    return search


def take_up_searches_again(session: Session) -> None:
    """Puts searches that were broken off, by a worker that was killed, into the queue once more."""
    for search_id in session.scalars(
        select(MatchSearch.id).where(MatchSearch.state == "searching").order_by(MatchSearch.id)
    ):
        put_into_queue(session, SEARCH_MATCH, SEARCHES, search_id=search_id)


def run_search(engine: Engine, search_id: int, clock: Callable[[], datetime]) -> None:
    """Searches until time is up, somebody stops it, the proof is there, or new starts bring nothing any more."""
    with unit_of_work(engine) as session:
        search = session.get(MatchSearch, search_id, with_for_update=True)
        if search is None or search.state in ("done", "failed"):
            return
        search.state = "searching"
        request, rules, seconds = request_from_json(search.request), rules_in_force(session), search.seconds
        candidates = pool_for(session, request, rules, clock()).candidates
    progress = _Progress(engine, search_id, seconds)
    try:
        _search(candidates, job_of(request, rules), progress)
    except ZembricError as error:
        _write(engine, search_id, state="failed", trouble=to_json(error.said), ended_at=clock())
    else:
        _write(engine, search_id, state="done", share=1.0, ended_at=clock())


def give_up_search(engine: Engine, search_id: int, now: datetime) -> None:
    """A search that broke for a reason of the inside says so to whoever waits for it."""
    trouble = to_json(said("search-went-wrong"))
    _write(engine, search_id, state="failed", trouble=trouble, ended_at=now)


class _Progress:
    """Share of the time that is gone, 1 when somebody wants it to stop; told to the database now and then."""

    def __init__(self, engine: Engine, search_id: int, seconds: float) -> None:
        self._engine, self._search_id, self._seconds = engine, search_id, seconds
        self._began = monotonic()
        self._told = 0.0
        self._is_stopped = False

    def __call__(self) -> float:
        gone = monotonic() - self._began
        if gone - self._told >= _TELL_EVERY_S and not self._is_stopped:
            self._told = gone
            with unit_of_work(self._engine) as session:
                search = get_search(session, self._search_id)
                search.share = min(1.0, gone / self._seconds)
                self._is_stopped = search.is_stop_asked
        return 1.0 if self._is_stopped else gone / self._seconds

    def keep(self, plan: Plan) -> None:
        best = plan.choices[0].match
        _write(
            self._engine, self._search_id, weakest_mah=best.weakest_mah, bound_mah=best.bound_mah,
            groups=[list(group.keys) for group in best.groups],
        )  # fmt: skip


def _search(candidates: Sequence[Candidate], job: Job, progress: _Progress) -> None:
    best = make_plan(candidates, job, time_used=progress)
    progress.keep(best)
    idle = 0
    for seed in count(1):
        match = best.choices[0].match
        if progress() >= 1 or idle >= _IDLE_STARTS or (match.proved_best and match.spread_mah == 0):
            return
        try:
            found = make_plan(candidates, job, seed=seed, time_used=progress)
        except ConflictError:  # another start may not reach a target, or find no way around what is held
            idle += 1
            continue
        if is_better_plan(found, best):
            best, idle = found, 0
            progress.keep(best)
        else:
            idle += 1


def _write(engine: Engine, search_id: int, **values: object) -> None:
    with unit_of_work(engine) as session:
        session.execute(update(MatchSearch).where(MatchSearch.id == search_id).values(**values))
