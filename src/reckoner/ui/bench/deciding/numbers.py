"""The numbers behind a verdict: each point's, every rule's answer, the budget as bars, a simulation, the derivation.

The budget of a point as a bar chart of shares.
"""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QGridLayout, QSizePolicy, QWidget

from reckoner.core.decision.states import State
from reckoner.core.decision.verdict import PointResult, Verdict
from reckoner.core.quantities import printing
from reckoner.core.quantities.printing import THIN, fixed, percent, uncertainty_decimals
from reckoner.core.requirements.rules import Rule
from reckoner.core.translation import tr
from reckoner.core.uncertainty.budget import EFFECT_NAMES, Budget
from reckoner.core.uncertainty.simulation import Simulated, simulate_budget
from reckoner.shop.runs.characterising import measured
from reckoner.shop.runs.derivation import derivation
from reckoner.shop.runs.records import SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.words.comparisons import place_name, series_name
from reckoner.shop.words.effects import effects_words, few_sentence, place_words
from reckoner.shop.words.results import component_words, rule_words, settable, torque_figure
from reckoner.ui.layout import column, empty, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.mark import FenceMark
from reckoner.ui.widgets.text import label
from reckoner.ui.work import Work


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
            (component_words(name) + (tr(" (assumed 0)") if name in assumed else ""), share)
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


