"""A list of rows of the register beside the sheet of the chosen one, and adding another.

A list of rows to choose from: a strong name, and a quiet line under it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from PyQt6.QtCore import QAbstractListModel, QModelIndex, QObject, Qt
from PyQt6.QtWidgets import QAbstractItemView, QStackedWidget, QWidget

from reckoner.core.translation import tr, tr_count
from reckoner.shop.changes import Change, ChangeKind
from reckoner.shop.register.editing import RowSheet
from reckoner.shop.register.shelves import ShelfLine
from reckoner.store.reader import Reader
from reckoner.store.terms import RegisterKind
from reckoner.ui.latest import LatestQuery
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.register.factsheet import FactSheet
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.lineslist import HIGH, LineDelegate, ListLine
from reckoner.ui.widgets.table import BareTable
from reckoner.ui.widgets.text import LineEdit, label, tip


@dataclass(frozen=True)
class ListedRow:
    """One row: its id, its name, what is said under it, and whether it is one that is not used any more."""

    id: int
    name: str
    detail: str
    past: bool = False


class RowsModel(QAbstractListModel):
    """``UserRole`` gives the Listed."""

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.rows: tuple[ListedRow, ...] = ()

    def show(self, rows: tuple[ListedRow, ...]) -> None:
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


def _line(listed: ListedRow) -> ListLine:
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
    def current(self) -> ListedRow | None:
        """The chosen row."""
        found: ListedRow | None = self.currentIndex().data(Qt.ItemDataRole.UserRole)
        return found

    def choose(self, row_id: int) -> None:
        """Make the row of this id the current one, where it is listed."""
        for i, listed in enumerate(self.rows.rows):
            if listed.id == row_id:
                self.setCurrentIndex(self.rows.index(i))
                self.scrollTo(self.currentIndex())


LIST_WIDTH = 36 * GRID


@dataclass(frozen=True)
class ShelfSpec:
    """What a shelf holds: rows of a ``kind``, read by ``lines``; ``cares`` are the changes that touch them, ``none`` is said
    while there are none, and ``adding`` stands on the button that adds one."""

    kind: RegisterKind
    title: str
    lines: Callable[[Reader], tuple[ShelfLine, ...]]
    cares: tuple[ChangeKind, ...]
    none: str
    adding: str


class AboveFields(QWidget):
    """What stands above the fields of a row's sheet."""

    def show_row(self, row_id: int) -> None:
        """Another row, or another state of it."""


class RowAdder(QWidget):
    """What adds a row to a shelf, in the place of the sheet."""

    def begin(self) -> None:
        """Begin anew."""


class Shelf(QWidget):
    """``head`` stands above the list. ``make_adder`` makes the widget that adds a row; it is shown in the sheet's place, and
    calls back by ``added`` and ``leave_adding``; ``above`` stands over the fields of the chosen row."""

    def __init__(
        self,
        around: Surroundings,
        spec: ShelfSpec,
        head: QWidget,
        make_adder: Callable[[Shelf], RowAdder],
        above: AboveFields | None = None,
    ) -> None:
        super().__init__()
        self._around, self.spec = around, spec
        self._make_adder = make_adder
        self._asking = LatestQuery(around.work)
        self._lines: tuple[ShelfLine, ...] = ()
        self._wanted: int | None = None
        theme = around.theme
        self._count = label(theme, "", Type.BODY, "quiet")
        self.filter = LineEdit()
        self.filter.setPlaceholderText(tr("Filter by any word"))
        self.filter.setAccessibleName(tr("Filter: {title}", title=spec.title))
        self.filter.setFont(theme.font(Type.BODY))
        self.filter.setClearButtonEnabled(True)
        self.filter.textChanged.connect(lambda _text: self._narrow())
        self.none = label(theme, spec.none, Type.BODY, "quiet", wrap=True)
        self.list = RowsList(theme, spec.title)
        chooser = self.list.selectionModel()
        if chooser is not None:
            chooser.currentChanged.connect(self._chosen)
        self.adding = button(theme, spec.adding, self.begin_adding)
        left = QWidget()
        left.setLayout(
            column(
                column(head, self._count, gap=1),
                self.filter,
                self.none,
                self.list,
                row(self.adding, 1),
                gap=2,
            )
        )
        left.setFixedWidth(LIST_WIDTH)
        self.sheet = FactSheet(around)
        self.name = label(theme, "", Type.HEADLINE, wrap=True)
        holder = QWidget()
        self.above = above
        top = (self.name,) if above is None else (self.name, above)
        holder.setLayout(column(*top, self.sheet, 1, gap=2, margin=3))
        self._paper = surface(column(scrolling(holder)))
        self.adder: RowAdder | None = None
        self._right = QStackedWidget()
        self._right.addWidget(QWidget())
        self._right.addWidget(self._paper)
        self.sheet.changed.connect(self._named)
        self.setLayout(row(left, self._right, gap=2))

    def _named(self, sheet: RowSheet) -> None:
        self.name.setText(sheet.name)
        if self.above is not None:
            self.above.show_row(sheet.id)

    def arrive(self, row_id: int | None) -> None:
        """Show the list, and the row of this id."""
        self._wanted = row_id
        self.refresh()

    def refresh(self) -> None:
        """Ask for the list anew, and for the sheet."""
        self._asking.look(self.spec.lines, self._show_rows)

    def changes(self, made: tuple[Change, ...]) -> None:
        """Something was changed: refresh what it touches."""
        if any(change.kind in self.spec.cares for change in made):
            self.refresh()
            self.sheet.refresh()

    def begin_adding(self) -> None:
        """Show what adds a row."""
        if self.adder is None:
            self.adder = self._make_adder(self)
            self._right.addWidget(self.adder)
        self._right.setCurrentWidget(self.adder)
        self.adder.begin()

    def added(self, row_id: int) -> None:
        """A row was added: show it."""
        self._wanted = row_id
        self.filter.clear()
        self.refresh()

    def leave_adding(self) -> None:
        """Back to the sheet."""
        self._right.setCurrentWidget(self._paper if self.list.current is not None else self._right.widget(0))

    @property
    def is_adding(self) -> bool:
        """Whether a row is being added."""
        return self.adder is not None and self._right.currentWidget() is self.adder

    def _show_rows(self, lines: tuple[ShelfLine, ...]) -> None:
        self._lines = lines
        count = len(lines)
        self._count.setText(tr_count("1 in the register", "{n} in the register", count))
        self._narrow()

    def _narrow(self) -> None:
        words = self.filter.text().casefold().split()
        current = self.list.current
        wanted = self._wanted if self._wanted is not None else current.id if current is not None else None
        found = tuple(
            ListedRow(line.id, line.name, line.detail, line.past)
            for line in self._lines
            if all(word in f"{line.name} {line.detail}".casefold() for word in words)
        )
        self.list.rows.show(found)
        self.none.setVisible(not found)
        self.none.setText(self.spec.none if not self._lines else tr("None matches. Clear the filter to see all."))
        if found:
            self.list.choose(wanted if any(f.id == wanted for f in found) else found[0].id)  # type: ignore[arg-type]
        if self._wanted is not None:
            self._wanted = None
            self.leave_adding()

    def _chosen(self, current: QModelIndex, _previous: QModelIndex) -> None:
        listed = self.list.current
        if listed is not None and current.isValid():
            shown = self.sheet.sheet
            if shown is None or shown.id != listed.id:
                self.sheet.open(self.spec.kind, listed.id)
            if not self.is_adding:
                self._right.setCurrentWidget(self._paper)
