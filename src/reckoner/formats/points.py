"""A certificate's points as text: typed, pasted from a spreadsheet, or read from a file; a line for each point.

Each line holds the torque, the error and the expanded uncertainty W, divided by tabs, semicolons, bars or blanks. Error and
W are percent of the torque, or torques; a line with words names the columns and their units. Instead of the error a column
may hold what was indicated.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, replace

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read
from reckoner.core.quantities.units import PERCENT, Kind, Unit, unit_named
from reckoner.core.translation import tr


@dataclass(frozen=True)
class PointLine:
    """One line as it was understood: torque in N·m, error and W as fractions; or ``fault``, why it was not."""

    text: str
    torque: float = 0.0
    error: float = 0.0
    uncertainty: float = 0.0
    fault: str = ""


@dataclass(frozen=True)
class _Columns:
    """Where the torque, the error or what was indicated, and W stand in a line, and in which units bare numbers are; or
    ``fault``, what the words over them leave open."""

    torque: int = 0
    error: int | None = 1
    indicated: int | None = None
    uncertainty: int = 2
    torque_unit: Unit | None = None
    error_unit: Unit | None = None
    indicated_unit: Unit | None = None
    uncertainty_unit: Unit | None = None
    named: bool = True
    fault: str = ""


_HEADS: dict[str, tuple[str, ...]] = {
    "error": ("error", "dev", "fehler", "abw", "messabw", "erreur", "écart", "ecart", "errore", "scarto", "bep", "e"),
    "uncertainty": ("uncert", "unsich", "messunsich", "incert", "w", "w'", "u"),
    "indicated": ("indic", "ist", "anzeige", "reading", "shown", "display", "lecture", "letto", "measured", "gemessen"),
    "torque": (
        "torque", "nominal", "reference", "applied", "drehmoment", "moment", "soll", "couple", "coppia", "point", "set",
        "load", "true", "angelegt", "prüfmoment", "referenz",
    ),
}  # fmt: skip
"""How the words over a column begin; a single letter is the whole word."""

_COVERAGE = re.compile(r"[(\[]\s*k\s*=\s*\d([.,]\d+)?\s*[)\]]", re.IGNORECASE)
_BRACKETED = re.compile(r"[\[(/]\s*([^\])(]+?)\s*[\])]?\s*$")


def parse_points(text: str, unit: Unit) -> tuple[PointLine, ...]:
    """Every line of ``text`` that is not empty and names no columns; a bare torque is in ``unit``. Nothing is raised: what
    cannot be understood says so, and is never taken for zero."""
    columns = _Columns(torque_unit=unit, error_unit=PERCENT, uncertainty_unit=PERCENT, named=False)
    made: list[PointLine] = []
    for line in text.splitlines():
        if not line.strip(" \t;|,"):
            continue
        cells = _cells(line)
        if re.search(r"\d", _COVERAGE.sub("", line)):
            made.append(_point(line, cells, columns))
        elif columns.named and all(not cell or _unit_of(cell) is not None for cell in cells):
            columns = _in_units(columns, cells)
        else:
            columns = _named(cells, unit)
    return tuple(made)


def _cells(line: str) -> list[str]:
    for divider in ("\t", ";", "|"):
        if divider in line:
            return [cell.strip() for cell in line.strip().strip(divider).split(divider)]
    if re.search(r",\s", line):
        return [cell.strip() for cell in re.split(r",\s+", line.strip())]
    return _glued(line.split())


def _glued(words: list[str]) -> list[str]:
    """Numbers with the units that stand behind them: "40", "N·m" is one cell."""
    cells: list[str] = []
    for word in words:
        if cells and not re.search(r"\d", word) and word not in ("-", "+", "±"):
            cells[-1] = f"{cells[-1]} {word}"
        else:
            cells.append(word)
    return cells


def _named(cells: list[str], unit: Unit) -> _Columns:
    """The columns as the words over them say."""
    places: dict[str, int] = {}
    units: dict[str, Unit] = {}
    for i, cell in enumerate(cells):
        words = _COVERAGE.sub("", cell)
        name = re.sub(r"[\[(/].*$", "", words).strip(" .:").casefold()
        what = next((w for w in _HEADS if w not in places and any(_begins(name, known) for known in _HEADS[w])), None)
        if what is None:
            continue
        places[what] = i
        match = _BRACKETED.search(words)
        if match is not None:
            found = _unit_of(match[1])
            if found is None:
                return _Columns(
                    fault=tr(
                        'the unit "{match}" over a column is not known; write such as (N·m) or (%)', match=match[1]
                    )
                )
            units[what] = found
    fault = ""
    if "torque" not in places:
        fault = tr("none of the columns is named as the torque; write torque over it")
    elif "error" not in places and "indicated" not in places:
        fault = tr("none of the columns is named as the error, or as what was indicated; write error over it")
    elif "uncertainty" not in places:
        fault = tr("none of the columns is named as the uncertainty; write U over it")
    return _Columns(
        places.get("torque", 0),
        places.get("error"),
        places.get("indicated"),
        places.get("uncertainty", 0),
        units.get("torque", unit),
        units.get("error", PERCENT),
        units.get("indicated", units.get("torque", unit)),
        units.get("uncertainty", PERCENT),
        fault=fault,
    )


def _begins(name: str, known: str) -> bool:
    words = name.split()
    return name == known or (len(known) > 2 and any(word.startswith(known) for word in words)) or words[:1] == [known]


def _in_units(columns: _Columns, cells: list[str]) -> _Columns:
    """The same columns with the units that a line under their names gives."""

    def unit(place: int | None, given: Unit | None) -> Unit | None:
        return given if place is None or place >= len(cells) or not cells[place] else _unit_of(cells[place])

    return replace(
        columns,
        torque_unit=unit(columns.torque, columns.torque_unit),
        error_unit=unit(columns.error, columns.error_unit),
        indicated_unit=unit(columns.indicated, columns.indicated_unit),
        uncertainty_unit=unit(columns.uncertainty, columns.uncertainty_unit),
    )


def _unit_of(words: str) -> Unit | None:
    for kind in (Kind.RATIO, Kind.TORQUE):
        try:
            return unit_named(words, kind)
        except InputRefused:
            continue
    return None


def _point(line: str, cells: list[str], columns: _Columns) -> PointLine:
    try:
        if columns.fault:
            raise InputRefused("columns", line, columns.fault)
        if not columns.named and len([cell for cell in cells if cell]) > 3:
            raise InputRefused("columns", line, tr("more than three values, and no words over them say which is what"))
        torque = read(
            _cell(cells, columns.torque, "torque"), Kind.TORQUE, default=columns.torque_unit, field="torque"
        ).si
        if torque <= 0:
            raise InputRefused("torque", torque, tr("the torque has to be above 0"))
        error = _error(cells, columns, torque)
        uncertainty = _share(
            _cell(cells, columns.uncertainty, "uncertainty").lstrip("±"),
            columns.uncertainty_unit,
            torque,
            "uncertainty",
        )
        if not 0 < uncertainty < 0.5:
            raise InputRefused("uncertainty", uncertainty, tr("the uncertainty has to be above 0 and below 50 %"))
        if abs(error) >= 0.5:
            raise InputRefused("error", error, tr("an error of half the torque cannot be right"))
    except InputRefused as refusal:
        return PointLine(line.strip(), fault=refusal.reason)
    return PointLine(line.strip(), torque, error, uncertainty)


def _error(cells: list[str], columns: _Columns, torque: float) -> float:
    """The error as a fraction of the torque: as it stands there, or what was indicated less the torque."""
    if columns.error is not None:
        return _share(_cell(cells, columns.error, "error"), columns.error_unit, torque, "error")
    shown = _cell(cells, columns.indicated or 0, tr("value that was indicated"))
    return read(shown, Kind.TORQUE, default=columns.indicated_unit, field="indicated").si / torque - 1


def _cell(cells: list[str], place: int, name: str) -> str:
    if place >= len(cells) or not cells[place]:
        raise InputRefused(name, "", tr("the {name} is missing; a line is: torque, error, uncertainty", name=name))
    return cells[place]


def _share(text: str, unit: Unit | None, torque: float, field: str) -> float:
    """A part of the torque, given as percent or as a torque."""
    try:
        return read(
            text, Kind.RATIO, default=unit if unit is not None and unit.kind is Kind.RATIO else None, field=field
        ).si
    except InputRefused as refusal:
        try:
            default = unit if unit is not None and unit.kind is Kind.TORQUE else None
            return read(text, Kind.TORQUE, default=default, field=field).si / torque
        except InputRefused:
            raise refusal from None
