"""Who changed what when: the versions of a row as lines, the newest first."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout, QWidget

from reckoner.core.days import moment_words
from reckoner.core.translation import tr
from reckoner.shop.register.editing import RowSheet, change_words
from reckoner.ui.layout import column, empty
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.text import ElidedLabel, label

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
            words = change_words(sheet.kind, made, sheet.unit)
            top = Qt.AlignmentFlag.AlignVCenter
            self._grid.addWidget(label(self._theme, moment_words(made.at), Type.CAPTION, "quiet"), i, 0, top)
            self._grid.addWidget(label(self._theme, made.by or tr("import"), Type.CAPTION), i, 1, top)
            self._grid.addWidget(ElidedLabel(self._theme, words, Type.CAPTION), i, 2)
        if not sheet.changes:
            nothing = tr("It is as it was brought in; nobody has changed it since.")
            self._grid.addWidget(label(self._theme, nothing, Type.CAPTION, "quiet"), 0, 0, 1, 3)
