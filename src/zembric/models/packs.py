"""Packs, their groups, and which cell stands where."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal, get_args

from sqlalchemy import CheckConstraint, ForeignKey, Index, UniqueConstraint, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from zembric.core.pack.parts import PARTS_OF_PACK
from zembric.core.pack.states import PackState, ReturnDecision
from zembric.models.base import Base, IntPk, one_of, version_column
from zembric.models.cells import CellRow
from zembric.models.people import Person

PACK_STATES = get_args(PackState)


class Pack(Base):
    __tablename__ = "pack"
    __table_args__ = (
        CheckConstraint(one_of("state", PACK_STATES), name="state"),
        CheckConstraint("series BETWEEN 1 AND 40 AND parallel BETWEEN 1 AND 40", name="shape"),
        CheckConstraint("char_length(purpose) BETWEEN 1 AND 120", name="purpose_length"),
        CheckConstraint("(stopped_at IS NULL) = (stopped_why IS NULL)", name="stopped_says_why"),
        CheckConstraint("(commissioning IS NULL) = (commissioned_at IS NULL)", name="commissioned_says_what"),
    )
    id: Mapped[IntPk]
    number: Mapped[str] = mapped_column(unique=True)
    purpose: Mapped[str]
    state: Mapped[str] = mapped_column(index=True)
    series: Mapped[int]
    parallel: Mapped[int]
    #: What was asked of its cells when it was planned; NULL: planned before that was kept.
    request: Mapped[dict[str, Any] | None]
    #: Proven bound on the weakest group when it was matched.
    bound_mah: Mapped[float]
    made_at: Mapped[datetime]
    made_by_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    #: A hazard was found on a cell of it, or somebody stopped it: why, when, by whom; NULL: nobody did.
    stopped_at: Mapped[datetime | None]
    stopped_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    stopped_why: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    #: What was measured before it was given out: group voltages and answers; NULL: not since it was built or came back.
    commissioning: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    commissioned_at: Mapped[datetime | None]
    commissioned_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    #: Who has it and how they are reached; NULL: nobody, nobody wanted to say, or it was forgotten on request.
    given_to: Mapped[str | None]
    #: A word for what it does out there.
    job: Mapped[str | None]
    #: Where its cells stand, as files/layouts.py writes it; NULL: nobody drew it.
    layout: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    #: Since when proving counts: it was built or came back then; NULL: it is neither.
    proving_since: Mapped[datetime | None]
    version: Mapped[int] = version_column()
    groups: Mapped[list[PackGroup]] = relationship(back_populates="pack", order_by="PackGroup.number")
    parts: Mapped[list[PackPart]] = relationship(order_by="PackPart.position", cascade="all, delete-orphan")
    waivers: Mapped[list[PackWaiver]] = relationship(order_by="PackWaiver.id")
    __mapper_args__ = {"version_id_col": version}


class PackPart(Base):
    """What a pack is built from and for, with its figures as they were typed."""

    __tablename__ = "pack_part"
    __table_args__ = (
        CheckConstraint(one_of("kind", PARTS_OF_PACK), name="kind"),
        UniqueConstraint("pack_id", "position", deferrable=True, initially="DEFERRED"),
    )
    id: Mapped[IntPk]
    pack_id: Mapped[int] = mapped_column(ForeignKey("pack.id"))
    position: Mapped[int]
    kind: Mapped[str]
    name: Mapped[str]
    figures: Mapped[dict[str, str]]
    #: The kept part of a donor that it is; NULL: it came from elsewhere.
    part_id: Mapped[int | None] = mapped_column(ForeignKey("part.id"), index=True)


class PackWaiver(Base):
    """A coordinator let a check's finding pass. Append-only; it holds as long as the finding reads the same."""

    __tablename__ = "pack_waiver"
    id: Mapped[IntPk]
    pack_id: Mapped[int] = mapped_column(ForeignKey("pack.id"), index=True)
    check: Mapped[str]
    finding: Mapped[dict[str, Any]]
    why: Mapped[str]
    at: Mapped[datetime]
    by_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    by: Mapped[Person] = relationship(lazy="joined", innerjoin=True)


StepStage = Literal["build", "prove"]
StepState = Literal["done", "wrong", "confirmed", "waived", "undone"]


class PackStep(Base):
    """What somebody did or measured at a step of building or proving. Append-only: the last one of a step holds."""

    __tablename__ = "pack_step"
    __table_args__ = (
        CheckConstraint(one_of("stage", get_args(StepStage)), name="stage"),
        CheckConstraint(one_of("state", get_args(StepState)), name="state"),
    )
    id: Mapped[IntPk]
    pack_id: Mapped[int] = mapped_column(ForeignKey("pack.id"), index=True)
    stage: Mapped[str]
    step: Mapped[str]
    state: Mapped[str]
    #: What was measured, by the keys of the step.
    figures: Mapped[dict[str, float]]
    #: What is wrong with it, as it was said then; NULL: nothing is.
    finding: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    at: Mapped[datetime]
    by_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    by: Mapped[Person] = relationship(lazy="joined", innerjoin=True)


