"""The job card as an open file: JSON, quantities as text with their unit, as one would type them.

docs/file-formats.md describes it. To change what it holds: a new version here, and a reader for the old one beside it.
"""

from __future__ import annotations

import json
import math
from functools import lru_cache
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read
from reckoner.core.quantities.units import PERCENT, Kind, Unit, unit_named
from reckoner.core.tightening.jobcard import JobCard, StageTool
from reckoner.core.tightening.jobs import (
    PATTERNS,
    Fasteners,
    JobPlan,
    Layout,
    OverBandRule,
    Pattern,
    in_a_circle,
    in_rows,
    named,
)
from reckoner.core.tightening.setting import Band, BandAim
from reckoner.core.translation import tr
from reckoner.formats.fields import StrictModel, quantity, sentences
from reckoner.formats.files import TextRefused, read_text, write_whole
from reckoner.formats.refusals import FileRefused
from reckoner.formats.tables import Table, read_table

FORMAT: Literal["reckoner-job-card"] = "reckoner-job-card"
VERSION: Literal[1] = 1

Words = Annotated[str, Field(max_length=500)]
Torque = Annotated[float, quantity(Kind.TORQUE)]


class FastenersEntry(StrictModel):
    """How they stand: a circle of ``count``, ``rows`` by ``columns``, or a list of ``names``."""

    layout: Layout
    count: int | None = None
    rows: int | None = None
    columns: int | None = None
    names: Annotated[tuple[Words, ...], Field(max_length=400)] = ()

    def made(self) -> Fasteners:
        """Raises InputRefused."""
        match self.layout:
            case Layout.CIRCLE:
                return in_a_circle(self.count or 0)
            case Layout.ROWS:
                return in_rows(self.rows or 0, self.columns or 0)
            case Layout.LIST:
                return named(self.names)


class BandRecord(StrictModel):
    """A torque from ``low`` to ``high``."""

    low: Torque
    high: Torque


class RunningEntry(BandRecord):
    """The band of the running torque, the ``unit`` that it is told in, and the ``tool`` that it is measured with."""

    unit: Words = ""
    tool: Words = ""


class ToolEntry(StrictModel):
    """The tool from a ``stage`` on (from 1), with the adapters on it."""

    stage: Annotated[int, Field(ge=1, le=50)]
    tool: Words
    adapters: Annotated[tuple[Words, ...], Field(max_length=4)] = ()


class JobCardFile(StrictModel):
    """The file. ``stages`` are percents of the aim or torques; ``angle`` is turned after the last of them."""

    format: Literal["reckoner-job-card"]
    version: Literal[1]
    number: Annotated[str, Field(min_length=1, max_length=40)]
    title: Words = ""
    place: Words = ""
    unit: Words = "N.m"
    fasteners: FastenersEntry
    torque: BandRecord
    aim: BandAim = BandAim.MIDDLE
    reason: Words = ""
    pattern: Pattern | None = None
    stages: Annotated[tuple[Words, ...], Field(min_length=1, max_length=20)] = ("100 %",)
    last_pass: bool = True
    angle: Annotated[float | None, quantity(Kind.ANGLE)] = None
    marks: Words = ""
    new_bolts: bool = False
    locks: bool = False
    running: RunningEntry | None = None
    measured: bool = False
    over: OverBandRule = OverBandRule.ASK
    lubricant: Words = ""
    instructions: Words = ""
    tools: Annotated[tuple[ToolEntry, ...], Field(max_length=20)] = ()


def read_card(path: Path) -> JobCard:
    """The card in a JSON file, or in a spreadsheet with a fastener a row. Raises FileRefused."""
    if path.suffix.lower() in (".csv", ".xlsx", ".tsv", ".txt"):
        return _from_table(path)
    try:
        text = read_text(path)
    except TextRefused as refusal:
        raise FileRefused(str(path), (refusal.why,)) from None
    return parse(text, str(path))


MOST_REMEMBERED = 4096
"""Cards that are remembered as they were read: lists show them again and again."""


@lru_cache(MOST_REMEMBERED)
def parse(text: str, source: str = tr("the card")) -> JobCard:
    """The card in a JSON text; one that was read before is not read again. Raises FileRefused."""
    try:
        raw = json.loads(text)
    except (ValueError, RecursionError):
        raise FileRefused(source, (tr("it is no JSON file"),)) from None
    if not isinstance(raw, dict) or raw.get("format") != FORMAT:
        raise FileRefused(source, (tr("it is no job card of Reckoner's"),))
    version = raw.get("version")
    if isinstance(version, int) and version > VERSION:
        raise FileRefused(
            source, (tr("it was written by a newer Reckoner (version {version}); update this one", version=version),)
        )
    try:
        return card_of(JobCardFile.model_validate(raw))
    except ValidationError as fault:
        raise FileRefused(source, sentences(fault)) from None
    except InputRefused as refusal:
        raise FileRefused(source, (str(refusal),)) from None


def card_of(file: JobCardFile) -> JobCard:
    """The card that a file says. Raises InputRefused."""
    fasteners = file.fasteners.made()
    band = Band(file.torque.low, file.torque.high)
    wanted = band.aimed(file.aim)
    plan = JobPlan(
        fasteners=fasteners,
        band=band,
        aim=file.aim,
        pattern=file.pattern or PATTERNS[fasteners.layout][0],
        stages=tuple(read_stage(text, wanted) for text in file.stages),
        last_pass=file.last_pass,
        angle=file.angle,
        new_bolts=file.new_bolts,
        locks=file.locks,
        running=Band(file.running.low, file.running.high) if file.running is not None else None,
        measured=file.measured,
        over=file.over,
    )
    return JobCard(
        number=" ".join(file.number.split()),
        plan=plan,
        title=file.title,
        place=file.place,
        unit=unit_named(file.unit, Kind.TORQUE),
        reason=file.reason,
        marks=file.marks,
        lubricant=file.lubricant,
        instructions=file.instructions,
        tools=tuple(StageTool(entry.stage - 1, entry.tool, entry.adapters) for entry in file.tools),
        running_unit=unit_named((file.running.unit if file.running is not None else "") or file.unit, Kind.TORQUE),
        running_tool=file.running.tool if file.running is not None else "",
    )


