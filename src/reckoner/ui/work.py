"""The one door to background work. Its single worker thread owns the database.

``ask`` runs a function of a session there, and brings its result, or the sentence of its refusal, back to the
interface thread. After a change, ``changed`` says what kind of thing changed.
"""

from __future__ import annotations

import logging
import queue
import threading
from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, TypeVar

from PyQt6.QtCore import QObject, QThread, pyqtSignal

from reckoner.core.errors import OurFault, Refused

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

    from reckoner.store.database import Database

log = logging.getLogger("reckoner.work")

T = TypeVar("T")

APOLOGY = (
    "That did not work, and it is our mistake, not yours. What was on the screen before is kept. "
    "The details are in the log; please pass them on."
)


class AskedFromElsewhere(OurFault):
    """The door was used from another thread than the interface's."""

    def __str__(self) -> str:
        return "background work was asked for from another thread than the interface's"


@dataclass
class _Job:
    run: Callable[[Session], Any]
    done: Callable[[Any], None]
    refused: Callable[[Refused], None] | None
    changes: str


class Work(QObject):
    """The door. ``open_database`` runs on the worker thread; until it is through, asked work waits."""

    opened = pyqtSignal()
    cannot_open = pyqtSignal(str)
    refused = pyqtSignal(str)
    changed = pyqtSignal(str)
    _back = pyqtSignal(object)

    def __init__(self, open_database: Callable[[], Database], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._open_database = open_database
        self._jobs: queue.SimpleQueue[_Job | None] = queue.SimpleQueue()
        self._back.connect(self._call)  # emitted on the worker, so queued to the interface thread
        self._thread = threading.Thread(target=self._serve, name="database", daemon=True)
        self._waiting = 0

    def _call(self, back: Callable[[], None]) -> None:
        back()

    def start(self) -> None:
        self._thread.start()

    @property
    def idle(self) -> bool:
        """Nothing is under way: every asked thing has come back."""
        return self._waiting == 0

    def ask(
        self,
        run: Callable[[Session], T],
        done: Callable[[T], None],
        refused: Callable[[Refused], None] | None = None,
        *,
        changes: str = "",
    ) -> None:
        """Run ``run`` with a session, committed before ``done`` is called on the interface thread.

        A refusal goes to ``refused``, or is told by the signal of that name. ``changes`` names the kind of thing changed.
        Raises AskedFromElsewhere outside the interface thread.
        """
        if QThread.currentThread() is not self.thread():
            raise AskedFromElsewhere
        self._waiting += 1
        self._jobs.put(_Job(run, done, refused, changes))

    def stop(self) -> None:
        """Finish what was asked, close the database and end the worker."""
        if self._thread.is_alive():
            self._jobs.put(None)
            self._thread.join(10)

    def _serve(self) -> None:
        try:
            database = self._open_database()
        except Refused as refusal:
            log.warning("cannot open the database: %s", refusal)
            self.cannot_open.emit(str(refusal))
            return
        self.opened.emit()
        while (job := self._jobs.get()) is not None:
            self._do(database, job)
        database.close()

    def _do(self, database: Database, job: _Job) -> None:
        try:
            with database.session() as session:
                result = job.run(session)
        except Refused as refusal:
            self._back.emit(lambda refusal=refusal: self._tell(job, refusal))
        except Exception:
            log.exception("a fault of ours in background work")
            self._back.emit(self._apologise)
        else:
            self._back.emit(lambda: self._deliver(job, result))

    def _deliver(self, job: _Job, result: Any) -> None:
        self._waiting -= 1
        job.done(result)
        if job.changes:
            self.changed.emit(job.changes)

    def _tell(self, job: _Job, refusal: Refused) -> None:
        self._waiting -= 1
        if job.refused is not None:
            job.refused(refusal)
        else:
            self.refused.emit(str(refusal))

    def _apologise(self) -> None:
        self._waiting -= 1
        self.refused.emit(APOLOGY)
