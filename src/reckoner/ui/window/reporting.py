"""Something happened to a tool: what, in ten seconds, from anywhere. What follows is told before it is done."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.store.terms import EventKind
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

if TYPE_CHECKING:
    from reckoner.shop.events.recording import ReportedEvent
    from reckoner.shop.register.cards import ToolCard

WIDTH = 64 * GRID


class ReportPanel(Place):
    """Lies over the right side of the window, below the top line, while it is open. Enter records, Escape leaves."""

    def __init__(self, around: Surroundings, parent: QWidget) -> None:
        super().__init__(around)
        self.setParent(parent)
        self._card: ToolCard | None = None
        theme = self.theme
        self.title = label(theme, "", Type.HEADLINE, wrap=True)
        self.now = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.harms = Chips(theme, tr("What happened"))
        self.others = Chips(theme, tr("What is to be done"))
        self.harms.chosen.connect(lambda: self._chosen(self.harms, self.others))
        self.others.chosen.connect(lambda: self._chosen(self.others, self.harms))
        self.reason = EntryField(theme, tr("In a few words: how, where, why"), words_reader)
        self.reason.line.textChanged.connect(lambda _text: self._tell_consequence())
        self.reason.given.connect(lambda _value: self.primary())
        self.told = label(theme, "", Type.LEAD, wrap=True)
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.button = PrimaryButton(theme, tr("Record it"))
        self.button.clicked.connect(self.primary)
        body = QWidget()
        body.setLayout(
            column(
                label(theme, tr("What happened to it?"), Type.LEAD),
                self.harms,
                label(theme, tr("Or what is to be done with it?"), Type.LEAD),
                self.others,
                self.reason,
                1,
                gap=2,
            )
        )
        head = row(self.title, 1, button(theme, tr("Leave it"), self.leave, "link"), gap=2)
        layout = column(head, self.now, scrolling(body), self.fault, self.told, self.button, gap=2, margin=3)
        layout.setStretch(2, 1)
        holder = surface(layout, "drawer")
        self.setLayout(column(holder, gap=0))
        self.hide()

    def open_for(self, tool_id: int) -> None:
        """Show what can be recorded of a tool."""
        from reckoner.shop.register.cards import card  # only when it is wanted

        self.expect()
        self.around.work.look(call(card, tool_id), self._show_tool)

    def _show_tool(self, card: ToolCard) -> None:
        from reckoner.shop.events.consequences import offered  # only when it is wanted
        from reckoner.shop.events.kinds import EVENTS

        self._card = card
        tool, standing = card.tool, card.standing
        self.title.setText(tool.number)
        stands = ", ".join(tr(c) for c in standing.conditions(self.around.today))
        self.now.setText(f"{tool.description}, {tool.range_text} · {stands}" + (f": {card.held}" if card.held else ""))
        kinds = offered(standing)
        self.harms.offer([(k.value, EVENTS[k].words) for k in kinds if EVENTS[k].harms], [])
        self.others.offer([(k.value, EVENTS[k].button_words) for k in kinds if not EVENTS[k].harms], [])
        self.reason.clear()
        self.fault.setText("")
        self.place_over()
        self.show()
        self.raise_()
        self._tell_consequence()
        first = next(iter(self.harms.chips.values()), None)
        if first is not None:
            first.setFocus()
        self.new_screen()

    def place_over(self) -> None:
        """At the right side of what it lies over."""
        parent = self.parentWidget()
        if parent is not None:
            wide = min(WIDTH, parent.width())
            self.setGeometry(parent.width() - wide, 0, wide, parent.height())

    @property
    def kind(self) -> EventKind | None:
        """What was chosen."""
        word = self.harms.one or self.others.one
        return EventKind(word) if word else None

    def _chosen(self, here: Chips, there: Chips) -> None:
        there.choose("")
        self.reason.setFocus()
        self._tell_consequence()

    def _tell_consequence(self) -> None:
        from reckoner.shop.events.consequences import HOW_MANY, consequence, cycles_in  # only when it is wanted
        from reckoner.shop.events.kinds import EVENTS

        card, kind = self._card, self.kind
        if card is None or kind is None:
            self.told.setText(tr("Choose what happened, or what is to be done; then it can be recorded."))
            self.button.setEnabled(False)
            self.button.say(tr("Record it"))
            return
        reason = self.reason.text.strip()
        self.told.setText(consequence(card.tool.number, card.standing, kind, reason))
        counts = kind is EventKind.COUNTED
        lacks = EVENTS[kind].asks and (cycles_in(reason) is None if counts else not reason)
        self.button.setEnabled(not lacks)
        self.button.say(EVENTS[kind].button_words or tr("Record: {lower}", lower=EVENTS[kind].words.lower()))
        if lacks:
            self.told.setText(
                tr(
                    "{text} {how_many}",
                    text=self.told.text(),
                    how_many=HOW_MANY if counts else tr("Say why, in a few words."),
                )
            )

    def primary(self) -> None:
        """Record it."""
        card, kind = self._card, self.kind
        if card is None or kind is None or not self.button.isEnabled():
            return
        if self.around.person is None:
            self.fault.setText(tr("Choose who is at the bench first, at the top right."))
            return
        from reckoner.shop.events.recording import report  # loads numpy

        reason, act = self.reason.text, self.around.act()
        self.expect()
        self.around.work.ask(call(report, card.tool.id, kind, reason, act), self._recorded, self._refused)

    def _recorded(self, made: ReportedEvent) -> None:
        self.around.undo_stack.did(made, made.told)
        self.leave()

    def _refused(self, refusal: Refused) -> None:
        self.fault.setText(str(refusal))
        self.new_screen()

    def leave(self) -> None:
        """Close it; the place below has the keys again."""
        self.hide()
        parent = self.parentWidget()
        if parent is not None:
            parent.setFocus()

    def key(self, watched: QObject, event: QEvent) -> bool:
        """Escape leaves it."""
        pressed = isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress
        if pressed and event.key() == Qt.Key.Key_Escape:  # type: ignore[attr-defined]
            self.leave()
            return True
        return False
