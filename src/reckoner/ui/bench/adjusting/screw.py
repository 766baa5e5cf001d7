"""Two drawings for adjusting: the screw head with the turn to make, and the line of readings through turns.

What a turn of the adjusting screw would make of every point, in words.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.quantities.printing import MINUS, decimals_for, fixed, number, percent, quantity
from reckoner.core.quantities.units import Unit
from reckoner.core.requirements.tooltypes import ErrorKind
from reckoner.core.translation import tr
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.wholescale import Foretold, ScrewKnowledge, WholeScaleAdvice
from reckoner.shop.words.results import settable
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID

FRACTIONS = {1: "⅛", 2: "¼", 3: "⅜", 4: "½", 5: "⅝", 6: "¾", 7: "⅞"}


def turn_words(turn: float) -> str:
    """Signed eighths as a fraction: −⅜, +1 ¼; "no turn" for 0."""
    eighths = round(abs(turn) * 8)
    if eighths == 0:
        return tr("no turn")
    whole, part = divmod(eighths, 8)
    words = " ".join(str(w) for w in ((whole or ""), FRACTIONS.get(part, "")) if w)
    return f"{'+' if turn > 0 else MINUS}{words}"


class ScrewHead(QWidget):
    """The head of the adjusting screw from the front: its slot as it stands, the slot after the turn, and an arrow between.

    Turns are signed, clockwise positive; 12 o'clock is where it was found.
    """

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._at = 0.0
        self._turn = 0.0
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.update)

    def show_turn(self, at: float, turn: float) -> None:
        """The screw stands ``at`` turns; the next is ``turn``."""
        self._at, self._turn = at, turn
        sense = tr("clockwise") if turn > 0 else tr("counter-clockwise")
        self.setAccessibleName(
            tr("Turn {turn_words} {sense}", turn_words=turn_words(turn), sense=sense)
            if round(turn * 8)
            else tr("No turn needed")
        )
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(19 * GRID, 19 * GRID)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        centre = QPointF(self.width() / 2, self.height() / 2)
        radius = min(self.width(), self.height()) / 2 - 4 * GRID
        painter.setPen(QPen(theme.color("post"), 3))
        painter.setBrush(theme.color("ground"))
        painter.drawEllipse(centre, radius, radius)
        painter.setPen(QPen(theme.color("line"), 2))
        for eighth in range(8):
            angle = eighth / 8 * 2 * math.pi
            painter.drawLine(_on(centre, radius + 4, angle), _on(centre, radius + 10, angle))
        self._slot(painter, centre, radius, self._at, "quiet", dashed=bool(round(self._turn * 8)))
        if round(self._turn * 8):
            self._slot(painter, centre, radius, self._at + self._turn, "accent", dashed=False)
            self._arrow(painter, centre, radius + 2.5 * GRID)

    def _slot(
        self, painter: QPainter, centre: QPointF, radius: float, turns: float, name: str, *, dashed: bool
    ) -> None:
        pen = QPen(self._theme.color(name), 8 if not dashed else 5)
        pen.setCapStyle(Qt.PenCapStyle.FlatCap)
        if dashed:
            pen.setDashPattern([1.5, 1.2])
        painter.setPen(pen)
        angle = turns * 2 * math.pi
        painter.drawLine(_on(centre, -radius * 0.72, angle), _on(centre, radius * 0.72, angle))

    def _arrow(self, painter: QPainter, centre: QPointF, radius: float) -> None:
        begin, sweep = self._at * 2 * math.pi, self._turn * 2 * math.pi
        path = QPainterPath(_on(centre, radius, begin))
        steps = max(12, int(abs(sweep) * 24))
        for i in range(1, steps + 1):
            path.lineTo(_on(centre, radius, begin + sweep * i / steps))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(self._theme.color("accent"), 4))
        painter.drawPath(path)
        tip, way = begin + sweep, 1 if sweep > 0 else -1
        for side in (-1, 1):
            painter.drawLine(_on(centre, radius, tip), _on(centre, radius + side * 9, tip - way * 13 / radius))


def _on(centre: QPointF, radius: float, angle: float) -> QPointF:
    """A point at ``angle`` rad clockwise from 12 o'clock."""
    return QPointF(centre.x() + radius * math.sin(angle), centre.y() - radius * math.cos(angle))


@dataclass(frozen=True)
class TurnsLine:
    """Readings (N·m) by cumulative turn, the target, and the fitted rate (N·m a turn) with where it would lead."""

    points: tuple[tuple[float, tuple[float, ...]], ...]
    target: float
    unit: Unit
    rate: float | None = None
    next_turn: float = 0.0


Span = tuple[float, float]
Place = Callable[[float, float], QPointF]


