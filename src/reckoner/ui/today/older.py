"""That an older database stands where a newer one was: which of them is right is asked until somebody says so."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QWidget

from reckoner.core.translation import tr
from reckoner.ui import daily
from reckoner.ui.layout import column, row, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.text import label


class OlderNotice(QWidget):
    """Hidden where the database is the newest that is known. ``told`` is called once it is said that it is the right one."""

    def __init__(self, around: Surroundings, told: Callable[[], None]) -> None:
        super().__init__()
        self._around = around
        self._told = told
        self.words = label(around.theme, "", Type.STRONG, "fault", wrap=True)
        self.look_button = button(around.theme, tr("What it has, and put it back…"), self._look)
        self.go_on_button = button(around.theme, tr("This one is right: go on"), self._go_on)
        deeds = row(self.look_button, self.go_on_button, 1, gap=2)
        self.setLayout(column(surface(column(self.words, deeds, gap=1, margin=2))))
        self.hide()

    def show_older(self) -> None:
        """What is known now."""
        older = self._around.older
        self.words.setText(older.words if older is not None else "")
        self.setVisible(older is not None)

    def _look(self) -> None:
        if self._around.older is not None:
            self._around.go(Target(PlaceId.RECORDS, backup=self._around.older.path))

    def _go_on(self) -> None:
        daily.go_on_with_this_one(self._around, self._told)
