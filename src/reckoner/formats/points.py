"""A certificate's points as text: typed, pasted from a spreadsheet, or read from a file; a line for each point.

Each line holds the torque, the error and the expanded uncertainty W, divided by tabs, semicolons, bars or blanks. Error and W
are percent of the torque, or torques; a line with words names the columns and their units.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from reckoner.core.entry import read
from reckoner.core.errors import InputRefused
from reckoner.core.units import Kind, Unit, unit_named


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
    """Where the torque, the error and W stand in a line, and in which units bare numbers are."""

    torque: int = 0
    error: int | None = 1
    uncertainty: int = 2
    torque_unit: Unit | None = None
    error_unit: Unit | None = None
    uncertainty_unit: Unit | None = None


_PERCENT = unit_named("%", Kind.RATIO)

_HEADS: dict[str, tuple[str, ...]] = {
    "error": ("error", "deviation", "fehler", "abweichung", "messabweichung", "erreur", "errore", "bep", "dev", "e"),
    "uncertainty": (
        "uncertainty",
        "unsicherheit",
        "messunsicherheit",
        "incertitude",
        "incertezza",
        "w",
        "u",
        "w'",
        "u (k=2)",
    ),
    "torque": ("torque", "nominal", "reference", "drehmoment", "sollwert", "couple", "coppia", "point", "set", "load"),
}


def parse_points(text: str, unit: Unit) -> tuple[PointLine, ...]:
    """Every line of ``text`` that is not empty and names no columns; a bare torque is in ``unit``. Nothing is raised: what
    cannot be understood says so."""
    columns = _Columns(torque_unit=unit, error_unit=_PERCENT, uncertainty_unit=_PERCENT)
    made: list[PointLine] = []
    for line in text.splitlines():
        if not line.strip():
            continue
        cells = _cells(line)
        if not re.search(r"\d", re.sub(r"\(k\s*=\s*\d\)", "", line)):
            columns = _named(cells, unit)
            continue
        made.append(_point(line, cells, columns))
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
    places: dict[str, int] = {}
    units: dict[str, Unit] = {}
    for i, cell in enumerate(cells):
        match = re.search(r"[\[(/]\s*([^\])(]+?)\s*[\])]?\s*$", cell)
        name = re.sub(r"[\[(/].*$", "", cell).strip().casefold()
        for what, known in _HEADS.items():
            if what not in places and (name in known or any(len(k) > 3 and k in name for k in known)):
                places[what] = i
                if match is not None:
                    found = _unit_of(match[1])
                    if found is not None:
                        units[what] = found
                break
    return _Columns(
        places.get("torque", 0),
        places.get("error") if places else 1,
        places.get("uncertainty", 2 if not places else len(cells) - 1),
        units.get("torque", unit),
        units.get("error", _PERCENT),
        units.get("uncertainty", _PERCENT),
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
        torque = read(
            _cell(cells, columns.torque, "torque"), Kind.TORQUE, default=columns.torque_unit, field="torque"
        ).si
        if torque <= 0:
            raise InputRefused("torque", torque, "the torque has to be above 0")
        error = 0.0
        if columns.error is not None:
            error = _share(_cell(cells, columns.error, "error"), columns.error_unit, torque, "error")
        uncertainty = _share(
            _cell(cells, columns.uncertainty, "uncertainty").lstrip("±"),
            columns.uncertainty_unit,
            torque,
            "uncertainty",
        )
        if not 0 < uncertainty < 0.5:
            raise InputRefused("uncertainty", uncertainty, "the uncertainty has to be above 0 and below 50 %")
        if abs(error) >= 0.5:
            raise InputRefused("error", error, "an error of half the torque cannot be right")
    except InputRefused as refusal:
        return PointLine(line.strip(), fault=refusal.reason)
    return PointLine(line.strip(), torque, error, uncertainty)


def _cell(cells: list[str], place: int, name: str) -> str:
    if place >= len(cells) or not cells[place]:
        raise InputRefused(name, "", f"the {name} is missing; a line is: torque, error, uncertainty")
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
