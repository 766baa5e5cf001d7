"""Rows, columns and surfaces on the grid."""

from __future__ import annotations

from typing import TypeVar

from PyQt6 import sip
from PyQt6.QtCore import QEvent, QObject, Qt, QTimer
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import (
    QBoxLayout,
    QFrame,
    QHBoxLayout,
    QLayout,
    QLayoutItem,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from reckoner.ui.tokens import GRID

L = TypeVar("L", bound=QBoxLayout)


def row(*items: QWidget | QLayout | int, gap: int = 1, margin: int = 0) -> QHBoxLayout:
    """Items side by side; an int is a stretch of that weight. ``gap`` and ``margin`` in grid steps."""
    return _fill(QHBoxLayout(), items, gap, margin)


def column(*items: QWidget | QLayout | int, gap: int = 1, margin: int = 0) -> QVBoxLayout:
    """Items one under the other; an int is a stretch of that weight."""
    return _fill(QVBoxLayout(), items, gap, margin)


def _fill(layout: L, items: tuple[QWidget | QLayout | int, ...], gap: int, margin: int) -> L:
    layout.setSpacing(gap * GRID)
    layout.setContentsMargins(*(margin * GRID,) * 4)
    for item in items:
        if isinstance(item, int):
            layout.addStretch(item)
        elif isinstance(item, QWidget):
            layout.addWidget(item)
        else:
            layout.addLayout(item)
    return layout


def surface(layout: QLayout, kind: str = "surface") -> QFrame:
    """A work surface holding ``layout``."""
    frame = QFrame()
    frame.setProperty("class", kind)
    frame.setLayout(layout)
    return frame


class Scrolling(QScrollArea):
    """Scrolls up and down only, and no further than its content is high at the width it has.

    Qt goes by the least width of the content, at which wrapped lines stand one under the other.
    """

    def __init__(self, content: QWidget) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._content = content
        self.setWidget(content)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._measure()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if watched is self.widget() and event is not None and event.type() is QEvent.Type.LayoutRequest:
            self._measure()
        return super().eventFilter(watched, event)

    def _measure(self) -> None:
        viewport, layout = self.viewport(), self._content.layout()
        if viewport is not None and layout is not None:
            wraps = layout.hasHeightForWidth()  # nothing: what Qt goes by is right
            self._content.setMinimumHeight(layout.totalHeightForWidth(viewport.width()) if wraps else 0)


def bring_into_sight(widget: QWidget) -> None:
    """Scroll until ``widget`` is seen, where it lies in something that scrolls: a field with what is said below its line."""
    around = widget.parentWidget()
    if around is not None and around.focusProxy() is widget:
        widget, around = around, around.parentWidget()
    while around is not None:
        if isinstance(around, QScrollArea):
            around.ensureWidgetVisible(widget, 0, 2 * GRID)
        around = around.parentWidget()


def into_sight(widget: QWidget) -> None:
    """The same once it is laid out."""

    def scroll() -> None:
        if not sip.isdeleted(widget) and widget.isVisible():
            bring_into_sight(widget)

    QTimer.singleShot(0, scroll)


def scrolling(content: QWidget) -> Scrolling:
    """``content`` in an area that scrolls up and down only."""
    return Scrolling(content)


def keep_room(widget: QWidget) -> None:
    """While a widget is hidden its room stays, so that nothing beside it moves when it comes."""
    policy = widget.sizePolicy()
    policy.setRetainSizeWhenHidden(True)
    widget.setSizePolicy(policy)


def empty(layout: QLayout) -> None:
    """Take everything out of ``layout`` and let it go."""
    while (item := layout.takeAt(0)) is not None:
        _drop(item)


def _drop(item: QLayoutItem) -> None:
    widget = item.widget()
    if widget is not None:
        widget.hide()
        widget.deleteLater()
        return
    inner = item.layout()
    if inner is not None:
        empty(inner)
