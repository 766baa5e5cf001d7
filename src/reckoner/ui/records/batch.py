"""Many documents, one after the other, away from the window: how far it is, and a way to stop."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeAlias

from PyQt6.QtCore import QObject, pyqtSignal

from reckoner.core.errors import Refused
from reckoner.ui.work import APOLOGY, SessionCall, Work

Gather: TypeAlias = "SessionCall[Callable[[], bool]]"
"""Gathers what a document needs, and returns what makes it: False where there is nothing to be made."""


class DocumentBatch(QObject):
    """``advanced(done, of)`` · ``ended(done, skipped, sentence)``: how many were made, how many have none, and what
    stopped it, empty when nothing did. Between two of them everything else has its turn."""

    advanced = pyqtSignal(int, int)
    ended = pyqtSignal(int, int, str)

    def __init__(self, work: Work, parent: QObject) -> None:
        super().__init__(parent)
        self._work = work
        self._left: list[int] = []
        self._of = self._done = self._skipped = 0
        self._make: Callable[[int], Gather] | None = None

    @property
    def running(self) -> bool:
        return bool(self._left)

    def start(self, runs: tuple[int, ...], make: Callable[[int], Gather]) -> None:
        """Gather and compute what ``make`` says of each of the ``runs`` in turn."""
        self._left, self._of, self._done, self._skipped, self._make = list(runs), len(runs), 0, 0, make
        self._next()

    def stop(self) -> None:
        """After the one that is under way."""
        self._left = self._left[:1]

    def _next(self) -> None:
        if not self._left or self._make is None:
            self.ended.emit(self._done, self._skipped, "")
            return
        self._work.prepare(self._make(self._left[0]), self._made, self._refused, self._failed)

    def _made(self, made: bool) -> None:
        self._left = self._left[1:]
        self._done += made
        self._skipped += not made
        self.advanced.emit(self._done + self._skipped, self._of)
        self._next()

    def _refused(self, refusal: Refused) -> None:
        self._left = []
        self.ended.emit(self._done, self._skipped, str(refusal))

    def _failed(self) -> None:
        self._left = []
        self.ended.emit(self._done, self._skipped, APOLOGY)
