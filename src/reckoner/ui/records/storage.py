"""How much room everything takes, what the shop's rule lets go to an archive, and what this station is called."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from reckoner.core.quantities.days import day_words
from reckoner.core.translation import tr, tr_count
from reckoner.shop.records.storage import PutAway, Storage, archive, storage
from reckoner.shop.register.editing import the_shop
from reckoner.store.errors import StoreRefused
from reckoner.store.terms import RegisterKind
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.register.factsheet import FactSheet
from reckoner.ui.shelves import PlaceShelf
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

MB = 1_000_000
LOOK = tr(
    "An archived trace is found again as long as its archive lies beside the database; copy the "
    "archives with the backups."
)
ONLY = ("trace_years",)
"""The shop's fields that stand here."""


class StorageShelf(PlaceShelf):
    """``button`` puts away what the rule lets go."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        theme = around.theme
        self.lead = label(theme, "", Type.LEAD, wrap=True)
        self.within = label(theme, "", Type.BODY, wrap=True)
        self.old = label(theme, "", Type.BODY, wrap=True)
        self.rule = FactSheet(around, with_history=False, only=ONLY)
        self.rule.changed.connect(lambda _sheet: self._ask_storage())
        self.button = PrimaryButton(theme, tr("Archive them now"))
        self.button.clicked.connect(self.archive)
        self.name = EntryField(
            theme, tr("This station is called, in what was done"), words_reader, tr("as its computer")
        )
        self.name.given.connect(self._call)
        self.name.emptied.connect(lambda: self._call(""))
        self.name.setFixedWidth(40 * GRID)
        keep = button(theme, tr("Call it so"), lambda: self._call(self.name.text.strip()))
        name = row(self.name, keep, 1, gap=2)
        holder = QWidget()
        holder.setLayout(
            column(
                self.lead, self.within, self.rule, self.old, row(self.button, 1),
                label(theme, LOOK, Type.BODY, "quiet", wrap=True), name, 1, gap=2, margin=3,
            )
        )  # fmt: skip
        self.setLayout(column(surface(column(scrolling(holder)))))

    def refresh(self) -> None:
        """Ask for everything anew."""
        self.name.line.setText(self.around.station.settings.name)
        self.name.line.setPlaceholderText(self.around.station.called)
        self.around.work.ask(the_shop, lambda row_id: self.rule.open(RegisterKind.SHOP, row_id))

    def _ask_storage(self) -> None:
        today = self.around.today
        self.around.work.look(call(storage, today), self._show_storage)

    def _show_storage(self, found: Storage) -> None:
        self.lead.setText(
            tr(
                "The database takes {size}; {size_2} are free on its disk.",
                size=_size(found.database),
                size_2=_size(found.free),
            )
        )
        said = [
            tr("{trace_count} traces of pulls, about {size}", trace_count=found.trace_count, size=_size(found.traces))
            if found.trace_count
            else tr("No trace is kept"),
            tr(
                "{file_count} files with what they belong to, {size}",
                file_count=found.file_count,
                size=_size(found.files),
            )
            if found.file_count
            else tr("no files"),
        ]
        if found.archive_count:
            said.append(
                tr(
                    "{archive_count} archives beside it, {size}",
                    archive_count=found.archive_count,
                    size=_size(found.archive),
                )
            )
        self.within.setText("; ".join(said) + ".")
        self.old.setText(_old_words(found))
        self.button.setVisible(bool(found.old))

    def primary(self) -> None:
        if self.button.isVisible():
            self.archive()

    def archive(self) -> None:
        """Put away what the rule lets go, as many as one archive takes."""
        if self.around.person is None:
            self.around.say(tr("Choose who is at the bench first, at the top right."))
            return

        def done(put: PutAway | None) -> None:
            if put is not None:
                self.around.say(
                    tr(
                        "{count} traces went to {path}. Their readings are where they were.",
                        count=put.count,
                        path=put.path,
                    )
                )
            self._ask_storage()

        self.button.setEnabled(False)
        self.around.work.ask(
            call(archive, self.around.act()),
            done,
            ended=lambda: self.button.setEnabled(True),
        )

    def _call(self, name: object) -> None:
        try:
            self.around.station.keep(name=str(name)[:60])
        except StoreRefused as refusal:
            self.around.say(str(refusal))
        else:
            self.around.say(tr("From now on what is done here is done at {called}.", called=self.around.station.called))


def _old_words(found: Storage) -> str:
    first = tr(" The oldest is of {first}.", first=day_words(found.first)) if found.first is not None else ""
    if found.years is None:
        return tr("Every trace stays.{first}", first=first)
    years = tr_count("1 year", "{n} years", found.years)
    if not found.old:
        return tr("No trace is older than {years}: there is nothing to archive.{first}", years=years, first=first)
    count = f"{found.old}" if found.old_whole else tr("{old} and more", old=found.old)
    return tr(
        "{count} traces are older than {years} and can go to an archive; their readings stay.{first}",
        count=count,
        years=years,
        first=first,
    )


def _size(size: int) -> str:
    return (
        tr("{size:.1f}\u202fGB", size=size / MB / 1000)
        if size >= 1000 * MB
        else tr("{size:.1f}\u202fMB", size=size / MB)
    )
