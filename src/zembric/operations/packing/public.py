"""What anybody may read of a pack, and how true promises turned out."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import select

from zembric.core.pack.cards import VisitorCard, visitor_card
from zembric.core.pack.outside import HowTrue, KeptPromise, how_true
from zembric.core.said import Amount, Said, said
from zembric.models import Happening, Pack, PackReport
from zembric.operations.cells.packed import members_of
from zembric.operations.known.rules import rules_in_force
from zembric.operations.packing.checks import check_pack
from zembric.operations.packing.outside import pack_of_page
from zembric.operations.packing.packs import get_pack, stopped_of
from zembric.operations.packing.recalls import recalls_of

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session


@dataclass(frozen=True, slots=True)
class PublicPack:
    """The card, the story without a person in it, and what it is called back for."""

    card: VisitorCard
    story: tuple[Said, ...]
    notices: tuple[str, ...]
    is_stopped: bool


def public_pack(session: Session, token: str, now: datetime) -> PublicPack:
    """Raises:
    NotFoundError: there is no such page, or it was withdrawn.
    """
    pack = get_pack(session, pack_of_page(session, token).number)
    found = check_pack(session, pack, now)
    return PublicPack(
        visitor_card(pack.number, pack.purpose, found.checked, found.lines),
        tuple(_story(session, pack)),
        tuple(each.recall.tell for each in recalls_of(session, pack)),
        stopped_of(pack) is not None,
    )


def _story(session: Session, pack: Pack) -> list[Said]:
    members = members_of(pack)
    donors = {member.cell.donor_id for member in members}
    told = [said("page-from", cells=len(members), donors=len(donors))]
    built = session.scalar(
        select(Happening.at).where(Happening.pack_id == pack.id, Happening.what == "pack-built", Happening.cell_id.is_(None)).limit(1)
    )  # fmt: skip
    if built is not None:
        told.append(said("page-built", day=built.date().isoformat()))
    if pack.commissioned_at is not None:
        told.append(said("page-proved", day=pack.commissioned_at.date().isoformat()))
        energy_wh = (pack.commissioning or {}).get("figures", {}).get("energy", {}).get("wh")
        if energy_wh is not None:
            told.append(said("page-gave", energy=Amount(energy_wh, "Wh", 1)))
    return told


def promises(session: Session) -> HowTrue | None:
    """Of each pack of which somebody told hours the last ones, held against what was worked out for it then."""
    query = select(PackReport, Pack.number).join(Pack, Pack.id == PackReport.pack_id)
    query = query.where(
        PackReport.kind == "use", PackReport.figures.has_key("hours"), PackReport.figures.has_key("worked_out_h")
    )
    last = {number: report.figures for report, number in session.execute(query.order_by(PackReport.id)).all()}
    kept = [KeptPromise(number, figures["worked_out_h"], figures["hours"]) for number, figures in last.items()]
    return how_true(kept, rules_in_force(session))
