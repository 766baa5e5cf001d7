"""One window at a time on a folder: a lock that the system takes away when its holder dies, and a note of who holds it."""

from __future__ import annotations

import fcntl
import getpass
import json
import os
import socket
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path
from types import TracebackType

from reckoner.core.translation import tr
from reckoner.store.errors import StoreRefused

FILE = "reckoner.lock"


@dataclass(frozen=True)
class Holder:
    """Who holds a folder: the process, the machine, and the person's login name; empty where it is not known."""

    pid: int = 0
    host: str = ""
    user: str = ""


class FolderHeld(StoreRefused):
    """Another window holds the folder ``path``."""

    def __init__(self, path: Path, holder: Holder) -> None:
        super().__init__(path)
        self.holder = holder

    def __str__(self) -> str:
        who = (
            tr(" ({user} on {host}, process {pid})", user=self.holder.user, host=self.holder.host, pid=self.holder.pid)
            if self.holder.pid
            else ""
        )
        return tr(
            "Another window has {path} open{who}. Close it there, or look on here without changing anything.",
            path=self.path,
            who=who,
        )


class FolderLock:
    """Held from its making until ``release`` or the end of the process. Raises FolderHeld."""

    def __init__(self, folder: Path) -> None:
        self.path = folder / FILE
        self._descriptor = os.open(self.path, os.O_RDWR | os.O_CREAT, 0o600)
        try:
            fcntl.flock(self._descriptor, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            holder = _holder(self._descriptor)
            os.close(self._descriptor)
            raise FolderHeld(folder, holder) from None
        os.ftruncate(self._descriptor, 0)
        note = {"pid": os.getpid(), "host": socket.gethostname(), "user": _user()}
        with suppress(OSError):  # on a full disk it is held all the same, and says no more than that
            os.pwrite(self._descriptor, json.dumps(note).encode(), 0)

    def release(self) -> None:
        """Let the folder go."""
        if self._descriptor >= 0:
            os.close(self._descriptor)
            self._descriptor = -1

    def __enter__(self) -> FolderLock:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, fault: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.release()


def _holder(descriptor: int) -> Holder:
    try:
        note = json.loads(os.pread(descriptor, 4096, 0))
        return Holder(int(note["pid"]), str(note["host"])[:80], str(note["user"])[:80])
    except (ValueError, KeyError, TypeError):
        return Holder()


def _user() -> str:
    try:
        return getpass.getuser()
    except (KeyError, OSError):  # a login without a name
        return ""
