"""What stands at the right of the list of tools: the chosen one's sheet, adding tools, or bringing a spreadsheet in."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QStackedWidget, QWidget

from reckoner.ui.place import Surroundings
from reckoner.ui.places import DESCRIBE, Target

if TYPE_CHECKING:
    from reckoner.core.quantities.units import Unit
    from reckoner.ui.register.newtools import NewTools
    from reckoner.ui.tools.beamscale import BeamScaleSheet
    from reckoner.ui.tools.bringing import Bringing


class RightSide(QStackedWidget):
    """Shows ``paper`` once there is something on it. Signals ``added(tool_id)`` when a tool was added, 0 when many were
    brought in."""

    added = pyqtSignal(int)

    def __init__(self, around: Surroundings, paper: QWidget) -> None:
        super().__init__()
        self._around, self._paper = around, paper
        self._nothing = QWidget()
        self.addWidget(self._nothing)
        self.addWidget(paper)
        self.new_tools: NewTools | None = None
        self.bringing: Bringing | None = None
        self.beam: BeamScaleSheet | None = None
        self._asked: Target | None = None
        self._written_on = False

    def begin_adding(self, asked: Target | None = None) -> None:
        """Show what adds tools; the first of those that were ``asked`` for by their number is put on the bench."""
        describes = asked is not None and asked.page == DESCRIBE
        self._adder().begin(asked.number if asked is not None else "", describes=describes)
        self._asked = asked

    def begin_like(self, tool_id: int, model_id: int, number: str) -> None:
        """Show what adds another one like a tool."""
        self._adder().begin("", tool_id, model_id, number)

    def begin_bringing(self) -> None:
        """Show what brings a spreadsheet in, and ask for the file."""
        self.show_bringing().ask()

    def show_bringing(self) -> Bringing:
        """What brings a spreadsheet in, in front."""
        if self.bringing is None:
            from reckoner.ui.tools.bringing import Bringing  # only when it is wanted

            self.bringing = Bringing(self._around)
            self.bringing.brought.connect(self._brought)
            self.bringing.left.connect(self.leave)
            self.addWidget(self.bringing)
        self.setCurrentWidget(self.bringing)
        return self.bringing

    def begin_scale(self, tool_id: int, number: str, unit: Unit) -> None:
        """Show what marks a tool's scale anew."""
        if self.beam is None:
            from reckoner.ui.tools.beamscale import BeamScaleSheet  # only when it is wanted

            self.beam = BeamScaleSheet(self._around)
            self.beam.left.connect(self.leave)
            self.addWidget(self.beam)
        self.beam.open_for(tool_id, number, unit)
        self.setCurrentWidget(self.beam)

    def show_paper(self, *, written_on: bool) -> None:
        """There is a sheet to show, or none any more; what is being added stays in front."""
        self._written_on = written_on
        if not self.is_adding or self.currentWidget() is self.beam:
            self.leave()

    def leave(self) -> None:
        """Back to the sheet."""
        self._asked = None
        self.setCurrentWidget(self._paper if self._written_on else self._nothing)

    @property
    def is_adding(self) -> bool:
        """Whether tools are being added or brought in."""
        return self.currentWidget() not in (self._paper, self._nothing)

    def primary(self) -> bool:
        """Add or bring in what stands there; False when nothing is."""
        if self.bringing is not None and self.currentWidget() is self.bringing:
            self.bringing.bring()
        elif self.new_tools is not None and self.currentWidget() is self.new_tools:
            self.new_tools.add()
        else:
            return False
        return True

    def _adder(self) -> NewTools:
        if self.new_tools is None:
            from reckoner.ui.register.newtools import NewTools  # only when it is wanted

            self.new_tools = NewTools(self._around)
            self.new_tools.added.connect(self._added)
            self.new_tools.left.connect(self.leave)
            self.addWidget(self.new_tools)
        self.setCurrentWidget(self.new_tools)
        return self.new_tools

    def _added(self, ids: tuple[int, ...]) -> None:
        asked = self._asked
        self.leave()
        if asked is not None:
            self._around.go(asked.to_bench(ids[0]))
        else:
            self.added.emit(ids[0])

    def _brought(self) -> None:
        self.leave()
        self.added.emit(0)
