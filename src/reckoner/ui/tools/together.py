"""What is done with many tools at once: one field of all that are chosen in the table."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import Refused
from reckoner.core.translation import tr, tr_count
from reckoner.shop.register.editing import Command
from reckoner.shop.register.field import Field
from reckoner.shop.register.many import MOST, change_many, fields_together, ids_at
from reckoner.ui.layout import column, row, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.register.fieldrow import FieldRow
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.tools.columns import ColumnsTable
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

A_FEW = 20
"""How many are done before the count is told anew."""

TITLES = {
    "place": tr("Move to…"),
    "owner": tr("Owner…"),
    "interval_months": tr("Months…"),
    "interval_school": tr("School of intervals…"),
    "cycles_per_year": tr("Cycles a year…"),
    "rule_set": tr("Rule set…"),
}


class Together(QWidget):
    """Stands below the table; ``asked`` says which filter its rows are of."""

    _counted = pyqtSignal(int)

    def __init__(self, around: Surroundings, table: ColumnsTable, asked: Callable[[], str]) -> None:
        super().__init__()
        self._around, self._table, self._asked = around, table, asked
        theme = around.theme
        self._fields: dict[str, Field] = {}
        self._stop = threading.Event()
        self._of = 0
        self.told = label(theme, "", Type.STRONG)
        self.what = Chips(theme, tr("What to change of all that are chosen"), beside=True)
        self.what.chosen.connect(self._open)
        self.labels_button = button(theme, tr("Their labels…"), self._labels)
        self.rows: dict[str, FieldRow] = {}
        self._room = column(gap=0)
        self.stop_button = button(theme, tr("Stop"), self._stop.set)
        self.stop_button.hide()
        line = row(self.told, self.what, self.labels_button, self.stop_button, gap=2)
        line.setStretch(1, 1)
        self.setLayout(column(surface(column(line, self._room, gap=1, margin=2))))
        table.chosen.connect(self._tell_count)
        self._counted.connect(self._count)
        self._tell_count(0)

    def _tell_count(self, count: int) -> None:
        """How many are chosen; what can be done with them once there are some."""
        self.told.setText(
            tr("Choose tools with Shift, Ctrl or Ctrl+A, to change them together.")
            if not count
            else tr_count("{n} tool chosen", "{n} tools chosen", count)
        )
        self.what.setVisible(count > 0)
        self.labels_button.setVisible(count > 0)
        if not self._fields and count:
            self._fields = {field.name: field for field in fields_together()}
            self.what.offer([(name, TITLES[name]) for name in self._fields], [])
        if not count:
            self._close()

    def _close(self) -> None:
        self.what.choose("")
        for one in self.rows.values():
            one.close_quietly()
            one.hide()

    def _open(self) -> None:
        """The field that was chosen, open to be typed."""
        name = self.what.one
        for other, one in self.rows.items():
            if other != name:
                one.close_quietly()
                one.hide()
        if name not in self.rows:
            made = self.rows[name] = FieldRow(self._around.theme, self._fields[name])
            made.given.connect(self._give)
            made.setMaximumWidth(96 * GRID)
            self._room.addWidget(made)
        one = self.rows[name]
        one.show_value(None, self._around.own)
        one.show()
        one.edit()

    def _labels(self) -> None:
        """The labels of all that are chosen."""
        text, today, sorting, spans = self._asked(), self._around.today, self._table.sorting, self._table.spans
        self._around.work.look(
            call(ids_at, text, today, sorting, spans),
            lambda found: self._around.go(Target(PlaceId.RECORDS, tools=tuple(found))),
        )

    def _give(self, name: str, value: Any) -> None:
        field, one, count = self._fields[name], self.rows[name], self._table.count
        if self._around.person is None:
            one.refuse(tr("Choose who is at the bench first, at the top right."))
            return
        if count > MOST:
            one.refuse(
                tr(
                    "{count} tools are chosen; at most {most} are changed at once. Filter for fewer.",
                    count=count,
                    most=MOST,
                )
            )
            return
        text, today, sorting, spans = self._asked(), self._around.today, self._table.sorting, self._table.spans

        self._around.work.look(
            call(ids_at, text, today, sorting, spans),
            lambda found: self._change(found, field, value, one),
            one_refused(one),
        )

    def _change(self, ids: tuple[int, ...], field: Field, value: Any, one: FieldRow) -> None:
        act = self._around.act()
        self._of = len(ids)
        self._stop.clear()
        self.stop_button.show()

        def go_on(done: int) -> bool:
            if done % A_FEW == 0:
                self._counted.emit(done)
            return not self._stop.is_set()

        def kept(command: Command) -> None:
            self._around.undo_stack.did(command)
            self._close()

        self._around.work.ask(
            call(change_many, ids, field, value, act, go_on),
            kept,
            one_refused(one),
            ended=self._over,
        )

    def _over(self) -> None:
        self.stop_button.hide()
        self._tell_count(self._table.count)

    def _count(self, done: int) -> None:
        if self.stop_button.isVisibleTo(self):
            self.told.setText(tr("{done} of {of}; nothing is kept until all are", done=done, of=self._of))


def one_refused(one: FieldRow) -> Callable[[Refused], None]:
    """Says a refusal at its field."""
    return lambda refusal: one.refuse(str(refusal))
