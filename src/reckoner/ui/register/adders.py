"""What adds a person, a model, a meter or another thing on its shelf."""

from __future__ import annotations

from typing import Any, Generic, TypeVar

from reckoner.core.translation import tr
from reckoner.shop.people.authorship import Act
from reckoner.shop.register import adding
from reckoner.shop.register.editing import Command
from reckoner.shop.register.gear import ONE_OF, add_gear
from reckoner.shop.register.shelves import next_meter
from reckoner.store.terms import RegisterKind
from reckoner.ui.layout import column
from reckoner.ui.place import Surroundings
from reckoner.ui.register.newmeter import NewMeter
from reckoner.ui.register.newmodel import NewModel
from reckoner.ui.register.people import NewPerson
from reckoner.ui.register.shelf import RowAdder, Shelf
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import words_reader
from reckoner.ui.widgets.form import Form, FormFoot, framed
from reckoner.ui.widgets.text import label
from reckoner.ui.work import SessionCall, call

V = TypeVar("V")


class Adder(RowAdder, Generic[V]):
    """A ``form`` and its button. Subclasses say which form, and what adds what it says."""

    def __init__(self, around: Surroundings, shelf: Shelf, title: str, form: Form[V]) -> None:
        super().__init__()
        self.around, self.shelf, self.form = around, shelf, form
        theme = around.theme
        self.foot = FormFoot(theme, tr("Add"), self.add, form)
        self.button = self.foot.button
        form.changed.connect(lambda: self.foot.lacks(""))
        leave = button(theme, tr("Leave it"), shelf.leave_adding, "link")
        self.setLayout(framed(label(theme, title, Type.HEADLINE), leave, form, self.foot))

    def command(self, given: V, act: Act) -> SessionCall[Any]:
        """What adds ``given``."""
        raise NotImplementedError

    def add(self) -> None:
        """Add what the form says."""
        given = self.form.given()
        if given is None:
            return
        if self.around.person is None:
            self.foot.refuse(tr("Choose who is at the bench first, at the top right."))
            return
        self.around.work.ask(self.command(given, self.around.act()), self._added, self.form.refuse)

    def what(self, made: Any) -> tuple[int, Command | None]:
        """The row that the command has made, and what takes it back; nothing where there was such a row already."""
        return made.steps[0].row_id, made

    def begin(self) -> None:
        """Begin anew."""
        self.form.begin()

    def _added(self, made: Any) -> None:
        row_id, command = self.what(made)
        self.foot.lacks("")
        if command is not None:
            self.around.undo_stack.did(command)
        self.shelf.added(row_id)


class PersonAdder(Adder[tuple[str, str]]):
    """Somebody who works here."""

    def __init__(self, around: Surroundings, shelf: Shelf) -> None:
        super().__init__(around, shelf, tr("Add somebody"), NewPerson(around.theme))

    def command(self, given: tuple[str, str], act: Act) -> SessionCall[Command]:
        return call(adding.add_person, *given, act, act.at)


class MeterAdder(Adder[adding.MeterDraft]):
    """A torque meter, with its certificate or unproven."""

    def __init__(self, around: Surroundings, shelf: Shelf) -> None:
        self.form: NewMeter
        super().__init__(around, shelf, tr("Add a torque meter"), NewMeter(around.theme, around.today))

    def begin(self) -> None:
        super().begin()
        self.around.work.look(next_meter, self.form.call_it)

    def command(self, given: adding.MeterDraft, act: Act) -> SessionCall[Command]:
        return call(adding.add_meter, given, act)


class NewGear(Form[str]):
    """What a thing is called; the rest stands on its sheet."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.number = self.field("number", tr("What you call it"), words_reader, tr("such as W-10"), wide=32)
        self.setLayout(column(self.number, gap=0))

    def value(self) -> str:
        """Its number."""
        return self.number.text


class GearAdder(Adder[str]):
    """A weight, a scale, a gauge, a rule, a level or an adapter, by its number."""

    def __init__(self, kind: RegisterKind, around: Surroundings, shelf: Shelf) -> None:
        self._kind = kind
        super().__init__(around, shelf, tr("Add {one_of}", one_of=ONE_OF[kind]), NewGear(around.theme))

    def command(self, given: str, act: Act) -> SessionCall[Command]:
        return call(add_gear, self._kind, given, act)


class ModelAdder(Adder[adding.ModelDraft]):
    """A model, described by its picture."""

    def __init__(self, around: Surroundings, shelf: Shelf) -> None:
        super().__init__(around, shelf, tr("Add a model"), NewModel(around.theme))

    def command(self, given: adding.ModelDraft, act: Act) -> SessionCall[tuple[int, Command | None]]:
        return call(adding.add_model, given, act)

    def what(self, made: tuple[int, Command | None]) -> tuple[int, Command | None]:
        return made
