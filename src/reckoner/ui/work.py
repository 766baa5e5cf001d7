"""The doors to background work. One worker thread owns the database, one gathers what long work needs over a connection of
its own, another computes.

``ask``      writes: one unit of work of a session, as a whole or not at all
``look``     reads by columns; ``browse`` reads through the typed models. Both hold up nobody
``compute``  needs no database: papers, tables, simulations; the database goes on meanwhile
``prepare``  gathers what is needed, and computes it: a paper, a table. However long that takes, the others go on beside it

Each ends in one of three ways, and whoever asked is told which, on the interface thread: done with a result, refused with a
sentence, or failed by a fault of ours. What a unit of work has changed is told by ``changed`` once it is committed. What
comes back after another database was opened in the place of the one that was asked is told to nobody, for it is not true of
this one; ``ended`` is called all the same.
"""

from __future__ import annotations

import importlib
import logging
import os
import queue
import threading
from collections.abc import Callable, Mapping
from contextlib import suppress
from dataclasses import dataclass, replace
from enum import Enum, auto
from pathlib import Path
from typing import TYPE_CHECKING, Any, Concatenate, Generic, ParamSpec, TypeAlias, TypeVar

from PyQt6.QtCore import QObject, QThread, pyqtSignal

from reckoner.core.errors import OurFault, Refused
from reckoner.core.translation import tr
from reckoner.store.logs import log_path

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

    from reckoner.shop.changes import Change
    from reckoner.store.database import Database
    from reckoner.store.files import DatabaseCheck
    from reckoner.store.reader import Reader

log = logging.getLogger("reckoner.work")

T = TypeVar("T")
A = TypeVar("A")
B = TypeVar("B")
P = ParamSpec("P")
T_co = TypeVar("T_co", covariant=True)
S_contra = TypeVar("S_contra", contravariant=True)

APOLOGY = tr(
    "That did not work, and it is our mistake, not yours. What was on the screen before is kept. "
    "The details are in {log_path}; please pass them on.",
    log_path=log_path(),
)

Progress = Callable[[str, int, int], None]
"""Tells that of some work, named in words, so many of so many are done."""


@dataclass(frozen=True)
class ShopCall(Generic[S_contra, T_co]):
    """A command or a query of the shop with its plain arguments, to be run with the session or the reader that it needs."""

    function: Callable[..., T_co]
    arguments: tuple[object, ...]
    named: Mapping[str, object]

    def __call__(self, through: S_contra) -> T_co:
        return self.function(through, *self.arguments, **self.named)


def call(
    function: Callable[Concatenate[S_contra, P], T_co], *arguments: P.args, **named: P.kwargs
) -> ShopCall[S_contra, T_co]:
    """What is given to a door: ``function`` of the shop, with all of its arguments but the first."""
    return ShopCall(function, arguments, named)


def both(one: Callable[[S_contra], A], other: Callable[[S_contra], B]) -> Callable[[S_contra], tuple[A, B]]:
    """Two things that are asked at one moment."""
    return lambda through: (one(through), other(through))


def call_in(module: str, name: str, *arguments: object) -> ShopCall[Any, Any]:
    """The same for the function ``name`` of a ``module`` that may not have loaded yet: it loads where the call is run, away
    from the window."""

    def run(through: object, *given: object) -> Any:
        return getattr(importlib.import_module(module), name)(through, *given)

    return ShopCall(run, arguments, {})


SessionCall: TypeAlias = "ShopCall[Session, T]"
"""What writes, or reads through the typed models."""


class AskedFromElsewhere(OurFault):
    """The door was used from another thread than the interface's."""

    def __str__(self) -> str:
        return tr("background work was asked for from another thread than the interface's")


class _JobKind(Enum):
    WRITE = auto()
    LOOK = auto()
    BROWSE = auto()
    PREPARE = auto()
    COMPUTE = auto()


@dataclass(frozen=True)
class _Job:
    run: Callable[..., Any]
    kind: _JobKind
    done: Callable[[Any], None]
    refused: Callable[[Refused], None] | None
    failed: Callable[[], None] | None
    ended: Callable[[], None] | None
    opening: int = 0


_READS = (_JobKind.LOOK, _JobKind.BROWSE)
"""What is of no concern any more once another database is open; that something could not be kept or written is."""


class Door(Generic[P]):
    """A way to background work: what is given to it runs with the arguments ``P``."""

    def __init__(self, put: Callable[[_Job], None], kind: _JobKind) -> None:
        self._put, self._kind = put, kind

    def __call__(
        self,
        run: Callable[P, T],
        done: Callable[[T], None],
        refused: Callable[[Refused], None] | None = None,
        failed: Callable[[], None] | None = None,
        *,
        ended: Callable[[], None] | None = None,
    ) -> None:
        """Do ``run``, and then call ``done`` with its result on the interface thread; of what writes once it is committed.

        A refusal goes to ``refused``, a fault of ours to ``failed``, or each is told by the signal ``refused``. ``ended`` is
        called first, whichever way it ended. Raises AskedFromElsewhere outside the interface thread.
        """
        self._put(_Job(run, self._kind, done, refused, failed, ended))


