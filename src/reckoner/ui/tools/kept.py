"""Filters that are kept: one press each; a new one is kept from what stands in the filter."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.core.translation import tr
from reckoner.shop.register.filters import forget_filter, keep_filter, kept_filters
from reckoner.ui.layout import column
from reckoner.ui.place import Surroundings
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.work import call


class KeptFilters(QWidget):
    """The filters; ``keep`` is the button that keeps or forgets, to be put beside them. Signal ``chosen(words)``: filter by
    these; empty where the one that stood is let go of."""

    chosen = pyqtSignal(str)

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._text = ""
        self.filters: tuple[str, ...] = ()
        self.chips = Chips(around.theme, tr("Filters that are kept"), several=True)
        self.chips.chosen.connect(self._pressed)
        self.keep = button(around.theme, tr("Keep this filter"), self._keep, "link")
        self.setLayout(column(self.chips, gap=0))
        self._dress()

    def look_again(self) -> None:
        """Ask which there are."""
        self._around.work.look(kept_filters, self._show)

    def show_text(self, text: str) -> None:
        """What stands in the filter."""
        self._text = " ".join(text.split())
        self._dress()

    def _show(self, filters: tuple[str, ...]) -> None:
        if filters != self.filters:
            self.filters = filters
            self.chips.offer([(words, words) for words in filters], [])
        self._dress()

    def _dress(self) -> None:
        is_kept = self._text in self.filters
        self.chips.choose(self._text if is_kept else "")
        self.setVisible(bool(self.filters))
        self.keep.setText(tr("Forget this filter") if is_kept else tr("Keep this filter"))
        self.keep.setVisible(bool(self._text))

    def _pressed(self) -> None:
        """The one that was pressed; the one that stands already is let go of."""
        pressed = [words for words in self.chips.on if words != self._text]
        self.chosen.emit(pressed[0] if pressed else "")

    def _keep(self) -> None:
        if self._around.person is None:
            self._around.say(tr("Choose who is at the bench first, at the top right."))
            return
        words, act = self._text, self._around.act()
        change = call(forget_filter, words, act) if words in self.filters else call(keep_filter, words, act)
        self._around.work.ask(change, lambda _none: self.look_again())
