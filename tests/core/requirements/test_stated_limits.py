"""Limits as makers state them: what is read, and what holds at each point."""

import pytest

from reckoner.core.decision.states import State
from reckoner.core.decision.verdict import PointInput, verdict
from reckoner.core.errors import InputRefused
from reckoner.core.reference.certificate import ReferenceAtPoint
from reckoner.core.requirements.limits import LimitOf, StatedLimit, Zone, of_reading, read_limit
from reckoner.core.requirements.tooltypes import ToolKind, ToolType
from reckoner.core.uncertainty.budget import Observations
from reckoner.formats.rulesets import shipped

FULL = LimitOf.FULL_SCALE


@pytest.mark.parametrize(
    ("text", "zones"),
    [
        ("4 %", (Zone(0.04),)),
        ("±4,4%", (Zone(0.044),)),
        ("1 % FS", (Zone(0.01, FULL),)),
        ("2 % of full scale", (Zone(0.02, FULL),)),
        ("6 % below 20 %, 4 % above", (Zone(0.06, up_to=0.2), Zone(0.04))),
        ("±6 % of reading up to 20 % of full scale; ±4 % from 20 %", (Zone(0.06, up_to=0.2), Zone(0.04))),
        ("6%<20%", None),
        (
            "10 % under 10 %,6 % under 20 %,1,5 % of range above",
            (Zone(0.1, up_to=0.1), Zone(0.06, up_to=0.2), Zone(0.015, FULL)),
        ),
    ],
)  # fmt: skip
def test_a_limit_is_read_as_people_write_it(text, zones):
    if zones is None:
        with pytest.raises(InputRefused, match="is no limit; write it such as"):
            read_limit(text)
    else:
        assert read_limit(text).zones == zones


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("6 % below 20 %", "say what holds above 20 %"),
        ("6 % below 20 %, 4 % above 30 %", "nothing is said between 20 % and 30 %"),
        ("6 % below 20 %, 4 % below 10 %, 3 %", "the zones have to rise"),
        ("6 %, 4 %", 'say where "6 %" ends'),
        ("60 %", "must lie between"),
        ("", "have to rise"),
    ],
)
def test_a_limit_that_leaves_something_open_is_refused(text, why):
    with pytest.raises(InputRefused, match=why):
        read_limit(text)


def test_at_a_border_the_tighter_zone_holds_whatever_the_last_bit():
    limit = read_limit("6 % below 20 %, 4 % above")
    for maximum in (0.7, 2.0, 340.0):
        assert limit.at(0.2 * maximum, maximum) == 0.04
        assert limit.at(0.199 * maximum, maximum) == 0.06


def test_a_part_of_full_scale_grows_towards_the_bottom_and_the_rule_set_caps_it():
    rules = shipped("iso-6789-2017")
    kind = ToolKind(ToolType.SETTING, "A", 200, 40, 1, (StatedLimit((Zone(0.01, FULL),)), of_reading(0.03)))
    assert [rules.limit(kind, x) for x in (20, 40, 50, 100, 200)] == [0.03, 0.03, 0.03, 0.02, 0.01]
    assert rules.table_limit(kind) == 0.04


def test_each_point_is_judged_by_its_own_limit_and_asks_its_own_of_the_reference():
    """The same deviation of +1.5 %: inside at 60 N·m, outside at full scale, where 1 % holds."""
    rules = shipped("iso-6789-2017")
    kind = ToolKind(ToolType.SETTING, "A", 200, 40, 1, (StatedLimit((Zone(0.01, FULL),)),))
    readings = {target: tuple(target / 1.015 * x for x in (1, 1.0001, 0.9999, 1, 1)) for target in (60.0, 200.0)}
    points = [
        PointInput(target, Observations.of_readings(target, values), ReferenceAtPoint(0.002))
        for target, values in readings.items()
    ]
    found = verdict(kind, rules, points)
    assert [p.decision.state for p in found.points] == [State.INSIDE, State.OUTSIDE]
    assert found.limits == ((60.0, pytest.approx(0.02 / 0.6)), (200.0, 0.01))
    assert found.worst.target == 200.0
    weak = [p._replace(reference=ReferenceAtPoint(0.004)) for p in points]  # a quarter of 3.3 %, not of 1 %
    assert [p.reference_adequate for p in verdict(kind, rules, weak).points] == [True, False]
