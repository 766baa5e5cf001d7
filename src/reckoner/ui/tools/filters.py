"""Filters that are kept: one press each; a new one is kept from what stands in the filter.

The list of tools as a file: what the filter finds, as it is sorted.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.core.translation import tr
from reckoner.shop.register.filters import forget_filter, keep_filter, kept_filters, list_file
from reckoner.shop.register.lists import Sorting
from reckoner.ui.files import FileKind, ask_where
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
        self._update_state()

    def refresh(self) -> None:
        """Ask which there are."""
        self._around.work.look(kept_filters, self._show_filters)

    def show_text(self, text: str) -> None:
        """What stands in the filter."""
        self._text = " ".join(text.split())
        self._update_state()

    def _show_filters(self, filters: tuple[str, ...]) -> None:
        if filters != self.filters:
            self.filters = filters
            self.chips.offer([(words, words) for words in filters], [])
        self._update_state()

    def _update_state(self) -> None:
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
        self._around.work.ask(change, lambda _none: self.refresh())


class SaveList(QWidget):
    """``asked`` says what the list is filtered by, and how it is sorted."""

    def __init__(self, around: Surroundings, asked: Callable[[], tuple[str, Sorting]]) -> None:
        super().__init__()
        self._around, self._asked = around, asked
        self.button = button(around.theme, tr("Save list…"), self._ask_where, "link")
        self.button.setToolTip(tr("The tools that the filter finds, as CSV or XLSX"))
        self.setLayout(column(self.button, gap=0))

    def _ask_where(self) -> None:
        kinds = "Spreadsheets (*.xlsx *.csv)"
        name = tr("tools {today}.xlsx", today=self._around.today)
        title = tr("Save the list of tools")
        if (path := ask_where(self._around, self, FileKind.TABLE, title, name, kinds)) is not None:
            self.save(path)

    def save(self, path: Path) -> None:
        """Write the tools that the filter finds into a file."""
        (text, sorting), today = self._asked(), self._around.today

        self._around.work.prepare(
            call(list_file, text, today, sorting, path),
            lambda count: self._around.saved(tr("{count} tools are in {path}.", count=count, path=path), path),
        )
