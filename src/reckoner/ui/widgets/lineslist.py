"""A list of lines that grows as it is looked through: a strong lead, a quiet line under it, something at the right."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import (
    QAbstractListModel,
    QItemSelection,
    QItemSelectionModel,
    QModelIndex,
    QObject,
    Qt,
    pyqtSignal,
)
from PyQt6.QtWidgets import QAbstractItemView

from reckoner.ui.theme import Theme
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.linedelegate import HIGH, LineDelegate, ListLine
from reckoner.ui.widgets.table import BareTable
from reckoner.ui.widgets.text import tip


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
