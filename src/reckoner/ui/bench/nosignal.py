"""A pull that never gave a signal: kept as what it is, how far it went."""

from __future__ import annotations

from reckoner.core.printing import number
from reckoner.core.translation import tr
from reckoner.core.units import N_M
from reckoner.shop.procedure import Seen
from reckoner.shop.runs import taking
from reckoner.shop.runs.records import NOTHING
from reckoner.shop.runs.state import RunState
from reckoner.store.terms import ObservationKind, Source
from reckoner.ui.bench.panel import Desk
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, torque_reader
from reckoner.ui.work import call


class NoSignal(EntryField[float]):
    """Asks how far it was pulled; hidden until ``never``, which stands beside the field for readings, is pressed. ``back``
    takes the focus afterwards."""

    def __init__(self, desk: Desk, back: EntryField[float]) -> None:
        super().__init__(desk.around.theme, tr("Pulled up to, without a signal"), torque_reader(N_M))
        self._desk, self._back = desk, back
        self._run: RunState | None = None
        self.never = button(desk.around.theme, tr("It never signals…"), self._ask_how_far, "link")
        self.given.connect(self._without_signal)
        self.hide()

    def show_run(self, run: RunState) -> None:
        """Ask of this run."""
        if self._run is None or self._run.id != run.id:
            self.hide()
            self.read_with(torque_reader(run.tool.unit))
        self._run = run
        self.never.setVisible(run.tool.kind.is_setting and run.current is not None and self.isHidden())

    def _ask_how_far(self) -> None:
        run, silent = self._run, self._desk.taker.feedback.silent_to
        self.show()
        self.never.hide()
        if run is not None and silent is not None:
            self.line.setText(f"{number(run.tool.unit.from_si(silent))} {run.tool.unit.symbol}")
            self.line.selectAll()
        self.setFocus()

    def _without_signal(self, torque: float) -> None:
        run = self._run
        if run is None:
            return
        seen = Seen(ObservationKind.NO_SIGNAL, torque, Source.TYPED, detail=NOTHING)

        def kept() -> None:
            self.clear()
            self.hide()
            self.never.show()
            self._back.setFocus()

        self._desk.do(call(taking.observe, run.id, seen, self._desk.around.act(), run), done=kept, refused=self.refuse)
