"""Values that an electronic tool or meter has stored, from its spreadsheet download: the columns that hold torques."""

from __future__ import annotations

import re
from dataclasses import dataclass
from pathlib import Path

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read
from reckoner.core.quantities.units import Kind, Unit, unit_named
from reckoner.core.translation import tr
from reckoner.formats.tables import TableRefused, read_table

LEAST_SHARE = 0.5
"""Of a column's cells that have to be numbers for it to hold values."""

MOST_VALUES = 1000
_IN_BRACKETS = re.compile(r"[(\[]([^)\]]+)[)\]]\s*$")


@dataclass(frozen=True)
class ValueColumn:
    """One column: its ``name``, the ``unit`` that its heading says (None: it says none), and (line in the file, N·m) of each
    cell that is a torque; torques of a column without a unit are in the unit that was asked for."""

    name: str
    unit: Unit | None
    values: tuple[tuple[int, float], ...]


def read_values(path: Path, usual: Unit) -> tuple[ValueColumn, ...]:
    """The columns of a spreadsheet (CSV, XLSX) that hold torques; bare numbers are in the heading's unit, else in ``usual``.
    Raises TableRefused, also where there is none."""
    try:
        table = read_table(path)
    except TableRefused:  # one column alone is enough here
        table = read_table(path, least=1)
    found = []
    for i, name in enumerate(table.columns):
        unit = _unit_of(name)
        cells = [(line, row[i]) for line, row in table.rows if row[i].strip()]
        values = tuple(
            (line, value) for line, cell in cells[:MOST_VALUES] if (value := _torque(cell, unit or usual)) is not None
        )
        if values and len(values) >= LEAST_SHARE * len(cells[:MOST_VALUES]):
            found.append(ValueColumn(name, unit, values))
    if not found:
        raise TableRefused(path.name, (tr("no column of it holds torques; its headings stand in its first line"),))
    return tuple(found)


def _unit_of(name: str) -> Unit | None:
    """The unit in a heading, such as "Peak [N.m]"."""
    told = _IN_BRACKETS.search(name)
    try:
        return unit_named(told.group(1).strip(), Kind.TORQUE) if told is not None else None
    except InputRefused:
        return None


def _torque(cell: str, unit: Unit) -> float | None:
    """A torque above zero; None for what is none (a date, a word, a count of nothing)."""
    try:
        value = abs(read(cell, Kind.TORQUE, default=unit).si)
    except InputRefused:
        return None
    return value if value > 0 else None
