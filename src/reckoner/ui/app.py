"""Starting the window."""

from __future__ import annotations

import gc
import locale
import logging
import sys
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QApplication

from reckoner.store.station import Station
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Theme
from reckoner.ui.window import Window
from reckoner.ui.work import APOLOGY, Progress, Work

if TYPE_CHECKING:
    from reckoner.shop.facts import ReferenceFacts
    from reckoner.store.database import Database

SWITCH_SECONDS = 0.001
"""How soon a thread gives way to another: a reading passes through three of them while a fast meter streams."""

log = logging.getLogger("reckoner.window")


@dataclass(frozen=True)
class Opening:
    """What the window is opened with. ``open_database`` is called on the worker's thread, ``check_database`` on one of its
    own once the window shows; ``station`` is the file with this station's settings."""

    folder: Path
    where: str
    now: Callable[[], datetime]
    open_database: Callable[[Progress, bool], Database]
    check_database: Callable[[], None]
    meter_url: Callable[[ReferenceFacts, str], str]
    station: Path
    dark: bool = False


def application(arguments: list[str] | None = None) -> QApplication:
    """The one QApplication of this process."""
    made = QApplication.instance()
    if not isinstance(made, QApplication):
        made = QApplication([*(arguments or sys.argv[:1]), "-style", "fusion"])
        made.setApplicationName("Reckoner")
        made.setDesktopFileName("reckoner")
    for kind in (locale.LC_TIME, locale.LC_NUMERIC):
        locale.setlocale(kind, "C")  # Qt has set the user's; the words are English, and so are the names of months
    return made


def make_window(opening: Opening, theme: Theme) -> Window:
    """The window, not yet shown; its database opens in the background once it is started."""
    sys.setswitchinterval(SWITCH_SECONDS)
    work = Work(opening.open_database, opening.check_database)
    station = Station(opening.station)
    if station.settings.dark and not theme.dark:
        theme.set_dark(True)
    around = Surroundings(theme=theme, work=work, station=station, now=opening.now, meter_url=opening.meter_url)
    window = Window(around, opening.where)
    work.setParent(window)
    return window


def run(opening: Opening, *, when_shown: Callable[[Window], object] | None = None) -> int:
    """Open the window and stay until it closes; returns the exit status."""
    gc.disable()  # what loads before the window is painted stays; counting it again and again costs a third of that time
    app = application()
    window = make_window(opening, Theme(app, dark=opening.dark))
    _apologise_for_faults(window)
    if when_shown is not None:
        window.shown_first.connect(lambda: when_shown(window))
    window.shown_first.connect(gc.enable)
    window.shown_first.connect(window.around.work.start)  # the database loads behind the painted window
    window.show()
    return app.exec()


def _apologise_for_faults(window: Window) -> None:
    """A fault of ours on the interface thread: logged whole, apologised for, the window lives on."""

    def hook(kind: type[BaseException], fault: BaseException, trace: TracebackType | None) -> None:
        log.critical("a fault of ours in the window", exc_info=(kind, fault, trace))
        if not issubclass(kind, KeyboardInterrupt):
            window.say(APOLOGY)

    sys.excepthook = hook
