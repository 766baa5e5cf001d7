"""The foot of a form: what is missing or was refused, and the button."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QWidget

from reckoner.ui.layout import row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton
from reckoner.ui.widgets.text import label, set_tone, tip

HIGH = 8 * GRID
"""Room for two lines of words: the button does not move by them."""


class FormFoot(QWidget):
    """``words`` beside the ``button``, which calls ``press``."""

    def __init__(self, theme: Theme, text: str, press: Callable[[], None]) -> None:
        super().__init__()
        self.words = label(theme, "", Type.STRONG, "quiet", wrap=True)
        self.words.setFixedHeight(HIGH)
        self.button = PrimaryButton(theme, text)
        self.button.setMinimumWidth(36 * GRID)
        self.button.clicked.connect(press)
        layout = row(self.words, self.button, gap=2)
        layout.setStretch(0, 1)
        self.setLayout(layout)

    def lacks(self, why: str) -> None:
        """What stands in the way of the button, empty when nothing does."""
        self._say(why)
        set_tone(self.words, "quiet")
        self.button.setEnabled(not why)

    def refuse(self, sentence: str) -> None:
        """Why what was pressed could not be done."""
        self._say(sentence)
        set_tone(self.words, "fault")

    def _say(self, words: str) -> None:
        self.words.setText(words)
        self.words.setToolTip(tip(words))
