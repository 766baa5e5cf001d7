"""The day's lists as one table of tags: model, delegate and view. Only what is looked at is read."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from typing import Any

from PyQt6.QtCore import QAbstractTableModel, QEvent, QModelIndex, QObject, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QFontMetrics, QKeyEvent, QMouseEvent, QPainter, QResizeEvent
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
)

from reckoner.core.translation import tr
from reckoner.shop.planning.agenda import PAGE, Agenda, AgendaItem, DayList
from reckoner.ui.pages import Pages
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.table import BareTable
from reckoner.ui.widgets.tag import TAG_SIZE, paint_blank, paint_tag, tag_words
from reckoner.ui.widgets.text import tip

WORDS: dict[DayList, tuple[str, str]] = {
    DayList.UNFINISHED: (tr("Unfinished"), tr("begun on the bench, not signed")),
    DayList.OVERDUE: (tr("Overdue"), tr("not to be used until tested")),
    DayList.DUE_SOON: (tr("Due within 30 days"), ""),
    DayList.HELD: (tr("Held"), tr("not to be used")),
    DayList.LATE_LOANS: (tr("Lent out past their date"), ""),
    DayList.LATE_TRIPS: (tr("Late from a laboratory"), ""),
    DayList.REVIEWS: (tr("To be reviewed"), tr("each use since it was last good")),
}
"""A list's title, and what it means."""

TITLE_HEIGHT = 5 * GRID
LINE_HEIGHT = TAG_SIZE.height() + 4 * GRID
COLUMN_WIDTH = TAG_SIZE.width() + 2 * GRID

TitleRole = Qt.ItemDataRole.UserRole + 1


@dataclass(frozen=True)
class _Section:
    """One list in the table: its title stands at ``row``, its tags in the ``lines`` below."""

    waiting: DayList
    count: int
    row: int
    lines: int


class DayModel(QAbstractTableModel):
    """``UserRole`` gives the Item of a tag, None while it is on its way; ``TitleRole`` a title's (words, count, note).

    Signals ``wanted(waiting, start)``: the page of a list that begins there is to be taken.
    """

    wanted = pyqtSignal(object, int)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._sections: tuple[_Section, ...] = ()
        self._pages: dict[DayList, Pages[AgendaItem]] = {}
        self._found = Agenda()
        self._columns = 3
        self._today = date.min

    def show(self, found: Agenda, columns: int, today: date) -> None:
        """Another day, or another width."""
        self.beginResetModel()
        if found is not self._found:
            self._pages = {w: Pages(PAGE, self._asking(w)) for w in DayList}
            for waiting, pages in self._pages.items():
                pages.begin(found.shown(waiting), 0, found.of(waiting))
        self._found, self._columns, self._today = found, columns, today
        sections, row = [], 0
        for waiting in DayList:
            count = found.shown(waiting)
            if count:
                lines = -(-count // columns)
                sections.append(_Section(waiting, count, row, lines))
                row += 1 + lines
        self._sections = tuple(sections)
        self.endResetModel()

    def _asking(self, waiting: DayList) -> Callable[[int], None]:
        return lambda start: self.wanted.emit(waiting, start)

    def take(self, waiting: DayList, start: int, items: tuple[AgendaItem, ...]) -> None:
        """A page of a list."""
        self._pages[waiting].take(start, items)
        self.dataChanged.emit(self.index(0, 0), self.index(self.rowCount() - 1, self.columnCount() - 1))

    @property
    def titles(self) -> tuple[int, ...]:
        """The rows of the titles."""
        return tuple(section.row for section in self._sections)

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        if parent.isValid() or not self._sections:
            return 0
        return self._sections[-1].row + 1 + self._sections[-1].lines

    def columnCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return 0 if parent.isValid() else self._columns

    def _section(self, row: int) -> _Section:
        return next(s for s in reversed(self._sections) if s.row <= row)

    def _place(self, index: QModelIndex) -> int | None:
        """Where in its list a cell stands; None for a title, and behind the end."""
        section = self._section(index.row())
        at = (index.row() - section.row - 1) * self._columns + index.column()
        return at if index.row() > section.row and at < section.count else None

    def _note(self, section: _Section) -> str:
        """What a list means; of very many that are overdue, which of them stand here."""
        if section.count == self._found.counts[section.waiting]:
            return WORDS[section.waiting][1]
        return tr("the first {count}, as planned; all of them under “Catching up”", count=section.count)

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        if not index.isValid() or self._place(index) is None:
            return Qt.ItemFlag.NoItemFlags
        return Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid() or not 0 <= index.row() < self.rowCount():
            return None
        section, at = self._section(index.row()), self._place(index)
        if at is None:
            title = (WORDS[section.waiting][0], self._found.counts[section.waiting], self._note(section))
            return title if role == TitleRole and index.row() == section.row else None
        item = self._pages[section.waiting].get(at)
        if item is None or role == Qt.ItemDataRole.UserRole:
            return item
        words = f"{tag_words(item.card, self._today)}, {item.why}"
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole):
            return words
        if role == Qt.ItemDataRole.ToolTipRole:
            loan = tr("\nlent to {to}", to=item.card.loan.to) if item.card.loan else ""
            return tip(f"{words}{loan}")
        return None


