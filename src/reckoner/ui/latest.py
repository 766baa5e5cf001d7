"""Asking as fast as somebody types, and answering the last question only; doing a thing once, however often it is pressed."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any, TypeVar

from reckoner.ui.work import Work

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

    from reckoner.core.errors import Refused
    from reckoner.store.reader import Reader

T = TypeVar("T")


class LatestQuery:
    """One question at a time: while its answer is on the way, the newest further one waits, and the others are dropped."""

    def __init__(self, work: Work) -> None:
        self._work = work
        self._under_way = False
        self._next: Callable[[], None] | None = None

    def look(
        self, run: Callable[[Reader], T], done: Callable[[T], None], ended: Callable[[], None] | None = None
    ) -> None:
        """As ``Work.look``; ``ended`` is called only for a question that was asked."""
        self._put(lambda: self._work.look(run, done, ended=lambda: self._over(ended)))

    def ask(self, run: Callable[[Session], T], done: Callable[[T], None], refused: Callable[[Refused], None]) -> None:
        """As ``Work.ask``."""
        self._put(lambda: self._work.ask(run, done, refused, ended=self._over))

    def prepare(
        self,
        gather: Callable[[Session], Callable[[], T]],
        done: Callable[[T], None],
        refused: Callable[[Refused], None],
    ) -> None:
        """As ``Work.prepare``."""
        self._put(lambda: self._work.prepare(gather, done, refused, ended=self._over))

    def compute(self, run: Callable[[], T], done: Callable[[T], None]) -> None:
        """As ``Work.compute``."""
        self._put(lambda: self._work.compute(run, done, ended=self._over))

    def _put(self, question: Callable[[], Any]) -> None:
        if self._under_way:
            self._next = question
            return
        self._under_way = True
        question()

    def _over(self, ended: Callable[[], None] | None = None) -> None:
        self._under_way = False
        if ended is not None:
            ended()
        question, self._next = self._next, None
        if question is not None:
            self._put(question)


class OneAtATime:
    """One command at a time: what is pressed again while it is on its way is dropped."""

    def __init__(self, work: Work) -> None:
        self._work = work
        self.under_way = False

    def ask(self, run: Callable[[Session], T], done: Callable[[T], None], refused: Callable[[Refused], None]) -> None:
        """As ``Work.ask``, unless another one is on its way."""
        if not self.under_way:
            self.under_way = True
            self._work.ask(run, done, refused, ended=self._over)

    def _over(self) -> None:
        self.under_way = False
