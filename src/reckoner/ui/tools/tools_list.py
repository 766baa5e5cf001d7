"""The list of tags: model, delegate and view."""

from __future__ import annotations

from datetime import date
from typing import Any

from PyQt6.QtCore import QAbstractListModel, QModelIndex, QObject, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter
from PyQt6.QtWidgets import QAbstractItemView, QListView, QStyle, QStyledItemDelegate, QStyleOptionViewItem

from reckoner.shop.register.cards import ToolCard
from reckoner.ui.theme import GRID, Theme
from reckoner.ui.widgets.tag import TAG_SIZE, paint_tag, tag_words
from reckoner.ui.widgets.text import tip


class ToolsModel(QAbstractListModel):
    """The cards shown; ``UserRole`` gives the ToolCard."""

    def __init__(self, today: date, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._today = today
        self._cards: tuple[ToolCard, ...] = ()

    def show(self, cards: tuple[ToolCard, ...]) -> None:
        self.beginResetModel()
        self._cards = cards
        self.endResetModel()

    def row_of(self, tool_id: int) -> int | None:
        return next((i for i, c in enumerate(self._cards) if c.tool.id == tool_id), None)

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return 0 if parent.isValid() else len(self._cards)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid() or not 0 <= index.row() < len(self._cards):
            return None
        card = self._cards[index.row()]
        if role == Qt.ItemDataRole.UserRole:
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
        if painter is None or card is None:
            return
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        focus = chosen and bool(option.state & QStyle.StateFlag.State_HasFocus)
        box = QRectF(option.rect).adjusted(0, 0, 0, -GRID)
        paint_tag(painter, self._theme, box, card, self._today, chosen=chosen, focus=focus)


class ToolsList(QListView):
    """The view; arrow keys move, the chosen row is the current one."""

    def __init__(self, theme: Theme, today: date) -> None:
        super().__init__()
        self.tools = ToolsModel(today, self)
        self.setModel(self.tools)
        self._delegate = TagDelegate(theme, today, self)
        self.setItemDelegate(self._delegate)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setUniformItemSizes(True)
        self.setAccessibleName("Tools")
        theme.changed.connect(self.update_all)

    def update_all(self) -> None:
        viewport = self.viewport()
        if viewport is not None:
            viewport.update()
