"""As found and as left with known weights: what is asked, drawn as it hangs, and what was found so far."""

from __future__ import annotations

from PyQt6.QtCore import QEvent
from PyQt6.QtGui import QKeyEvent, QResizeEvent

from reckoner.core.quantities.printing import number, percent
from reckoner.core.translation import tr
from reckoner.shop.procedures.tries import TripFinding
from reckoner.shop.procedures.weights import finding_of, hanging_cautions
from reckoner.shop.runs.noted import NotedTry, keep_noted, read_noted
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import newest
from reckoner.shop.setups.hanging import HungAt, LeverFacts
from reckoner.shop.words.results import settable
from reckoner.store.terms import ObservationKind
from reckoner.ui.bench.panel import Action, BenchAccess, Panel
from reckoner.ui.bench.series.answering import Answering
from reckoner.ui.bench.series.striking import Striking
from reckoner.ui.drawings.lever import LeverDrawing
from reckoner.ui.drawings.levershape import LeverState
from reckoner.ui.layout import column, keep_room, row, surface
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.cautions import Cautions
from reckoner.ui.widgets.entry import EntryField
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call


class TrippingPanel(Panel):
    """``asks`` says the next try and takes its answer."""

    def __init__(self, desk: BenchAccess) -> None:
        super().__init__(desk)
        self._run: RunState | None = None
        theme = self.theme
        self.asks = Answering(desk)
        self.drawing = LeverDrawing(theme, still=True)
        self.cautions = Cautions(theme, hanging_cautions(None))
        self.striking = Striking(theme, desk.taker, self)
        self._strike = button(theme, tr("Strike the last"), self.ask_strike)
        keep_room(self._strike)
        self.noted = EntryField(theme, tr("Noted by hand at this point"), noted_reader, tr("such as 48 c, 52 s, 50 c"))
        self.noted.given.connect(self._keep_noted)
        self.noted.hide()
        self._note = button(theme, tr("Enter what was noted…"), self._ask_noted, "link")
        self.found = label(theme, "", Type.BODY, wrap=True)
        foot = row(self.found, self._note, self._strike, gap=2)
        foot.setStretch(0, 1)
        drawn = surface(column(self.drawing, foot, self.noted, self.striking, gap=1, margin=2))
        self.setLayout(column(self.asks, drawn, 1, self.cautions, gap=2))

    def show_run(self, run: RunState) -> None:
        self._run = run
        there, lever = self.asks.show_run(run), run.reference.set_up if run.reference is not None else None
        if there is not None and isinstance(lever, LeverFacts):
            self._draw(run, lever, there)
            self.cautions.show_cautions(hanging_cautions(lever))
        self._strike.setVisible(newest(run) is not None)
        self._note.setVisible(run.tool.kind.is_setting)
        if not run.tool.kind.is_setting:
            self.noted.hide()
        self.found.setText(_found(run))

    def _draw(self, run: RunState, lever: LeverFacts, hung: HungAt) -> None:
        self.drawing.show_state(
            LeverState(
                units=run.tool.own_units,
                grip=lever.grip or hung.hook,
                pivot=lever.pivot,
                hook=hung.hook,
                balance=lever.own_centre or None,
                tilt_rad=lever.tilt or None,
                disc=lever.disc,
                weights=tuple((w.number, w.mass) for w in hung.weights),
            )
        )

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._make_room()

    def event(self, event: QEvent | None) -> bool:
        """More or fewer lines are told: the drawing may have to go, or have room again."""
        known = super().event(event)
        if event is not None and event.type() == QEvent.Type.LayoutRequest:
            self._make_room()
        return known

    def _make_room(self) -> None:
        """On a small window the drawing gives way to what is asked, and to what could hurt."""
        layout = self.layout()
        if layout is not None:
            lacking = self.drawing.minimumHeight() + GRID if self.drawing.isHidden() else 0
            self.drawing.setVisible(layout.minimumHeightForWidth(self.width()) + lacking <= self.height())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if not self.asks.take_key(event):
            super().keyPressEvent(event)

    def ask_strike(self) -> None:
        """Ask inline why the last answer is struck, or what was found before."""
        if self._run is not None:
            self.striking.ask(self._run)

    def _ask_noted(self) -> None:
        """The line for tries that were noted where there is no screen; a second time takes it back."""
        self.noted.setVisible(self.noted.isHidden())
        if not self.noted.isHidden():
            self.noted.setFocus()

    def _keep_noted(self, noted: tuple[NotedTry, ...]) -> None:
        run = self._run
        if run is not None:
            self.desk.do(
                call(keep_noted, run.id, noted, self.desk.around.act()),
                done=self._noted_kept,
                refused=self.noted.refuse,
            )

    def _noted_kept(self) -> None:
        self.noted.clear()
        self.noted.hide()
        self.arrive()

    def action(self) -> Action | None:
        return self.asks.action()

    def arrive(self) -> None:
        (self.asks.to_focus or self).setFocus()


def noted_reader(text: str) -> tuple[tuple[NotedTry, ...], str]:
    """Tries in a line, and what was understood."""
    noted = read_noted(text)
    clicked = sum(one.kind is ObservationKind.CLICKED for one in noted)
    return noted, tr("understood: {clicked} clicked, {silent} silent", clicked=clicked, silent=len(noted) - clicked)


def _found(run: RunState) -> str:
    """What was found so far, a line for each point."""
    unit, lines = run.tool.unit, []
    for series in run.series:
        if series.pairs:
            of_tool = finding_of(run) is TripFinding.SETTING
            trips = (number(unit.from_si(p.tool if of_tool else p.reference)) for p in series.pairs)
            values = ", ".join(trips)
            mean = sum(p.deviation for p in series.pairs) / len(series.pairs)
            aim = settable(run.tool.kind, series.target, unit)
            lines.append(
                tr(
                    "{aim}: trips at {values} {symbol}; deviation {mean}",
                    aim=aim,
                    values=values,
                    symbol=unit.symbol,
                    mean=percent(mean, 2, sign=True),
                )
            )
    return "\n".join(lines)
