"""The demo's database as ``build`` has written it, shipped with the program."""

from __future__ import annotations

import gzip
from importlib import resources
from pathlib import Path

from reckoner.store import files, sqlitefile

NAME = "harrowmere.sqlite.gz"


def content() -> bytes:
    """The database file, whole."""
    return gzip.decompress((resources.files("reckoner.demo") / NAME).read_bytes())


def put(folder: Path) -> None:
    """Put it into ``folder``, whole, where no database is yet. Raises StoreRefused."""
    if not (folder / files.DATABASE).exists():
        sqlitefile.put(folder, content())
