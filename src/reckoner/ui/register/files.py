"""The files of a row: opened with the desktop's own program, added, taken away."""

from __future__ import annotations

import tempfile
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QUrl
from PyQt6.QtGui import QDesktopServices
from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import Refused
from reckoner.core.quantities.days import day_words
from reckoner.core.translation import tr
from reckoner.formats.attachedfile import read_attached
from reckoner.shop.register import attachments
from reckoner.shop.register.attachments import AttachmentLine
from reckoner.shop.register.editing import Command
from reckoner.store.terms import RegisterKind
from reckoner.ui.files import FileKind, ask_which
from reckoner.ui.layout import column, empty, row
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.showmore import ShowMore
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call


class Files(QWidget):
    """Of one row of the register."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        theme = around.theme
        self._of: tuple[RegisterKind, int] | None = None
        self._folder: tempfile.TemporaryDirectory[str] | None = None
        self.lines: tuple[AttachmentLine, ...] = ()
        self._rows = column(gap=0)
        self.fault = label(theme, "", Type.BODY, "fault", wrap=True)
        self.others = ShowMore(theme, lambda: self._show_files(self.lines))
        add = button(theme, tr("Attach a file…"), self._ask)
        self.setLayout(
            column(
                label(theme, tr("Files"), Type.LEAD),
                self._rows,
                row(self.others.button, 1),
                self.fault,
                row(add, 1),
                gap=1,
            )
        )

    def open(self, kind: RegisterKind, row_id: int) -> None:
        """Show those of a row."""
        if self._of != (kind, row_id):
            self.others.begin()
        self._of = (kind, row_id)
        self._around.work.browse(call(attachments.attachments, kind, row_id), self._show_files)

    def add(self, path: Path) -> None:
        """Keep a file."""
        self.fault.setText("")
        if self._of is None or self._around.person is None:
            self.fault.setText(tr("Choose who is at the bench first, at the top right."))
            return
        (kind, row_id), act, work = self._of, self._around.act(), self._around.work

        def keep(data: bytes) -> None:
            work.ask(call(attachments.attach, kind, row_id, path.name, data, act), self._did, self._refused)

        work.read_file(read_attached, path, attachments.is_printed(kind, path.name), done=keep, refused=self._refused)

    def look_at(self, attachment_id: int) -> None:
        """Open a file with the program that the desktop has for it."""
        self._around.work.browse(call(attachments.content, attachment_id), self._open, self._refused)

    def take_away(self, attachment_id: int) -> None:
        """Take a file out of sight; Ctrl+Z brings it back."""
        if self._around.person is not None:
            act = self._around.act()
            self._around.work.ask(call(attachments.detach, attachment_id, act), self._did, self._refused)

    def copied(self, name: str, data: bytes) -> Path:
        """A copy of a file in a folder of this window's own, to be looked at."""
        if self._folder is None:
            self._folder = tempfile.TemporaryDirectory(prefix="reckoner-")
        path = Path(self._folder.name) / name
        path.write_bytes(data)
        return path

    def shut(self) -> None:
        """The window closes: the copies go."""
        if self._folder is not None:
            self._folder.cleanup()
            self._folder = None

    def _open(self, found: tuple[str, bytes]) -> None:
        path = self.copied(*found)
        if not QDesktopServices.openUrl(QUrl.fromLocalFile(str(path))):
            self.fault.setText(
                tr("No program here opens {name}; a copy of it lies at {path}.", name=path.name, path=path)
            )

    def _did(self, command: Command) -> None:
        self._around.undo_stack.did(command)
        if self._of is not None:
            self.open(*self._of)

    def _refused(self, refusal: Refused) -> None:
        self.fault.setText(str(refusal))

    def _show_files(self, lines: tuple[AttachmentLine, ...]) -> None:
        self.lines = lines
        empty(self._rows)
        theme = self._around.theme
        for line in self.others.part(lines):
            look = button(theme, line.name, partial(self.look_at, line.id), "link")
            look.setToolTip(tr("Open it with this desktop's own program"))
            words = label(
                theme, tr("{size}, since {on}", size=_size(line.size), on=day_words(line.on)), Type.CAPTION, "quiet"
            )
            self._rows.addLayout(
                row(look, words, 1, button(theme, tr("Take away"), partial(self.take_away, line.id), "link"))
            )
        if not lines:
            self._rows.addWidget(label(theme, tr("None: a photo, a certificate, a drawing."), Type.BODY, "quiet"))

    def _ask(self) -> None:
        if (path := ask_which(self._around, self, FileKind.ATTACHMENT, tr("Attach a file"))) is not None:
            self.add(path)


def _size(count: int) -> str:
    return (
        tr("{count:.1f} MB", count=count / 1000000.0)
        if count >= 1e6
        else tr("{count} kB", count=max(1, round(count / 1000.0)))
    )
