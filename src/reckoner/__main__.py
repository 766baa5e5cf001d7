"""Joins the command to the window: the only module that knows both."""

from __future__ import annotations

import sys
from collections.abc import Callable
from datetime import date
from typing import TYPE_CHECKING

from reckoner.cli import main as command

if TYPE_CHECKING:
    from reckoner.meters.standin import StandIn
    from reckoner.shop.facts import ReferenceFacts
    from reckoner.store.database import Database
    from reckoner.ui.app import Opening
    from reckoner.ui.work import Progress

STAND_IN = "stand-in"


class Meters:
    """Turns a reference's link into what pyserial opens; starts a stand-in for each reference linked to one."""

    def __init__(self, speed: float = 1.0) -> None:
        self.speed = speed
        self._running: dict[str, StandIn] = {}

    def url(self, reference: ReferenceFacts, link: str) -> str:
        """What pyserial opens for ``reference``, which is reached by ``link``."""
        number = reference.number
        if link != STAND_IN:
            return link
        if number not in self._running:
            from reckoner.demo.build import truths
            from reckoner.meters.standin import StandIn, StandInPlan

            plan = StandInPlan(
                number=number,
                serial=reference.serial,
                tools=truths(),
                noise=max(reference.resolution / 4, 1e-5),
                speed=self.speed,
            )
            self._running[number] = StandIn(plan)
        return self._running[number].url

    def close(self) -> None:
        """Stop every stand-in."""
        for running in self._running.values():
            running.close()
        self._running.clear()


def opening_of(options: command.WindowOptions, meter_url: Callable[[ReferenceFacts, str], str]) -> Opening:
    """What the window needs to open ``options``."""
    from reckoner.ui.app import Opening

    def today() -> date | None:
        """The pretended date; the scenario is read only when the window asks, after it is painted."""
        if options.demo and options.today is None:
            from reckoner.demo.scenario import demo_today

            return demo_today()
        return options.today

    def open_database(progress: Progress, looking_on: bool) -> Database:
        from reckoner.shop.opening import is_empty, open_for_a_window

        database = open_for_a_window(options.folder, looking_on=looking_on)
        if (
            options.demo and not looking_on and is_empty(database)
        ):  # also when an earlier opening was cut short before it was filled
            from reckoner.demo.build import build

            build(database, lambda done, of: progress("Making up the demo's tools and their history", done, of))
        return database

    def check_database() -> None:
        from reckoner.store import database, files

        files.check(options.folder / database.FILE)

    where = "Harrowmere Cableway, invented" if options.demo else str(options.folder)
    station = options.station or command.default_station(options.folder)
    return Opening(
        options.folder, where, command.clock(today), open_database, check_database, meter_url, station, options.dark
    )


def open_window(options: command.WindowOptions) -> int:
    from reckoner.store.logs import keep_log, log_path
    from reckoner.ui.app import run

    meters = Meters()
    status = run(opening_of(options, meters.url), when_shown=lambda _window: keep_log(log_path()))
    meters.close()
    return status


def main() -> int:
    """The `reckoner` command."""
    sys.excepthook = command.apologise
    return command.run(open_window)


if __name__ == "__main__":
    sys.exit(main())