class DayDelegate(QStyledItemDelegate):
    """Paints titles, and tags with their reasons."""

    def __init__(self, theme: Theme, parent: QObject) -> None:
        super().__init__(parent)
        self._theme = theme
        self.today = date.min

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(COLUMN_WIDTH, LINE_HEIGHT)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        if painter is None:
            return
        title = index.data(TitleRole)
        item = index.data(Qt.ItemDataRole.UserRole)
        box = QRectF(option.rect)
        tag = QRectF(box.topLeft(), TAG_SIZE.toSizeF())
        if title is not None:
            self._title(painter, box, *title)
        elif item is not None:
            chosen = bool(option.state & QStyle.StateFlag.State_MouseOver) and not item.card.held
            focus = bool(option.state & QStyle.StateFlag.State_HasFocus)
            paint_tag(painter, self._theme, tag, item.card, self.today, chosen=chosen, focus=focus)
            self._why(painter, QRectF(tag.left(), tag.bottom() + 2, tag.width(), 2 * GRID), item.why)
        elif index.flags() & Qt.ItemFlag.ItemIsEnabled:
            paint_blank(painter, self._theme, tag)

    def _title(self, painter: QPainter, box: QRectF, words: str, count: int, note: str) -> None:
        theme = self._theme
        head, font = f"{words}  {count}", theme.font(Type.LEAD)
        painter.save()
        painter.setFont(font)
        painter.setPen(theme.color("ink"))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, head)
        painter.setFont(theme.font(Type.BODY))
        painter.setPen(theme.color("quiet"))
        beside = box.adjusted(QFontMetrics(font).horizontalAdvance(head) + 2 * GRID, 0, 0, 0)
        painter.drawText(beside, Qt.AlignmentFlag.AlignVCenter, note)
        painter.restore()

    def _why(self, painter: QPainter, box: QRectF, why: str) -> None:
        font = self._theme.font(Type.CAPTION)
        painter.save()
        painter.setFont(font)
        painter.setPen(self._theme.color("quiet"))
        shown = QFontMetrics(font).elidedText(why, Qt.TextElideMode.ElideRight, int(box.width()))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextSingleLine, shown)
        painter.restore()


class DayLists(BareTable):
    """The view. Arrow keys move among the tags; ``opened(Item)`` when one is clicked.

    Signals ``widened()`` when another number of tags fits side by side.
    """

    opened = pyqtSignal(object)
    widened = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme, high=LINE_HEIGHT, wide=COLUMN_WIDTH)
        self.day = DayModel(self)
        self.setModel(self.day)
        self._delegate = DayDelegate(theme, self)
        self.setItemDelegate(self._delegate)
        self.columns = 3
        self._titles: tuple[int, ...] = ()
        self.setMouseTracking(True)
        self.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        self.setAccessibleName(tr("What waits today"))
        self.clicked.connect(self._open)

    def show_day(self, found: Agenda, today: date) -> None:
        """Show the day, with as many tags side by side as fit."""
        at = (self.currentIndex().row(), self.currentIndex().column())
        self._delegate.today = today
        self.day.show(found, self.columns, today)
        self.clearSpans()
        for row in self._titles:  # a table keeps its rows' heights, whatever stands in them now
            self.setRowHeight(row, LINE_HEIGHT)
        self._titles = self.day.titles
        for row in self._titles:
            self.setRowHeight(row, TITLE_HEIGHT)
            if self.columns > 1:
                self.setSpan(row, 0, 1, self.columns)
        where = self.day.index(*at)
        if self.day.flags(where) & Qt.ItemFlag.ItemIsEnabled:
            self.setCurrentIndex(where)

    @property
    def current(self) -> AgendaItem | None:
        """The tag that has the focus; None while something else has it."""
        found: AgendaItem | None = self.currentIndex().data(Qt.ItemDataRole.UserRole) if self.hasFocus() else None
        return found

    def _open(self, index: QModelIndex) -> None:
        item = index.data(Qt.ItemDataRole.UserRole)
        if item is not None:
            self.opened.emit(item)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        """Coming by the keyboard, the first tag is the current one."""
        super().focusInEvent(event)
        if not self.currentIndex().isValid() and self.day.rowCount():
            self.setCurrentIndex(self.day.index(1, 0))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrow keys go over titles and gaps; others are the place's."""
        steps = {Qt.Key.Key_Down: (1, 0), Qt.Key.Key_Up: (-1, 0), Qt.Key.Key_Right: (0, 1), Qt.Key.Key_Left: (0, -1)}
        step = steps.get(Qt.Key(event.key())) if event is not None else None
        if step is not None:
            self._move(*step)
        elif event is not None and event.key() in (Qt.Key.Key_PageDown, Qt.Key.Key_PageUp):
            super().keyPressEvent(event)
        elif event is not None:
            event.ignore()

    def _move(self, down: int, right: int) -> None:
        at = self.currentIndex()
        if right:
            target = at.siblingAtColumn(at.column() + right)
            if not target.flags() & Qt.ItemFlag.ItemIsEnabled:
                target = self._next_line(at.row(), right, self.columns - 1 if right < 0 else 0)
        else:
            target = self._next_line(at.row(), down, at.column())
        if target.isValid():
            self.setCurrentIndex(target)

    def _next_line(self, row: int, step: int, column: int) -> QModelIndex:
        """The tag in the next line that way, at ``column`` or the last before it."""
        row += step
        while 0 <= row < self.day.rowCount():
            for there in range(column, -1, -1):
                found = self.day.index(row, there)
                if found.flags() & Qt.ItemFlag.ItemIsEnabled:
                    return found
            row += step
        return QModelIndex()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        super().mouseMoveEvent(event)
        viewport = self.viewport()
        if event is not None and viewport is not None:
            over = self.indexAt(event.pos()).flags() & Qt.ItemFlag.ItemIsEnabled
            viewport.setCursor(Qt.CursorShape.PointingHandCursor if over else Qt.CursorShape.ArrowCursor)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        fits = max(1, self.width() // COLUMN_WIDTH)
        if fits != self.columns:
            self.columns = fits
            self.widened.emit()

    def viewportEvent(self, event: QEvent | None) -> bool:
        done = super().viewportEvent(event)
        if event is not None and event.type() == QEvent.Type.Leave:
            self.repaint_all()
        return done
