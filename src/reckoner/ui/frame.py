"""The bare frame: a window that is painted before anything else has loaded. Nothing but Qt is imported here.

What it holds is put into it once it has been painted; ``window`` says what that is.
"""

from __future__ import annotations

import json
import locale
import os
import sys

from PyQt6.QtCore import QMessageLogContext, QRectF, Qt, QTimer, QtMsgType, pyqtSignal, qInstallMessageHandler
from PyQt6.QtGui import QCloseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QApplication, QMainWindow, QScrollArea, QWidget

from reckoner.core.translation import tr
from reckoner.ui.tokens import DARK, GRID, LIGHT, colour

SIZE = (1280, 800)
LEAST = (1000, 620)
MOST = 20_000
RAIL = 11 * GRID
TOP = 7 * GRID
OPENING = tr("Opening the register…")
NO_DISPLAY = tr(
    "There is no display here on which a window can open. Log in at a screen; or, on a machine "
    "without one, use a virtual one: xvfb-run -a reckoner"
)


def application(arguments: list[str] | None = None) -> QApplication:
    """The one QApplication of this process."""
    made = QApplication.instance()
    if not isinstance(made, QApplication):
        qInstallMessageHandler(_no_display)
        made = QApplication([*(arguments or sys.argv[:1]), "-style", "fusion"])
        made.setApplicationName("Reckoner")
        made.setDesktopFileName("reckoner")
        qInstallMessageHandler(None)
    for kind in (locale.LC_TIME, locale.LC_NUMERIC):
        locale.setlocale(kind, "C")  # Qt has set the user's; the words are English, and so are the names of months
    return made


def _no_display(kind: QtMsgType, _where: QMessageLogContext, words: str | None) -> None:
    """Qt cannot open a window, and would end the program with a core dump: a sentence instead."""
    fatal = kind is QtMsgType.QtFatalMsg
    sys.stderr.write(f"{NO_DISPLAY if fatal else words}\n")
    if fatal:
        os._exit(1)


def last_look(path: str) -> tuple[tuple[int, int], bool]:
    """The size and the darkness that the window had last, as the station's settings in ``path`` say; the usual ones where
    they say nothing that can be read. ``store.station`` reads them with care, later."""
    try:
        with open(path, encoding="utf-8") as file:
            said = json.load(file)
        width, height = (int(n) for n in said.get("window") or SIZE)
        size = (width, height) if LEAST[0] <= width <= MOST and LEAST[1] <= height <= MOST else SIZE
        return size, said.get("dark") is True
    except (OSError, ValueError, TypeError, AttributeError, OverflowError, RecursionError):
        return SIZE, False


def usual_settings() -> str:
    """Where the station's settings usually are."""
    home = os.environ.get("XDG_CONFIG_HOME") or os.path.expanduser("~/.config")
    return os.path.join(home, "reckoner", "station.json")


class Frame(QMainWindow):
    """The main window. ``painted()`` once, when it was first painted; ``closing()`` before it closes. ``forced``: the size
    that a small screen left it."""

    painted = pyqtSignal()
    closing = pyqtSignal()

    def __init__(self, size: tuple[int, int] = SIZE, *, dark: bool = False) -> None:
        super().__init__()
        self.setWindowTitle("Reckoner")
        self.resize(*size)
        self.setMinimumSize(*LEAST)
        self._dark = dark
        self._was_painted = False
        self.forced: tuple[int, int] | None = None

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Rail, top line and ground, as long as nothing is held."""
        if self.centralWidget() is None:
            tokens = DARK if self._dark else LIGHT
            whole = QRectF(self.rect())
            painter = QPainter(self)
            painter.fillRect(whole, colour(tokens.ground))
            painter.fillRect(QRectF(0, 0, RAIL, whole.height()), colour(tokens.frame))
            painter.fillRect(QRectF(0, 0, whole.width(), TOP), colour(tokens.frame))
            painter.setPen(colour(tokens.quiet))
            room = whole.adjusted(RAIL + 3 * GRID, TOP + 3 * GRID, 0, 0)
            painter.drawText(room, int(Qt.AlignmentFlag.AlignLeft), OPENING)
        if not self._was_painted:
            self._was_painted = True
            self._fit_screen()
            QTimer.singleShot(0, self.painted.emit)

    def _fit_screen(self) -> None:
        """With its title and its edges it is no larger than what the screen has free. A platform without a screen shows
        nothing that could be out of reach."""
        screen = self.screen()
        if screen is None or QApplication.platformName() == "offscreen":
            return
        free, around = screen.availableGeometry(), self.frameGeometry()
        too_wide, too_high = around.width() - free.width(), around.height() - free.height()
        if too_wide > 0 or too_high > 0:
            self.forced = (self.width() - max(0, too_wide), self.height() - max(0, too_high))
            self.setMinimumSize(min(LEAST[0], self.forced[0]), min(LEAST[1], self.forced[1]))
            self.resize(*self.forced)
            self.move(free.topLeft())

    def hold(self, content: QWidget) -> None:
        """Show ``content``; on a screen that is too small for it a part of it, which is scrolled to."""
        if self.minimumWidth() < LEAST[0] or self.minimumHeight() < LEAST[1]:
            content.setMinimumSize(*LEAST)
            scroll = QScrollArea()
            scroll.setFrameShape(QScrollArea.Shape.NoFrame)
            scroll.setWidgetResizable(True)
            scroll.setWidget(content)
            self.setCentralWidget(scroll)
        else:
            self.setCentralWidget(content)

    def focusNextPrevChild(self, onward: bool) -> bool:
        from reckoner.ui.reading_order import go_by_tab  # only when it is wanted

        return go_by_tab(self, onward)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        self.closing.emit()
        super().closeEvent(event)
