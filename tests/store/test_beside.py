"""What is written for people or kept: whole, its owner's alone, never through a link."""

import json
import logging

import pytest

from reckoner.beside import beside
from reckoner.formats.files import write_whole
from reckoner.store.files import DATABASE as FILE
from reckoner.store.files import copy
from reckoner.store.logs import keep_log
from reckoner.store.station import Station


def test_every_writer_puts_a_new_file_in_place_of_a_link_and_it_is_its_owners_alone(tmp_path, built_demo):
    precious = tmp_path / "precious"
    writers = {
        "table.csv": lambda path: write_whole(path, b"a;b\n"),
        "backup.sqlite": lambda path: copy(built_demo / FILE, path),
        "station.json": lambda path: Station(path).keep(dark=True),
    }
    for name, write in writers.items():
        precious.write_text(json.dumps({"name": "Bench 1"}))
        path = tmp_path / name
        path.symlink_to(precious)
        write(path)
        assert not path.is_symlink(), name
        assert path.stat().st_mode & 0o777 == 0o600, name
        assert precious.read_text() == '{"name": "Bench 1"}', name
    assert not [left for left in tmp_path.iterdir() if left.name.endswith(".new")]


def test_a_log_is_its_owners_alone_after_it_went_round_too_and_none_is_kept_through_a_link(tmp_path, monkeypatch):
    monkeypatch.setattr("reckoner.store.logs.BYTES", 400)
    handler = keep_log(tmp_path / "reckoner.log")
    for number in range(20):
        handler.emit(logging.LogRecord("reckoner", logging.WARNING, "", 0, f"line {number} of many", None, None))
    logging.getLogger().removeHandler(handler)
    handler.close()
    logs = list(tmp_path.glob("reckoner.log*"))
    assert len(logs) > 2
    assert {log.stat().st_mode & 0o777 for log in logs} == {0o600}
    (tmp_path / "other.log").symlink_to(tmp_path / "elsewhere")
    assert keep_log(tmp_path / "other.log") is None
    assert not (tmp_path / "elsewhere").exists()


def test_two_at_once_do_not_meet_and_what_the_killed_have_left_goes(tmp_path):
    left = tmp_path / ".table.csv.999999.abc.new"
    left.write_bytes(b"half")
    with beside(tmp_path / "table.csv") as one:
        assert not left.exists()
        with beside(tmp_path / "table.csv") as other:
            assert one != other
            assert one.exists()
    assert list(tmp_path.iterdir()) == []


@pytest.mark.parametrize("name", ["plain.csv", "with [signs] *.csv"])
def test_a_folder_that_is_not_there_is_said(tmp_path, name):
    with pytest.raises(FileNotFoundError), beside(tmp_path / "none" / name):
        raise AssertionError
