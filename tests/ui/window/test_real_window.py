"""Readings in a real X window with real X key events, the program in a process of its own."""

import os
import shutil
import subprocess
import sys
import time

import pytest

from reckoner.store.database import Database
from reckoner.store.schema import Observation, Run
from tests.support.runs import prepared, tool_id

NEEDED = ("Xvfb", "xdotool")

pytestmark = pytest.mark.skipif(
    any(shutil.which(name) is None for name in NEEDED),
    reason="needs Xvfb and xdotool (make test installs them as root)",
)

LIMIT = 240

PULLS = (3, 5, 8, 12)
"""Seconds that a finger stays on the key, one pull after the other: longer than one takes to its signal, on any machine."""


@pytest.fixture
def display(request):
    """A display of our own: the server looks for a free number, and says it once it listens."""
    number = ""
    while (
        not number
    ):  # another program took the same number in that moment: the server gives up, and another looks anew
        read, write = os.pipe()
        server = subprocess.Popen(
            [
                "Xvfb",
                "-displayfd",
                str(write),
                "-screen",
                "0",
                f"{getattr(request, 'param', '1280x800')}x24",
                "-nolisten",
                "tcp",
            ],
            pass_fds=[write],
            stderr=subprocess.DEVNULL,
        )
        os.close(write)
        with os.fdopen(read) as told:
            number = told.readline().strip()
    yield f":{number}"
    server.terminate()
    server.wait()


class Hands:
    """Keys on the display, and a look at the database until something is so."""

    def __init__(self, display, folder):
        self.environment = {**os.environ, "DISPLAY": display, "QT_QPA_PLATFORM": "xcb"}
        self.folder = folder

    def x(self, *words):
        return subprocess.run(["xdotool", *words], env=self.environment, capture_output=True, text=True)

    def key(self, *names):
        self.x("key", "--clearmodifiers", *names)

    def until(self, so, again=lambda: None):
        deadline = time.monotonic() + LIMIT
        while not so():
            assert time.monotonic() < deadline, "it did not come to that in time"
            again()
            time.sleep(0.2)

    def ask(self, question):
        database = Database(self.folder)
        try:
            with database.session() as session:
                return question(session)
        finally:
            database.close()

    def readings(self, tool):
        return self.ask(
            lambda s: [
                r.torque
                for run in s.query(Run).filter_by(tool_id=tool).order_by(Run.id.desc()).limit(1)
                if run.signature is None
                for series in run.series
                for r in s.query(Observation).filter_by(series_id=series.id)
            ]
        )

    def pull(self, so, seconds):
        """Space held down as a finger holds it; it counts once it was let go."""
        if not so():
            self.x("keydown", "space")
            time.sleep(seconds)
            self.x("keyup", "space")
            time.sleep(seconds)


def test_readings_come_in_a_real_window_with_real_keys(display, demo_folder, demo, act):
    tool = tool_id(demo, "HC-0417")
    with demo.session() as session:
        prepared(session, tool, act)
    hands = Hands(display, demo_folder)
    program = subprocess.Popen(
        [sys.executable, "-m", "reckoner", "--demo", "--data", str(demo_folder)], env=hands.environment
    )
    try:
        hands.until(lambda: hands.x("search", "--onlyvisible", "--class", "reckoner").stdout.strip() != "")
        window = hands.x("search", "--onlyvisible", "--class", "reckoner").stdout.split()[0]
        hands.x("windowfocus", "--sync", window)

        def go_on():
            """What a person does who does not see yet what was asked for: scan the tool again, and pull again."""
            hands.key("alt+1")  # from wherever the keys before have led: in a field of the bench a "j" is a letter
            hands.key("j")
            hands.x("type", "--delay", "30", "hc0417")
            for _ in range(3):  # the tool's sheet, its run on the bench, once each was seen
                hands.key("Return")
                time.sleep(0.7)
            for seconds in PULLS:  # a busy machine links the meter late
                hands.pull(lambda: len(hands.readings(tool)) >= 1, seconds)

        hands.until(lambda: len(hands.readings(tool)) >= 1, again=go_on)
        hands.x("type", "--delay", "30", "39,8")
        hands.key("Return")
        hands.until(lambda: len(hands.readings(tool)) >= 2)
        values = hands.readings(tool)
        assert values[1] == 39.8
        assert 36 < values[0] < 43
    finally:
        program.terminate()
        program.wait(LIMIT)


@pytest.mark.parametrize("display", ["1010x690"], indirect=True)
def test_the_window_opens_within_a_screen_that_is_smaller(display, demo_folder, tmp_path):
    hands = Hands(display, demo_folder)
    hands.environment["XDG_CONFIG_HOME"] = str(tmp_path / "config")
    program = subprocess.Popen(
        [sys.executable, "-m", "reckoner", "--demo", "--data", str(demo_folder)], env=hands.environment
    )

    def shape():
        window = hands.x("search", "--onlyvisible", "--class", "reckoner").stdout.split()
        told = hands.x("getwindowgeometry", "--shell", window[0]).stdout if window else ""
        shape = dict(line.split("=") for line in told.split())
        return [int(shape[name]) for name in ("X", "Y", "WIDTH", "HEIGHT")] if shape else []

    try:
        hands.until(lambda: shape() == [0, 0, 1010, 690])
    finally:
        program.terminate()
        program.wait(LIMIT)
