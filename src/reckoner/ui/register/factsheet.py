"""All fields of one row, in their groups: read first, edited where they stand.

Who changed what when: the versions of a row as lines, the newest first.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QWidget

from reckoner.core.errors import Refused
from reckoner.core.quantities.days import moment_words
from reckoner.core.translation import tr
from reckoner.shop.register.editing import Command, RowSheet, change, change_words, row_sheet
from reckoner.shop.register.rows import EditOutdated
from reckoner.store.terms import RegisterKind
from reckoner.ui.layout import column, empty
from reckoner.ui.place import Surroundings
from reckoner.ui.register.fieldrow import FieldRow
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.text import ElidedLabel, label
from reckoner.ui.work import call

SHOWN = 12
"""Lines that are shown of a long history; the audit trail keeps them all."""


class HistoryList(QWidget):
    """The lines of one row."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._grid = QGridLayout()
        self._grid.setHorizontalSpacing(2 * GRID)
        self._grid.setVerticalSpacing(GRID // 2)
        self._grid.setColumnStretch(2, 1)
        self.setLayout(column(label(theme, tr("Who changed what"), Type.LEAD), self._grid, gap=1))

    def show_sheet(self, sheet: RowSheet) -> None:
        empty(self._grid)
        for i, made in enumerate(reversed(sheet.changes[-SHOWN:])):
            words = change_words(sheet.kind, made, sheet.own)
            top = Qt.AlignmentFlag.AlignVCenter
            self._grid.addWidget(label(self._theme, moment_words(made.at), Type.CAPTION, "quiet"), i, 0, top)
            self._grid.addWidget(label(self._theme, made.by or tr("import"), Type.CAPTION), i, 1, top)
            self._grid.addWidget(ElidedLabel(self._theme, words, Type.CAPTION), i, 2)
        if not sheet.changes:
            nothing = tr("It is as it was brought in; nobody has changed it since.")
            self._grid.addWidget(label(self._theme, nothing, Type.CAPTION, "quiet"), 0, 0, 1, 3)


class FactSheet(QWidget):
    """Asks for a row and shows it; every change is kept at once, as its own step that can be taken back.

    ``only`` names the fields that are shown, None for all. Signal ``changed(RowSheet)`` whenever another state of the row is
    shown.
    """

    changed = pyqtSignal(object)

    def __init__(self, around: Surroundings, *, with_history: bool = True, only: Sequence[str] | None = None) -> None:
        super().__init__()
        self._around = around
        self.sheet: RowSheet | None = None
        self.rows: dict[str, FieldRow] = {}
        self._wanted: tuple[RegisterKind, int] | None = None
        self._otherwise: Mapping[str, str] = {}
        self._groups = column(gap=2)
        self._history = HistoryList(around.theme)
        self._with_history = with_history
        self._only_these = only
        self.setLayout(column(self._groups, self._history, 1, gap=3))
        self._history.setVisible(with_history)

    def open(self, kind: RegisterKind, row_id: int, otherwise: Mapping[str, str] | None = None) -> None:
        """Show a row; ``otherwise`` are words for fields that are empty, by their name."""
        if self._wanted != (kind, row_id):
            self.sheet, self.rows = None, {}
            empty(self._groups)
        self._wanted = (kind, row_id)
        if otherwise is not None:
            self._otherwise = otherwise
        self._around.work.browse(call(row_sheet, kind, row_id), self._show_row)

    def refresh(self) -> None:
        """Ask for the row anew."""
        if self._wanted is not None:
            self.open(*self._wanted)

    def _show_row(self, sheet: RowSheet) -> None:
        if (sheet.kind, sheet.id) != self._wanted:
            return
        if self.sheet is None:
            self._build(sheet)
        self.sheet = sheet
        for name, row in self.rows.items():
            row.show_value(sheet.values[name], sheet.own, self._otherwise.get(name, ""))
        if self._with_history:
            self._history.show_sheet(sheet)
        self.changed.emit(sheet)

    def _build(self, sheet: RowSheet) -> None:
        theme = self._around.theme
        shown = [f for f in sheet.fields if self._only_these is None or f.name in self._only_these]
        for group in dict.fromkeys(field.group for field in shown):
            holder = QWidget()
            lines = column(label(theme, group, Type.LEAD), gap=0)
            for field in shown:
                if field.group == group:
                    row = FieldRow(theme, field)
                    row.given.connect(self._give)
                    row.opened.connect(lambda name=field.name: self._only(name))
                    self.rows[field.name] = row
                    lines.addWidget(row)
            holder.setLayout(lines)
            self._groups.addWidget(holder)

    def _only(self, name: str) -> None:
        """One field is edited at a time."""
        for other, row in self.rows.items():
            if other != name:
                row.close_quietly()

    def _give(self, name: str, value: Any) -> None:
        sheet, row = self.sheet, self.rows[name]
        if sheet is None:
            return
        if self._around.person is None:
            row.refuse(tr("Choose who is at the bench first, at the top right."))
            return
        act, kind, row_id, base = self._around.act(), sheet.kind, sheet.id, sheet.version

        def kept(command: Command) -> None:
            self._around.undo_stack.did(command)
            row.leave()

        def refused(refusal: Refused) -> None:
            row.refuse(str(refusal))
            if isinstance(refusal, EditOutdated):
                self.refresh()  # what is there now stands beside what was typed

        self._around.work.ask(call(change, kind, row_id, row.field, value, act, base), kept, refused)