class Work(QObject):
    """The doors. ``open_database`` runs on the worker thread; until it is through, asked work waits. ``check`` then
    reads the file through on a thread of its own.

    ``opened()`` · ``opening(words, done, of)`` while it takes long · ``cannot_open(sentence, refusal)``, None for a fault of
    ours; ``look_on`` then opens it for reading, ``open_after`` once more · ``checked(sentence)``, empty when it is whole ·
    ``refused(sentence)`` for what nobody else says · ``changed(tuple of Change)`` after a commit · ``reading(name)`` of a
    file from elsewhere, empty once it was read: ``stop_reading`` ends it.
    """

    opened = pyqtSignal()
    opening = pyqtSignal(str, int, int)
    cannot_open = pyqtSignal(str, object)
    checked = pyqtSignal(str)
    refused = pyqtSignal(str)
    changed = pyqtSignal(object)
    reading = pyqtSignal(str)
    _back = pyqtSignal(object)

    def __init__(
        self,
        open_database: Callable[[Progress, bool], Database],
        checking: DatabaseCheck | None = None,
        parent: QObject | None = None,
    ) -> None:
        super().__init__(parent)
        self._open_database = open_database
        self._checking = checking
        self._before: Callable[[], object] | None = None
        self.looking_on = False
        self.is_open = False
        self.opened.connect(self._is_open)
        self._jobs: queue.SimpleQueue[_Job | None] = queue.SimpleQueue()
        self._back.connect(self._call)  # emitted on the worker, so queued to the interface thread
        self._thread = threading.Thread(target=self._serve, name="database", daemon=True)
        self._checker = threading.Thread(target=self._check, name="check of the database", daemon=True)
        self._sums: queue.SimpleQueue[_Job | None] = queue.SimpleQueue()
        self._long: queue.SimpleQueue[_Job | None] = queue.SimpleQueue()
        self._begin_others()
        self._waiting = 0
        self._opening = 0
        self.ask: Door[[Session]] = Door(self._put, _JobKind.WRITE)
        self.look: Door[[Reader]] = Door(self._put, _JobKind.LOOK)
        self.browse: Door[[Session]] = Door(self._put, _JobKind.BROWSE)
        self.compute: Door[[]] = Door(self._put, _JobKind.COMPUTE)

    def _begin_others(self) -> None:
        """The threads beside the worker; each starts when something is first asked of it."""
        self._computer = threading.Thread(target=self._compute, name="computing", daemon=True)
        self._gatherer = threading.Thread(target=self._gather, name="gathering", daemon=True)

    def _is_open(self) -> None:
        self.is_open = True
        if not self._long.empty() and not self._gatherer.ident:  # asked for while it was being opened
            self._gatherer.start()

    def _call(self, back: Callable[[], None]) -> None:
        back()

    def start(self) -> None:
        self._thread.start()

    def read_file(
        self,
        read: Callable[..., T],
        path: Path,
        *given: object,
        done: Callable[[T], None],
        refused: Callable[[Refused], None] | None = None,
        failed: Callable[[], None] | None = None,
        ended: Callable[[], None] | None = None,
    ) -> None:
        """Read a file from elsewhere as ``read(path, *given)`` does, in a process of its own; the rest as a ``Door``."""

        def run() -> T:
            from reckoner.formats.apart import apart  # only when it is wanted

            return apart(read, path, *given)

        def over() -> None:
            self.reading.emit("")
            if ended is not None:
                ended()

        self.reading.emit(path.name)
        self.compute(run, done, refused, failed, ended=over)

    def stop_reading(self) -> None:
        """Read the files no further that are being read; that is refused as stopped."""
        from reckoner.formats import apart  # only when it is wanted

        apart.stop()

    def check(self) -> None:
        """Begin to read the file through, once: when there is time."""
        if self.is_open and not self._checker.ident:
            self._checker.start()

    def look_on(self) -> None:
        """Open the database for reading only: another window holds it, or nothing can be written there."""
        self.looking_on = True
        self._thread.join()
        self._thread = threading.Thread(target=self._serve, name="database", daemon=True)
        self._thread.start()

    def open_after(self, run: Callable[[], object]) -> None:
        """Where it could not be opened: do ``run`` on the worker, as putting a backup back, and try again."""
        self._thread.join()
        self._before = run
        self._thread = threading.Thread(target=self._serve, name="database", daemon=True)
        self._thread.start()

    def reopen(self, run: Callable[[], object]) -> None:
        """Close the database, do ``run`` while nobody holds it, and open what is there then. What refuses is told, and what
        was open is open again."""
        self.stop()
        self._opening += 1
        self._begin_others()
        if self._checking is not None:
            self._checking = self._checking.anew()
            self._checker = threading.Thread(target=self._check, name="check of the database", daemon=True)
        self.open_after(run)

    @property
    def idle(self) -> bool:
        """Nothing is under way: every asked thing has come back."""
        return self._waiting == 0

    def prepare(
        self,
        gather: Callable[[Session], Callable[[], T]],
        done: Callable[[T], None],
        refused: Callable[[Refused], None] | None = None,
        failed: Callable[[], None] | None = None,
        *,
        ended: Callable[[], None] | None = None,
    ) -> None:
        """As a ``Door``: gather what is needed, and compute what ``gather`` returns. One that was asked for is made, also
        when the window is closed meanwhile."""
        self._put(_Job(gather, _JobKind.PREPARE, done, refused, failed, ended))

    def _put(self, job: _Job) -> None:
        if QThread.currentThread() is not self.thread():
            raise AskedFromElsewhere
        self._waiting += 1
        if job.kind in (_JobKind.PREPARE, _JobKind.COMPUTE) and not self._computer.ident:
            self._computer.start()
        if job.kind is _JobKind.PREPARE and self.is_open and not self._gatherer.ident:
            self._gatherer.start()
        into = {_JobKind.COMPUTE: self._sums, _JobKind.PREPARE: self._long}.get(job.kind, self._jobs)
        into.put(replace(job, opening=self._opening))

    def stop(self) -> None:
        """Finish what was asked, close the database and end the worker."""
        self.is_open = False
        if self._thread.is_alive():
            self._jobs.put(None)
            self._thread.join(10)
        if self._gatherer.is_alive():
            self._long.put(None)
            self._gatherer.join(10)
        if self._computer.is_alive():
            self._sums.put(None)
            self.stop_reading()
            self._computer.join(10)
        if self._checker.is_alive() and self._checking is not None:
            self._checking.stop()
            self._checker.join(10)

    def _serve(self) -> None:
        before, self._before = self._before, None
        told = ""
        try:
            if before is not None:
                try:
                    before()
                except Refused as refusal:
                    told = str(refusal)
            database = self._open_database(self.opening.emit, self.looking_on)
        except Refused as refusal:
            log.warning("cannot open the database: %s", refusal)
            self.cannot_open.emit(f"{told} {refusal}" if told else str(refusal), refusal)
            return
        except Exception:
            log.exception("a fault of ours while opening the database")
            self.cannot_open.emit(APOLOGY, None)
            return
        self.opened.emit()
        if told:
            self.refused.emit(told)
        while (job := self._jobs.get()) is not None:
            self._do(database, job)
        database.close()

    def _gather(self) -> None:
        """Long reading, over a connection of its own: it sees what was committed when each job begins."""
        database: Database | None = None
        while (job := self._long.get()) is not None:
            try:
                database = database or self._open_database(lambda *_told: None, True)
            except Refused as refusal:
                self._back.emit(lambda job=job, refusal=refusal: self._tell(job, refusal))
                continue
            self._do(database, job)
        if database is not None:
            database.close()

    def _compute(self) -> None:
        while (job := self._sums.get()) is not None:
            self._do(None, job)

    def _check(self) -> None:
        with suppress(OSError, AttributeError):  # it gives way to everything else, where the system lets a thread
            os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), 19)
        try:
            if self._checking is None or not self._checking.run():
                return
        except Refused as refusal:
            log.warning("the check of the database: %s", refusal)
            self.checked.emit(str(refusal))
        except Exception:
            log.exception("the database could not be checked")
        else:
            self.checked.emit("")

    def _do(self, database: Database | None, job: _Job) -> None:
        made: tuple[Change, ...] = ()
        try:
            if database is None:
                result = job.run()
            elif job.kind is _JobKind.LOOK:
                with database.reading() as reader:
                    result = job.run(reader)
            elif job.kind is _JobKind.WRITE:
                from reckoner.shop import changes  # only when it is wanted

                with database.session() as session:
                    result = job.run(session)
                made = changes.of(session)
            else:
                with database.browsing() as session:
                    result = job.run(session)
        except Refused as refusal:
            self._back.emit(lambda refusal=refusal: self._tell(job, refusal))
        except Exception:
            log.exception("a fault of ours in background work")
            self._back.emit(lambda: self._apologise(job))
        else:
            if job.kind is _JobKind.PREPARE:
                self._sums.put(replace(job, run=result, kind=_JobKind.COMPUTE))
            else:
                self._back.emit(lambda: self._deliver(job, result, made))

    def _over(self, job: _Job) -> bool:
        """It has come back. Whether it was asked of the database that is open."""
        self._waiting -= 1
        if job.ended is not None:
            job.ended()
        return job.opening == self._opening

    def _deliver(self, job: _Job, result: Any, made: tuple[Change, ...]) -> None:
        if self._over(job):
            job.done(result)
            if made:
                self.changed.emit(made)

    def _tell(self, job: _Job, refusal: Refused) -> None:
        current = self._over(job)
        if current and job.refused is not None:
            job.refused(refusal)
        elif current or job.kind not in _READS:
            self.refused.emit(str(refusal))

    def _apologise(self, job: _Job) -> None:
        current = self._over(job)
        if current and job.failed is not None:
            job.failed()
        elif current or job.kind not in _READS:
            self.refused.emit(APOLOGY)
