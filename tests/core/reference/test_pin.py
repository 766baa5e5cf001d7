"""What counts at the grip mark of a tool that trips about a pin: all three methods, gauges, and the first sum of everyone."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from reckoner.core.adjusting.screw import PointSeries, best_turn
from reckoner.core.decision.conformity import OneSidedProof, signal_at, silent_at
from reckoner.core.errors import InputRefused
from reckoner.core.reference.gauge import GaugeOnLever
from reckoner.core.reference.plan import HangingPlace, force_at, length_for, mass_at, pull_of_force, pull_of_mass
from reckoner.core.reference.trips import match, walk
from reckoner.core.reference.weights import Hanging, OwnWeight, Pin, WeightUncertainty, dead_weight
from reckoner.core.requirements.tooltypes import ErrorKind

OWN = OwnWeight(1.35, 0.19)
PIN = Pin(0.03, 0.42)


def test_a_hook_off_the_mark_makes_another_torque_and_at_the_mark_or_at_the_drive_it_does_not():
    plain = dead_weight(Hanging(12, 0.305))
    pinned = dead_weight(Hanging(12, 0.305, pin=PIN))
    assert plain.torque == pinned.torque
    assert plain.torque / pinned.at_grip - 1 == pytest.approx(0.029, abs=0.001)
    assert dead_weight(Hanging(12, 0.42, pin=PIN)).at_grip == pytest.approx(dead_weight(Hanging(12, 0.42)).torque)
    assert plain.at_grip == plain.torque


def test_the_three_methods_and_a_gauge_tell_the_same_of_the_same_pull():
    hung = dead_weight(Hanging(12, 0.305, own=OWN, pin=PIN)).at_grip
    assert walk(48, 12, 0.305 + 1e-9, 0.305 - 1e-9, own=OWN, pin=PIN).at_grip == pytest.approx(hung)
    assert match(48, 12 + 1e-9, 12 - 1e-9, Hanging(1, 0.305, own=OWN, pin=PIN)).at_grip == pytest.approx(hung)
    gauge = GaugeOnLever(0.305, 0.004, own=OWN, pin=PIN)
    assert gauge.torques([12 * 9.80665])[0] == pytest.approx(hung)


def test_a_head_that_was_not_weighed_is_a_component_and_one_that_was_is_taken_off():
    unsure = WeightUncertainty()
    unknown = dead_weight(Hanging(12, 0.305, own=OWN, pin=PIN), unsure)
    known = dead_weight(Hanging(12, 0.305, own=OWN, pin=Pin(0.03, 0.42, head=0.4)), unsure)
    assert dict(unknown.contributions_at_grip)["head_mass"] == pytest.approx(
        0.45 * 9.80665 * 0.03 * 0.42 / 0.39 / math.sqrt(3)
    )
    assert known.standard_uncertainty_at_grip == 0.0
    assert known.at_grip - unknown.at_grip == pytest.approx(0.4 * 9.80665 * 0.03 * 0.42 / 0.39)
    assert walk(48, 12, 0.431, 0.430999, own=OWN, pin=PIN).standard_uncertainty > 0.08
    share = GaugeOnLever(0.42, 1e-9, own=OWN, pin=PIN).as_reference(100).standard_uncertainty
    assert share == pytest.approx(
        PIN.doubt(1.35 * 9.80665) / GaugeOnLever(0.42, 0.0, own=OWN, pin=PIN).torques([100])[0], rel=1e-3
    )


@given(st.floats(5, 400), st.floats(0.1, 1.0), st.floats(0, 0.09), st.floats(0, 20))
def test_a_plan_is_the_inverse_of_what_hangs(torque, length, offset, degrees):
    place = HangingPlace(OwnWeight(0.4, 0.12), Pin(offset, 0.5), 0.1, math.radians(degrees))
    if place.own_at_grip >= torque:
        with pytest.raises(InputRefused, match="own weight alone"):
            force_at(torque, length, place)
        return
    force = force_at(torque, length, place)
    assert length_for(torque, pull_of_force(force, place), place) == pytest.approx(length)
    if force < 2:
        return
    mass = mass_at(torque, length, place)
    hung = Hanging(mass, length, 0.1, math.radians(degrees), own=OwnWeight(0.4, 0.12), pin=Pin(offset, 0.5))
    assert dead_weight(hung).at_grip == pytest.approx(torque)
    assert length_for(torque, pull_of_mass(mass, place), place) == pytest.approx(length)


@pytest.mark.parametrize(
    ("call", "words"),
    [
        (lambda: Pin(0.03), "grip"),
        (lambda: Pin(0.42, 0.42), "nearer the drive"),
        (lambda: Pin(-0.01, 0.42), "must not be negative"),
        (lambda: Pin(0.03, 0.42, head=2.0).swinging(1.35), "as heavy as the whole tool"),
        (lambda: Hanging(12, 0.03, pin=PIN), "beyond the pivot"),
        (lambda: Hanging(12, 0.3, own=OwnWeight(torque=2.5), pin=PIN), "needs own_mass"),
        (lambda: mass_at(50, 0.03, HangingPlace(OWN, PIN)), "beyond the pivot"),
        (lambda: mass_at(3, 0.4, HangingPlace(OWN, PIN, hanger=5.0)), "hanger alone"),
    ],
)
def test_what_cannot_be_is_refused(call, words):
    with pytest.raises(InputRefused, match=words):
        call()


def test_one_sided_evidence_proves_outside_just_beyond_the_limit_and_never_inside():
    for setting, limit in ((120, 0.04), (2, 0.06)):
        highest, lowest = setting / (1 - limit), setting / (1 + limit)
        assert silent_at(setting, highest * 1.0001, limit).proof is OneSidedProof.OUTSIDE
        assert silent_at(setting, highest * 0.9999, limit).proof is OneSidedProof.OPEN
        assert signal_at(setting, lowest * 0.9999, limit).proof is OneSidedProof.OUTSIDE
        assert signal_at(setting, lowest * 1.0001, limit).proof is OneSidedProof.OPEN
        assert silent_at(setting, setting * 0.1, limit).proof is OneSidedProof.OPEN
        assert signal_at(setting, setting * 9, limit).proof is OneSidedProof.OPEN


@given(st.lists(st.floats(-0.1, 0.1), min_size=2, max_size=5), st.sampled_from(list(ErrorKind)), st.floats(-0.02, 0.02))
def test_no_other_turn_leaves_the_worst_point_less(errors, kind, off):
    points = [PointSeries(20.0 * (i + 1), (20.0 * (i + 1) * (1 + e),)) for i, e in enumerate(errors)]
    best = best_turn(points, 0.04, kind)
    change = best.change + off * (20.0 if kind is ErrorKind.OFFSET else 1.0)
    readings = [
        (p.target, p.readings[0] + change if kind is ErrorKind.OFFSET else p.readings[0] * (1 + change)) for p in points
    ]
    if min(reading for _, reading in readings) > 0:
        assert max(abs(target / reading - 1) for target, reading in readings) >= best.worst - 1e-12
    assert best.turn is None


def test_a_single_point_is_cured_whole_and_a_rate_of_nothing_is_refused():
    one = best_turn([PointSeries(60.0, (57.0, 58.0))], 0.04, ErrorKind.OFFSET, -5.0)
    assert one.worst == pytest.approx(0, abs=1e-9)
    assert one.turn == pytest.approx(-0.5, abs=0.01)
    with pytest.raises(InputRefused, match="changes nothing"):
        best_turn([PointSeries(60.0, (57.0,))], 0.04, ErrorKind.GAIN, 0.0)
