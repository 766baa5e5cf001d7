"""One tool or many of a kind: their numbers, and which model they are of."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QButtonGroup, QWidget

from reckoner.core.entry import read_plain
from reckoner.core.errors import InputRefused, Refused
from reckoner.shop.register import completing
from reckoner.shop.register.adding import MOST_AT_ONCE, GivenTools, add_tools, numbers_from
from reckoner.shop.register.completing import ModelFacts
from reckoner.shop.register.editing import Deed
from reckoner.ui.layout import column, empty, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.register.newmodel import NewModel
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.choice import ChoiceRow
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call


class NewTools(QWidget):
    """Signals ``added(ids)`` once they are in the register, ``left()`` when the person goes back without."""

    added = pyqtSignal(object)
    left = pyqtSignal()

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        theme = around.theme
        self.models: tuple[ModelFacts, ...] = ()
        self._like: int | None = None
        self._like_model: int | None = None
        self.title = label(theme, "", Type.HEADLINE)
        self.number = EntryField(theme, "Number", self._read_number, "such as HC-0500")
        self.count = EntryField(theme, "How many of a kind", _read_count)
        self.count.line.setText("1")
        self.count.offer_steps(theme, 1, 1)
        self.serial = EntryField(theme, "Serial, where it has one", words_reader)
        self.place = EntryField(theme, "Where it is kept; it can wait", words_reader)
        self.filter = EntryField(theme, "Which model is it?", words_reader, "type to narrow the list")
        self.filter.line.textChanged.connect(lambda _text: self._narrow())
        self._choices = column(gap=1)
        self.group = QButtonGroup(self)
        self.group.buttonToggled.connect(lambda *_: self._look())
        self.describe = button(theme, "None of these: describe it by its picture…", self._describe, "link")
        self.new_model = NewModel(theme)
        self.new_model.changed.connect(self._look)
        self.new_model.hide()
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.button = PrimaryButton(theme, "Add it")
        self.button.clicked.connect(self.add)
        self.button.setMinimumWidth(30 * GRID)
        for field in (self.number, self.serial, self.place):
            field.line.textChanged.connect(lambda _text: self._look())
            field.given.connect(lambda _value: self.add())
        self.count.line.textChanged.connect(lambda _text: self._counted())
        self._known = QWidget()
        self._known.setLayout(column(self.filter, self._choices, row(self.describe, 1), gap=1))
        body = QWidget()
        body.setLayout(
            column(
                row(self.number, self.count, gap=2),
                row(self.serial, self.place, gap=2),
                self._known,
                self.new_model,
                1,
                gap=2,
                margin=3,
            )
        )
        leave = button(theme, "Leave it", self.left.emit, "link")
        top = row(self.title, 1, leave, gap=2)
        foot = row(column(self.fault, gap=0), self.button, gap=2)
        layout = column(top, surface(column(scrolling(body))), foot, gap=2)
        layout.setStretch(1, 1)
        self.setLayout(layout)

    def begin(self, number: str = "", like: int | None = None, like_model: int | None = None, of: str = "") -> None:
        """Begin with what is known: a ``number``, or another tool ``like`` which they are."""
        self._like, self._like_model = like, like_model
        self.title.setText(f"Another one like {of}" if like is not None else "Add tools")
        self.number.line.setText(number)
        self.count.line.setText("1")
        self.serial.clear()
        self.fault.setText("")
        self.place.setVisible(like is None)
        self._known.setVisible(like is None)
        self.new_model.hide()
        self._around.work.browse(completing.models, self._show)
        self.number.setFocus()

    def add(self) -> None:
        """Add them, all or none."""
        try:
            given = self._given()
        except InputRefused as refusal:
            self._refuse(refusal.field, refusal.reason)
            return
        if self._around.person is None:
            self.fault.setText("Choose who is at the bench first, at the top right.")
            return
        act = self._around.act()

        def done(made: tuple[tuple[int, ...], Deed]) -> None:
            ids, deed = made
            self._around.deeds.did(deed)
            self.added.emit(ids)

        def refused(refusal: Refused) -> None:
            self._refuse(getattr(refusal, "field", ""), str(refusal))

        self._around.work.ask(call(add_tools, given, act), done, refused)

    def _given(self) -> GivenTools:
        numbers = numbers_from(self.number.text, _read_count(self.count.text)[0])
        serial, place = self.serial.text.strip(), self.place.text.strip()
        if self._like is not None:
            return GivenTools(numbers, self._like_model, serial=serial, like=self._like)
        if self.new_model.isVisibleTo(self):
            return GivenTools(numbers, None, self.new_model.value(), serial, place)
        chosen = self.group.checkedId()
        if not 0 <= chosen < len(self.models):
            raise InputRefused("model", None, "Choose its model, or describe it by its picture.")
        return GivenTools(numbers, self.models[chosen].id, serial=serial, place=place)

    def _refuse(self, field: str, sentence: str) -> None:
        at: dict[str, EntryField[Any]] = {
            "number": self.number,
            "count": self.count,
            "range": self.new_model.range,
            "name": self.new_model.name,
        }
        said = f"{sentence[:1].upper()}{sentence[1:]}"
        if field in at:
            at[field].refuse(said)
            at[field].setFocus()
        self.fault.setText("" if field in at else said)

    def _show(self, found: tuple[ModelFacts, ...]) -> None:
        self.models = found
        self._narrow()
        if not found and self._like is None:
            self._describe()
        self._look()

    def _narrow(self) -> None:
        """The models that the typed words fit."""
        for old in self.group.buttons():
            self.group.removeButton(old)
        empty(self._choices)
        words = self.filter.text.casefold().split()
        fitting = [
            (i, m)
            for i, m in enumerate(self.models)
            if all(word in f"{m.name} {m.detail}".casefold() for word in words)
        ]
        for i, model in fitting[:SHOWN]:
            choice = ChoiceRow(self._around.theme, model.name.split(" ", 1)[-1], f"{model.name}, {model.detail}")
            self.group.addButton(choice, i)
            self._choices.addWidget(choice)
        if len(fitting) > SHOWN:
            more = f"and {len(fitting) - SHOWN} more; type a word of its name"
            self._choices.addWidget(label(self._around.theme, more, Type.CAPTION, "quiet"))
        self._look()

    def _describe(self) -> None:
        self._known.hide()
        self.new_model.show()
        self._look()

    def _counted(self) -> None:
        self.number.read_with(self._read_number)
        self.serial.setVisible(self.count.text.strip() in ("1", ""))
        self._look()

    def _read_number(self, text: str) -> tuple[tuple[str, ...], str]:
        numbers = numbers_from(text, _read_count(self.count.text)[0])
        if len(numbers) == 1:
            return numbers, " "
        return numbers, f"understood: {numbers[0]} to {numbers[-1]}, {len(numbers)} tools"

    def _look(self) -> None:
        try:
            given = self._given()
        except InputRefused as refusal:
            self.button.setEnabled(bool(self.number.text.strip()) and refusal.field not in ("model", "kind", "range"))
            self.button.setToolTip(refusal.reason)
            self.button.say("Add it")
            return
        self.button.setEnabled(True)
        count = len(given.numbers)
        self.button.say("Add it" if count == 1 else f"Add {count} tools")


SHOWN = 7
"""Models that are listed at once."""


def _read_count(text: str) -> tuple[int, str]:
    value = read_plain(text, 1, MOST_AT_ONCE, field="count")
    if value != int(value):
        raise InputRefused("count", text, f'"{text}" is not a whole number')
    return int(value), " "
