"""A station's own settings: kept apart from the shop, never in the way when they cannot be read or written."""

import json

import pytest

from reckoner.store.station import Station, StationNotWritable, StationSettings


def test_settings_are_there_again(tmp_path):
    path = tmp_path / "deep" / "station.json"
    station = Station(path)
    assert station.settings == StationSettings()
    station.set_link("PM-5", "plain:/dev/ttyUSB0")
    station.keep(muted=True, window=(1400, 900))
    again = Station(path)
    assert again.link_of("PM-5", "stand-in") == "plain:/dev/ttyUSB0"
    assert again.link_of("PM-6", "stand-in") == "stand-in"
    assert (again.settings.muted, again.settings.dark, again.settings.window) == (True, False, (1400, 900))
    assert [p.name for p in path.parent.iterdir()] == ["station.json"]


@pytest.mark.parametrize(
    "text",
    [
        "",
        "not json",
        "[]",
        '{"links": 3}',
        '{"links": {"PM-5": 4}}',
        '{"columns": {"Serial": 4}}',
        '{"folders": {"paper": 4}}',
        '{"muted": "yes"}',
        '{"window": [3]}',
        '{"window": [9, 9]}',
    ],
)
def test_what_cannot_be_read_counts_as_not_set_and_is_kept_aside(tmp_path, text):
    path = tmp_path / "station.json"
    path.write_text(text)
    assert Station(path).settings == StationSettings()
    assert (tmp_path / "station.unreadable.json").read_text() == text


def test_a_setting_of_a_newer_reckoner_is_left_out(tmp_path):
    path = tmp_path / "station.json"
    path.write_text(json.dumps({"dark": True, "pedal": "left"}))
    assert Station(path).settings == StationSettings(dark=True)


def test_a_folder_that_cannot_be_written_is_said_and_the_setting_holds(tmp_path):
    (tmp_path / "in the way").write_text("")
    station = Station(tmp_path / "in the way" / "station.json")
    with pytest.raises(StationNotWritable, match="hold until the window closes"):
        station.keep(muted=True)
    assert station.settings.muted
