"""Somebody who works here: initials and name, with the mouse alone where there is no keyboard at hand.

A person's passphrase: whether there is one, and setting it. What is typed is shown to nobody and kept nowhere.
"""

from __future__ import annotations

import getpass
import pwd
from functools import partial
from string import ascii_uppercase

from PyQt6.QtWidgets import QLineEdit, QWidget

from reckoner.core.errors import InputRefused, Refused
from reckoner.core.translation import tr
from reckoner.shop.people import seals
from reckoner.ui.layout import column, row
from reckoner.ui.place import Surroundings
from reckoner.ui.register.shelf import AboveFields
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.flow import Flow
from reckoner.ui.widgets.form import Form
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call


class NewPerson(Form[tuple[str, str]]):
    """Initials and name."""

    def __init__(self, theme: Theme, *, own_account: bool = False) -> None:
        super().__init__(theme)
        self.initials = self.field(
            "initials", tr("Initials, as they stand on records"), words_reader, tr("such as K. L."), wide=24
        )
        self.name = self.field("name", tr("Name; it can wait"), words_reader)
        self._letters = QWidget()
        letters = Flow(self._letters)
        for letter in ascii_uppercase:
            made = button(theme, letter, partial(self._add, letter), "chip")
            made.setFixedWidth(5 * GRID)
            letters.addWidget(made)
        letters.addWidget(button(theme, tr("Clear"), self.initials.clear, "chip"))
        words = label(theme, tr("or click them together"), Type.CAPTION, "quiet")
        self.setLayout(column(row(self.initials, self.name, gap=2), words, self._letters, gap=1))
        if own_account:
            self._propose_account()

    def value(self) -> tuple[str, str]:
        """Raises InputRefused without initials."""
        if not self.initials.text.strip():
            raise InputRefused("initials", "", tr("Give your initials; they stand on every record."))
        return self.initials.text, self.name.text

    def _add(self, letter: str) -> None:
        text = self.initials.text.strip()
        self.initials.line.setText(f"{text} {letter}.".strip())

    def _propose_account(self) -> None:
        """What this computer calls the person, to be changed: a real name only, no account such as root."""
        try:
            name = pwd.getpwnam(getpass.getuser()).pw_gecos.split(",")[0].strip()
        except (KeyError, OSError):
            return
        parts = [part for part in name.split() if part[:1].isalpha()]
        if len(parts) >= 2:
            self.name.line.setText(name)
            self.initials.line.setText(" ".join(f"{part[0].upper()}." for part in (parts[0], parts[-1])))


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
