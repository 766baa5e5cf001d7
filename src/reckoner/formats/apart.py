"""Reading what comes from elsewhere in a process of its own, which may take so much memory and so long, and nothing else.

Whatever a file does to who reads it, this process is left with checked values or with a sentence.
"""

from __future__ import annotations

import importlib
import io
import logging
import pickle
import resource
import signal
import subprocess
import sys
import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any, Concatenate, ParamSpec, TypeVar

from reckoner.core.errors import Refused
from reckoner.core.translation import install, installed, tr
from reckoner.formats.refusals import FileRefused

P = ParamSpec("P")
T = TypeVar("T")

log = logging.getLogger(__name__)

MOST_MEMORY = 300_000_000
"""Bytes that reading one file may take, beside the program itself."""

MOST_SECONDS = 60
"""s of work on one file; a person waits no longer either."""

TOO_LARGE = 3
"""How the process ends that would have needed more memory."""

THERE = "from reckoner.formats.apart import serve; serve()"

_running: set[subprocess.Popen[bytes]] = set()
_lock = threading.Lock()


def apart(read: Callable[Concatenate[Path, P], T], path: Path, *given: P.args, **named: P.kwargs) -> T:
    """What a reader of files, a function of a module, makes of ``path``. Raises what it refuses with; FileRefused where it
    takes too much memory or time, is damaged beyond what the reader knows, or was stopped."""
    asked = pickle.dumps((installed(), read.__module__, read.__name__, (path, *given), named))
    child = subprocess.Popen(
        [sys.executable, "-c", THERE], stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.PIPE
    )
    with _lock:
        _running.add(child)
    try:
        answer, told = child.communicate(asked, timeout=2 * MOST_SECONDS)
    except subprocess.TimeoutExpired:
        child.kill()
        answer, told = child.communicate()
    finally:
        with _lock:
            stopped = child not in _running
            _running.discard(child)
    if stopped:
        raise FileRefused(path.name, (tr("reading it was stopped; nothing of it was kept"),))
    if child.returncode:
        raise FileRefused(path.name, (_why(path, child.returncode, told),))
    was_read, found = _Checked(io.BytesIO(answer)).load()
    if not was_read:
        raise found
    made: T = found
    return made


def stop() -> None:
    """Read nothing more of what is being read."""
    with _lock:
        children = tuple(_running)
        _running.clear()
    for child in children:
        child.kill()


def _why(path: Path, code: int, told: bytes) -> str:
    if code == TOO_LARGE or (code == -signal.SIGABRT and b"memory allocation" in told):
        return tr(
            "reading it takes more than {most} MB of memory: it is no file of this kind", most=MOST_MEMORY // 10**6
        )
    if code in (-signal.SIGXCPU, -signal.SIGKILL):
        return tr("reading it takes longer than {most} s: it is no file of this kind", most=MOST_SECONDS)
    log.warning("reading %s ended with %s: %s", path, code, told.decode(errors="replace")[-2000:])
    return tr("it is damaged, or is no file of this kind; save it anew where it comes from")


class _Checked(pickle.Unpickler):
    """Takes plain values and our own records, and nothing that could do anything."""

    PLAIN = frozenset(
        {
            *(("datetime", name) for name in ("date", "datetime", "time", "timezone", "timedelta")),
            ("pydantic_core._pydantic_core", "TzInfo"),
            ("pathlib", "PosixPath"),
            ("builtins", "set"),
        }
    )

    def find_class(self, module: str, name: str) -> Any:
        if (module, name) in self.PLAIN:
            return super().find_class(module, name)
        found = super().find_class(module, name) if module.startswith("reckoner.") and "." not in name else None
        if not isinstance(found, type) or found.__module__ != module:
            raise pickle.UnpicklingError(f"{module}.{name}")
        return found


def serve() -> None:
    """Read one file, as standard input says, and answer on standard output."""
    answering, sys.stdout = sys.stdout.buffer, sys.stderr  # what a library prints is no answer
    speaks, module, name, given, named = pickle.loads(sys.stdin.buffer.read())
    if speaks is not None:
        install(*speaks)
    read = getattr(importlib.import_module(module), name)
    _limit()
    try:
        answer = pickle.dumps((True, read(*given, **named)))
    except Refused as refusal:
        answer = pickle.dumps((False, refusal))
    except MemoryError:
        sys.exit(TOO_LARGE)
    answering.write(answer)
    answering.flush()


def _limit() -> None:
    """Take no more than is allowed from here on, and write no file."""
    status = Path("/proc/self/status").read_text(encoding="ascii")
    taken = next(int(line.split()[1]) * 1024 for line in status.splitlines() if line.startswith("VmData:"))
    for what, most in (
        (resource.RLIMIT_DATA, taken + MOST_MEMORY),
        (resource.RLIMIT_CPU, MOST_SECONDS),
        (resource.RLIMIT_FSIZE, 0),
        (resource.RLIMIT_CORE, 0),
    ):
        resource.setrlimit(what, (most, most))