class Numbers(QWidget):
    """Shows a run and its verdict. ``series`` is the one whose budget is open: the worst unless another was chosen."""

    def __init__(self, theme: Theme, work: Work) -> None:
        super().__init__()
        self.theme = theme
        self._work = work
        self._run: RunState | None = None
        self._verdict: Verdict | None = None
        self._open_point: int | None = None
        self.points = Chips(theme, tr("Show the budget at"))
        self.points.chosen.connect(self._choose)
        self._rules_title = label(theme, tr("What each rule says"), Type.LEAD)
        self.rules = QGridLayout()
        self.rules.setHorizontalSpacing(2 * GRID)
        self.rules.setVerticalSpacing(GRID // 2)
        self.simulate = button(theme, tr("Simulate beside it, a million trials"), self._ask_simulation, "link")
        self.simulated = label(theme, "", Type.BODY, wrap=True)
        self.table = QGridLayout()
        self.table.setHorizontalSpacing(GRID)
        self.table.setVerticalSpacing(GRID)
        self._shares_title = label(theme, "", Type.LEAD, wrap=True)
        self._shares = Shares(theme)
        self.few = label(theme, "", Type.BODY, wrap=True)
        self.unfold = button(theme, tr("Show the whole derivation"), self._toggle, "link")
        self._lines = QGridLayout()
        self._lines.setHorizontalSpacing(2 * GRID)
        self._lines.setVerticalSpacing(GRID)
        for part, share in enumerate((2, 3, 4, 3)):
            self._lines.setColumnStretch(part, share)
        self._steps = QWidget()
        self._steps.setLayout(self._lines)
        self._steps.hide()
        self._budget = QWidget()
        self._budget.setLayout(
            column(
                self._shares_title, self.points, self._shares, self.few, row(self.simulate, 1), self.simulated,
                row(self.unfold, 1), self._steps, gap=2,
            )
        )  # fmt: skip
        self.setLayout(column(self.table, self._rules_title, self.rules, self._budget, gap=2))

    @property
    def series(self) -> SeriesState | None:
        """The series whose budget is open."""
        if self._run is None or self._verdict is None:
            return None
        return self._run.series[self._index(self._verdict)]

    def show_run(self, run: RunState, found: Verdict, *, fresh: bool) -> None:
        """``fresh``: another run, or another phase of it; what was chosen before is forgotten."""
        self._run, self._verdict = run, found
        if fresh:
            self._open_point = None
            self._say_simulated("")
        self._budget.setVisible(run.policy.judges)
        self._fill_table(run, found)
        self._fill_rules(run, found)
        self._show_point()

    def _index(self, found: Verdict) -> int:
        chosen = self._open_point
        return chosen if chosen is not None and chosen < len(found.points) else found.points.index(found.worst)

    def _fill_rules(self, run: RunState, found: Verdict) -> None:
        empty(self.rules)
        shown = run.policy.judges and found.state is not State.COMPARED
        self._rules_title.setVisible(shown)
        if not shown:
            return
        answers = {True: tr("accepts"), False: tr("does not accept"), None: tr("leaves it open")}
        for i, rule in enumerate(Rule):
            judged = found.by_rule(replace(found.decision, rule=rule))
            used = rule is found.decision.rule
            role = Type.STRONG if used else Type.BODY
            tone = {True: "good", False: "fault", None: "quiet"}[judged.accepted]
            words = tr("{rule}, used here", rule=rule_words(rule)) if used else rule_words(rule)
            looked = _looked_at(judged)
            self.rules.addWidget(label(self.theme, words, role, wrap=True), i, 0)
            self.rules.addWidget(label(self.theme, looked, Type.BODY), i, 1, Qt.AlignmentFlag.AlignRight)
            self.rules.addWidget(label(self.theme, answers[judged.accepted], role, tone), i, 2)
        self.rules.setColumnStretch(0, 1)
        self.rules.setColumnMinimumWidth(2, 14 * GRID)

    def _fill_table(self, run: RunState, found: Verdict) -> None:
        empty(self.table)
        unit = run.tool.unit.symbol
        places = run.policy.measures or run.policy.contrasts
        heads: tuple[str, ...] = (
            "",
            tr("set, {unit}", unit=unit),
            tr("mean, {unit}", unit=unit),
            tr("dev. ā"),
            "W",
            "W′",
            tr("P inside"),
        )
        if (
            found.state is State.COMPARED
        ):  # nobody knows the reference's share of W, and nothing is held against a limit
            heads = heads[:4]
        trips = not places and any(_tripped_at(run, s) for s in run.series)
        if trips:
            heads = (*heads[:2], tr("trips set to, {unit}", unit=unit), tr("hung, {unit}", unit=unit), *heads[3:])
        if places:
            heads = ("", "measured", *heads[2:4])
        for i, text in enumerate(heads):
            side = Qt.AlignmentFlag.AlignRight if i > 0 else Qt.AlignmentFlag.AlignLeft
            self.table.addWidget(label(self.theme, text, Type.CAPTION, "quiet"), 0, i, side)
        both = len(run.tool.directions) > 1
        for i, (series, point) in enumerate(zip(run.series, found.points, strict=True)):
            if not places:
                self.table.addWidget(FenceMark(self.theme, point.decision.state, 18), i + 1, 0)
            name = settable(run.tool.kind, point.target, run.tool.unit).removesuffix(f"{THIN}{unit}")
            cells = (
                _name(run, series, name, both=both),
                *((_tripped_at(run, series) or name,) if trips else ()),
                fixed(run.tool.unit.from_si(point.budget.mean_reading), uncertainty_decimals(_doubt(run, point))),
                percent(point.budget.deviation, 2, sign=True),
                percent(point.budget.expanded_uncertainty, 2),
                percent(point.budget.uncertainty_interval, 2),
                percent(point.decision.probability, 1),
            )
            for j, text in enumerate(cells[: len(heads) - 1]):
                strong, plain = (0, 3 if trips else 2), range(1, 3 if trips else 2)
                role = Type.STRONG if j in strong else Type.BODY if j in plain else Type.CAPTION
                self.table.addWidget(label(self.theme, text, role), i + 1, j + 1, Qt.AlignmentFlag.AlignRight)
        for i in range(1, 8):
            self.table.setColumnStretch(i, int(i < len(heads)))

    def _choose(self) -> None:
        self._open_point = int(self.points.one)
        self._show_point()

    def _toggle(self) -> None:
        self._steps.setVisible(not self._steps.isVisible())
        self.unfold.setText(tr("Hide the derivation") if self._steps.isVisible() else tr("Show the whole derivation"))

    def _show_point(self) -> None:
        run, found = self._run, self._verdict
        if run is None or found is None or run.reference is None:
            return
        index = self._index(found)
        point = found.points[index]
        self.points.offer([(str(i), series_name(run, series)) for i, series in enumerate(run.series)], [str(index)])
        self._shares_title.setText(
            tr("Where the uncertainty at {kind} comes from", kind=settable(run.tool.kind, point.target, run.tool.unit))
        )
        self._shares.show_point(point)
        self.few.setText(few_sentence(point.budget))
        self.few.setVisible(bool(self.few.text()))
        self._shares.setToolTip(
            tr("b values: {effects_words}", effects_words=effects_words(run.facts.measured) or tr("none measured"))
        )
        empty(self._lines)
        for i, step in enumerate(derivation(run.tool, run.reference, point, found)):
            top = Qt.AlignmentFlag.AlignTop
            self._lines.addWidget(label(self.theme, step.what, Type.CAPTION, "quiet", wrap=True), i, 0, top)
            self._lines.addWidget(label(self.theme, step.formula, Type.CAPTION, wrap=True), i, 1, top)
            self._lines.addWidget(label(self.theme, step.values, Type.CAPTION, wrap=True), i, 2, top)
            self._lines.addWidget(
                label(self.theme, step.result, Type.CAPTION, wrap=True), i, 3, top | Qt.AlignmentFlag.AlignRight
            )

    def _ask_simulation(self) -> None:
        found = self._verdict
        if found is None:
            return
        budget = found.points[self._index(found)].budget
        self._say_simulated(tr("Drawing…"))
        self._work.compute(lambda: simulate_budget(budget), lambda drawn: self._show_simulation(drawn, budget))

    def _say_simulated(self, words: str) -> None:
        self.simulated.setText(words)
        self.simulated.setVisible(bool(words))

    def _show_simulation(self, drawn: Simulated, budget: Budget) -> None:
        w = percent(drawn.standard_uncertainty, 3) if drawn.standard_uncertainty is not None else tr("not defined")
        low, high = percent(drawn.low_95, 2, sign=True), percent(drawn.high_95, 2, sign=True)
        self._say_simulated(
            tr(
                "Simulated: w {w} (first order {standard_uncertainty}); 95 % from {low} to {high}.",
                w=w,
                standard_uncertainty=percent(budget.standard_uncertainty, 3),
                low=low,
                high=high,
            )
        )


def _looked_at(judged: Verdict) -> str:
    """What a rule holds against what, where it is closest."""
    match judged.decision.rule:
        case Rule.PROBABILITY:
            least = min(p.decision.probability for p in judged.points)
            return tr("{least}, level {level}", least=percent(least, 1), level=percent(judged.decision.level, 0))
        case Rule.GUARDED:
            closest = max((p.decision for p in judged.points), key=lambda d: (d.looked_at + d.near_zone) / d.limit)
            both = f"{percent(closest.looked_at, 2)} + {percent(closest.near_zone, 2)}"
            return tr("{both} of {limit}", both=both, limit=printing.limit(closest.limit))
        case _:
            worst = judged.worst.decision
            return tr(
                "{looked_at} of {limit}", looked_at=percent(worst.looked_at, 2), limit=printing.limit(worst.limit)
            )


def _tripped_at(run: RunState, series: SeriesState) -> str:
    """Under weights that hang as they are: the setting at which it trips, a figure; empty where the tool was set to the
    point."""
    tool = {torque_figure(run, pair.tool) for pair in series.pairs}
    if not run.tool.kind.is_setting or tool <= {torque_figure(run, series.target)}:
        return ""
    settings = [pair.tool for pair in series.pairs]
    return torque_figure(run, sum(settings) / len(settings))


def _doubt(run: RunState, point: PointResult) -> float:
    """What a point's mean is known to, in the tool's unit, to know how many decimals it deserves: its expanded uncertainty,
    or, where means are compared, the least of their ranges."""
    doubt = point.budget.expanded_uncertainty * point.budget.mean_reading
    if run.policy.measures:
        doubt = min((b for b in _ranges(run) if b), default=doubt)
    return run.tool.unit.from_si(doubt)


def _ranges(run: RunState) -> list[float | None]:
    effects = measured(run)
    return [width.b if (width := getattr(effects, name)) else None for name in EFFECT_NAMES]


def _name(run: RunState, series: SeriesState, point: str, *, both: bool) -> str:
    if series.effect is not None and series.place is not None:
        return place_words(series.effect, series.place)
    if beside := place_name(run, series):
        return beside
    return f"{series.direction} {point}" if both else point
