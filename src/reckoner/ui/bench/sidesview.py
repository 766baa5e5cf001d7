"""What a comparison found: its scatter, and every step of the ratio with the run's own values."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout, QWidget

from reckoner.shop.runs.state import RunState
from reckoner.shop.sidewords import scatter_words, sides_derivation
from reckoner.ui.layout import column, empty
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.text import label


class SidesView(QWidget):
    """Shown in the place of the numbers of a run that judges."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.scatter = label(theme, "", Type.STRONG, wrap=True)
        self._lines = QGridLayout()
        self._lines.setHorizontalSpacing(2 * GRID)
        self._lines.setVerticalSpacing(GRID)
        for part, share in enumerate((3, 3, 5, 3)):
            self._lines.setColumnStretch(part, share)
        self.setLayout(column(self.scatter, self._lines, gap=2))

    def show_run(self, run: RunState) -> None:
        self.scatter.setText(f"{scatter_words(run)}.")
        empty(self._lines)
        top = Qt.AlignmentFlag.AlignTop
        for i, step in enumerate(sides_derivation(run)):
            cells = ((step.what, "quiet"), (step.formula, ""), (step.values, ""), (step.result, ""))
            for j, (words, tone) in enumerate(cells):
                side = top | Qt.AlignmentFlag.AlignRight if j == len(cells) - 1 else top
                self._lines.addWidget(label(self._theme, words, Type.CAPTION, tone, wrap=True), i, j, side)
