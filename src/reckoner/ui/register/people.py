"""Somebody who works here: initials and name, with the mouse alone where there is no keyboard at hand."""

from __future__ import annotations

import getpass
import pwd
from functools import partial
from string import ascii_uppercase

from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.translation import tr
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import words_reader
from reckoner.ui.widgets.flow import Flow
from reckoner.ui.widgets.form import Form
from reckoner.ui.widgets.text import label


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
