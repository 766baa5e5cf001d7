"""Making the window: everything that the painted frame holds."""

from __future__ import annotations

import gc
import logging
import sys
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING

from reckoner.store.station import Station
from reckoner.ui.frame import SIZE, Frame, application
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Theme
from reckoner.ui.window.main_window import Window
from reckoner.ui.work import APOLOGY, Progress, Work

if TYPE_CHECKING:
    from reckoner.meters.wrench import SimulatedTries
    from reckoner.shop.facts.judged import ReferenceFacts
    from reckoner.store.database import Database
    from reckoner.store.files import DatabaseCheck

SWITCH_SECONDS = 0.001
"""How soon a thread gives way to another: a reading passes through three of them while a fast meter streams."""

log = logging.getLogger("reckoner.window")


@dataclass(frozen=True)
class Opening:
    """What the window is opened with. ``open_database`` is called on the worker's thread, ``checking`` runs on one of its
    own once the window shows; ``station`` is the file with this station's settings; ``tries`` makes simulated tools."""

    folder: Path
    where: str
    now: Callable[[], datetime]
    open_database: Callable[[Progress, bool], Database]
    checking: DatabaseCheck
    meter_url: Callable[[ReferenceFacts, str], str]
    station: Path
    dark: bool = False
    tries: Callable[[], SimulatedTries] | None = None


def make_window(opening: Opening, theme: Theme, frame: Frame | None = None) -> Window:
    """What the ``frame`` holds, or a frame of its own that is not yet shown; its database opens in the background once it is
    started."""
    sys.setswitchinterval(SWITCH_SECONDS)
    station = Station(opening.station)

    def open_database(progress: Progress, looking_on: bool) -> Database:
        database = opening.open_database(progress, looking_on)
        database.station = lambda: station.called
        return database

    work = Work(open_database, opening.checking)
    if station.settings.dark and not theme.dark:
        theme.set_dark(True)
    around = Surroundings(
        theme=theme,
        work=work,
        station=station,
        now=opening.now,
        meter_url=opening.meter_url,
        tries=opening.tries,
        folder=opening.folder,
    )
    window = Window(around, opening.where, frame or Frame(station.settings.window or SIZE, dark=theme.dark))
    work.setParent(window)
    return window


def fill(frame: Frame, opening: Opening) -> Window:
    """Put everything into the painted ``frame``, and begin."""
    window = make_window(opening, Theme(application(), dark=opening.dark), frame)
    _apologise_for_faults(window)
    window.around.work.start()
    gc.enable()
    return window


def _apologise_for_faults(window: Window) -> None:
    """A fault of ours on the interface thread: logged whole, apologised for, the window lives on."""

    def hook(kind: type[BaseException], fault: BaseException, trace: TracebackType | None) -> None:
        log.critical("a fault of ours in the window", exc_info=(kind, fault, trace))
        if not issubclass(kind, KeyboardInterrupt):
            window.say(APOLOGY)

    sys.excepthook = hook
