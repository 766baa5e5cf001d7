"""A person's passphrase: whether there is one, and setting it. What is typed is shown to nobody and kept nowhere.

Another one wants the one before; where that is forgotten, two other people who may change the register.
"""

from __future__ import annotations

from PyQt6.QtWidgets import QLineEdit, QWidget

from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.shop.people import seals
from reckoner.shop.people.present import PersonFacts, people
from reckoner.shop.people.seals import PassphraseRefused, Vouching
from reckoner.store.terms import Right
from reckoner.ui.layout import column, row
from reckoner.ui.place import Surroundings
from reckoner.ui.register.shelf import AboveFields
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField
from reckoner.ui.widgets.text import label
from reckoner.ui.work import both, call


class Passphrase(AboveFields):
    """Stands above a person's fields."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._person = 0
        self._keyed = self._forgotten = False
        self._people: tuple[PersonFacts, ...] = ()
        theme = around.theme
        self.told = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.before = _hidden(around, tr("The passphrase so far"))
        self.own = _hidden(around, tr("Your own passphrase"))
        self.second = Chips(theme, tr("Who stands beside"))
        self.second.chosen.connect(self._update_state)
        self.beside = _hidden(around, tr("The passphrase of who stands beside"))
        self.first = _hidden(around, tr("A passphrase, at least {shortest} characters", shortest=seals.SHORTEST))
        self.again = _hidden(around, tr("The same again"))
        for field in (self.first, self.again):
            field.given.connect(lambda _value: self.set())
        self.keep = button(theme, tr("Set it"), self.set)
        self.ask = button(theme, tr("Sign with a passphrase…"), self._open)
        self.forget = button(theme, tr("It is forgotten…"), self._forget, "link")
        self.how = label(
            theme,
            tr(
                "Two other people who may change the register set another: you, and one beside. Both are named with it."
            ),
            Type.BODY,
            "quiet",
            wrap=True,
        )
        self._form = QWidget()
        self._form.setLayout(
            column(
                row(self.before, self.forget, 1, gap=2),
                self.how,
                row(self.own, self.second, self.beside, 1, gap=2),
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
        self._around.work.look(both(call(seals.keyed, row_id), call(people)), lambda found: self._tell(*found))

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
        before = self.before.text if self._keyed and not self._forgotten else None
        beside = None
        if self._keyed and self._forgotten and self.second.one:
            beside = Vouching(int(self.second.one), self.beside.text)
        made = call(seals.set_passphrase, person, first, act, before=before, own=self.own.text, beside=beside)
        self._around.work.ask(made, lambda _none: self._done(person), self._refused)

    def _done(self, person: int) -> None:
        self._close()
        self._around.say(
            tr("From now on this person's signatures are bound to the passphrase. It is kept nowhere: mind it.")
        )
        self.show_row(person)

    def _refused(self, refusal: Refused) -> None:
        """At the field that it is about."""
        at, me = self.first, self._around.person
        if isinstance(refusal, PassphraseRefused):
            whose = {self._person: self.before, me.id if me is not None else 0: self.own}
            at = whose.get(refusal.person_id, self.beside)
            at = at if at.isVisibleTo(self) else self.before
        at.clear()
        at.refuse(str(refusal))
        at.setFocus()

    def _tell(self, keyed: bool, found: tuple[PersonFacts, ...]) -> None:
        self._keyed, self._people = keyed, found
        self.told.setText(
            tr("Signs with a passphrase; each signature can be checked by anybody.")
            if keyed
            else tr("Signs with initials.")
        )
        self.ask.setText(tr("Set another passphrase…") if keyed else tr("Sign with a passphrase…"))
        self._update_state()

    def _update_state(self) -> None:
        """What is asked: the passphrase before, or two others."""
        me, vouched = self._around.person, self._keyed and self._forgotten
        for widget in (self.before, self.forget):
            widget.setVisible(self._keyed and not self._forgotten)
        self.how.setVisible(vouched)
        self.own.setVisible(vouched and me is not None and me.keyed)
        self.second.setVisible(vouched)
        chosen = next((one for one in self._people if str(one.id) == self.second.one), None)
        self.beside.setVisible(vouched and chosen is not None and chosen.keyed)

    def _forget(self) -> None:
        self._forgotten = True
        me = self._around.person
        away = {self._person, me.id if me is not None else 0}
        able = [one for one in self._people if one.id not in away and Right.EDIT in one.rights]
        self.second.offer([(str(one.id), one.initials) for one in able], [])
        self._update_state()

    def _open(self) -> None:
        self._forgotten = False
        self._update_state()
        self._form.show()
        (self.before if self._keyed else self.first).setFocus()

    def _close(self) -> None:
        for field in (self.before, self.own, self.beside, self.first, self.again):
            field.clear()
        self._forgotten = False
        self._form.hide()


def _hidden(around: Surroundings, name: str) -> EntryField[str]:
    field = EntryField(around.theme, name, lambda text: (text, " "))
    field.line.setEchoMode(QLineEdit.EchoMode.Password)
    field.line.setMaximumWidth(40 * GRID)
    return field
