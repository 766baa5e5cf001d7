"""A held tool used with correction: what is asked before its owner allows it, and until when."""

from __future__ import annotations

from datetime import date

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import InputRefused, Refused
from reckoner.core.quantities.days import long_day, read_coming
from reckoner.core.translation import tr
from reckoner.shop.using.correcting import allow
from reckoner.ui.latest import OneAtATime
from reckoner.ui.layout import column, row
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

WORDS = tr("It is held. Its owner may let it be used with correction, inside the range that was measured, until a day.")


class Correcting(QWidget):
    """Shown for a held tool. Signal ``allowed(words)`` once it is."""

    allowed = pyqtSignal(str)

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._doing = OneAtATime(around.work)
        self._tool: int | None = None
        theme = around.theme
        self.until = EntryField(theme, tr("Until"), self._read, tr("such as in 2 weeks"))
        self.why = EntryField(theme, tr("Why"), words_reader, tr("such as no other until the new one comes"))
        self.button = button(theme, tr("Allow it with correction"), self._allow)
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.setLayout(
            column(
                label(theme, WORDS, Type.BODY, wrap=True), self.until, self.why, row(self.button, 1), self.fault, gap=1
            )
        )

    def _read(self, text: str) -> tuple[date, str]:
        day = read_coming(text, self._around.today)
        return day, tr("understood: {day}", day=long_day(day))

    def open_for(self, tool_id: int | None) -> None:
        """For a held tool; None hides it."""
        self.setVisible(tool_id is not None)
        if tool_id != self._tool:
            self._tool = tool_id
            self.until.clear()
            self.why.clear()
            self.fault.setText("")

    def _allow(self) -> None:
        tool_id = self._tool
        if tool_id is None:
            return
        if self._around.person is None:
            self.fault.setText(tr("Choose who is here first, at the top right."))
            return
        try:
            until = self.until.value()
        except InputRefused as refusal:
            self.until.refuse(refusal.reason)
            return
        act, why = self._around.act(), self.why.text
        self._doing.ask(call(allow, tool_id, until, why, act), self.allowed.emit, self._refused)

    def _refused(self, refusal: Refused) -> None:
        self.fault.setText(str(refusal))
