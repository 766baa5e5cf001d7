"""Saying how a model is adjusted where the register does not know it: adjusting is closed until then."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.shop.register.editing import Command
from reckoner.shop.runs.adjusting import tell_where
from reckoner.shop.runs.state import RunState
from reckoner.store.terms import Right
from reckoner.ui.latest import OneAtATime
from reckoner.ui.layout import column
from reckoner.ui.place import Surroundings
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.work import call


class HowAdjusted(QWidget):
    """Shown to who may adjust and edit, of a tool that is to be adjusted; ``learned(run_id)`` is called once
    the run knows it."""

    def __init__(self, around: Surroundings, learned: Callable[[int], None]) -> None:
        super().__init__()
        self._around, self._learned = around, learned
        self._run: RunState | None = None
        self._doing = OneAtATime(around.work)
        self.where = EntryField(
            around.theme,
            tr("Where its adjusting screw is, as its maker's instructions say"),
            words_reader,
            tr("such as under the cap of the handle"),
        )
        self.where.line.editingFinished.connect(self._tell)
        self.setLayout(column(self.where))
        self.hide()

    def show_run(self, run: RunState, *, wanted: bool) -> None:
        """``wanted``: the run's result asks for adjusting."""
        person = self._around.person
        if self._run is None or self._run.id != run.id:
            self.where.clear()
        self._run = run
        may = person is not None and {Right.ADJUST, Right.EDIT} <= person.rights
        self.setVisible(wanted and run.tool.adjustment is None and may)

    def _tell(self) -> None:
        run, where = self._run, self.where.text.strip()
        if run is None or not where or not self.isVisible():
            return

        def done(command: Command | None) -> None:
            if command is not None:
                self._around.undo_stack.did(command)
            self.where.clear()
            self._learned(run.id)

        def refused(refusal: Refused) -> None:
            self.where.refuse(str(refusal))

        self._doing.ask(call(tell_where, run.id, where, self._around.act()), done, refused)
