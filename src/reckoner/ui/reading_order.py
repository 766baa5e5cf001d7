"""The order in which Tab goes through the window: as things are laid out to be read, whatever was made first."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QGridLayout, QLayout, QLayoutItem, QScrollArea, QStackedWidget, QWidget

from reckoner.ui.layout import bring_into_sight
from reckoner.ui.place import Place
from reckoner.ui.tokens import GRID


def tab_stops(within: QWidget) -> Iterator[QWidget]:
    """What Tab stops at ``within`` a widget, one layout after the other; what lies in none of them comes last."""
    if not within.isEnabled():
        return
    if within.focusPolicy() & Qt.FocusPolicy.TabFocus and within.focusProxy() is None:
        yield within
    for child in _as_read(within):
        yield from tab_stops(child)


def _as_read(within: QWidget) -> list[QWidget]:
    """Its visible children, in order."""
    visible = [c for c in within.children() if isinstance(c, QWidget) and c.isVisibleTo(within) and not c.isWindow()]
    layout = None if isinstance(within, QScrollArea | QStackedWidget) else within.layout()
    laid_out = list(_held(layout)) if layout is not None else []
    first = [child for child in laid_out if child in visible]
    others = [child for child in visible if child not in first]
    return first + sorted(others, key=lambda child: (child.y() // LINE, child.x()))


LINE = 2 * GRID
"""What begins so close together stands beside each other."""


def _held(layout: QLayout) -> Iterator[QWidget]:
    for item in _items(layout):
        widget, inner = item.widget(), item.layout()
        if widget is not None:
            yield widget
        elif inner is not None:
            yield from _held(inner)


def _items(layout: QLayout) -> list[QLayoutItem]:
    indices: Iterable[int] = range(layout.count())
    if isinstance(layout, QGridLayout):
        indices = sorted(indices, key=lambda i: (layout.getItemPosition(i) or (0, 0))[:2])
    return [item for i in indices if (item := layout.itemAt(i)) is not None]


def go_by_tab(window: QWidget, onward: bool) -> bool:
    """Give the focus to the next stop, or to the one before; after the last comes the first. What can have it no longer gives
    it to the place in front, and not to a button that happens to be near. False where there is nothing."""
    stops, focused = list(tab_stops(window)), QApplication.focusWidget()
    if not stops:
        return False
    if focused is not None and not (focused.isVisible() and focused.isEnabled()):
        place = next((place for place in window.findChildren(Place) if place.isVisible()), None)
        if place is not None:
            place.setFocus()
            return True
    step = 1 if onward else -1
    if focused in stops:
        goal = stops[(stops.index(focused) + step) % len(stops)]
    else:
        inside = [stop for stop in stops if focused is not None and focused.isAncestorOf(stop)]
        goal = (inside or stops)[0 if onward else -1]
    goal.setFocus(Qt.FocusReason.TabFocusReason if onward else Qt.FocusReason.BacktabFocusReason)
    bring_into_sight(goal)
    return True
