"""Set for a wanted torque: solved exactly between tested settings, never beyond them; where a torque falls in a band."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.units import N_M, Kind, unit_named
from reckoner.core.tightening.adapters import Adapter, Lever, factor
from reckoner.core.tightening.choosing import Demand, PassedOver, ToolCandidate, rank
from reckoner.core.tightening.setting import (
    Band,
    BandAim,
    BandPlace,
    DeviationAtSetting,
    KnownPoint,
    angle_window,
    at,
    force_at,
    read_band,
    scales,
    setting_with,
)

KNOWN = (KnownPoint(40, 0.03, 0.02), KnownPoint(120, -0.01, 0.01), KnownPoint(200, 0.02, 0.015))


@given(
    deviations=st.tuples(*[st.floats(-0.08, 0.08)] * 3),
    wanted=st.floats(35, 220),
    f=st.floats(0.7, 1.4),
)
def test_what_is_set_delivers_what_is_wanted_wherever_the_tool_was_tested(deviations, wanted, f):
    known = [KnownPoint(x, a, 0.01) for x, a in zip((40, 120, 200), deviations, strict=True)]
    found = setting_with(known, wanted, f)
    if found.deviation is None:
        nearest = min(known, key=lambda p: abs(p.setting - wanted / f))
        assert found.setting == pytest.approx(wanted / f * (1 + nearest.deviation))  # about, and nothing is promised
        inside = [x for x in range(40, 201) if at(known, x).delivered(f) >= wanted]
        assert not (inside and at(known, 40).delivered(f) <= wanted)  # no setting of the tested ones would have done
        assert found.delivered(f) is None
    else:
        assert 38 - 1e-6 <= found.setting <= 210 + 1e-6
        assert found.delivered(f) == pytest.approx(wanted, rel=1e-9)
        assert found.deviation == pytest.approx(at(known, found.setting).deviation)


def test_nothing_is_extrapolated_and_the_larger_neighbour_gives_w():
    assert [at(KNOWN, x).measured for x in (37.9, 38, 39.9, 210, 210.1)] == [False, True, True, True, False]
    assert [at(KNOWN, 37, graduation).measured for graduation in (2.9, 3)] == [False, True]
    assert at(KNOWN, 39.9) == DeviationAtSetting(39.9, 0.03, 0.02)  # what was found at 40 serves beside it
    assert (at(KNOWN, 200).deviation, at(KNOWN, 40).expanded_uncertainty) == (0.02, 0.02)
    assert at(KNOWN, 80).deviation == pytest.approx(0.01)
    assert (at(KNOWN, 80).expanded_uncertainty, at(KNOWN, 160).expanded_uncertainty) == (0.02, 0.015)
    with pytest.raises(InputRefused, match="two results"):
        at((*KNOWN, KnownPoint(40, 0.01, 0.01)), 50)


def test_a_band_says_where_a_torque_with_its_interval_falls_and_what_is_left_of_its_room():
    band = Band(76, 84)
    assert [band.aimed(aim) for aim in BandAim] == [76, 80, 84]
    assert [band.falls(t, 0.02) for t in (80, 83, 84.5, 86, 74)] == [
        BandPlace.INSIDE, BandPlace.CANNOT_TELL, BandPlace.CANNOT_TELL, BandPlace.OUTSIDE, BandPlace.OUTSIDE,
    ]  # fmt: skip
    assert (band.taken(82, 80), band.taken(88, 80), band.taken(78, 80)) == (0.5, 2.0, 0.5)
    assert Band(80, 80).taken(81, 80) is None
    assert band.taken(75, 76) is None  # aimed at the very end: no room below it
    for low, high in ((84, 76), (0, 5), (-1, 4)):
        with pytest.raises(InputRefused):
            Band(low, high)


@given(length=st.floats(0.02, 0.2), degrees=st.floats(0, 180), within=st.floats(0.002, 0.05))
def test_at_the_ends_of_the_window_of_angles_the_torque_is_off_by_just_that(length, degrees, within):
    angle = math.radians(degrees)
    window = angle_window(0.4, 0.0, length, angle, within)
    here = factor(Lever(0.4), [Adapter(length, angle)])
    assert window.low_rad <= angle + 1e-9
    assert window.high_rad >= angle - 1e-9
    for end in (window.low_rad, window.high_rad):
        off = abs(factor(Lever(0.4), [Adapter(length, end)]) / here - 1)
        assert off <= within * (1 + 1e-6)
        if 1e-6 < end < math.pi - 1e-6:
            assert off == pytest.approx(within, rel=1e-6)


def test_a_setting_reads_on_a_main_and_a_fine_scale_and_a_spanner_wants_force_at_length():
    assert [(s.main, round(s.fine, 9)) for s in (scales(x, 10) for x in (70.5, 70, 69.9999999999, 9))] == [
        (70, 0.5), (70, 0), (70, 0), (0, 9),
    ]  # fmt: skip
    assert force_at(80, 0.4) == pytest.approx(200)
    assert force_at(80, 0.4, math.radians(60)) == pytest.approx(230.940, abs=1e-3)
    with pytest.raises(InputRefused, match="along the spanner"):
        force_at(80, 0.4, math.radians(3))


@pytest.mark.parametrize(
    ("text", "low", "high"),
    [
        ("80", 80, 80), ("76 to 84 N.m", 76, 84), ("76–84", 76, 84), ("76 N·m - 84 N·m", 76, 84), ("80 ± 5 %", 76, 84),
        ("80+/-4", 76, 84), ("59 lbf.ft", 79.993, 79.993), ("56 to 62 lbf.ft", 75.926, 84.061), ("1,2 to 1,4", 1.2, 1.4),
    ],
)  # fmt: skip
def test_a_band_is_read_as_people_write_it(text, low, high):
    band, unit = read_band(text, N_M)
    assert (band.low, band.high) == (pytest.approx(low, abs=1e-3), pytest.approx(high, abs=1e-3))
    assert unit == (unit_named("lbf.ft", Kind.TORQUE) if "lbf" in text else N_M)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("84 to 76", "upside down"), ("0", "more than nothing"), ("80 ± 100 %", "leaves nothing"), ("80 ± 90", "more than"),
        ("", "empty"), ("a lot", "not a torque"), ("1 to 2 to 3", "is no torque"), ("80 mm", "unit of length"),
    ],
)  # fmt: skip
def test_what_is_no_band_says_why(text, said):
    with pytest.raises(InputRefused, match=said):
        read_band(text, N_M)


def test_an_adapter_in_line_may_stand_as_far_to_either_side():
    window = angle_window(0.32, 0.0, 0.045, 0.0, 0.01)
    assert window.low_rad == -window.high_rad < 0


def test_what_a_joint_is_critical_in_changes_the_order():
    tools = [
        ToolCandidate("click", 20, 160, True, False, 0.012),
        ToolCandidate("slip", 20, 160, True, False, 0.02, slips=True),
        ToolCandidate("part", 20, 160, True, False, 0.01, part=(20, 60)),
    ]

    def order(demand):
        return [(r.id, r.passed) for r in rank(tools, 80, demand)]

    restricted = ("part", PassedOver.RESTRICTED)
    assert order(Demand()) == [("click", None), ("slip", None), restricted]
    assert order(Demand(slip_first=True)) == [("slip", None), ("click", None), restricted]
    # a quarter of 5 N·m is 1.25 N·m: 1.2 % of 80 N·m find room in it, 2 % do not
    assert order(Demand(wide=5.0)) == [("click", None), ("slip", PassedOver.TOO_COARSE), restricted]
