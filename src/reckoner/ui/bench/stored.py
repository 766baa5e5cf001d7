"""Taking what a meter or a tool has stored, from its spreadsheet: columns chosen, shown where they go, taken together."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QWidget

from reckoner.core.printing import quantity
from reckoner.formats.stored_values import ValueColumn, read_values
from reckoner.shop.runs import storedvalues
from reckoner.shop.runs.state import RunState
from reckoner.shop.wording import at_target, torque_figure
from reckoner.store.reader import Reader
from reckoner.ui.bench.panel import Desk
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.text import label

SHOWN = 6
"""Values that are shown of a column."""


class Stored(QWidget):
    """Hidden until a file was chosen by ``button``. Signal ``opened(on)``: it wants the room of what stands beside it, or
    gives it back."""

    opened = pyqtSignal(bool)

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._run: RunState | None = None
        self._columns: tuple[ValueColumn, ...] = ()
        theme = desk.around.theme
        self.button = button(theme, "Stored values…", self._ask, "link")
        self.button.setToolTip("Take what the meter has stored, from its spreadsheet download")
        self.meter = Chips(theme, "The meter's column")
        self.tool = Chips(theme, "The tool's column")
        for chips in (self.meter, self.tool):
            chips.chosen.connect(self._say)
        self._tool_title = label(theme, "The tool showed", Type.STRONG, "quiet")
        self.told = label(theme, "", Type.BODY, wrap=True)
        self.take_button = button(theme, "Take them in this order", self.take)
        self.setLayout(
            column(
                label(theme, "The meter read", Type.STRONG, "quiet"), self.meter, self._tool_title, self.tool, self.told,
                row(self.take_button, button(theme, "Leave them", lambda: self._open(on=False), "link"), 1, gap=2), gap=1,
            )
        )  # fmt: skip
        self.hide()

    def show_run(self, run: RunState) -> None:
        """Of another run, what was chosen before is over."""
        if self._run is None or self._run.id != run.id or run.current is None:
            self._open(on=False)
        self._run = run
        self.button.setVisible(run.current is not None and run.procedure.one_pull_tells)

    def _ask(self) -> None:
        chosen, _kind = QFileDialog.getOpenFileName(
            self, "What the meter has stored", "", "Spreadsheets (*.csv *.xlsx *.txt)"
        )
        if chosen:
            self.read(Path(chosen))

    def read(self, path: Path) -> None:
        """Read a file, away from the window."""
        run = self._run
        if run is None:
            return
        unit = run.tool.unit

        def read(_reader: Reader) -> tuple[ValueColumn, ...]:
            return read_values(path, unit)

        self._desk.around.work.look(read, self._show, lambda refusal: self._desk.fault(str(refusal)))

    def _show(self, found: tuple[ValueColumn, ...]) -> None:
        run = self._run
        if run is None:
            return
        self._columns = found
        names = [(str(i), one.name or f"column {i + 1}") for i, one in enumerate(found)]
        self.meter.offer(names, ["0"])
        self.tool.offer(names, [str(min(1, len(found) - 1))])
        for widget in (self.tool, self._tool_title):
            widget.setVisible(run.paired)
        self._open(on=True)
        self._say()

    def _open(self, *, on: bool) -> None:
        self.setVisible(on)
        self.opened.emit(on)

    def _say(self) -> None:
        """What would be taken, and where it would go."""
        run = self._run
        if run is None or not self._columns:
            return
        chosen = self._columns[int(self.meter.one)]
        values = ", ".join(torque_figure(run, torque) for _line, torque in chosen.values[:SHOWN])
        more = " …" if len(chosen.values) > SHOWN else ""
        unit = chosen.unit.symbol if chosen.unit is not None else f"{run.tool.unit.symbol}, for its heading says none"
        goes = storedvalues.fills(run, len(chosen.values))
        where = ", ".join(f"{count} at {at_target(target, run.tool.unit)}" for target, count in goes)
        taken = sum(count for _target, count in goes)
        left = f"; {len(chosen.values) - taken} are over and are left" if taken < len(chosen.values) else ""
        first = quantity(chosen.values[0][1], run.tool.unit)
        self.told.setText(f"{values}{more} (read in {unit}; the first is {first}). They go: {where}{left}.")
        self.take_button.setText(f"Take {taken} in this order")

    def take(self) -> None:
        """All of them, or none."""
        run = self._run
        if run is None or not self._columns:
            return
        meter, tool = (self._columns[int(chips.one)].values for chips in (self.meter, self.tool))
        self._desk.do(
            lambda session, act: storedvalues.take(session, run, meter, tool, act),
            done=lambda: self._open(on=False),
            refused=self._desk.fault,
        )
