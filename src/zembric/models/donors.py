"""Donors with what their print and board tell, their parts and photos, and the groups of a pack that is still joined."""

from __future__ import annotations

from datetime import datetime
from typing import TYPE_CHECKING, get_args

from sqlalchemy import ARRAY, CheckConstraint, Double, ForeignKey, Sequence
from sqlalchemy.orm import Mapped, mapped_column, relationship

from zembric.core.codes import ChargedIn, ChargerKind, DonorConverter, PartKind, YesNoUnknown
from zembric.core.identify.donor_clues import SYMPTOMS
from zembric.models.base import Base, IntPk, one_of, version_column
from zembric.models.catalogue import DonorKindRow
from zembric.models.people import Person

if TYPE_CHECKING:
    from zembric.models.cells import CellRow

DONOR_NUMBERS = Sequence("donor_number_seq", start=10, metadata=Base.metadata)

CHARGER_KINDS = get_args(ChargerKind)
YES_NO_UNKNOWN = get_args(YesNoUnknown)
CONVERTERS = get_args(DonorConverter)
CHARGED_IN = get_args(ChargedIn)
PART_KINDS = get_args(PartKind)


class Donor(Base):
    """A dead device or pack that cells come out of. What nobody looked at is NULL."""

    __tablename__ = "donor"
    __table_args__ = (
        CheckConstraint("char_length(description) <= 200", name="description_length"),
        CheckConstraint(one_of("symptom", SYMPTOMS), name="symptom"),
        CheckConstraint("ran_min > 0 AND runs_now_min >= 0", name="run_times"),
        CheckConstraint("claimed_v > 0 AND claimed_wh > 0 AND claimed_mah > 0", name="claims_positive"),
        CheckConstraint(one_of("charger_kind", CHARGER_KINDS), name="charger_kind"),
        CheckConstraint("charger_k_v > 0 AND charger_r1_ohm > 0 AND charger_r2_ohm > 0", name="charger_positive"),
        CheckConstraint(one_of("protection", YES_NO_UNKNOWN), name="protection"),
        CheckConstraint(one_of("temperature_sensor", YES_NO_UNKNOWN), name="temperature_sensor"),
        CheckConstraint(one_of("converter", CONVERTERS), name="converter"),
        CheckConstraint(one_of("charged_in", CHARGED_IN), name="charged_in"),
    )
    id: Mapped[IntPk]
    number: Mapped[str] = mapped_column(unique=True)
    kind: Mapped[str] = mapped_column(ForeignKey("donor_kind.code"))
    description: Mapped[str]
    opened_at: Mapped[datetime]
    opened_by_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    symptom: Mapped[str | None]
    #: How long it ran when it was new, and how long it runs now [min].
    ran_min: Mapped[float | None]
    runs_now_min: Mapped[float | None]
    #: What the pack's own print claims.
    claimed_v: Mapped[float | None]
    claimed_wh: Mapped[float | None]
    claimed_mah: Mapped[float | None]
    charger_kind: Mapped[str | None]
    #: Of a linear charger: its constant K [V] and its programming resistors [Ohm].
    charger_k_v: Mapped[float | None]
    charger_r1_ohm: Mapped[float | None]
    charger_r2_ohm: Mapped[float | None]
    protection: Mapped[str | None]
    protection_cut_off_v: Mapped[float | None]
    protection_release_v: Mapped[float | None]
    temperature_sensor: Mapped[str | None]
    converter: Mapped[str | None]
    connector: Mapped[str | None]
    #: Where its cells are charged: taken out, in their holder, or inside the device.
    charged_in: Mapped[str] = mapped_column(default="out", server_default="out")
    #: When somebody said that all its open ends are taped; NULL: not yet.
    taped_at: Mapped[datetime | None]
    taped_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    version: Mapped[int] = version_column()
    kind_row: Mapped[DonorKindRow] = relationship(lazy="joined", innerjoin=True)
    cells: Mapped[list[CellRow]] = relationship(back_populates="donor", order_by="CellRow.id")
    __mapper_args__ = {"version_id_col": version}


class Part(Base):
    """A good part of a donor that was kept, until it is used."""

    __tablename__ = "part"
    __table_args__ = (
        CheckConstraint(one_of("kind", PART_KINDS), name="kind"),
        CheckConstraint("char_length(description) <= 200", name="description_length"),
    )
    id: Mapped[IntPk]
    donor_id: Mapped[int] = mapped_column(ForeignKey("donor.id"), index=True)
    kind: Mapped[str]
    description: Mapped[str]
    kept_at: Mapped[datetime]
    kept_by_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    #: When it was used or thrown away; NULL: it is here.
    gone_at: Mapped[datetime | None]
    gone_why: Mapped[str | None]


class Photo(Base):
    """A photo of a donor or a cell. The picture itself is a file named by its hash, beside the database."""

    __tablename__ = "photo"
    __table_args__ = (CheckConstraint("(donor_id IS NULL) <> (cell_id IS NULL)", name="of_one_thing"),)
    id: Mapped[IntPk]
    donor_id: Mapped[int | None] = mapped_column(ForeignKey("donor.id"), index=True)
    cell_id: Mapped[int | None] = mapped_column(ForeignKey("cell.id"), index=True)
    sha256: Mapped[str]
    width_px: Mapped[int]
    height_px: Mapped[int]
    bytes: Mapped[int]
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))


class GroupReading(Base):
    """Voltages [V] over the groups of a pack whose cells are still joined, from minus to plus. Append-only."""

    __tablename__ = "group_reading"
    id: Mapped[IntPk]
    donor_id: Mapped[int] = mapped_column(ForeignKey("donor.id"), index=True)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    #: Cells in each group.
    parallel: Mapped[int]
    voltages_v: Mapped[list[float]] = mapped_column(ARRAY(Double))
    person: Mapped[Person] = relationship(lazy="joined", innerjoin=True)
