"""One field of a row in the register: how it is entered, bounded, and said."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import date
from enum import Enum, auto
from typing import Any

from reckoner.core.errors import InputRefused, UnreachableError
from reckoner.core.quantities import printing
from reckoner.core.quantities.days import day_words, read_day
from reckoner.core.quantities.entry import read, read_plain
from reckoner.core.quantities.ownunits import OwnUnits
from reckoner.core.quantities.units import Kind, Unit, unit_named
from reckoner.core.requirements.limits import StatedLimit, read_limit
from reckoner.core.requirements.tooltypes import ToolType
from reckoner.core.translation import tr
from reckoner.shop.facts.limits import limit_columns, limit_words, stated_limit
from reckoner.store.terms import RegisterKind


class FieldForm(Enum):
    """How a field is entered."""

    WORDS = auto()
    TORQUE = auto()
    LENGTH = auto()
    MASS = auto()
    RATIO = auto()
    FORCE = auto()
    ANGLE = auto()
    NUMBER = auto()
    COUNT = auto()
    DAY = auto()
    YES_NO = auto()
    CHOICE = auto()
    LIMIT = auto()


QUANTITIES: dict[FieldForm, tuple[Kind, str]] = {
    FieldForm.TORQUE: (Kind.TORQUE, "N.m"),
    FieldForm.LENGTH: (Kind.LENGTH, "mm"),
    FieldForm.MASS: (Kind.MASS, "kg"),
    FieldForm.RATIO: (Kind.RATIO, "%"),
    FieldForm.FORCE: (Kind.FORCE, "N"),
    FieldForm.ANGLE: (Kind.ANGLE, "deg"),
}
"""What each form that is a quantity measures, and the unit that a bare number is in."""


YES_NO = ((True, tr("yes")), (False, tr("no")))
"""What a yes or no is chosen from."""


@dataclass(frozen=True)
class Field:
    """One field: its column's ``name``, its ``title`` within the ``group`` of a sheet, how it is entered.

    ``needed``: it is never empty. ``low`` and ``high`` bound it, in SI; ``above`` when ``low`` itself is no value of it.
    ``choices`` are (value, words). ``improves`` completes "with it, …" while the field is empty; ``hint`` is an example or
    what it means. ``check`` reads words of a form of their own: (what is kept, how it was understood); raises InputRefused.
    """

    name: str
    title: str
    form: FieldForm
    group: str
    needed: bool = False
    low: float | None = None
    high: float | None = None
    above: bool = False
    choices: tuple[tuple[Any, str], ...] = ()
    improves: str = ""
    hint: str = ""
    longest: int = 200
    check: Callable[[str, str], tuple[Any, str]] | None = None

    @property
    def nothing(self) -> str:
        """What stands there while nothing is said."""
        return str(dict(self.choices).get("", "—"))

    def read(self, text: str, own: OwnUnits) -> tuple[Any, str]:
        """What ``text`` means, and the words for it; a bare value is in one's ``own`` unit. Empty text is None, or "" for
        words. Raises InputRefused."""
        if not text.strip():
            return self._nothing()
        if self.form in QUANTITIES:
            kind, _usual = QUANTITIES[self.form]
            found = read(text, kind, default=self._unit(own), field=self.title)
            self.hold_to_bounds(found.si, text, found.unit)
            return found.si, tr("understood: {si}", si=printing.quantity(found.si, found.unit))
        match self.form:
            case FieldForm.WORDS:
                return self._words(text)
            case FieldForm.NUMBER:
                value = read_plain(text, self.low or 0.0, self.high or 1e9, field=self.title)
                return value, " "
            case FieldForm.COUNT:
                return self._count(text), " "
            case FieldForm.DAY:
                day = read_day(text, self.title)
                return day, tr("understood: {day}", day=day_words(day))
            case FieldForm.YES_NO | FieldForm.CHOICE:
                return self._choice(text)
            case FieldForm.LIMIT:
                limit = read_limit(text, self.title)
                return limit, tr("understood: ±{limit_words}", limit_words=limit_words(limit))
            case other:
                raise UnreachableError(other)

    def _unit(self, own: OwnUnits) -> Unit:
        kind, usual = QUANTITIES[self.form]
        return own.of(kind) or unit_named(usual, kind)

    def said(self, value: Any, own: OwnUnits) -> str:
        """The words for a value; empty for none."""
        if value is None or value == "":
            return ""
        if self.form in QUANTITIES:
            kind, _usual = QUANTITIES[self.form]
            return own.words(kind, float(value)) if own.of(kind) else printing.quantity(float(value), self._unit(own))
        match self.form:
            case FieldForm.DAY:
                return day_words(value if isinstance(value, date) else date.fromisoformat(str(value)))
            case FieldForm.YES_NO:
                return tr("yes") if value else tr("no")
            case FieldForm.CHOICE:
                return str(dict(self.choices).get(value, value))
            case FieldForm.NUMBER:
                return printing.number(float(value))
            case FieldForm.LIMIT:  # as a value, or as one of its columns says it
                zones = value if isinstance(value, str) else ""
                limit = value if isinstance(value, StatedLimit) else stated_limit(None if zones else value, zones)
                return limit_words(limit) if limit is not None else ""
            case _:
                return str(value)

    def holds(self, value: Any) -> bool:
        """Whether a value is none beyond the field's bounds."""
        known = self.form in QUANTITIES and value is not None
        return not known or not (self._too_low(float(value)) or self._too_high(float(value)))

    def _too_low(self, si: float) -> bool:
        return self.low is not None and (si < self.low or (self.above and si <= self.low))

    def _too_high(self, si: float) -> bool:
        return self.high is not None and si > self.high

    def hold(self, value: Any, own: OwnUnits) -> None:
        """Raises InputRefused for a quantity beyond the field's bounds."""
        if self.form in QUANTITIES and value is not None:
            self.hold_to_bounds(float(value), self.said(value, own), self._unit(own))

    def hold_to_bounds(self, si: float, text: str, unit: Unit) -> None:
        """Raises InputRefused for a value beyond the field's bounds, told in ``unit``."""
        if self.low is not None and self._too_low(si):
            least = printing.quantity(self.low, unit)
            raise InputRefused(
                self.title,
                text,
                tr("has to be {which} {least}", which=tr("more than") if self.above else tr("at least"), least=least),
            )
        if self.high is not None and self._too_high(si):
            raise InputRefused(
                self.title, text, tr("cannot be more than {high}", high=printing.quantity(self.high, unit))
            )

    def _nothing(self) -> tuple[Any, str]:
        if self.needed:
            raise InputRefused(self.title, "", tr("cannot be left empty"))
        return ("" if self.form is FieldForm.WORDS else None), " "

    def _words(self, text: str) -> tuple[str, str]:
        words = " ".join(text.split())
        if len(words) > self.longest:
            raise InputRefused(self.title, text, tr("is longer than {longest} letters", longest=self.longest))
        if any(not c.isprintable() for c in words):
            raise InputRefused(self.title, text, tr("holds a letter that cannot be shown; type it anew"))
        return words, tr(
            "understood: {check}", check=self.check(words, self.title)[1]
        ) if self.check is not None else " "

    def _count(self, text: str) -> int:
        value = read_plain(text, self.low or 0, self.high or 10**7, field=self.title)
        if value != int(value):
            raise InputRefused(self.title, text, tr('"{text}" is not a whole number', text=text))
        return int(value)

    def _choice(self, text: str) -> tuple[Any, str]:
        for value, words in self.choices:
            if text.strip().casefold() in (words.casefold(), str(value).casefold()):
                return value, words
        raise InputRefused(
            self.title,
            text,
            tr('"{text}" is none of: {list}', text=text, list=", ".join((words for _, words in self.choices))),
        )


