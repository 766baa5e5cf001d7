"""Reading text that comes from outside: bounded, whatever a path names and whatever stands in it.

A file for people, written whole or not at all.
"""

from __future__ import annotations

import stat
import tomllib
from pathlib import Path
from typing import Any

from reckoner.beside import beside
from reckoner.core.errors import Refused
from reckoner.core.translation import tr

MOST_BYTES = 20_000_000
"""More than any register, rule set or trace needs."""


class TextRefused(Refused):
    """A file or its text cannot be read; ``why`` completes "it …"."""

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why

    def __str__(self) -> str:
        return self.why


def read_bytes(path: Path, most: int, too_large: str) -> bytes:
    """What a plain file of at most ``most`` bytes holds. Raises TextRefused; why, of a larger one, is ``too_large``."""
    try:
        if not stat.S_ISREG(path.stat().st_mode):  # to open a pipe may never end
            raise TextRefused(tr("it is not a file but a device, a pipe or a folder"))
        with path.open("rb") as file:
            data = file.read(most + 1)
    except OSError as fault:
        raise TextRefused(tr("it cannot be read: {strerror}", strerror=fault.strerror or fault)) from None
    if len(data) > most:
        raise TextRefused(too_large)
    return data


def read_text(path: Path, most: int = MOST_BYTES) -> str:
    """The text of a plain file of at most ``most`` bytes, UTF-8 with or without a byte order mark. Raises TextRefused."""
    data = read_bytes(path, most, tr("it is larger than {most} MB; that cannot be one of ours", most=most // 1000000))
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as fault:
        raise TextRefused(tr("it is not UTF-8 text at byte {start}; save it as UTF-8", start=fault.start)) from None


def read_toml(text: str) -> dict[str, Any]:
    """The tables in a TOML ``text``. Raises TextRefused, also for nesting and numbers beyond all use."""
    try:
        return tomllib.loads(text)
    except tomllib.TOMLDecodeError as fault:
        raise TextRefused(tr("it is not a TOML file: {fault}", fault=fault)) from None
    except RecursionError:
        raise TextRefused(tr("it is nested too deeply to be one of ours")) from None
    except ValueError as fault:  # a whole number of thousands of digits
        raise TextRefused(tr("it holds a number that cannot be read: {fault}", fault=fault)) from None


class FileNotWritten(Refused):
    """The file at ``path`` could not be written, because ``why``."""

    def __init__(self, path: Path, why: str) -> None:
        super().__init__(path, why)
        self.path, self.why = path, why

    def __str__(self) -> str:
        return tr("{path} could not be written ({why}). Choose another place.", path=self.path, why=self.why)


def write_whole(path: Path, data: bytes) -> None:
    """Write ``data`` beside and give it its name at the end, the owner's alone. Raises FileNotWritten; what was there
    stays then."""
    try:
        with beside(path) as made:
            made.write_bytes(data)
            made.replace(path)
    except OSError as fault:
        raise FileNotWritten(path, fault.strerror or str(fault)) from None
