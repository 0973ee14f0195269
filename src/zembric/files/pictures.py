"""Pictures from cameras and files, made small; in a process of its own with a fixed memory: `python -m zembric.files.pictures`.

What is packed into a few kilobytes may be gigabytes of pixels, and what reads pictures has had faults before: neither reaches the process
that serves people.
"""

from __future__ import annotations

import io
import json
import resource
import subprocess
import sys
import threading
import warnings
from typing import IO

_MOST_PIXELS, _MOST_PIXELS_HELD = 60_000_000, 24_000_000
_LONG_SIDE_PX = 1600
_QUALITY = 82
_MOST_MEMORY_BYTES, _MOST_S = 1_200_000_000, 30
_TOO_MANY_PIXELS, _NO_PICTURE = 3, 4
_ONE_AT_A_TIME = threading.Lock()


class NoPictureError(Exception):
    """It is no JPEG, PNG or WebP that can be read."""


class TooManyPixelsError(Exception):
    """It has more pixels than are held."""


def shrink(upload: bytes) -> tuple[bytes, int, int]:
    """A JPEG of at most 1600 pixels on its long side, turned upright, with nothing but the picture in it: no place,
    no time, no device. Also its width and height.

    Raises:
        NoPictureError, TooManyPixelsError: as they say.
    """
    command = [sys.executable, "-m", "zembric.files.pictures"]
    try:
        with _ONE_AT_A_TIME:
            made = subprocess.run(command, input=upload, capture_output=True, check=False, timeout=_MOST_S)
    except subprocess.TimeoutExpired as error:
        raise NoPictureError from error
    if made.returncode == _TOO_MANY_PIXELS:
        raise TooManyPixelsError
    if made.returncode != 0:  # also where the system ended it
        raise NoPictureError
    head, _, picture = made.stdout.partition(b"\n")
    sides = json.loads(head)
    return picture, sides["width_px"], sides["height_px"]


def _shrink_here(upload: IO[bytes], out: IO[bytes]) -> int:
    from PIL import Image, ImageOps, UnidentifiedImageError  # noqa: PLC0415  # nobody else needs it

    try:
        warnings.simplefilter("error", Image.DecompressionBombWarning)
        with Image.open(io.BytesIO(upload.read()), formats=("JPEG", "PNG", "WEBP")) as opened:
            # Only a plain JPEG is made small while it is read; the others are held whole.
            is_plain = opened.format == "JPEG" and not opened.info.get("progressive")
            if opened.width * opened.height > (_MOST_PIXELS if is_plain else _MOST_PIXELS_HELD):
                return _TOO_MANY_PIXELS
            # The colours of a palette cannot be mixed.
            small: Image.Image = opened.convert("RGBA") if opened.mode == "P" else opened
            small.thumbnail((_LONG_SIDE_PX, _LONG_SIDE_PX))
            rgba = ImageOps.exif_transpose(small).convert("RGBA")
    except (Image.DecompressionBombWarning, Image.DecompressionBombError):
        return _TOO_MANY_PIXELS
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, MemoryError):
        return _NO_PICTURE
    # Without transparency, and without anything the file said besides its pixels.
    plain = Image.new("RGB", rgba.size, "white")
    plain.paste(rgba, mask=rgba.getchannel("A"))
    made = io.BytesIO()
    plain.save(made, "JPEG", quality=_QUALITY, optimize=True)
    out.write(json.dumps({"width_px": plain.width, "height_px": plain.height}).encode() + b"\n" + made.getvalue())
    return 0


if __name__ == "__main__":
    resource.setrlimit(resource.RLIMIT_AS, (_MOST_MEMORY_BYTES, _MOST_MEMORY_BYTES))
    sys.exit(_shrink_here(sys.stdin.buffer, sys.stdout.buffer))
