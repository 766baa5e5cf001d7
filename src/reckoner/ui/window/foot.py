"""The line at the foot of the window that tells something for a while, in room of its own: nothing above it moves."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import Qt, QTimer, QUrl, pyqtSignal
from PyQt6.QtGui import QDesktopServices, QFontMetrics, QResizeEvent
from PyQt6.QtWidgets import QFrame

from reckoner.core.translation import tr
from reckoner.ui.layout import row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.text import label, set_tone, tip

SHOWN_MS = 12_000
READ_AT_ONCE_MS = 1500
HIGH = 5 * GRID


class Foot(QFrame):
    """One line; what is longer stands smaller, in two. Signal ``stopped()``: what is read is to be read no further."""

    stopped = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.words = ""
        self.setFixedHeight(HIGH)
        self._said = label(theme, "", Type.STRONG, wrap=True)
        self._file: Path | None = None
        self.open_button = button(theme, tr("Open it"), lambda: self._open(self._file), "link")
        self.folder_button = button(theme, tr("Open its folder"), lambda: self._open(self._folder), "link")
        self.stop_button = button(theme, tr("Stop"), self.stopped.emit, "link")
        self._reading = ""
        self._offers = (self.stop_button, self.open_button, self.folder_button)
        inside = row(self._said, self.stop_button, self.open_button, self.folder_button)
        inside.setStretch(0, 1)
        inside.setContentsMargins(2 * GRID, 0, 2 * GRID, 0)
        inside.setAlignment(self._said, Qt.AlignmentFlag.AlignVCenter)
        self.setLayout(inside)
        self._begun = QTimer(self)
        self._begun.setSingleShot(True)
        self._begun.timeout.connect(lambda: self.say(tr("Reading {name}…", name=self._reading)))
        self._quieten = QTimer(self)
        self._quieten.setSingleShot(True)
        self._quieten.timeout.connect(self._fall_silent)
        self.say("")

    def say(self, words: str, file: Path | None = None) -> None:
        """Tell ``words``; empty takes the last ones away. A ``file`` that they tell of can be opened."""
        self.words, self._file = words, file
        for offer in (self.open_button, self.folder_button):
            offer.setVisible(file is not None)
        self.stop_button.setVisible(bool(words) and bool(self._reading))
        set_tone(self, "notice" if words else "")
        self._said.setText(words)
        self._fit()
        if words and not self._reading:
            self._quieten.start(SHOWN_MS)
        else:
            self._quieten.stop()

    def show_reading(self, name: str) -> None:
        """A file is being read: said once that takes a while, until it is over (an empty ``name``)."""
        was_said = not self.stop_button.isHidden()
        self._reading = name
        self._begun.stop()
        if name:
            self._begun.start(READ_AT_ONCE_MS)
        elif was_said:
            self.say("")

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        strong = self._theme.font(Type.STRONG)
        offered = sum(b.sizeHint().width() + GRID for b in self._offers if not b.isHidden())
        room = self.width() - 4 * GRID - offered
        long = QFontMetrics(strong).horizontalAdvance(self.words) > room
        self._said.setFont(self._theme.font(Type.CAPTION) if long else strong)
        self._said.setToolTip(tip(self.words) if long else "")

    @property
    def _folder(self) -> Path | None:
        return self._file.parent if self._file is not None else None

    def _open(self, path: Path | None) -> None:
        """By the desktop's own program for it."""
        if path is not None and not QDesktopServices.openUrl(QUrl.fromLocalFile(str(path))):
            self.say(
                tr("Nothing on this desktop opens {name}; it lies in {folder}.", name=path.name, folder=path.parent)
            )

    def _fall_silent(self) -> None:
        self.say("")
