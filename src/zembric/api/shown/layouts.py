"""Layouts, as they go over the wire and as they come from it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zembric.api import schemas
from zembric.api.shown.packs import show_check
from zembric.core.pack.layout import Case, PackLayout, Placed, Rect, StripKind, links_of, pitch_mm, poles_of, taps_of
from zembric.core.pack.layout.outlines import bounds_mm
from zembric.operations.packing.layouts import body_of, cells_by_key
from zembric.operations.packing.parts import plan_of

if TYPE_CHECKING:
    from zembric.core.house.rules import HouseRules
    from zembric.core.pack.layout import Body, Proposal
    from zembric.models import Pack
    from zembric.operations.packing.layouts import LaidOut


def case_of(case: schemas.CaseIn | None) -> Case | None:
    if case is None:
        return None
    rects = tuple(Rect(each.x_mm, each.y_mm, each.length_mm, each.width_mm) for each in case.keep_outs)
    return Case(case.length_mm, case.width_mm, case.height_mm, rects)


def layout_of(sent: schemas.LayoutIn) -> PackLayout:
    places = tuple(Placed(each.group, each.position, each.x_mm, each.y_mm, each.end) for each in sent.places)
    return PackLayout(
        sent.arrangement, places, sent.minus_at, sent.plus_at, case_of(sent.case), sent.has_spacers
    )  # fmt: skip


def show_body(body: Body) -> schemas.BodyOut:
    return schemas.BodyOut.model_validate(body)


def show_layout(layout: PackLayout, pack: Pack) -> schemas.LayoutOut:
    cells = cells_by_key(pack)
    return schemas.LayoutOut.model_validate(
        {
            "arrangement": layout.arrangement, "minus_at": layout.minus_at, "plus_at": layout.plus_at,
            "case": layout.case, "has_spacers": layout.has_spacers,
            "places": [
                {
                    "group": place.group, "position": place.position, "number": cells[place.key].number,
                    "x_mm": place.x_mm, "y_mm": place.y_mm, "end": place.end,
                }
                for place in layout.places
            ],
        }
    )  # fmt: skip


def show_proposal(each: Proposal, pack: Pack) -> schemas.LayoutProposalOut:
    return schemas.LayoutProposalOut(
        layout=show_layout(each.layout, pack), strip_mm=each.strip_mm, length_mm=each.length_mm, width_mm=each.width_mm
    )


def show_laid_out(found: LaidOut, pack: Pack, rules: HouseRules) -> schemas.LaidOutOut:
    body, cells, strip = body_of(pack), cells_by_key(pack), StripKind.of(plan_of(pack), rules)
    poles = found.flow.poles if found.flow else poles_of(found.layout, body)
    links = found.flow.links if found.flow else links_of(found.layout, body, rules)
    left, back, right, front = bounds_mm(found.layout, body)
    pitch_x, pitch_y = pitch_mm(body, found.layout.arrangement, rules)
    return schemas.LaidOutOut(
        layout=show_layout(found.layout, pack),
        lines=[show_check(line, None) for line in found.lines],
        links=[
            schemas.LinkOut(
                face=poles[link.first].face, node=poles[link.first].node,
                from_x_mm=poles[link.first].x_mm, from_y_mm=poles[link.first].y_mm,
                to_x_mm=poles[link.second].x_mm, to_y_mm=poles[link.second].y_mm, length_mm=link.length_mm,
                current_a=found.flow.link_a[at] if found.flow and found.current_a else None,
            )
            for at, link in enumerate(links)
        ],
        taps=[
            schemas.TapOut(
                node=tap.node, number=cells[tap.cell].number, face=tap.face, x_mm=tap.x_mm, y_mm=tap.y_mm
            )
            for tap in taps_of(found.layout, body)
        ],
        strip_stands_a=strip.most_a * strip.pieces,
        pitch_x_mm=pitch_x, pitch_y_mm=pitch_y, length_mm=right - left, width_mm=front - back,
    )  # fmt: skip
