"""A drawn stand-in for a photo: demo data shows no real device."""

from __future__ import annotations

import io

from PIL import Image, ImageDraw

_SIZE_PX = (1200, 800)
_TABLE, _WRAP, _CAN, _STRIP, _TAPE = "#c9b79a", "#2f6f73", "#d7d9d6", "#b9bcb4", "#e3c04b"


def draw_pack(cells: int) -> bytes:
    """A pack of round cells side by side on a table, its ends taped, as PNG."""
    picture = Image.new("RGB", _SIZE_PX, _TABLE)
    pen = ImageDraw.Draw(picture)
    width = _SIZE_PX[0] * 0.8 / cells
    for index in range(cells):
        left = _SIZE_PX[0] * 0.1 + index * width
        pen.rounded_rectangle((left + 6, 150, left + width - 6, 650), radius=28, fill=_WRAP)
        pen.rounded_rectangle((left + 22, 128, left + width - 22, 176), radius=10, fill=_CAN)
        pen.rectangle((left + 20, 330, left + width * 0.34, 470), fill=_CAN)
    for index in range(cells - 1):
        middle = _SIZE_PX[0] * 0.1 + (index + 1) * width
        top = 636 if index % 2 else 140
        pen.rectangle((middle - width * 0.55, top, middle + width * 0.55, top + 24), fill=_STRIP)
    for left in (_SIZE_PX[0] * 0.1 + 10, _SIZE_PX[0] * 0.9 - width + 10):
        pen.rectangle((left, 110, left + width - 20, 200), fill=_TAPE)
    out = io.BytesIO()
    picture.save(out, "PNG")
    return out.getvalue()
