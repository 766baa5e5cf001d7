"""How much room everything takes, and the traces that the shop's rule lets go to an archive."""

from __future__ import annotations

import shutil
from dataclasses import dataclass
from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING

from reckoner.core.translation import tr
from reckoner.shop.people.authorship import Act, ShopRefused, note_by
from reckoner.shop.people.rights import command
from reckoner.store import files
from reckoner.store.archive import archives, old_traces, put_away
from reckoner.store.reader import Reader, reader_of
from reckoner.store.times import day_at

if TYPE_CHECKING:
    from datetime import datetime

    from sqlalchemy.orm import Session

SEEN = 400
"""Traces that are weighed; the others are taken for as large."""


@dataclass(frozen=True)
class Storage:
    """Bytes, but for counts. ``database`` is the file with what lies beside it; ``traces`` (about so many bytes) and
    ``files`` are within it. ``old`` traces may go by the rule, ``years`` (None: they stay), the ``first`` being of that day;
    ``old_whole``: there are no more than those."""

    database: int
    trace_count: int
    traces: int
    file_count: int
    files: int
    archive_count: int
    archive: int
    free: int
    years: int | None
    old: int
    old_whole: bool
    first: date | None


def storage(reader: Reader, today: date) -> Storage:
    """What is used, and what may go. Raises OSError where the folder cannot be looked at."""
    folder = reader.folder
    path = folder / files.DATABASE
    size = sum(one.stat().st_size for one in (path, *files.sides(path)))
    count = int(reader.value("SELECT count(*) FROM trace WHERE archived = ''"))
    mean = reader.value(
        "SELECT avg(length(samples)) FROM (SELECT samples FROM trace WHERE archived = '' ORDER BY id DESC LIMIT :n)",
        n=SEEN,
    )
    kept = reader.row("SELECT count(*) AS n, COALESCE(sum(length(data)), 0) AS size FROM content")
    first = reader.value(
        "SELECT o.at FROM trace t JOIN observation o ON o.id = t.observation_id WHERE t.archived = '' ORDER BY t.id LIMIT 1"
    )
    packed = archives(folder)
    years = years_kept(reader)
    old = old_traces(reader, day_before(today, years), MOST_LOOKED) if years else ()
    return Storage(
        database=size,
        trace_count=count,
        traces=int((mean or 0.0) * count),
        file_count=kept.n if kept is not None else 0,
        files=kept.size if kept is not None else 0,
        archive_count=len(packed),
        archive=sum(one.stat().st_size for one in packed),
        free=shutil.disk_usage(folder).free,
        years=years,
        old=len(old),
        old_whole=len(old) < MOST_LOOKED,
        first=day_at(first) if first else None,
    )


MOST_LOOKED = 2000


def years_kept(reader: Reader) -> int | None:
    """How many years traces stay, as the shop has set; None: always."""
    found = reader.value("SELECT trace_years FROM shop ORDER BY id LIMIT 1")
    return int(found) if found else None


def day_before(today: date, years: int) -> date:
    """The day so many years ago; of a 29 February, the last of that month.

    >>> day_before(date(2024, 2, 29), 1)
    datetime.date(2023, 2, 28)
    """
    day = today.day if (today.month, today.day) != (2, 29) else 28
    return today.replace(year=today.year - years, day=day)


def anything_old(reader: Reader, today: date) -> bool:
    """Whether there are traces that the shop's rule lets go."""
    years = years_kept(reader)
    return bool(years) and bool(old_traces(reader, day_before(today, years or 1), 1))


@dataclass(frozen=True)
class PutAway:
    """So many traces went to an archive."""

    count: int
    path: Path


@command
def archive(session: Session, act: Act) -> PutAway | None:
    """Somebody puts the oldest traces away, as ``archive_old``."""
    return archive_old(session, act.at, act.person_id)


def archive_old(session: Session, now: datetime, person_id: int | None) -> PutAway | None:
    """Put the oldest traces away that the shop's rule lets go, as many as one archive takes; None where there are none.
    No right is asked, for the rule decides; who set it had one. Raises ShopRefused without a rule, ArchiveRefused,
    StoreRefused."""

    reader = reader_of(session)
    years = years_kept(reader)
    if not years:
        raise ShopRefused(tr("Say first how many years traces stay; until then all of them do."))
    old = old_traces(reader, day_before(now.date(), years))
    if not old:
        return None
    path = put_away(session, old, now.date())
    note_by(session, person_id, now, tr("archived traces"), path.name, traces=len(old), older_than_years=years)
    return PutAway(len(old), path)
