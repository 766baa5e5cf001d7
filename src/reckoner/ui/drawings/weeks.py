"""The work of the next twelve months: a bar a week, its count above, months along."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.quantities.days import day_words, month_words, short_day
from reckoner.core.translation import tr
from reckoner.shop.planning.workload import Week, Workload
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.text import tip


class Weeks(QWidget):
    """Click or arrow keys choose a week. Signal ``chosen(Week)``."""

    chosen = pyqtSignal(object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._work: Workload | None = None
        self.at = 0
        theme.changed.connect(self.update)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(26 * GRID)
        self.setAccessibleName(tr("Tools due each week"))

    def show_work(self, work: Workload) -> None:
        """Another state of it."""
        self._work = work
        self.at = min(self.at, len(work.weeks) - 1)
        said = "; ".join(f"{short_day(w.begins)}: {w.count}" for w in work.weeks if w.count)
        self.setAccessibleDescription(said or tr("nothing is due"))
        self.update()

    @property
    def week(self) -> Week | None:
        """The chosen one."""
        return self._work.weeks[self.at] if self._work is not None else None

    def choose(self, place: int) -> None:
        """Choose a week by its place."""
        if self._work is not None and 0 <= place < len(self._work.weeks):
            self.at = place
            self.update()
            self.chosen.emit(self._work.weeks[place])

    def sizeHint(self) -> QSize:
        return QSize(100 * GRID, 26 * GRID)

    def _yard(self) -> QRectF:
        return QRectF(self.rect()).adjusted(GRID, 4 * GRID, -GRID, -4 * GRID)

    def _bar(self, place: int, count: int, most: int) -> QRectF:
        yard, weeks = self._yard(), len(self._work.weeks) if self._work is not None else 1
        step = yard.width() / weeks
        high = yard.height() * count / most
        return QRectF(yard.left() + place * step + 1, yard.bottom() - high, step - 2, high)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        work, theme = self._work, self._theme
        if work is None:
            return
        painter, yard = QPainter(self), self._yard()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        most = max(4, *(w.count for w in work.weeks))
        painter.setFont(theme.font(Type.CAPTION))
        for i, week in enumerate(work.weeks):
            whole = self._bar(i, most, most)
            if i == self.at:
                painter.fillRect(whole.adjusted(-1, -2 * GRID, 1, 0), theme.color("accent_wash"))
            bar = self._bar(i, week.count, most)
            over = week.count > work.even
            painter.fillRect(bar, theme.hatch() if over else theme.color("inside"))
            if over:
                painter.setPen(theme.pen("near", 1.5))
                painter.drawRect(bar)
            if week.count:
                painter.setPen(theme.color("ink"))
                where = QRectF(whole.left() - GRID, bar.top() - 2 * GRID - 2, whole.width() + 2 * GRID, 2 * GRID)
                painter.drawText(where, Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignBottom, str(week.count))
            if week.begins.day <= 7:
                painter.setPen(theme.color("quiet"))
                where = QRectF(whole.left() - GRID, yard.bottom() + GRID, 8 * GRID, 2 * GRID)
                words = month_words(week.begins, year=week.begins.month == 1)
                painter.drawText(where, Qt.AlignmentFlag.AlignLeft, words)
                painter.setPen(theme.pen("line", 1))
                painter.drawLine(QPointF(whole.left(), yard.bottom()), QPointF(whole.left(), yard.bottom() + GRID))
        even = yard.bottom() - yard.height() * work.even / most
        painter.setPen(theme.pen("quiet", 1))
        painter.drawLine(QPointF(yard.left(), even), QPointF(yard.right(), even))
        painter.setPen(theme.pen("focus" if self.hasFocus() else "line", 2))
        painter.drawLine(yard.bottomLeft(), yard.bottomRight())

    def _place(self, x: float) -> int:
        yard = self._yard()
        weeks = len(self._work.weeks) if self._work is not None else 1
        return int((x - yard.left()) / yard.width() * weeks)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            self.choose(self._place(event.position().x()))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._work is None:
            return
        place = self._place(event.position().x())
        if 0 <= place < len(self._work.weeks):
            week = self._work.weeks[place]
            self.setToolTip(tip(tr("Week of {begins}: {count} due", begins=day_words(week.begins), count=week.count)))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key())) if event is not None else None
        if step is not None:
            self.choose(self.at + step)
        else:
            super().keyPressEvent(event)
