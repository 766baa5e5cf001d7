"""The set-up sheet of a run on paper, to take where there is no screen."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QWidget

from reckoner.core.translation import tr
from reckoner.shop.records.documents import saved, setup_sheet_bytes
from reckoner.shop.runs.state import RunState
from reckoner.ui.files import FileKind, ask_where
from reckoner.ui.layout import column
from reckoner.ui.place import Surroundings
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.flow import flow
from reckoner.ui.widgets.paper import print_bytes
from reckoner.ui.widgets.papersize import paper_mm
from reckoner.ui.work import call


class SetUpSheetLinks(QWidget):
    """There while a run is set up with weights or a gauge and can still be read."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._run: RunState | None = None
        self.print_button = button(around.theme, tr("Set-up sheet…"), self.print, "link")
        self.pdf_button = button(around.theme, tr("PDF…"), self._ask_where, "link")
        self.setLayout(column(flow(self.print_button, self.pdf_button), gap=0))
        self.setMinimumHeight(4 * GRID)
        self.hide()

    def show_run(self, run: RunState | None) -> None:
        """Show them for a run that has one."""
        self._run = run
        reference = run.reference if run is not None and not run.signed else None
        self.setVisible(reference is not None and reference.set_up is not None)

    def print(self) -> None:
        """Print it."""
        if self._run is not None:
            made = call(setup_sheet_bytes, self._run.id, paper_mm())
            self._around.work.prepare(made, self._print, lambda refusal: self._around.say(str(refusal)))

    def _print(self, data: bytes) -> None:
        print_bytes(self._around.theme, data)

    def _ask_where(self) -> None:
        run = self._run
        if run is None:
            return
        name = tr("{number} set-up sheet.pdf", number=run.tool.number)
        path = ask_where(self._around, self, FileKind.PAPER, tr("Save the set-up sheet"), name, "PDF (*.pdf)")
        if path is not None:
            self.save(path)

    def save(self, path: Path) -> None:
        """The sheet as a PDF."""
        if self._run is not None:
            made = call(setup_sheet_bytes, self._run.id, paper_mm())
            self._around.work.prepare(call(saved, made, path), lambda _none: self._saved(path))

    def _saved(self, path: Path) -> None:
        self._around.saved(tr("The set-up sheet is in {path}.", path=path), path)
