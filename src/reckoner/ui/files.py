"""Where a file is to be kept: the desktop's own dialog, with a name that any file system takes.

A spreadsheet of what a meter or a tool has stored: chosen, read away from the window, its columns offered.
"""

from __future__ import annotations

import re
from contextlib import suppress
from enum import StrEnum
from pathlib import Path

from PyQt6.QtCore import QStandardPaths, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QWidget

from reckoner.core.quantities.units import Unit
from reckoner.core.translation import tr
from reckoner.formats.stored_values import ValueColumn, read_values
from reckoner.store.errors import StoreRefused
from reckoner.ui.place import Surroundings
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips

NOT_IN_A_NAME = re.compile(r'[/\\:*?"<>|\x00-\x1f]+')


def file_name(words: str) -> str:
    """``words`` without what a file system may not take in a name.

    >>> file_name("A/12-scale.pdf")
    'A-12-scale.pdf'
    """
    return NOT_IN_A_NAME.sub("-", words)


class FileKind(StrEnum):
    """What is kept or read: the folder that was used last is remembered for each."""

    PAPER = "paper"
    TABLE = "table"
    PICTURE = "picture"
    BACKUP = "backup"
    EXCHANGE = "exchange"
    CARD = "card"
    CALENDAR = "calendar"
    REGISTER = "register"
    CERTIFICATE = "certificate"
    ATTACHMENT = "attachment"
    STORED_VALUES = "stored values"


def ask_where(
    around: Surroundings, parent: QWidget, kind: FileKind, title: str, name: str, endings: str
) -> Path | None:
    """The path that was chosen, with the suffix of ``name`` where none was typed; None when the person thought better."""
    proposed = str(_last(around, kind) / file_name(name))
    chosen, _endings = QFileDialog.getSaveFileName(parent, title, proposed, endings)
    if not chosen:
        return None
    path = Path(chosen)
    _remember(around, kind, path.parent)
    return path if path.suffix else path.with_name(path.name + Path(name).suffix)


def ask_which(around: Surroundings, parent: QWidget, kind: FileKind, title: str, endings: str = "") -> Path | None:
    """The file that was chosen to be read."""
    chosen, _endings = QFileDialog.getOpenFileName(parent, title, str(_last(around, kind)), endings)
    if chosen:
        _remember(around, kind, Path(chosen).parent)
    return Path(chosen) if chosen else None


def ask_folder(around: Surroundings, parent: QWidget, kind: FileKind, title: str) -> Path | None:
    """The folder that was chosen to keep several files in."""
    chosen = QFileDialog.getExistingDirectory(parent, title, str(_last(around, kind)))
    if chosen:
        _remember(around, kind, Path(chosen))
    return Path(chosen) if chosen else None


def _last(around: Surroundings, kind: FileKind) -> Path:
    """The folder that was used last for a kind, if it is still there; else where papers usually lie."""
    last = around.station.settings.folders.get(kind, "")
    usual = QStandardPaths.writableLocation(QStandardPaths.StandardLocation.DocumentsLocation)
    return Path(last) if last and Path(last).is_dir() else Path(usual or Path.home())


def _remember(around: Surroundings, kind: FileKind, folder: Path) -> None:
    with suppress(StoreRefused):  # the folder is asked for again next time, and nothing else is lost
        around.station.keep(folders={**around.station.settings.folders, kind.value: str(folder)})


SHOWN = 6
"""Values that are shown of a column."""


class ValuesFile(QWidget):
    """Hidden until a file was chosen by ``button``. Whoever takes the values says in which unit bare ones are (``unit``),
    shows what was found (``_found``) and hears a refusal (``_refuse``). Signal ``opened(on)``: it wants room, or gives it
    back."""

    opened = pyqtSignal(bool)

    def __init__(self, around: Surroundings, whose: str) -> None:
        super().__init__()
        self._around = around
        self._columns: tuple[ValueColumn, ...] = ()
        self._title = tr("What {whose} has stored", whose=whose)
        self.button = button(around.theme, tr("Stored values…"), self._ask, "link")
        self.button.setToolTip(tr("Take what {whose} has stored, from its spreadsheet download", whose=whose))
        self.hide()

    def unit(self) -> Unit | None:
        """In which bare values are; None while there is nothing that could take any."""
        raise NotImplementedError

    def _found(self) -> None:
        raise NotImplementedError

    def _refuse(self, words: str) -> None:
        raise NotImplementedError

    def _ask(self) -> None:
        endings = tr("Spreadsheets (*.csv *.xlsx *.txt)")
        if (path := ask_which(self._around, self, FileKind.STORED_VALUES, self._title, endings)) is not None:
            self.read(path)

    def read(self, path: Path) -> None:
        """Read a file."""
        unit = self.unit()
        if unit is None:
            return

        self._around.work.read_file(
            read_values, path, unit, done=self._show_columns, refused=lambda refusal: self._refuse(str(refusal))
        )

    def _show_columns(self, found: tuple[ValueColumn, ...]) -> None:
        if self.unit() is not None:
            self._columns = found
            self._found()
            self._open(on=True)

    def _open(self, *, on: bool) -> None:
        self.setVisible(on)
        self.opened.emit(on)

    def _offer(self, chips: Chips, place: int = 0) -> None:
        """The columns by their names, the one at a ``place`` chosen."""
        names = [(str(i), one.name or tr("column {i}", i=i + 1)) for i, one in enumerate(self._columns)]
        chips.offer(names, [str(min(place, len(names) - 1))])

    def _column(self, chips: Chips) -> ValueColumn | None:
        return self._columns[int(chips.one)] if self._columns and chips.one else None

    def _read_in(self, column: ValueColumn) -> str:
        """In which unit a column was read, and why."""
        if column.unit is not None:
            return column.unit.symbol
        unit = self.unit()
        return tr("{also}, for its heading says none", also=unit.symbol if unit is not None else "")
