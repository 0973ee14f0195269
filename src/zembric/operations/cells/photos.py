"""Photos of donors and cells: made small, stripped of everything but the picture, and kept as files beside the database."""

from __future__ import annotations

import io
import threading
import warnings
from typing import TYPE_CHECKING

from PIL import Image, ImageOps, UnidentifiedImageError
from sqlalchemy import select

from zembric.core.errors import BadInputError, NotFoundError
from zembric.core.said import said
from zembric.models import CellRow, Photo
from zembric.operations.file_store import FileStore
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.models import Donor
    from zembric.operations.actors import Actor

MOST_UPLOAD_BYTES = 15 * 1024 * 1024
_MOST_PIXELS, _MOST_PIXELS_HELD = 60_000_000, 24_000_000
_ONE_AT_A_TIME = threading.Lock()
_LONG_SIDE_PX = 1600
_QUALITY = 82
_MOST_PER_THING = 24


class PhotoStore(FileStore):
    """Pictures by their hash."""

    __slots__ = ()
    ending, what = "jpg", "photo"


def add_photo(
    session: Session, store: PhotoStore, actor: Actor, upload: bytes, now: datetime, of: Donor | CellRow
) -> Photo:
    """A photo from a camera or a file.

    Raises:
        BadInputError: too large, not a picture, or too many of one thing already.
    """
    owner = {"cell_id": of.id} if isinstance(of, CellRow) else {"donor_id": of.id}
    if len(photos_of(session, of)) >= _MOST_PER_THING:
        raise BadInputError(said("there-are-photos-of-it-already", most_per_thing=_MOST_PER_THING), field="photo")
    picture, width_px, height_px = shrink(upload)
    photo = Photo(
        sha256=store.keep(picture), width_px=width_px, height_px=height_px, bytes=len(picture), at=now,
        person_id=actor.person_id, **owner,
    )  # fmt: skip
    session.add(photo)
    session.flush()
    note(session, actor, "photo-added", now, photo=photo.id, **owner)  # type: ignore[arg-type]
    return photo


def photos_of(session: Session, of: Donor | CellRow) -> Sequence[Photo]:
    column = Photo.cell_id if isinstance(of, CellRow) else Photo.donor_id
    return session.scalars(select(Photo).where(column == of.id).order_by(Photo.id)).all()


def get_photo(session: Session, photo_id: int) -> Photo:
    photo = session.get(Photo, photo_id)
    if photo is None:
        raise NotFoundError(said("there-is-no-such-photo"))
    return photo


def shrink(upload: bytes) -> tuple[bytes, int, int]:
    """A JPEG of at most 1600 pixels on its long side, turned upright, with nothing but the picture in it: no place,
    no time, no device. Also its width and height.

    Raises:
        BadInputError: it is too large, or no picture that can be read.
    """
    if len(upload) > MOST_UPLOAD_BYTES:
        raise BadInputError(
            said("photo-has-at-most-mb", most_upload_bytes=MOST_UPLOAD_BYTES // 1024 // 1024), field="photo"
        )
    try:
        # One at a time: what is packed into a few kilobytes may be a hundred megabytes of pixels.
        with _ONE_AT_A_TIME, warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(upload), formats=("JPEG", "PNG", "WEBP")) as opened:
                # Only a plain JPEG is made small while it is read; the others are held whole.
                is_plain = opened.format == "JPEG" and not opened.info.get("progressive")
                if opened.width * opened.height > (_MOST_PIXELS if is_plain else _MOST_PIXELS_HELD):
                    raise BadInputError(said("this-picture-has-too-many-pixels"), field="photo")
                # The colours of a palette cannot be mixed.
                small: Image.Image = opened.convert("RGBA") if opened.mode == "P" else opened
                small.thumbnail((_LONG_SIDE_PX, _LONG_SIDE_PX))
                picture = _on_white(ImageOps.exif_transpose(small))
    except (
        UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombWarning, Image.DecompressionBombError,
    ) as error:  # fmt: skip
        raise BadInputError(said("this-is-no-picture-that-can"), field="photo") from error
    out = io.BytesIO()
    picture.save(out, "JPEG", quality=_QUALITY, optimize=True)
    return out.getvalue(), picture.width, picture.height


def _on_white(picture: Image.Image) -> Image.Image:
    """Without transparency, and without anything the file said besides its pixels."""
    rgba = picture.convert("RGBA")
    plain = Image.new("RGB", rgba.size, "white")
    plain.paste(rgba, mask=rgba.getchannel("A"))
    return plain
