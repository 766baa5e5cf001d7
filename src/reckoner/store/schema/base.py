"""What all tables share: the base class, column types, and the audit trail."""

from __future__ import annotations

from datetime import UTC, datetime
from enum import StrEnum
from typing import Any, TypeVar

from sqlalchemy import DateTime, Dialect, ForeignKey, LargeBinary, MetaData, String, Text, TypeDecorator
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

from reckoner.store.errors import TermUnknown

E = TypeVar("E", bound=StrEnum)


class UtcTime(TypeDecorator[datetime]):
    """An aware time, kept as UTC."""

    impl = DateTime
    cache_ok = True

    def process_bind_param(self, value: datetime | None, dialect: Dialect) -> datetime | None:
        return None if value is None else value.astimezone(UTC).replace(tzinfo=None)

    def process_result_value(self, value: datetime | None, dialect: Dialect) -> datetime | None:
        return None if value is None else value.replace(tzinfo=UTC)


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
        if value is None:
            return None
        try:
            return self.of(value)
        except ValueError:
            raise TermUnknown(self.of.__name__, value) from None


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
    type_annotation_map = {datetime: UtcTime(), str: String(200), bytes: LargeBinary(), Any: Text()}  # noqa: RUF012

    id: Mapped[int] = mapped_column(primary_key=True)


class Record:
    """Marks a table whose rows are never changed."""


class Audit(Record, Base):
    """Who did what when, in words and as JSON; every change of the shop writes one."""

    __tablename__ = "audit"
    at: Mapped[datetime] = mapped_column(index=True)
    person_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    action: Mapped[str]
    subject: Mapped[str] = mapped_column(index=True)
    detail: Mapped[str] = mapped_column(Text, default="{}")
