"""Paints the rows of a list: a strong lead, a quiet line under it, something at the right, and a fence mark before them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from PyQt6.QtCore import QModelIndex, QObject, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPen
from PyQt6.QtWidgets import QStyle, QStyledItemDelegate, QStyleOptionViewItem

from reckoner.core.states import State
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.mark import paint_mark

HIGH = 7 * GRID
MARK = 4 * GRID


@dataclass(frozen=True)
class ListLine:
    """One line; ``place`` orders them, ``id`` is what it is about. ``marked`` ones have the mark of their ``state``;
    ``past``: a later one has replaced it."""

    place: tuple[str, int]
    id: int
    lead: str
    detail: str
    right: str = ""
    state: State | None = None
    marked: bool = False
    past: bool = False


class LineDelegate(QStyledItemDelegate):
    """``as_line`` makes a Line of what the model gives as ``UserRole``, where that is none itself."""

    def __init__(self, theme: Theme, parent: QObject, as_line: Callable[[Any], ListLine] = lambda line: line) -> None:
        super().__init__(parent)
        self._theme, self._as_line = theme, as_line

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(30 * GRID, HIGH)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        given = index.data(Qt.ItemDataRole.UserRole)
        if painter is None or given is None:
            return
        line = self._as_line(given)
        theme, chosen = self._theme, bool(option.state & QStyle.StateFlag.State_Selected)
        focus = bool(option.state & QStyle.StateFlag.State_HasFocus)
        box = QRectF(option.rect).adjusted(1, 1, -1, -3)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(theme.color("accent" if chosen else "line"), 2.5 if focus else 1.5))
        painter.setBrush(theme.color("accent_wash" if chosen else "surface"))
        painter.drawRoundedRect(box, 6, 6)
        text = box.adjusted(1.5 * GRID, GRID / 2, -1.5 * GRID, -GRID / 2)
        if line.marked:
            paint_mark(painter, theme, QRectF(text.left(), text.center().y() - 10, MARK - GRID, 20), line.state)
            text.setLeft(text.left() + MARK)
        top, bottom = Qt.AlignmentFlag.AlignTop, Qt.AlignmentFlag.AlignBottom
        painter.setFont(theme.font(Type.CAPTION))
        painter.setPen(theme.color("quiet"))
        painter.drawText(text, top | Qt.AlignmentFlag.AlignRight, line.right)
        taken = painter.fontMetrics().horizontalAdvance(line.right) + GRID
        for role, tone, words, side, room in (
            (Type.STRONG, "quiet" if line.past else "ink", line.lead, top, text.width() - taken),
            (Type.CAPTION, "quiet", line.detail, bottom, text.width()),
        ):
            painter.setFont(theme.font(role))
            painter.setPen(theme.color(tone))
            shown = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, int(room))
            painter.drawText(text, side | Qt.AlignmentFlag.AlignLeft, shown)
        painter.restore()
