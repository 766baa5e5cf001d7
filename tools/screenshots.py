"""Make docs/screenshots anew from the demo data, without a person: drives the real window and grabs it.

Run by `make screenshots`; with names as arguments makes only those. `--out DIR` writes elsewhere, `--size 1024x700`,
`--dark` and `QT_SCALE_FACTOR` vary the looks.
"""

from __future__ import annotations

import argparse
import importlib
import shutil
import tempfile
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from PyQt6.QtCore import QDeadlineTimer, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QScrollArea

from reckoner.__main__ import Meters, opening_of
from reckoner.cli.options import WindowOptions
from reckoner.core.translation import tr
from reckoner.shop.planning.agenda import OpeningStage
from reckoner.shop.register.cards import ToolOrder
from reckoner.shop.runs.records import READING_STEPS, Step
from reckoner.ui.app import make_window
from reckoner.ui.frame import application
from reckoner.ui.gallery import Gallery
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import Theme
from reckoner.ui.window.main_window import Window

OUT = Path(__file__).parents[1] / "docs" / "screenshots"


def wait(until: Callable[[], bool], seconds: float = 20) -> None:
    """Let the window live until something is so."""
    deadline = QDeadlineTimer(int(seconds * 1000))
    while not until():
        if deadline.hasExpired():
            raise TimeoutError("the window did not get there in time")
        QTest.qWait(2)


def settle(window: Window) -> None:
    wait(lambda: window.idle)
    for _ in range(5):
        application().processEvents()


