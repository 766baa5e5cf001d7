"""Copies of everything: made now or every day, looked at, and what putting one back would lose."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QWidget

from reckoner.shop.records.losing import Losing, losing
from reckoner.store.backup import BackupFile, back_up, backups_in
from reckoner.store.errors import StoreRefused
from reckoner.store.reader import Reader
from reckoner.ui import daily
from reckoner.ui.layout import column, row, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.records.lines import LinesList
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.linedelegate import Line
from reckoner.ui.widgets.saveas import ask_where
from reckoner.ui.widgets.text import label

NO_DAILY = "No daily backup is kept from this station. A folder on another drive, or on a server, is the safest."
NO_FOLDER = "Choose a folder, and its backups stand here."
HOW_BACK = (
    "To put it back, close every window of Reckoner and run: reckoner restore “{path}”. "
    "What is there now is kept beside it."
)
MB = 1_000_000


class BackupsShelf(QWidget):
    """What is kept, and the next one. Nothing here changes the database."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self.around = around
        theme = around.theme
        self.daily_words = label(theme, NO_DAILY, Type.BODY, wrap=True)
        self.now_button = PrimaryButton(theme, "Back up now…")
        self.now_button.clicked.connect(self._ask_where)
        self.daily_button = button(theme, "Keep one every day in…", self._ask_folder)
        self.no_more = button(theme, "Keep no daily ones", lambda: self.keep_daily_in(None), "link")
        self.list = LinesList(theme, "Backups", 1000)
        self.list.changed.connect(self._chosen)
        self.empty = label(theme, NO_FOLDER, Type.BODY, "quiet", wrap=True)
        self.loss = label(theme, "", Type.STRONG, wrap=True)
        self.how = label(theme, "", Type.BODY, "quiet", wrap=True)
        self._found: tuple[BackupFile, ...] = ()
        head = row(self.now_button, self.daily_button, self.no_more, 1, gap=2)
        layout = column(
            label(theme, "A backup holds everything: tools, runs, traces, files, and who did what.", Type.LEAD, wrap=True),
            self.daily_words, head, self.empty, self.list, self.loss, self.how, gap=2, margin=3,
        )  # fmt: skip
        layout.setStretch(4, 1)
        self.setLayout(column(surface(layout)))

    def look_again(self) -> None:
        """Look into the folder anew."""
        kept = self.around.station.settings.backups
        self.no_more.setVisible(bool(kept))
        self.daily_words.setText(
            f"One is kept every day, the first time that Reckoner is open, in {kept}: the newest thirty."
            if kept
            else NO_DAILY
        )
        self.around.work.look(lambda _reader: backups_in(Path(kept)) if kept else (), self._show)

    def _show(self, found: tuple[BackupFile, ...]) -> None:
        self._found = found
        self.list.show_lines(tuple(_line(i, one) for i, one in enumerate(found)))
        self.empty.setVisible(not found)
        self.empty.setText("None is there yet." if self.around.station.settings.backups else NO_FOLDER)
        self._chosen()

    def _chosen(self) -> None:
        lines = self.list.chosen
        self.loss.setText("")
        self.how.setText("")
        if lines:
            path = self._found[lines[0].id].path
            self.how.setText(HOW_BACK.format(path=path))
            self.around.work.look(
                lambda reader: losing(reader, path),
                lambda lost: self._say_loss(path, lost),
                lambda refusal: self.loss.setText(str(refusal)),
            )

    def _say_loss(self, path: Path, lost: Losing) -> None:
        lines = self.list.chosen
        if lines and self._found[lines[0].id].path == path:
            self.loss.setText(lost.words)

    # Making them

    def _ask_where(self) -> None:
        path = ask_where(self, "Back up everything into", f"reckoner-{self.around.today}.sqlite", "Backups (*.sqlite)")
        if path is not None:
            self.make(path)

    def make(self, path: Path) -> None:
        """Copy everything into ``path``, checked after writing."""
        folder = self.around.folder
        self.around.say("Backing up…")

        def run(_reader: Reader) -> int:
            back_up(folder, path)
            return path.stat().st_size

        def done(size: int) -> None:
            self.around.say(f"Backed up and checked: {path}, {_size(size)}.")
            self.look_again()

        self.around.work.look(run, done)

    def _ask_folder(self) -> None:
        folder = QFileDialog.getExistingDirectory(self, "Keep a backup every day in")
        if folder:
            self.keep_daily_in(Path(folder))

    def keep_daily_in(self, folder: Path | None) -> None:
        """From now on, from this station; None: no more."""
        try:
            self.around.station.keep(backups=str(folder) if folder is not None else "")
        except StoreRefused as refusal:
            self.around.say(str(refusal))
        if folder is not None:
            daily.back_up(self.around, self.look_again)
        self.look_again()


def _line(number: int, found: BackupFile) -> Line:
    return Line(
        place=("", number),
        id=number,
        lead=found.path.name,
        detail=_size(found.size),
        right=f"{found.at:%-d %b %Y %H:%M}",
    )


def _size(size: int) -> str:
    return f"{size / MB:.1f} MB"
