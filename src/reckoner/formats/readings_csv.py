"""A run's readings as a CSV file, to be read by a person or a spreadsheet."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from dataclasses import astuple, dataclass, fields
from datetime import datetime
from pathlib import Path

from reckoner.formats.written import write_whole


@dataclass(frozen=True)
class ReadingLine:
    """One reading, as it stands in the file; torques in ``unit``, ``kept`` when the database had taken it."""

    tool: str
    serial: str
    reference: str
    phase: str
    direction: str
    target: str
    reading: str
    unit: str
    taken: datetime
    struck: str
    kept: bool


def save(path: Path, lines: Sequence[ReadingLine]) -> None:
    """Write ``lines`` under a header, in the order given. Raises FileNotWritten."""
    made = io.StringIO(newline="")
    writer = csv.writer(made)
    writer.writerow(f.name for f in fields(ReadingLine))
    said = {True: "yes", False: "no"}
    for line in lines:
        writer.writerow(said.get(v, v) if isinstance(v, bool) else str(v) for v in astuple(line))
    write_whole(path, made.getvalue().encode())
