"""Feeds a model of tools with what a filter found, a page at a time as it is looked at."""

from __future__ import annotations

from collections.abc import Callable

from reckoner.shop.register.cards import ToolCard
from reckoner.shop.register.lists import BY_NUMBER, Sorting, ToolsFound, count_of, page_of
from reckoner.ui.place import Surroundings
from reckoner.ui.tools.paged import PagedTools
from reckoner.ui.work import call


class Feeder:
    """``taken()`` is called whenever another page stands in the model."""

    def __init__(self, around: Surroundings, model: PagedTools, taken: Callable[[], None]) -> None:
        self._around, self._model, self._taken = around, model, taken
        self._shown: tuple[str, Sorting] = ("", BY_NUMBER)
        model.wanted.connect(self._page)

    def show(self, text: str, sorting: Sorting, found: ToolsFound) -> None:
        """Another list: what ``text`` found. How many there are is told once the first of them stand."""
        self._shown = (text, sorting)
        self._model.show(found)
        if found.counted:
            return
        today = self._around.today

        def grow(count: int) -> None:
            if (text, sorting) == self._shown:
                self._model.grow(count)

        self._around.work.look(call(count_of, text, today), grow)

    def _page(self, start: int) -> None:
        (text, sorting), today = self._shown, self._around.today

        def take(found: tuple[ToolCard, ...]) -> None:
            if (text, sorting) == self._shown:
                self._model.take(start, found)
                self._taken()

        self._around.work.look(call(page_of, text, today, start, sorting), take)
