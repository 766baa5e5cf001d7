"""What stands in the way on a machine is said, each with what to do, and nothing is changed by looking."""

import os
import shutil
import sqlite3
from collections import namedtuple
from datetime import timedelta

import pytest
from click.testing import CliRunner

from reckoner.cli import doctor
from reckoner.cli.main import make_command
from reckoner.meters.dial import Port
from reckoner.store import times
from reckoner.store.backup import back_up
from reckoner.store.database import FILE
from reckoner.store.station import Station
from tests.support.clock import NOW


@pytest.fixture
def look(demo_folder, tmp_path, monkeypatch):
    """Runs the command; hands back its status and its lines. The machine has a screen, no voice and a daily backup."""
    station = tmp_path / "station.json"
    (tmp_path / "kept").mkdir()
    back_up(demo_folder, tmp_path / "kept" / "reckoner-2026-11-24.sqlite")
    os.utime(tmp_path / "kept" / "reckoner-2026-11-24.sqlite", (NOW.timestamp(), NOW.timestamp()))
    Station(station).keep(backups=str(tmp_path / "kept"))
    (demo_folder / FILE).chmod(0o600)
    monkeypatch.setattr(doctor, "default_station", lambda _folder: station)
    monkeypatch.setattr(doctor, "_in_a_process", lambda script: (script == doctor.SCREEN, "xcb"))
    monkeypatch.setattr("reckoner.meters.dial.serial_ports", lambda: ())

    def run(folder=demo_folder):
        done = CliRunner().invoke(
            make_command(lambda _options: 0), ["doctor", "--data", str(folder)], standalone_mode=False
        )
        assert done.exception is None, done.exception
        return done.return_value, done.output.splitlines()

    return run


def seen(lines):
    return [line for line in lines if line.startswith("LOOK")]


def test_a_sound_machine_has_one_thing_to_be_said_of_its_only_disk(look, demo_folder):
    before = (demo_folder / FILE).read_bytes()
    status, lines = look()
    assert status == 1
    (left,) = seen(lines)
    assert "24 Nov 2026; it is on the same disk as the records" in left
    assert "fine     Screen: a window can open (xcb)" in lines
    assert any(line.startswith("without  Voice") for line in lines)
    assert any("links walked: everything is as it was kept" in line for line in lines)
    assert (demo_folder / FILE).read_bytes() == before


def test_each_thing_in_the_way_is_named_with_what_to_do(look, demo_folder, tmp_path, monkeypatch):
    (demo_folder / FILE).chmod(0o640)
    closed = tmp_path / "ttyUSB0"
    closed.touch()
    monkeypatch.setattr("reckoner.meters.dial.serial_ports", lambda: (Port(str(closed), "a cable"),))
    monkeypatch.setattr(os, "access", lambda path, mode, real=os.access: str(path) != str(closed) and real(path, mode))
    usage = namedtuple("usage", "total used free")
    monkeypatch.setattr(shutil, "disk_usage", lambda _path: usage(10**9, 10**9, 1000))
    monkeypatch.setattr(times, "present", lambda: NOW - timedelta(days=40))
    with sqlite3.connect(demo_folder / FILE) as connection:
        connection.execute("UPDATE tool SET place = 'elsewhere' WHERE id = 3")
    connection.close()
    shutil.rmtree(tmp_path / "kept")
    _status, lines = look()
    said = "\n".join(seen(lines))
    for words in (
        "a cable is closed to", "usermod -aG", "make room, or readings cannot be kept", "chmod 600",
        "reckoner verify --records” names everything (", "the newest record is of", "look whether its drive is there",
    ):  # fmt: skip
        assert words in said, (words, said)


def test_where_nothing_is_and_where_it_is_damaged_it_is_said_and_nothing_made(look, demo_folder, tmp_path):
    _status, lines = look(tmp_path / "new")
    assert any("none is there yet; the window begins one" in line for line in lines)
    assert not (tmp_path / "new").exists()
    with (demo_folder / FILE).open("r+b") as file:
        file.seek(40_000)
        file.write(b"\xff" * 60_000)
    _status, lines = look()
    assert any(line.startswith("LOOK     Database") for line in lines)
    assert not any("Records" in line for line in lines)


def test_a_screen_or_a_voice_that_ends_the_program_ends_only_its_own(monkeypatch):
    assert doctor._in_a_process("import os; os.abort()")[0] is False
    assert doctor._in_a_process("print('xcb')") == (True, "xcb")
    monkeypatch.setattr(doctor, "CHILD_S", 0.2)
    assert doctor._in_a_process("import time; time.sleep(60)") == (False, "it does not answer")
