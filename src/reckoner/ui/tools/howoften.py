"""How often a tool is tested: the school that holds, and what each of them would give."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout, QWidget

from reckoner.core.translation import tr
from reckoner.shop.intervals import SHORT_WORDS
from reckoner.shop.register.sheet import HowOften
from reckoner.ui.layout import column, empty
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.text import label


class HowOftenBlock(QWidget):
    """Read only: the school is a field of the tool, of its model, and of the shop."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.words = label(theme, "", Type.BODY, wrap=True)
        self._told = label(
            theme, tr("After another result like its last one, it would be due after"), Type.CAPTION, "quiet"
        )
        self._lines = QGridLayout()
        self._lines.setHorizontalSpacing(2 * GRID)
        self._lines.setVerticalSpacing(GRID // 2)
        self._lines.setColumnStretch(2, 1)
        self.setLayout(column(label(theme, tr("How often"), Type.STRONG), self.words, self._told, self._lines, gap=1))
        self.hide()

    def show_found(self, found: HowOften) -> None:
        """Show what holds, and the others beside it."""
        self.words.setText(found.words)
        empty(self._lines)
        top = Qt.AlignmentFlag.AlignTop
        for i, interval in enumerate(found.each):
            role = Type.STRONG if interval.school is found.holds else Type.BODY
            self._lines.addWidget(
                label(self._theme, f"{interval.months}", role), i, 0, top | Qt.AlignmentFlag.AlignRight
            )
            self._lines.addWidget(label(self._theme, tr("months"), role, "quiet"), i, 1, top)
            why = interval.why or SHORT_WORDS[interval.school].lower()
            tail = tr(", in force") if interval.school is found.holds else ""
            self._lines.addWidget(label(self._theme, f"{why}{tail}", role, wrap=True), i, 2)
        self.show()
