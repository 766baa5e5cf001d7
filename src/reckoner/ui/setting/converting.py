"""Anything converted as one types; and a weight on a lever, with the tool that is named beside it: what it makes, what to
set, and a press that begins with it."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QWidget

from reckoner.core.translation import tr
from reckoner.shop.using.converting import converted
from reckoner.shop.using.simplesum import HungSum, hung_sum
from reckoner.ui.latest import LatestQuery
from reckoner.ui.layout import column, row
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.text import label
from reckoner.ui.window.destinations import hung_target
from reckoner.ui.work import call


class Converting(QWidget):
    """``tool_id()`` is the tool that is named for the setting; None where none is."""

    def __init__(self, around: Surroundings, tool_id: Callable[[], int | None]) -> None:
        super().__init__()
        self._around, self._tool_id = around, tool_id
        self._asking = LatestQuery(around.work)
        self._hung: HungSum | None = None
        theme = around.theme
        self.typed = EntryField(
            theme,
            tr("Convert anything, or say what you have"),
            words_reader,
            tr("such as 59 lbf·ft, or 20 lb at 12 in"),
        )
        self.typed.line.textChanged.connect(self.refresh)
        self.typed.given.connect(lambda _words: self.begin_with())
        self.told = label(theme, "", Type.BODY, wrap=True)
        self.begin = button(theme, "", self.begin_with)
        self.begin.hide()
        self.setLayout(column(self.typed, self.told, row(self.begin, 1), gap=2))

    def refresh(self) -> None:
        """What is typed, or the tool beside it, is another."""
        text = self.typed.text
        self._show_sum(None)
        self.told.setText("\n".join(converted(text)))
        self._asking.look(call(hung_sum, text, self._tool_id()), self._show_sum)

    def _show_sum(self, found: HungSum | None) -> None:
        self._hung = found
        self.begin.setVisible(found is not None and not found.why_not)
        if found is not None:
            self.told.setText("\n".join(found.words))
            self.begin.setText(tr("Begin with it") if found.wish is not None else tr("What to set for it"))

    def begin_with(self) -> None:
        """To the bench with it, or to what is to be set for it."""
        if self._hung is not None and not self._hung.why_not:
            self._around.go(hung_target(self._hung))