KNOWN_OR_NOT = ((True, tr("yes")), (False, tr("no")), (None, tr("not known")))
WHAT_IT_IS, WHAT_IT_MEASURES, HOW_ADJUSTED, HOW_KEPT = (
    tr("What it is"),
    tr("What it measures"),
    tr("How it is adjusted"),
    tr("How it is kept"),
)


def torque_field(name: str, title: str, group: str, **more: Any) -> Field:
    return Field(name, title, FieldForm.TORQUE, group, low=0.0, above=True, **more)


def length_field(name: str, title: str, group: str, **more: Any) -> Field:
    return Field(name, title, FieldForm.LENGTH, group, low=0.0, high=5.0, **more)


def mass_field(name: str, title: str, **more: Any) -> Field:
    return Field(name, title, FieldForm.MASS, WHAT_IT_MEASURES, low=0.0, high=500.0, above=True, **more)


ZERO_IS_NOTHING = ("resolution", "pivot_offset")
"""Fields of a model that stand at 0 while nothing is known."""


SPREAD: dict[str, tuple[str, ...]] = {"kind": ("type", "class_"), "tolerance": ("tolerance", "zones")}
"""Fields that stand in more than one column."""


def columns_in(field: Field) -> tuple[str, ...]:
    """The columns that a field stands in."""
    return SPREAD.get(field.name, (field.name,))


def columns_of(kind: RegisterKind, field: Field, value: Any) -> dict[str, Any]:
    """What a field's value puts into which columns."""
    if field.name == "kind":
        type_, letter = str(value).split()
        return {"type": ToolType(type_), "class_": letter}
    if field.form is FieldForm.LIMIT:
        return limit_columns(value)
    if kind is RegisterKind.MODEL and value is None and field.name in ZERO_IS_NOTHING:
        value = 0.0
    return {field.name: value}


def value_in(field: Field, row: Mapping[str, Any]) -> Any:
    """A field's value in the columns of a row."""
    if field.name == "kind":
        return f"{ToolType(row['type']).value} {row['class_']}"
    if field.form is FieldForm.LIMIT:
        return stated_limit(row["tolerance"], row["zones"])
    return row[field.name]


def is_missing(field: Field, value: Any) -> bool:
    """Whether a field says nothing yet: also where nothing stands as 0."""
    return value in (None, "") or (value == 0 and field.name in ZERO_IS_NOTHING)