def read_stage(text: str, wanted: float, unit: Unit | None = None, field: str = "stages") -> float:
    """A stage as a fraction of the ``wanted`` torque: "30 %" or a torque; a bare number is in percent, in ``unit`` where one
    is given. Raises InputRefused.

    >>> [round(read_stage(text, 80), 4) for text in ("30 %", "56 N.m", "100")]
    [0.3, 0.7, 1.0]
    """
    words = text.strip()
    if words.endswith("%"):
        return _neat(read(words, Kind.RATIO, field=field).si)
    try:
        return _neat(read(words, Kind.TORQUE, default=unit, field=field).si / wanted)
    except InputRefused:
        return _neat(read(words, Kind.RATIO, default=PERCENT, field=field).si)


def _neat(share: float) -> float:
    """A part as it was written: 70 % is 0.7 to the last bit."""
    return float(f"{share:.14g}")


def written(card: JobCard) -> str:
    """The text of a card's file; ``parse`` makes the same card of it."""
    plan, fasteners = card.plan, card.plan.fasteners
    stand: dict[str, Any] = {"layout": fasteners.layout.value}
    match fasteners.layout:
        case Layout.CIRCLE:
            stand["count"] = fasteners.count
        case Layout.ROWS:
            stand |= {"rows": fasteners.rows, "columns": fasteners.columns}
        case Layout.LIST:
            stand["names"] = list(fasteners.names)
    said: dict[str, Any] = {
        "format": FORMAT,
        "version": VERSION,
        "number": card.number,
        "title": card.title,
        "place": card.place,
        "unit": card.unit.name,
        "fasteners": stand,
        "torque": _band(plan.band),
        "aim": plan.aim.value,
        "reason": card.reason,
        "pattern": plan.pattern.value,
        "stages": [f"{_figure(stage * 100)} %" for stage in plan.stages],
        "last_pass": plan.last_pass,
        "angle": f"{_figure(math.degrees(plan.angle))} deg" if plan.angle is not None else None,
        "marks": card.marks,
        "new_bolts": plan.new_bolts,
        "locks": plan.locks,
        "running": _running(card),
        "measured": plan.measured,
        "over": plan.over.value,
        "lubricant": card.lubricant,
        "instructions": card.instructions,
        "tools": [{"stage": t.stage + 1, "tool": t.number, "adapters": list(t.adapters)} for t in card.tools],
    }
    return json.dumps(said, ensure_ascii=False, indent=1)


def _band(band: Band) -> dict[str, str]:
    return {"low": f"{_figure(band.low)} N.m", "high": f"{_figure(band.high)} N.m"}


def _running(card: JobCard) -> dict[str, str] | None:
    band = card.plan.running
    return None if band is None else _band(band) | {"unit": card.running_unit.name, "tool": card.running_tool}


def _figure(value: float) -> str:
    """In full, so that what is read again is the same."""
    return f"{value:.15g}" if float(f"{value:.15g}") == value else repr(value)


def write_card(path: Path, card: JobCard) -> None:
    """Write a card's file. Raises FileRefused when it cannot be."""
    write_whole(path, written(card).encode())


# A spreadsheet

NAMED = ("fastener", "bolt", "nut", "screw", "name", "number", "position")
LOWS, HIGHS, TORQUES = (
    ("low", "least", "min", "minimum"),
    ("high", "most", "max", "maximum"),
    ("torque", "aim", "target"),
)


def _from_table(path: Path) -> JobCard:
    """A fastener a row, with the torque they all get; the card is called as the file."""
    table = read_table(path)
    heads = {head.casefold().partition("(")[0].strip(): i for i, head in enumerate(table.columns)}

    def column(names: tuple[str, ...]) -> int | None:
        return next((heads[name] for name in names if name in heads), None)

    name = column(NAMED)
    if name is None:
        raise FileRefused(
            str(path),
            (tr("no column is called one of {list}; name the one with the fasteners so", list=", ".join(NAMED)),),
        )
    names = [cells[name] for _, cells in table.rows if cells[name].strip()]
    low, high, one = column(LOWS), column(HIGHS), column(TORQUES)
    try:
        if low is not None and high is not None:
            band = Band(_same(table, low), _same(table, high))
        elif one is not None:
            only = _same(table, one)
            band = Band(only, only)
        else:
            raise FileRefused(str(path), (tr("no column is called torque, or low and high; give what the joint gets"),))
        plan = JobPlan(named(names), band)
    except InputRefused as refusal:
        raise FileRefused(str(path), (str(refusal),)) from None
    return JobCard(path.stem[:40], plan)


def _same(table: Table, at: int) -> float:
    """The one torque that stands in a column. Raises InputRefused for two, or none."""
    head = table.columns[at]
    unit = unit_named(head.partition("(")[2].rstrip(") ") or "N.m", Kind.TORQUE)
    found = {read(cells[at], Kind.TORQUE, default=unit, field=head).si for _, cells in table.rows if cells[at].strip()}
    if len(found) != 1:
        raise InputRefused(head, tuple(found), tr("a card has one torque for all; make a card of each"))
    return found.pop()
