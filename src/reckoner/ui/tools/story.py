"""What happened to a tool, as a list that is as high as it is long: it stands in a page that scrolls, and only what is seen
of it is painted.

To show something else in a line: ``StoryDelegate.paint``.
"""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import QAbstractListModel, QEvent, QModelIndex, QObject, QRectF, QSignalBlocker, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QFontMetricsF, QKeyEvent, QPainter, QResizeEvent
from PyQt6.QtWidgets import QAbstractItemView, QStyle, QStyledItemDelegate, QStyleOptionViewItem

from reckoner.core.quantities.days import day_words
from reckoner.core.translation import tr
from reckoner.shop.register.sheet import HistoryLine
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.mark import paint_mark
from reckoner.ui.widgets.table import BareTable
from reckoner.ui.widgets.text import tip

HIGH = 5 * GRID
PAGE = 10
"""Lines that PageUp and PageDown go by: the list has no page of its own, for it is as high as it is long."""

DAY, MARK = 14 * GRID, 6 * GRID


class StoryModel(QAbstractListModel):
    """``UserRole`` gives the HistoryLine."""

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.lines: list[HistoryLine] = []

    def show_lines(self, lines: tuple[HistoryLine, ...], *, again: bool) -> None:
        """A story from its newest line; the same one ``again`` keeps what was read of it already: nothing of it changes."""
        read = [line for line in self.lines if line.sequence < lines[-1].sequence] if again and lines else []
        self.beginResetModel()
        self.lines = [*lines, *read]
        self.endResetModel()

    def take(self, lines: tuple[HistoryLine, ...]) -> None:
        """The next page; one that is here already, or does not follow, is left out."""
        if lines and self.lines and lines[0].sequence < self.lines[-1].sequence:
            self.beginInsertRows(QModelIndex(), len(self.lines), len(self.lines) + len(lines) - 1)
            self.lines += lines
            self.endInsertRows()

    def index_of(self, sequence: int) -> QModelIndex:
        """Where a line stands now; an index that is not valid when it is gone."""
        row = next((row for row, line in enumerate(self.lines) if line.sequence == sequence), -1)
        return self.index(row)

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return 0 if parent.isValid() else len(self.lines)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid() or not 0 <= index.row() < len(self.lines):
            return None
        line = self.lines[index.row()]
        if role == Qt.ItemDataRole.UserRole:
            return line
        state = line.state.words if line.state is not None else ""
        words = ", ".join(w for w in (day_words(line.on), line.what, line.detail, state) if w)
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole):
            return words
        if role != Qt.ItemDataRole.ToolTipRole:
            return None
        opens = tr("Open this run: its readings, its numbers, an amendment") if line.run_id is not None else ""
        return tip("\n".join(w for w in (line.detail, opens) if w))


class StoryDelegate(QStyledItemDelegate):
    """The day, the mark of its result, what it was (in the colour of what can be opened, where it can), and the rest."""

    def __init__(self, theme: Theme, parent: QObject) -> None:
        super().__init__(parent)
        self._theme = theme

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(30 * GRID, HIGH)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        line = index.data(Qt.ItemDataRole.UserRole)
        if painter is None or line is None:
            return
        theme, box = self._theme, QRectF(option.rect)
        painter.save()
        if option.state & QStyle.StateFlag.State_HasFocus:
            painter.fillRect(box, theme.color("accent_wash"))
            painter.fillRect(QRectF(box.left(), box.bottom() - 3, box.width(), 3), theme.color("focus"))
        elif option.state & QStyle.StateFlag.State_MouseOver and line.run_id is not None:
            painter.fillRect(box, theme.color("accent_wash"))
        at = box.left()
        if line.state is not None:
            paint_mark(painter, theme, QRectF(at + DAY, box.center().y() - 9, MARK - 2 * GRID, 18), line.state)
        for role, tone, words, begins in (
            (Type.BODY, "quiet", day_words(line.on), at),
            (Type.STRONG, "ink" if line.run_id is None else "accent", line.what, at + DAY + MARK),
            (Type.BODY, "quiet", line.detail, at + DAY + MARK + max(12 * GRID, self._wide(line.what) + 2 * GRID)),
        ):
            font = theme.font(role)
            painter.setFont(font)
            painter.setPen(theme.color(tone))
            room = QRectF(begins, box.top(), box.right() - begins, box.height())
            shown = QFontMetricsF(font).elidedText(words, Qt.TextElideMode.ElideRight, max(0.0, room.width()))
            painter.drawText(room, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, shown)
        painter.restore()

    def _wide(self, words: str) -> float:
        return QFontMetricsF(self._theme.font(Type.STRONG)).horizontalAdvance(words)


class StoryList(BareTable):
    """As high as its lines are. Signals ``opened(run_id)`` when a run's line is pressed or has Enter, ``moved(y)`` when the
    focus has come to the line in the middle of which ``y`` lies."""

    opened = pyqtSignal(int)
    moved = pyqtSignal(int)
    keeps_enter = True

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme, high=HIGH, wide=30 * GRID, stretch=True)
        self.story = StoryModel(self)
        self.setModel(self.story)
        self._delegate = StoryDelegate(theme, self)
        self.setItemDelegate(self._delegate)
        self.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName(tr("What happened to it"))
        self.setMouseTracking(True)
        self.clicked.connect(self._open)

    def show_lines(self, lines: tuple[HistoryLine, ...], *, again: bool) -> None:
        """A story from its newest line: another one, or the same ``again``."""
        chosen = self.currentIndex().data(Qt.ItemDataRole.UserRole) if again else None
        self.story.show_lines(lines, again=again)
        self._grow()
        if chosen is not None:
            with QSignalBlocker(self):  # the page around it stays where it was scrolled to
                self.setCurrentIndex(self.story.index_of(chosen.sequence))

    def take(self, lines: tuple[HistoryLine, ...]) -> None:
        """The next page of it."""
        self.story.take(lines)
        self._grow()

    def _grow(self) -> None:
        self.setFixedHeight(HIGH * len(self.story.lines) + 2)
        self.setVisible(bool(self.story.lines))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        bar = self.verticalScrollBar()
        if bar is not None:
            bar.setValue(0)

    def wheelEvent(self, event: Any) -> None:
        """The page around it scrolls."""
        event.ignore()

    def viewportEvent(self, event: QEvent | None) -> bool:
        if event is not None and event.type() == QEvent.Type.Wheel:
            event.ignore()
            return False
        return super().viewportEvent(event)

    def moveCursor(self, action: QAbstractItemView.CursorAction, modifiers: Qt.KeyboardModifier) -> QModelIndex:
        by = {QAbstractItemView.CursorAction.MovePageUp: -PAGE, QAbstractItemView.CursorAction.MovePageDown: PAGE}
        if action not in by:
            return super().moveCursor(action, modifiers)
        row = self.currentIndex().row() + by[action]
        return self.story.index(min(max(row, 0), self.story.rowCount() - 1))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self._open(self.currentIndex())
            return
        super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        if not self.currentIndex().isValid():
            self.setCurrentIndex(self.story.index(0))
        self._tell(self.currentIndex())

    def currentChanged(self, current: QModelIndex, previous: QModelIndex) -> None:
        super().currentChanged(current, previous)
        self._tell(current)

    def _tell(self, current: QModelIndex) -> None:
        if current.isValid() and self.hasFocus():
            self.moved.emit(HIGH * current.row() + HIGH // 2)

    def _open(self, index: QModelIndex) -> None:
        line = index.data(Qt.ItemDataRole.UserRole) if index.isValid() else None
        if line is not None and line.run_id is not None:
            self.opened.emit(line.run_id)
