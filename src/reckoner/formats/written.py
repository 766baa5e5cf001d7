"""A file for people, written whole or not at all."""

from __future__ import annotations

import os
from pathlib import Path

from reckoner.core.errors import Refused
from reckoner.core.translation import tr


class FileNotWritten(Refused):
    """The file at ``path`` could not be written, because ``why``."""

    def __init__(self, path: Path, why: str) -> None:
        super().__init__(path, why)

    def __str__(self) -> str:
        return tr(
            "{args} could not be written ({args_2}). Choose another place.", args=self.args[0], args_2=self.args[1]
        )


def write_whole(path: Path, data: bytes) -> None:
    """Write ``data`` beside and give it its name at the end. Raises FileNotWritten; what was there stays then."""
    beside = path.with_name(f".{path.name}.{os.getpid()}.new")
    try:
        beside.write_bytes(data)
        beside.replace(path)
    except OSError as fault:
        beside.unlink(missing_ok=True)
        raise FileNotWritten(path, fault.strerror or str(fault)) from None