class PackPage(Base):
    """A page about a pack that is read without signing in, by whoever has its address; withdrawn it is gone."""

    __tablename__ = "pack_page"
    id: Mapped[IntPk]
    pack_id: Mapped[int] = mapped_column(ForeignKey("pack.id"), index=True)
    token: Mapped[str] = mapped_column(unique=True)
    made_at: Mapped[datetime]
    withdrawn_at: Mapped[datetime | None]


ReportKind = Literal["use", "back"]


class PackReport(Base):
    """What was told of a pack that was given out: how it does, or what is wrong when it comes back."""

    __tablename__ = "pack_report"
    __table_args__ = (
        CheckConstraint(one_of("kind", get_args(ReportKind)), name="kind"),
        CheckConstraint(one_of("decision", get_args(ReturnDecision)), name="decision"),
    )
    id: Mapped[IntPk]
    pack_id: Mapped[int] = mapped_column(ForeignKey("pack.id"), index=True)
    kind: Mapped[str]
    words: Mapped[str]
    #: Hours it ran, weeks since it was given out; of one that came back voltages of its groups and what was seen.
    figures: Mapped[dict[str, Any]]
    #: What is done with one that came back; NULL: not decided, or it is only told of.
    decision: Mapped[str | None]
    at: Mapped[datetime]
    by_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    by: Mapped[Person] = relationship(lazy="joined", innerjoin=True)


class Recall(Base):
    """Something is wrong with a kind of cells: which, why, and what to tell those who have packs with them."""

    __tablename__ = "recall"
    id: Mapped[IntPk]
    about: Mapped[str]
    asked: Mapped[dict[str, Any]]
    why: Mapped[str]
    tell: Mapped[str]
    at: Mapped[datetime]
    by_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    by: Mapped[Person] = relationship(lazy="joined", innerjoin=True)
    packs: Mapped[list[RecalledPack]] = relationship(order_by="RecalledPack.id", back_populates="recall")


class RecalledPack(Base):
    """A pack that falls under a recall, with the cells of it that do, until it is settled."""

    __tablename__ = "recalled_pack"
    __table_args__ = (
        UniqueConstraint("recall_id", "pack_id"),
        CheckConstraint("(settled_at IS NULL) = (settled_how IS NULL)", name="settled_says_how"),
    )
    id: Mapped[IntPk]
    recall_id: Mapped[int] = mapped_column(ForeignKey("recall.id"))
    pack_id: Mapped[int] = mapped_column(ForeignKey("pack.id"), index=True)
    cells: Mapped[list[str]] = mapped_column(JSONB)
    settled_at: Mapped[datetime | None]
    settled_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    settled_how: Mapped[str | None]
    recall: Mapped[Recall] = relationship(back_populates="packs")
    pack: Mapped[Pack] = relationship()


class PackGroup(Base):
    """Cells in parallel; number 1 stands at the pack's minus."""

    __tablename__ = "pack_group"
    __table_args__ = (UniqueConstraint("pack_id", "number"),)
    id: Mapped[IntPk]
    pack_id: Mapped[int] = mapped_column(ForeignKey("pack.id"))
    number: Mapped[int]
    pack: Mapped[Pack] = relationship(back_populates="groups")
    cells: Mapped[list[PackCell]] = relationship(back_populates="group", order_by="PackCell.position")


class PackCell(Base):
    """A cell's place in a group, with the capacity it was matched by."""

    __tablename__ = "pack_cell"
    __table_args__ = (
        UniqueConstraint("group_id", "position"),
        Index("uq_pack_cell_live", "cell_id", unique=True, postgresql_where=text("released_at IS NULL")),
        CheckConstraint("capacity_mah > 0", name="capacity_positive"),
        CheckConstraint("(picked_at IS NULL) = (picked_by_id IS NULL)", name="picked_by_somebody"),
    )
    id: Mapped[IntPk]
    group_id: Mapped[int] = mapped_column(ForeignKey("pack_group.id"))
    position: Mapped[int]
    cell_id: Mapped[int] = mapped_column(ForeignKey("cell.id"), index=True)
    capacity_mah: Mapped[float]
    #: When the pack let go of it; NULL while it belongs to the pack. A cell is in one live pack at most.
    released_at: Mapped[datetime | None]
    #: When it was taken from its place for building and its label confirmed; NULL: not yet.
    picked_at: Mapped[datetime | None]
    picked_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    #: A coordinator's yes to a cell that carries a mark for life, for this pack only; NULL: none was given.
    mark_allowed_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    mark_allowed_why: Mapped[str | None]
    group: Mapped[PackGroup] = relationship(back_populates="cells")
    cell: Mapped[CellRow] = relationship()
