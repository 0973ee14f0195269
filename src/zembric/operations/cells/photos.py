"""Photos of donors and cells: made small, stripped of everything but the picture, and kept as files beside the database."""

from __future__ import annotations

from typing import TYPE_CHECKING

from sqlalchemy import select

from zembric.core.errors import BadInputError, NotFoundError
from zembric.core.said import said
from zembric.files.pictures import NoPictureError, TooManyPixelsError, shrink
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
    picture, width_px, height_px = _small(upload)
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


def _small(upload: bytes) -> tuple[bytes, int, int]:
    """As `pictures.shrink`.

    Raises:
        BadInputError: it is too large, or no picture that can be read.
    """
    if len(upload) > MOST_UPLOAD_BYTES:
        raise BadInputError(
            said("photo-has-at-most-mb", most_upload_bytes=MOST_UPLOAD_BYTES // 1024 // 1024), field="photo"
        )
    try:
        return shrink(upload)
    except TooManyPixelsError as error:
        raise BadInputError(said("this-picture-has-too-many-pixels"), field="photo") from error
    except NoPictureError as error:
        raise BadInputError(said("this-is-no-picture-that-can"), field="photo") from error
