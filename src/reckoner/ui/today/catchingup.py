"""Very many overdue tools as a plan: a line a day, with its meter and its tools."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout, QLabel, QWidget

from reckoner.core.quantities.days import long_day, weekday_words
from reckoner.core.translation import tr, tr_count
from reckoner.shop.planning.workload import CatchingUp, PlannedDay, catching_up
from reckoner.ui.latest import LatestQuery
from reckoner.ui.layout import column, empty, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.flow import Flow
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

SHOWN = 15
"""Days that are shown: three weeks of work."""

A_DAY = (4, 8, 12, 16, 24)


class CatchingUpPage(QWidget):
    """A tool that is pressed opens its sheet."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._asking = LatestQuery(around.work)
        theme = self._theme = around.theme
        self.plan: CatchingUp | None = None
        self.sentence = label(theme, "", Type.TITLE, wrap=True)
        self.note = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.a_day = Chips(theme, tr("How many are tested in a day"))
        self.a_day.chosen.connect(self.refresh)
        self._lines = QGridLayout()
        self._lines.setHorizontalSpacing(3 * GRID)
        self._lines.setVerticalSpacing(2 * GRID)
        self._lines.setColumnStretch(3, 1)
        days = QWidget()
        days.setLayout(column(self._lines, 1, margin=3))
        head = row(column(self.sentence, self.note, gap=1), gap=2)
        pace = row(label(theme, tr("Tools a day"), Type.BODY, "quiet"), self.a_day, gap=2)
        pace.setStretch(1, 1)
        layout = column(head, pace, surface(column(scrolling(days), gap=0)), gap=2)
        layout.setStretch(2, 1)
        self.setLayout(layout)

    def refresh(self) -> None:
        """Ask for the plan anew, at the pace that was chosen."""
        pace, today = int(self.a_day.one) if self.a_day.one else None, self._around.today
        self._asking.look(call(catching_up, today, pace), self._show_plan)

    def _show_plan(self, plan: CatchingUp) -> None:
        self.plan = plan
        self.sentence.setText(_sentence(plan))
        self.note.setText(_note(plan))
        paces = sorted({*A_DAY, plan.a_day})
        self.a_day.offer([(str(n), str(n)) for n in paces], [str(plan.a_day)])
        empty(self._lines)
        top = Qt.AlignmentFlag.AlignTop
        line: QLabel
        for i, (day, batch) in enumerate((d, b) for d in plan.days[:SHOWN] for b in d.batches):
            cells = (
                (self._day(day) if batch is day.batches[0] else "", Type.STRONG),
                (batch.meter or tr("no meter fits"), Type.BODY),
                (str(len(batch.tools)), Type.STRONG),
            )
            for place, (said, role) in enumerate(cells):
                line = label(self._theme, said, role)
                line.setMinimumHeight(4 * GRID)  # in line with the numbers, which can be pressed
                self._lines.addWidget(line, i, place, top)
            numbers = QWidget()
            flow = Flow(numbers, gap=0)
            for tool in batch.tools:
                press = partial(self._around.go, Target(PlaceId.TOOLS, tool=tool.id))
                flow.addWidget(button(self._theme, tool.number, press, "link"))
            self._lines.addWidget(numbers, i, 3)
        if len(plan.days) > SHOWN:
            more = sum(len(d.tools) for d in plan.days[SHOWN:])
            words = tr("and {more} more on the {count} working days after", more=more, count=len(plan.days) - SHOWN)
            self._lines.addWidget(label(self._theme, words, Type.BODY, "quiet"), self._lines.rowCount(), 0, 1, 4)

    def _day(self, day: PlannedDay) -> str:
        return tr("Today") if day.on == self._around.today else weekday_words(day.on)


def _sentence(plan: CatchingUp) -> str:
    tools = tr_count("1 tool is overdue", "{n} tools are overdue", plan.late)
    if plan.ends is None:
        return f"{tools}."
    return tr(
        "{tools}. At {a_day} a day they are done on {ends}.", tools=tools, a_day=plan.a_day, ends=long_day(plan.ends)
    )


def _note(plan: CatchingUp) -> str:
    lent = tr(" {lent} of them are lent out, and wait until they are back.", lent=plan.lent) if plan.lent else ""
    judged = any(batch.meter for day in plan.days for batch in day.batches)
    none = (
        ""
        if judged or not plan.days
        else tr(" No meter here judges any of them: look at the certificates under References.")
    )
    return tr(
        "The longest overdue first, and with them what the same meter serves, so that it is set up "
        "once. An overdue tool is not used until it was tested.{lent}{none}",
        lent=lent,
        none=none,
    )
