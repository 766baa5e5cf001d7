"""Copies of everything: made now or every day, looked at, and what putting one back would lose."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PyQt6.QtCore import QSignalBlocker
from PyQt6.QtGui import QGuiApplication

from reckoner.core.errors import Refused
from reckoner.core.quantities.days import moment_words
from reckoner.core.translation import tr
from reckoner.formats.papers.contents import Label
from reckoner.shop.records.losses import RestoreLoss, losing
from reckoner.shop.records.outside import STRIP, link_strip, mail_text
from reckoner.store.backup import BackupFile, back_up, backups_in
from reckoner.store.errors import StoreRefused
from reckoner.ui import daily
from reckoner.ui.files import FileKind, ask_folder, ask_where, ask_which
from reckoner.ui.keptfiles import write_link
from reckoner.ui.layout import column, row, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.shelves import PlaceShelf
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.lineslist import LinesList, ListLine
from reckoner.ui.widgets.paper import print_bytes
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

NO_DAILY = tr("No daily backup is kept from this station. A folder on another drive, or on a server, is the safest.")
NO_FOLDER = tr("Choose a folder, and its backups stand here.")
HOW_BACK = tr("What is there now is kept beside it, so that this can be undone. Every other window has to be closed.")
NO_OUTSIDE = tr(
    "The newest link of the records, kept where this account cannot change it, shows later that none was lost or made anew."
)
MB = 1_000_000


class BackupsShelf(PlaceShelf):
    """What is kept, and the next one. One is put back only once what that
    loses has been read."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        theme = around.theme
        self.daily_words = label(theme, NO_DAILY, Type.BODY, wrap=True)
        self.now_button = PrimaryButton(theme, tr("Back up now…"))
        self.now_button.clicked.connect(self._ask_where)
        self.daily_button = button(theme, tr("Keep one every day in…"), self._ask_folder)
        self.no_more = button(theme, tr("Keep no daily ones"), lambda: self.keep_daily_in(None), "link")
        self.outside_words = label(theme, "", Type.BODY, wrap=True)
        self.outside_button = button(theme, tr("Write it to a file…"), self._ask_outside, "link")
        self.no_outside = button(theme, tr("Write it no more"), lambda: self.write_link_to(None), "link")
        self.copy_button = button(theme, tr("Copy it as a message"), self._copy_link, "link")
        self.strip_button = button(theme, tr("Print it as a strip…"), self._print_link, "link")
        self.list = LinesList(theme, tr("Backups"), 1000)
        self.list.changed.connect(self._chosen)
        self.empty = label(theme, NO_FOLDER, Type.BODY, "quiet", wrap=True)
        self.loss = label(theme, "", Type.STRONG, wrap=True)
        self.how = label(theme, HOW_BACK, Type.BODY, "quiet", wrap=True)
        self.back_button = button(theme, tr("Put this one back"), self._put_back)
        self.other_button = button(theme, tr("Look at another file…"), self._ask_other)
        self.other: Path | None = None
        self._found: tuple[BackupFile, ...] = ()
        head = row(self.now_button, self.daily_button, self.no_more, 1, gap=2)
        layout = column(
            label(
                theme,
                tr("A backup holds everything: tools, runs, traces, files, and who did what."),
                Type.LEAD,
                wrap=True,
            ),
            self.daily_words,
            head,
            self.empty,
            self.list,
            self.loss,
            row(self.back_button, self.other_button, 1, gap=2),
            self.how,
            self.outside_words,
            row(self.outside_button, self.no_outside, self.copy_button, self.strip_button, 1, gap=2),
            gap=2,
            margin=3,
        )
        layout.setStretch(4, 1)
        self.setLayout(column(surface(layout)))

    def refresh(self) -> None:
        """Look into the folder anew."""
        kept = self.around.station.settings.backups
        self.no_more.setVisible(bool(kept))
        self.daily_words.setText(
            tr("One is kept every day, the first time that Reckoner is open, in {kept}: the newest thirty.", kept=kept)
            if kept
            else NO_DAILY
        )
        file = self.around.station.settings.outside
        self.no_outside.setVisible(bool(file))
        self.outside_words.setText(
            tr("After each signature the newest link of the records is written to {file}.", file=file)
            if file
            else NO_OUTSIDE
        )
        self.around.work.look(lambda _reader: backups_in(Path(kept)) if kept else (), self._show_backups)

    def _show_backups(self, found: tuple[BackupFile, ...]) -> None:
        """What is in front stays there, in whichever line it stands now."""
        front, self._found = self.one, found
        paths = [one.path for one in found]
        with QSignalBlocker(self.list):
            self.list.show_lines(tuple(_line(i, one) for i, one in enumerate(found)))
            if front in paths:
                self.list.setCurrentIndex(self.list.lines.index(paths.index(front)))
        self.empty.setVisible(not found)
        self.empty.setText(tr("None is there yet.") if self.around.station.settings.backups else NO_FOLDER)
        self._look_at_one()

    def _chosen(self) -> None:
        self.other = None
        self._look_at_one()

    @property
    def one(self) -> Path | None:
        """The backup in front."""
        lines = self.list.chosen
        return self.other or (self._found[lines[0].id].path if lines else None)

    def _look_at_one(self) -> None:
        """Ask what putting the one in front back would lose; until that is known it cannot be put back."""
        path = self.one
        self.loss.setText("")
        self.back_button.setEnabled(False)
        self.back_button.setVisible(path is not None)
        self.how.setVisible(path is not None)
        if path is not None:
            self.around.work.look(
                call(losing, path),
                lambda lost: self._say_loss(path, lost),
                lambda refusal: self._say_refused(path, refusal),
            )

    def _say_refused(self, path: Path, refusal: Refused) -> None:
        if self.one == path:
            self.loss.setText(str(refusal))

    def _say_loss(self, path: Path, lost: RestoreLoss) -> None:
        if self.one == path:
            self.loss.setText(f"{path.name}: {lost.words[0].lower()}{lost.words[1:]}" if self.other else lost.words)
            self.back_button.setEnabled(not self.around.work.looking_on)

    def _ask_other(self) -> None:
        if (path := ask_which(self.around, self, FileKind.BACKUP, tr("A backup"), "Backups (*.sqlite)")) is not None:
            self.look_at(path)

    def look_at(self, path: Path) -> None:
        """Bring a backup from somewhere else to the front; the list has none chosen then."""
        with QSignalBlocker(self.list):
            self.list.clearSelection()
        self.other = path
        self._look_at_one()

    def _put_back(self) -> None:
        if (path := self.one) is not None:
            self.around.put_back(path)

    # The newest link outside

    def _ask_outside(self) -> None:
        path = ask_where(
            self.around, self, FileKind.BACKUP, tr("Write the newest link after each signature to"),
            "reckoner links.txt", "Text (*.txt)",
        )  # fmt: skip
        if path is not None:
            self.write_link_to(path)

    def write_link_to(self, path: Path | None) -> None:
        """From now on, from this station; None: no more."""
        try:
            self.around.station.keep(outside=str(path) if path is not None else "")
        except StoreRefused as refusal:
            self.around.say(str(refusal))
        if path is not None:
            write_link(self.around, path)
        self.refresh()

    def _copy_link(self) -> None:
        def copy(text: str) -> None:
            clipboard = QGuiApplication.clipboard()
            if clipboard is not None:
                clipboard.setText(text)
            self.around.say(tr("Copied: send it to somebody who keeps it."))

        self.around.work.browse(call(mail_text, self.around.now()), copy)

    def _print_link(self) -> None:
        def drawn(label_: Label) -> None:
            self.around.work.compute(partial(_strip, label_), printed)

        def printed(data: bytes) -> None:
            if print_bytes(self.around.theme, data):
                self.around.say(tr("On its way to the printer: keep it where nobody who works here can change it."))

        self.around.work.browse(call(link_strip, self.around.now()), drawn)

    # Making them

    def _ask_where(self) -> None:
        path = ask_where(
            self.around,
            self,
            FileKind.BACKUP,
            tr("Back up everything into"),
            f"reckoner-{self.around.today}.sqlite",
            "Backups (*.sqlite)",
        )
        if path is not None:
            self.make(path)

    def make(self, path: Path) -> None:
        """Copy everything into ``path``, checked after writing."""
        folder = self.around.folder
        self.around.say(tr("Backing up…"))

        def done(_none: None) -> None:
            size = _size(path.stat().st_size)
            self.around.saved(tr("Backed up and checked: {path}, {size}.", path=path, size=size), path)
            self.refresh()

        self.around.work.compute(partial(back_up, folder, path), done)

    def _ask_folder(self) -> None:
        folder = ask_folder(self.around, self, FileKind.BACKUP, tr("Keep a backup every day in"))
        if folder is not None:
            self.keep_daily_in(folder)

    def keep_daily_in(self, folder: Path | None) -> None:
        """From now on, from this station; None: no more."""
        try:
            self.around.station.keep(backups=str(folder) if folder is not None else "")
        except StoreRefused as refusal:
            self.around.say(str(refusal))
        if folder is not None:
            daily.back_up(self.around, self.refresh)
        self.refresh()


def _line(number: int, found: BackupFile) -> ListLine:
    return ListLine(
        place=("", number),
        id=number,
        lead=found.path.name,
        detail=_size(found.size),
        right=moment_words(found.at),
    )


def _strip(strip: Label) -> bytes:
    from reckoner.formats.papers.labels_pdf import labels_pdf  # only when it is wanted

    return labels_pdf((strip,), STRIP)


def _size(size: int) -> str:
    return tr("{size:.1f} MB", size=size / MB)
