"""The list of tools as a file: what the filter finds, as it is sorted."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QFileDialog, QWidget

from reckoner.core.translation import tr
from reckoner.shop.register.exporting import list_file
from reckoner.shop.register.lists import Sorting
from reckoner.ui.layout import column
from reckoner.ui.place import Surroundings
from reckoner.ui.widgets.buttons import button
from reckoner.ui.work import call

if TYPE_CHECKING:
    pass


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
        chosen, _kind = QFileDialog.getSaveFileName(self, tr("Save the list of tools"), "tools.xlsx", kinds)
        if chosen:
            self.save(Path(chosen))

    def save(self, path: Path) -> None:
        """Write the tools that the filter finds into a file."""
        (text, sorting), today = self._asked(), self._around.today

        self._around.work.prepare(
            call(list_file, text, today, sorting, path),
            lambda count: self._around.say(tr("{count} tools are in {path}.", count=count, path=path)),
        )
