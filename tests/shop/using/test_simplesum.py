"""The first sum of everyone: a weight on a lever, on a tool that is known and on none."""

import pytest

from reckoner.core.reference.weights import STANDARD_GRAVITY
from reckoner.shop.using.simplesum import hung_sum
from reckoner.store.reader import reader_of
from reckoner.store.schema import Tool
from tests.support.runs import tool_id


def plain(words):
    return [line.replace("\u202f", " ") for line in words]


@pytest.mark.parametrize(
    ("typed", "torque", "shown"),
    [
        ("20 lb at 12 in", 20 * 0.45359237 * STANDARD_GRAVITY * 0.3048, "20 lb at 12 in: 20 lbf·ft, 27.116 N·m"),
        ("10 kg at 20 cm", 10 * STANDARD_GRAVITY * 0.2, "10 kg at 20 cm: 19.613 N·m, 14.466 lbf·ft"),
        ("10kg @ 1 ft 5 1/2 in", 10 * STANDARD_GRAVITY * 0.4445, "10 kg at 17.5 in: 32.151 lbf·ft, 43.591 N·m"),
    ],
)
def test_a_weight_on_a_lever_is_told_in_both_units_and_the_own_weight_is_a_range(typed, torque, shown):
    found = hung_sum(None, typed)
    assert plain(found.words)[0] == f"{shown}, the tool's own weight not in it"
    assert torque < found.least < found.most
    assert found.card is None
    assert "what to set for it" in found.words


@pytest.mark.parametrize(
    "typed", ["80 N.m", "HC-0417", "20 lb", "lunch at 12", "10 kg at noon", "at", "0417 fell at 12 in"]
)
def test_what_hangs_nothing_is_something_else(typed):
    assert hung_sum(None, typed) is None


def test_on_a_tool_its_own_weight_is_counted_and_the_nearest_setting_proposed(demo, act):
    with demo.session() as session:
        tool = session.get_one(Tool, tool_id(demo, "HC-0417"))
        tool.lever_length, tool.own_mass, tool.own_centre, tool.pivot_offset = 0.42, 1.35, 0.19, 0.0
        session.flush()
        reader = reader_of(session)
        found = hung_sum(reader, "12 kg at 42 cm with 0417")
        assert found.sure
        assert found.least == pytest.approx((12 * 0.42 + 1.35 * 0.19) * STANDARD_GRAVITY)
        assert (found.setting, found.card.tool.number) == (52.0, "HC-0417")
        assert plain(found.words) == [
            "12 kg at 42 cm on HC-0417: 51.941 N·m, 38.31 lbf·ft, its own weight in it",
            "begin with it: HC-0417 set to 52 N·m",
        ]
        alone = hung_sum(reader, "12 kg", tool.id)  # at the grip mark of the tool in front
        assert (alone.least, alone.setting) == (pytest.approx(found.least), 52.0)
        light = hung_sum(reader, "1 kg", tool.id)
        assert light.setting is None
        assert "it cannot be set so" in light.words[-1]
        heavy = hung_sum(reader, "30 kg", tool.id)
        assert any("hang it in parts" in line for line in heavy.words)
        tool.pivot_offset = 0.03
        session.flush()
        leaning = hung_sum(reader_of(session), "12 kg at 30.5 cm with 0417")
        plain_sum = (12 * 0.305 + 1.35 * 0.19) * STANDARD_GRAVITY
        assert leaning.least < 0.98 * plain_sum  # what trips it is the moment about its pin
        behind = hung_sum(reader_of(session), "12 kg at 2 cm with 0417")
        assert "must lie beyond the pivot" in behind.words[0]


def test_a_weight_of_nothing_is_said_to_be_none():
    assert "0 kg at 20 cm: " in plain(hung_sum(None, "0 kg at 20 cm").words)[0]


@pytest.mark.parametrize(
    ("typed", "why"),
    [
        ("20 lb at 100 ft", "no lever is longer than 16.404 ft"),
        ("20 lb at 0 in", "give a length above nothing"),
        ("10 kg at -20 cm", "give a length above nothing"),
    ],
)
def test_a_lever_that_cannot_be_is_said(typed, why):
    assert why in plain(hung_sum(None, typed).words)[0]


def test_a_pull_is_a_force_times_a_length_and_hangs_nothing():
    found = hung_sum(None, "10 lbf at 1 ft")
    assert plain(found.words)[0] == "10 lbf at 1 ft, square to the lever: 10 lbf·ft, 13.558 N·m"
    assert found.wish is None


def test_off_the_mark_of_a_tool_whose_pin_nobody_knows_it_is_said_how_far_off_it_may_be(demo):
    with demo.session() as session:
        tool = session.get_one(Tool, tool_id(demo, "HC-0417"))
        tool.lever_length, tool.pivot_offset = 0.42, 0.0
        session.flush()
        reader = reader_of(session)
        off = plain(hung_sum(reader, "12 kg at 30.5 cm with 0417").words)
        assert any("off the grip mark, 420 mm, it may be 4 % off" in line for line in off)
        assert not any("pin" in line for line in hung_sum(reader, "12 kg at 42 cm with 0417").words)
        far = hung_sum(reader, "12 kg at 50 cm with 0417")
        assert far.wish is None
        assert any("its grip mark is at 420 mm" in line for line in plain(far.words))
        begun = hung_sum(reader, "12 kg at 40 cm with 0417").wish
        assert (begun.mass, begun.hook, begun.words.replace("\u202f", " ")) == (12.0, pytest.approx(0.4), "12 kg")


def test_more_than_a_person_lifts_is_hung_in_parts_and_a_screwdriver_s_disc_begins_nothing_with_a_lever(demo):
    with demo.session() as session:
        reader = reader_of(session)
        heavy = hung_sum(reader, "30 kg at 20 cm with 0417")
        assert heavy.wish is not None
        assert any("hang it in parts" in line for line in heavy.words)
        far_too_heavy = hung_sum(reader, "120 kg at 5 cm with 0417")
        assert far_too_heavy.wish is None
        assert any("too much for a lever in a vice" in line for line in far_too_heavy.words)
        driver = next(t for t in session.query(Tool) if t.model.class_ in "DEF" and t.model.type == "II")
        found = hung_sum(reader, f"2 kg at 3 cm with {driver.number}")
        assert (found.least, found.most) == (pytest.approx(2 * STANDARD_GRAVITY * 0.03),) * 2
        assert "from a disc on" in found.words[0]
