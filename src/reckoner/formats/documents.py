"""Frozen records as JSON documents and back: their own annotations say how. A unit stands by its name, a term by its word, a
day as ISO 8601.

A field that a document lacks has its default, so that one that is added later leaves those before it readable.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Any, TypeVar

from reckoner.core.errors import Refused
from reckoner.core.quantities.units import Kind, Unit, unit_named
from reckoner.core.translation import tr

if TYPE_CHECKING:
    from pydantic import TypeAdapter

T = TypeVar("T")


class DocumentUnreadable(Refused):
    """A document is not what it should hold; ``why`` says where it is wrong."""

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why

    def __str__(self) -> str:
        return tr("a document that was kept cannot be read: {why}", why=self.why)


class _ByName:
    """A unit of a ``kind`` stands by its name."""

    def __init__(self, kind: Kind) -> None:
        self._kind = kind

    def __get_pydantic_core_schema__(self, _source: Any, _handler: Any) -> Any:
        from pydantic_core import core_schema  # loads slowly

        def read(value: Any) -> Unit:
            return value if isinstance(value, Unit) else unit_named(str(value), self._kind)

        write = core_schema.plain_serializer_function_ser_schema(lambda unit: unit.name)
        return core_schema.no_info_plain_validator_function(read, serialization=write)


TorqueUnit = Annotated[Unit, _ByName(Kind.TORQUE)]


_ADAPTERS: dict[Any, TypeAdapter[Any]] = {}


def _adapter(kind: type[T]) -> TypeAdapter[T]:
    """Made once of each kind: it takes a while."""
    from pydantic import TypeAdapter  # loads slowly

    if kind not in _ADAPTERS:
        _ADAPTERS[kind] = TypeAdapter(kind)
    return _ADAPTERS[kind]


def to_plain(record: Any) -> Any:
    """A record as numbers, texts, lists and tables, as ``json`` writes them."""
    return _adapter(type(record)).dump_python(record, mode="json")


def from_plain(kind: type[T], raw: Any) -> T:
    """The record of a ``kind`` that plain values say. Raises DocumentUnreadable."""
    from pydantic import ValidationError  # loads slowly

    try:
        return _adapter(kind).validate_python(raw)
    except ValidationError as fault:
        first = fault.errors()[0]
        where = ".".join(str(part) for part in first["loc"])
        why = tr("it lacks {where!r}", where=where) if first["type"] == "missing" else f"{where}: {first['msg']}"
        raise DocumentUnreadable(why) from None
    except Refused as refusal:
        raise DocumentUnreadable(str(refusal)) from None
