"""Routes: cells, their entries, and the home overview."""

from __future__ import annotations

import json
from dataclasses import asdict
from datetime import timedelta
from typing import TYPE_CHECKING, Any

from flask import Response

from zembric.api import schemas
from zembric.api.blueprints import a_file, make_blueprint
from zembric.api.requests import read, read_file, when, write
from zembric.api.shown.bench import show_bench, show_running
from zembric.api.shown.cells import show_cell, show_group, show_judged, show_story, show_tray_steps
from zembric.api.shown.outside import show_recalled
from zembric.api.shown.packs import show_recall
from zembric.files.stories import write_story
from zembric.operations.bench import entries, recoveries, taking_back, whereabouts
from zembric.operations.bench.benchside import at_the_bench
from zembric.operations.bench.readings import TypedReading, heat_details
from zembric.operations.cells import home, identity, shelf, stories
from zembric.operations.cells.judged import story_of
from zembric.operations.cells.photos import photos_of
from zembric.operations.cells.what_if import TypedWhatIf, what_if
from zembric.operations.house.evenings import brought_since
from zembric.operations.known.rules import rules_in_force
from zembric.operations.packing import packs, plans, wishes
from zembric.operations.packing.recalls import open_recalls
from zembric.operations.places import place_by_number

if TYPE_CHECKING:
    from collections.abc import Callable
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.models import CellRow
    from zembric.operations.actors import Actor

bp = make_blueprint("cells")


@bp.get("/home", responses={"200": schemas.HomeOut})
def get_home() -> Response:
    return read(
        lambda session, _actor, now: schemas.HomeOut(
            now=now,
            running=[
                show_running(cell.number, running) for cell, running in recoveries.running_recoveries(session, now)
            ],
            groups=[show_group(group) for group in home.by_step(session, now)],
            trays=[show_tray_steps(tray) for tray in home.tray_steps(session, now)],
            stale_plans=[schemas.StalePlanOut.model_validate(pack) for pack in plans.stale_plans(session, now)],
            stopped_packs=[show_recall(pack) for pack in packs.stopped_packs(session)],
            recalled=[show_recalled(each) for each in open_recalls(session)],
            wishes=[schemas.ReadyWishOut.model_validate(wish) for wish in wishes.wishes_that_can_be_met(session, now)],
        )
    )


@bp.get("/cells", responses={"200": schemas.CellPageOut})
def get_cells(query: schemas.CellQuery) -> Response:
    wanted = _filter(query)

    def page(session: Session, _actor: Actor, now: datetime) -> schemas.CellPageOut:
        asked = shelf.CellPage(query.sort, query.falling, query.most, query.after, query.before, query.by, query.offset)
        total, found, ends = shelf.list_cells(session, wanted, now, asked)
        return schemas.CellPageOut(
            total=total, cells=[show_cell(listed) for listed in found], sizes=list(shelf.sizes_here(session)),
            first_by=ends[0], last_by=ends[1],
        )  # fmt: skip

    return read(page)


@bp.get("/shelf-map", responses={"200": schemas.ShelfMapOut})
def get_shelf_map(query: schemas.CellQuery) -> Response:
    """Every cell that fits as a point of capacity and resistance."""
    return read(lambda s, _actor, now: schemas.ShelfMapOut.model_validate(shelf.shelf_map(s, _filter(query), now)))


@bp.get("/brought", responses={"200": schemas.BroughtOut})
def get_brought(query: schemas.BroughtQuery) -> Response:
    """What the last hours or days brought, and which donors are worth opening."""

    def show(session: Session, _actor: Actor, now: datetime) -> schemas.BroughtOut:
        since = now - timedelta(days=query.days)
        return schemas.BroughtOut(since=since, **asdict(brought_since(session, since, now)))

    return read(show)


@bp.post("/moves", responses={"200": schemas.BulkMoveOut})
def post_bulk_move(body: schemas.BulkMoveIn) -> Response:
    """Many cells into one place, all or none."""

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.BulkMoveOut:
        place = place_by_number(session, body.place)
        for number in sorted(set(body.numbers)):
            whereabouts.lay_into(session, actor, number, place, None, now)
        return schemas.BulkMoveOut(moved=len(set(body.numbers)))

    return write(perform)


@bp.get("/cells/<string:number>", responses={"200": schemas.StoryOut})
def get_cell(path: schemas.CellPath) -> Response:
    return read(lambda session, _actor, now: show_story(stories.cell_story(session, path.number, now)))


