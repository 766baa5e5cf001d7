"""A diary of abuse as it stands: what each step says, and what was done to the tool now, to read it again."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QGridLayout, QWidget

from reckoner.core.translation import tr
from reckoner.shop.records.documents import diary_bytes, saved
from reckoner.shop.runs import diary
from reckoner.shop.runs.diary import ABUSE_WORDS, diary_of
from reckoner.shop.runs.state import RunState
from reckoner.shop.words.diary import step_words
from reckoner.store.terms import Abuse
from reckoner.ui.bench.panel import Action, BenchAccess
from reckoner.ui.files import FileKind, ask_where
from reckoner.ui.layout import column, empty, row
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.paper import print_bytes
from reckoner.ui.widgets.papersize import paper_mm
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call


class DiaryView(QWidget):
    """``action()`` is the next step once it is said what was done; None where the diary can be signed instead."""

    def __init__(self, desk: BenchAccess) -> None:
        super().__init__()
        self._desk = desk
        self._run: RunState | None = None
        theme = desk.around.theme
        self._lines = QGridLayout()
        self._lines.setHorizontalSpacing(2 * GRID)
        self._lines.setVerticalSpacing(GRID)
        self._lines.setColumnStretch(1, 1)
        self.title = label(theme, tr("What was done to it now?"), Type.LEAD)
        self.what = Chips(theme, tr("What was done to it now?"))
        self.what.chosen.connect(desk.offer)
        self.words = EntryField(theme, tr("In words"), words_reader, tr("such as from a metre onto concrete"))
        self.words.given.connect(lambda _words: self.add())
        self.caution = label(
            theme,
            tr("Nobody stands where it falls or flies; eye protection. It is held when this is signed."),
            Type.CAPTION,
            "quiet",
            wrap=True,
        )
        self._next = QWidget()
        self._next.setLayout(column(self.title, self.what, self.words, self.caution, gap=1))
        self.print_button = button(theme, tr("Print the diary…"), self._print, "link")
        self.pdf_button = button(theme, tr("PDF…"), self._ask_where, "link")
        self.setLayout(column(self._lines, self._next, row(self.print_button, self.pdf_button, 1), gap=2))

    def show_run(self, run: RunState) -> None:
        """Its steps, and what may be done next."""
        fresh = self._run is None or (self._run.id, len(self._run.found)) != (run.id, len(run.found))
        self._run = run
        if fresh:
            self.what.offer([(one.value, words) for one, words in ABUSE_WORDS.items()], [])
            self.words.clear()
        self._next.setVisible(not run.signed)
        empty(self._lines)
        for i, step in enumerate(diary_of(run)):
            self._lines.addWidget(label(self._desk.around.theme, step.name, Type.STRONG, wrap=True), i, 0)
            self._lines.addWidget(label(self._desk.around.theme, step_words(step), Type.BODY, wrap=True), i, 1)

    def action(self) -> Action | None:
        run = self._run
        if run is None or run.signed:
            return None
        if self.what.one:
            return Action(tr("Read it again"), self.add)
        if len(run.found) < 2:
            return Action(
                tr("Say what was done to it"), allowed=False, why_not=tr("Choose it below, then read it again.")
            )
        return None

    def add(self) -> None:
        """The step that was said, and the same readings again."""
        run = self._run
        if run is None or not self.what.one:
            return
        act, what = self._desk.around.act(), Abuse(self.what.one)
        self._desk.do(call(diary.add_step, run.id, what, self.words.text, act), refused=self.words.refuse)

    def _print(self) -> None:
        if self._run is not None:
            self._desk.around.work.prepare(call(diary_bytes, self._run.id, paper_mm()), self._printed)

    def _printed(self, data: bytes) -> None:
        print_bytes(self._desk.around.theme, data)

    def _ask_where(self) -> None:
        run = self._run
        if run is None:
            return
        name = tr("{number} diary.pdf", number=run.tool.number)
        path = ask_where(self._desk.around, self, FileKind.PAPER, tr("Save the diary"), name, "PDF (*.pdf)")
        if path is not None:
            self.save(path)

    def save(self, path: Path) -> None:
        """The diary as a page of its own."""
        if self._run is not None:
            made = call(diary_bytes, self._run.id, paper_mm())
            self._desk.around.work.prepare(call(saved, made, path), lambda _none: self._saved(path))

    def _saved(self, path: Path) -> None:
        self._desk.around.saved(tr("The diary is in {path}.", path=path), path)
