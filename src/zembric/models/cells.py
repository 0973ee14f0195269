"""Donors and the cells that came out of them."""

from __future__ import annotations

from datetime import datetime
from typing import TYPE_CHECKING

from sqlalchemy import CheckConstraint, ForeignKey, Index, Sequence, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from zembric.core.limits import Family
from zembric.models.base import Base, IntPk, one_of

if TYPE_CHECKING:
    from zembric.models.judgements import JudgementRow
    from zembric.models.places import Place

# Started above single digits, so that no number is shorter than people expect of one.
CELL_NUMBERS = Sequence("cell_number_seq", start=100, metadata=Base.metadata)
DONOR_NUMBERS = Sequence("donor_number_seq", start=10, metadata=Base.metadata)
PACK_NUMBERS = Sequence("pack_number_seq", start=10, metadata=Base.metadata)

DONOR_KINDS = ("laptop", "vape", "power-tool", "phone", "other")


class Donor(Base):
    """A dead device or pack that cells come out of."""

    __tablename__ = "donor"
    __table_args__ = (
        CheckConstraint(one_of("kind", DONOR_KINDS), name="kind"),
        CheckConstraint("char_length(description) <= 200", name="description_length"),
    )
    id: Mapped[IntPk]
    number: Mapped[str] = mapped_column(unique=True)
    kind: Mapped[str]
    description: Mapped[str]
    opened_at: Mapped[datetime]
    opened_by_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    cells: Mapped[list[CellRow]] = relationship(back_populates="donor", order_by="CellRow.id")


class CellRow(Base):
    """One cell. What is unknown is NULL; what is claimed is never taken for rated."""

    __tablename__ = "cell"
    __table_args__ = (
        CheckConstraint(one_of("family", Family), name="family"),
        CheckConstraint("full_v BETWEEN 2 AND 5", name="full_v"),
        CheckConstraint("rated_capacity_mah > 0", name="rated_capacity_positive"),
        CheckConstraint("claimed_capacity_mah > 0", name="claimed_capacity_positive"),
        CheckConstraint("slot IS NULL OR place_id IS NOT NULL", name="slot_needs_place"),
        CheckConstraint("handed_over_at IS NULL OR place_id IS NULL", name="handed_over_is_nowhere"),
        Index("uq_cell_place_id_slot", "place_id", "slot", unique=True, postgresql_where=text("slot IS NOT NULL")),
    )
    id: Mapped[IntPk]
    number: Mapped[str] = mapped_column(unique=True)
    donor_id: Mapped[int] = mapped_column(ForeignKey("donor.id"), index=True)
    #: NULL: nobody could read or measure it.
    size_code: Mapped[str | None]
    #: NULL: chemistry unknown.
    family: Mapped[str | None]
    #: Charging voltage marked on the cell; NULL: the family's.
    full_v: Mapped[float | None]
    rated_capacity_mah: Mapped[float | None]
    claimed_capacity_mah: Mapped[float | None]
    #: NULL: built into a pack, or handed over to the recycler.
    place_id: Mapped[int | None] = mapped_column(ForeignKey("place.id"), index=True)
    #: Numbered place in a tray, from 1; NULL in boxes.
    slot: Mapped[int | None]
    #: The last judgement; NULL only while the row is being made.
    judgement_id: Mapped[int | None] = mapped_column(ForeignKey("judgement.id", use_alter=True), unique=True)
    #: When it went to the recycler; NULL while it is here.
    handed_over_at: Mapped[datetime | None]
    #: Raised when what the cell is is set anew, so that of two people who do so at once the second is told.
    version: Mapped[int] = mapped_column(default=1, server_default="1")
    donor: Mapped[Donor] = relationship(back_populates="cells")
    place: Mapped[Place | None] = relationship()
    judgement: Mapped[JudgementRow | None] = relationship(foreign_keys=[judgement_id])
