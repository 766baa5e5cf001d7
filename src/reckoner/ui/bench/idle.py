"""The bench with nothing on it: what was begun, and how to begin."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from reckoner.core.translation import tr
from reckoner.shop.planning.agenda import Agenda, DayList
from reckoner.ui.layout import column, empty
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import Type
from reckoner.ui.widgets.tag import Tag
from reckoner.ui.widgets.text import label

SHOWN = 6
"""Open runs that are offered; Today has them all."""


class IdlePanel(QWidget):
    """Lists the runs that are open; Enter goes on with the first."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._found: Agenda | None = None
        self.title = label(around.theme, tr("Nothing is on the bench"), Type.HEADLINE)
        hint = tr("Press J and type or scan a tool's number, or take the next one from Today.")
        self._begun = column(gap=1)
        self.setLayout(
            column(self.title, label(around.theme, hint, Type.BODY, "quiet"), self._begun, 1, gap=2, margin=2)
        )

    def show_agenda(self, found: Agenda) -> None:
        self._found = found
        empty(self._begun)
        begun = found.of(DayList.UNFINISHED)
        if begun:
            self._begun.addWidget(label(self._around.theme, tr("Begun, not signed"), Type.LEAD))
        for item in begun[:SHOWN]:
            tag = Tag(self._around.theme, item.card, self._around.today)
            tag.clicked.connect(
                lambda _=False, item=item: self._around.go(Target(PlaceId.BENCH, tool=item.card.tool.id))
            )
            self._begun.addWidget(tag)

    def primary(self) -> None:
        begun = self._found.of(DayList.UNFINISHED) if self._found is not None else ()
        if begun:
            self._around.go(Target(PlaceId.BENCH, tool=begun[0].card.tool.id))
