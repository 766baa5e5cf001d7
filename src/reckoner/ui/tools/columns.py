"""The tools as a table, for the office: dense, sorted by what is pressed above it, many chosen at once.

To add a column: a row in ``COLUMNS``; to sort by it as well, a member of ``shop.register.cards.ToolOrder``.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from functools import partial
from typing import Any

from PyQt6.QtCore import QModelIndex, QObject, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPen, QResizeEvent
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QPushButton,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from reckoner.core.quantities.days import day_words
from reckoner.core.translation import tr
from reckoner.shop.events.standing import Condition
from reckoner.shop.register.cards import ToolCard, ToolOrder
from reckoner.shop.register.lists import BY_NUMBER, Sorting
from reckoner.ui.layout import column
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.tools.tools_list import PagedTools
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.mark import paint_mark
from reckoner.ui.widgets.table import BareTable
from reckoner.ui.widgets.text import label, tip

HIGH = 4 * GRID


@dataclass(frozen=True)
class Column:
    """A column: its title, its share of the width, what it says, how it is sorted (None: it is not), its side, and of which
    tools it says something that stops them."""

    title: str
    share: int
    says: Callable[[ToolCard, date], str]
    order: ToolOrder | None = None
    right: bool = False
    stops: Callable[[ToolCard, date], bool] = lambda _card, _today: False


def _number(card: ToolCard, _today: date) -> str:
    return card.tool.number


def _kind(card: ToolCard, _today: date) -> str:
    return card.tool.description


def _range(card: ToolCard, _today: date) -> str:
    return card.range_words


def _place(card: ToolCard, _today: date) -> str:
    return card.tool.place


def _stands(card: ToolCard, today: date) -> str:
    """What is to be known of it, beside its date."""
    if card.held:
        return tr("held: {held}", held=card.held)
    if card.loan is not None:
        return tr("lent to {to}", to=card.loan.to)
    if card.standing.away is not None:
        return tr("away: {to}", to=card.standing.away.to)
    first = next(iter(card.standing.conditions(today)), Condition.NEW)
    return "" if first in (Condition.IN_DATE, Condition.DUE, Condition.OVERDUE, Condition.NEW) else tr(first)


def _tested(card: ToolCard, _today: date) -> str:
    last = card.standing.last_run
    return day_words(last) if last is not None else tr("never")


def _due(card: ToolCard, _today: date) -> str:
    due = card.standing.due
    return day_words(due.on) if due is not None else ""


def _left(card: ToolCard, today: date) -> str:
    return card.due_words(today)


def _held(card: ToolCard, _today: date) -> bool:
    return bool(card.held)


COLUMNS = (
    Column(tr("Number"), 17, _number, ToolOrder.NUMBER),
    Column(tr("Kind"), 21, _kind, ToolOrder.KIND),
    Column(tr("Range"), 14, _range, ToolOrder.FULL_SCALE, right=True),
    Column(tr("Kept at"), 14, _place, ToolOrder.PLACE),
    Column(tr("Stands"), 15, _stands, stops=_held),
    Column(tr("Last test"), 16, _tested, right=True),
    Column(tr("Due"), 16, _due, ToolOrder.DUE, right=True),
    Column("", 12, _left, right=True, stops=ToolCard.stopped),
)
SHARES = sum(c.share for c in COLUMNS)


class ColumnsModel(PagedTools):
    """A cell says its text; ``UserRole`` gives the row's ToolCard."""

    def columnCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return 0 if parent.isValid() else len(COLUMNS)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        card = self.card_at(index)
        if role == Qt.ItemDataRole.UserRole or card is None:
            return card
        words = COLUMNS[index.column()].says(card, self._today)
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole):
            return words
        return tip(words) if role == Qt.ItemDataRole.ToolTipRole and words else None


class _Cells(QStyledItemDelegate):
    """Paints a cell: a wash where its row is chosen, a line below, its words elided."""

    def __init__(self, theme: Theme, today: date, parent: QObject) -> None:
        super().__init__(parent)
        self._theme, self._today = theme, today

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(10 * GRID, HIGH)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        if painter is None:
            return
        theme, box = self._theme, QRectF(option.rect)
        card: ToolCard | None = index.data(Qt.ItemDataRole.UserRole)
        painter.save()
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(box, theme.color("accent_wash"))
        painter.setPen(QPen(theme.color("line"), 1))
        painter.drawLine(box.bottomLeft(), box.bottomRight())
        if card is not None:
            self._words(painter, box, card, index.column())
        if option.state & QStyle.StateFlag.State_HasFocus:
            painter.setPen(QPen(theme.color("accent"), 2))
            painter.drawRect(box.adjusted(1, 1, -1, -1))
        painter.restore()

    def _words(self, painter: QPainter, box: QRectF, card: ToolCard, place: int) -> None:
        theme, says = self._theme, COLUMNS[place]
        text = box.adjusted(GRID, 0, -GRID, 0)
        if place == 0:
            paint_mark(painter, theme, QRectF(text.left(), text.top() + 8, 3 * GRID, text.height() - 16), card.state)
            text = text.adjusted(3.5 * GRID, 0, 0, 0)
        words = says.says(card, self._today)
        stopped = bool(card.held) or card.retired
        loud = says.stops(card, self._today)
        tone = "outside" if loud else "quiet" if stopped and place not in (0, len(COLUMNS) - 1) else "ink"
        font = theme.font(Type.STRONG if place in (0, len(COLUMNS) - 1) else Type.BODY)
        painter.setFont(font)
        painter.setPen(theme.color(tone))
        side = Qt.AlignmentFlag.AlignRight if says.right else Qt.AlignmentFlag.AlignLeft
        shown = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, int(text.width()))
        painter.drawText(text, side | Qt.AlignmentFlag.AlignVCenter, shown)


