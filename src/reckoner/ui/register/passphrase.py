"""A person's passphrase: whether there is one, and setting it. What is typed is shown to nobody and kept nowhere."""

from __future__ import annotations

from PyQt6.QtWidgets import QLineEdit, QWidget

from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.shop.people import seals
from reckoner.ui.layout import column, row
from reckoner.ui.place import Surroundings
from reckoner.ui.register.shelf import AboveFields
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call


class Passphrase(AboveFields):
    """Stands above a person's fields."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._person = 0
        theme = around.theme
        self.told = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.first = _hidden(around, tr("A passphrase, at least {shortest} characters", shortest=seals.SHORTEST))
        self.again = _hidden(around, tr("The same again"))
        for field in (self.first, self.again):
            field.given.connect(lambda _value: self.set())
        self.keep = button(theme, tr("Set it"), self.set)
        self.ask = button(theme, tr("Sign with a passphrase…"), self._open)
        self._form = QWidget()
        self._form.setLayout(
            column(
                row(self.first, self.again, gap=2),
                row(self.keep, button(theme, tr("Leave it"), self._close, "link"), 1),
            )
        )
        self._form.hide()
        self.setLayout(column(self.told, row(self.ask, 1), self._form, gap=1))

    def show_row(self, row_id: int) -> None:
        if row_id != self._person:
            self._close()
        self._person = row_id
        self._around.work.browse(call(seals.has_key, row_id), self._tell)

    def set(self) -> None:
        """Keep what makes the key; not the passphrase."""
        first, again = self.first.text, self.again.text
        if first != again:
            self.again.refuse(tr("These two are not the same; type both again."))
            self.again.setFocus()
            return
        if self._around.person is None:
            self.first.refuse(tr("Choose who is at the bench first, at the top right."))
            return
        person, act = self._person, self._around.act()

        def done(_none: None) -> None:
            self._close()
            self._around.say(
                tr("From now on this person's signatures are bound to the passphrase. It is kept nowhere: mind it.")
            )
            self.show_row(person)

        def refused(refusal: Refused) -> None:
            self.first.refuse(str(refusal))

        self._around.work.ask(call(seals.set_passphrase, person, first, act), done, refused)

    def _tell(self, keyed: bool) -> None:
        self.told.setText(
            tr("Signs with a passphrase; each signature can be checked by anybody.")
            if keyed
            else tr("Signs with initials.")
        )
        self.ask.setText(tr("Set another passphrase…") if keyed else tr("Sign with a passphrase…"))

    def _open(self) -> None:
        self._form.show()
        self.first.setFocus()

    def _close(self) -> None:
        self.first.clear()
        self.again.clear()
        self._form.hide()


def _hidden(around: Surroundings, name: str) -> EntryField[str]:
    field = EntryField(around.theme, name, lambda text: (text, " "))
    field.line.setEchoMode(QLineEdit.EchoMode.Password)
    field.line.setMaximumWidth(40 * GRID)
    return field
