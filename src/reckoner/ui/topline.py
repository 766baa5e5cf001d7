"""The line at the top, always there: type or scan a tool's number or serial, or a place, and go."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent
from PyQt6.QtWidgets import QListWidget, QListWidgetItem, QWidget

from reckoner.ui.actions import BY_ID, tooltip
from reckoner.ui.theme import GRID, Theme, Type
from reckoner.ui.widgets.line import Line

if TYPE_CHECKING:
    from reckoner.shop.register import ToolCard

SHOWN = 8


class TopLine(Line):
    """Signals ``tool(tool_id)`` and ``place(place id)``; ``missed(words)`` when nothing matches, and
    ``unknown(text)`` when it was a number, as a new tool's would be.

    What matches is listed under the line, inside the window: down and up move in it, Enter goes.
    """

    tool = pyqtSignal(int)
    place = pyqtSignal(str)
    missed = pyqtSignal(str)
    unknown = pyqtSignal(str)

    def __init__(self, theme: Theme, places: tuple[str, ...], parent: QWidget) -> None:
        super().__init__(parent)
        self._places = places
        self._cards: tuple[ToolCard, ...] = ()
        self.setFont(theme.font(Type.BODY))
        self.setPlaceholderText("Tool number, serial or place")
        self.setToolTip(tooltip("top-line"))
        self.setAccessibleName("Find a tool or a place")
        self.setFixedWidth(52 * GRID)
        self.textEdited.connect(self._narrow)
        self.returnPressed.connect(self._go)

    @cached_property
    def matches(self) -> QListWidget:
        """The list under the line, made when something is first typed."""
        made = QListWidget(self.window())
        made.setProperty("class", "matches")
        made.setFont(self.font())
        made.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        made.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        made.setAccessibleName("What matches")
        made.itemClicked.connect(self._take)
        made.hide()
        return made

    def show_cards(self, cards: tuple[ToolCard, ...]) -> None:
        """What can be found."""
        self._cards = cards

    def _narrow(self, text: str) -> None:
        self.matches.clear()
        wanted = text.strip().casefold()
        places = [p for p in self._places if wanted and BY_ID[p].name.casefold().startswith(wanted)]
        for place in places:
            self._offer(BY_ID[place].name, place)
        for card in self._matching(text)[: SHOWN - len(places)] if wanted else ():
            self._offer(_line(card), card.tool.id)
        rows = self.matches.count()
        self.matches.setVisible(rows > 0)
        if rows:
            window = self.window() or self
            self.matches.move(self.mapTo(window, QPoint(0, self.height() + GRID // 2)))
            self.matches.resize(72 * GRID, rows * 4 * GRID + 2 * GRID)
            self.matches.raise_()

    def _matching(self, text: str) -> tuple[ToolCard, ...]:
        from reckoner.shop.register import matching  # the shop loads behind the first painted window

        return matching(self._cards, text)

    def _offer(self, words: str, goal: int | str) -> None:
        item = QListWidgetItem(words)
        item.setData(Qt.ItemDataRole.UserRole, goal)
        self.matches.addItem(item)

    def _take(self, item: QListWidgetItem) -> None:
        goal = item.data(Qt.ItemDataRole.UserRole)
        self._leave()
        if isinstance(goal, str):
            self.place.emit(goal)
        else:
            self.tool.emit(goal)

    def _go(self) -> None:
        """To the chosen match, the only one, or the one whose name was typed in full."""
        text = self.text().strip()
        chosen = self.matches.currentItem() if self.matches.isVisible() else None
        if chosen is None and (
            place := next((p for p in self._places if BY_ID[p].name.casefold() == text.casefold()), "")
        ):
            self._leave()
            self.place.emit(place)
            return
        found = self._matching(text) if text else ()
        if chosen is not None:
            self._take(chosen)
        elif len(found) == 1:
            self._leave()
            self.tool.emit(found[0].tool.id)
        elif found:
            self.missed.emit(f"“{text}” fits {len(found)} tools; type more, or choose one with the down key.")
        elif any(c.isdigit() for c in text) and " " not in text:
            self._leave()
            self.unknown.emit(text)
        elif text:
            self.missed.emit(f"No tool or place is called “{text}”.")

    def _leave(self) -> None:
        """Empty the line and let the focus go where the person goes."""
        self.matches.hide()
        self.clear()
        self.clearFocus()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self._leave()
            return
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key())) if event is not None else None
        if step is not None and self.matches.isVisible():
            self.matches.setCurrentRow(max(0, min(self.matches.count() - 1, self.matches.currentRow() + step)))
            return
        super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.matches.hide()


def _line(card: ToolCard) -> str:
    tool = card.tool
    return f"{tool.number}   {tool.description}, {tool.range_text}, {tool.place}"
