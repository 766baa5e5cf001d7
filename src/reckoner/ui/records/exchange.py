"""Exchange: everything handed on as one file or as tables, and what others handed on brought in."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.shop.records.exporting import exchange_file, table_file
from reckoner.ui.files import FileKind, ask_where, ask_which
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.shelves import PlaceShelf
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.flow import flow
from reckoner.ui.widgets.text import label
from reckoner.ui.work import APOLOGY, call

if TYPE_CHECKING:
    from reckoner.shop.records.importing import Handed

OUT = tr(
    "One file holds the register, what happened to each tool and what was found of it, its loans "
    "with their settings, and the job cards: JSON, described in docs/file-formats.md. A run of "
    "this shop stands in it as a result, with its points."
)
IN = tr(
    "An exchange file, or a table of loans or of results as they are saved here. What is here "
    "already stays as it is; the rest comes whole, or not at all. A spreadsheet of tools is "
    "brought in under Tools, a job card under Setting."
)
TABLES = "Spreadsheets (*.xlsx *.csv)"


class ExchangeShelf(PlaceShelf):
    """Out above, in below."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        theme = around.theme
        self.save_button = button(theme, tr("Save everything…"), self._ask_where)
        self.tools_button = button(theme, tr("Tools as a table…"), lambda: self._ask_table("tools"))
        self.loans_button = button(theme, tr("Loans as a table…"), lambda: self._ask_table("loans"))
        self.jobs_button = button(theme, tr("Jobs as a table…"), lambda: self._ask_table("jobs"))
        self.results_button = button(theme, tr("Results as a table…"), lambda: self._ask_table("results"))
        self.take_button = button(theme, tr("Bring in a file…"), self._ask_file)
        self._taking = False
        self.told = label(theme, "", Type.STRONG, wrap=True)
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        holder = QWidget()
        holder.setLayout(
            column(
                label(theme, tr("Handing on"), Type.TITLE), label(theme, OUT, Type.BODY, "quiet", wrap=True),
                flow(self.save_button, self.tools_button, self.loans_button, self.jobs_button, self.results_button),
                label(theme, tr("Bringing in"), Type.TITLE), label(theme, IN, Type.BODY, "quiet", wrap=True),
                row(self.take_button, 1), self.told, self.fault, 1, gap=2, margin=3,
            )
        )  # fmt: skip
        self.setLayout(column(surface(column(scrolling(holder)))))

    def refresh(self) -> None:
        """Nothing is listed here."""
        self.told.setText("")
        self.fault.setText("")

    def _ask_where(self) -> None:
        path = ask_where(
            self.around, self, FileKind.EXCHANGE, tr("Save everything"),
            tr("everything {today}.json", today=self.around.today), "Exchange files (*.json)",
        )  # fmt: skip
        if path is not None:
            self.save(path)

    def save(self, path: Path) -> None:
        """Register, histories, loans and cards as one file."""
        self.around.work.prepare(
            call(exchange_file, self.around.now(), path),
            lambda count: self._saved(
                tr("{count} tools with their histories are in {path}.", count=count, path=path), path
            ),
            self._refuse,
        )

    def _saved(self, words: str, path: Path) -> None:
        self._say(words)
        self.around.saved(words, path)

    def _ask_table(self, what: str) -> None:
        path = ask_where(
            self.around, self, FileKind.TABLE, tr("Save the {what}", what=what),
            f"{what} {self.around.today}.xlsx", TABLES,
        )  # fmt: skip
        if path is not None:
            self.save_table(what, path)

    def save_table(self, what: str, path: Path) -> None:
        """The tools, the loans, the jobs or the results as a table."""

        self.around.work.prepare(
            call(table_file, what, path),
            lambda count: self._saved(tr("{count} lines are in {path}.", count=count, path=path), path),
            self._refuse,
        )

    def _ask_file(self) -> None:
        kinds = "Exchange files and spreadsheets (*.json *.csv *.xlsx)"
        if (path := ask_which(self.around, self, FileKind.EXCHANGE, tr("What was handed on"), kinds)) is not None:
            self.take(path)

    def take(self, path: Path) -> None:
        """Bring in a file."""
        self.refresh()
        if self.around.person is None:
            self.fault.setText(tr("Choose who is here first, at the top right."))
            return
        from reckoner.shop.records.importing import read_handed, take_handed  # only when it is wanted

        if self._taking:
            return
        self._taking, act = True, self.around.act()  # the button stays as it is: the focus is on it

        def over() -> None:
            self._taking = False

        def read(handed: Handed) -> None:
            self.around.work.ask(
                call(take_handed, handed, path.name, act),
                lambda taken: self._say(taken.words),
                self._refuse,
                ended=over,
            )

        def unread(refusal: Refused) -> None:
            over()
            self._refuse(refusal)

        def failed() -> None:
            over()
            self.fault.setText(APOLOGY)

        self.around.work.read_file(read_handed, path, done=read, refused=unread, failed=failed)

    def _say(self, words: str) -> None:
        self.told.setText(words)
        self.fault.setText("")

    def _refuse(self, refusal: Refused) -> None:
        self.fault.setText(str(refusal))
        self.told.setText("")
