"""What tests share: the demo database, copied; the application and its theme; a window on it."""

from __future__ import annotations

import os
import shutil
import tempfile
from collections.abc import Callable, Iterator
from dataclasses import replace
from functools import cache
from pathlib import Path

from tests.support.clock import NOW, real_clocks  # first: it sets the zone

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["XDG_CONFIG_HOME"] = tempfile.mkdtemp(prefix="reckoner-tests-")  # for programs that tests start

import hypothesis
import numpy as np
import pytest
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from reckoner.__main__ import Meters, opening_of
from reckoner.cli.options import WindowOptions
from reckoner.core.requirements.tooltypes import ToolKind, ToolType
from reckoner.demo import shipped
from reckoner.demo.build import truths
from reckoner.meters.wrench import SimulatedTries
from reckoner.shop.people.authorship import Act
from reckoner.store import engine, times
from reckoner.store.database import Database
from reckoner.ui.app import make_window
from reckoner.ui.theme import Theme
from reckoner.ui.window.main_window import Window
from tests.support.compiled import sharing_engine
from tests.support.hands import WAIT, settle

hypothesis.settings.register_profile("unhurried", deadline=None)  # a slow machine fails no property
hypothesis.settings.load_profile("unhurried")
engine.create_engine = sharing_engine


def pytest_sessionstart() -> None:
    """The guard: what reads the machine's clock or zone behaves otherwise at another hour, or elsewhere."""
    if found := real_clocks():
        raise pytest.UsageError("the machine's clock or zone is read, which is given:\n" + "\n".join(found))


@pytest.fixture(autouse=True)
def fixed_clock(monkeypatch: pytest.MonkeyPatch) -> None:
    """It is ``NOW`` for the program too."""
    monkeypatch.setattr(times, "present", lambda: NOW)


@pytest.fixture(scope="session")
def built_demo(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The demo as it is shipped, which a test holds against what its script writes."""
    folder = tmp_path_factory.mktemp("demo")
    shipped.put(folder)
    return folder


@pytest.fixture
def demo_folder(built_demo: Path, tmp_path: Path) -> Path:
    """A copy of the demo database that the test may change."""
    folder = tmp_path / "data"
    shutil.copytree(built_demo, folder)
    return folder


@pytest.fixture
def demo(demo_folder: Path) -> Iterator[Database]:
    database = Database(demo_folder)
    yield database
    database.close()


@pytest.fixture
def act() -> Act:
    """The first person, on the demo's day."""
    return Act(1, NOW)


@pytest.fixture
def click_wrench() -> ToolKind:
    return ToolKind(ToolType.SETTING, "A", 200.0, 40.0, 1.0)


@pytest.fixture(scope="session")
def theme(qapp: QApplication) -> Theme:
    return Theme(qapp)


@pytest.fixture
def meters() -> Iterator[Meters]:
    """Stand-ins whose time runs twenty times as fast as ours."""
    made = Meters(speed=20, rate=500)
    yield made
    made.close()


def tries() -> SimulatedTries:
    """The invented tools under weights, which answer every run of a test alike."""
    return SimulatedTries(cache(truths), np.random.default_rng(1))


@pytest.fixture
def open_window(qtbot: QtBot, theme: Theme, meters: Meters, tmp_path: Path) -> Iterator[Callable[[Path], Window]]:
    """Opens the real window on a folder, as `reckoner --demo --data FOLDER` does."""
    opened: list[Window] = []

    def make(folder: Path) -> Window:
        opening = opening_of(
            WindowOptions(folder, demo=True, today=None, dark=False, station=tmp_path / "station.json"), meters.url
        )
        window = make_window(replace(opening, tries=tries), theme)
        opened.append(window)
        window.frame.show()
        window.around.work.start()
        qtbot.waitUntil(
            lambda: window.around.person is not None or window.refusal != "" or window.seat.sitting is not None,
            timeout=WAIT,
        )
        settle(qtbot, window)
        return window

    yield make
    for window in opened:
        window.frame.close()
        window.frame.deleteLater()
