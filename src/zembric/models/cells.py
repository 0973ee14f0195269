"""The cells."""

from __future__ import annotations

from datetime import datetime
from typing import TYPE_CHECKING

from sqlalchemy import CheckConstraint, ForeignKey, Index, Sequence, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from zembric.core.house.limits import Family
from zembric.core.identify.ends import BUILDS, PLUS_ENDS, PROTECTIONS, TERMINALS
from zembric.models.base import Base, IntPk, one_of
from zembric.models.catalogue import CellModel

if TYPE_CHECKING:
    from zembric.models.donors import Donor
    from zembric.models.judgements import JudgementRow
    from zembric.models.places import Place

# Started above single digits, so that no number is shorter than people expect of one.
CELL_NUMBERS = Sequence("cell_number_seq", start=100, metadata=Base.metadata)
PACK_NUMBERS = Sequence("pack_number_seq", start=10, metadata=Base.metadata)


class CellRow(Base):
    """One cell. What is unknown is NULL; what is claimed is never taken for rated."""

    __tablename__ = "cell"
    __table_args__ = (
        CheckConstraint(one_of("family", Family), name="family"),
        CheckConstraint("full_v BETWEEN 2 AND 5", name="full_v"),
        CheckConstraint("rated_capacity_mah > 0", name="rated_capacity_positive"),
        CheckConstraint("claimed_capacity_mah > 0", name="claimed_capacity_positive"),
        CheckConstraint("advertised_capacity_mah > 0", name="advertised_capacity_positive"),
        CheckConstraint("width_mm > 0 AND length_mm > 0 AND thickness_mm > 0", name="outline_positive"),
        CheckConstraint("(width_mm IS NULL) = (length_mm IS NULL)", name="outline_whole"),
        CheckConstraint("mass_g > 0", name="mass_positive"),
        CheckConstraint(one_of("build", BUILDS), name="build"),
        CheckConstraint(one_of("plus_end", PLUS_ENDS), name="plus_end"),
        CheckConstraint(one_of("protection", PROTECTIONS), name="protection"),
        CheckConstraint(one_of("terminals", TERMINALS), name="terminals"),
        CheckConstraint("in_use_in IS NULL OR place_id IS NULL", name="in_use_is_in_no_place"),
        CheckConstraint("slot IS NULL OR place_id IS NOT NULL", name="slot_needs_place"),
        CheckConstraint("handed_over_at IS NULL OR place_id IS NULL", name="handed_over_is_nowhere"),
        Index("uq_cell_place_id_slot", "place_id", "slot", unique=True, postgresql_where=text("slot IS NOT NULL")),
    )
    id: Mapped[IntPk]
    number: Mapped[str] = mapped_column(unique=True)
    donor_id: Mapped[int] = mapped_column(ForeignKey("donor.id"), index=True)
    #: NULL: nobody could read or measure it.
    size_code: Mapped[str | None] = mapped_column(index=True)
    #: NULL: chemistry unknown.
    family: Mapped[str | None]
    #: Charging voltage marked on the cell; NULL: the family's.
    full_v: Mapped[float | None]
    #: Four capacities that are never mixed: from a sheet, printed on the cell, said by a seller; the measured are readings.
    rated_capacity_mah: Mapped[float | None]
    claimed_capacity_mah: Mapped[float | None]
    advertised_capacity_mah: Mapped[float | None]
    chemistry_code: Mapped[str | None] = mapped_column(ForeignKey("chemistry.code"))
    model_id: Mapped[int | None] = mapped_column(ForeignKey("cell_model.id"))
    #: Measured by ruler or caliper; thickness NULL: a cylinder.
    width_mm: Mapped[float | None]
    length_mm: Mapped[float | None]
    thickness_mm: Mapped[float | None]
    mass_g: Mapped[float | None]
    build: Mapped[str | None]
    plus_end: Mapped[str | None]
    protection: Mapped[str | None]
    terminals: Mapped[str | None]
    #: The device it is in use in; NULL: in none.
    in_use_in: Mapped[str | None]
    #: Its group in the donor's pack, from 1 at minus; NULL: not known.
    group_number: Mapped[int | None]
    #: What it was called in the list it came from; NULL: numbered here.
    own_label: Mapped[str | None]
    #: NULL: built into a pack, in use in a device, or handed over to the recycler.
    place_id: Mapped[int | None] = mapped_column(ForeignKey("place.id"), index=True)
    #: Numbered place in a tray, from 1; NULL in boxes.
    slot: Mapped[int | None]
    #: The last judgement; NULL only while the row is being made.
    #: The last resting voltage [V] before anything was charged in or taken out: what its siblings are held against. NULL: there was none.
    found_v: Mapped[float | None]
    judgement_id: Mapped[int | None] = mapped_column(ForeignKey("judgement.id", use_alter=True), unique=True)
    #: When it went to the recycler; NULL while it is here.
    handed_over_at: Mapped[datetime | None]
    #: Raised when what the cell is is set anew, so that of two people who do so at once the second is told.
    version: Mapped[int] = mapped_column(default=1, server_default="1")
    donor: Mapped[Donor] = relationship(back_populates="cells")
    model: Mapped[CellModel | None] = relationship(lazy="joined")
    place: Mapped[Place | None] = relationship()
    judgement: Mapped[JudgementRow | None] = relationship(foreign_keys=[judgement_id])
