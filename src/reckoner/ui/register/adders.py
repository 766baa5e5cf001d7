"""What adds a person, a model or a meter on its shelf."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import InputRefused, Refused
from reckoner.shop.acts import Act
from reckoner.shop.register import adding
from reckoner.shop.register.editing import Deed
from reckoner.shop.register.gear import ONE_OF, add_gear
from reckoner.store.terms import RegisterKind
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.register.newmeter import NewMeter
from reckoner.ui.register.newmodel import NewModel
from reckoner.ui.register.newperson import NewPerson
from reckoner.ui.register.shelf import Shelf
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

T = TypeVar("T")


class Adder(QWidget):
    """A form with one button: ``form`` is what is filled in. Subclasses say what ``add`` does."""

    def __init__(self, around: Surroundings, shelf: Shelf, title: str, form: QWidget) -> None:
        super().__init__()
        self.around, self.shelf = around, shelf
        theme = around.theme
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.button = PrimaryButton(theme, "Add")
        self.button.setMinimumWidth(30 * GRID)
        self.button.clicked.connect(self.add)
        body = QWidget()
        body.setLayout(column(form, 1, margin=3))
        head = row(label(theme, title, Type.HEADLINE), 1, button(theme, "Leave it", shelf.leave_adding, "link"))
        layout = column(head, surface(column(scrolling(body))), row(self.fault, self.button, gap=2), gap=2)
        layout.setStretch(1, 1)
        self.setLayout(layout)

    def add(self) -> None:
        """Add what the form says."""
        raise NotImplementedError

    def refuse(self, sentence: str) -> None:
        """Say what is wrong."""
        self.fault.setText(sentence)

    def given(self, value: Callable[[], T]) -> T | None:
        """What the form says; None, with the reason shown, while something is wrong or missing."""
        try:
            return value()
        except InputRefused as refusal:
            self.refuse(refusal.reason)
            return None

    def actor(self) -> Act | None:
        """Who adds it, now; None, with the sentence shown, while nobody is at the bench."""
        if self.around.person is None:
            self.refuse("Choose who is at the bench first, at the top right.")
            return None
        return self.around.act()

    def did(self, deed: Deed | None, row_id: int) -> None:
        """It was added."""
        self.fault.setText("")
        if deed is not None:
            self.around.deeds.did(deed)
        self.shelf.added(row_id)


class PersonAdder(Adder):
    """Somebody who works here."""

    def __init__(self, around: Surroundings, shelf: Shelf) -> None:
        self.form = NewPerson(around.theme)
        super().__init__(around, shelf, "Add somebody", self.form)
        self.form.given.connect(self.add)

    def begin(self) -> None:
        """Begin anew."""
        self.form.initials.clear()
        self.form.name.clear()
        self.form.initials.setFocus()

    def add(self) -> None:
        initials, name, act = self.form.initials.text, self.form.name.text, self.actor()
        if act is None:
            return

        def refused(refusal: Refused) -> None:
            self.form.initials.refuse(str(refusal))

        self.around.work.ask(
            call(adding.add_person, initials, name, act, act.at),
            lambda deed: self.did(deed, deed.steps[0].row_id),
            refused,
        )


class MeterAdder(Adder):
    """A torque meter, with its certificate or unproven."""

    def __init__(self, around: Surroundings, shelf: Shelf) -> None:
        self.form = NewMeter(around.theme, around.today)
        super().__init__(around, shelf, "Add a torque meter", self.form)
        self.form.changed.connect(lambda: self.refuse(""))

    def add(self) -> None:
        given, act = self.given(self.form.value), self.actor()
        if given is not None and act is not None:
            self.around.work.ask(
                call(adding.add_meter, given, act),
                lambda deed: self.did(deed, deed.steps[0].row_id),
                lambda refusal: self.refuse(str(refusal)),
            )


class GearAdder(Adder):
    """A weight, a scale, a gauge, a rule, a level or an adapter, by its number; the rest stands on its sheet."""

    def __init__(self, kind: RegisterKind, around: Surroundings, shelf: Shelf) -> None:
        self._kind = kind
        self.form = EntryField(around.theme, "What you call it", words_reader, "such as W-10")
        self.form.cap(32 * GRID)
        super().__init__(around, shelf, f"Add {ONE_OF[kind]}", self.form)
        self.form.given.connect(lambda _value: self.add())

    def begin(self) -> None:
        """Begin anew."""
        self.form.clear()
        self.form.setFocus()

    def add(self) -> None:
        number, act = self.form.text, self.actor()
        if act is None:
            return
        self.around.work.ask(
            call(add_gear, self._kind, number, act),
            lambda deed: self.did(deed, deed.steps[0].row_id),
            lambda refusal: self.form.refuse(str(refusal)),
        )


class ModelAdder(Adder):
    """A model, described by its picture."""

    def __init__(self, around: Surroundings, shelf: Shelf) -> None:
        self.form = NewModel(around.theme)
        super().__init__(around, shelf, "Add a model", self.form)

    def add(self) -> None:
        given, act = self.given(self.form.value), self.actor()
        if given is not None and act is not None:
            self.around.work.ask(
                call(adding.add_model, given, act),
                lambda made: self.did(made[1], made[0]),
                lambda refusal: self.refuse(str(refusal)),
            )
