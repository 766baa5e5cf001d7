"""The foot of a form: what is missing or was refused, and the button."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtWidgets import QVBoxLayout, QWidget

from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton
from reckoner.ui.widgets.form import Form
from reckoner.ui.widgets.text import label, set_tone, tip

HIGH = 8 * GRID
"""Room for two lines of words: the button does not move by them."""


class FormFoot(QWidget):
    """``words`` beside the ``button``, which calls ``press``, as Enter in one of the ``forms`` does."""

    def __init__(self, theme: Theme, text: str, press: Callable[[], None], *forms: Form[Any]) -> None:
        super().__init__()
        for form in forms:
            form.entered.connect(press)
            form.refused.connect(self.refuse)
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


def framed(title: QWidget, leave: QWidget, form: Form[Any], foot: FormFoot) -> QVBoxLayout:
    """A form under its ``title``, with a way to ``leave`` it, over its foot."""
    body = QWidget()
    body.setLayout(column(form, 1, margin=3))
    layout = column(row(title, 1, leave, gap=2), surface(column(scrolling(body))), foot, gap=2)
    layout.setStretch(1, 1)
    return layout
