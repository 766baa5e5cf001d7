"""Tools that are not in the register yet: a number, or a run of them, and their model, which may be described by its
picture."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QButtonGroup, QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read_plain
from reckoner.core.translation import tr, tr_count
from reckoner.shop.register import completing
from reckoner.shop.register.adding import MOST_AT_ONCE, ToolsDraft, add_tools, numbers_from
from reckoner.shop.register.completing import ModelFacts
from reckoner.shop.register.editing import Command
from reckoner.ui.layout import column, empty, row
from reckoner.ui.place import Surroundings
from reckoner.ui.register.newmodel import NewModel
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.choice import ChoiceRow
from reckoner.ui.widgets.entry import words_reader
from reckoner.ui.widgets.form import Form, FormFoot, framed
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

SHOWN = 7
"""Models that are listed at once."""


class NewTools(QWidget):
    """Signals ``added(ids)`` once they are in the register, ``left()`` when the person goes back without."""

    added = pyqtSignal(object)
    left = pyqtSignal()

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        theme = around.theme
        self.title = label(theme, "", Type.HEADLINE)
        self.form = NewToolsForm(theme)
        self.foot = FormFoot(theme, tr("Add it"), self.add, self.form)
        self.button = self.foot.button
        self.form.changed.connect(self._update_state)
        self.setLayout(framed(self.title, button(theme, tr("Leave it"), self.left.emit, "link"), self.form, self.foot))

    def begin(
        self,
        number: str = "",
        like: int | None = None,
        like_model: int | None = None,
        of: str = "",
        *,
        describes: bool = False,
    ) -> None:
        """Begin with what is known: a ``number``, or another tool ``like`` which they are; or that none of the models is
        theirs, and one is described."""
        self.title.setText(tr("Another one like {of}", of=of) if like is not None else tr("Add tools"))
        self.form.begin_with(number, like, like_model, describes=describes)
        self._around.work.browse(completing.models, self.form.offer)

    def add(self) -> None:
        """Add them, all or none."""
        given = self.form.given()
        if given is None:
            return
        if self._around.person is None:
            self.foot.refuse(tr("Choose who is at the bench first, at the top right."))
            return

        def done(made: tuple[tuple[int, ...], Command]) -> None:
            ids, command = made
            self._around.undo_stack.did(command)
            self.added.emit(ids)

        self._around.work.ask(call(add_tools, given, self._around.act()), done, self.form.refuse)

    def _update_state(self) -> None:
        self.foot.lacks(self.form.missing())
        count = self.form.how_many
        self.button.say(tr_count("Add it", "Add {n} tools", count))


class NewToolsForm(Form[ToolsDraft]):
    """Their numbers, and a model of the register, or one that is described."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.models: tuple[ModelFacts, ...] = ()
        self._like: int | None = None
        self._like_model: int | None = None
        self._describes = False
        self.number = self.field("number", tr("Number"), self._read_number, tr("such as HC-0500"))
        self.count = self.field("count", tr("How many of a kind"), _read_count)
        self.count.offer_steps(theme, 1, 1)
        self.count.line.textChanged.connect(lambda _text: self.number.read_with(self._read_number))
        self.serial = self.field("serial", tr("Serial, where it has one"), words_reader)
        self.place = self.field("place", tr("Where it is kept; it can wait"), words_reader)
        self.filter = self.field("filter", tr("Which model is it?"), words_reader, tr("type to narrow the list"))
        self.filter.line.textChanged.connect(lambda _text: self._narrow())
        self._choices = column(gap=1)
        self.group = QButtonGroup(self)
        self.group.buttonToggled.connect(lambda *_: self.look())
        self.describe = button(theme, tr("None of these: describe it by its picture…"), self._describe, "link")
        self.new_model = NewModel(theme)
        self.include(self.new_model)
        known = QWidget()
        known.setLayout(column(self.filter, self._choices, row(self.describe, 1), gap=1))
        self.setLayout(
            column(
                row(self.number, self.count, gap=2), row(self.serial, self.place, gap=2), known, self.new_model, gap=2
            )
        )
        self.shown(lambda: self.how_many == 1, self.serial)
        self.shown(lambda: self._like is None, self.place)
        self.shown(lambda: self._like is None and not self._describes, known)
        self.shown(lambda: self._like is None and self._describes, self.new_model)

    def begin_with(self, number: str, like: int | None, like_model: int | None, *, describes: bool = False) -> None:
        """Begin anew, with a ``number``; they are ``like`` another tool, whose model is ``like_model``, or of one that the
        person ``describes``."""
        self._like, self._like_model, self._describes = like, like_model, describes
        self.begin()
        self.number.line.setText(number)

    def propose(self) -> None:
        """One."""
        self.count.line.setText("1")

    def offer(self, models: tuple[ModelFacts, ...]) -> None:
        """The models to choose from."""
        self.models, self._describes = models, self._describes or not models
        self._narrow()

    def value(self) -> ToolsDraft:
        """The tools as they are described. Raises InputRefused with what is missing."""
        if not self.number.text.strip():
            raise InputRefused("number", "", tr("Give it a number."))
        numbers = numbers_from(self.number.text, self.count.value())
        serial, place = self.serial.text.strip(), self.place.text.strip()
        if self._like is not None:
            return ToolsDraft(numbers, self._like_model, serial=serial, like=self._like)
        if self._describes:
            return ToolsDraft(numbers, None, self.new_model.value(), serial, place)
        chosen = self.group.checkedId()
        if not 0 <= chosen < len(self.models):
            raise InputRefused("filter", None, tr("Choose its model, or describe it by its picture."))
        return ToolsDraft(numbers, self.models[chosen].id, serial=serial, place=place)

    @property
    def how_many(self) -> int:
        """Tools that are asked for; 1 while that is not understood."""
        try:
            return self.count.value_or_none() or 1
        except InputRefused:
            return 1

    def _narrow(self) -> None:
        """The models that the typed words fit; what was chosen stays chosen, and the only one that fits is."""
        chosen = self.group.checkedId()
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
            choice = ChoiceRow(self.theme, model.name.split(" ", 1)[-1], f"{model.name}, {model.detail}")
            self.group.addButton(choice, i)
            self._choices.addWidget(choice)
            choice.setChecked(i == chosen or (bool(words) and len(fitting) == 1))
        if len(fitting) > SHOWN:
            more = tr("and {count} more; type a word of its name", count=len(fitting) - SHOWN)
            self._choices.addWidget(label(self.theme, more, Type.CAPTION, "quiet"))
        self.look()

    def _describe(self) -> None:
        self._describes = True
        self.look()

    def _read_number(self, text: str) -> tuple[tuple[str, ...], str]:
        numbers = numbers_from(text, self.how_many)
        if len(numbers) == 1:
            return numbers, " "
        return numbers, tr(
            "understood: {numbers} to {numbers_2}, {count} tools",
            numbers=numbers[0],
            numbers_2=numbers[-1],
            count=len(numbers),
        )


def _read_count(text: str) -> tuple[int, str]:
    value = read_plain(text, 1, MOST_AT_ONCE, field="count")
    if value != int(value):
        raise InputRefused("count", text, tr('"{text}" is not a whole number', text=text))
    return int(value), " "
