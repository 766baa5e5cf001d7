"""What the columns of somebody's own spreadsheet mean, by what they are called.

To add a meaning: a member of ``ColumnMeaning``, its names in ``formats/column_names.toml``, and where ``spreadsheets``
reads it.
"""

from __future__ import annotations

import re
import tomllib
import unicodedata
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from importlib import resources

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.units import Kind, Unit, unit_named
from reckoner.core.translation import tr
from reckoner.formats.tables import Table
from reckoner.shop.facts.shapes import Shape


class ColumnMeaning(StrEnum):
    """What a column can say of a tool; the value is what stands for it on the screen."""

    NUMBER = "number"
    SERIAL = "serial"
    MAKER = "maker"
    MODEL = "model"
    LOOK = "kind"
    RANGE = "range"
    MINIMUM = "smallest torque"
    MAXIMUM = "full scale"
    UNIT = "unit"
    RESOLUTION = "graduation"
    DRIVE = "drive"
    PLACE = "place"
    OWNER = "owner"
    FIRST_USED = "first used"
    LIMIT = "limit"
    CLASS = "class"
    REMARKS = "remarks"
    INTERVAL = "interval"
    LAST = "last tested"
    RESULT = "last result"
    DUE = "due"
    NOTHING = "not used"


@cache
def names_of() -> Mapping[ColumnMeaning, tuple[str, ...]]:
    """Meaning → what people call its column, in several languages; plain letters, no case; its own
    name is among them."""
    text = (resources.files("reckoner.formats") / "column_names.toml").read_text(encoding="utf-8")
    return {ColumnMeaning(word): (word, *names) for word, names in tomllib.loads(text).items()}


def plain_name(text: str) -> str:
    """A column's name without what people vary: case, accents, dots, units in brackets."""
    bare = re.sub(r"[\[(].*?[\])]", " ", text)
    bare = unicodedata.normalize("NFKD", bare.replace("ß", "ss"))
    bare = "".join(c for c in bare if not unicodedata.combining(c)).casefold()
    return " ".join(re.sub(r"[._:#°º*\-]+", " ", bare).split())


def meanings(table: Table) -> tuple[ColumnMeaning, ...]:
    """What each column seems to be, by its name; each meaning once, the closest name first."""
    names = [plain_name(column) for column in table.columns]
    found = {i: end for i, name in enumerate(names) if (end := _end_of_range(name)) is not None}
    for fits in (_is_called, _ends_so):
        for meaning, known in names_of().items():
            if meaning in found.values():
                continue
            place = next((i for i, name in enumerate(names) if i not in found and name and fits(name, known)), None)
            if place is not None:
                found[place] = meaning
    return tuple(found.get(i, ColumnMeaning.NOTHING) for i in range(len(names)))


def key_of_columns(table: Table) -> str:
    """What tells the columns of one kind of list from those of another: their names."""
    return " | ".join(plain_name(column) for column in table.columns)


def remembered(table: Table, said: str) -> tuple[ColumnMeaning, ...] | None:
    """What the columns were ``said`` to mean (see ``as_said``); None where that does not fit them."""
    try:
        found = tuple(ColumnMeaning(word) for word in said.split(" | "))
    except ValueError:
        return None
    return found if len(found) == len(table.columns) else None


def as_said(columns: Sequence[ColumnMeaning]) -> str:
    """Meanings as one text, to be remembered."""
    return " | ".join(columns)


LOW_WORDS, HIGH_WORDS = {"von", "from", "min", "de", "da", "desde", "ab"}, {"bis", "to", "max", "a", "hasta"}


def _end_of_range(name: str) -> ColumnMeaning | None:
    """Which end of a range a column holds whose name says both: "Messbereich von", "range to"."""
    words = set(re.split(r"[ /]", name))
    ranges = {k for k in names_of()[ColumnMeaning.RANGE] if len(k) > 4}
    if not any(k in name for k in ranges):
        return None
    low, high = bool(words & LOW_WORDS), bool(words & HIGH_WORDS)
    if low and high:
        return ColumnMeaning.RANGE
    return ColumnMeaning.MINIMUM if low else ColumnMeaning.MAXIMUM if high else None


@dataclass(frozen=True)
class UnusedColumn:
    """A column that nothing is read from, with the first values in it."""

    name: str
    values: tuple[str, ...]


