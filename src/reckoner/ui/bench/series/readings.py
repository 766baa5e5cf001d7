"""The readings by point: a row for each series, struck ones visible and struck, the mean deviation at the end.
Where some came from a meter and some were typed, those typed have dots beneath."""

from __future__ import annotations

from collections.abc import Iterator

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.quantities.printing import THIN, percent
from reckoner.core.translation import tr
from reckoner.shop.runs.records import ObservationState, SeriesState, Step, is_half
from reckoner.shop.runs.state import RunState
from reckoner.shop.words.comparisons import place_name
from reckoner.shop.words.results import reading_figure, settable, torque_figure
from reckoner.store.terms import ObservationKind, Source
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID

QUESTION = "?"
"""Stands before a reading that is asked about, and in place of the mean of its series."""

LINE = 5 * GRID
LABEL = 10 * GRID
MEAN = 10 * GRID
TOLD = 3 * GRID
PAIRED_WORDS = tr("Small, above: what the tool showed.")
PAIRED = 10
"""Pixels by which a reading gives way to what the tool showed above it."""

TYPED_WORDS = tr("Dots beneath: typed.")
ROOMY = 72
"""A cell narrower than this, in pixels, takes smaller figures."""


class ReadingsGrid(QWidget):
    """Numbers right-aligned on the decimal mark, in the tool's unit. Signal ``picked(id)``: an observation was clicked."""

    picked = pyqtSignal(object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._run: RunState | None = None
        self._marked: object = None
        theme.changed.connect(self.update)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)

    def show_run(self, run: RunState) -> None:
        self._run = run
        said = "; ".join(
            tr(
                "{kind}: {count} of {wanted}",
                kind=settable(run.tool.kind, s.target, run.tool.unit),
                count=len(s.pairs),
                wanted=s.wanted,
            )
            for s in _shown(run)
        )
        told = f". {legend}" if (legend := _legend(run)) else ""
        self.setAccessibleName(tr("Readings: {said}{told}", said=said, told=told))
        self.updateGeometry()
        self.update()

    def mark(self, observation_id: object) -> None:
        """Frame the cell of an observation; None: no cell."""
        self._marked = observation_id
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """A reading that is clicked may be struck."""
        at = event.position() if event is not None else QPointF()
        hit = next(
            (o for row, s in self._laid_out() for i, o in enumerate(_cells(s)) if self._cell(row, i).contains(at)), None
        )
        if hit is not None and hit.counts:
            self.picked.emit(hit.id)
        super().mousePressEvent(event)

    def _laid_out(self) -> Iterator[tuple[QRectF, SeriesState]]:
        """Each series with the rectangle of its row."""
        top = 3.0 * GRID
        for series in _shown(self._run) if self._run is not None else ():
            height = LINE * self._rows(series)
            yield QRectF(0, top, self.width(), height), series
            top += height

    def sizeHint(self) -> QSize:
        rows = sum(self._rows(s) for s in _shown(self._run)) if self._run else 3
        told = TOLD if self._run is not None and _legend(self._run) else 0
        return QSize(60 * GRID, LINE * rows + 3 * GRID + told)

    def minimumSizeHint(self) -> QSize:
        return QSize(40 * GRID, self.sizeHint().height())

    def _per_row(self) -> int:
        return 5

    def _scale(self) -> float:
        """How large figures are written: smaller where the window is narrow."""
        return min(1.0, max(0.72, (self.width() - LABEL - MEAN) / self._per_row() / ROOMY))

    def _rows(self, series: SeriesState) -> int:
        cells = len(_cells(series)) + _slots(series)
        return max(1, -(-cells // self._per_row()))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        run = self._run
        if run is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._head(painter, run)
        both, top = len(run.tool.directions) > 1, 3.0 * GRID
        for row, series in self._laid_out():
            self._series(painter, run, series, row, both=both)
            top = row.bottom()
        if legend := _legend(run):
            painter.setFont(self._theme.font(Type.CAPTION))
            painter.setPen(self._theme.color("quiet"))
            painter.drawText(QRectF(GRID, top, self.width() - 2 * GRID, TOLD), Qt.AlignmentFlag.AlignRight, legend)

    def _cell(self, row: QRectF, index: int) -> QRectF:
        width = (self.width() - LABEL - MEAN) / self._per_row()
        line, place = divmod(index, self._per_row())
        return QRectF(LABEL + place * width, row.top() + line * LINE, width, LINE)

    def _head(self, painter: QPainter, run: RunState) -> None:
        painter.setFont(self._theme.font(Type.CAPTION))
        painter.setPen(self._theme.color("quiet"))
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        head, mean = (
            (tr("step") if run.policy.diary else tr("side"), tr("mean"))
            if run.policy.beside_first
            else (tr("set, {symbol}", symbol=run.tool.unit.symbol), tr("mean dev."))
        )
        painter.drawText(QRectF(0, 0, LABEL - GRID, 3 * GRID), right, head)
        painter.drawText(QRectF(self.width() - MEAN, 0, MEAN - GRID, 3 * GRID), right, mean)
        for i in range(self._per_row()):
            cell = self._cell(QRectF(0, 0, 0, 0), i)
            painter.drawText(QRectF(cell.left(), 0, cell.width() - GRID, 3 * GRID), right, str(i + 1))

    def _series(self, painter: QPainter, run: RunState, series: SeriesState, row: QRectF, *, both: bool) -> None:
        theme = self._theme
        now = run.current is series
        if now:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("accent_wash"))
            painter.drawRoundedRect(row.adjusted(0, 2, 0, -2), 4, 4)
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        painter.setFont(theme.font(Type.FIGURE_STRONG, self._scale()))
        painter.setPen(theme.color("ink"))
        shown = settable(run.tool.kind, series.target, run.tool.unit).removesuffix(f"{THIN}{run.tool.unit.symbol}")
        side = place_name(run, series)
        if side:
            painter.setFont(theme.font(Type.CAPTION))
            shown = painter.fontMetrics().elidedText(side, Qt.TextElideMode.ElideRight, LABEL - GRID)
        painter.drawText(QRectF(0, row.top(), LABEL - GRID, LINE), right, shown)
        if both and not side:
            painter.setFont(theme.font(Type.CAPTION))
            painter.setPen(theme.color("quiet"))
            left = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
            painter.drawText(QRectF(GRID, row.top(), 5 * GRID, LINE), left, series.direction)
        cells = _cells(series)
        for i, observation in enumerate(cells):
            self._value(painter, run, self._cell(row, i), series, observation)
        for i in range(_slots(series)):
            self._slot(painter, self._cell(row, len(cells) + i), now=now and i == 0)
        pairs = series.pairs
        if pairs:
            mean = sum(p.deviation for p in pairs) / len(pairs)
            painter.setFont(
                theme.font(Type.FIGURE_STRONG if len(pairs) == series.wanted else Type.FIGURE, self._scale())
            )
            painter.setPen(theme.color("ink"))
            box = QRectF(self.width() - MEAN, row.top(), MEAN - GRID, LINE)
            means = torque_figure(run, series.mean) if side else percent(mean, 2, sign=True)
            painter.drawText(box, right, QUESTION if run.asks_about(series) else means)

    def _value(
        self, painter: QPainter, run: RunState, cell: QRectF, series: SeriesState, observation: ObservationState
    ) -> None:
        theme, struck = self._theme, bool(observation.struck)
        text = reading_figure(run, observation)
        if is_half(observation.detail):
            self._shown(painter, run, cell, series, observation)
            cell = cell.adjusted(0, PAIRED, 0, PAIRED / 2)
        painter.setFont(theme.font(Type.FIGURE, self._scale()))
        painter.setPen(theme.color("quiet" if struck else "ink"))
        box = cell.adjusted(0, 0, -GRID, 0)
        painter.drawText(box, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, text)
        if observation.source is Source.TYPED and mixed(run):
            wide = painter.fontMetrics().horizontalAdvance(text)
            painter.setPen(QPen(theme.color("quiet"), 2, Qt.PenStyle.DotLine))
            y = box.center().y() + painter.fontMetrics().capHeight() / 2 + 6
            painter.drawLine(QPointF(box.right() - wide, y), QPointF(box.right(), y))
        if any(observation.id in one.ids for one in run.asked):
            painter.setPen(theme.color("outside"))
            wide = painter.fontMetrics().horizontalAdvance(text)
            painter.drawText(
                box.adjusted(0, 0, -wide - GRID / 2, 0),
                Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
                QUESTION,
            )
        if observation.id == self._marked:
            painter.setPen(QPen(theme.color("outside"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(cell.adjusted(GRID, 6, -4, -6), 4, 4)
        if struck:
            wide = painter.fontMetrics().horizontalAdvance(text)
            painter.setPen(QPen(theme.color("outside"), 2))
            y = box.center().y() + 1
            painter.drawLine(QPointF(box.right() - wide - 3, y), QPointF(box.right() + 3, y))

    def _shown(
        self, painter: QPainter, run: RunState, cell: QRectF, series: SeriesState, observation: ObservationState
    ) -> None:
        """What the tool showed, small above what was read."""
        pair = series.pair_of(observation)
        painter.setFont(self._theme.font(Type.CAPTION))
        painter.setPen(self._theme.color("quiet" if pair is not None else "accent"))
        box = QRectF(cell.left(), cell.top() + 4, cell.width() - GRID, 2 * GRID)
        words = torque_figure(run, pair.tool) if pair is not None else "?"
        painter.drawText(box, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, words)

    def _slot(self, painter: QPainter, cell: QRectF, *, now: bool) -> None:
        theme = self._theme
        if now:
            painter.setPen(QPen(theme.color("accent"), 2))
            painter.setBrush(theme.color("surface"))
            painter.drawRoundedRect(cell.adjusted(GRID, 6, -4, -6), 4, 4)
        else:
            painter.setPen(QPen(theme.color("line"), 2))
            y = cell.center().y() + 4
            painter.drawLine(QPointF(cell.right() - 6 * GRID, y), QPointF(cell.right() - GRID, y))


def _legend(run: RunState) -> str:
    """What has to be told of how the cells look."""
    said = (PAIRED_WORDS if run.paired else "", TYPED_WORDS if mixed(run) else "")
    return " ".join(words for words in said if words)


def mixed(run: RunState) -> bool:
    """Whether some of what is shown was typed, and some came from the meter."""
    typed = {o.source is Source.TYPED for s in _shown(run) for o in _cells(s)}
    return len(typed) > 1


def _cells(series: SeriesState) -> tuple[ObservationState, ...]:
    """The observations that have a cell: what a display showed stands in that of its pull."""
    return tuple(o for o in series.observations if o.kind is not ObservationKind.SHOWN)


def _slots(series: SeriesState) -> int:
    """How many cells are still empty."""
    return series.missing - (1 if series.awaiting is not None else 0)


def _shown(run: RunState) -> tuple[SeriesState, ...]:
    """The series with a row: as it came alone, while that is taken."""
    return run.came if run.step is Step.AS_IT_CAME else run.series
