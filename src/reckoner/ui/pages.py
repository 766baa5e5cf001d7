"""A long list of which only some pages are here."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Generic, TypeVar

T = TypeVar("T")

KEPT = 30
"""Pages held at most; those that were looked at longest ago go first."""


class Pages(Generic[T]):
    """The rows of a list of ``count``, a page of ``size`` at a time. ``ask(start)`` fetches the page that begins there; what
    it brings is given to ``take``."""

    def __init__(self, size: int, ask: Callable[[int], None]) -> None:
        self._size = size
        self._ask = ask
        self._pages: dict[int, Sequence[T]] = {}
        self._asked: set[int] = set()
        self.count = 0

    def begin(self, count: int, start: int, rows: Sequence[T]) -> None:
        """Another list: ``rows`` are those from ``start`` on."""
        self.count = count
        self._pages, self._asked = {start: rows}, set()

    def grow(self, count: int) -> None:
        """There are ``count`` rows after all."""
        self.count = count

    def take(self, start: int, rows: Sequence[T]) -> None:
        """The page that begins at ``start``."""
        self._asked.discard(start)
        self._pages[start] = rows
        while len(self._pages) > KEPT:
            del self._pages[next(iter(self._pages))]

    def get(self, row: int) -> T | None:
        """What stands at ``row``; None while its page is on its way."""
        start = row - row % self._size
        page = self._pages.pop(start, None)
        if page is None:
            if start not in self._asked and 0 <= row < self.count:
                self._asked.add(start)
                self._ask(start)
            return None
        self._pages[start] = page  # looked at last
        return page[row - start] if row - start < len(page) else None
