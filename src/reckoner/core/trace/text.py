"""Traces as CSV text: a column `time_s` and a column `torque` whose header names the unit, such as `torque [N.m]`.

A column `n` or `number` may hold running numbers: they tell which samples were lost. Comma, semicolon or tab between the
columns; with semicolons or tabs the decimal mark may be a comma.
"""

from __future__ import annotations

import csv
import re
from dataclasses import dataclass

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.units import Kind, Unit, unit_named
from reckoner.core.translation import tr

MOST_SAMPLES = 10_000_000


@dataclass(frozen=True)
class TraceText:
    """Times in s and torques in N·m, with their running ``numbers`` where they have any."""

    times: list[float]
    torques: list[float]
    numbers: list[int] | None = None


def parse(text: str, field: str = "csv") -> TraceText:
    """The trace in the text of a file. Raises InputRefused, naming ``field``, the line and what is wrong with it. Source:
    the product's own form, docs/file-formats.md."""
    lines = text.splitlines()
    if not lines:
        raise InputRefused(field, text, tr("is empty; it needs the columns time_s and torque"))
    divider = next((d for d in (";", "\t") if d in lines[0]), ",")
    header = [cell.strip() for cell in next(csv.reader(lines[:1], delimiter=divider))]
    time_at = next((i for i, cell in enumerate(header) if cell.casefold() == "time_s"), None)
    torque_at = next((i for i, cell in enumerate(header) if cell.casefold().startswith("torque")), None)
    if time_at is None or torque_at is None:
        raise InputRefused(field, header, tr("needs the columns time_s and torque in its first line"))
    number_at = next((i for i, cell in enumerate(header) if cell.casefold() in ("n", "number")), None)
    unit = _unit(header, torque_at, field)
    times, torques, numbers = [], [], []
    for number, row in enumerate(csv.reader(lines[1:], delimiter=divider), start=2):
        if not row or not "".join(row).strip():
            continue
        try:
            times.append(_number(row[time_at], divider))
            torques.append(unit.to_si(_number(row[torque_at], divider)))
            if number_at is not None:
                numbers.append(int(row[number_at]))
        except (IndexError, ValueError):
            also = tr("a running number, ") if number_at is not None else ""
            raise InputRefused(
                field, row, tr("line {number} does not hold {also}a time and a torque", number=number, also=also)
            ) from None
        if len(times) > MOST_SAMPLES:
            raise InputRefused(field, number, tr("holds more than {most_samples} samples", most_samples=MOST_SAMPLES))
    return TraceText(times, torques, None if number_at is None else numbers)


def _number(cell: str, divider: str) -> float:
    return float(cell if divider == "," else cell.replace(",", "."))


def _unit(header: list[str], torque_at: int, field: str) -> Unit:
    """The unit that the torque's header names, or, failing that, another header does."""
    named = re.sub(r"^torque[\s_]*", "", header[torque_at], flags=re.IGNORECASE).strip("[]() ")
    candidates = [named] if named else [cell for i, cell in enumerate(header) if i != torque_at]
    for candidate in candidates:
        try:
            return unit_named(candidate, Kind.TORQUE, field)
        except InputRefused:
            if named:
                raise
    raise InputRefused(field, header, tr("its torque column names no unit; write the header as torque [N.m]"))
