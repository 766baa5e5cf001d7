"""Job cards as files and on paper: read, written, saved and printed."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import Refused
from reckoner.core.tightening.jobcard import JobCard
from reckoner.core.translation import tr
from reckoner.shop.records.documents import card_bytes, saved
from reckoner.shop.register.shelves import free_number
from reckoner.store.terms import RegisterKind
from reckoner.ui.files import FileKind, ask_where, ask_which
from reckoner.ui.place import Surroundings
from reckoner.ui.widgets.paper import print_bytes
from reckoner.ui.widgets.papersize import paper_mm
from reckoner.ui.work import call


class CardFiles:
    """Of the ``card()`` in front, None where there is none. A card that was read is given to ``show_read`` with a number that
    is free, a refusal to ``refuse``; ``parent`` stands behind the dialogs."""

    def __init__(
        self,
        around: Surroundings,
        parent: QWidget,
        card: Callable[[], JobCard | None],
        show_read: Callable[[JobCard, str], None],
        refuse: Callable[[str], None],
    ) -> None:
        self._around, self._parent, self._card = around, parent, card
        self._show_read, self._refuse = show_read, refuse

    def ask_which(self) -> None:
        """Ask for a file and read it."""
        kinds = "Job cards and spreadsheets (*.json *.csv *.xlsx)"
        title = tr("A job card, or a spreadsheet with a fastener a row")
        if (path := ask_which(self._around, self._parent, FileKind.CARD, title, kinds)) is not None:
            self.read(path)

    def read(self, path: Path) -> None:
        """A card from a file, to be looked at and kept."""
        around = self._around

        from reckoner.formats.jobcard import read_card  # only when it is wanted

        def refused(refusal: Refused) -> None:
            self._refuse(str(refusal))

        def understood(card: JobCard) -> None:
            free = call(free_number, RegisterKind.JOB_CARD, card.number)
            around.work.look(free, lambda number: self._show_read(card, number), refused)

        around.work.read_file(read_card, path, done=understood, refused=refused)

    def ask_write(self) -> None:
        """Ask where the card is to be kept as its open file."""
        if (path := self._ask_where(FileKind.CARD, ".json", "Job cards (*.json)")) is not None:
            self.write(path)

    def write(self, path: Path) -> None:
        """The card in front as its open file."""
        card = self._card()
        if card is None:
            return

        def run() -> None:
            from reckoner.formats.jobcard import write_card  # only when it is wanted

            write_card(path, card)

        self._around.work.compute(run, lambda _none: self._saved(path))

    def print(self) -> None:
        """Print the card in front, to be worked from by hand."""
        if (card := self._card()) is not None:
            self._around.work.prepare(
                call(card_bytes, card, None, self._around.today, paper_mm()),
                self._print,
            )

    def _print(self, data: bytes) -> None:
        print_bytes(self._around.theme, data)

    def ask_pdf(self) -> None:
        """Ask where the card is to be kept as a PDF."""
        if (path := self._ask_where(FileKind.PAPER, ".pdf", "PDF (*.pdf)")) is not None:
            self.save_pdf(path)

    def save_pdf(self, path: Path) -> None:
        """The card in front as a PDF."""
        if (card := self._card()) is not None:
            made = call(card_bytes, card, None, self._around.today, paper_mm())
            self._around.work.prepare(call(saved, made, path), lambda _none: self._saved(path))

    def _ask_where(self, kind: FileKind, suffix: str, endings: str) -> Path | None:
        card = self._card()
        if card is None:
            return None
        name = tr("{number} job card{suffix}", number=card.number, suffix=suffix)
        return ask_where(self._around, self._parent, kind, tr("Save the card"), name, endings)

    def _saved(self, path: Path) -> None:
        self._around.saved(tr("The card is in {path}.", path=path), path)
