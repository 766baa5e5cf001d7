"""The line at the top, always there: type or scan a tool's number or serial, or a place, and go."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property
from typing import TYPE_CHECKING

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QFocusEvent, QKeyEvent
from PyQt6.QtWidgets import QListWidget, QListWidgetItem, QWidget

from reckoner.core.translation import tr
from reckoner.store.terms import EventKind
from reckoner.ui.actions import tooltip
from reckoner.ui.latest import LatestQuery
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.places import PLACES, PlaceId, Target
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.text import LineEdit
from reckoner.ui.work import call

if TYPE_CHECKING:
    from reckoner.shop.register.cards import ToolCard
    from reckoner.shop.words.phrases import Phrase
    from reckoner.shop.words.topline import TopLineMeaning

SHOWN = 8
ROWS_KEPT = 3
"""Lines that are kept for what is not a tool, where many tools fit."""


class TopLine(LineEdit):
    """Goes where ``around.go`` leads. What matches is listed under the line, inside the window: down and up move in it, Enter
    goes. Enter asks the register itself, so that it may be pressed before the register is open.
    """

    def __init__(self, around: Surroundings, parent: QWidget, place: Callable[[], Place]) -> None:
        """``place()`` is the one in front."""
        super().__init__(parent)
        self._around = around
        self._place = place
        self._asking = LatestQuery(around.work)
        self.setFont(around.theme.font(Type.BODY))
        self.setPlaceholderText(tr("Tool, place, or what happened: 0417 fell"))
        self.setToolTip(tooltip("top-line"))
        self.setAccessibleName(tr("Find a tool or a place"))
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
        made.setAccessibleName(tr("What matches"))
        made.itemClicked.connect(self._take)
        made.hide()
        return made

    def begin(self) -> None:
        """Take the focus, with what is there chosen to be typed over."""
        self.setFocus(Qt.FocusReason.ShortcutFocusReason)
        self.selectAll()

    def begin_with(self, text: str) -> None:
        """Take the focus with what was typed outside of any field; a capital J finds a tool as the small one does."""
        self.begin()
        if text != "J":
            self.insert(text)
            self._narrow(self.text())

    def _narrow(self, text: str) -> None:
        """Ask the register what fits, while places are known at once."""
        if not text.strip() or not self._around.work.is_open:
            self._list(text, None)
            return
        from reckoner.shop.words.topline import meaning_of  # the shop loads behind the first painted window

        self._asking.look(
            call(meaning_of, text, self._around.today, SHOWN, self._place().tool_in_front),
            lambda found: self._list(text, found),
        )

    def _list(self, text: str, found: TopLineMeaning | None) -> None:
        if text != self.text():
            return
        self.matches.clear()
        from reckoner.ui.window.destinations import errand_target, hung_target, pages_called  # only when it is wanted

        wanted = text.strip().casefold()
        if found is not None and found.phrase is not None:
            self._offer_phrase(found.phrase)
        elif found is not None and found.errand is not None:
            self._offer(found.errand.words, errand_target(found.errand))
            self.matches.setCurrentRow(0)
        elif found is not None and found.hung is not None:
            for words in found.hung.words:
                self._offer(words, None if found.hung.why_not else hung_target(found.hung))
            self.matches.setCurrentRow(0)
        else:
            for words, target in pages_called(wanted):
                self._offer(words, target)
            if found is not None:
                self._offer_found(found)
        rows = self.matches.count()
        self.matches.setVisible(rows > 0)
        if rows:
            window = self.window() or self
            self.matches.move(self.mapTo(window, QPoint(0, self.height() + GRID // 2)))
            self.matches.resize(72 * GRID, rows * 4 * GRID + 2 * GRID)
            self.matches.raise_()

    def _offer_found(self, found: TopLineMeaning) -> None:
        """Tools first, then whatever else is called so; what was probably meant, where nothing is."""
        from reckoner.ui.window.destinations import row_target

        places = self.matches.count()
        tools = found.tools[: SHOWN - places - min(len(found.rows), ROWS_KEPT)]
        for card in tools:
            self._offer(_line(card), self._target(card))
        if len(tools) == 1 and not places:
            self._offer_other_place(tools[0])
        for row in found.rows[: SHOWN - self.matches.count()]:
            self._offer(row.words, row_target(row))
        if found.meant:
            self._offer(tr("Did you mean “{meant}”?", meant=found.meant), found.meant)

    def _target(self, card: ToolCard) -> Target:
        return Target(self._place().found_tools_go_to, tool=card.tool.id)

    def _offer_other_place(self, card: ToolCard) -> None:
        """One tool alone fits: where else one may want to go with it."""
        number = card.tool.number
        if self._place().found_tools_go_to is PlaceId.BENCH:
            self._offer(tr("{number}: its sheet", number=number), Target(PlaceId.TOOLS, tool=card.tool.id))
        else:
            self._offer(tr("{number}: put it on the bench", number=number), Target(PlaceId.BENCH, tool=card.tool.id))

    def _offer_phrase(self, phrase: Phrase) -> None:
        """What the words mean and what will follow; nothing is done that was not shown so."""
        lead = f"{phrase.words}: {phrase.why_not}" if phrase.why_not else tr("Record: {words}", words=phrase.words)
        self._offer(lead, phrase)
        if not phrase.why_not:
            self._offer(tr("{told} Enter records it.", told=phrase.told), phrase)
        self.matches.setCurrentRow(0)

    def _do(self, phrase: Phrase) -> None:
        if phrase.why_not:
            self._around.say(f"{phrase.words}: {phrase.why_not}")
            return
        if self._around.person is None:
            self._around.say(tr("Choose who is at the bench first, at the top right."))
            return
        if phrase.kind is EventKind.RETURNED:
            self._leave_for(Target(PlaceId.DESK, number=phrase.number))
            return
        act = self._around.act()
        self.leave()
        if phrase.kind is EventKind.LENT:
            from reckoner.shop.using.lending import lend  # loads numpy

            self._around.work.ask(
                call(lend, (phrase.tool_id,), phrase.note, phrase.due_back, (), act),
                self._around.undo_stack.did,
            )
            return
        from reckoner.shop.events.recording import report  # loads numpy

        self._around.work.ask(
            call(report, phrase.tool_id, phrase.kind, phrase.note, act),
            lambda made: self._around.undo_stack.did(made, made.told),
        )

    def _offer(self, words: str, goal: Target | Phrase | str | None) -> None:
        item = QListWidgetItem(words)
        item.setData(Qt.ItemDataRole.UserRole, goal)
        self.matches.addItem(item)

    def _take(self, item: QListWidgetItem) -> None:
        goal = item.data(Qt.ItemDataRole.UserRole)
        if isinstance(goal, Target):
            self._leave_for(goal)
        elif isinstance(goal, str):  # it stands there from now on, and is looked for
            self.setText(goal)
            self._narrow(goal)
        elif goal is None:
            self._around.say(item.text())
        else:
            self._do(goal)

    def _go(self) -> None:
        """To the chosen match, to a place whose name was typed in full, or to what the register knows by this text."""
        text = self.text().strip()
        chosen = self.matches.currentItem() if self.matches.isVisible() else None
        place = next((p for p in PLACES if p.name.casefold() == text.casefold()), None)
        if chosen is not None:
            self._take(chosen)
        elif place is not None:
            self._leave_for(Target(place.id))
        elif text:
            from reckoner.shop.words.topline import meaning_of  # only when it is wanted

            self._around.work.look(
                call(meaning_of, text, self._around.today, SHOWN, self._place().tool_in_front),
                lambda found: self._found(text, found),
            )

    def _found(self, text: str, meaning: TopLineMeaning) -> None:
        from reckoner.ui.window.destinations import errand_target, hung_target, row_target

        if text != self.text().strip():  # something else is being typed meanwhile
            return
        if meaning.phrase is not None:  # it was not shown yet when Enter was pressed: shown now, the next Enter does it
            self._list(self.text(), meaning)
            return
        if meaning.errand is not None:
            self._leave_for(errand_target(meaning.errand))
            return
        if meaning.hung is not None:
            if meaning.hung.why_not:
                self._around.say(" ".join(meaning.hung.words))
            else:
                self._leave_for(hung_target(meaning.hung))
            return
        tools = meaning.tools
        if not tools and len(meaning.rows) == 1:
            self._leave_for(row_target(meaning.rows[0]))
        elif len(tools) == 1:
            self._leave_for(self._target(tools[0]))
        elif tools:
            fits = len(tools) if len(tools) < SHOWN else tr("{shown} or more", shown=SHOWN)
            self._around.say(
                tr("“{text}” fits {fits} tools; type more, or choose one with the down key.", text=text, fits=fits)
            )
        elif meaning.rows:
            self._list(self.text(), meaning)
        elif any(c.isdigit() for c in text) and " " not in text:
            self._leave_for(Target(PlaceId.BENCH, number=text))
        elif meaning.meant:
            self._list(self.text(), meaning)
            self._around.say(tr("Nothing is called “{text}”. Did you mean “{meant}”?", text=text, meant=meaning.meant))
        else:
            self._around.say(tr("No tool or place is called “{text}”.", text=text))

    def scanned(self, text: str, taken: Callable[[], None]) -> None:
        """What was typed where a number is awaited is none: if it is a tool's number or serial, it was a scan; ``taken`` is
        called before the tool is gone to."""
        from reckoner.shop.register.lists import look_up  # only when it is wanted

        def found(told: tuple[int, ToolCard | None]) -> None:
            fits, card = told
            if fits == 1 and card is not None and text.casefold() in _names(card):
                taken()
                self._leave_for(self._target(card))

        self._around.work.look(call(look_up, text, self._around.today), found)

    def _leave_for(self, goal: Target) -> None:
        self.leave()
        self._around.go(goal)

    def leave(self) -> None:
        """Empty the line and let the focus go where the person goes."""
        self.matches.hide()
        self.clear()
        self.clearFocus()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.text().isprintable() and event.text():
            super().keyPressEvent(event)
            return
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.leave()
            return
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key())) if event is not None else None
        if step is not None and self.matches.isVisible():
            self.matches.setCurrentRow(max(0, min(self.matches.count() - 1, self.matches.currentRow() + step)))
            return
        super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.matches.hide()


def _names(card: ToolCard) -> set[str]:
    return {card.tool.number.casefold(), card.tool.serial.casefold()}


def _line(card: ToolCard) -> str:
    tool = card.tool
    return f"{tool.number}   {tool.description}, {tool.range_text}, {tool.place}"
