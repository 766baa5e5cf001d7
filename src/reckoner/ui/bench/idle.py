"""The bench with nothing on it: what was begun, what is due, what was given up, and how to begin."""

from __future__ import annotations

from collections.abc import Iterable
from functools import partial

from PyQt6.QtWidgets import QWidget

from reckoner.core.translation import tr
from reckoner.shop.planning.idlebench import IdleBench
from reckoner.shop.register.cards import ToolCard
from reckoner.ui.layout import column, empty, row, scrolling
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton
from reckoner.ui.widgets.flow import flow
from reckoner.ui.widgets.tag import Tag
from reckoner.ui.widgets.text import label


class IdlePanel(QWidget):
    """Lists them; Enter does what its button says."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._first: ToolCard | None = None
        theme = around.theme
        self.title = label(theme, tr("Nothing is on the bench"), Type.HEADLINE)
        hint = tr("Type or scan a tool's number, or take one of these.")
        self.button = PrimaryButton(theme)
        self.button.setFixedWidth(44 * GRID)
        self.button.clicked.connect(self.primary)
        self._lists = column(gap=1)
        held = QWidget()
        held.setLayout(column(self._lists, 1, gap=0))
        head = row(column(self.title, label(theme, hint, Type.BODY, "quiet"), gap=1), 1, self.button)
        layout = column(head, scrolling(held), gap=2, margin=2)
        layout.setStretch(1, 1)
        self.setLayout(layout)

    def show_waiting(self, found: IdleBench) -> None:
        empty(self._lists)
        self._first = found.first
        self.button.setVisible(found.first is not None)
        if found.first is not None:
            number = found.first.tool.number
            words = (
                tr("Go on with {number}", number=number)
                if found.begun
                else tr("Put {number} on the bench", number=number)
            )
            self.button.say(words)
        self._list(tr("Begun, not signed"), found.begun)
        self._list(tr("Due, and {reference}, used last, suits them", reference=found.reference), found.fitting)
        self._list(tr("Due, and to be tested otherwise") if found.fitting else tr("Due"), found.others)
        if found.given_up is not None:
            self._list(tr("Given up last, {why}", why=found.given_up.why), (found.given_up.card,))

    def _list(self, words: str, cards: Iterable[ToolCard]) -> None:
        tags = [Tag(self._around.theme, card, self._around.today) for card in cards]
        for tag in tags:
            tag.clicked.connect(partial(self._go_to, tag.card))
        if tags:
            self._lists.addWidget(label(self._around.theme, words, Type.LEAD, wrap=True))
            self._lists.addWidget(flow(*tags))
            self._lists.addSpacing(2 * GRID)

    def _go_to(self, card: ToolCard) -> None:
        self._around.go(Target(PlaceId.BENCH, tool=card.tool.id))

    def primary(self) -> None:
        if self._first is not None:
            self._go_to(self._first)
