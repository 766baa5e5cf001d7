"""A place of several shelves: one in front, the others behind the chips that name them."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TypeVar

from PyQt6.QtWidgets import QStackedWidget, QWidget

from reckoner.ui.layout import column
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.widgets.chips import Chips


class PlaceShelf(QWidget):
    """One of them."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self.around = around

    def refresh(self) -> None:
        """Show what the database now holds."""

    def primary(self) -> None:
        """Do the primary thing, when it can be done."""

    def print(self) -> None:
        """Print what is shown."""


S = TypeVar("S", bound=PlaceShelf)


class ShelvedPlace(Place):
    """``shelves`` names each by the attribute that holds it, with its words; the first stands in front to begin with. A
    subclass holds them as cached properties that are ``added``, so that each is made when it is first turned to."""

    def __init__(
        self, around: Surroundings, name: str, shelves: Sequence[tuple[str, str]], behind: tuple[str, ...] = ()
    ) -> None:
        """``behind`` names those that no chip turns to."""
        super().__init__(around)
        self._names = (*(shelf for shelf, _words in shelves), *behind)
        self.heads = Chips(self.theme, name)
        self.heads.offer(shelves, self._names[:1])
        self.heads.chosen.connect(lambda: self.turn(self.heads.one))
        self._stack = QStackedWidget()
        layout = column(self.heads, self._stack, gap=2, margin=2)
        layout.setStretch(1, 1)
        self.setLayout(layout)
        self.put_in_front(self._names[0])

    def added(self, shelf: S) -> S:
        """``shelf``, among the others."""
        self._stack.addWidget(shelf)
        return shelf

    def make_ahead(self) -> Iterator[None]:
        for name in self._names:
            getattr(self, name)
            yield

    @property
    def shelf(self) -> PlaceShelf:
        """The one in front."""
        shelf = self._stack.currentWidget()
        if not isinstance(shelf, PlaceShelf):
            raise TypeError(shelf)
        return shelf

    def put_in_front(self, name: str) -> None:
        """The shelf of that name stands in front, as it is."""
        self.heads.choose(name)
        self._stack.setCurrentWidget(getattr(self, name))

    def turn(self, name: str) -> None:
        """The shelf of that name comes to the front and shows what the database now holds."""
        self.put_in_front(name)
        self.refresh()
        self.new_screen()

    def refresh(self) -> None:
        self.shelf.refresh()

    def primary(self) -> None:
        self.shelf.primary()

    def print(self) -> None:
        """Ctrl+P: print what is shown."""
        self.shelf.print()
