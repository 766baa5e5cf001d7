"""A signed run's certificate, written into a file of one's choice."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QPushButton

from reckoner.core.translation import tr
from reckoner.shop.numbering import certificate_number
from reckoner.shop.records.documents import certificate_bytes, saved
from reckoner.shop.runs.state import RunState
from reckoner.ui.bench.panel import BenchAccess
from reckoner.ui.files import FileKind, ask_where
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.papersize import paper_mm
from reckoner.ui.work import call


class Certifying:
    """The ``button`` that stands beside a signed run, and what it does."""

    def __init__(self, desk: BenchAccess) -> None:
        self._desk = desk
        self._run: RunState | None = None
        self.button: QPushButton = button(desk.around.theme, tr("Certificate as PDF…"), self._ask_where, "link")

    def show_run(self, run: RunState) -> None:
        """A characterisation has none: its values stand in the budgets of later runs."""
        self._run = run
        self.button.setVisible(run.signed and run.policy.judges)

    def _ask_where(self) -> None:
        run = self._run
        if run is None:
            return
        name = tr("{tool} {number} certificate.pdf", tool=run.tool.number, number=certificate_number(run))
        title = tr("Save the certificate")
        path = ask_where(self._desk.around, self.button, FileKind.PAPER, title, name, "PDF (*.pdf)")
        if path is not None:
            self.save(path)

    def save(self, path: Path) -> None:
        """Make it away from the window, and write it whole or not at all."""
        run, size, around = self._run, paper_mm(), self._desk.around
        if run is None:
            return

        around.work.prepare(
            call(saved, call(certificate_bytes, run, size), path),
            lambda _done: around.saved(tr("The certificate is in {path}.", path=path), path),
            lambda refusal: self._desk.fault(str(refusal)),
        )
