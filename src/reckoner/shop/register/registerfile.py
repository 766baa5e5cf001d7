"""A shop's register as a TOML file, read and written by the fields of the register: people, tool models, tools, references
with their certificates, and what stands beside them.

Quantities are text with a unit. `reckoner import FILE` reads it; docs/file-formats.md describes it with an example. A new
field comes in with its row in ``fields.FIELDS``.
"""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from enum import Enum
from functools import cache, partial
from pathlib import Path
from typing import Annotated, Any

from pydantic import (
    AfterValidator,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    StringConstraints,
    ValidationError,
    create_model,
)
from pydantic import Field as Bounded

from reckoner.core.errors import InputRefused, UnreachableError
from reckoner.core.quantities.units import Kind, unit_named
from reckoner.core.requirements.limits import StatedLimit, read_limit
from reckoner.core.requirements.tooltypes import ToolType
from reckoner.core.translation import tr
from reckoner.formats.fields import quantity, sentences
from reckoner.formats.files import TextRefused, read_text, read_toml
from reckoner.formats.refusals import FileRefused
from reckoner.shop.facts.limits import limit_words, stated_limit
from reckoner.shop.register.field import QUANTITIES, ZERO_IS_NOTHING, Field, FieldForm, columns_in
from reckoner.shop.register.fields import FIELDS
from reckoner.shop.register.rows import KINDS
from reckoner.store.terms import RegisterKind

SECTIONS: dict[str, RegisterKind] = {
    "people": RegisterKind.PERSON,
    "models": RegisterKind.MODEL,
    "tools": RegisterKind.TOOL,
    "references": RegisterKind.REFERENCE,
    "weights": RegisterKind.WEIGHT,
    "scales": RegisterKind.SCALE,
    "force_gauges": RegisterKind.FORCE_GAUGE,
    "lengths": RegisterKind.LENGTH,
    "levels": RegisterKind.LEVEL,
    "adapters": RegisterKind.ADAPTER,
}
"""Key of the file → the kind of its rows, in the order in which they are taken in."""

GEAR = tuple(SECTIONS)[4:]


class RegisterRefused(FileRefused):
    """A register file cannot be used."""


class _FileRow(BaseModel):
    model_config = ConfigDict(extra="forbid")


class FilePoint(_FileRow):
    torque: Annotated[float, quantity(Kind.TORQUE), Bounded(gt=0)]
    error: Annotated[float, quantity(Kind.RATIO)] = 0.0
    uncertainty: Annotated[float, quantity(Kind.RATIO), Bounded(gt=0, lt=0.5)]


class CertificateRow(_FileRow):
    number: str = ""
    laboratory: str = ""
    issued: date | None = None
    due: date
    coverage_factor: Annotated[float, Bounded(ge=1, le=4)] = 2.0
    points: Annotated[list[FilePoint], Bounded(min_length=1)]


class Register(_FileRow):
    """The whole file, each section a list of rows with the columns of its kind. Tools name their model as "Maker Name"."""

    people: list[Any] = []
    models: list[Any] = []
    tools: list[Any] = []
    references: list[Any] = []
    weights: list[Any] = []
    scales: list[Any] = []
    force_gauges: list[Any] = []
    lengths: list[Any] = []
    levels: list[Any] = []
    adapters: list[Any] = []


# The rows, made of the fields


@cache
def _register() -> type[Register]:
    rows: dict[str, Any] = {
        name: (list[_row(kind)], Bounded(default_factory=list))  # type: ignore[misc]
        for name, kind in SECTIONS.items()
    }
    return create_model(tr("Register"), __base__=Register, **rows)


def _row(kind: RegisterKind) -> Any:
    columns: dict[str, Any] = {}
    for field in FIELDS[kind]:
        if field.name == "kind":
            columns |= {"type": (ToolType, ...), "class_": (str, Bounded(alias="class"))}
        else:
            columns[field.name] = (_annotation(field), _default(kind, field))
    if kind is RegisterKind.TOOL:
        columns["model"] = (Annotated[str, StringConstraints(min_length=1)], ...)
    if kind is RegisterKind.REFERENCE:
        columns["certificates"] = (list[CertificateRow], Bounded(default_factory=list))
    return create_model(f"{kind.name.title()}Row", __base__=_FileRow, **columns)


def _default(kind: RegisterKind, field: Field) -> Any:
    """What a row that does not say a field has there: what its column has; ``...`` where it has to be said."""
    column = KINDS[kind].table.__table__.c[field.name]
    if column.default is not None:
        return column.default.arg
    if field.needed:
        return ...
    return None if column.nullable else ""


