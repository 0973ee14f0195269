"""Routes: what the cafe knows beforehand, its house rules, what a print means, and what a number names."""

from __future__ import annotations

import json
from datetime import timedelta, timezone
from typing import TYPE_CHECKING, Any

from flask import Response
from sqlalchemy import select

from zembric.api import schemas
from zembric.api.blueprints import a_file, make_blueprint
from zembric.api.requests import read, read_file, write
from zembric.api.shown.bench import show_claim, show_size
from zembric.api.shown.catalogue import show_catalogue, show_rules
from zembric.core.errors import BadInputError
from zembric.core.house.limits import Family
from zembric.core.house.rules import HouseRules, SpecialRule, read_values
from zembric.core.identify.claims import check_claim
from zembric.core.identify.sizes import nearest_usual, primary_suspicion, read_print
from zembric.core.said import said
from zembric.files.stories import write_rules
from zembric.models import Person
from zembric.operations.cells.lookup import find, search
from zembric.operations.house import rules
from zembric.operations.known import catalogue
from zembric.operations.known.rules import rules_in_force

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

bp = make_blueprint("catalogue")
_VALUES_OF = {
    "donor-kinds": "donor_kind",
    "formats": "format",
    "chemistries": "chemistry",
    "models": "model",
    "tray-sizes": "tray_size",
    "pack-parts": "pack_part",
}
_HAS_CODES = ("donor-kinds", "formats", "chemistries")


@bp.get("/catalogue", responses={"200": schemas.CatalogueOut})
def get_catalogue() -> Response:
    return read(lambda session, _actor, _now: show_catalogue(session))


@bp.post("/catalogue/<string:part>", responses={"201": schemas.CatalogueOut})
def post_catalogue_row(path: schemas.CataloguePath, body: schemas.RowIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.CatalogueOut:
        values = _values(path.part, body)
        if path.part in _HAS_CODES:
            if body.code is None:
                raise BadInputError(said("give-it-short-name-that-stays"), field="code")
            values |= {"code": body.code}
        catalogue.add_row(session, actor, path.part, values, now, confirmed=body.confirmed)
        return show_catalogue(session)

    return write(perform, 201)


@bp.put("/catalogue/<string:part>/<string:key>", responses={"200": schemas.CatalogueOut})
def put_catalogue_row(path: schemas.CatalogueRowPath, body: schemas.RowIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.CatalogueOut:
        if body.seen_version is None:
            raise BadInputError(said("say-which-version"), field="seen_version")
        catalogue.change_row(
            session, actor, path.part, path.key, body.seen_version, _values(path.part, body), now, confirmed=body.confirmed
        )  # fmt: skip
        return show_catalogue(session)

    return write(perform)


@bp.get("/rules", responses={"200": schemas.RulesOut})
def get_rules() -> Response:
    return read(lambda session, _actor, _now: _rules(session))


@bp.put("/rules", responses={"200": schemas.RulesOut})
def put_rules(body: schemas.RulesIn) -> Response:
    def perform(session: Session, actor: Actor, now: datetime) -> schemas.RulesOut:
        changed = rules.set_rules(session, actor, body.seen_version, _as_rules(body), body.why, now)
        return _rules(session, changed)

    return write(perform)


@bp.get("/rules.json", responses=a_file(".json"))
def get_rules_file() -> Response:
    """The rules in force as a file, to be taken to another cafe or back again."""

    def written(session: Session, _actor: Actor, _now: datetime) -> bytes:
        return (json.dumps(write_rules(rules_in_force(session)), ensure_ascii=False, indent=1) + "\n").encode()

    return read_file(written, "application/json", "house-rules.json", attached=True)


@bp.post("/rules/preview", responses={"200": schemas.RulesPreviewOut})
def post_rules_preview(body: schemas.RulesToTryIn) -> Response:
    """Which cells another set of rules would judge differently; nothing is kept."""
    return read(lambda session, _actor, now: _preview(rules.preview_rules(session, _as_rules(body), now)))


@bp.get("/size", responses={"200": schemas.SizeOut})
def get_size(query: schemas.SizeQuery) -> Response:
    """What a print on a cell means, and whether its claim can be."""

    def show(session: Session, _actor: Actor, _now: datetime) -> schemas.SizeOut:
        found = read_print(query.code)
        family = Family(query.family) if query.family else found.family
        rules, outline = rules_in_force(session), found.readings[0]
        check = check_claim(outline, family, query.claim_mah, rules, query.mass_g) if query.claim_mah else None
        suspicion = primary_suspicion(query.code) if family is not Family.PRIMARY else None
        usual = nearest_usual(outline, catalogue.formats_as_sizes(session), rules) if " x " in found.code else None
        return show_size(found, usual, suspicion, show_claim(check, query.claim_mah))

    return read(show)


@bp.get("/find", responses={"200": schemas.FoundOut})
def get_found(query: schemas.FindQuery) -> Response:
    """The thing behind a number that was typed or scanned."""
    return read(
        lambda session, _actor, _now: schemas.FoundOut.model_validate(find(session, query.text, _clock_of(query)))
    )


@bp.get("/search", responses={"200": schemas.SoughtOut})
def get_sought(query: schemas.FindQuery) -> Response:
    """What fits every word: of a device, a size, a place, a person or a day."""

    def perform(session: Session, _actor: Actor, now: datetime) -> schemas.SoughtOut:
        sought = search(session, query.text, now.astimezone(_clock_of(query)))
        found = [schemas.FoundOut.model_validate(each) for each in sought.found]
        return schemas.SoughtOut(found=found, cells=sought.cells)

    return read(perform)


def _clock_of(query: schemas.FindQuery) -> timezone:
    return timezone(timedelta(minutes=query.utc_offset_min))


def _values(part: str, body: schemas.RowIn) -> dict[str, Any]:
    field = _VALUES_OF[part]
    values: schemas.In | None = getattr(body, field)
    if values is None:
        raise BadInputError(said("what-it-is-belongs-into", field=field), field=field)
    return values.model_dump()


def _as_rules(body: schemas.RulesToTryIn) -> HouseRules:
    special = tuple(
        SpecialRule(read_values(rule.values), Family(rule.family) if rule.family else None, rule.size_code)
        for rule in body.special
    )
    return HouseRules(0, body.voltage_school, body.grade_school, read_values(body.values), special, dict(body.switches))


def _preview(found: rules.RulesPreview) -> schemas.RulesPreviewOut:
    moves = [{"before": before, "after": after, "cells": cells} for before, after, cells in found.moves]
    first = [schemas.RuleChangeOut.model_validate(change) for change in found.first]
    return schemas.RulesPreviewOut(
        cells=found.cells,
        changed=found.changed,
        moves=[schemas.RuleMoveOut.model_validate(move) for move in moves],
        first=first,
    )


def _rules(session: Session, changed: int | None = None) -> schemas.RulesOut:
    versions = rules.all_versions(session)
    wanted = {row.person_id for row in versions if row.person_id}
    people = session.execute(select(Person.id, Person.name).where(Person.id.in_(wanted)))
    return show_rules(versions, {person_id: name for person_id, name in people}, changed)  # noqa: C416  # rows are no tuples to dict()
