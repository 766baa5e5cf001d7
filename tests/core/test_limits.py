"""The limits that the documentation states are those of the code: taken on the limit, refused just outside it."""

import math
from datetime import date

import numpy as np
import pytest

from reckoner.core.adjusting.screw import AdjustStep, advise
from reckoner.core.errors import InputRefused
from reckoner.core.history.comparison import ComparedChange, compare
from reckoner.core.history.drift import DatedDeviation, pooled_drift
from reckoner.core.history.due import due_date
from reckoner.core.history.interval import IntervalOutcome, reliability, staircase
from reckoner.core.quantities.printing import decimals_for
from reckoner.core.reference.certificate import ReferenceAtPoint
from reckoner.core.reference.gauge import GaugeOnLever, KilogramBasis, force_shown
from reckoner.core.reference.trips import walk
from reckoner.core.reference.weights import Hanging, local_gravity
from reckoner.core.requirements.limits import of_reading
from reckoner.core.tightening.adapters import Adapter, delivered_by, setting_for
from reckoner.core.tightening.sequence import circle, rows
from reckoner.core.uncertainty.simulation import FEWEST, MOST, simulate

TODAY = date(2026, 11, 24)
OUTCOMES = [IntervalOutcome(6, True)] * 3 + [IntervalOutcome(12, False)]


def normal(rng, count):
    return rng.normal(0, 1, count)


def radians(call):
    return lambda degrees: call(math.radians(degrees))


LIMITS = {
    "W": (lambda v: ReferenceAtPoint(v), 0.0, 1.0, 1e-9),
    "k": (lambda v: ReferenceAtPoint(0.01, coverage_factor=v), 1.0, 20.0, 1e-9),
    "the reference's error": (lambda v: ReferenceAtPoint(0.01, error=v), -0.5, 0.5, 1e-9),
    "trials": (lambda v: simulate(normal, v), FEWEST, None, 1),
    "seed": (lambda v: simulate(normal, FEWEST, v), 0, 2**63 - 1, 1),
    "gravity of a scale": (lambda v: force_shown(10, KilogramBasis.MASS_HERE, v), 1.0, 30.0, 1e-9),
    "gravity of weights": (lambda v: Hanging(10, 0.4, gravity=v), 1.0, 30.0, 1e-9),
    "gravity of a walk": (lambda v: walk(48, 12, 0.431, 0.430, gravity=v), 1.0, 30.0, 1e-9),
    "angle of a pull": (radians(lambda v: GaugeOnLever(0.5, 0.01, angle_rad=v)), 1, 179, 1e-9),
    "tilt": (radians(lambda v: Hanging(10, 0.4, tilt_rad=v)), -60, 60, 1e-9),
    "angle of an adapter": (radians(lambda v: Adapter(0.04, v)), -360, 360, 1e-9),
    "latitude": (radians(lambda v: local_gravity(v, 0)), -90, 90, 1e-9),
    "elevation": (lambda v: local_gravity(0, v), -500, 9000, 1e-6),
    "own tolerance": (lambda v: of_reading(v / 100), 0.01, 50, 1e-6),
    "months of a staircase": (lambda v: staircase(v, 0.01, 0.04), 0.5, 120, 1e-6),
    "target of reliability": (lambda v: reliability(OUTCOMES, v), 0.5, 0.9999, 1e-9),
    "age of an outcome": (lambda v: reliability([*OUTCOMES, IntervalOutcome(v, True)], 0.9), 0.01, 1200, 1e-6),
    "fasteners": (circle, 1, 400, 1),
    "rows": (lambda v: rows(v, 1), 1, 400, 1),
    "columns": (lambda v: rows(1, v), 1, 400, 1),
    "fasteners in rows": (lambda v: rows(20, v), 1, 20, 1),
    "deviation set for": (lambda v: setting_for(40, 1, v), -0.5, 0.5, 1e-9),
    "deviation delivered": (lambda v: delivered_by(40, 1, v), -0.5, 0.5, 1e-9),
    "months of an interval": (lambda v: due_date(TODAY, today=TODAY, months=v), 1, 120, 1),
    "cycles": (lambda v: due_date(TODAY, today=TODAY, months=12, cycles=v), 0, 10**9, 1),
    "cycles used": (lambda v: due_date(TODAY, today=TODAY, months=12, cycles_used=v), 0, 10**9, 1),
    "months on the shelf": (lambda v: due_date(TODAY, today=TODAY, months=12, shelf_months=v), 0, 60, 1),
}