class TurnsPlot(QWidget):
    """Readings as ticks over turns, the target as a line, the advice as a dashed continuation."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._line: TurnsLine | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(8 * GRID)
        theme.changed.connect(self.update)

    def show_line(self, line: TurnsLine) -> None:
        self._line = line
        rate = (
            tr(", {from_si} {symbol} a turn", from_si=number(line.unit.from_si(line.rate)), symbol=line.unit.symbol)
            if line.rate
            else ""
        )
        self.setAccessibleName(tr("Readings through turns{rate}", rate=rate))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        line, theme = self._line, self._theme
        if line is None or not any(values for _, values in line.points):
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        last = line.points[-1][0]
        turns = [t for t, _ in line.points] + [last + line.next_turn]
        values = [v for _, found in line.points for v in found] + [line.target]
        left, right = min(turns) - 0.1, max(turns) + 0.1
        spread = max(max(values) - min(values), 0.01 * line.target)
        low, high = min(values) - 0.2 * spread, max(values) + 0.2 * spread
        box = QRectF(8 * GRID, GRID, self.width() - 10 * GRID, self.height() - 6 * GRID)

        def place(turn: float, value: float) -> QPointF:
            return QPointF(
                box.left() + (turn - left) / (right - left) * box.width(),
                box.bottom() - (value - low) / (high - low) * box.height(),
            )

        self._axes(painter, box, line, (left, right), (low, high), place)
        painter.setPen(QPen(theme.color("ink"), 1, Qt.PenStyle.DashLine))
        painter.drawLine(place(left, line.target), place(right, line.target))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("inside"))
        for turn, found in line.points:
            for value in found:
                at = place(turn, value)
                painter.drawRect(QRectF(at.x() - 7, at.y() - 1.5, 14, 3))
        done = line.points[-1][1]
        if line.rate and done:
            mean = sum(done) / len(done)
            pen = QPen(theme.color("accent"), 2)
            painter.setPen(pen)
            painter.drawLine(place(left, mean + line.rate * (left - last)), place(last, mean))
            pen.setStyle(Qt.PenStyle.DashLine)
            painter.setPen(pen)
            end = place(last + line.next_turn, mean + line.rate * line.next_turn)
            painter.drawLine(place(last, mean), end)
            painter.setBrush(theme.color("surface"))
            painter.drawEllipse(end, 5, 5)

    def _axes(self, painter: QPainter, box: QRectF, line: TurnsLine, across: Span, up: Span, place: Place) -> None:
        theme = self._theme
        painter.setPen(theme.pen("line", 1))
        painter.drawLine(box.bottomLeft(), box.bottomRight())
        painter.drawLine(box.topLeft(), box.bottomLeft())
        painter.setFont(theme.font(Type.CAPTION))
        low, high = (line.unit.from_si(torque) for torque in up)
        step = _nice((high - low) / 4)
        value = math.ceil(low / step) * step
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        while value <= high:
            at = place(across[0], line.unit.to_si(value))
            painter.setPen(theme.color("quiet"))
            words = fixed(value, decimals_for(step))
            painter.drawText(QRectF(0, at.y() - GRID, 7 * GRID, 2 * GRID), right, words)
            value += step
        every = 0.25 if across[1] - across[0] < 2.2 else 0.5
        turn = math.ceil(across[0] / every) * every
        while turn <= across[1]:
            at = place(turn, up[0])
            painter.drawText(
                QRectF(at.x() - 4 * GRID, box.bottom() + 4, 8 * GRID, 2 * GRID),
                Qt.AlignmentFlag.AlignCenter,
                fixed(turn, 2) if round(turn * 8) else "0",
            )
            turn += every
        whole = tr("turns from where it was found, clockwise; readings in {symbol}", symbol=line.unit.symbol)
        short = tr("turns clockwise; {symbol}", symbol=line.unit.symbol)
        words = whole if painter.fontMetrics().horizontalAdvance(whole) <= box.width() else short
        painter.drawText(
            QRectF(box.left(), box.bottom() + 2.5 * GRID, box.width(), 2.5 * GRID), Qt.AlignmentFlag.AlignCenter, words
        )


def _nice(step: float) -> float:
    """The next of 1, 2, 5 times a power of ten."""
    power = float(10 ** math.floor(math.log10(step)))
    return next((f * power for f in (1, 2, 5) if f * power >= step), 10 * power)


CHANGES = {
    ErrorKind.OFFSET: tr("the same torque everywhere"),
    ErrorKind.GAIN: tr("the same part of each setting"),
}


def foretold_words(run: RunState, whole: WholeScaleAdvice, told: Foretold) -> str:
    """Each point after the turn, whether the screw can cure them all, and what that goes by."""
    unit, kind = run.tool.unit, run.tool.kind
    points = ", ".join(
        f"{settable(kind, series.target, unit)} {percent(point.then, 1, sign=True)}" for series, point in told.points
    )
    said = [
        tr(
            "{which}: {points}.",
            which=tr("As it is") if not told.turn else tr("After {turn_words}", turn_words=turn_words(told.turn)),
            points=points,
        )
    ]
    if not whole.curable:
        worst = settable(kind, whole.next.worst_target, unit)
        said.append(
            tr(
                "Even the best turn leaves {worst} outside: this screw cannot cure it. Hold it and send it away.",
                worst=worst,
            )
        )
    elif told.turn != whole.next.turn:
        said.append(tr("{turn_words} would leave the worst point less.", turn_words=turn_words(whole.next.turn)))
    how = CHANGES[whole.changes]
    match whole.known:
        case ScrewKnowledge.SAID:
            said.append(tr("A turn changes {how}, says its model.", how=how))
        case ScrewKnowledge.TAUGHT:
            said.append(tr("A turn changes {how}, as the last adjustment has shown.", how=how))
        case ScrewKnowledge.TAKEN:
            said.append(tr("A turn is taken to change {how}, as on most tools; its model does not say.", how=how))
    if whole.lock and whole.changes is ErrorKind.OFFSET:
        said.append(
            tr("Locking moved it by {lock} the last time, which is counted.", lock=quantity(whole.lock, unit, 2))
        )
    return " ".join(said)
