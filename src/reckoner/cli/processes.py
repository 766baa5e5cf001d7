"""Checking a whole database on all cores: parts of it in processes of their own, each with its own look at the file.

A part is checked by a function of the shop that takes a session and where the part begins and ends. What it refuses is raised
here, where it would have been.
"""

from __future__ import annotations

import multiprocessing
import os
import sys
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from functools import cache
from pathlib import Path
from typing import TypeAlias, TypeVar

import click
from sqlalchemy.orm import Session

from reckoner.core.translation import tr
from reckoner.formats.catalogues import install_language
from reckoner.store.database import Database

T = TypeVar("T")
Part: TypeAlias = tuple[int, "int | None"]


def checked(
    database: Database, check: Callable[[Session, int, int | None], T], parts: Sequence[Part], folder: Path
) -> Iterator[T]:
    """What ``check`` finds in each of the ``parts``, in their order; how far it is stands on standard error, where somebody
    looks at it. One part alone is checked here, for a process of its own takes longer to begin."""
    if len(parts) == 1:
        with database.session() as session:
            yield check(session, *parts[0])
        return
    fresh = multiprocessing.get_context("spawn")  # nothing of this process is copied: it has the database open
    with ProcessPoolExecutor(os.cpu_count(), fresh, install_language) as pool:
        waiting = [pool.submit(_check_there, check, folder, part) for part in parts]
        try:
            for done, (part, one) in enumerate(zip(parts, waiting, strict=True)):
                _tell(part, done, len(parts))
                yield one.result()
        except BaseException:
            pool.shutdown(wait=False, cancel_futures=True)
            raise
    _tell(None, len(parts), len(parts))


def _tell(part: Part | None, done: int, of: int) -> None:
    if sys.stderr.isatty():
        go_on = tr("; after {place} next", place=part[0]) if part is not None else ""
        click.echo(
            f"\r{tr('{done} of {of} parts checked{go_on}', done=done, of=of, go_on=go_on)}  ", nl=False, err=True
        )
        if part is None:
            click.echo(err=True)


@cache
def _database(folder: Path) -> Database:
    return Database(folder, looking_on=True)


def _check_there(check: Callable[[Session, int, int | None], T], folder: Path, part: Part) -> T:
    with _database(folder).session() as session:
        return check(session, *part)
