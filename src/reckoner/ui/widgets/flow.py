"""A layout that sets its widgets side by side and goes on in the next line where the width ends."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtWidgets import QLayout, QLayoutItem, QWidget

from reckoner.ui.tokens import GRID


class Flow(QLayout):
    """Items keep their size hints; height follows from the width."""

    def __init__(self, parent: QWidget, gap: int = 1) -> None:
        super().__init__(parent)
        self._items: list[QLayoutItem] = []
        self._gap = gap * GRID
        self._heights: dict[int, int] = {}
        self.setContentsMargins(0, 0, 0, 0)

    def addItem(self, item: QLayoutItem | None) -> None:
        if item is not None:
            self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        if width not in self._heights:  # it is asked for many times at each laying out
            self._heights[width] = self._arrange(QRect(0, 0, width, 0), move=False)
        return self._heights[width]

    def invalidate(self) -> None:
        super().invalidate()
        self._heights.clear()

    def setGeometry(self, rect: QRect) -> None:
        super().setGeometry(rect)
        self._arrange(rect, move=True)

    def sizeHint(self) -> QSize:
        return self.minimumSize()

    def minimumSize(self) -> QSize:
        widest = max((i.sizeHint().width() for i in self._items), default=0)
        tallest = max((i.sizeHint().height() for i in self._items), default=0)
        return QSize(widest, tallest)

    def _arrange(self, rect: QRect, *, move: bool) -> int:
        y = rect.top()
        for line in self._in_lines(rect.width()):
            x, tall = rect.left(), max(item.sizeHint().height() for item in line)
            for item in line:
                hint = item.sizeHint()
                if move:
                    item.setGeometry(QRect(QPoint(x, y + (tall - hint.height()) // 2), hint))
                x += hint.width() + self._gap
            y += tall + self._gap
        return max(0, y - self._gap - rect.top())

    def _in_lines(self, width: int) -> list[list[QLayoutItem]]:
        lines: list[list[QLayoutItem]] = []
        left = 0
        for item in self._items:
            wide = item.sizeHint().width()
            if not lines or wide > left:
                lines.append([])
                left = width
            lines[-1].append(item)
            left -= wide + self._gap
        return lines


def flow(*items: QWidget, gap: int = 1) -> QWidget:
    """Items side by side, and in further lines where there is no room; ``gap`` in grid steps."""
    holder = QWidget()
    layout = Flow(holder, gap)
    for item in items:
        layout.addWidget(item)
    return holder
