"""What was seen, measured and done with a cell. Append-only: a correction is a new entry that supersedes an old one."""

from __future__ import annotations

from datetime import datetime
from typing import Any, get_args

from sqlalchemy import ARRAY, CheckConstraint, ForeignKey, ForeignKeyConstraint, Index, Text, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column, relationship

from zembric.core.codes import DoneKind, EntryKind
from zembric.core.story import Finding
from zembric.models.base import Base, IntPk, one_of
from zembric.models.instruments import Instrument
from zembric.models.people import Person

ENTRY_KINDS = get_args(EntryKind)
STEP_KINDS = get_args(DoneKind)
_ALL_FINDINGS = ", ".join(f"'{finding}'" for finding in sorted(Finding))
_UNITS = "(quantity, unit) IN (('voltage', 'V'), ('capacity', 'mAh'), ('resistance', 'mOhm'))"


class Entry(Base):
    """What all entries share. `at` is when it was so, `recorded_at` when it was typed."""

    __tablename__ = "entry"
    __table_args__: tuple[Any, ...] = (
        CheckConstraint(one_of("kind", ENTRY_KINDS), name="kind"),
        CheckConstraint("kind <> 'withdrawal' OR supersedes_id IS NOT NULL", name="withdrawal_names_entry"),
        UniqueConstraint("id", "cell_id"),
        # Both columns: an entry can only supersede one of the same cell.
        ForeignKeyConstraint(["supersedes_id", "cell_id"], ["entry.id", "entry.cell_id"], name="fk_entry_supersedes"),
        Index("ix_entry_cell_id_at", "cell_id", "at"),
        Index("ix_entry_at", "at"),
    )
    id: Mapped[IntPk]
    cell_id: Mapped[int] = mapped_column(ForeignKey("cell.id"))
    kind: Mapped[str]
    at: Mapped[datetime]
    recorded_at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    #: The entry that this one replaces or withdraws; NULL for a new one. An entry is superseded once at most.
    supersedes_id: Mapped[int | None] = mapped_column(unique=True)
    #: Ground of a correction or a skip, as typed; NULL where none was asked for.
    why: Mapped[str | None]
    person: Mapped[Person] = relationship(lazy="joined", innerjoin=True)
    __mapper_args__ = {"polymorphic_on": "kind", "polymorphic_abstract": True}


class InspectionEntry(Entry):
    """A look at the cell; no findings: nothing was found."""

    __tablename__ = "inspection"
    __table_args__ = (CheckConstraint(f"findings <@ ARRAY[{_ALL_FINDINGS}]::text[]", name="findings"),)
    id: Mapped[int] = mapped_column(ForeignKey("entry.id"), primary_key=True)
    findings: Mapped[list[str]] = mapped_column(ARRAY(Text))
    #: How warm it was: cell_degc, bench_degc, warmth; empty: nobody said.
    heat: Mapped[dict[str, Any]] = mapped_column(server_default="{}", default=dict)
    __mapper_args__ = {"polymorphic_identity": "inspection"}


class ReadingEntry(Entry):
    """A measured value with its method and conditions."""

    __tablename__ = "reading"
    __table_args__ = (
        CheckConstraint(_UNITS, name="unit_of_quantity"),
        CheckConstraint("value > 0 OR (quantity = 'voltage' AND value = 0)", name="value_positive"),
        CheckConstraint("standard_u >= 0", name="uncertainty_not_negative"),
    )
    id: Mapped[int] = mapped_column(ForeignKey("entry.id"), primary_key=True)
    quantity: Mapped[str]
    value: Mapped[float]
    unit: Mapped[str]
    method: Mapped[str]
    #: What the value depends on, each with its unit in the name: current_ma, cut_off_v,
    #: complete, resolution_v, cell_degc; `worked` the formula with its numbers, `raw_value` before a correction, `notes`.
    conditions: Mapped[dict[str, Any]]
    #: Standard uncertainty in the reading's unit.
    standard_u: Mapped[float]
    #: What it was measured with, the correction in its value, and the log it was read from; NULL: none, or nobody said.
    instrument_id: Mapped[int | None] = mapped_column(ForeignKey("instrument.id"), index=True)
    correction_id: Mapped[int | None] = mapped_column(ForeignKey("correction.id"))
    log_id: Mapped[int | None] = mapped_column(ForeignKey("tester_log.id"))
    instrument: Mapped[Instrument | None] = relationship(lazy="joined")
    __mapper_args__ = {"polymorphic_identity": "reading"}


class StepEntry(Entry):
    """Something done with the cell."""

    __tablename__ = "step"
    __table_args__ = (CheckConstraint(one_of("step", STEP_KINDS), name="step"),)
    id: Mapped[int] = mapped_column(ForeignKey("entry.id"), primary_key=True)
    step: Mapped[str]
    #: repair: done; recovery: outcome; recovery-started: current_ma, found_v, cell_degc; recovery-check: value_v, cell_degc,
    #: warmth, swells (of old ones feels_warm); decision: about, outcome; charge: complete, end_v; skip: what; second-look: sibling, near, findings; overruled: grade; came-back: source.
    details: Mapped[dict[str, Any]]
    __mapper_args__ = {"polymorphic_identity": "step"}


class WithdrawalEntry(Entry):
    """Takes an entry back: it stays readable and counts no longer."""

    __mapper_args__ = {"polymorphic_identity": "withdrawal"}
