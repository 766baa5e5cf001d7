"""The tools that a filter found, as a model that reads them as they are looked at."""

from __future__ import annotations

from datetime import date

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, QObject, pyqtSignal

from reckoner.shop.register.cards import ToolCard
from reckoner.shop.register.lists import PAGE, ToolsFound
from reckoner.ui.pages import Pages


class PagedTools(QAbstractTableModel):
    """One column, which says nothing by itself. ``UserRole`` of what inherits gives the ToolCard, None while it is on its
    way.

    Signals ``wanted(start)``: the page that begins at this row is to be taken.
    """

    wanted = pyqtSignal(int)

    def __init__(self, today: date, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._today = today
        self._pages: Pages[ToolCard] = Pages(PAGE, self.wanted.emit)

    def show(self, found: ToolsFound) -> None:
        """Another list."""
        self.beginResetModel()
        self._pages.begin(found.count, found.start, found.cards)
        self.endResetModel()

    def grow(self, count: int) -> None:
        """More tools were found than were seen at first."""
        if count > self._pages.count:
            self.beginInsertRows(QModelIndex(), self._pages.count, count - 1)
            self._pages.grow(count)
            self.endInsertRows()

    def take(self, start: int, cards: tuple[ToolCard, ...]) -> None:
        """A page of the list."""
        self._pages.take(start, cards)
        last = min(start + PAGE, self._pages.count) - 1
        self.dataChanged.emit(self.index(start, 0), self.index(last, self.columnCount() - 1))

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return 0 if parent.isValid() else self._pages.count

    def columnCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return 0 if parent.isValid() else 1

    def card_at(self, index: QModelIndex) -> ToolCard | None:
        """What stands there; asks for its page where it is not here."""
        if not index.isValid() or not 0 <= index.row() < self._pages.count:
            return None
        return self._pages.get(index.row())
