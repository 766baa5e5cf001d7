"""Taking what the tool or a meter has stored as the measured torques of a job, from its spreadsheet."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QWidget

from reckoner.core.printing import quantity
from reckoner.formats.stored_values import ValueColumn, read_values
from reckoner.shop.using.storedmeasures import open_ones
from reckoner.shop.using.works import WorkState
from reckoner.store.reader import Reader
from reckoner.ui.layout import column, row
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.text import label

SHOWN = 6
"""Values that are shown of a column."""


class StoredMeasures(QWidget):
    """Hidden until a file was chosen by ``button``. Signals ``taken(values)`` with (line, N·m) of each, and
    ``refused(words)``."""

    taken = pyqtSignal(object)
    refused = pyqtSignal(str)

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._state: WorkState | None = None
        self._columns: tuple[ValueColumn, ...] = ()
        theme = around.theme
        self.button = button(theme, "Stored values…", self._ask, "link")
        self.button.setToolTip("Take what the tool or a meter has stored, from its spreadsheet download")
        self.columns = Chips(theme, "Which column")
        self.columns.chosen.connect(self._say)
        self.told = label(theme, "", Type.BODY, wrap=True)
        self.take_button = button(theme, "Take them", self._take)
        leave = button(theme, "Leave them", self.hide, "link")
        self.setLayout(column(self.columns, self.told, row(self.take_button, leave, 1, gap=2), gap=1))
        self.hide()

    def show_state(self, state: WorkState) -> None:
        """Of another job, or another pass, what was chosen before is over."""
        if self._state is None or self._state.id != state.id or not open_ones(state):
            self.hide()
        self._state = state
        self.button.setVisible(bool(open_ones(state)))
        self._say()

    def _ask(self) -> None:
        chosen, _kind = QFileDialog.getOpenFileName(
            self, "What the tool or a meter has stored", "", "Spreadsheets (*.csv *.xlsx *.txt)"
        )
        if chosen:
            self.read(Path(chosen))

    def read(self, path: Path) -> None:
        """Read a file, away from the window."""
        state = self._state
        if state is None:
            return
        unit = state.card.unit

        def read(_reader: Reader) -> tuple[ValueColumn, ...]:
            return read_values(path, unit)

        self._around.work.look(read, self._show, lambda refusal: self.refused.emit(str(refusal)))

    def _show(self, found: tuple[ValueColumn, ...]) -> None:
        self._columns = found
        self.columns.offer([(str(i), one.name or f"column {i + 1}") for i, one in enumerate(found)], ["0"])
        self.show()
        self._say()

    def _say(self) -> None:
        """What would be taken, and where it would go."""
        state = self._state
        if state is None or not self._columns or not self.columns.one:
            return
        chosen, unit = self._columns[int(self.columns.one)], state.card.unit
        fasteners = open_ones(state)
        pairs = [
            f"{state.name(f)}: {quantity(value, unit)}"
            for f, (_line, value) in zip(fasteners, chosen.values, strict=False)
        ]
        more = f" … {len(pairs)} in all" if len(pairs) > SHOWN else ""
        read_in = chosen.unit.symbol if chosen.unit is not None else f"{unit.symbol}, for its heading says none"
        over = len(chosen.values) - len(pairs)
        left = f" {over} are over and are left." if over > 0 else ""
        self.told.setText(f"{', '.join(pairs[:SHOWN])}{more} (read in {read_in}).{left}")
        self.take_button.setText(f"Take {len(pairs)} in this order")

    def _take(self) -> None:
        if self._columns and self.columns.one:
            self.taken.emit(self._columns[int(self.columns.one)].values)
