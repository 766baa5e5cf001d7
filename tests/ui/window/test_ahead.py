"""What comes next is loaded while nobody waits, and a place that is not there yet is gone to once it is."""

import importlib
import json
import subprocess
import sys
import threading

import pytest
from click.testing import CliRunner
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton

from reckoner.__main__ import opens_a_window, plain
from reckoner.cli.main import make_command
from reckoner.cli.options import WindowOptions
from reckoner.demo import shipped
from reckoner.store.database import FILE
from reckoner.store.station import Station
from reckoner.ui.frame import SIZE, last_look
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.window import ahead
from reckoner.ui.window.ahead import Ahead
from reckoner.ui.window.making import PIECE_MS
from tests.support.hands import WAIT, focused, settle

FIRST = """
import json, sys
sys.argv = ["reckoner", "--demo", "--data", sys.argv[1]]
from reckoner.__main__ import main
told = {}
def watch(frame):
    from PyQt6.QtCore import QTimer
    frame.painted.connect(lambda: told.setdefault("painted", sorted(sys.modules)))
    frame.look = QTimer(frame)
    frame.look.timeout.connect(lambda: look(frame))
    frame.look.start(5)
def look(frame):
    window = frame.centralWidget()
    if window is not None and window.around.person is not None and window.current.seen and window.idle:
        told["today"] = sorted(sys.modules)
        frame.look.stop()
        print(json.dumps(told))
        frame.close()
sys.exit(main(watch))
"""


def test_the_frame_is_painted_and_today_read_before_the_heavy_libraries_load(tmp_path):
    shipped.put(tmp_path)
    done = subprocess.run([sys.executable, "-c", FIRST, str(tmp_path)], capture_output=True, text=True, timeout=120)
    assert (done.returncode, done.stderr) == (0, "")
    told = json.loads(done.stdout)
    light = {"click", "platformdirs", "dataclasses", "logging", "reckoner.ui.theme", "reckoner.store.database"}
    heavy = {"numpy", "scipy", "sqlalchemy", "alembic", "pydantic", "pint", "serial"}
    assert not (light | heavy) & set(told["painted"])
    assert not heavy & set(told["today"])


HEAVY = """
import json, sys, threading
by = {}
def note(event, told):
    if event == "import":
        by.setdefault(str(told[0]).split(".")[0], threading.current_thread() is threading.main_thread())
sys.addaudithook(note)
sys.argv = ["reckoner", "--demo", "--data", sys.argv[1]]
from reckoner.__main__ import main
def watch(frame):
    from PyQt6.QtCore import QTimer
    frame.look = QTimer(frame)
    frame.look.timeout.connect(lambda: look(frame))
    frame.look.start(5)
def look(frame):
    window = frame.centralWidget()
    if window is not None and window.around.person is not None and window.idle and "reckoner.ui.bench" in sys.modules:
        frame.look.stop()
        print(json.dumps(sorted(name for name, here in by.items() if here)))
        frame.close()
sys.exit(main(watch))
"""


def test_nothing_heavy_is_imported_where_the_window_is_painted(tmp_path):
    shipped.put(tmp_path)
    done = subprocess.run([sys.executable, "-c", HEAVY, str(tmp_path)], capture_output=True, text=True, timeout=120)
    assert (done.returncode, done.stderr) == (0, "")
    assert not {"numpy", "scipy", "sqlalchemy", "alembic", "pydantic", "serial"} & set(json.loads(done.stdout))


TYPED = """
import sys
from contextlib import closing
from datetime import date
from pathlib import Path
import sqlite3
from reckoner.shop.words.phrases import understood
from reckoner.shop.register.lists import matching
from reckoner.store.reader import Reader
with closing(sqlite3.connect(sys.argv[1])) as connection:
    reader, today = Reader(connection, Path(sys.argv[1]).parent), date(2026, 11, 24)
    assert understood(reader, "0417 fell", today).number == "HC-0417"
    assert matching(reader, "due this week", today, 5) is not None
print(" ".join(sys.modules))
"""


def test_what_the_top_line_says_while_one_types_needs_no_heavy_library(tmp_path):
    shipped.put(tmp_path)
    done = subprocess.run(
        [sys.executable, "-c", TYPED, str(tmp_path / FILE)], capture_output=True, text=True, timeout=120
    )
    assert (done.returncode, done.stderr) == (0, "")
    heavy = {"numpy", "scipy", "sqlalchemy", "alembic", "pydantic", "pint", "PyQt6"}
    assert not heavy & set(done.stdout.split())


class Gate:
    """A module that loads when it is let."""

    def __init__(self, monkeypatch, names):
        self.opened = {name: threading.Event() for name in names}
        self.asked = []
        self._really = importlib.import_module
        monkeypatch.setattr(ahead, "_is_here", lambda name: name not in self.opened or self.opened[name].is_set())
        monkeypatch.setattr(ahead.importlib, "import_module", self._load)

    def _load(self, name):
        self.asked.append(name)
        if name in self.opened:
            self.opened[name].wait(WAIT / 1000)
        return self._really(name) if "." in name else None


def test_going_elsewhere_meanwhile_wins(qtbot, open_window, demo_folder, monkeypatch):
    window = open_window(demo_folder)
    window.place(PlaceId.TOOLS)
    gate = Gate(monkeypatch, ["reckoner.ui.bench"])
    window.rail.findChildren(QAbstractButton)[1].setFocus()
    window.go(Target(PlaceId.BENCH))
    assert not window.idle
    assert window.current.name.text() == "Bench"  # its name stands at once
    assert window.current.isVisible()
    assert not window.current.seen  # what keys will mean is not known
    assert focused(window) is window.current  # not a button of the rail
    for key in (Qt.Key.Key_Return, Qt.Key.Key_Backspace, Qt.Key.Key_A):
        QTest.keyClick(focused(window), key)
    assert window.current.name.text() == "Bench"
    assert window.top_line.text() == ""
    window.go(Target(PlaceId.TOOLS))
    settle_but_for_the_gate(qtbot, window)
    gate.opened["reckoner.ui.bench"].set()
    settle(qtbot, window)
    assert window.current is window.place(PlaceId.TOOLS)
    window.go(Target(PlaceId.BENCH))
    settle(qtbot, window)
    assert window.current is window.place(PlaceId.BENCH)


