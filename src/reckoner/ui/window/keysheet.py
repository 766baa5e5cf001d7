"""The sheet of keys, made from the action registry."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QDialog, QGridLayout, QWidget

from reckoner.core.translation import tr
from reckoner.ui.actions import ACTIONS, key_words
from reckoner.ui.layout import column
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.text import label


class KeySheet(QDialog):
    """Not modal: it never stands in the way of a pull. F1 or Escape closes it."""

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.setModal(False)
        self.setWindowTitle(tr("Keys"))
        grid = QGridLayout()
        grid.setHorizontalSpacing(3 * GRID)
        grid.setVerticalSpacing(GRID)
        for i, spec in enumerate(ACTIONS):
            words = key_words(spec.id) + (tr(", held down") if spec.held else "")
            grid.addWidget(label(theme, words, Type.STRONG), i, 0, Qt.AlignmentFlag.AlignRight)
            grid.addWidget(label(theme, spec.name, Type.BODY), i, 1)
            grid.addWidget(label(theme, spec.tooltip, Type.BODY, "quiet"), i, 2)
        self.setLayout(column(label(theme, tr("Keys"), Type.TITLE), grid, gap=2, margin=3))
