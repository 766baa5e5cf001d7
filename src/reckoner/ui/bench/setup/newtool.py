"""A tool that was scanned and is not in the register: add it here and go on."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QButtonGroup, QWidget

from reckoner.core.translation import tr
from reckoner.shop.register import completing
from reckoner.shop.register.completing import ModelFacts
from reckoner.ui.bench.panel import Action, BenchAccess, Panel
from reckoner.ui.layout import column, empty, row, scrolling, surface
from reckoner.ui.places import DESCRIBE, PlaceId
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.choice import ChoiceRow
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call


class NewToolPanel(Panel):
    """Its number as scanned, its serial, and which model it is; a new model is described under Tools, and leads back here."""

    def __init__(self, desk: BenchAccess) -> None:
        super().__init__(desk)
        self.models: tuple[ModelFacts, ...] = ()
        self.leave = button(self.theme, tr("Leave it"), self.desk.leave_new_tool, "link")
        self.title = label(self.theme, "", Type.HEADLINE, wrap=True)
        self.number = EntryField(self.theme, tr("Its number"), words_reader)
        self.serial = EntryField(self.theme, tr("Its serial, where it has one"), words_reader)
        self._choices = column(gap=1)
        self.group = QButtonGroup(self)
        self.group.buttonToggled.connect(lambda *_: self.desk.offer())
        self._none = label(
            self.theme,
            tr("No model is in the register yet: describe the tool by its picture."),
            Type.BODY,
            "quiet",
            wrap=True,
        )
        self.describe = button(self.theme, tr("None of these: describe it by its picture…"), self._describe, "link")
        holder = QWidget()
        holder.setLayout(
            column(
                label(self.theme, tr("Which model is it?"), Type.LEAD),
                self._none,
                self._choices,
                row(self.describe, 1),
                1,
                margin=3,
            )
        )
        head = row(self.title, self.leave, gap=2)
        head.setStretch(0, 1)
        top = surface(column(head, self.number, self.serial, gap=1, margin=3))
        layout = column(top, surface(column(scrolling(holder))), gap=2)
        layout.setStretch(1, 1)
        self.setLayout(layout)
        for field in (self.number, self.serial):
            field.given.connect(lambda _v: self._add())

    def ask(self, number: str) -> None:
        """Ask for what is needed to add the tool of ``number``."""
        self.title.setText(tr("{number} is not in the register. Add it?", number=number))
        self.number.line.setText(number)
        self.serial.clear()
        self.desk.around.work.browse(completing.models, self._show_models)

    def _show_models(self, found: tuple[ModelFacts, ...]) -> None:
        self.models = found
        for old in self.group.buttons():
            self.group.removeButton(old)
        empty(self._choices)
        for i, model in enumerate(found):
            title, detail = _words(model)
            choice = ChoiceRow(self.theme, title, detail)
            self.group.addButton(choice, i)
            self._choices.addWidget(choice)
        self._none.setVisible(not found)
        self.serial.setFocus()
        self.desk.offer()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.desk.leave_new_tool()
            return
        super().keyPressEvent(event)

    def _describe(self) -> None:
        asked = self.desk.wishes.new
        number = self.number.text.strip()
        self.desk.around.go(replace(asked, place=PlaceId.TOOLS, number=number, page=DESCRIBE))

    def action(self) -> Action | None:
        if not self.models:
            return Action(tr("Describe it by its picture"), self._describe)
        chosen = self.group.checkedId()
        there = 0 <= chosen < len(self.models)
        return Action(
            tr("Add it and go on"), self._add, allowed=there, why_not="" if there else tr("Choose its model first.")
        )

    def _add(self) -> None:
        chosen = self.group.checkedId()
        if not 0 <= chosen < len(self.models):
            return
        around = self.desk.around
        number, serial, model_id, act = self.number.text, self.serial.text, self.models[chosen].id, around.act()
        around.work.ask(
            call(completing.add_tool, number, serial, model_id, act),
            lambda tool_id: around.go(self.desk.wishes.target_of_new(tool_id)),
            lambda refusal: self.number.refuse(str(refusal)),
        )


def _words(model: ModelFacts) -> tuple[str, str]:
    """What a model is called, and what is said beside it: nothing where its name says it already."""
    return model.called, "" if model.described else ", ".join(filter(None, (model.maker, model.detail)))
