"""The list of tags: model, delegate and view.

The tools that a filter found, as a model that reads them as they are looked at.

Feeds a model of tools with what a filter found, a page at a time as it is looked at.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from typing import Any

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, QObject, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPainter
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
)

from reckoner.core.translation import tr
from reckoner.shop.register.cards import ToolCard
from reckoner.shop.register.lists import BY_NUMBER, PAGE, Sorting, ToolsFound, count_of, page_of
from reckoner.ui.pages import Pages
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Theme
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.table import BareTable
from reckoner.ui.widgets.tag import TAG_SIZE, paint_blank, paint_tag, tag_words
from reckoner.ui.widgets.text import tip
from reckoner.ui.work import call


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


class ToolsModel(PagedTools):
    """Each tool as its tag; ``UserRole`` gives the ToolCard, None while it is on its way."""

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        card = self.card_at(index)
        if role == Qt.ItemDataRole.UserRole or card is None:
            return card
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole):
            return tag_words(card, self._today)
        if role == Qt.ItemDataRole.ToolTipRole:
            return tip(tag_words(card, self._today))
        return None


class TagDelegate(QStyledItemDelegate):
    """Paints each row as a tag."""

    def __init__(self, theme: Theme, today: date, parent: QObject) -> None:
        super().__init__(parent)
        self._theme, self._today = theme, today

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(TAG_SIZE.width(), TAG_SIZE.height() + GRID)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        card = index.data(Qt.ItemDataRole.UserRole)
        if painter is None:
            return
        if card is None:
            paint_blank(painter, self._theme, QRectF(option.rect).adjusted(0, 0, 0, -GRID))
            return
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        focus = chosen and bool(option.state & QStyle.StateFlag.State_HasFocus)
        box = QRectF(option.rect).adjusted(0, 0, 0, -GRID)
        paint_tag(painter, self._theme, box, card, self._today, chosen=chosen, focus=focus)


class ToolsList(BareTable):
    """The view; arrow keys move, the chosen row is the current one."""

    def __init__(self, theme: Theme, today: date) -> None:
        super().__init__(theme, high=TAG_SIZE.height() + GRID, wide=TAG_SIZE.width(), stretch=True)
        self.tools = ToolsModel(today, self)
        self.setModel(self.tools)
        self._delegate = TagDelegate(theme, today, self)
        self.setItemDelegate(self._delegate)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setAccessibleName(tr("Tools"))


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
