"""Look over: one line at a time, Enter says fine; not fine needs a reason to go on."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout, QWidget

from reckoner.core.translation import tr
from reckoner.shop.runs import opening, setting_up
from reckoner.shop.runs.records import InspectedLine
from reckoner.shop.runs.state import RunState
from reckoner.ui.bench.panel import Action, BenchAccess, Panel
from reckoner.ui.layout import column, empty, row, surface
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call


class LookOverPanel(Panel):
    def __init__(self, desk: BenchAccess) -> None:
        super().__init__(desk)
        self._run: RunState | None = None
        self._each = False
        self._title = label(self.theme, "", Type.HEADLINE, wrap=True)
        self._means = label(self.theme, "", Type.TITLE, "quiet", wrap=True)
        self._not_fine = button(self.theme, tr("Not fine…"), self._object)
        self._noting = button(self.theme, tr("Fine, with a note…"), self._ask_note)
        self._note = EntryField(
            self.theme, tr("A note to this line, then Enter"), words_reader, tr("such as: grip tape renewed")
        )
        self._note.given.connect(lambda _words: self._fine())
        self._note.hide()
        self._reason = EntryField(
            self.theme,
            tr("What is wrong, and why it may still be tested"),
            words_reader,
            tr("such as: light dirt, cleaned"),
        )
        self._accept = button(self.theme, tr("Accept with this reason"), self._accept_reason)
        self._reason.given.connect(lambda _words: self._accept_reason())
        self._give_up = label(
            self.theme, tr("A tool that could hurt someone is not tested: hold it."), Type.BODY, "quiet", wrap=True
        )
        self.hold = button(self.theme, tr("Give the run up and hold it"), self._hold)
        self._objection = QWidget()
        self._objection.setLayout(column(self._reason, row(self._accept, self.hold, 1), self._give_up, gap=1))
        self._objection.hide()
        self._grid = QGridLayout()
        self._grid.setHorizontalSpacing(2 * GRID)
        self._grid.setVerticalSpacing(GRID)
        self._grid.setColumnStretch(1, 1)
        now = surface(
            column(
                label(self.theme, tr("Look at, then press Enter if it is fine"), Type.BODY, "quiet"),
                self._title,
                self._means,
                row(self._not_fine, self._noting, 1),
                self._note,
                self._objection,
                gap=2,
                margin=3,
            )
        )
        holder = QWidget()
        holder.setLayout(
            column(label(self.theme, tr("The list for this mechanism"), Type.LEAD), self._grid, gap=2, margin=3)
        )
        holder.setProperty("class", "surface")
        self.setLayout(column(now, surface(column(holder)), 1, gap=2))

    def show_run(self, run: RunState) -> None:
        fresh = self._run is None or self._run.id != run.id
        self._run = run
        line = self._current()
        if fresh:
            self._each = False
        glance = run.policy.glance and not self._each and line is not None
        self._title.setText(tr("Nothing wrong at a glance?") if glance else line.line if line else tr("All looked at"))
        means = "; ".join(f"{one.line.lower()}: {one.fine_means}" for one in run.inspection if one.fine is None)
        self._means.setText(means if glance else line.fine_means if line else "")
        self._objection.hide()
        self._note.hide()
        self._note.clear()
        self._not_fine.setVisible(line is not None)
        self._noting.setVisible(line is not None)
        empty(self._grid)
        for i, done in enumerate(run.inspection):
            words = (
                (tr("fine: {note}", note=done.note) if done.note else tr("fine"))
                if done.fine
                else tr("accepted: {note}", note=done.note)
                if done.settled
                else tr("not fine")
                if done.fine is False
                else "—"
            )
            tone = "good" if done.fine else "fault" if done.fine is False else "quiet"
            self._grid.addWidget(label(self.theme, done.line, Type.STRONG), i, 0)
            self._grid.addWidget(label(self.theme, done.fine_means, Type.BODY, "quiet", wrap=True), i, 1)
            self._grid.addWidget(label(self.theme, words, Type.STRONG, tone), i, 2, Qt.AlignmentFlag.AlignRight)

    def action(self) -> Action | None:
        if self._current() is None:
            return None
        return Action(tr("Nothing wrong"), self._all_fine) if self._at_a_glance else Action(tr("Fine"), self._fine)

    @property
    def _at_a_glance(self) -> bool:
        run = self._run
        return run is not None and run.policy.glance and not self._each and self._objection.isHidden()

    def _all_fine(self) -> None:
        run = self._run
        if run is not None:
            self.desk.do(call(setting_up.look_over_all, run.id, self.desk.around.act()))

    def _fine(self) -> None:
        if self._objection.isVisible() and self._reason.text.strip():
            self._accept_reason()
            return
        line, run = self._current(), self._run
        if line is not None and run is not None:
            note = self._note.text if self._note.isVisible() else ""
            self.desk.do(call(setting_up.look_over, run.id, line.line, True, note, self.desk.around.act(), run))

    def _current(self) -> InspectedLine | None:
        if self._run is None:
            return None
        return next((line for line in self._run.inspection if not line.settled), None)

    def _ask_note(self) -> None:
        self._objection.hide()
        self._note.show()
        self._note.setFocus()

    def _object(self) -> None:
        if self._at_a_glance and self._run is not None:  # then each is looked at by itself
            self._each = True
            self.show_run(self._run)
            self.setFocus()
            self.desk.offer()
            return
        self._note.hide()
        self._reason.clear()
        self._objection.show()
        self._reason.setFocus()

    def _hold(self) -> None:
        """What was found ends the run and holds the tool."""
        line, run, reason = self._current(), self._run, self._reason.text.strip()
        if not reason:
            self._reason.refuse(tr("Say what is wrong; the tool is held for it."))
            self._reason.setFocus()
            return
        if line is not None and run is not None:
            why = f"{line.line}: {reason}"
            self.desk.do(call(opening.give_up, run.id, why, self.desk.around.act(), hold=True))

    def _accept_reason(self) -> None:
        line, run, reason = self._current(), self._run, self._reason.text.strip()
        if not reason:
            self._reason.refuse(tr("Say what is wrong and why it may still be tested."))
            self._reason.setFocus()
            return
        if line is not None and run is not None:
            self.desk.do(call(setting_up.look_over, run.id, line.line, False, reason, self.desk.around.act(), run))
