"""Testers' logs: the file as it came, how it was read, and what it measured."""

from __future__ import annotations

from datetime import datetime
from typing import Any, get_args

from sqlalchemy import BigInteger, CheckConstraint, ForeignKey
from sqlalchemy.orm import Mapped, mapped_column, relationship

from zembric.core.codes import LogState
from zembric.models.base import Base, IntPk, one_of
from zembric.models.cells import CellRow
from zembric.models.instruments import Instrument
from zembric.models.people import Person

#: waiting and reading: the worker has it; asks: read with guesses that a person should see; refused: cannot be read
#: as it is; cancelled: somebody stopped it.
LOG_STATES = get_args(LogState)


class LogRow(Base):
    __tablename__ = "tester_log"
    __table_args__ = (
        CheckConstraint(one_of("state", LOG_STATES), name="state"),
        CheckConstraint("progress_pct BETWEEN 0 AND 100", name="progress"),
        CheckConstraint("bytes > 0", name="bytes_positive"),
    )
    id: Mapped[IntPk]
    #: Of the file as it came; it is kept under this name beside the database.
    sha256: Mapped[str] = mapped_column(index=True)
    file_name: Mapped[str]
    bytes: Mapped[int] = mapped_column(BigInteger)
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    #: NULL: nobody said yet which cell or which tester.
    cell_id: Mapped[int | None] = mapped_column(ForeignKey("cell.id"), index=True)
    instrument_id: Mapped[int | None] = mapped_column(ForeignKey("instrument.id"))
    state: Mapped[str]
    progress_pct: Mapped[int] = mapped_column(default=0)
    #: Somebody wants it stopped; the worker looks at it between stretches.
    stop_asked: Mapped[bool] = mapped_column(default=False)
    #: What a person said about it, by the names of the core's answers.
    answers: Mapped[dict[str, Any]]
    #: How it was read, what was said of it, what its tests measured; NULL until it is read.
    read_as: Mapped[dict[str, Any] | None]
    remarks: Mapped[list[dict[str, Any]] | None]
    tests: Mapped[list[dict[str, Any]] | None]
    #: code, text, line, column; NULL where it was not refused.
    refusal: Mapped[dict[str, Any] | None]
    person: Mapped[Person] = relationship(lazy="joined", innerjoin=True)
    cell: Mapped[CellRow | None] = relationship(lazy="joined")
    instrument: Mapped[Instrument | None] = relationship(lazy="joined")


class LogHabit(Base):
    """What was answered for logs of one kind: the next one of it needs no question."""

    __tablename__ = "log_habit"
    id: Mapped[IntPk]
    #: Delimiter, decimal mark and headers of the log.
    signature: Mapped[str] = mapped_column(unique=True)
    answers: Mapped[dict[str, Any]]
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
