"""What things are measured with, and what was found out about it."""

from __future__ import annotations

from datetime import datetime
from typing import Any, get_args

from sqlalchemy import CheckConstraint, ForeignKey, Index, Sequence
from sqlalchemy.orm import Mapped, mapped_column, relationship

from zembric.core.codes import InstrumentKind
from zembric.models.base import Base, IntPk, one_of, version_column
from zembric.models.people import Person

INSTRUMENT_NUMBERS = Sequence("instrument_number_seq", start=10, metadata=Base.metadata)
INSTRUMENT_KINDS = get_args(InstrumentKind)


class Instrument(Base):
    """A meter or tester with a number on a strip of tape, like a cell."""

    __tablename__ = "instrument"
    __table_args__ = (
        CheckConstraint(one_of("kind", INSTRUMENT_KINDS), name="kind"),
        CheckConstraint("resolution_v > 0 AND half_width_pct > 0 AND lead_mohm > 0", name="positive"),
    )
    id: Mapped[IntPk]
    number: Mapped[str] = mapped_column(unique=True)
    name: Mapped[str] = mapped_column(unique=True)
    kind: Mapped[str]
    #: Last digit of its voltage; NULL: it shows none.
    resolution_v: Mapped[float | None]
    #: Its readings are right within this; NULL: the method's own house value counts.
    half_width_pct: Mapped[float | None]
    #: Resistance of its leads or holder, taken off a reading of resistance; NULL: nothing is taken off.
    lead_mohm: Mapped[float | None]
    note: Mapped[str] = mapped_column(default="")
    is_active: Mapped[bool] = mapped_column(default=True, server_default="true")
    version: Mapped[int] = version_column()
    corrections: Mapped[list[Correction]] = relationship(order_by="Correction.id", lazy="selectin")
    __mapper_args__ = {"version_id_col": version}


class Correction(Base):
    """What an instrument's readings are multiplied with from some day on, and on which ground. Ended, never deleted."""

    __tablename__ = "correction"
    __table_args__ = (
        CheckConstraint("quantity IN ('capacity', 'resistance', 'voltage')", name="quantity"),
        CheckConstraint("factor BETWEEN 0.5 AND 2", name="factor_sensible"),
        # One in force for a quantity at a time.
        Index("uq_correction_in_force", "instrument_id", "quantity", unique=True, postgresql_where="ended_at IS NULL"),
    )
    id: Mapped[IntPk]
    instrument_id: Mapped[int] = mapped_column(ForeignKey("instrument.id"))
    quantity: Mapped[str]
    factor: Mapped[float]
    ground: Mapped[str]
    #: The comparison behind it: against, cells, difference_pct, error_pct; empty where it was set by hand.
    comparison: Mapped[dict[str, Any]]
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    #: NULL: in force.
    ended_at: Mapped[datetime | None]
    ended_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    person: Mapped[Person] = relationship(lazy="joined", innerjoin=True, foreign_keys=[person_id])
