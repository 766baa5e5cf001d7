"""Something that has to be answered before the work goes on, with its answers beneath."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial

from PyQt6 import sip
from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QApplication, QPushButton, QWidget

from reckoner.core.translation import tr
from reckoner.ui.layout import column, empty, into_sight
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.flow import Flow
from reckoner.ui.widgets.text import label


@dataclass(frozen=True)
class QuestionChoice:
    """An answer: its ``key``, the ``words`` on its button; ``why`` asks for a reason in a field of that name first (empty: it
    needs none)."""

    key: object
    words: str
    why: str = ""


class QuestionPanel(QWidget):
    """Hidden until it asks. While it asks it has the focus, and Enter does nothing until an answer was chosen: by the
    mouse, or with Tab. Then the focus goes back to where it was. Signal ``answered(key, reason)``."""

    answered = pyqtSignal(object, str)
    keeps_enter = True

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._back: QWidget | None = None
        self._choices: tuple[QuestionChoice, ...] = ()
        self._chosen: QuestionChoice | None = None
        self.buttons: list[QPushButton] = []
        self.words = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.why = EntryField(theme, tr("Why"), words_reader)
        self.why.given.connect(lambda _words: self._reasoned())
        self.why.emptied.connect(lambda: self.refuse(tr("Say why in a few words; the record will say so.")))
        answers = QWidget()
        self._answers = Flow(answers)
        self.setLayout(column(self.words, answers, self.why, gap=1))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.why.hide()
        self.hide()

    @property
    def asks(self) -> bool:
        return not self.isHidden()

    def ask(self, words: str, choices: Sequence[QuestionChoice]) -> None:
        """Ask it, and take the focus; what is asked already stays as it is."""
        if self.asks and (self.words.text(), self._choices) == (words, tuple(choices)):
            return
        if not self.asks:
            self._back = QApplication.focusWidget()
        self._choices, self._chosen = tuple(choices), None
        self.words.setText(words)
        self.setAccessibleName(words)
        empty(self._answers)
        self.buttons = [button(self._theme, choice.words, partial(self._choose, choice)) for choice in choices]
        for made in self.buttons:
            self._answers.addWidget(made)
        self.why.clear()
        self.why.hide()
        self.show()
        self.setFocus()
        into_sight(self)

    def withdraw(self) -> None:
        """It need not be answered any more."""
        if not self.asks:
            return
        held = self.isAncestorOf(QApplication.focusWidget()) or self.hasFocus()
        back, self._back = self._back, None
        self.hide()
        if held and back is not None and not sip.isdeleted(back) and back.isVisible():
            back.setFocus()

    def refuse(self, sentence: str) -> None:
        """The answer cannot be taken."""
        if self.why.isHidden():
            self.words.setText(f"{self.words.text()} {sentence}")
        else:
            self.why.refuse(sentence)
            into_sight(self.why)

    def _choose(self, choice: QuestionChoice) -> None:
        if not choice.why:
            self.answered.emit(choice.key, "")
            return
        self._chosen = choice
        self.why.relabel(choice.why)
        self.why.show()
        self.why.setFocus()
        into_sight(self.why)

    def _reasoned(self) -> None:
        if self._chosen is not None:
            self.answered.emit(self._chosen.key, self.why.text.strip())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            event.accept()
            return
        super().keyPressEvent(event)
