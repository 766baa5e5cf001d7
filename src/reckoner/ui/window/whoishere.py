"""Who is at the bench: the initials at the top right, and choosing another person."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QMenu, QPushButton, QWidget

from reckoner.core.translation import tr
from reckoner.ui.actions import tooltip
from reckoner.ui.layout import column
from reckoner.ui.theme import Theme
from reckoner.ui.widgets.buttons import button

if TYPE_CHECKING:
    from reckoner.shop.people.present import PersonFacts


class WhoIsHere(QWidget):
    """Signals ``chosen(PersonFacts)``, ``left()``. Hidden while nobody is in the register."""

    chosen = pyqtSignal(object)
    left = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.people: tuple[PersonFacts, ...] = ()
        self.known = self._may_leave = False
        """Whether the register was asked who there is."""
        self.button: QPushButton = button(theme, tr("Who is here?"), self.choose, "pill")
        self.button.setToolTip(tooltip("person"))
        self.setLayout(column(self.button, gap=0))

    def offer(self, people: tuple[PersonFacts, ...], *, may_leave: bool = False) -> None:
        """Who can be chosen; ``may_leave``: nobody sits here then, until somebody sits down by a passphrase."""
        self.people, self.known, self._may_leave = people, True, may_leave
        self.setVisible(bool(people))

    def show_person(self, person: PersonFacts) -> None:
        self.button.setText(person.initials)
        self.button.setAccessibleName(tr("At the bench: {name}", name=person.name))

    def choose(self) -> None:
        """Open the menu of people."""
        menu = QMenu(self)
        for person in self.people:
            action = menu.addAction(f"{person.initials}  {person.name}".replace("&", "&&"))
            if action is not None:
                action.triggered.connect(lambda _checked=False, person=person: self.chosen.emit(person))
        if self._may_leave:
            menu.addSeparator()
            leaving = menu.addAction(tr("Leave the seat"))
            if leaving is not None:
                leaving.triggered.connect(lambda _checked=False: self.left.emit())
        menu.popup(self.button.mapToGlobal(self.button.rect().bottomLeft()))
