"""A list of rows to choose from: a strong name, and a quiet line under it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from PyQt6.QtCore import QAbstractListModel, QModelIndex, QObject, Qt
from PyQt6.QtWidgets import QAbstractItemView

from reckoner.ui.theme import Theme
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.linedelegate import HIGH, LineDelegate, ListLine
from reckoner.ui.widgets.table import BareTable
from reckoner.ui.widgets.text import tip


@dataclass(frozen=True)
class Listed:
    """One row: its id, its name, what is said under it, and whether it is one that is not used any more."""

    id: int
    name: str
    detail: str
    past: bool = False


class RowsModel(QAbstractListModel):
    """``UserRole`` gives the Listed."""

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.rows: tuple[Listed, ...] = ()

    def show(self, rows: tuple[Listed, ...]) -> None:
        """Another list."""
        self.beginResetModel()
        self.rows = rows
        self.endResetModel()

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return 0 if parent.isValid() else len(self.rows)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid() or not 0 <= index.row() < len(self.rows):
            return None
        listed = self.rows[index.row()]
        if role == Qt.ItemDataRole.UserRole:
            return listed
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole):
            return f"{listed.name}, {listed.detail}"
        return tip(f"{listed.name}\n{listed.detail}") if role == Qt.ItemDataRole.ToolTipRole else None


def _line(listed: Listed) -> ListLine:
    return ListLine(("", listed.id), listed.id, listed.name, listed.detail, past=listed.past)


class RowsList(BareTable):
    """The view; arrow keys move, the chosen row is the current one."""

    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__(theme, high=HIGH, wide=30 * GRID, stretch=True)
        self.rows = RowsModel(self)
        self.setModel(self.rows)
        self._delegate = LineDelegate(theme, self, _line)
        self.setItemDelegate(self._delegate)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setAccessibleName(name)

    @property
    def current(self) -> Listed | None:
        """The chosen row."""
        found: Listed | None = self.currentIndex().data(Qt.ItemDataRole.UserRole)
        return found

    def choose(self, row_id: int) -> None:
        """Make the row of this id the current one, where it is listed."""
        for i, listed in enumerate(self.rows.rows):
            if listed.id == row_id:
                self.setCurrentIndex(self.rows.index(i))
                self.scrollTo(self.currentIndex())
