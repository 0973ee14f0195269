"""What all tables share: naming of constraints, types, and the kinds of column that come again and again."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime
from typing import Annotated, Any

from sqlalchemy import DateTime, Double, Identity, Integer, MetaData, Text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, MappedColumn, mapped_column

IntPk = Annotated[int, mapped_column(Identity(always=True), primary_key=True)]


class Base(DeclarativeBase):
    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(table_name)s_%(column_0_N_name)s",
            "uq": "uq_%(table_name)s_%(column_0_N_name)s",
            "ck": "ck_%(table_name)s_%(constraint_name)s",
            "fk": "fk_%(table_name)s_%(column_0_N_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map = {
        datetime: DateTime(timezone=True),
        float: Double,
        str: Text,
        dict[str, Any]: JSONB,
        dict[str, float]: JSONB,
        dict[str, str]: JSONB,
        list[dict[str, Any]]: JSONB,
    }


def version_column() -> MappedColumn[int]:
    """Raised at each change, so that of two people who edit at once the second is told."""
    return mapped_column(Integer, default=1, server_default="1")


def one_of(column: str, allowed: Iterable[str]) -> str:
    """SQL of a check that a text column holds one of the allowed values."""
    values = ", ".join(f"'{value}'" for value in sorted(allowed))
    return f"{column} IN ({values})"
