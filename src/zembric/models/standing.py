"""How each cell stands now: what overviews ask for, copied by the database itself whenever cell, judgement or pack changes."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import ForeignKey, Index, text
from sqlalchemy.orm import Mapped, mapped_column

from zembric.models.base import Base


class Standing(Base):
    """Only read here; triggers write it. Cells that went to the recycler have none."""

    __tablename__ = "standing"
    __table_args__ = (
        Index("ix_standing_step", "step", "not_before", "cell_id"),
        Index("ix_standing_then", "then_step", "not_before", "cell_id", postgresql_where=text("then_step IS NOT NULL")),
        Index("ix_standing_overdue", "overdue_at", postgresql_where=text("overdue_at IS NOT NULL")),
        Index("ix_standing_watched", "watched_reading_at", postgresql_where=text("watched_reading_at IS NOT NULL")),
    )
    cell_id: Mapped[int] = mapped_column(
        ForeignKey("cell.id", ondelete="CASCADE"), primary_key=True, autoincrement=False
    )
    number: Mapped[str]
    donor_id: Mapped[int] = mapped_column(index=True)
    size_code: Mapped[str | None] = mapped_column(index=True)
    family: Mapped[str | None]
    #: NULL: built into a pack, or in use in a device.
    place_id: Mapped[int | None] = mapped_column(index=True)
    place_kind: Mapped[str | None] = mapped_column(index=True)
    in_pack: Mapped[bool]
    in_use: Mapped[bool]
    #: Of its last judgement.
    grade: Mapped[str]
    #: The judge's next step, unless it is in a pack, in use or on its way out; what takes its place at `not_before`, NULL: nothing.
    step: Mapped[str]
    then_step: Mapped[str | None]
    not_before: Mapped[datetime | None]
    #: From then on its next step was left too long.
    overdue_at: Mapped[datetime | None]
    watched_reading_at: Mapped[datetime | None]
    resting_voltage_v: Mapped[float | None]
    capacity_mah: Mapped[float | None]
    resistance_mohm: Mapped[float | None]
    resistance_method: Mapped[str | None]
    carries_a: Mapped[float | None]
