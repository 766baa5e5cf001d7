"""Traces that went out of the database into files of their own, and finding one again.

An archive is a ZIP: ``index.csv`` names each trace, its rate and the SHA-256 of its samples; ``ID.f32`` holds them as the
database did, little-endian float32. It is written beside, read back against the digests, and given its name before the
database lets the samples go: a kill on the way leaves them there, or in both. Readings never go.
"""

from __future__ import annotations

import csv
import hashlib
import io
import struct
import zipfile
import zlib
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING

from reckoner.beside import beside
from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.store import files
from reckoner.store.backend import refused_by_the_disk
from reckoner.store.reader import Reader, reader_of
from reckoner.store.times import day_at

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

FOLDER = "archive"
"""Where they lie, in the folder of the database."""

MOST = 2000
"""Traces in one archive."""

INDEX = "index.csv"
_COLUMNS = ("trace", "observation", "taken", "samples a second", "sha256")


class ArchiveRefused(Refused):
    """A trace cannot be put away; the sentence says why."""

    def __str__(self) -> str:
        return str(self.args[0])


@dataclass(frozen=True)
class OldTrace:
    """A trace that may go: when its pull was ``taken``, as the database keeps it, and its ``size`` in bytes."""

    id: int
    observation: int
    taken: str
    rate: float
    size: int


_OLD = """
SELECT t.id, t.observation_id, o.at, t.rate, length(t.samples) AS size
FROM trace t JOIN observation o ON o.id = t.observation_id
WHERE t.archived = '' AND t.id > :after ORDER BY t.id LIMIT :count
"""


def old_traces(reader: Reader, before: date, count: int = MOST) -> tuple[OldTrace, ...]:
    """The oldest traces of pulls that were taken before a day, ``count`` of them at most."""
    found: list[OldTrace] = []
    for row in reader.rows(_OLD, after=0, count=count):
        if day_at(row.at) >= before:
            break
        found.append(OldTrace(row.id, row.observation_id, row.at, row.rate, row.size))
    return tuple(found)


def put_away(session: Session, old: tuple[OldTrace, ...], on: date) -> Path:
    """Write the ``old`` traces into an archive in the database's folder and let the database go of their samples, within the
    unit of work of ``session``. Returns the archive. Raises ArchiveRefused, StoreRefused."""
    from sqlalchemy import update  # loads slowly

    from reckoner.store.schema import Trace  # loads numpy

    reader = reader_of(session)
    into = reader.folder / FOLDER
    path = _free_name(into, on)
    try:
        into.mkdir(mode=0o700, exist_ok=True)
        with beside(path) as made:
            digests = _write(made, reader, old)
            _look_through(made, digests)
            files.put_in_place(made, path)
    except OSError as fault:
        raise refused_by_the_disk(path, fault) from fault
    for trace_id, digest in digests.items():
        session.execute(update(Trace).where(Trace.id == trace_id).values(archived=digest, samples=b""))
    return path


def _free_name(into: Path, on: date) -> Path:
    names = (f"traces-{on}{f'-{n}' if n else ''}.zip" for n in range(10_000))
    return next(into / name for name in names if not (into / name).exists())


def _write(made: Path, reader: Reader, old: tuple[OldTrace, ...]) -> dict[int, str]:
    digests = {}
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
        for trace in old:
            samples = bytes(reader.value("SELECT samples FROM trace WHERE id = :id", id=trace.id))
            digests[trace.id] = hashlib.sha256(samples).hexdigest()
            archive.writestr(f"{trace.id}.f32", samples)
        text = io.StringIO()
        table = csv.writer(text, delimiter=";", lineterminator="\n")
        table.writerow(_COLUMNS)
        table.writerows((t.id, t.observation, t.taken, f"{t.rate:g}", digests[t.id]) for t in old)
        archive.writestr(INDEX, text.getvalue())
    return digests


def _look_through(archive: Path, digests: dict[int, str]) -> None:
    with zipfile.ZipFile(archive) as opened:
        for trace_id, digest in digests.items():
            if hashlib.sha256(opened.read(f"{trace_id}.f32")).hexdigest() != digest:
                raise ArchiveRefused(
                    tr("{archive} could not be read back as it was written; nothing was put away.", archive=archive)
                )


def archives(folder: Path) -> tuple[Path, ...]:
    """The archives beside the database in ``folder``, the newest first."""
    return tuple(sorted((folder / FOLDER).glob("traces-*.zip"), reverse=True))


def samples_in(folder: Path, wanted: Mapping[int, str]) -> dict[int, bytes]:
    """The samples of traces that went away, by the trace, from whichever archive beside the database in ``folder`` has them;
    ``wanted`` are their digests. One that is in none is not among them."""
    found = {}
    for trace_id, digest in wanted.items():
        copies = (copy for copy in _copies(folder, f"{trace_id}.f32") if hashlib.sha256(copy).hexdigest() == digest)
        copy = next(copies, None)
        if copy is not None:
            found[trace_id] = copy
    return found


MOST_SAMPLES = 64_000_000
"""Bytes of the longest trace that was ever kept, many times over."""

DAMAGED = (
    OSError,
    zipfile.BadZipFile,
    zlib.error,
    struct.error,
    EOFError,
    ValueError,
    RuntimeError,
    NotImplementedError,
)
"""What ``zipfile`` does with an archive that was altered: encrypted it seems, or packed in a way that it does not know."""


def _copies(folder: Path, name: str) -> Iterator[bytes]:
    for path in archives(folder):
        try:
            with zipfile.ZipFile(path) as archive:
                if name not in archive.namelist():
                    continue
                with archive.open(name) as packed:
                    found = packed.read(MOST_SAMPLES)
        except DAMAGED:
            continue  # another one may have it
        yield found