@bp.get("/cells/<string:number>/story.json", responses=a_file(".json"))
def get_cell_story_file(path: schemas.CellPath) -> Response:
    """The cell's story in the open format, as `./zembric judge` takes it."""

    def written(session: Session, _actor: Actor, now: datetime) -> bytes:
        cell = stories.get_cell(session, path.number)
        document = write_story(story_of(session, cell), rules_in_force(session), now)
        return (json.dumps({"number": cell.number, **document}, ensure_ascii=False, indent=1) + "\n").encode()

    return read_file(written, "application/json", f"cell-{path.number}.json", attached=True)


@bp.get("/cells/<string:number>/bench", responses={"200": schemas.BenchOut})
def get_bench(path: schemas.CellPath) -> Response:
    """A cell in hand, with everything that has to be known beside it."""

    def show(session: Session, _actor: Actor, now: datetime) -> schemas.BenchOut:
        side = at_the_bench(session, path.number, now)
        return show_bench(side, photos_of(session, side.listed.cell), now)

    return read(show)


@bp.put("/cells/<string:number>/facts", responses={"200": schemas.EntryAnswerOut})
def put_facts(path: schemas.CellPath, body: schemas.FactsIn) -> Response:
    facts = body.model_dump(exclude_unset=True, exclude={"seen_version", "siblings_too", "confirmed"})
    return _entry(
        lambda s, actor, now: identity.set_facts(
            s,
            actor,
            path.number,
            body.seen_version,
            facts,
            now,
            siblings_too=body.siblings_too,
            confirmed=body.confirmed,
        )
    )


@bp.post("/cells/<string:number>/first-looks", responses={"200": schemas.EntryAnswerOut})
def post_first_look(path: schemas.CellPath, body: schemas.FirstLookIn) -> Response:
    reading = (
        TypedReading(
            "voltage",
            body.value,
            "meter",
            body.confirmed,
            turned=body.turned,
            state=body.state,
            cell_degc=body.cell_degc,
            bench_degc=body.bench_degc,
            warmth=body.warmth,
        )
        if body.value is not None
        else None
    )
    return _entry(
        lambda s, actor, now: entries.first_look(
            s, actor, path.number, body.findings, reading, now, heat=_heat(body), typed_at=when(body)
        )
    )


def _heat(body: schemas.HeatIn) -> dict[str, Any]:
    return heat_details(body.cell_degc, body.bench_degc, body.warmth)


@bp.post("/cells/<string:number>/inspections", responses={"200": schemas.EntryAnswerOut})
def post_inspection(path: schemas.CellPath, body: schemas.InspectionIn) -> Response:
    return _entry(
        lambda s, actor, now: entries.inspect(
            s, actor, path.number, body.findings, now, heat=_heat(body), typed_at=when(body)
        )
    )


@bp.post("/cells/<string:number>/readings", responses={"200": schemas.EntryAnswerOut})
def post_reading(path: schemas.CellPath, body: schemas.ReadingIn) -> Response:
    reading = TypedReading(**body.model_dump(exclude={"typed_at", "paper_at"}))
    return _entry(lambda s, actor, now: entries.measure(s, actor, path.number, reading, now, typed_at=when(body)))


@bp.post("/cells/<string:number>/charges", responses={"200": schemas.EntryAnswerOut})
def post_charge(path: schemas.CellPath, body: schemas.ChargeIn) -> Response:
    charged = entries.TypedCharge(**body.model_dump(exclude={"typed_at", "paper_at"}))
    return _entry(lambda s, actor, now: entries.charge(s, actor, path.number, charged, now, typed_at=when(body)))


@bp.post("/cells/<string:number>/recoveries", responses={"200": schemas.EntryAnswerOut})
def post_recovery(path: schemas.CellPath, body: schemas.RecoveryIn) -> Response:
    return _entry(lambda s, actor, now: entries.recover(s, actor, path.number, body.outcome, now))


@bp.post("/cells/<string:number>/recovery-starts", responses={"200": schemas.EntryAnswerOut})
def post_recovery_start(path: schemas.CellPath, body: schemas.RecoveryStartIn) -> Response:
    return _entry(
        lambda s, actor, now: recoveries.start_recovery(s, actor, path.number, body.current_ma, body.cell_degc, now)
    )


@bp.post("/cells/<string:number>/recovery-checks", responses={"200": schemas.EntryAnswerOut})
def post_recovery_check(path: schemas.CellPath, body: schemas.RecoveryCheckIn) -> Response:
    look = recoveries.TypedLook(**body.model_dump())
    return _entry(lambda s, actor, now: recoveries.check_recovery(s, actor, path.number, look, now))


@bp.post("/cells/<string:number>/repairs", responses={"200": schemas.EntryAnswerOut})
def post_repair(path: schemas.CellPath, body: schemas.RepairIn) -> Response:
    return _entry(lambda s, actor, now: entries.repair(s, actor, path.number, body.done, now, typed_at=when(body)))


