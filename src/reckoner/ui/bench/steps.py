"""The column of steps with what each already holds."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.printing import number
from reckoner.shop.run import RunState, Step
from reckoner.ui.theme import GRID, Theme, Type

ROW = 7 * GRID

TITLES = {
    Step.LOOK_OVER: "Look over",
    Step.SET_UP: "Set up",
    Step.EXERCISE: "Exercise",
    Step.AS_FOUND: "As found",
    Step.DECIDE: "Decide and sign",
}


def holds(run: RunState, step: Step) -> str:
    """What a step already holds, in a few words."""
    match step:
        case Step.LOOK_OVER:
            seen = sum(line.settled for line in run.inspection)
            remarks = sum(line.fine is False for line in run.inspection)
            return f"{seen} of {len(run.inspection)}" + (
                f", {remarks} accepted" if remarks else " fine" if seen else ""
            )
        case Step.SET_UP:
            said = []
            if run.room:
                said.append(f"{number(run.room.temperature)} °C")
            if run.set_up:
                said.append(run.set_up.reference.number)
            if run.zero_before is not None:
                said.append("zero taken")
            return ", ".join(said)
        case Step.EXERCISE:
            return f"{sum(e.done for e in run.exercise)} of {sum(e.wanted for e in run.exercise)} at full scale"
        case Step.AS_FOUND:
            taken, wanted = sum(len(s.counted) for s in run.series), sum(s.wanted for s in run.series)
            return f"{taken} of {wanted} readings"
        case Step.DECIDE:
            return "signed" if run.signed else ""
        case Step.SIGNED:
            return ""


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
            self.setAccessibleName(f"Step: {TITLES.get(run.step, 'signed')}")
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        run = self._run
        if run is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        x = 1.5 * GRID
        painter.setPen(self._theme.pen("line", 2))
        painter.drawLine(QPointF(x, 2 * GRID), QPointF(x, 2 * GRID + ROW * (len(TITLES) - 1)))
        now = list(Step).index(run.step)
        for i, (step, title) in enumerate(TITLES.items()):
            self._one(painter, QPointF(x, 2 * GRID + i * ROW), title, holds(run, step), i - now)

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
