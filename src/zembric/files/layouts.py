"""A layout as a file: JSON out and in, and the plate that holds the cells as SVG and DXF for cutting, all in millimetres."""

from __future__ import annotations

import io
import json
from dataclasses import asdict
from typing import TYPE_CHECKING
from xml.etree.ElementTree import Element, SubElement, tostring

from zembric.core.errors import BadInputError
from zembric.core.pack.layout import ARRANGEMENTS, Case, PackLayout, Placed, Rect
from zembric.core.said import said

if TYPE_CHECKING:
    from collections.abc import Mapping
    from typing import Any

    from zembric.core.pack.layout import Body, Outline

FORMAT = "zembric-layout"
VERSION = 1
_SVG = "http://www.w3.org/2000/svg"


def layout_as_json(layout: PackLayout, number: str, cell_of: Mapping[tuple[int, int], str], body: Body) -> bytes:
    """A layout with the numbers of its cells, as `layout_from_json` reads it."""
    held = {
        "format": FORMAT, "version": VERSION, "pack": number, "body": asdict(body),
        **as_plain(layout),
    }  # fmt: skip
    for place in held["places"]:
        place["cell_id"] = cell_of[place["group"], place["position"]]
    return json.dumps(held, indent=1).encode()


def as_plain(layout: PackLayout) -> dict[str, Any]:
    """As it is stored: dictionaries, lists and numbers."""
    held = asdict(layout)
    held["places"] = [dict(place) for place in held["places"]]
    return held


def from_plain(held: Mapping[str, Any]) -> PackLayout:
    """What `as_plain` gave.

    Raises:
        BadInputError: something of it is missing or cannot be.
    """
    try:
        case = held.get("case")
        layout = PackLayout(
            held["arrangement"],
            tuple(
                Placed(int(p["group"]), int(p["position"]), float(p["x_mm"]), float(p["y_mm"]), p["end"])
                for p in held["places"]
            ),
            int(held["minus_at"]),
            int(held["plus_at"]),
            Case(
                float(case["length_mm"]), float(case["width_mm"]), float(case["height_mm"]),
                tuple(Rect(**{key: float(rect[key]) for key in _RECT}) for rect in case.get("keep_outs", ())),
            )
            if case
            else None,
            bool(held.get("has_spacers", False)),
        )  # fmt: skip
    except (KeyError, TypeError, ValueError, OverflowError, AttributeError) as wrong:
        raise BadInputError(said("layout-file-lacks", what=str(wrong)[:80]), field="file") from wrong
    if layout.arrangement not in ARRANGEMENTS or any(place.end not in ("up", "down") for place in layout.places):
        raise BadInputError(said("layout-file-lacks", what="arrangement, end"), field="file")
    return layout


_RECT = ("x_mm", "y_mm", "length_mm", "width_mm")


def layout_from_json(content: bytes) -> PackLayout:
    """Raises:
    BadInputError: it is no layout, or something of it is missing.
    """
    try:
        held = json.loads(content)
    except (ValueError, RecursionError) as wrong:
        raise BadInputError(said("layout-file-no-json"), field="file") from wrong
    if not isinstance(held, dict) or held.get("format") != FORMAT or held.get("version") != VERSION:
        raise BadInputError(said("layout-file-other", format=FORMAT, version=VERSION), field="file")
    return from_plain(held)


def plate_as_svg(plate: Outline) -> bytes:
    """In true millimetres, hair lines only."""
    length, width = _mm(plate.length_mm), _mm(plate.width_mm)
    drawing = Element("svg", xmlns=_SVG, width=f"{length}mm", height=f"{width}mm", viewBox=f"0 0 {length} {width}")
    lines = SubElement(drawing, "g", {"fill": "none", "stroke": "#000", "stroke-width": "0.1"})
    SubElement(lines, "rect", x="0", y="0", width=length, height=width)
    for circle in plate.circles:
        SubElement(lines, "circle", cx=_mm(circle.x_mm), cy=_mm(circle.y_mm), r=_mm(circle.diameter_mm / 2))
    for rect in plate.rects:
        SubElement(
            lines, "rect", x=_mm(rect.x_mm), y=_mm(rect.y_mm), width=_mm(rect.length_mm), height=_mm(rect.width_mm)
        )
    return tostring(drawing)


def _mm(value: float) -> str:
    return f"{value:.3f}"


def plate_as_dxf(plate: Outline) -> bytes:
    """In millimetres: the outline and the holes each on a layer. y points up there, so the plate is turned over once."""
    from ezdxf import units  # noqa: PLC0415  # a server that cuts nothing does without it
    from ezdxf.filemanagement import new  # noqa: PLC0415

    drawing = new("R2010")
    drawing.units = units.MM
    drawing.layers.add("OUTLINE", color=7)
    drawing.layers.add("HOLES", color=1)
    space = drawing.modelspace()

    def box(x: float, y: float, length: float, width: float, layer: str) -> None:
        low = plate.width_mm - y - width
        corners = [(x, low), (x + length, low), (x + length, low + width), (x, low + width)]
        space.add_lwpolyline(corners, close=True, dxfattribs={"layer": layer})

    box(0, 0, plate.length_mm, plate.width_mm, "OUTLINE")
    for circle in plate.circles:
        middle = (circle.x_mm, plate.width_mm - circle.y_mm)
        space.add_circle(middle, circle.diameter_mm / 2, dxfattribs={"layer": "HOLES"})
    for rect in plate.rects:
        box(rect.x_mm, rect.y_mm, rect.length_mm, rect.width_mm, "HOLES")
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue().encode()
