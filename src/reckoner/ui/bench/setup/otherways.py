"""The other ways to test, beside a meter alone: known weights, each gauge of the register, a meter in line."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QButtonGroup, QVBoxLayout, QWidget

from reckoner.core.errors import Refused
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import percent
from reckoner.core.translation import tr
from reckoner.formats.files import FileNotWritten
from reckoner.shop.procedure import Caution, ReferenceCandidate
from reckoner.shop.procedures import PROCEDURES
from reckoner.shop.procedures.weights import hanging_cautions
from reckoner.shop.register.completing import MeasuredTool, keep_measured
from reckoner.shop.runs import setting_up
from reckoner.shop.runs.state import RunState
from reckoner.shop.setups.equipment import Equipment
from reckoner.shop.setups.gauging import Gauge
from reckoner.shop.setups.inline import in_line_words
from reckoner.store.terms import ReferenceKind, Right
from reckoner.ui.bench.panel import Action, BenchAccess
from reckoner.ui.bench.setup.gauging import GaugeSheet
from reckoner.ui.bench.setup.hanging import HangingSheet
from reckoner.ui.bench.setup.inline import InLineSheet
from reckoner.ui.bench.setup.leversheet import LeverSheet
from reckoner.ui.files import FileKind, ask_where
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.choice import ChoiceRow
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

NO_LEVER = tr(
    "A gauge pulls on a lever, and a screwdriver has none. It wants a disc of known radius on its "
    "drive, with weights on a rope from its rim: add weights in References, or test it against a "
    "meter."
)


@dataclass(frozen=True)
class WayChosen:
    """A way to test, as it stands in the list: the ``sheet`` that asks for it, and the gauge that it is for."""

    kind: ReferenceKind
    sheet: HangingSheet | GaugeSheet | InLineSheet
    gauge: Gauge | None = None


class OtherWays(QWidget):
    """Adds its rows to the ``group`` of those that are there; what the chosen one asks for stands in this widget. Signal
    ``entered()``: Enter in one of its fields."""

    entered = pyqtSignal()

    def __init__(self, desk: BenchAccess, group: QButtonGroup) -> None:
        super().__init__()
        theme = desk.around.theme
        self._desk, self._group = desk, group
        self.hanging, self.gauging = HangingSheet(theme), GaugeSheet(theme)
        self.in_line = InLineSheet(theme, lambda: desk.around.today)
        self._ways: dict[int, WayChosen] = {}
        for sheet in (self.hanging, self.gauging, self.in_line):
            sheet.changed.connect(desk.offer)
            sheet.entered.connect(self.entered)
            sheet.hide()
        self.save = button(theme, tr("Save the drawing…"), self._ask_where, "link")
        self.save.hide()
        self.no_lever = label(theme, NO_LEVER, Type.BODY, "quiet", wrap=True)
        self.no_lever.hide()
        self.setLayout(column(self.hanging, self.gauging, self.in_line, row(self.save, 1), self.no_lever, gap=0))

    def offer(
        self, run: RunState, means: Equipment, meters: tuple[ReferenceCandidate, ...], rows: QVBoxLayout, place: int
    ) -> bool:
        """Add to ``rows`` each way that the shop has and the tool's lever can bear, with ids from ``place`` on. Returns
        whether there is any."""
        self._ways = {}
        disc = run.tool.kind.is_screwdriver
        self.no_lever.setVisible(disc and bool(means.gauges) and not means.weights)
        if means.weights or self._desk.wishes.now is not None:
            where = tr("on a disc on its drive") if disc else tr("on the tool's own lever")
            words = tr("what you have, {where}", where=where)
            if means.weights:
                most = run.tool.own_units.mass_words(max(w.mass for w in means.weights))
                words = tr(
                    "{count} known weights, up to {most}, {where}", count=len(means.weights), most=most, where=where
                )
            self._row(rows, place, tr("Weights"), words, WayChosen(ReferenceKind.WEIGHTS, self.hanging))
        for gauge in () if disc else means.gauges:
            worth = f"±{percent(gauge.uncertainty, 2)}" if gauge.uncertainty is not None else tr("of unknown worth")
            words = tr(
                "pulls up to {reaches} on the lever, {worth}",
                reaches=gauge.shown_words(gauge.reaches, run.tool.own_units),
                worth=worth,
            )
            self._row(rows, place, gauge.number, words, WayChosen(ReferenceKind.GAUGE, self.gauging, gauge))
        if meters:
            words = tr("a meter between the tool and a stub, or two meters")
            self._row(rows, place, tr("In line"), words, WayChosen(ReferenceKind.IN_LINE, self.in_line))
        if self._ways and run.reference is None:
            hanger = self._desk.around.station.settings.hanger
            self.hanging.start(run, means, self._desk.wishes.now, hanger)
            self.gauging.start(run, means)
            if meters:
                self.in_line.start(run, meters)
        return bool(self._ways)

    def _row(self, rows: QVBoxLayout, place: int, name: str, words: str, way: WayChosen) -> None:
        choice = ChoiceRow(self._desk.around.theme, name, words, "")
        at = place + len(self._ways)
        self._group.addButton(choice, at)
        rows.addWidget(choice)
        self._ways[at] = way

    @property
    def wished(self) -> int | None:
        """Which row stands for what a person has to hang; None where nobody asked for it."""
        if self._desk.wishes.now is None:
            return None
        return next((at for at, way in self._ways.items() if way.kind is ReferenceKind.WEIGHTS), None)

    @property
    def way(self) -> WayChosen | None:
        """What is chosen; None where a meter alone is."""
        return self._ways.get(self._group.checkedId())

    @property
    def sheet(self) -> HangingSheet | GaugeSheet | InLineSheet | None:
        """What is filled in for the chosen way."""
        return self.way.sheet if self.way is not None else None

    @property
    def linked(self) -> tuple[str, str] | None:
        """What of the chosen way can be linked, and its usual link; None where nothing can."""
        if self.way is not None and self.way.gauge is not None:
            return self.way.gauge.number, ""
        if self.sheet is self.in_line and self.in_line.candidate is not None:
            return self.in_line.candidate.reference.number, self.in_line.candidate.link
        return None

    @property
    def kind(self) -> ReferenceKind:
        """What kind of reference is chosen."""
        return self.way.kind if self.way is not None else ReferenceKind.METER

    @property
    def cautions(self) -> tuple[Caution, ...]:
        """What could hurt with the way that is chosen, as it is set up."""
        usual = PROCEDURES[self.kind].cautions
        hangs = hanging_cautions(self.hanging.lever) if self.sheet is self.hanging else ()
        return (*usual, *(one for one in hangs if one not in usual))

    def show_chosen(self) -> None:
        """Another way was chosen, or a meter."""
        for sheet in (self.hanging, self.gauging, self.in_line):
            sheet.setVisible(sheet is self.sheet)
        self.save.setVisible(isinstance(self.sheet, LeverSheet))
        if self.way is not None and self.way.gauge is not None:
            self.gauging.pull_with(self.way.gauge)

    def _ask_where(self) -> None:
        kinds = "Pictures (*.svg *.png)"
        path = ask_where(self._desk.around, self, FileKind.PICTURE, tr("Save the drawing"), tr("lever.svg"), kinds)
        if path is not None:
            self.save_drawing(path)

    def save_drawing(self, path: Path) -> None:
        """Write the drawing of the chosen way into a file."""
        if not isinstance(self.sheet, LeverSheet):
            return
        try:
            self.sheet.drawing.save(path)
        except FileNotWritten as refusal:
            self._desk.around.say(str(refusal))
        else:
            self._desk.around.saved(tr("The drawing is in {path}.", path=path), path)

    def action(self, run: RunState) -> Action | None:
        """What the primary button does with the chosen way; None where a meter alone is chosen."""
        sheet = self.sheet
        if sheet is None:
            return None
        return Action(VERBS[self.kind], lambda: self._use(run), allowed=not sheet.lacks, why_not=sheet.lacks)

    def _use(self, run: RunState) -> None:
        act = self._desk.around.act()
        lever, pull, sheet = self.hanging.lever, self.gauging.pull, self.sheet
        if sheet is self.hanging and lever is not None:
            measured = self.hanging.measured
            self._desk.do(
                call(setting_up.hang, run.id, lever, act, self.hanging.way, self.hanging.step),
                done=lambda: self._keep_hung(run, measured, lever.hanger),
            )
        elif sheet is self.gauging and pull is not None:
            measured = MeasuredTool(lever_length=pull.grip)
            self._desk.do(
                call(setting_up.pull_with, run.id, pull, act), done=lambda: self._keep_measured(run, measured)
            )
        elif sheet is self.in_line and (ask := self.in_line.given()) is not None:
            self._desk.do(
                call(
                    setting_up.set_in_line, run.id, ask.reference_id, ask.other_id, act, between=ask.between,
                    recoupling=ask.recoupling, shown=ask.shown, reason=ask.reason,
                )
            )  # fmt: skip

    def _keep_hung(self, run: RunState, measured: MeasuredTool, hanger: float) -> None:
        """What hook and rope weigh is not asked again at this bench."""
        self._keep_measured(run, measured)
        if hanger and hanger != self._desk.around.station.settings.hanger:
            try:
                self._desk.around.station.keep(hanger=hanger)
            except Refused as refusal:
                self._desk.around.say(str(refusal))

    def _keep_measured(self, run: RunState, measured: MeasuredTool) -> None:
        """What was typed of the tool is the register's from now on, where the person may edit it."""
        around = self._desk.around
        if around.person is not None and Right.EDIT in around.person.rights:
            around.work.ask(
                call(keep_measured, run.tool.id, measured, around.act()),
                lambda command: around.undo_stack.did(command) if command is not None else None,
            )


VERBS = {
    ReferenceKind.WEIGHTS: tr("Hang these weights"),
    ReferenceKind.GAUGE: tr("Pull with it"),
    ReferenceKind.IN_LINE: tr("Use it in line"),
}


def reference_words(run: RunState) -> str:
    """What was chosen: "PM-4", or "PM-4, between the tool and PM-5"."""
    if run.reference is None:
        return ""
    line = run.reference.line
    return f"{run.reference.number}, {in_line_words(line)}" if line is not None else run.reference.number


def candidate_worth(candidate: ReferenceCandidate) -> str:
    """What a reference is worth for this tool, and until when."""
    due = candidate.reference.due
    if not candidate.proven or due is None:
        return tr("no certificate: a shop check, without a verdict")
    return tr(
        "±{worst_uncertainty} · certificate to {due}",
        worst_uncertainty=percent(candidate.worst_uncertainty, 2),
        due=day_words(due),
    )
