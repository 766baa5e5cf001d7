"""Striking the last reading, asked inline so that no dialog stands in the way of a pull."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from reckoner.ui.bench.taker import Taker, fault_words
from reckoner.ui.layout import row
from reckoner.ui.theme import Theme
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, words_reader


class Striking(QWidget):
    """Hidden until it asks why; the faults that the trace showed are filled in. ``back`` takes the focus afterwards."""

    def __init__(self, theme: Theme, taker: Taker, back: QWidget) -> None:
        super().__init__()
        self._taker = taker
        self._back = back
        self.why = EntryField(theme, "Why is it struck?", words_reader, "such as: pulled too fast")
        self.why.given.connect(self._strike)
        self.setLayout(row(self.why, button(theme, "Keep it", self._keep), gap=2))
        self.hide()

    def ask(self) -> None:
        self.show()
        self.why.line.setText(fault_words(self._taker.feedback.faults))
        self.why.line.selectAll()
        self.why.setFocus()

    def _keep(self) -> None:
        self.hide()
        self._back.setFocus()

    def _strike(self, reason: object) -> None:
        self._keep()
        self._taker.strike(str(reason))
