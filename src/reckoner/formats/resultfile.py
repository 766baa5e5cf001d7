"""The result file: everything behind a certificate as one JSON, for a recipient who has no database.

``record`` is what was signed: SI units (N·m, m, kg, °C, rad), ratios as fractions. ``digest`` is the SHA-256 over the record
written with sorted keys and no space; the certificate bears it too. Version 1. docs/file-formats.md describes it.

To change what it holds: a new version here, and a reader for it beside this one, which stays.
"""

from __future__ import annotations

import hashlib
import json
from datetime import date, datetime
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.formats.fields import StrictModel
from reckoner.formats.files import TextRefused, read_text, write_whole

FORMAT: Literal["reckoner-result"] = "reckoner-result"
VERSION: Literal[1] = 1

MOST_BYTES = 20_000_000

Text = Annotated[str, Field(max_length=20_000)]
Number = Annotated[float, Field(allow_inf_nan=False)]
Torque = Annotated[float, Field(gt=0, lt=1e6, allow_inf_nan=False)]
"""In N·m, as far as any hand tool goes and further."""
Most = Field(max_length=10_000)


class ResultRefused(Refused):
    """A file is no result that can be read; ``why`` completes "it …"."""

    def __init__(self, path: Path | str, why: str) -> None:
        super().__init__(path, why)
        self.path, self.why = path, why

    def __str__(self) -> str:
        return f"{self.path}: {self.why}."


class ObservationEntry(StrictModel):
    """One observation: what was seen, by whom, and how it came; struck with a reason or not at all. ``asked`` is why it was
    asked about and kept, ``whose`` it was said to be."""

    id: int
    at: datetime
    by: Text = ""
    kind: Text
    torque: Torque | None
    tool_value: Torque | None
    source: Text
    struck: Text = ""
    asked: Text = ""
    whose: Text = ""
    detail: Text = "{}"
    faults: Annotated[tuple[Text, ...], Most] = ()
    over_travel: Number | None = None


class SeriesEntry(StrictModel):
    """The observations at one target in one direction, in a phase of the run."""

    id: int
    phase: Text
    round: int = 0
    direction: Text
    target: Torque
    wanted: int
    effect: Text | None = None
    place: int | None = None
    turn: Number | None = None
    zero_before: Number | None = None
    zero_after: Number | None = None
    observations: Annotated[tuple[ObservationEntry, ...], Most]


class LookEntry(StrictModel):
    """One line of the look-over."""

    line: Text
    fine: bool | None
    note: Text = ""


class RoomEntry(StrictModel):
    """What the room was, °C and a fraction; ``drift`` over the run in °C."""

    temperature: Number
    humidity: Number
    drift: Number = 0.0
    note: Text = ""


class SetUpEntry(StrictModel):
    """How the reference was set up."""

    mode: Text
    override: Text = ""
    detail: Text = "{}"


class ZerosEntry(StrictModel):
    """What reference and pointer showed with nothing on them, N·m."""

    before: Number | None = None
    after: Number | None = None
    pointer_before: Number | None = None
    pointer_after: Number | None = None


class ExerciseEntry(StrictModel):
    """Releases made before the readings."""

    direction: Text
    done: int
    wanted: int


class SignatureEntry(StrictModel):
    """Who signed, when, and what followed; ``link`` is its link in the issuer's chain of records."""

    on: date
    by: Text
    beside: Text = ""
    due: date | None = None
    outcome: Text | None = None
    link: Text = ""
    note: Text = ""


class ResultPoint(StrictModel):
    """What was found at one series; fractions."""

    series: int
    deviation: Number
    worst: Number
    expanded_uncertainty: Number
    near_zone: Number
    limit: Number
    probability: Number
    state: Text


class ResultRecord(StrictModel):
    """The record: ``facts`` is the document that the run is judged by (tool, reference with its certificate, effects, rule
    set), as it was when it was signed."""

    certificate: Text
    kind: Text
    opened: datetime
    opened_by: Text
    day: date
    rule: Text | None = None
    mode: Text | None = None
    fitting: Text = ""
    note: Text = ""
    amends: Text = ""
    facts: dict[str, Any]
    look_over: Annotated[tuple[LookEntry, ...], Most]
    room: RoomEntry | None = None
    set_up: SetUpEntry | None = None
    exercise: Annotated[tuple[ExerciseEntry, ...], Most]
    zeros: ZerosEntry
    series: Annotated[tuple[SeriesEntry, ...], Most]
    points: Annotated[tuple[ResultPoint, ...], Most]
    state: Text
    accepted: bool | None
    statement: Text
    formal: Text
    signature: SignatureEntry


class ResultFile(StrictModel):
    """A whole file. ``issued_by`` stands outside of what is digested: a shop may move."""

    format: Literal["reckoner-result"] = FORMAT
    version: Literal[1] = VERSION
    issued_by: Text = ""
    digest: Annotated[str, Field(pattern="^[0-9a-f]{64}$")]
    record: ResultRecord


def digest_of(record: ResultRecord) -> str:
    """The SHA-256 of a record, in hexadecimal, over its JSON with sorted keys and no space."""
    whole = json.dumps(record.model_dump(mode="json"), sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    return hashlib.sha256(whole.encode()).hexdigest()


def packed(record: ResultRecord, issued_by: str) -> ResultFile:
    """The file of a record."""
    return ResultFile(issued_by=issued_by, digest=digest_of(record), record=record)


def written(file: ResultFile) -> bytes:
    """As it stands in a file: UTF-8, indented, so that a person can read it."""
    return (json.dumps(file.model_dump(mode="json"), indent=1, ensure_ascii=False) + "\n").encode()


def write(path: Path, file: ResultFile) -> None:
    """Write it whole or not at all. Raises FileNotWritten."""
    write_whole(path, written(file))


def read(path: Path) -> ResultFile:
    """The result in a file. Raises ResultRefused for what is none, is newer, or is not as it was written."""
    try:
        text = read_text(path, MOST_BYTES)
    except TextRefused as refusal:
        raise ResultRefused(path, refusal.why) from None
    return from_text(text, path)


def from_text(text: str, path: Path | str) -> ResultFile:
    """The result in a ``text`` that came from ``path``. Raises ResultRefused."""
    try:
        raw = json.loads(text)
    except json.JSONDecodeError as fault:
        raise ResultRefused(
            path, tr("it is not JSON: {msg} in line {lineno}", msg=fault.msg, lineno=fault.lineno)
        ) from None
    except (RecursionError, ValueError):
        raise ResultRefused(path, tr("it is nested too deeply, or holds a number that cannot be read")) from None
    if not isinstance(raw, dict) or raw.get("format") != FORMAT:
        raise ResultRefused(path, tr('it is no result file: it does not say "format": "{format}"', format=FORMAT))
    version = raw.get("version")
    if isinstance(version, int) and version > VERSION:
        raise ResultRefused(
            path, tr("it was written by a newer Reckoner (version {version}); update this one", version=version)
        )
    try:
        found = ResultFile.model_validate(raw)
    except ValidationError as fault:
        first = fault.errors(include_url=False)[0]
        where = ".".join(str(part) for part in first["loc"]) or tr("the whole")
        raise ResultRefused(path, f"{where}: {first['msg'][:1].lower()}{first['msg'][1:]}") from None
    except RecursionError:
        raise ResultRefused(path, tr("it is nested too deeply to be one of ours")) from None
    if digest_of(found.record) != found.digest:
        raise ResultRefused(path, tr("its record was changed after it was written: its digest is not the one it bears"))
    return found
