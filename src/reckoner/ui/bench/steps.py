"""The column of steps with what each already holds."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.printing import fixed, number
from reckoner.core.translation import tr
from reckoner.shop.runs.records import SeriesState, Step
from reckoner.shop.runs.state import RunState
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID

ROW = 7 * GRID

TITLES = {
    Step.LOOK_OVER: tr("Look over"),
    Step.SET_UP: tr("Set up"),
    Step.AS_IT_CAME: tr("As it came"),
    Step.EXERCISE: tr("Exercise"),
    Step.AS_FOUND: tr("As found"),
    Step.ADJUST: tr("Adjust"),
    Step.AS_LEFT: tr("As left"),
    Step.DECIDE: tr("Decide and sign"),
}


def titles(run: RunState) -> dict[Step, str]:
    """The steps that this run has, by title: adjusting and as left only once they were begun."""
    shown = dict(TITLES)
    if not run.came:
        del shown[Step.AS_IT_CAME]
    if not run.adjusting and not run.adjusted:
        del shown[Step.ADJUST], shown[Step.AS_LEFT]
    shown[Step.AS_FOUND] = run.policy.step
    return shown


def holds(run: RunState, step: Step) -> str:
    """What a step already holds, in a few words."""
    match step:
        case Step.LOOK_OVER:
            seen = sum(line.settled for line in run.inspection)
            remarks = sum(line.fine is False for line in run.inspection)
            return tr("{seen} of {count}", seen=seen, count=len(run.inspection)) + (
                tr(", {remarks} accepted", remarks=remarks) if remarks else tr(" fine") if seen else ""
            )
        case Step.SET_UP:
            return _set_up(run)
        case Step.AS_IT_CAME:
            return _taken(run.came)
        case Step.EXERCISE:
            return tr(
                "{count} of {count_2} at full scale",
                count=sum(e.done for e in run.exercise),
                count_2=sum(e.wanted for e in run.exercise),
            )
        case Step.AS_FOUND:
            return _taken(run.found)
        case Step.ADJUST:
            if run.adjusting:
                turns = run.adjusting.turns
                return tr("{turns} turns so far", turns=fixed(turns, 3, sign=True)) if turns else tr("not turned yet")
            return tr("{adjusted} done", adjusted=run.adjusted) if run.adjusted else ""
        case Step.AS_LEFT:
            return _taken(run.left) if run.left else ""
        case Step.DECIDE:
            return tr("signed") if run.signed else ""
        case Step.SIGNED:
            return ""


def _set_up(run: RunState) -> str:
    said = []
    if run.reference:
        said.append(run.reference.number)
    if run.room:
        said.append(f"{number(run.room.temperature)} °C")
    if run.zeros.before is not None:
        said.append(tr("zero taken"))
    return ", ".join(said)


def _taken(series: tuple[SeriesState, ...]) -> str:
    return tr(
        "{count} of {count_2} readings", count=sum(len(s.pairs) for s in series), count_2=sum(s.wanted for s in series)
    )


class StepColumn(QWidget):
    """Dots on a line: done (tick), now (ring and bold), to come (hollow)."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._run: RunState | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(24 * GRID, ROW * len(TITLES))

    def show_run(self, run: RunState | None) -> None:
        self._run = run
        if run is not None:
            self.setAccessibleName(tr("Step: {get}", get=titles(run).get(run.step, tr("signed"))))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        run = self._run
        if run is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        x = 1.5 * GRID
        painter.setPen(self._theme.pen("line", 2))
        shown = titles(run)
        painter.drawLine(QPointF(x, 2 * GRID), QPointF(x, 2 * GRID + self._row() * (len(shown) - 1)))
        order = [*shown, Step.SIGNED]
        now = order.index(run.step)
        for i, (step, title) in enumerate(shown.items()):
            self._one(painter, QPointF(x, 2 * GRID + i * self._row()), title, holds(run, step), i - now)

    def _row(self) -> int:
        """Rows stand closer when there are many."""
        return ROW if self._run is None or len(titles(self._run)) < 6 else ROW - GRID

    def _one(self, painter: QPainter, at: QPointF, title: str, held: str, ahead: int) -> None:
        theme = self._theme
        if ahead < 0:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("inside"))
            painter.drawEllipse(at, 7, 7)
            painter.setPen(QPen(theme.color("surface"), 2))
            painter.drawPolyline(QPolygonF([at + QPointF(-3, 0), at + QPointF(-1, 3), at + QPointF(4, -3)]))
        elif ahead == 0:
            painter.setPen(QPen(theme.color("accent"), 2))
            painter.setBrush(theme.color("ground"))
            painter.drawEllipse(at, 9, 9)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("accent"))
            painter.drawEllipse(at, 5, 5)
        else:
            painter.setPen(QPen(theme.color("quiet"), 2))
            painter.setBrush(theme.color("ground"))
            painter.drawEllipse(at, 6, 6)
        box = QRectF(at.x() + 2.5 * GRID, at.y() - 1.5 * GRID, self.width() - at.x() - 3 * GRID, 3 * GRID)
        painter.setFont(theme.font(Type.STRONG if ahead == 0 else Type.BODY))
        painter.setPen(theme.color("ink" if ahead <= 0 else "quiet"))
        painter.drawText(box, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, title)
        font = theme.font(Type.CAPTION)
        painter.setFont(font)
        painter.setPen(theme.color("quiet"))
        shown = QFontMetrics(font).elidedText(held, Qt.TextElideMode.ElideRight, int(box.width()))
        painter.drawText(
            box.translated(0, 2.25 * GRID), Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, shown
        )
