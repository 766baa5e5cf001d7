"""The exchange file: register, histories, loans and job cards of a shop as one JSON, to be brought into another.

The register stands in it as in the register file, quantities as text; histories hold what happened to each tool and what was
found of it, in the tool's own order, in SI units. Version 1; docs/file-formats.md describes it.

To change what it holds: a new version here, and a reader for the old one beside it.
"""

from __future__ import annotations

import json
from datetime import date, datetime
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from reckoner.core.translation import tr
from reckoner.formats.fields import StrictModel, sentences
from reckoner.formats.files import TextRefused, read_text, write_whole
from reckoner.formats.jobcard import JobCardFile
from reckoner.formats.refusals import FileRefused

FORMAT: Literal["reckoner-exchange"] = "reckoner-exchange"
VERSION: Literal[1] = 1
MOST_BYTES = 200_000_000

Text = Annotated[str, Field(max_length=20_000)]
Torque = Annotated[float, Field(gt=0, lt=1e6, allow_inf_nan=False)]
Part = Annotated[float, Field(gt=-1, lt=10, allow_inf_nan=False)]


class SettingEntry(StrictModel):
    """A setting that a loan was for; torques in N·m."""

    job: Text = ""
    joint: Text = ""
    set: Torque
    factor: Annotated[float, Field(gt=0, lt=100)] = 1.0
    adapter: Text = ""
    low: Torque | None = None
    high: Torque | None = None


class ExchangePoint(StrictModel):
    """A point of a result; fractions but for the target."""

    as_left: bool = False
    direction: Annotated[str, Field(pattern="^(cw|ccw)$")] = "cw"
    target: Torque
    deviation: Part
    expanded_uncertainty: Annotated[float, Field(ge=0, lt=10)]
    limit: Annotated[float, Field(gt=0, lt=1)]


class HistoryEntry(StrictModel):
    """One thing in a tool's history: an event (``kind``), or a result (``number`` and ``points``). ``by`` are initials."""

    at: datetime
    by: Text = ""
    kind: Text = ""
    note: Text = ""
    due_back: date | None = None
    low: float | None = None
    high: float | None = None
    cycles: int | None = None
    settings: Annotated[tuple[SettingEntry, ...], Field(max_length=1000)] = ()
    fee: float | None = None
    freight: float | None = None
    number: Text = ""
    laboratory: Text = ""
    issued: date | None = None
    due: date | None = None
    state: Text = ""
    coverage_factor: Annotated[float, Field(ge=1, le=4)] = 2.0
    points: Annotated[tuple[ExchangePoint, ...], Field(max_length=1000)] = ()


class ToolHistory(StrictModel):
    """What happened to a tool, and what was found of it, in its own order."""

    tool: Annotated[str, Field(min_length=1, max_length=80)]
    entries: Annotated[tuple[HistoryEntry, ...], Field(max_length=100_000)]


class ExchangeFile(StrictModel):
    """The whole file; its register is as in a register file, and read as one."""

    format: Literal["reckoner-exchange"]
    version: Literal[1]
    made: datetime
    shop: Text = ""
    register_: dict[str, Any] = Field(alias="register")
    histories: tuple[ToolHistory, ...] = ()
    cards: tuple[JobCardFile, ...] = ()


def parse(text: str, source: str = tr("the file")) -> ExchangeFile:
    """The exchange that a JSON text says. Raises FileRefused with a sentence for each mistake."""
    try:
        raw = json.loads(text)
    except (ValueError, RecursionError):
        raise FileRefused(source, (tr("it is no JSON file"),)) from None
    if not isinstance(raw, dict) or raw.get("format") != FORMAT:
        raise FileRefused(source, (tr("it is no exchange file of Reckoner's"),))
    version = raw.get("version")
    if isinstance(version, int) and version > VERSION:
        raise FileRefused(
            source, (tr("it was written by a newer Reckoner (version {version}); update this one", version=version),)
        )
    try:
        return ExchangeFile.model_validate(raw)
    except ValidationError as fault:
        raise FileRefused(source, sentences(fault)) from None
    except RecursionError:
        raise FileRefused(source, (tr("it is nested too deeply to be one of ours"),)) from None


def load(path: Path) -> ExchangeFile:
    """The exchange in a file. Raises FileRefused."""
    try:
        return parse(read_text(path, MOST_BYTES), path.name)
    except TextRefused as refusal:
        raise FileRefused(str(path), (refusal.why,)) from None


def write(path: Path, content: dict[str, Any]) -> None:
    """Write what ``shop.records.exporting`` has gathered. Raises FileNotWritten."""
    write_whole(path, json.dumps(content, ensure_ascii=False, indent=1).encode())
