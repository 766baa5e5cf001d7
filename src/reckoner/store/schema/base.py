"""What all tables share: the base class, column types, and the audit trail."""

from __future__ import annotations

import json
from datetime import date, datetime
from enum import StrEnum
from typing import Any, TypeVar

from sqlalchemy import Date, DateTime, Dialect, ForeignKey, LargeBinary, MetaData, String, Text, TypeDecorator
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column
from sqlalchemy.types import TypeEngine, UserDefinedType

from reckoner.store.errors import ValueUnreadable
from reckoner.store.terms import term
from reckoner.store.times import day_of, time_of, written

E = TypeVar("E", bound=StrEnum)

STATION = "reckoner.station"
"""Where a session keeps the name of the station that it works at."""


class _AsText(UserDefinedType[str]):
    """The text as it stands in SQLite, in a column called ``name`` there: SQLAlchemy's own types would take the offset off a
    time, and fail without a sentence on what is no date."""

    cache_ok = True

    def __init__(self, name: str) -> None:
        self.name = name

    def get_col_spec(self, **_kw: object) -> str:
        return self.name


def unfolded(text: str) -> Any:
    """What a column of JSON text holds. Raises ValueUnreadable."""
    try:
        return json.loads(text)
    except (ValueError, TypeError, RecursionError):
        raise ValueUnreadable("list of values", text) from None


class LocalTime(TypeDecorator[datetime]):
    """An aware time, kept as ``times.written`` says. Raises ValueUnreadable."""

    impl = DateTime
    cache_ok = True

    def load_dialect_impl(self, dialect: Dialect) -> TypeEngine[Any]:
        return _AsText("DATETIME") if dialect.name == "sqlite" else String(40)

    def process_bind_param(self, value: datetime | None, dialect: Dialect) -> Any:
        return None if value is None else written(value)

    def process_result_value(self, value: Any, dialect: Dialect) -> datetime | None:
        return time_of(value)


class Day(TypeDecorator[date]):
    """A date. Raises ValueUnreadable for a text that is none."""

    impl = Date
    cache_ok = True

    def load_dialect_impl(self, dialect: Dialect) -> TypeEngine[Any]:
        return _AsText("DATE") if dialect.name == "sqlite" else Date()

    def process_bind_param(self, value: date | None, dialect: Dialect) -> Any:
        return value.isoformat() if value is not None and dialect.name == "sqlite" else value

    def process_result_value(self, value: Any, dialect: Dialect) -> date | None:
        return day_of(value)


class Term(TypeDecorator[StrEnum]):
    """One of a closed vocabulary, kept as its word. Raises TermUnknown for a word that is not in it."""

    impl = String(200)
    cache_ok = True

    def __init__(self, of: type[StrEnum]) -> None:
        super().__init__()
        self.of = of

    def process_bind_param(self, value: StrEnum | None, dialect: Dialect) -> str | None:
        return None if value is None else self.of(value).value

    def process_result_value(self, value: str | None, dialect: Dialect) -> StrEnum | None:
        return None if value is None else term(self.of, value)


class Base(DeclarativeBase):
    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(column_0_label)s",
            "uq": "uq_%(table_name)s_%(column_0_name)s",
            "ck": "ck_%(table_name)s_%(constraint_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map = {datetime: LocalTime(), date: Day(), str: String(200), bytes: LargeBinary(), Any: Text()}  # noqa: RUF012

    id: Mapped[int] = mapped_column(primary_key=True)


class Record:
    """Marks a table whose rows are never changed."""


class Audit(Record, Base):
    """Who did what when, at which station, in words and as JSON; every change of the shop writes one."""

    __tablename__ = "audit"
    at: Mapped[datetime] = mapped_column(index=True)
    person_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    action: Mapped[str]
    subject: Mapped[str] = mapped_column(index=True)
    detail: Mapped[str] = mapped_column(Text, default="{}")
    station: Mapped[str] = mapped_column(default="", server_default="")