def unused(table: Table, columns: Sequence[ColumnMeaning], most: int = 3) -> tuple[UnusedColumn, ...]:
    """The columns that hold something and are not used."""
    found = []
    for i, meaning in enumerate(columns):
        values = dict.fromkeys(cells[i] for _line, cells in table.rows if cells[i])
        if meaning is ColumnMeaning.NOTHING and values:
            found.append(UnusedColumn(table.columns[i] or tr("column {n}", n=i + 1), tuple(values)[:most]))
    return tuple(found)


def _is_called(name: str, known: Sequence[str]) -> bool:
    return name in known or name.replace(" ", "") in {k.replace(" ", "") for k in known}


def _ends_so(name: str, known: Sequence[str]) -> bool:
    """Whether one of its words is such a name, or several in a row: "torque wrench number"."""
    padded = f" {name} "
    return any(f" {k} " in padded for k in known if len(k) > 3)


def unit_in(column: str) -> Unit | None:
    """The unit that a column's name holds, such as "Max [ft-lb]"."""
    for words in re.findall(r"[\[(]\s*([^\])]+?)\s*[\])]", column) + column.split():
        try:
            return unit_named(words, Kind.TORQUE)
        except InputRefused:
            continue
    return None


LOOKS: tuple[tuple[str, Shape], ...] = (
    ("click", Shape.CLICK_WRENCH), ("clic", Shape.CLICK_WRENCH), ("break", Shape.BREAK_OVER_WRENCH),
    ("knick", Shape.BREAK_OVER_WRENCH), ("cassure", Shape.BREAK_OVER_WRENCH), ("slip", Shape.SLIP_WRENCH),
    ("rutsch", Shape.SLIP_WRENCH), ("cam", Shape.SLIP_WRENCH), ("preset", Shape.PRESET_WRENCH), ("fest", Shape.PRESET_WRENCH),
    ("fixed", Shape.PRESET_WRENCH), ("beam", Shape.BEAM_WRENCH), ("biege", Shape.BEAM_WRENCH), ("deflect", Shape.BEAM_WRENCH),
    ("dial", Shape.DIAL_WRENCH), ("messuhr", Shape.DIAL_WRENCH), ("zeiger", Shape.DIAL_WRENCH), ("cadran", Shape.DIAL_WRENCH),
    ("electron", Shape.ELECTRONIC_WRENCH), ("elektron", Shape.ELECTRONIC_WRENCH), ("digital", Shape.ELECTRONIC_WRENCH),
    ("elettron", Shape.ELECTRONIC_WRENCH),
)  # fmt: skip
"""Words in a tool's description → its look; the first that fits counts."""


DRIVERS = ("screwdriver", "driver", "schraubendreher", "schrauber", "tournevis", "cacciavite", "destornillador")


AS_SCREWDRIVER: dict[Shape, Shape] = {
    Shape.CLICK_WRENCH: Shape.SCREWDRIVER,
    Shape.SLIP_WRENCH: Shape.SCREWDRIVER,
    Shape.PRESET_WRENCH: Shape.PRESET_SCREWDRIVER,
    Shape.DIAL_WRENCH: Shape.DIAL_SCREWDRIVER,
    Shape.ELECTRONIC_WRENCH: Shape.ELECTRONIC_SCREWDRIVER,
}


PASSED = (
    "pass",
    "passed",
    "ok",
    "good",
    "io",
    "i.o",
    "i.o.",
    "bestanden",
    "in ordnung",
    "conforme",
    "conform",
    "oui",
    "yes",
    "1",
)


FAILED = (
    "fail",
    "failed",
    "nok",
    "bad",
    "nio",
    "n.i.o",
    "n.i.o.",
    "nicht bestanden",
    "non conforme",
    "no",
    "rejected",
    "0",
)


LOCKED = (
    "out of cal",
    "out of calibration",
    "out of tolerance",
    "quarantine",
    "defective",
    "broken",
    "locked",
    "gesperrt",
    "defekt",
    "hors service",
    "fuori uso",
)
"""What keeps a tool from being used, whatever its last test found."""


IN_USE = ("active", "in service", "in use", "available", "aktiv", "in betrieb", "im einsatz", "en service", "in uso")


GONE = ("retired", "scrapped", "scrap", "disposed", "lost", "sold", "ausgemustert", "verschrottet", "verloren", "rebut")
"""What is not there any more, and so is not brought in."""


UNKNOWN = ("?", "-", "–", "n/a", "na", "none", "unknown", "tbd", "unbekannt", "k.a.", "inconnu")
"""What stands in a cell for nothing that is known."""
