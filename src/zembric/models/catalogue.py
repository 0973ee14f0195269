"""What a repair cafe knows beforehand and its coordinators extend: kinds of donor, formats, chemistries, models, trays."""

from __future__ import annotations

from datetime import date
from typing import get_args

from sqlalchemy import ARRAY, CheckConstraint, Text
from sqlalchemy.orm import Mapped, mapped_column

from zembric.core.codes import DonorDrain, DonorProtection
from zembric.core.house.limits import Family
from zembric.core.pack.parts import PARTS_OF_PACK
from zembric.core.story import DonorKind
from zembric.models.base import Base, IntPk, one_of, version_column

JUDGED_AS = get_args(DonorKind)
DRAINS = get_args(DonorDrain)
PROTECTIONS_OF_DONORS = get_args(DonorProtection)


class DonorKindRow(Base):
    """A kind of dead device: what to expect in it, and the cautions for opening it."""

    __tablename__ = "donor_kind"
    __table_args__ = (
        CheckConstraint(one_of("usual_family", Family), name="usual_family"),
        CheckConstraint(one_of("drain", DRAINS), name="drain"),
        CheckConstraint(one_of("protection", PROTECTIONS_OF_DONORS), name="protection"),
        CheckConstraint(one_of("judged_as", JUDGED_AS), name="judged_as"),
        CheckConstraint("cells_least BETWEEN 1 AND cells_most AND cells_most <= 40", name="cells"),
    )
    code: Mapped[str] = mapped_column(primary_key=True)
    position: Mapped[int]
    name: Mapped[str] = mapped_column(unique=True)
    sizes: Mapped[str]
    #: NULL: nothing may be assumed.
    usual_size: Mapped[str | None]
    usual_family: Mapped[str | None]
    cells_least: Mapped[int]
    cells_most: Mapped[int]
    drain: Mapped[str]
    protection: Mapped[str]
    traps: Mapped[list[str]] = mapped_column(ARRAY(Text))
    cautions: Mapped[list[str]] = mapped_column(ARRAY(Text))
    judged_as: Mapped[str]
    is_active: Mapped[bool] = mapped_column(default=True, server_default="true")
    version: Mapped[int] = version_column()
    __mapper_args__ = {"version_id_col": version}


class CellFormat(Base):
    """A size by its name, with its outline in millimetres; thickness NULL: a cylinder."""

    __tablename__ = "cell_format"
    __table_args__ = (
        CheckConstraint("width_mm > 0 AND length_mm > 0", name="outline_positive"),
        CheckConstraint("thickness_mm > 0", name="thickness_positive"),
    )
    code: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    width_mm: Mapped[float]
    length_mm: Mapped[float]
    thickness_mm: Mapped[float | None]
    note: Mapped[str]
    is_active: Mapped[bool] = mapped_column(default=True, server_default="true")
    version: Mapped[int] = version_column()
    __mapper_args__ = {"version_id_col": version}


class Chemistry(Base):
    """A chemistry by its own name, and the family whose limits hold for it."""

    __tablename__ = "chemistry"
    __table_args__ = (
        CheckConstraint(one_of("family", Family), name="family"),
        CheckConstraint("full_v BETWEEN 2 AND 5", name="full_v"),
    )
    code: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    family: Mapped[str]
    #: Its own full voltage; NULL: the family's.
    full_v: Mapped[float | None]
    note: Mapped[str]
    is_active: Mapped[bool] = mapped_column(default=True, server_default="true")
    version: Mapped[int] = version_column()
    __mapper_args__ = {"version_id_col": version}


class CellModel(Base):
    """A model of cell by its data sheet, with where the sheet came from. What the sheet does not tell is NULL."""

    __tablename__ = "cell_model"
    __table_args__ = (
        CheckConstraint(one_of("family", Family), name="family"),
        CheckConstraint("full_v BETWEEN 2 AND 5", name="full_v"),
        CheckConstraint("rated_capacity_mah > 0", name="rated_capacity_positive"),
        CheckConstraint("most_charge_ma > 0 AND most_discharge_ma > 0", name="currents_positive"),
    )
    id: Mapped[IntPk]
    name: Mapped[str] = mapped_column(unique=True)
    size_code: Mapped[str]
    family: Mapped[str]
    full_v: Mapped[float | None]
    rated_capacity_mah: Mapped[float]
    cut_off_v: Mapped[float | None]
    most_charge_ma: Mapped[float | None]
    most_discharge_ma: Mapped[float | None]
    source: Mapped[str]
    sheet_date: Mapped[date | None]
    is_active: Mapped[bool] = mapped_column(default=True, server_default="true")
    version: Mapped[int] = version_column()
    __mapper_args__ = {"version_id_col": version}


class PackPartKind(Base):
    """A kind of part that packs are built from, with its usual figures as they are typed."""

    __tablename__ = "pack_part_kind"
    __table_args__ = (CheckConstraint(one_of("kind", PARTS_OF_PACK), name="kind"),)
    id: Mapped[IntPk]
    kind: Mapped[str]
    name: Mapped[str] = mapped_column(unique=True)
    figures: Mapped[dict[str, str]]
    note: Mapped[str]
    is_active: Mapped[bool] = mapped_column(default=True, server_default="true")
    version: Mapped[int] = version_column()
    __mapper_args__ = {"version_id_col": version}


class TraySize(Base):
    """A tray that the cafe owns, by its rows and columns of numbered places."""

    __tablename__ = "tray_size"
    __table_args__ = (CheckConstraint("rows BETWEEN 1 AND 20 AND columns BETWEEN 1 AND 20", name="size"),)
    id: Mapped[IntPk]
    name: Mapped[str] = mapped_column(unique=True)
    rows: Mapped[int]
    columns: Mapped[int]
    is_active: Mapped[bool] = mapped_column(default=True, server_default="true")
    version: Mapped[int] = version_column()
    __mapper_args__ = {"version_id_col": version}
