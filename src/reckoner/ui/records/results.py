"""The signed runs: chosen, looked at as they will be printed, saved one or many at a time, printed.

Many documents, one after the other, away from the window: how far it is, and a way to stop.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TypeAlias

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QStackedWidget, QWidget

from reckoner.core.errors import Refused
from reckoner.core.quantities.days import day_words
from reckoner.core.translation import tr
from reckoner.shop.records.documents import (
    Make,
    RunPreview,
    certificate_bytes,
    digital_bytes,
    look_at,
    result_bytes,
    table,
    written,
)
from reckoner.shop.records.results import PAGE, Place, ResultLine, results
from reckoner.ui.files import FileKind, ask_folder, ask_where, file_name
from reckoner.ui.latest import LatestQuery
from reckoner.ui.layout import column, row, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.shelves import PlaceShelf
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.flow import Flow
from reckoner.ui.widgets.lineslist import LinesList, ListLine
from reckoner.ui.widgets.paper import Paper, print_paper
from reckoner.ui.widgets.papersize import paper_mm
from reckoner.ui.widgets.text import label, set_tone, tip
from reckoner.ui.work import APOLOGY, SessionCall, Work, call

Gather: TypeAlias = "SessionCall[Callable[[], bool]]"
"""Gathers what a document needs, and returns what makes it: False where there is nothing to be made."""


class DocumentBatch(QObject):
    """``advanced(done, of)`` · ``ended(done, skipped, sentence)``: how many were made, how many have none, and what
    stopped it, empty when nothing did. Between two of them everything else has its turn."""

    advanced = pyqtSignal(int, int)
    ended = pyqtSignal(int, int, str)

    def __init__(self, work: Work, parent: QObject) -> None:
        super().__init__(parent)
        self._work = work
        self._left: list[int] = []
        self._of = self._done = self._skipped = 0
        self._make: Callable[[int], Gather] | None = None

    @property
    def running(self) -> bool:
        return bool(self._left)

    def start(self, runs: tuple[int, ...], make: Callable[[int], Gather]) -> None:
        """Gather and compute what ``make`` says of each of the ``runs`` in turn."""
        self._left, self._of, self._done, self._skipped, self._make = list(runs), len(runs), 0, 0, make
        self._next()

    def stop(self) -> None:
        """After the one that is under way."""
        self._left = self._left[:1]

    def _next(self) -> None:
        if not self._left or self._make is None:
            self.ended.emit(self._done, self._skipped, "")
            return
        self._work.prepare(self._make(self._left[0]), self._made, self._refused, self._failed)

    def _made(self, made: bool) -> None:
        self._left = self._left[1:]
        self._done += made
        self._skipped += not made
        self.advanced.emit(self._done + self._skipped, self._of)
        self._next()

    def _refused(self, refusal: Refused) -> None:
        self._left = []
        self.ended.emit(self._done, self._skipped, str(refusal))

    def _failed(self) -> None:
        self._left = []
        self.ended.emit(self._done, self._skipped, APOLOGY)


NONE_YET = tr("Nothing is signed yet. What is signed on the Bench stands here, to be saved and printed.")
NOTHING_FOUND = tr(
    "No result has all these words. A tool's number, initials, a day such as 2026-11, or a "
    "certificate's number find some."
)
UNCHANGED = tr("Unchanged since it was signed; its link in the chain of records: {link}")
CHANGED = tr(
    "This record is not what was signed: something in it was changed afterwards, past Reckoner. "
    "Do not hand it out; “reckoner verify --records” names what it was."
)
NO_CERTIFICATE = tr("This kind of run has no certificate: what it found stands under its tool.")


class ResultsShelf(PlaceShelf):
    """The list at the left, the chosen one as paper at the right."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        theme = around.theme
        self._tool: int | None = None
        self._text = ""
        self._where = Path()
        self.filter = EntryField(
            theme, tr("Find: tool, day, initials, certificate"), words_reader, tr("such as 0417 2026-11")
        )
        self.filter.line.textChanged.connect(lambda _text: self._filter())
        self.every = button(theme, tr("Every tool's"), self._show_every, "link")
        self.every.hide()
        self.list = LinesList(theme, tr("Signed runs"), PAGE, several=True)
        self.list.lines.wanted.connect(self._fetch)
        self.list.changed.connect(self._chosen)
        self.empty = label(theme, NONE_YET, Type.BODY, "quiet", wrap=True)
        self.told = label(theme, "", Type.STRONG, wrap=True)
        self.sealed = label(theme, "", Type.CAPTION, "quiet", wrap=True)
        self.paper = Paper(theme)
        self.no_paper = label(theme, "", Type.BODY, "quiet", wrap=True)
        self._sheet = QStackedWidget()
        self._sheet.addWidget(self.paper)
        self._sheet.addWidget(self.no_paper)
        self.button = PrimaryButton(theme, tr("Save the certificate…"))
        self.button.clicked.connect(self.save_certificates)
        self.print_button = button(theme, tr("Print…"), self.print)
        self.files_button = button(theme, tr("Result file…"), self.save_files)
        self.table_button = button(theme, tr("Readings as a table…"), self.save_table)
        self.digital_button = button(theme, tr("As XML…"), self.save_digital)
        self.digital_button.setToolTip(
            tip(tr("A digital calibration certificate, with the PDF and the result file inside"))
        )
        self.open_button = button(theme, tr("To the run"), self._open, "link")
        self.stop = button(theme, tr("Stop"), lambda: self.batch.stop())
        self.stop.hide()
        self.batch = DocumentBatch(around.work, self)
        self.progress = label(theme, "", Type.STRONG)
        self.progress.hide()
        self.progress.setFixedSize(24 * GRID, 4 * GRID)  # so that a count lays nothing out anew, many times a second
        self.batch.advanced.connect(
            lambda done, of: self.progress.setText(tr("{done} of {of}", done=done, of=of) if of > 1 else "")
        )
        self.batch.ended.connect(self._ended)
        self._papers = LatestQuery(around.work)
        self._on_paper: int | None = None
        self._build()

    def _build(self) -> None:
        left = column(row(self.filter, self.every, gap=1), self.empty, self.list, gap=1, margin=2)
        left.setStretch(2, 1)
        controls = QWidget()
        flow = Flow(controls)
        self._controls = (
            self.print_button,
            self.files_button,
            self.table_button,
            self.digital_button,
            self.open_button,
        )
        for control in self._controls:
            flow.addWidget(control)
        going = row(self.stop, self.progress, 1, gap=2)
        right = column(self.told, self.sealed, self._sheet, going, controls, self.button, gap=1, margin=2)
        right.setStretch(2, 1)
        both = row(surface(left), surface(right), gap=2)
        both.setStretch(0, 5)
        both.setStretch(1, 6)
        self.setLayout(both)

    # The list

    def arrive(self, tool: int | None, number: str) -> None:
        """Those of a tool, or every tool's; ``number`` finds."""
        self._tool = tool
        if number:
            self.filter.line.setText(number)
        self.refresh()

    def refresh(self) -> None:
        """Read the list anew."""
        text, tool = self._text, self._tool
        self.every.setVisible(tool is not None)
        self.around.work.look(call(results, text, tool), self._show_results)

    def _show_results(self, found: tuple[ResultLine, ...]) -> None:
        self.list.show_lines(tuple(_line(one) for one in found))
        self.empty.setText(NOTHING_FOUND if self._text or self._tool is not None else NONE_YET)
        self.empty.setVisible(not found)
        self._chosen()

    def _filter(self) -> None:
        text = self.filter.text.strip()
        if text != self._text:
            self._text = text
            self.refresh()

    def _show_every(self) -> None:
        self._tool = None
        self.refresh()

    def _fetch(self, before: Place) -> None:
        text, tool = self._text, self._tool
        self.around.work.look(
            call(results, text, tool, before),
            lambda found: self.list.lines.take(tuple(_line(one) for one in found)),
        )

    # What is chosen

    def _chosen(self) -> None:
        lines, busy = self.list.chosen, self.batch.running
        for control in (*self._controls, self.button):
            control.setVisible(bool(lines))
            control.setEnabled(not busy)
        self.open_button.setVisible(len(lines) == 1)
        many = len(lines) > 1
        self.button.say(tr("Save {count} certificates…", count=len(lines)) if many else tr("Save the certificate…"))
        self.files_button.setText(tr("Result files…") if many else tr("Result file…"))
        if not busy:
            self.told.setText(tr("{count} are chosen; the first is shown.", count=len(lines)) if many else "")
        if not lines:
            self._no_paper(tr("Choose a result at the left.") if self.list.lines.lines else "")
            return
        run_id, size = lines[0].id, paper_mm()
        self.print_button.setEnabled(run_id == self._on_paper and not busy)  # not the one before, while this is made
        self._papers.prepare(
            call(look_at, run_id, size),
            lambda looked: self._show_paper(run_id, looked),
            lambda refusal: self._no_paper(str(refusal)),
        )

    def _show_paper(self, run_id: int, looked: RunPreview) -> None:
        lines = self.list.chosen
        if not lines or lines[0].id != run_id:
            return
        self.sealed.setText({True: UNCHANGED.format(link=looked.link), False: CHANGED, None: ""}[looked.unchanged])
        set_tone(self.sealed, "fault" if looked.unchanged is False else "quiet")
        data = looked.certificate
        if data is None:
            self._no_paper(NO_CERTIFICATE)
            return
        self._sheet.setCurrentWidget(self.paper)
        self.paper.show_document(data)
        self._on_paper = run_id
        self.print_button.setEnabled(not self.batch.running)

    def _no_paper(self, words: str) -> None:
        if not self.list.chosen:
            self.sealed.setText("")
        self.no_paper.setText(words)
        self._sheet.setCurrentWidget(self.no_paper)
        self.paper.show_document(b"")
        self._on_paper = None
        self.print_button.setEnabled(False)

    def _open(self) -> None:
        lines = self.list.chosen
        if lines:
            self.around.go(Target(PlaceId.BENCH, run=lines[0].id))

    # Saving and printing

    def save_certificates(self) -> None:
        """Each chosen one as PDF: one where it is asked for, several into a folder."""
        self._save("certificate", ".pdf", "PDF (*.pdf)", partial(certificate_bytes, size=paper_mm()))

    def save_files(self) -> None:
        """Each chosen one as a result file."""
        self._save(tr("result file"), ".json", "Result files (*.json)", result_bytes)

    def save_digital(self) -> None:
        """Each chosen one as a digital calibration certificate."""
        self._save(tr("digital certificate"), ".xml", tr("XML (*.xml)"), partial(digital_bytes, size=paper_mm()))

    def _save(self, what: str, suffix: str, kinds: str, make: Make) -> None:
        lines = self.list.chosen
        if not lines or self.batch.running:
            return
        if len(lines) == 1:
            path = ask_where(
                self.around,
                self,
                FileKind.PAPER,
                tr("Save the {what}", what=what),
                _name(lines[0], what, suffix),
                kinds,
            )
            if path is not None:
                self.save_into(lines, lambda _line: path, make)
            return
        folder = ask_folder(
            self.around, self, FileKind.PAPER, tr("Save {count} {what}s in", count=len(lines), what=what)
        )
        if folder is not None:
            self.save_into(lines, lambda line: folder / file_name(_name(line, what, suffix)), make)

    def save_into(self, lines: tuple[ListLine, ...], path_of: Callable[[ListLine], Path], make: Make) -> None:
        """Make a document of each of ``lines`` and write it where ``path_of`` says, one after the other."""
        by_run = {line.id: line for line in lines}
        self._where = path_of(lines[0]) if len(lines) == 1 else path_of(lines[0]).parent
        self.stop.setVisible(len(lines) > 1)
        self.progress.setText("")
        self.progress.setVisible(len(lines) > 1)
        self.batch.start(tuple(by_run), lambda run_id: call(written, run_id, path_of(by_run[run_id]), make))
        self._chosen()

    def save_table(self) -> None:
        """The readings of what is chosen, one a row."""
        lines = self.list.chosen
        if not lines:
            return
        name = f"{lines[0].lead}" if len(lines) == 1 else str(self.around.today)
        path = ask_where(
            self.around, self, FileKind.TABLE, tr("Save the readings"), tr("{name} readings.xlsx", name=name), TABLES
        )
        if path is not None:
            self.save_table_into(lines, path)

    def save_table_into(self, lines: tuple[ListLine, ...], path: Path) -> None:
        """Write the readings of ``lines`` into one table."""
        runs = tuple(line.id for line in lines)
        self.around.work.prepare(
            call(table, runs, path),
            lambda count: self.around.saved(tr("{count} readings are in {path}.", count=count, path=path), path),
        )

    def primary(self) -> None:
        if self.button.isEnabled():
            self.save_certificates()

    def print(self) -> None:
        """Print what is shown, by the desktop's own dialog."""
        if self.paper.pages and print_paper(self.paper):
            self.around.say(tr("It is on its way to the printer."))

    def _ended(self, done: int, skipped: int, sentence: str) -> None:
        self.stop.hide()
        self.progress.hide()
        none = tr(" {skipped} of what was chosen have none.", skipped=skipped) if skipped else ""
        if sentence:
            self.around.say(
                tr("{sentence} {done} were written before.", sentence=sentence, done=done) if done else sentence
            )
        elif done == 1 and not skipped:
            self.around.saved(tr("It is in {where}.", where=self._where), self._where)
        else:
            self.around.say(
                tr("{done} are in {where}.{none}", done=done, where=self._where, none=none) if done else NO_CERTIFICATE
            )
        self._chosen()


TABLES = "Spreadsheets (*.xlsx *.csv)"


def _name(line: ListLine, what: str, suffix: str) -> str:
    """Such as "HC-0417 2026-0113 certificate.pdf"."""
    return f"{' '.join(line.lead.split())} {what}{suffix}"


def _line(found: ResultLine) -> ListLine:
    replaced = ". Replaced by a later amendment" if found.amended else ""
    return ListLine(
        place=found.place,
        id=found.run_id,
        lead=f"{found.tool}  {found.number}",
        detail=f"{found.sentence}. {found.kind}{replaced}",
        right=f"{found.by}, {day_words(found.on)}",
        state=found.state,
        marked=found.certified,
        past=found.amended,
    )
