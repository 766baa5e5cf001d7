"""A reading that is far off, asked about once; and a pull that never gave a signal: kept as what they are."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtWidgets import QWidget
from sqlalchemy.orm import Session

from reckoner.core.printing import number
from reckoner.core.units import N_M
from reckoner.shop.acts import Act
from reckoner.shop.procedures.base import Seen
from reckoner.shop.runs import taking
from reckoner.shop.runs.records import NOTHING
from reckoner.shop.runs.state import RunState
from reckoner.shop.wording import settable, torque_figure
from reckoner.store.terms import ObservationKind, Source
from reckoner.ui.bench.panel import Desk
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, torque_reader
from reckoner.ui.widgets.text import label

THE_HAND = "far off: the hand, or the setting"
"""Why a reading is struck that a person has said was not the tool's."""


class Unsure(QWidget):
    """Stands below the field while there is something to ask; ``never`` stands beside it. ``back`` takes the focus
    afterwards."""

    def __init__(self, desk: Desk, back: EntryField) -> None:
        super().__init__()
        self._desk, self._back = desk, back
        self._run: RunState | None = None
        self._seen: Seen | None = None
        theme = desk.around.theme
        self.question = label(theme, "", Type.STRONG, wrap=True)
        self.tool = button(theme, "Yes: keep it, it is the tool", lambda: self._keep(strike=False))
        self.hand = button(theme, "No: the hand, or the setting", lambda: self._keep(strike=True))
        self._asking = QWidget()
        self._asking.setLayout(column(self.question, row(self.tool, self.hand, 1, gap=1), gap=1))
        self.never = button(theme, "It never signals…", self._ask_how_far, "link")
        self.up_to = EntryField(theme, "Pulled up to, without a signal", torque_reader(N_M))
        self.up_to.given.connect(lambda value: self._without_signal(float(str(value))))
        self.setLayout(column(self._asking, self.up_to, gap=1))
        self._asking.hide()
        self.up_to.hide()
        desk.taker.told.connect(self._told)

    def show_run(self, run: RunState) -> None:
        """Ask of this run; what was asked of a reading that has come since is over."""
        if self._run is None or self._run.id != run.id:
            self.up_to.hide()
            self._asking.hide()
            self.up_to.read_with(torque_reader(run.tool.unit))
        self._run = run
        self.never.setVisible(run.tool.kind.is_setting and run.current is not None and self.up_to.isHidden())

    def _told(self) -> None:
        run, told = self._run, self._desk.taker.feedback
        self._seen = told.unsure
        series = run.current if run is not None else None
        seen = told.unsure
        self._asking.setVisible(run is not None and series is not None and seen is not None)
        if run is None or series is None or seen is None:
            return
        unit = run.tool.unit
        of_tool = seen.kind is ObservationKind.SHOWN
        self.hand.setText("No: type it again" if of_tool else "No: the hand, or the setting")
        if of_tool and run.awaiting is not None and run.awaiting.torque is not None and seen.tool_value is not None:
            showed, read = (torque_figure(run, torque) for torque in (seen.tool_value, run.awaiting.torque))
            self.question.setText(f"Did the tool show {showed} {unit.symbol} where {read} was read?")
        elif told.unsure is not None and told.unsure.torque is not None:
            shown, aim = torque_figure(run, told.unsure.torque), settable(run.tool.kind, series.target, unit)
            self.question.setText(
                f"{shown} {unit.symbol} is far from {aim}. Is it set to {aim}, and was that its pull?"
            )

    def _keep(self, *, strike: bool) -> None:
        """The person has said whose it is: it is kept, and struck where it was not the tool's."""
        run, seen = self._run, self._seen
        if run is None or seen is None:
            return
        if strike and seen.kind is ObservationKind.SHOWN:
            self._over()
            return
        sure = replace(seen, sure=True)

        def deed(session: Session, act: Act) -> RunState:
            taken = taking.observe(session, run.id, sure, act, run)
            if not strike:
                return taken
            newest = max(o.id for s in taken.all_series for o in s.observations)
            return taking.strike(session, run.id, (newest,), THE_HAND, act)

        self._desk.do(deed, done=self._over, refused=self._desk.taker.notice)

    def _over(self) -> None:
        self._seen = None
        self._asking.hide()
        self._back.clear()
        self._back.setFocus()

    def _ask_how_far(self) -> None:
        run, silent = self._run, self._desk.taker.feedback.silent_to
        self.up_to.show()
        self.never.hide()
        if run is not None and silent is not None:
            self.up_to.line.setText(f"{number(run.tool.unit.from_si(silent))} {run.tool.unit.symbol}")
            self.up_to.line.selectAll()
        self.up_to.setFocus()

    def _without_signal(self, torque: float) -> None:
        run = self._run
        if run is None:
            return
        seen = Seen(ObservationKind.NO_SIGNAL, torque, Source.TYPED, detail=NOTHING)

        def kept() -> None:
            self.up_to.clear()
            self.up_to.hide()
            self.never.show()
            self._back.setFocus()

        self._desk.do(
            lambda session, act: taking.observe(session, run.id, seen, act, run), done=kept, refused=self.up_to.refuse
        )