@bp.post("/cells/<string:number>/skips", responses={"200": schemas.EntryAnswerOut})
def post_skip(path: schemas.CellPath, body: schemas.SkipIn) -> Response:
    return _entry(lambda s, actor, now: entries.skip(s, actor, path.number, body.what, body.why, now))


@bp.post("/cells/<string:number>/decisions", responses={"200": schemas.EntryAnswerOut})
def post_decision(path: schemas.CellPath, body: schemas.DecisionIn) -> Response:
    return _entry(lambda s, actor, now: entries.decide(s, actor, path.number, body.about, body.outcome, body.why, now))


@bp.post("/cells/<string:number>/overrules", responses={"200": schemas.EntryAnswerOut})
def post_overrule(path: schemas.CellPath, body: schemas.OverruleIn) -> Response:
    return _entry(lambda s, actor, now: entries.overrule(s, actor, path.number, body.grade, body.why, now))


@bp.post("/cells/<string:number>/what-if", responses={"200": schemas.JudgedOut})
def post_what_if(path: schemas.CellPath, body: schemas.WhatIfIn) -> Response:
    """What a cell would be judged under other schools, or with one more reading; nothing is kept."""

    def judged(session: Session, _actor: Actor, now: datetime) -> schemas.JudgedOut:
        found = what_if(session, path.number, TypedWhatIf(**body.model_dump()), now)
        return show_judged(found)

    return read(judged)


@bp.post("/cells/<string:number>/shelvings", responses={"200": schemas.EntryAnswerOut})
def post_shelving(path: schemas.CellPath, body: schemas.ShelvingIn) -> Response:
    return _entry(lambda s, actor, now: whereabouts.shelve(s, actor, path.number, body.place_id, now))


@bp.post("/cells/<string:number>/out-box", responses={"200": schemas.EntryAnswerOut})
def post_out_box(path: schemas.CellPath, body: schemas.NothingIn) -> Response:  # noqa: ARG001  # an empty body is checked too
    return _entry(lambda s, actor, now: whereabouts.put_out(s, actor, path.number, now))


@bp.post("/cells/<string:number>/moves", responses={"200": schemas.EntryAnswerOut})
def post_move(path: schemas.CellPath, body: schemas.MoveIn) -> Response:
    return _entry(
        lambda s, actor, now: whereabouts.lay_into(
            s, actor, path.number, place_by_number(s, body.place), body.slot, now
        )
    )


@bp.post("/cells/<string:number>/uses", responses={"200": schemas.EntryAnswerOut})
def post_use(path: schemas.CellPath, body: schemas.UseIn) -> Response:
    return _entry(lambda s, actor, now: whereabouts.put_into_use(s, actor, path.number, body.device, now))


@bp.post("/cells/<string:number>/withdrawals", responses={"200": schemas.EntryAnswerOut})
def post_withdrawal(path: schemas.CellPath, body: schemas.WithdrawalIn) -> Response:
    return _entry(lambda s, actor, now: taking_back.withdraw(s, actor, path.number, body.entry_id, now))


@bp.post("/cells/<string:number>/strikes", responses={"200": schemas.EntryAnswerOut})
def post_strike(path: schemas.CellPath, body: schemas.StrikeIn) -> Response:
    return _entry(lambda s, actor, now: taking_back.strike(s, actor, path.number, body.entry_id, body.why, now))


@bp.post("/cells/<string:number>/corrections", responses={"200": schemas.EntryAnswerOut})
def post_correction(path: schemas.CellPath, body: schemas.CorrectionIn) -> Response:
    reading = TypedReading(**body.reading.model_dump(exclude={"typed_at", "paper_at"}))
    return _entry(
        lambda s, actor, now: taking_back.correct(s, actor, path.number, body.entry_id, reading, body.why, now)
    )


def _filter(query: schemas.CellQuery) -> shelf.CellFilter:
    return shelf.CellFilter(
        on_shelf=query.on_shelf, free=query.free, step=query.step, grades=tuple(query.grade), size_code=query.size_code,
        family=query.family, place_id=query.place_id, donor_number=query.donor,
        capacity_mah=(query.capacity_from, query.capacity_to), resistance_mohm=(query.resistance_from, query.resistance_to),
        resistance_method=query.resistance_method,
    )  # fmt: skip


def _entry(operation: Callable[[Session, Actor, datetime], CellRow]) -> Response:
    """Runs one entry and answers with the cell as it is judged now."""

    def perform(session: Session, actor: Actor, now: datetime) -> schemas.EntryAnswerOut:
        cell = operation(session, actor, now)
        after = stories.after_entry(session, cell, now)
        return schemas.EntryAnswerOut(
            cell=show_cell(after.listed), entry_id=after.entry_id, gap_to_siblings_v=after.gap_to_siblings_v
        )

    return write(perform)
