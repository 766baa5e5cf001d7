"""A run's readings as a CSV file, to be read by a person or a spreadsheet."""

from __future__ import annotations

import csv
from collections.abc import Sequence
from dataclasses import astuple, dataclass, fields
from datetime import datetime
from pathlib import Path

from reckoner.core.errors import Refused


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


class FileNotWritten(Refused):
    """The file at ``path`` could not be written, because ``why``."""

    def __init__(self, path: Path, why: str) -> None:
        super().__init__(path, why)

    def __str__(self) -> str:
        return f"{self.args[0]} could not be written ({self.args[1]}). Choose another place."


def save(path: Path, lines: Sequence[ReadingLine]) -> None:
    """Write ``lines`` under a header, in the order given. Raises FileNotWritten."""
    try:
        with path.open("w", encoding="utf-8", newline="") as file:
            writer = csv.writer(file)
            writer.writerow(f.name for f in fields(ReadingLine))
            for line in lines:
                said = {True: "yes", False: "no"}
                writer.writerow(said.get(v, v) if isinstance(v, bool) else str(v) for v in astuple(line))
    except OSError as fault:
        raise FileNotWritten(path, fault.strerror or str(fault)) from None
