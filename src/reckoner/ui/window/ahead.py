"""Loading ahead: what the next places need is imported on a thread of its own while nobody waits for it.

Nothing is made there, only imported; the interface thread goes on painting and answering. To load something else ahead,
name its module in ``MODULES``, what is needed first in front.
"""

from __future__ import annotations

import gc
import importlib
import logging
import sys
import threading
from collections.abc import Callable

from PyQt6.QtCore import QObject, pyqtSignal

from reckoner.ui.places import PLACES

log = logging.getLogger("reckoner.ahead")

MODULES = (
    "numpy",
    "reckoner.store.engine",
    "reckoner.shop.runs.planning",
    "reckoner.ui.tools",
    "reckoner.ui.bench",
    "sqlalchemy.dialects.sqlite",
    *(place.module for place in PLACES),
    "reckoner.formats.papers.certificate_pdf",
    "reckoner.shop.papers.resultfiles",
)


def _is_here(module: str) -> bool:
    """Whether a module has been imported, and not only begun to be."""
    spec = getattr(sys.modules.get(module), "__spec__", None)
    return spec is not None and not getattr(spec, "_initializing", False)


class Ahead(QObject):
    """``start`` begins; ``need(module, then)`` calls ``then`` on the interface thread once ``module`` can be used without
    waiting for it, at once when that is so already. ``finished()`` once all that may be needed is there."""

    finished = pyqtSignal()
    _came = pyqtSignal(str)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._todo: list[str] = []
        self._waiting: list[tuple[str, Callable[[], None]]] = []
        self._lock = threading.Lock()
        self._thread: threading.Thread | None = None
        self._came.connect(self._tell)

    @property
    def idle(self) -> bool:
        """Nobody waits for anything."""
        return not self._waiting

    def start(self) -> None:
        """Load whatever may be needed."""
        with self._lock:
            self._todo += MODULES
        self._run()

    def _run(self) -> None:
        with self._lock:
            if self._thread is None:
                self._thread = threading.Thread(target=self._load, name="loading ahead", daemon=True)
                self._thread.start()

    def need(self, module: str, then: Callable[[], None]) -> None:
        """``module`` is wanted now, before anything else."""
        if _is_here(module):
            then()
            return
        self._waiting.append((module, then))
        with self._lock:
            self._todo.insert(0, module)
        self._run()

    def stop(self) -> None:
        """Nothing more; what is being imported is finished first."""
        with self._lock:
            self._todo.clear()
            thread = self._thread
        if thread is not None:
            thread.join(10)

    def _next(self) -> str | None:
        with self._lock:
            if self._todo:
                return self._todo.pop(0)
            self._thread = None
            return None

    def _load(self) -> None:
        while (module := self._next()) is not None:
            try:
                importlib.import_module(module)
                if module == "reckoner.store.engine":
                    importlib.import_module(module).warm_up()
            except Exception:
                log.exception("%s could not be loaded ahead", module)  # whoever needs it meets the fault itself
            self._came.emit(module)
            if module == MODULES[-1]:
                self.finished.emit()
        gc.freeze()  # what has been loaded stays: to look through it again and again would hold up the window

    def _tell(self, module: str) -> None:
        told = [then for name, then in self._waiting if name == module]
        self._waiting = [(name, then) for name, then in self._waiting if name != module]
        for then in told:
            then()
