"""Labels by role: the words of the window.

A line of text that keeps Enter to itself while it holds words.
"""

from __future__ import annotations

import html

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QFontMetrics, QKeyEvent, QKeySequence, QResizeEvent
from PyQt6.QtWidgets import QLabel, QLineEdit, QSizePolicy, QWidget

from reckoner.ui.theme import Theme, Type


def label(theme: Theme, text: str = "", role: Type = Type.BODY, tone: str = "", *, wrap: bool = False) -> QLabel:
    """A label in a type role; ``tone`` is "quiet", "frame-quiet", "fault" or "good"."""
    made = QLabel(text)
    made.setFont(theme.font(role))
    made.setTextFormat(Qt.TextFormat.PlainText)
    if tone:
        made.setProperty("class", tone)
    if wrap:
        made.setWordWrap(True)
        made.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
    return made


def tip(words: str) -> str:
    """``words`` as a tooltip that shows just them: Qt takes what looks like markup for markup."""
    if "<" not in words and "&lt;" not in words:
        return words
    return f"<span>{html.escape(words)}</span>".replace("\n", "<br>")


def set_tone(widget: QWidget, tone: str) -> None:
    """Change the tone of a widget that is already shown."""
    if widget.property("class") == tone:
        return
    widget.setProperty("class", tone)
    style = widget.style()
    if style is not None:
        style.unpolish(widget)
        style.polish(widget)


class ElidedLabel(QLabel):
    """One line that ends in "…" when it is too long, with the whole text as tooltip."""

    def __init__(self, theme: Theme, text: str = "", role: Type = Type.BODY, tone: str = "") -> None:
        super().__init__(text)
        self.setFont(theme.font(role))
        self.setTextFormat(Qt.TextFormat.PlainText)
        if tone:
            self.setProperty("class", tone)
        self._whole = text
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)

    def set_whole(self, text: str) -> None:
        self._whole = text
        self._fit()

    def whole(self) -> str:
        return self._whole

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        shown = QFontMetrics(self.font()).elidedText(self._whole, Qt.TextElideMode.ElideRight, max(0, self.width()))
        self.setText(shown)
        self.setToolTip(tip(self._whole) if shown != self._whole else "")
        self.setAccessibleName(self._whole)


class LineEdit(QLineEdit):
    """QLineEdit passes Enter on to its window even when it acted on it; this one does not. With ``keeps_enter`` it keeps it
    also while it is empty. Ctrl+Z is its own only while there is something typed to take back."""

    keeps_enter = False

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        types = event.text().isprintable() and bool(event.text())
        enter = not types and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter)
        mine = enter and (bool(self.text()) or self.keeps_enter)
        super().keyPressEvent(event)
        if mine:
            event.accept()

    def event(self, event: QEvent | None) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.ShortcutOverride:
            undo, redo = QKeySequence.StandardKey.Undo, QKeySequence.StandardKey.Redo
            nothing = not self.isUndoAvailable() and event.matches(undo)
            if nothing or (not self.isRedoAvailable() and event.matches(redo)):
                event.ignore()
                return True
        return super().event(event)