class _ColumnsView(BareTable):
    """Rows are chosen whole: with Shift a stretch of them, with Ctrl one more, with Ctrl+A all. Enter opens the one in
    front: signal ``opened()``."""

    opened = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme, high=HIGH, wide=10 * GRID)
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setAccessibleName(tr("Tools as a table"))
        self.doubleClicked.connect(lambda _index: self.opened.emit())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            event.ignore()  # the place's, once the screen was seen
            return
        super().keyPressEvent(event)


class ColumnsTable(QWidget):
    """Signals ``sorted(Sorting)`` when another order is wanted, ``opened(tool_id)``, ``chosen(count)`` whenever other rows
    are chosen."""

    sorted = pyqtSignal(object)
    opened = pyqtSignal(int)
    chosen = pyqtSignal(int)

    def __init__(self, theme: Theme, today: date) -> None:
        super().__init__()
        self._theme = theme
        self.sorting = BY_NUMBER
        self.tools = ColumnsModel(today, self)
        self.table = _ColumnsView(theme)
        self.table.setModel(self.tools)
        self._delegate = _Cells(theme, today, self.table)
        self.table.setItemDelegate(self._delegate)
        self.table.opened.connect(self.open_current)
        selection = self.table.selectionModel()
        if selection is not None:
            selection.selectionChanged.connect(lambda _on, _off: self.chosen.emit(self.count))
        self.heads: dict[ToolOrder, QPushButton] = {}
        self._cells: list[QWidget] = []
        head = QWidget()
        self._head = QHBoxLayout(head)
        self._head.setContentsMargins(0, 0, 0, 0)
        self._head.setSpacing(0)
        for one in COLUMNS:
            self._head.addWidget(self._title(one))
        self._head.addStretch(1)
        layout = column(head, self.table, gap=0)
        layout.setStretch(1, 1)
        self.setLayout(layout)
        self._update_state()

    def _title(self, one: Column) -> QWidget:
        if one.order is None:
            made: QWidget = label(self._theme, one.title, Type.CAPTION, "quiet")
            made.setContentsMargins(GRID, 0, GRID, 0)
            if one.right:
                made.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)  # type: ignore[attr-defined]
        else:
            made = self.heads[one.order] = button(self._theme, one.title, partial(self._sort, one.order), "head")
            made.setToolTip(tr("Sort by {lower}; again: the other way round", lower=one.title.lower()))
            made.setProperty("right", one.right)
            made.setFont(self._theme.font(Type.CAPTION))
        self._cells.append(made)
        return made

    def _sort(self, order: ToolOrder) -> None:
        self.sorting = Sorting(order, order is self.sorting.by and not self.sorting.down)
        self._update_state()
        self.sorted.emit(self.sorting)

    def _update_state(self) -> None:
        """Say by which column it is sorted, and which way."""
        for one in COLUMNS:
            if one.order is not None:
                way = ("  ▾" if self.sorting.down else "  ▴") if one.order is self.sorting.by else ""
                self.heads[one.order].setText(f"{one.title}{way}")

    @property
    def count(self) -> int:
        """How many rows are chosen."""
        return sum(last - first + 1 for first, last in self.spans)

    @property
    def spans(self) -> tuple[tuple[int, int], ...]:
        """The chosen rows, as stretches from first to last."""
        selection = self.table.selectionModel()
        if selection is None:
            return ()
        chosen = selection.selection()
        spans = (chosen[i] for i in range(len(chosen)))
        return tuple(sorted({(span.top(), span.bottom()) for span in spans}))

    @property
    def current(self) -> ToolCard | None:
        """The tool of the row in front."""
        return self.tools.card_at(self.table.currentIndex())

    def open_current(self) -> None:
        """Open the sheet of the row in front."""
        found = self.current
        if found is not None:
            self.opened.emit(found.tool.id)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        bar = self.table.verticalScrollBar()
        wide = self.width() - (bar.sizeHint().width() if bar is not None else 0)
        for i, (one, head) in enumerate(zip(COLUMNS, self._cells, strict=True)):
            width = wide * one.share // SHARES
            self.table.setColumnWidth(i, width)
            head.setFixedWidth(width)