class Photographer:
    """Walks through the job, and grabs the views that are wanted."""

    def __init__(self, window: Window, out: Path, wanted: set[str]) -> None:
        self.window, self.out, self.wanted = window, out, wanted

    def grab(self, name: str) -> None:
        settle(self.window)
        if not self.wanted or name in self.wanted:
            self.window.frame.grab().save(str(self.out / f"{name}.png"))
            print(name)

    def tool(self, number: str) -> None:
        """A tool's sheet."""
        self.window.go(Target(PlaceId.TOOLS))  # at the bench, a tool that is found comes to it
        settle(self.window)
        self.window.top_line.setFocus()
        QTest.keyClicks(self.window.top_line, number)
        QTest.keyClick(self.window.top_line, Qt.Key.Key_Return)
        settle(self.window)

    def walk(self) -> None:
        window = self.window
        self.grab("today")
        window.current.pages.chips["year"].click()
        settle(window)
        year = window.current.year
        year.weeks.choose(max(range(len(year._work.weeks)), key=lambda i: year._work.weeks[i].count))
        self.grab("year")
        window.current.pages.chips["day"].click()
        self.tool("HC-0422")
        wait(lambda: window.current.sheet.trend.text() != "")
        self.grab("tools")
        window.current.turn.click()
        settle(window)
        table = window.current.table
        table.heads[ToolOrder.PLACE].click()
        settle(window)
        table.table.setFocus()
        table.table.selectRow(2)
        for _ in range(3):
            QTest.keyClick(table.table, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
        self.grab("tools-table")
        window.current.turn.click()
        settle(window)
        self.register()
        self.using()
        self.tool("HC-0417")
        wait(lambda: window.current.sheet.number.text() == "HC-0417")
        bench = self.to_the_bench("bench-start", "", "bench-set-up")
        self.read_all(bench, {7: "bench"})
        self.grab("bench-decide")
        bench.far.resize(1280, 800)
        bench.far.show()
        settle(self.window)
        if not self.wanted or "bench-far" in self.wanted:
            bench.far.grab().save(str(self.out / "bench-far.png"))
            print("bench-far")
        bench.far.hide()
        if not self.wanted or "bench-weights" in self.wanted:
            self.weights()
        if not self.wanted or self.wanted & {"bench-adjust", "bench-as-left"}:
            self.tool("HC-0404")
            wait(lambda: window.current.sheet.number.text() == "HC-0404")
            self.adjust(self.to_the_bench())

    def register(self) -> None:
        """References, Records, and a spreadsheet before it is brought in."""
        window = self.window
        importlib.import_module("reckoner.ui.references")
        window.go(Target(PlaceId.REFERENCES))
        settle(window)
        references = window.current
        references.shelf.list.choose(next(r.id for r in references.shelf.list.rows.rows if r.name == "PM-5"))
        wait(lambda: references.sheet.found is not None and references.sheet.found.facts.number == "PM-5")
        self.grab("references")
        importlib.import_module("reckoner.ui.records")
        window.go(Target(PlaceId.RECORDS))
        settle(window)
        wait(lambda: window.current.results.paper.pages > 0)
        self.grab("records")

    def using(self) -> None:
        """A setting with a crow-foot, a job half done, and what a bad tool may have spoiled."""
        window = self.window
        for place in ("setting", "desk"):
            importlib.import_module(f"reckoner.ui.{place}")
        window.go(Target(PlaceId.SETTING))
        settle(window)
        setting = window.current
        asked = setting.sheet.asked
        for field, text in (
            (asked.torque, "76 to 84"),
            (asked.tool, "0417"),
            (asked.adapters.adapter, "45 mm at 30 deg"),
        ):
            field.line.setFocus()
            QTest.keyClicks(field.line, text)
            settle(window)
        QTest.keyClick(asked.adapters.adapter.line, Qt.Key.Key_Return)
        asked.adapters.adapter.line.clearFocus()
        self.grab("setting")
        setting.heads.chips["cards"].click()
        settle(window)
        setting.cards.which.chips["works"].click()
        wait(lambda: bool(setting.cards.works) and window.idle)
        setting.cards.primary()
        settle(window)
        self.grab("job")
        window.go(Target(PlaceId.DESK))
        settle(window)
        window.current.heads.chips["reviews"].click()
        settle(window)
        self.grab("desk")

    def to_the_bench(self, *names: str) -> object:
        """From the tool's sheet to the first reading, grabbing the views named on the way."""
        window = self.window
        window.current.primary()
        bench = window.place(PlaceId.BENCH)
        wait(lambda: bench.button.text() == tr("Put it on the bench") and window.idle)
        for name in names[:1]:
            self.grab(name)
        bench.primary()
        wait(lambda: bench.run is not None)
        for name in filter(None, names[1:2]):
            self.grab(name)
        while bench.run.step is Step.LOOK_OVER:
            bench.primary()
            settle(window)
        wait(lambda: bool(bench.panels.set_up.candidates) and window.idle)
        for name in names[2:3]:
            self.grab(name)
        bench.primary()
        wait(lambda: bench.panels.set_up.room.temperature.text != "")
        bench.primary()
        wait(lambda: bench.run.room is not None and bench.meter.zero() is not None)
        while bench.run.step is Step.SET_UP:
            bench.primary()
            settle(window)
        while bench.run.step is Step.EXERCISE:
            self.pull(bench)
        return bench

    def read_all(self, bench: object, during: dict[int, str]) -> None:
        """Every reading of the phase, its zero after; ``during`` grabs while a reading of that number is taken."""
        while bench.run.step in READING_STEPS and bench.run.current is not None:
            taken = sum(len(s.pairs) for s in bench.run.series)
            self.pull(bench, during=during.get(taken, ""))
        wait(lambda: bench.button.isEnabled() and bench.presenter.news.free)
        bench.primary()
        wait(lambda: bench.run.step is Step.DECIDE)

    def weights(self) -> None:
        """Setting up with known weights; the run is given up again."""
        window = self.window
        self.tool("HC-0125")
        wait(lambda: window.current.sheet.number.text() == "HC-0125")
        window.current.primary()
        bench = window.place(PlaceId.BENCH)
        wait(lambda: bench.button.text() == tr("Put it on the bench") and window.idle)
        bench.primary()
        wait(lambda: bench.run is not None and bench.run.tool.number == "HC-0125")
        while bench.run.step is Step.LOOK_OVER:
            bench.primary()
            settle(window)
        panel = bench.panels.set_up
        wait(lambda: bool(panel.candidates) and window.idle)
        panel._choice_group.button(len(panel.candidates)).click()
        settle(window)
        panel.ways.hanging.points.chips["15.0"].click()
        settle(window)
        panel.findChild(QScrollArea).ensureWidgetVisible(panel.ways.hanging.short, 0, 0)
        self.grab("bench-weights")
        bench.presenter.give_up("only to be looked at")
        wait(lambda: bench.run is None)

    def adjust(self, bench: object) -> None:
        self.read_all(bench, {})
        bench.panels.deciding.adjust.click()
        wait(lambda: bench.run.step is Step.ADJUST)
        self.grab("bench-adjust")
        for step in range(3):
            if not bench.button.isEnabled():
                break
            bench.primary()
            wait(lambda made=step + 2: len(bench.run.adjusting.steps) == made)
            for _ in range(2):
                self.pull(bench)
        bench.panels.adjust.locked.setChecked(True)
        bench.primary()
        wait(lambda: bench.run.step is Step.AS_LEFT)
        self.read_all(bench, {})
        self.grab("bench-as-left")

    def pull(self, bench: object, during: str = "") -> None:
        """One pull with the space bar held until the signal shows, which ``during`` grabs."""
        before = _taken(bench.run)
        while _taken(bench.run) == before:  # on a busy machine what showed may have been none
            wait(lambda: bench.seen)
            QTest.keyPress(self.window, Qt.Key.Key_Space)
            wait(lambda: bench.taker.feedback.provisional is not None or _taken(bench.run) > before)
            wait_ms(60)
            if during:
                self.grab(during)
            QTest.keyRelease(self.window, Qt.Key.Key_Space)
            wait(lambda: _taken(bench.run) > before or bool(bench.taker.feedback.notice))
            wait(lambda: not bench.meter.pulling and bench.meter.zero() is not None)
            settle(self.window)


def _taken(run: object) -> int:
    return sum(len(s.observations) for s in run.all_series) + sum(e.done for e in run.exercise)


def wait_ms(milliseconds: int) -> None:
    deadline = QDeadlineTimer(milliseconds)
    wait(deadline.hasExpired)


def first(theme: Theme, out: Path, size: str, seen: Callable[[Window, str], None] | None = None) -> None:
    """The first opening of an empty folder, at its third question; ``seen`` is shown each question instead."""
    with tempfile.TemporaryDirectory() as folder:
        meters = Meters()
        options = WindowOptions(Path(folder), False, None, False, Path(folder) / "station.json")
        opening = replace(opening_of(options, meters.url), where="a shop of one's own")
        window = make_window(opening, theme)
        window.frame.resize(*(int(n) for n in size.split("x")))
        window.frame.show()
        window.around.work.start()
        wait(lambda: window.current.seen and window.idle and window.current.is_first)
        page = window.current.first
        if seen is not None:
            seen(window, "first: who")
        page.person.initials.line.setText("K. L.")
        page.primary()
        wait(lambda: page.stage is OpeningStage.WITH_WHAT and window.around.person is not None)
        if seen is not None:
            seen(window, "first: with what")
        page.meter.range.line.setText("20-200 N.m")
        page.meter.proofs.chips["unproven"].click()
        page.primary()
        wait(lambda: page.stage is OpeningStage.FIRST_TOOL)
        settle(window)
        window.foot.hide()
        settle(window)
        if seen is not None:
            seen(window, "first: the first tool")
        else:
            window.frame.grab().save(str(out / "first.png"))
            print("first")
        window.frame.close()


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("names", nargs="*")
    parser.add_argument("--out", type=Path, default=OUT)
    parser.add_argument("--size", default="1280x800")
    parser.add_argument("--dark", action="store_true")
    parser.add_argument("--keep", type=Path, help="a folder to keep the demo database in between calls")
    options = parser.parse_args()
    options.out.mkdir(parents=True, exist_ok=True)
    app = application([])
    theme = Theme(app, dark=options.dark)
    with tempfile.TemporaryDirectory() as folder:
        if options.keep and options.keep.exists():
            shutil.copytree(options.keep, folder, dirs_exist_ok=True)
        meters = Meters(speed=4.0)
        opening = opening_of(
            WindowOptions(
                Path(folder), demo=True, today=None, dark=options.dark, station=Path(folder) / "station.json"
            ),
            meters.url,
        )
        window = make_window(opening, theme)
        window.frame.resize(*(int(n) for n in options.size.split("x")))
        window.frame.show()
        window.around.work.start()
        wait(lambda: window.around.person is not None and window.current.seen and window.idle, 60)
        if options.keep and not options.keep.exists():
            shutil.copytree(folder, options.keep)
        Photographer(window, options.out, set(options.names)).walk()
        window.frame.close()
    if not options.names or "first" in options.names:
        first(theme, options.out, options.size)
    if not options.names or "gallery" in options.names:
        gallery = Gallery(theme)
        theme.dress(gallery)
        gallery.grab().save(str(options.out / "gallery.png"))
        print("gallery")


if __name__ == "__main__":
    main()
