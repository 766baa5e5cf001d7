"""Decide and sign: the sentence, each point's numbers, the budget as shares, the whole derivation on request."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QGridLayout, QSizePolicy, QWidget

from reckoner.core.printing import THIN, fixed, percent, uncertainty_decimals
from reckoner.core.verdict import PointResult, Verdict
from reckoner.shop import bench
from reckoner.shop.bench import next_due
from reckoner.shop.derivation import COMPONENT_WORDS, derivation
from reckoner.shop.run import RunState
from reckoner.shop.wording import formal, rule_words, run_sentence, settable
from reckoner.ui.bench.panel import Desk, Panel, Primary
from reckoner.ui.layout import column, empty, row, scrolling, surface
from reckoner.ui.theme import GRID, Theme, Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.mark import FenceMark
from reckoner.ui.widgets.text import label, set_tone


class Shares(QWidget):
    """The budget of a point as bars of w_i²/w²."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._shares: tuple[tuple[str, float], ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.update)

    def show_point(self, point: PointResult) -> None:
        assumed = {c.name for c in point.budget.components if c.assumed}
        self._shares = tuple(
            (COMPONENT_WORDS[name] + (" (assumed 0)" if name in assumed else ""), share)
            for name, share in point.budget.shares()
            if share > 0 or name in assumed
        )
        self.setAccessibleName("; ".join(f"{name} {percent(share, 0)}" for name, share in self._shares))
        self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(40 * GRID, 3 * GRID * max(1, len(self._shares)))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setFont(theme.font(Type.CAPTION))
        words, tail = 34 * GRID, 6 * GRID
        for i, (name, share) in enumerate(self._shares):
            top = i * 3 * GRID
            painter.setPen(theme.color("ink" if share else "quiet"))
            left = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
            painter.drawText(QRectF(0, top, words, 3 * GRID), left, name)
            room = self.width() - words - tail
            painter.fillRect(QRectF(words, top + GRID, room, GRID), theme.color("ground"))
            painter.fillRect(QRectF(words, top + GRID, room * share, GRID), theme.color("accent"))
            right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            painter.drawText(QRectF(self.width() - tail, top, tail, 3 * GRID), right, percent(share, 0))


