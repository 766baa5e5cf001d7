"""Before and after side by side: as it came, as found and as left at each point, with what was done between."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.quantities.printing import percent
from reckoner.ui.drawings.fence import FenceState, paint_fence
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID

HEAD, LINE, NAME, BETWEEN = 3.0 * GRID, 6.5 * GRID, 10.0 * GRID, 11.0 * GRID


@dataclass(frozen=True)
class ComparedStage:
    """One state of the tool: its ``words``, a fence for each point (None: not looked at there), and what was done before."""

    words: str
    fences: tuple[FenceState | None, ...]
    done_before: str = ""


class BeforeAfter(QWidget):
    """A row for each point, a column for each stage."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._points: tuple[str, ...] = ()
        self._stages: tuple[ComparedStage, ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.update)

    def show_stages(self, points: tuple[str, ...], stages: tuple[ComparedStage, ...]) -> None:
        """Show what was found at each of the ``points`` in each stage."""
        self._points, self._stages = points, stages
        told = []
        for stage in stages:
            means = [
                f"{point} {percent(f.mean, 1, sign=True)}"
                for point, f in zip(points, stage.fences, strict=True)
                if f is not None and f.mean is not None
            ]
            told.append(f"{stage.words}: {', '.join(means)}")
        self.setAccessibleName("; ".join(told))
        self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(60 * GRID, round(HEAD + LINE * max(1, len(self._points))))

    def minimumSizeHint(self) -> QSize:
        return QSize(40 * GRID, self.sizeHint().height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self._stages:
            return
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        gaps = BETWEEN * (len(self._stages) - 1)
        wide = max(12 * GRID, (self.width() - NAME - gaps) / len(self._stages))
        for i, stage in enumerate(self._stages):
            left = NAME + i * (wide + BETWEEN)
            painter.setFont(theme.font(Type.STRONG))
            painter.setPen(theme.color("ink"))
            painter.drawText(QRectF(left, 0, wide, HEAD), Qt.AlignmentFlag.AlignLeft, stage.words)
            if stage.done_before:
                self._done(painter, left - BETWEEN, stage.done_before)
            for j, fence in enumerate(stage.fences):
                yard = QRectF(left, HEAD + j * LINE, wide, LINE - 1.5 * GRID)
                if fence is not None:
                    paint_fence(painter, theme, yard, fence)
        painter.setFont(theme.font(Type.CAPTION))
        painter.setPen(theme.color("quiet"))
        for j, words in enumerate(self._points):
            where = QRectF(0, HEAD + j * LINE, NAME - GRID, LINE - 1.5 * GRID)
            painter.drawText(where, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, words)
        painter.end()

    def _done(self, painter: QPainter, left: float, words: str) -> None:
        """What was done between two stages, over an arrow."""
        theme, y = self._theme, HEAD + LINE * len(self._points) / 2 - 0.75 * GRID
        begin, end = QPointF(left + GRID, y), QPointF(left + BETWEEN - GRID, y)
        painter.setPen(theme.pen("ink", 2))
        painter.drawLine(begin, end)
        painter.setBrush(theme.color("ink"))
        painter.drawPolygon(QPolygonF([end, end + QPointF(-7, -4), end + QPointF(-7, 4)]))
        painter.setFont(theme.font(Type.CAPTION))
        box = QRectF(left, y - 5 * GRID, BETWEEN, 4.5 * GRID)
        painter.drawText(
            box, Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignBottom | Qt.TextFlag.TextWordWrap, words
        )
