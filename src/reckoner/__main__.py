"""Joins the command to the window: the only module that knows both. Light, for the frame is painted first of all."""

from __future__ import annotations

import gc
import os
import sys
from typing import TYPE_CHECKING

from reckoner.core.translation import tr
from reckoner.formats.catalogues import install_language

if TYPE_CHECKING:
    from collections.abc import Callable
    from datetime import date
    from types import TracebackType

    from reckoner.cli.options import WindowOptions
    from reckoner.meters.standin import StandIn
    from reckoner.meters.wrench import SimulatedTries
    from reckoner.shop.facts.judged import ReferenceFacts
    from reckoner.store.database import Database
    from reckoner.ui.app import Opening
    from reckoner.ui.frame import Frame
    from reckoner.ui.work import Progress

STAND_IN = "stand-in"


class Meters:
    """Turns a reference's link into what pyserial opens; starts a stand-in for each reference linked to one, whose time runs
    ``speed`` times as fast as ours and which sends ``rate`` samples in a second of it."""

    def __init__(self, speed: float = 1.0, rate: float = 1000.0) -> None:
        self.speed, self.rate = speed, rate
        self._running: dict[str, StandIn] = {}

    def url(self, reference: ReferenceFacts, link: str) -> str:
        """What pyserial opens for ``reference``, which is reached by ``link``."""
        number = reference.number
        if link != STAND_IN:
            return link
        if number not in self._running:
            from reckoner.demo.build import truths
            from reckoner.meters.indicator import MeterFaults
            from reckoner.meters.standin import StandIn, StandInPlan

            plan = StandInPlan(
                number=number,
                serial=reference.serial,
                tools=truths(),
                meter=MeterFaults(noise=max(reference.resolution / 4, 1e-5)),
                speed=self.speed,
                rate=self.rate,
            )
            self._running[number] = StandIn(plan)
        return self._running[number].url

    def close(self) -> None:
        """Stop every stand-in."""
        for running in self._running.values():
            running.close()
        self._running.clear()


def opening_of(options: WindowOptions, meter_url: Callable[[ReferenceFacts, str], str]) -> Opening:
    """What the window needs to open ``options``."""
    from reckoner.cli.options import clock, default_station
    from reckoner.store import files
    from reckoner.ui.app import Opening

    def today() -> date | None:
        """The pretended date; the scenario is read only when the window asks, after it is painted."""
        if options.demo and options.today is None:
            from reckoner.demo.scenario import demo_today

            return demo_today()
        return options.today

    def open_database(progress: Progress, looking_on: bool) -> Database:
        from reckoner.shop.opening import is_empty, open_for_a_window

        if options.demo and not looking_on:
            from reckoner.demo import shipped

            shipped.put(options.folder)
        database = open_for_a_window(options.folder, looking_on=looking_on)
        if (
            options.demo and not looking_on and is_empty(database)
        ):  # also when an earlier opening was cut short before it was filled
            from reckoner.demo.build import build

            build(database, lambda done, of: progress(tr("Making up the demo's tools and their history"), done, of))
        return database

    where = tr("Harrowmere Cableway, invented") if options.demo else str(options.folder)
    station = options.station or default_station(options.folder)
    checking = files.DatabaseCheck(options.folder / files.DATABASE)
    simulated = _simulated_tries if options.demo else None
    now = clock(today)
    return Opening(options.folder, where, now, open_database, checking, meter_url, station, options.dark, simulated)


def _simulated_tries() -> SimulatedTries:
    """The invented tools, which answer under weights as physics says."""
    from functools import cache

    import numpy as np

    from reckoner.demo.build import truths
    from reckoner.meters.wrench import SimulatedTries

    return SimulatedTries(cache(truths), np.random.default_rng())


def open_window(options: WindowOptions, frame: Frame) -> int:
    """Put everything into the painted frame; the window then stays until it is closed."""
    from functools import cache

    from reckoner.store.logs import keep_log, log_path
    from reckoner.ui.app import fill
    from reckoner.ui.frame import application

    meters = Meters()
    application().aboutToQuit.connect(meters.close)
    window = fill(frame, opening_of(options, meters.url))
    work = window.around.work
    keep = cache(lambda: keep_log(log_path()))
    for told in (work.opened, work.cannot_open):  # not before: it loads for a while
        told.connect(lambda: keep())
    return 0


COMPLETING = "_RECKONER_COMPLETE"
"""Where a shell asks what a half-written command may go on with."""

FLAGS = ("--demo", "--dark", "--verbose")


def opens_a_window(arguments: list[str]) -> bool:
    """Whether these arguments look like the window's usual ones; if so its frame is painted before they are read in earnest.
    What can be written wrongly (a date) is read first, and refused without a window."""
    rest = iter(arguments)
    for argument in rest:
        if argument == "--data":
            next(rest, None)
        elif argument not in FLAGS and not argument.startswith("--data="):
            return False
    return True


def plain(arguments: list[str]) -> WindowOptions | None:
    """The options of a window that is asked for in the usual ways, read without loading what reads every other; None for
    those. Raises Refused as the command does."""
    rest = list(arguments)
    flags = {name: name in rest for name in ("--demo", "--dark")}
    rest = [argument for argument in rest if argument not in flags]
    from pathlib import Path

    from reckoner.cli.options import WindowOptions, default_folder

    if rest and (len(rest) != 2 or rest[0] != "--data" or rest[1].startswith("-")):
        return None
    folder = Path(rest[1]) if rest else default_folder(demo=flags["--demo"])
    return None if folder.is_file() else WindowOptions(folder, flags["--demo"], None, flags["--dark"])


def main(watch: Callable[[Frame], object] = lambda _frame: None) -> int:
    """The `reckoner` command. ``watch`` is handed the window's frame before it is shown."""
    arguments = sys.argv[1:]
    sys.excepthook = _apologise
    install_language()
    if COMPLETING in os.environ or not opens_a_window(arguments):
        from reckoner.cli import main as command

        return command.run(_with_a_frame)
    gc.disable()  # what loads before the window is filled stays; counting it again and again costs a third of that time
    from reckoner.ui.frame import Frame, application, last_look, usual_settings

    app = application()
    size, dark = last_look(usual_settings())
    frame = Frame(size, dark=dark or "--dark" in arguments)
    watch(frame)
    frame.painted.connect(lambda: _fill(frame))
    frame.show()
    return app.exec()


def _apologise(kind: type[BaseException], fault: BaseException, trace: TracebackType | None) -> None:
    """A fault of ours before the window is there to say it."""
    from reckoner.cli import main as command

    command.apologise(kind, fault, trace)


def _fill(frame: Frame) -> None:
    """Read the arguments, and open what they ask for in the frame; end with a status where they cannot be followed."""
    from reckoner.core.errors import Refused
    from reckoner.ui.frame import application

    status = 1
    try:
        try:
            options = plain(sys.argv[1:])
        except Refused:
            options = None  # whoever reads every command line says it
        if options is not None:
            import logging

            from reckoner.store.logs import FORMAT

            logging.basicConfig(level=logging.WARNING, format=FORMAT, stream=sys.stderr)
            status = open_window(options, frame)
        else:
            from reckoner.cli import main as command

            status = command.run(lambda options: open_window(options, frame))
    finally:
        if status:
            application().exit(status)


def _with_a_frame(options: WindowOptions) -> int:
    """The window after all, for arguments that did not look like its own."""
    from reckoner.ui.frame import Frame, application

    app = application()
    frame = Frame(dark=options.dark)
    frame.painted.connect(lambda: open_window(options, frame))
    frame.show()
    return app.exec()


if __name__ == "__main__":
    sys.exit(main())
