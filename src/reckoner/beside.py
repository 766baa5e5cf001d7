"""A file that is made beside another one, to be given its name whole: the owner's alone, under a name that nobody can have
planted, so that nothing is ever written through a link."""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

OWNER_ONLY = 0o600


def owners_alone(path: str, flags: int) -> int:
    """Opens as ``open`` does (its ``opener``), a new file being its owner's alone, and never through a link."""
    return os.open(path, flags | os.O_NOFOLLOW | os.O_CLOEXEC, OWNER_ONLY)


_making: set[str] = set()
"""The names under which this program makes files now."""


@contextmanager
def beside(path: Path) -> Iterator[Path]:
    """An empty file beside ``path``; gone afterwards, with what lies beside it, where it was not given another name. What a
    program that was killed has left of the kind is cleared away. Raises OSError."""
    start = f".{path.name}."
    for left in path.parent.iterdir():
        if left.name.startswith(start) and ".new" in left.name and not _is_being_made(left.name, start):
            left.unlink(missing_ok=True)
    made = path.with_name(f"{start}{os.getpid()}.{os.urandom(6).hex()}.new")
    os.close(owners_alone(str(made), os.O_CREAT | os.O_EXCL | os.O_WRONLY))
    _making.add(made.name)
    try:
        yield made
    finally:
        for end in ("", "-journal", "-wal", "-shm"):
            made.with_name(f"{made.name}{end}").unlink(missing_ok=True)
        _making.discard(made.name)


def _is_being_made(name: str, start: str) -> bool:
    """Whether the program that makes a file (".NAME.PID.….new") still runs."""
    number = name.removeprefix(start).split(".")[0]
    if number == str(os.getpid()):
        return any(name.startswith(making) for making in _making)
    return not number.isdigit() or Path(f"/proc/{number}").exists()