class DecidingPanel(Panel):
    """Also shows a signed run, where the primary thing is to go to the tool's sheet."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self._run: RunState | None = None
        self._verdict: Verdict | None = None
        self._open_point: int | None = None
        self._mark = FenceMark(self.theme, None, 40)
        self._sentence = label(self.theme, "", Type.HEADLINE, wrap=True)
        self._formal = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self._caution = label(self.theme, "", Type.STRONG, "fault", wrap=True)
        self._due = label(self.theme, "", Type.LEAD, wrap=True)
        self._table = QGridLayout()
        self._table.setHorizontalSpacing(GRID)
        self._table.setVerticalSpacing(GRID)
        self._shares_title = label(self.theme, "", Type.LEAD)
        self._chips = row(gap=1)
        self._shares = Shares(self.theme)
        self._unfold = button(self.theme, "Show the whole derivation", self._toggle, "link")
        self._lines = QGridLayout()
        self._lines.setHorizontalSpacing(2 * GRID)
        self._lines.setVerticalSpacing(GRID)
        self._lines.setColumnStretch(2, 1)
        self._steps = QWidget()
        self._steps.setLayout(self._lines)
        self._steps.hide()
        said = row(self._mark, self._sentence, gap=3)
        said.setStretch(1, 1)
        head = surface(column(said, self._formal, self._caution, self._due, gap=1, margin=3))
        content = QWidget()
        content.setLayout(
            column(
                self._table,
                self._shares_title,
                self._chips,
                self._shares,
                row(self._unfold, 1),
                self._steps,
                1,
                gap=2,
                margin=3,
            )
        )
        body = surface(column(scrolling(content)))
        layout = column(head, body, gap=2)
        layout.setStretch(1, 1)
        self.setLayout(layout)

    def show_run(self, run: RunState) -> None:
        self._run = run
        today = self.desk.around.today if not run.signed else run.signed_on or self.desk.around.today
        found = run.verdict(today)
        self._verdict = found
        if found is None:
            return
        self._mark.show_state(found.state, mirrored=found.worst.budget.deviation < 0)
        self._sentence.setText(f"{run_sentence(run.tool, found)}.")
        self._formal.setText(f"{formal(found, run.rules.title)}, by the rule “{rule_words(found.decision.rule)}”.")
        self._say_caution(run, found)
        self._say_due(run, found)
        self._fill_table(run, found)
        self._show_point()

    def _say_caution(self, run: RunState, found: Verdict) -> None:
        distrust = run.trust_words(self.desk.around.today)
        words = ""
        if distrust:
            words = f"No decision: {distrust}."
        elif not found.reference_adequate:
            words = "No decision: the reference is not good enough for this tool."
        elif found.accepted is False:
            words = (
                "Signing holds the tool. It must not be used; what it tightened since its last good result may have "
                "to be looked at again, as the joint's maker says."
            )
        self._caution.setText(words)
        self._caution.setVisible(bool(words) and not run.signed)

    def _say_due(self, run: RunState, found: Verdict) -> None:
        if run.signed:
            due = (
                f" Due again {run.signed_due:%-d %b %Y}."
                if run.signed_due
                else " The tool is held."
                if found.accepted is False
                else ""
            )
            self._due.setText(f"Signed by {run.signed_by} on {run.signed_on:%-d %b %Y}.{due}")
        elif found.accepted and run.rules.renews_due_date:
            due_on = next_due(run, self.desk.around.today)
            months = run.tool.interval_months or run.rules.months
            self._due.setText(f"Signing makes it due again on {due_on:%-d %b %Y}, {months} months from today.")
        else:
            self._due.setText("Signing does not renew its due date.")
        set_tone(self._due, "good" if run.signed else "")

    def _fill_table(self, run: RunState, found: Verdict) -> None:
        empty(self._table)
        unit = run.tool.unit.symbol
        heads = ("", f"set, {unit}", f"mean, {unit}", "mean dev. ā", "W", "W′", "P inside")
        for i, text in enumerate(heads):
            side = Qt.AlignmentFlag.AlignRight if i > 0 else Qt.AlignmentFlag.AlignLeft
            self._table.addWidget(label(self.theme, text, Type.CAPTION, "quiet"), 0, i, side)
        both = len(run.tool.directions) > 1
        for i, (series, point) in enumerate(zip(run.series, found.points, strict=True)):
            self._table.addWidget(FenceMark(self.theme, point.decision.state, 18), i + 1, 0)
            name = settable(run.tool.kind, point.target, run.tool.unit).removesuffix(f"{THIN}{unit}")
            cells = (
                f"{series.direction} {name}" if both else name,
                fixed(run.tool.unit.from_si(point.budget.mean_reading), uncertainty_decimals(_absolute(run, point))),
                percent(point.budget.deviation, 2, sign=True),
                percent(point.budget.expanded_uncertainty, 2),
                percent(point.budget.uncertainty_interval, 2),
                percent(point.decision.probability, 1),
            )
            for j, text in enumerate(cells):
                role = Type.STRONG if j in (0, 2) else Type.BODY
                self._table.addWidget(label(self.theme, text, role), i + 1, j + 1, Qt.AlignmentFlag.AlignRight)
        for i in range(1, len(heads)):
            self._table.setColumnStretch(i, 1)

    def _offer_points(self, run: RunState, chosen: int) -> None:
        empty(self._chips)
        for i, series in enumerate(run.series):
            name = settable(run.tool.kind, series.target, run.tool.unit)
            words = f"{name} {series.direction}" if len(run.tool.directions) > 1 else name
            chip = button(self.theme, words, partial(self._choose, i), "chosen" if i == chosen else "link")
            chip.setAccessibleName(f"Show the budget at {words}")
            self._chips.addWidget(chip)
        self._chips.addStretch(1)

    def _choose(self, index: int) -> None:
        self._open_point = index
        self._show_point()

    def _toggle(self) -> None:
        self._steps.setVisible(not self._steps.isVisible())
        self._unfold.setText("Hide the derivation" if self._steps.isVisible() else "Show the whole derivation")

    def _show_point(self) -> None:
        run, found = self._run, self._verdict
        if run is None or found is None or run.set_up is None:
            return
        worst = found.points.index(found.worst)
        index = self._open_point if self._open_point is not None and self._open_point < len(found.points) else worst
        point = found.points[index]
        self._offer_points(run, index)
        self._shares_title.setText(
            f"Where the uncertainty at {settable(run.tool.kind, point.target, run.tool.unit)} comes from"
        )
        self._shares.show_point(point)
        empty(self._lines)
        for i, step in enumerate(derivation(run.tool, run.set_up.reference, point, found)):
            top = Qt.AlignmentFlag.AlignTop
            self._lines.addWidget(label(self.theme, step.what, Type.CAPTION, "quiet"), i, 0, top)
            self._lines.addWidget(label(self.theme, step.formula, Type.CAPTION), i, 1, top)
            self._lines.addWidget(label(self.theme, step.values, Type.CAPTION, wrap=True), i, 2, top)
            self._lines.addWidget(
                label(self.theme, step.result, Type.CAPTION, wrap=True), i, 3, top | Qt.AlignmentFlag.AlignRight
            )

    def primary_state(self) -> Primary | None:
        run, person = self._run, self.desk.around.person
        if run is None:
            return None
        if run.signed:
            return Primary("To the tool's sheet")
        return Primary(f"Sign as {person.initials}" if person else "Choose who signs")

    def primary(self) -> None:
        run = self._run
        if run is None:
            return
        if run.signed:
            self.desk.around.go_tool(run.tool.id)
        else:
            self.desk.do(lambda session, act: bench.sign(session, run.id, act))


def _absolute(run: RunState, point: PointResult) -> float:
    """The expanded uncertainty of a point in the tool's unit, to know how many decimals its mean deserves."""
    return run.tool.unit.from_si(point.budget.expanded_uncertainty * point.budget.mean_reading)
