"""What the tool's own display showed of the last pull: typed, or brought by the tool's link.

What is typed of a reference, read as the torque that it means.
"""

from __future__ import annotations

from functools import partial

from reckoner.core.quantities.units import N_M
from reckoner.core.translation import tr
from reckoner.shop.runs.state import RunState
from reckoner.ui.bench.panel import Action, BenchAccess
from reckoner.ui.widgets.entry import EntryField, TextReader, torque_reader


class ShownField(EntryField[float]):
    """Stands beside the field for readings, ``back``, where each pull is two numbers. ``awaited``: a pull waits for it."""

    def __init__(self, desk: BenchAccess, back: EntryField[float]) -> None:
        super().__init__(desk.around.theme, tr("The tool showed"), torque_reader(N_M))
        self._back = back
        self._run: RunState | None = None
        self.awaits_number = True
        self.given.connect(lambda value: desk.taker.typed_shown(value, self.clear, self.refuse))
        self.hide()

    @property
    def awaited(self) -> bool:
        return self._run is not None and self._run.awaiting is not None

    def show_run(self, run: RunState) -> None:
        """Take the focus where a pull has come that waits for it, and give it back."""
        waited, before = self.awaited, self._run
        if before is None or before.id != run.id:
            self.read_with(torque_reader(run.tool.unit))
            self.clear()
        self._run = run
        self.setVisible(run.paired and run.current is not None)
        if self.isVisible() and self.awaited is not waited:
            (self if self.awaited else self._back).setFocus()

    def action(self) -> Action:
        """What is offered while a pull waits."""
        return Action(tr("Take what it showed"), self._ask)

    def _ask(self) -> None:
        if self.text.strip():
            self.line.returnPressed.emit()
        else:
            self.setFocus()


def reading_reader(run: RunState) -> TextReader[float]:
    """Reads what the reference of a run shows: a torque, or a force that the lever makes one."""
    unit = run.tool.unit
    return torque_reader(unit) if run.reference is None else partial(run.reference.read, unit=unit)
