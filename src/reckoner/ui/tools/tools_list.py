"""The list of tags: model, delegate and view."""

from __future__ import annotations

from datetime import date
from typing import Any

from PyQt6.QtCore import QAbstractListModel, QModelIndex, QObject, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPainter
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
)

from reckoner.shop.register.cards import ToolCard
from reckoner.shop.register.lists import PAGE, ToolsFound
from reckoner.ui.pages import Pages
from reckoner.ui.theme import Theme
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.table import BareTable
from reckoner.ui.widgets.tag import TAG_SIZE, paint_blank, paint_tag, tag_words
from reckoner.ui.widgets.text import tip


class ToolsModel(QAbstractListModel):
    """What a filter found, read as it is looked at; ``UserRole`` gives the ToolCard, None while it is on its way.

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
        self.dataChanged.emit(self.index(start), self.index(min(start + PAGE, self._pages.count) - 1))

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return 0 if parent.isValid() else self._pages.count

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid() or not 0 <= index.row() < self._pages.count:
            return None
        card = self._pages.get(index.row())
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
        self.setAccessibleName("Tools")