def settle_but_for_the_gate(qtbot, window):
    qtbot.waitUntil(lambda: window.around.work.idle and window.current.seen, timeout=WAIT)


def test_what_is_needed_goes_before_what_may_be(qtbot, qapp, monkeypatch):
    loading = Ahead(qapp)
    gate = Gate(monkeypatch, ["one", "two", "three"])
    monkeypatch.setattr(ahead, "MODULES", ("one", "two"))
    loading.start()
    came = []
    qtbot.waitUntil(lambda: gate.asked == ["one"], timeout=WAIT)
    loading.need("three", lambda: came.append("three"))
    for event in gate.opened.values():
        event.set()
    qtbot.waitUntil(lambda: came == ["three"], timeout=WAIT)
    loading.stop()
    assert gate.asked[:2] == ["one", "three"]


@pytest.mark.parametrize(
    "arguments",
    [
        [],
        ["--demo"],
        ["--dark", "--demo"],
        ["--data", "x"],
        ["--data", "x", "--demo"],
        ["--demo", "--data", "x", "--dark"],
    ],
)
def test_the_usual_arguments_mean_what_the_command_says(arguments):
    heard = []
    CliRunner().invoke(make_command(lambda options: heard.append(options) or 0), arguments, catch_exceptions=False)
    assert opens_a_window(arguments)
    assert plain(arguments) == heard[0]
    assert isinstance(heard[0], WindowOptions)


@pytest.mark.parametrize(
    ("arguments", "window"),
    [
        (["verify"], False), (["--help"], False), (["--data", "x", "backup"], False), (["--nonsense"], False),
        (["--today", "2026-11-24"], False), (["--today=2026-11-24"], False), (["--data"], True), (["--verbose"], True),
    ],
)  # fmt: skip
def test_other_arguments_are_left_to_the_command(arguments, window):
    assert opens_a_window(arguments) is window
    assert plain(arguments) is None


@pytest.mark.parametrize(
    ("text", "look"),
    [
        ('{"window": [1400, 900], "dark": true}', ((1400, 900), True)),
        ('{"window": [1e999, 900]}', (SIZE, False)),
        ('{"window": [9999999, 900], "dark": 1}', (SIZE, False)),
        ('{"window": [-1, 0]}', (SIZE, False)),
        ("[" * 100_000, (SIZE, False)),
        ("null", (SIZE, False)),
        ("\x00", (SIZE, False)),
    ],
)
def test_an_absurd_last_look_is_the_usual_one(tmp_path, text, look):
    (tmp_path / "station.json").write_text(text)
    assert last_look(str(tmp_path / "station.json")) == look
    Station(tmp_path / "station.json")


def test_a_fault_of_ours_before_the_window_is_there_is_apologised_for(tmp_path):
    script = (
        "import sys, reckoner.ui.app as app; from reckoner.__main__ import main\n"
        "app.fill = lambda *_: 1 / 0\n"
        f"sys.argv = ['reckoner', '--data', {str(tmp_path)!r}]\nsys.exit(main())"
    )
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, timeout=120)
    assert done.returncode == 1
    assert done.stderr.startswith("Reckoner has made a mistake of its own")
    assert "Traceback" not in done.stderr


def test_a_file_where_a_folder_belongs_is_left_to_the_command(tmp_path):
    file = tmp_path / "file"
    file.write_text("")
    assert plain(["--data", str(file)]) is None


def test_every_place_and_what_stands_in_it_first_is_made_before_it_is_gone_to(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    made = window._places
    qtbot.waitUntil(lambda: set(made) == set(PlaceId), timeout=WAIT)
    assert window.current is made[PlaceId.TODAY]
    qtbot.waitUntil(lambda: "costs" in vars(made[PlaceId.DESK]) and "work" in vars(made[PlaceId.SETTING]), timeout=WAIT)
    qtbot.waitUntil(lambda: "room" in vars(made[PlaceId.RECORDS]), timeout=WAIT)
    assert {"start", "look_over", "set_up", "pulls"} <= set(vars(made[PlaceId.BENCH].panels))


def test_the_style_sheet_hangs_on_the_window_alone_and_follows_the_theme(open_window, demo_folder, qapp):
    window = open_window(demo_folder)
    frame, theme = window.frame, window.around.theme
    light = frame.styleSheet()
    assert (bool(light), qapp.styleSheet()) == (
        True,
        "",
    )  # on the application, each part that is put in is polished anew
    theme.set_dark(True)
    assert frame.styleSheet() not in ("", light)
    theme.set_dark(False)


def test_places_that_are_thrown_away_while_they_are_made_are_made_no_further(qtbot, open_window, demo_folder):
    """As when a backup is put back: another database, and every place anew."""
    window = open_window(demo_folder)
    qtbot.waitUntil(lambda: PlaceId.RECORDS in window._places, timeout=WAIT)
    for place in window.close_places():
        place.deleteLater()
    qtbot.wait(4 * PIECE_MS)
    assert window._places == {}
    window._making.start()
    qtbot.waitUntil(lambda: set(window._places) == set(PlaceId), timeout=WAIT)
