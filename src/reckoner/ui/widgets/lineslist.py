"""A list of lines that grows as it is looked through: a strong lead, a quiet line under it, something at the right.

Paints the rows of a list: a strong lead, a quiet line under it, something at the right, and a fence mark before them.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from PyQt6.QtCore import (
    QAbstractListModel,
    QItemSelection,
    QItemSelectionModel,
    QModelIndex,
    QObject,
    QRectF,
    QSize,
    Qt,
    pyqtSignal,
)
from PyQt6.QtGui import QPainter, QPen
from PyQt6.QtWidgets import QAbstractItemView, QStyle, QStyledItemDelegate, QStyleOptionViewItem

from reckoner.core.decision.states import State
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.mark import paint_mark
from reckoner.ui.widgets.table import BareTable
from reckoner.ui.widgets.text import tip

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


class LinesModel(QAbstractListModel):
    """``UserRole`` gives the Line. Signal ``wanted(place)``: those below that place are to be taken."""

    wanted = pyqtSignal(object)

    def __init__(self, page: int, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._page = page
        self._more = False
        self.lines: list[ListLine] = []

    def show(self, lines: tuple[ListLine, ...]) -> None:
        """Another list, from its beginning."""
        self.beginResetModel()
        self.lines = list(lines)
        self._more = len(lines) >= self._page
        self.endResetModel()

    def take(self, lines: tuple[ListLine, ...]) -> None:
        """The next page."""
        if lines and (not self.lines or lines[0].place < self.lines[-1].place):
            self.beginInsertRows(QModelIndex(), len(self.lines), len(self.lines) + len(lines) - 1)
            self.lines += lines
            self.endInsertRows()
        self._more = len(lines) >= self._page

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return 0 if parent.isValid() else len(self.lines)

    def canFetchMore(self, parent: QModelIndex) -> bool:
        return not parent.isValid() and self._more

    def fetchMore(self, parent: QModelIndex) -> None:
        if self.canFetchMore(parent):
            self._more = False
            self.wanted.emit(self.lines[-1].place)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid() or not 0 <= index.row() < len(self.lines):
            return None
        line = self.lines[index.row()]
        if role == Qt.ItemDataRole.UserRole:
            return line
        words = ", ".join(w for w in (line.lead, line.detail, line.right) if w)
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole):
            return words
        return tip(words) if role == Qt.ItemDataRole.ToolTipRole else None


class LinesList(BareTable):
    """The view. ``several`` lines can be chosen. Signal ``changed()``: what is chosen has changed."""

    changed = pyqtSignal()

    def __init__(self, theme: Theme, name: str, page: int, *, several: bool = False) -> None:
        super().__init__(theme, high=HIGH, wide=30 * GRID, stretch=True)
        self.lines = LinesModel(page, self)
        self.setModel(self.lines)
        self._delegate = LineDelegate(theme, self)
        self.setItemDelegate(self._delegate)
        modes = QAbstractItemView.SelectionMode
        self.setSelectionMode(modes.ExtendedSelection if several else modes.SingleSelection)
        self.setAccessibleName(name)

    def selectionChanged(self, selected: QItemSelection, deselected: QItemSelection) -> None:
        super().selectionChanged(selected, deselected)
        self.changed.emit()

    @property
    def chosen(self) -> tuple[ListLine, ...]:
        """The chosen lines, in the order in which they stand."""
        selection = self.selectionModel()
        rows = sorted(index.row() for index in selection.selectedIndexes()) if selection is not None else []
        return tuple(self.lines.lines[row] for row in rows)

    def show_lines(self, lines: tuple[ListLine, ...]) -> None:
        """Another list, or the same one anew: what was chosen stays so where it is still there; else the first is."""
        chosen = {line.id for line in self.chosen}
        self.lines.show(lines)
        again = [row for row, line in enumerate(lines) if line.id in chosen]
        selection = self.selectionModel()
        if again and selection is not None:
            for row in again:
                selection.select(self.lines.index(row), QItemSelectionModel.SelectionFlag.Select)
        else:
            self.choose_first()

    def choose_first(self) -> None:
        """The newest becomes the chosen one."""
        if self.lines.lines:
            self.setCurrentIndex(self.lines.index(0))
