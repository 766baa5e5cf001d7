"""Taking what the tool or a meter has stored as the measured torques of a job."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal

from reckoner.core.quantities.printing import quantity
from reckoner.core.quantities.units import Unit
from reckoner.core.translation import tr
from reckoner.shop.using.working import open_ones
from reckoner.shop.using.works import WorkState
from reckoner.ui.files import SHOWN, ValuesFile
from reckoner.ui.layout import column, row
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.text import label


class StoredMeasures(ValuesFile):
    """Signals ``taken(values)`` with (line, N·m) of each, and ``refused(words)``."""

    taken = pyqtSignal(object)
    refused = pyqtSignal(str)

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around, tr("the tool or a meter"))
        self._state: WorkState | None = None
        theme = around.theme
        self.columns = Chips(theme, tr("Which column"))
        self.columns.chosen.connect(self._say)
        self.told = label(theme, "", Type.BODY, wrap=True)
        self.take_button = button(theme, tr("Take them"), self._take)
        leave = button(theme, tr("Leave them"), lambda: self._open(on=False), "link")
        self.setLayout(column(self.columns, self.told, row(self.take_button, leave, 1, gap=2), gap=1))

    def show_state(self, state: WorkState) -> None:
        """Of another job, or another pass, what was chosen before is over."""
        if self._state is None or self._state.id != state.id or not open_ones(state):
            self._open(on=False)
        self._state = state
        self.button.setVisible(bool(open_ones(state)))
        self._say()

    def unit(self) -> Unit | None:
        return self._state.card.unit if self._state is not None else None

    def _refuse(self, words: str) -> None:
        self.refused.emit(words)

    def _found(self) -> None:
        self._offer(self.columns)
        self._say()

    def _say(self) -> None:
        """What would be taken, and where it would go."""
        state, chosen = self._state, self._column(self.columns)
        if state is None or chosen is None:
            return
        pairs = [
            f"{state.name(fastener)}: {quantity(value, state.card.unit)}"
            for fastener, (_line, value) in zip(open_ones(state), chosen.values, strict=False)
        ]
        more = tr(" … {count} in all", count=len(pairs)) if len(pairs) > SHOWN else ""
        over = len(chosen.values) - len(pairs)
        left = tr(" {over} are over and are left.", over=over) if over > 0 else ""
        self.told.setText(
            tr(
                "{list}{more} (read in {read_in}).{left}",
                list=", ".join(pairs[:SHOWN]),
                more=more,
                read_in=self._read_in(chosen),
                left=left,
            )
        )
        self.take_button.setText(tr("Take {count} in this order", count=len(pairs)))

    def _take(self) -> None:
        if (chosen := self._column(self.columns)) is not None:
            self.taken.emit(chosen.values)