@pytest.mark.parametrize("name", LIMITS)
def test_a_value_on_its_limit_is_taken_and_one_just_outside_is_refused(name):
    call, low, high, step = LIMITS[name]
    for limit, outside in ((low, -step), (high, step)):
        if limit is not None:
            call(limit)
            with pytest.raises(InputRefused, match=r"must (lie|be|not)"):
                call(limit + outside)


def test_no_more_trials_than_memory_is_kept_for():
    with pytest.raises(InputRefused, match="trials"):
        simulate(normal, MOST + 1)


@pytest.mark.parametrize("spread", [0.2, 0.4, 1.0])
def test_the_readings_that_would_tell_do_so_with_the_power_asked_for_and_fewer_do_not(spread):
    """A difference of a tenth of the margin, drawn again and again with as many readings as are said to be needed."""
    before, after = [100 - spread, 100, 100 + spread], [100.1 - spread, 100.1, 100.1 + spread]
    found = compare(before, after, 0.01)
    if found.change is not ComparedChange.CANNOT_TELL:
        assert spread == 0.2
        return
    assert found.readings_needed > 3

    def share(count):
        rng = np.random.default_rng(count)
        drawn = (rng.normal((100, 100.1), spread, (count, 2)).T for _ in range(400))
        return sum(compare(one, two, 0.01).change is ComparedChange.UNCHANGED for one, two in drawn) / 400

    assert share(found.readings_needed) > 0.75
    assert share(round(0.7 * found.readings_needed)) < 0.8
    assert compare(before, after, 0.01, power=0.95).readings_needed > found.readings_needed


def test_it_is_settled_within_the_pooled_scatter_of_the_steps():
    steps = [AdjustStep(0, (39.0, 39.2, 39.4)), AdjustStep(0.25, (39.9, 40.1, 40.3))]
    pooled = math.sqrt((0.08 + 0.08) / 4)
    for away, settled in ((0.99, True), (1.01, False)):
        assert advise(40.1 + away * pooled, steps).settled is settled


def test_more_readings_are_asked_for_than_were_taken_and_never_without_end():
    found = compare([99.9, 100.1], [100.0, 100.2], 0.006)
    assert (found.change, found.readings_needed > 2) == (ComparedChange.CANNOT_TELL, True)
    assert compare([99.7, 100.3] * 10, [99.9, 100.4] * 10, 0.0019).readings_needed > 20


def test_what_can_be_told_needs_no_more_readings():
    same, apart = (
        compare([100, 100.1, 99.9] * 3, [100, 100.1, 99.9] * 3, 0.01),
        compare([100, 100.1], [120, 120.1], 0.01),
    )
    assert (same.change, same.readings_needed) == (ComparedChange.UNCHANGED, 0)
    assert (apart.change, apart.readings_needed) == (ComparedChange.CHANGED, 0)


def test_a_pooled_drift_needs_one_degree_of_freedom():
    days = [date(2023 + i, 3, 6) for i in range(3)]
    one, three = [DatedDeviation(days[2], 0.01)], [DatedDeviation(d, 0.004 * i) for i, d in enumerate(days)]
    assert pooled_drift(one, [three]).other_tools == 1
    with pytest.raises(InputRefused, match="have enough results"):
        pooled_drift(one, [three[:2]])


def test_a_step_is_shown_with_at_most_six_decimals():
    assert [decimals_for(step) for step in (5, 0.25, 1e-6, 1e-7)] == [0, 2, 6, 6]
