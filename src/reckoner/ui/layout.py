"""Rows, columns and surfaces on the grid."""

from __future__ import annotations

from typing import TypeVar

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QBoxLayout, QFrame, QHBoxLayout, QLayout, QLayoutItem, QScrollArea, QVBoxLayout, QWidget

from reckoner.ui.theme import GRID

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


def scrolling(content: QWidget) -> QScrollArea:
    """``content`` in an area that scrolls up and down only."""
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    area.setWidget(content)
    return area


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