def _annotation(field: Field) -> Any:
    """What a field's column holds, as it is read from a file."""
    if field.form in QUANTITIES:
        return Annotated[float | None, AfterValidator(partial(_within, field)), quantity(QUANTITIES[field.form][0])]
    match field.form:
        case FieldForm.WORDS:
            return Annotated[str | None, Bounded(min_length=int(field.needed), max_length=field.longest)]
        case FieldForm.NUMBER:
            return Annotated[float | None, Bounded(ge=field.low, le=field.high)]
        case FieldForm.COUNT:
            return Annotated[int | None, Bounded(ge=field.low, le=field.high)]
        case FieldForm.DAY:
            return date | None
        case FieldForm.YES_NO:
            return bool
        case FieldForm.CHOICE:
            return _choice(field)
        case FieldForm.LIMIT:
            return Annotated[StatedLimit | None, BeforeValidator(_limit)]
        case other:
            raise UnreachableError(other)


def _within(field: Field, value: float | None) -> float | None:
    """A quantity that its field admits."""
    if value is not None:
        kind, usual = QUANTITIES[field.form]
        try:
            field.hold_to_bounds(value, "", unit_named(usual, kind))
        except InputRefused as refusal:
            raise ValueError(refusal.reason) from None
    return value


def _choice(field: Field) -> Any:
    values = [value for value, _ in field.choices]
    if field.name.endswith("unit"):
        return Annotated[str, BeforeValidator(_unit)]
    if not values:  # the rule sets, which are looked for as the row is taken in
        return str
    if all(isinstance(value, bool) or value is None for value in values):
        return bool | None
    if isinstance(values[0], Enum):
        return type(values[0])
    return Annotated[str, Bounded(pattern=f"^({'|'.join(map(str, values))})$")]


def _unit(value: Any) -> str:
    try:
        return unit_named(str(value), Kind.TORQUE).name if value else ""
    except InputRefused as refusal:
        raise ValueError(refusal.reason) from None


def _limit(value: Any) -> StatedLimit | None:
    if value is None or isinstance(value, StatedLimit):
        return value
    try:
        return read_limit(str(value), "tolerance")
    except InputRefused as refusal:
        raise ValueError(refusal.reason) from None


# Reading


def parse(text: str, source: str = "register") -> Register:
    """The register that a TOML ``text`` says. Raises RegisterRefused with a sentence for each mistake."""
    try:
        raw = read_toml(text)
    except TextRefused as refusal:
        raise RegisterRefused(source, (refusal.why,)) from None
    return validate(raw, source)


def validate(raw: Any, source: str = "register") -> Register:
    """The same for a table already read."""
    try:
        return _register().model_validate(raw)
    except ValidationError as fault:
        raise RegisterRefused(source, sentences(fault)) from None


def read_tables(path: Path) -> dict[str, Any]:
    """The tables of the register in a file, as ``validate`` takes them. Raises RegisterRefused."""
    try:
        raw = read_toml(read_text(path))
    except TextRefused as refusal:
        raise RegisterRefused(str(path), (refusal.why,)) from None
    validate(raw, path.name)
    return raw


def named(kind: RegisterKind, row: Any) -> str:
    """What tells a row from the others of its kind."""
    return " ".join(str(getattr(row, name)) for name in KINDS[kind].named_by)


# Writing


def columns(kind: RegisterKind, of: str = "") -> str:
    """The columns of a kind's table that the file says, for a statement; ``of`` names the table there."""
    table = KINDS[kind].table.__mapper__.columns
    names = [table[name].name for field in FIELDS[kind] for name in columns_in(field)]
    return ", ".join(f'{of}."{name}"' if of else f'"{name}"' for name in names)


def written(kind: RegisterKind, row: Mapping[str, Any]) -> dict[str, Any]:
    """A row, by its columns, as the file says it: what says nothing is left out."""
    made: dict[str, Any] = {}
    for field in FIELDS[kind]:
        if field.name == "kind":
            made |= {"type": row["type"], "class": row["class"]}
        elif (value := _written(field, row)) is not None:
            made[field.name] = value
    return made


def _written(field: Field, row: Mapping[str, Any]) -> Any:
    value = row[field.name]
    if field.form is FieldForm.LIMIT:
        limit = stated_limit(value, row["zones"] or "")
        return None if limit is None else limit_words(limit)
    if value is None or value == "" or (value == 0 and field.name in ZERO_IS_NOTHING):
        return None
    if field.form in QUANTITIES:
        return in_full(value, QUANTITIES[field.form][0])
    truths = [chosen for chosen, _ in field.choices if isinstance(chosen, bool)]
    return bool(value) if truths else value


_SI = {Kind.TORQUE: "N.m", Kind.LENGTH: "m", Kind.MASS: "kg", Kind.FORCE: "N", Kind.ANGLE: "rad"}


def in_full(value: float, kind: Kind) -> str:
    """A quantity as text that is read again as the same."""
    return f"{value * 100:.15g} %" if kind is Kind.RATIO else f"{value!r} {_SI[kind]}"
