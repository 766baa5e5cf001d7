"""What lies over the place in front while it is open: asking what happened to a tool."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtWidgets import QWidget

from reckoner.core.translation import tr
from reckoner.ui.place import Place, Surroundings

if TYPE_CHECKING:
    from reckoner.ui.window.reporting import ReportPanel


class Drawer(QObject):
    """Lies over ``below``, whose place in front is ``place()``; made when it is first opened."""

    def __init__(self, below: QWidget, around: Surroundings, place: Callable[[], Place]) -> None:
        super().__init__(below)
        self._below, self._around, self._place = below, around, place
        self._report: ReportPanel | None = None

    @property
    def in_front(self) -> Place:
        """What the keys belong to: what lies over the place, else the place."""
        over = self._report
        return over if over is not None and over.isVisible() else self._place()

    def report(self, tool_id: int) -> None:
        """Ask what happened to a tool."""
        if self._report is None:
            from reckoner.ui.window.reporting import ReportPanel  # only when it is wanted

            self._report = ReportPanel(self._around, self._below)
            self._below.installEventFilter(self)
        self._report.open_for(tool_id)

    def ask(self) -> None:
        """The same of the tool in front."""
        tool_id = self._place().tool_in_front
        if tool_id is None:
            self._around.say(tr("Choose a tool first: its tag, its sheet, or at the top line: “0417 fell”."))
        else:
            self.report(tool_id)

    def hide(self) -> None:
        """Close it."""
        if self._report is not None:
            self._report.hide()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """It keeps to its side of what is below."""
        if event is not None and event.type() == QEvent.Type.Resize and self._report is not None:
            self._report.place_over()
        return super().eventFilter(watched, event)
