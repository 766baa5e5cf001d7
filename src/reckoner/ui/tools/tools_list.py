"""The list of tags: model, delegate and view."""

from __future__ import annotations

from datetime import date
from typing import Any

from PyQt6.QtCore import QModelIndex, QObject, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
)

from reckoner.core.translation import tr
from reckoner.ui.theme import Theme
from reckoner.ui.tokens import GRID
from reckoner.ui.tools.paged import PagedTools
from reckoner.ui.widgets.table import BareTable
from reckoner.ui.widgets.tag import TAG_SIZE, paint_blank, paint_tag, tag_words
from reckoner.ui.widgets.text import tip


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
