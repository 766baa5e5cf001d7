"""The worked examples of the trade, and what must hold whatever the numbers."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reckoner.core.decision.conformity import deviation, judge, state_of, worst_state
from reckoner.core.decision.states import State
from reckoner.core.decision.verdict import PointInput, verdict
from reckoner.core.errors import InputRefused
from reckoner.core.history.due import DueReason, add_months, due_date
from reckoner.core.reference.certificate import CertificatePoint, ReferenceAtPoint, at_torque
from reckoner.core.requirements.limits import of_reading
from reckoner.core.requirements.rules import Coverage, Decision, Rule
from reckoner.core.requirements.tooltypes import ToolKind, ToolType
from reckoner.core.uncertainty.budget import Effects, Observations, budget, coverage_factor
from reckoner.formats.rulesets import shipped

NEAR_READINGS = (116.1, 115.8, 116.4, 116.0, 115.9)
EFFECTS = Effects.known(0.5, 0.4, 0.3, 0.6)
REFERENCE = ReferenceAtPoint(0.006)
READING = st.floats(100, 140)


def judged(kind, readings, decision=None, **options):
    points = [PointInput(120, Observations.of_readings(120, readings), options.pop("reference", REFERENCE))]
    return verdict(kind, shipped("iso-6789-2017"), points, effects=EFFECTS, decision=decision, **options)


def test_the_near_example_is_inside_by_every_reading_yet_reaches_past_the_limit(click_wrench):
    found = judged(click_wrench, NEAR_READINGS)
    point = found.points[0]
    assert point.budget.deviation == pytest.approx(0.034129, abs=5e-7)
    assert point.budget.expanded_uncertainty == pytest.approx(0.009230, abs=5e-7)
    assert point.budget.uncertainty_interval == pytest.approx(0.043359, abs=5e-7)
    assert point.decision.probability == pytest.approx(0.898, abs=5e-4)
    assert (found.state, found.accepted) == (State.INSIDE_NEAR, True)
    assert found.by_rule(Decision(Rule.GUARDED)).accepted is None
    assert found.by_rule(Decision(Rule.MEAN)).accepted is True
    assert found.by_rule(Decision(Rule.PROBABILITY)).accepted is False


def test_limits_on_a_reading_are_not_symmetric():
    assert deviation(120, 115.385) == pytest.approx(0.04, abs=1e-5)
    assert deviation(120, 125.0) == pytest.approx(-0.04)


def test_a_reading_exactly_on_its_limit_lies_inside(click_wrench):
    assert judged(click_wrench, [120 / 1.04] * 5).accepted is True
    assert judged(click_wrench, [120 / 1.04 - 0.001] * 5).accepted is False


@pytest.mark.parametrize(("reference", "trusted"), [(ReferenceAtPoint(0.0101), True), (ReferenceAtPoint(0.006), False)])
def test_an_unfit_reference_never_decides(click_wrench, reference, trusted):
    found = judged(click_wrench, NEAR_READINGS, reference=reference, reference_trusted=trusted)
    assert (found.state, found.accepted) == (State.UNDECIDED, None)


def test_the_reference_is_adequate_up_to_a_quarter_of_the_limit(click_wrench):
    assert judged(click_wrench, NEAR_READINGS, reference=ReferenceAtPoint(0.01)).reference_adequate


@given(st.lists(READING, min_size=2, max_size=10), st.floats(0.2, 5))
def test_scaling_every_torque_leaves_the_percentages(readings, factor):
    kind = ToolKind(ToolType.SETTING, "A", 200, 40, 1)
    scaled = ToolKind(ToolType.SETTING, "A", 200 * factor, 40 * factor, factor)
    one = budget(Observations.of_readings(120, readings), kind, REFERENCE, EFFECTS)
    other_effects = Effects.known(*(e * factor for e in (0.5, 0.4, 0.3, 0.6)))
    other = budget(
        Observations.of_readings(120 * factor, np.multiply(readings, factor)), scaled, REFERENCE, other_effects
    )
    assert other.standard_uncertainty == pytest.approx(one.standard_uncertainty, rel=1e-9)
    assert other.deviation == pytest.approx(one.deviation, rel=1e-9, abs=1e-15)


@given(st.lists(READING, min_size=2, max_size=6), st.floats(0.01, 0.2), st.floats(1, 3), st.sampled_from(list(Rule)))
def test_widening_the_limit_never_turns_accept_into_reject(readings, limit, wider, rule):
    kind = ToolKind(ToolType.SETTING, "A", 200, 40, 1)
    found = budget(Observations.of_readings(120, readings), kind, REFERENCE)
    narrow, wide = judge(found, limit, Decision(rule)), judge(found, limit * wider, Decision(rule))
    assert not (narrow.accepted is True and wide.accepted is not True)


def test_indicating_tools_count_their_resolution_twice_and_screwdrivers_no_loading_point(click_wrench):
    seen = Observations.of_readings(120, NEAR_READINGS)
    dial = budget(seen, ToolKind(ToolType.INDICATING, "B", 200, 40, 1), REFERENCE, EFFECTS)
    wrench = budget(seen, click_wrench, REFERENCE, EFFECTS)
    driver = budget(seen, ToolKind(ToolType.SETTING, "D", 200, 40, 1), REFERENCE, EFFECTS)
    ratio = dial.component("resolution").value / wrench.component("resolution").value
    assert ratio == pytest.approx(math.sqrt(2))
    assert driver.component("loading_point").value == 0 < wrench.component("loading_point").value


def test_student_widens_the_coverage_of_few_readings(click_wrench):
    assert coverage_factor(Coverage.STUDENT, 2) == pytest.approx(4.53, abs=0.01)
    assert coverage_factor(Coverage.STUDENT, math.inf) == 2
    found = budget(Observations.of_readings(120, (110, 120, 130)), click_wrench, REFERENCE, coverage=Coverage.STUDENT)
    assert found.degrees_of_freedom == pytest.approx(2, abs=0.2)
    assert found.coverage_factor > 4


@pytest.mark.parametrize("readings", [[], [118.0], [118, 0], [118, -1], [118, math.nan], [118, math.inf]])
def test_readings_that_cannot_be_are_refused_by_name(click_wrench, readings):
    with pytest.raises(InputRefused, match="readings"):
        budget(Observations.of_readings(120, readings), click_wrench, REFERENCE)


def test_states_meet_without_a_gap_and_the_worst_point_speaks():
    states = [state_of(x, 0.04, 0.01) for x in (0.03, 0.0301, 0.04, 0.0401, 0.05, 0.0501)]
    assert [s.value for s in states] == [
        "inside", "inside-near", "inside-near", "outside-near", "outside-near", "outside",
    ]  # fmt: skip
    assert worst_state(tuple(states)) is State.OUTSIDE


def test_the_tolerance_table_and_points():
    new, old = shipped("iso-6789-2017"), shipped("iso-6789-2003")
    small, dial = ToolKind(ToolType.SETTING, "A", 10, None, 0.1), ToolKind(ToolType.INDICATING, "B", 10, None, 0.1)
    tight = ToolKind(ToolType.SETTING, "A", 200, 40, 1, (of_reading(0.03),))
    preset = ToolKind(ToolType.SETTING, "B", 65)
    assert [new.limit(k, k.maximum) for k in (small, dial, tight, preset)] == [0.06, 0.06, 0.03, 0.04]
    assert old.limit(dial, 10) == 0.04
    assert new.points(ToolKind(ToolType.SETTING, "A", 340, 60, 2)) == (60, 204, 340)
    assert old.points(ToolKind(ToolType.SETTING, "A", 340, 60, 2)) == (68, 204, 340)
    assert new.points(small) == (2, 6, 10)
    assert (new.points(preset), new.readings_for(preset), new.readings_for(small)) == ((65,), 10, 5)


def test_the_certificate_is_read_between_its_points_and_nowhere_else():
    points = [CertificatePoint(40, 0.002, 0.006), CertificatePoint(200, -0.002, 0.004)]
    assert at_torque(points, 120).error == pytest.approx(0)
    assert at_torque(points, 41).expanded_uncertainty == 0.006
    assert at_torque(points, 200).expanded_uncertainty == 0.004
    for torque in (39.9, 201, math.nan):
        with pytest.raises(InputRefused):
            at_torque(points, torque)
    with pytest.raises(InputRefused, match="two points at the same torque"):
        at_torque([points[0], points[0]], 40)


def test_due_is_the_earliest_of_calendar_cycles_and_event():
    from datetime import date

    today, last = date(2026, 11, 24), date(2026, 3, 31)
    assert add_months(date(2024, 2, 29), 12) == date(2025, 2, 28)
    assert due_date(None, today=today, months=12).reason is DueReason.NEVER_TESTED
    assert due_date(last, today=today, months=12).on == date(2027, 3, 31)
    by_cycles = due_date(last, today=today, months=12, cycles=5000, cycles_used=4900, cycles_per_day=10)
    assert (by_cycles.on, by_cycles.reason) == (date(2026, 12, 4), DueReason.CYCLES)
    assert due_date(last, today=today, months=12, event_on=today).reason is DueReason.EVENT
    shelved = {"today": today, "months": 12, "shelf_months": 6}
    assert due_date(last, first_use=date(2026, 6, 1), **shelved).on == date(2027, 6, 1)
    assert (
        due_date(last, first_use=date(2026, 12, 1), **shelved).on == due_date(last, **shelved).on == date(2027, 9, 30)
    )


def test_a_whole_verdict_wants_all_readings_and_points_in_the_tools_range(click_wrench):
    rules = shipped("iso-6789-2017")

    def point(target, count):
        return PointInput(
            target, Observations.of_readings(target, [target] * (count - 1) + [target * 1.001]), ReferenceAtPoint(0.004)
        )

    few, enough = (verdict(click_wrench, rules, [point(120.0, n)], whole=True) for n in (4, 5))
    assert (few.state, few.accepted, few.reference_adequate) == (State.UNDECIDED, None, True)
    assert enough.accepted is True
    assert verdict(click_wrench, rules, [point(120.0, 4)]).accepted is True  # while readings are still to come
    for target in (39.9, 200.1):
        with pytest.raises(InputRefused, match="lies outside the tool's range, from 40 to 200"):
            verdict(click_wrench, rules, [point(target, 5)], whole=True)
    hung = PointInput(
        203.0, Observations.of_indications([200.0, 200.5, 200.2, 200.1, 200.3], 203.0), ReferenceAtPoint(0.004)
    )
    assert verdict(click_wrench, rules, [hung], whole=True).accepted is True


def test_student_stands_beside_k_2_where_few_readings_dominate(click_wrench):
    few = budget(Observations.of_readings(120, [117.0, 121.0, 119.5]), click_wrench, ReferenceAtPoint(0.001))
    assert few.says_too_little
    assert few.student[1] > 1.5 * few.expanded_uncertainty
    many = budget(Observations.of_readings(120, [119.9, 120.0, 120.1, 120.0]), click_wrench, ReferenceAtPoint(0.008))
    assert not many.says_too_little
