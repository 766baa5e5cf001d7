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

LIMIT = 90

A_PULL = 3
"""Seconds that a finger stays on the key: longer than a pull to its signal takes."""


@pytest.fixture
def display():
    """A display of our own."""
    read, write = os.pipe()
    server = subprocess.Popen(
        ["Xvfb", "-displayfd", str(write), "-screen", "0", "1280x800x24", "-nolisten", "tcp"],
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

    def pull(self, so):
        """Space held down as a finger holds it, until ``so`` or longer than a pull takes; most count once it was let go."""
        if so():
            return
        self.x("keydown", "space")
        pressed = time.monotonic()
        while not so() and time.monotonic() < pressed + A_PULL:
            time.sleep(0.2)
        self.x("keyup", "space")
        time.sleep(0.6)


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
            for _ in range(5):  # a busy machine links the meter late
                hands.pull(lambda: len(hands.readings(tool)) >= 1)

        hands.until(lambda: len(hands.readings(tool)) >= 1, again=go_on)
        hands.x("type", "--delay", "30", "39,8")
        hands.key("Return")
        hands.until(lambda: len(hands.readings(tool)) >= 2)
        values = hands.readings(tool)
        assert values[1] == 39.8
        assert 36 < values[0] < 43
    finally:
        program.terminate()
        assert program.wait(20) is not None
