"""The ways to test without a meter, beside the meters at set-up: known weights, and each gauge of the register."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QButtonGroup, QVBoxLayout, QWidget

from reckoner.core.printing import percent, quantity
from reckoner.core.translation import tr
from reckoner.core.units import KILOGRAM, NEWTON
from reckoner.shop.box import Means
from reckoner.shop.gauging import Gauge
from reckoner.shop.hanging import Anchor
from reckoner.shop.procedure import Caution
from reckoner.shop.procedures import PROCEDURES
from reckoner.shop.runs import setting_up
from reckoner.shop.runs.state import RunState
from reckoner.store.terms import ReferenceKind
from reckoner.ui.bench.gauging import GaugeSheet
from reckoner.ui.bench.hanging import HangingSheet
from reckoner.ui.bench.panel import Action, Desk
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.choice import ChoiceRow
from reckoner.ui.widgets.saveas import ask_where
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

NO_LEVER = tr(
    "A gauge pulls on a lever, and a screwdriver has none. It wants a disc of known radius on its "
    "drive, with weights on a rope from its rim: add weights in References, or test it against a "
    "meter."
)


class LeverWays(QWidget):
    """Adds its rows to the ``group`` of those that are there; what the chosen one asks for stands in this widget."""

    def __init__(self, desk: Desk, group: QButtonGroup) -> None:
        super().__init__()
        self._desk, self._group = desk, group
        self.hanging, self.gauging = HangingSheet(desk.around.theme), GaugeSheet(desk.around.theme)
        self._ways: dict[int, Gauge | None] = {}
        for sheet in (self.hanging, self.gauging):
            sheet.changed.connect(desk.offer)
            sheet.hide()
        self.save = button(desk.around.theme, tr("Save the drawing…"), self._ask_where, "link")
        self.save.hide()
        self.no_lever = label(desk.around.theme, NO_LEVER, Type.BODY, "quiet", wrap=True)
        self.no_lever.hide()
        self.setLayout(column(self.hanging, self.gauging, row(self.save, 1), self.no_lever, gap=0))

    def offer(self, run: RunState, means: Means, rows: QVBoxLayout, place: int) -> bool:
        """Add to ``rows`` each way that the shop has and the tool's lever can bear, with ids from ``place`` on. Returns
        whether there is any."""
        self._ways = {}
        disc = run.tool.kind.is_screwdriver
        self.no_lever.setVisible(disc and bool(means.gauges) and not means.box)
        if means.box:
            most = quantity(max(w.mass for w in means.box), KILOGRAM)
            where = tr("on a disc on its drive") if disc else tr("on the tool's own lever")
            self._row(
                rows,
                place,
                tr("Weights"),
                tr("{count} known weights, up to {most}, {where}", count=len(means.box), most=most, where=where),
                None,
            )
        for gauge in () if disc else means.gauges:
            worth = f"±{percent(gauge.uncertainty, 2)}" if gauge.uncertainty is not None else tr("of unknown worth")
            words = tr(
                "pulls up to {reaches} on the lever, {worth}", reaches=quantity(gauge.reaches, NEWTON), worth=worth
            )
            self._row(rows, place + len(self._ways), gauge.number, words, gauge)
        if self._ways and run.reference is None:
            self.hanging.begin(run, means)
            self.gauging.begin(run, means)
        return bool(self._ways)

    def _row(self, rows: QVBoxLayout, place: int, name: str, words: str, gauge: Gauge | None) -> None:
        choice = ChoiceRow(self._desk.around.theme, name, words, "")
        self._group.addButton(choice, place)
        rows.addWidget(choice)
        self._ways[place] = gauge

    @property
    def sheet(self) -> HangingSheet | GaugeSheet | None:
        """What is filled in for the chosen way; None where a meter is chosen."""
        chosen = self._group.checkedId()
        if chosen not in self._ways:
            return None
        return self.hanging if self._ways[chosen] is None else self.gauging

    @property
    def gauge(self) -> str:
        """The number of the gauge that is chosen; empty where none is."""
        chosen = self._ways.get(self._group.checkedId())
        return chosen.number if chosen is not None else ""

    @property
    def kind(self) -> ReferenceKind:
        """What kind of reference is chosen."""
        if self.sheet is None:
            return ReferenceKind.METER
        return ReferenceKind.WEIGHTS if self.sheet is self.hanging else ReferenceKind.GAUGE

    @property
    def cautions(self) -> tuple[Caution, ...]:
        """What could hurt with the way that is chosen, as it is set up."""
        nut = (Caution.NUT,) if self.sheet is self.hanging and self.hanging.anchor.one == Anchor.NUT else ()
        return (*PROCEDURES[self.kind].cautions, *nut)

    def show_chosen(self) -> None:
        """Another way was chosen, or a meter."""
        for sheet in (self.hanging, self.gauging):
            sheet.setVisible(sheet is self.sheet)
        self.save.setVisible(self.sheet is not None)
        gauge = self._ways.get(self._group.checkedId())
        if gauge is not None:
            self.gauging.take(gauge)

    def _ask_where(self) -> None:
        kinds = "Pictures (*.svg *.png)"
        path = ask_where(self, tr("Save the drawing"), "lever.svg", kinds)
        if path is not None:
            self.save_drawing(path)

    def save_drawing(self, path: Path) -> None:
        """Write the drawing of the chosen way into a file."""
        if self.sheet is None:
            return
        try:
            self.sheet.drawing.save(path)
        except OSError as fault:
            self._desk.around.say(
                tr("{name} cannot be written: {strerror}.", name=path.name, strerror=fault.strerror or fault)
            )
        else:
            self._desk.around.say(tr("The drawing is in {path}.", path=path))

    def action(self, run: RunState) -> Action | None:
        """What the primary button does with the chosen way; None where a meter is chosen."""
        sheet = self.sheet
        if sheet is None:
            return None
        words = tr("Hang these weights") if sheet is self.hanging else tr("Pull with it")
        return Action(words, lambda: self._use(run), allowed=not sheet.lacks, why_not=sheet.lacks)

    def _use(self, run: RunState) -> None:
        lever, pull, way, step = self.hanging.lever, self.gauging.pull, self.hanging.way, self.hanging.step
        if self.sheet is self.hanging and lever is not None:
            self._desk.do(call(setting_up.hang, run.id, lever, self._desk.around.act(), way, step))
        elif self.sheet is self.gauging and pull is not None:
            self._desk.do(call(setting_up.pull_with, run.id, pull, self._desk.around.act()))
