"""A person's passphrase: whether there is one, and setting it. What is typed is shown to nobody and kept nowhere.

Another one wants the one before; where that is forgotten, two other people who may change the register.
"""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

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
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, passphrase_field
from reckoner.ui.widgets.text import label
from reckoner.ui.work import both, call

OTHERS = 2
"""People who set another passphrase where the one before is forgotten."""


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
        self.before = passphrase_field(theme, tr("The passphrase so far"))
        self.own = passphrase_field(theme, tr("Your own passphrase"))
        self.second = Chips(theme, tr("Who stands beside"))
        self.second.chosen.connect(self._update_state)
        self.beside = passphrase_field(theme, tr("The passphrase of who stands beside"))
        self.first = passphrase_field(
            theme, tr("A passphrase, at least {shortest} characters", shortest=seals.SHORTEST)
        )
        self.again = passphrase_field(theme, tr("The same again"))
        for field in (self.before, self.own, self.beside):
            field.given.connect(lambda _value: self._next_empty().setFocus())
        for field in (self.first, self.again):
            field.given.connect(lambda _value: self.set())
        self.keep = button(theme, tr("Set it"), self.set)
        self.ask = button(theme, tr("Sign with a passphrase…"), self._open)
        self.forget = button(theme, tr("It is forgotten…"), self._forget, "link")
        self.how = label(theme, "", Type.BODY, "quiet", wrap=True)
        self._form = QWidget()
        self._form.setLayout(
            column(
                self.before,
                self.how,
                self.own,
                self.second,
                self.beside,
                row(self.first, self.again, gap=2),
                row(self.keep, button(theme, tr("Leave it"), self._close, "link"), self.forget, 1),
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
            self.again.refuse(
                tr("These two are not the same; type both again.") if again else tr("Type it once more here.")
            )
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

    def _next_empty(self) -> EntryField[str]:
        """The first line that is asked for and has nothing in it."""
        asked = (self.before, self.own, self.beside, self.first)
        return next((field for field in asked if field.isVisibleTo(self) and not field.text), self.again)

    def _refused(self, refusal: Refused) -> None:
        """At the field that it is about."""
        at, me = self.first, self._around.person
        if isinstance(refusal, PassphraseRefused):
            whose = {self._person: self.before, me.id if me is not None else 0: self.own}
            at = whose.get(refusal.person_id, self.beside)
            at = at if at.isVisibleTo(self) else self.before
        if at is self.first:
            self.again.clear()
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
        mine = me is not None and me.id == self._person
        others = sum(one.id != self._person and Right.EDIT in one.rights for one in self._people)
        self.how.setText(_how(others, mine=mine))
        here = vouched and not mine and others >= OTHERS
        for field in (self.first, self.again, self.keep):
            field.setVisible(here or not vouched)
        self.own.setVisible(here and me is not None and me.keyed)
        self.second.setVisible(here)
        chosen = next((one for one in self._people if str(one.id) == self.second.one), None)
        self.beside.setVisible(here and chosen is not None and chosen.keyed)

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


def _how(others: int, *, mine: bool) -> str:
    """How a forgotten passphrase is replaced, where so many ``others`` may change the register; ``mine``: it is that of who
    is at the bench."""
    if others < OTHERS:
        return tr(
            "That takes two other people who may change the register, and there are not two here. Begin as a person anew "
            "(Add somebody…), and say of this one since when they work here no more."
        )
    if mine:
        return tr(
            "Two other people who may change the register set another: one is chosen at the top right and comes here, one "
            "stands beside. Both are named with it."
        )
    return tr("Two other people who may change the register set another: you, and one beside. Both are named with it.")
