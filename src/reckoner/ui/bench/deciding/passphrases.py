"""The passphrases under a signature: of who signs, and of who stands beside."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.shop.people.present import PersonFacts
from reckoner.shop.people.seals import PassphraseRefused
from reckoner.ui.layout import column
from reckoner.ui.theme import Theme
from reckoner.ui.widgets.entry import EntryField, passphrase_field


class Passphrases(QWidget):
    """Asked of whoever has one. Signal ``entered()``: Enter in the last of them."""

    entered = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.own = passphrase_field(theme, tr("Your passphrase"))
        self.beside = passphrase_field(theme, tr("The second person's passphrase"))
        self._people: dict[EntryField[str], PersonFacts] = {}
        for field in (self.own, self.beside):
            field.hide()
        self.own.given.connect(
            lambda _v: self.beside.setFocus() if self.beside in self._people else self.entered.emit()
        )
        self.beside.given.connect(lambda _v: self.entered.emit())
        self.setLayout(column(self.own, self.beside, gap=1))

    def ask(self, person: PersonFacts | None, beside: PersonFacts | None) -> None:
        """Ask for those of a person who signs, and of one who stands beside; None where nobody does."""
        asked = ((self.own, person), (self.beside, beside))
        self._people = {field: one for field, one in asked if one is not None and one.keyed}
        for field, one in asked:
            field.setVisible(field in self._people)
            if one is not None and field in self._people and field is self.beside:
                field.relabel(tr("The passphrase of {initials}, who stands beside", initials=one.initials))
        self.setVisible(bool(self._people))

    def missing(self) -> bool:
        """Whether one was not typed; it is said there."""
        for field in self._people:
            if not field.text:
                field.refuse(tr("Type it; it is kept nowhere."))
                field.setFocus()
                return True
        return False

    def take(self) -> tuple[str | None, str | None]:
        """What was typed, of who signs and of who stands beside, None of who has none; the fields are empty then."""
        typed = [field.text if field in self._people else None for field in (self.own, self.beside)]
        for field in (self.own, self.beside):
            field.clear()
        return typed[0], typed[1]

    def refuse(self, refusal: Refused) -> None:
        """Say at its field what is wrong with one."""
        if not isinstance(refusal, PassphraseRefused):
            return
        field = next((f for f, one in self._people.items() if one.id == refusal.person_id), self.own)
        field.refuse(str(refusal))
        field.setFocus()
