"""By another way: Monte Carlo beside closed forms and `uncertainties`; ten thousand runs with a known truth."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from uncertainties import ufloat
from uncertainties.umath import cos

from reckoner.core.decision.conformity import judge
from reckoner.core.errors import InputRefused
from reckoner.core.reference.certificate import ReferenceAtPoint
from reckoner.core.reference.gauge import GaugeOnLever, KilogramBasis, force_shown
from reckoner.core.reference.trips import bracket, match, walk
from reckoner.core.reference.weights import HEAD_SHARE, Hanging, OwnWeight, Pin, WeightUncertainty, dead_weight
from reckoner.core.requirements.rules import Coverage, Decision, Rule
from reckoner.core.requirements.tooltypes import ToolKind, ToolType
from reckoner.core.uncertainty.budget import COMPONENT_NAMES, Effects, Observations, budget
from reckoner.core.uncertainty.simulation import BLOCK, simulate, simulate_budget, simulate_dead_weight

WRENCH = ToolKind(ToolType.SETTING, "A", 200, 40, 1)
EFFECTS = Effects.known(0.5, 0.4, 0.3, 0.6)
RUNS, DRAWN = 10_000, 200_000


def synthetic(deviation, *, seed, scatter=0.004, target=120.0):
    """Readings of RUNS runs of five on a tool of a known ``deviation``: every component drawn from its distribution."""
    rng = np.random.default_rng(seed)
    off = rng.normal(0, 0.003, RUNS)
    for width in (
        WRENCH.resolution,
        *EFFECTS.widths,
    ):
        off += rng.uniform(-0.5, 0.5, RUNS) * width / target
    truth = target / (1 + deviation)
    return truth * (1 + off[:, None] + rng.normal(0, scatter, (RUNS, 5)))


@pytest.mark.parametrize(("coverage", "scatter"), [(Coverage.K2, 0.004), (Coverage.STUDENT, 0.012)])
def test_the_stated_interval_covers_the_truth_of_ten_thousand_runs(coverage, scatter):
    covered = 0
    for readings in synthetic(0.012, seed=8, scatter=scatter).tolist():
        found = budget(Observations.of_readings(120, readings), WRENCH, ReferenceAtPoint(0.006), EFFECTS, coverage)
        covered += abs(found.deviation - 0.012) <= found.expanded_uncertainty
    assert 0.94 <= covered / RUNS <= 0.96


def test_the_guarded_rule_accepts_a_tool_on_its_limit_no_more_often_than_designed():
    accepted = {0.0: 0, 1.0: 0}
    for readings in synthetic(0.04, seed=9, scatter=0.002).tolist():
        found = budget(Observations.of_readings(120, readings), WRENCH, ReferenceAtPoint(0.006), EFFECTS)
        for guard in accepted:
            accepted[guard] += judge(found, 0.04, Decision(Rule.GUARDED, guard)).accepted is True
    assert accepted[1.0] / RUNS <= 0.025  # one-sided, with a guard band of 2 w
    assert 0.47 <= accepted[0.0] / RUNS <= 0.53


@given(st.lists(st.floats(110, 130), min_size=2, max_size=10), st.floats(0.001, 0.02), st.sampled_from(list(ToolType)))
def test_the_budget_is_the_one_that_uncertainties_builds(readings, w_ref, type_):
    kind = ToolKind(type_, "A", 200, 40, 1)
    found = budget(Observations.of_readings(120, readings), kind, ReferenceAtPoint(w_ref, resolution=0.1), EFFECTS)
    n, mean = len(readings), float(np.mean(readings))
    half = 1 / (2 * math.sqrt(3)) / mean
    parts = {
        "reference": w_ref / 2, "reference_resolution": 0.1 * half,
        "resolution": half * (1 if kind.is_setting else math.sqrt(2)),
        "repeatability": float(np.std(readings, ddof=1)) / math.sqrt(n) / mean,
        "reproducibility": 0.5 * half, "output_drive": 0.4 * half, "interface": 0.3 * half, "loading_point": 0.6 * half,
    }  # fmt: skip
    off = 1.0
    for name in COMPONENT_NAMES:
        off = off * ufloat(1, max(parts[name], 1e-12), name)
    assert found.standard_uncertainty == pytest.approx(off.std_dev, rel=1e-6)
    for component in found.components:
        assert component.value == pytest.approx(parts[component.name], rel=1e-9, abs=1e-12)
    assert math.hypot(*(c.value for c in found.components)) == pytest.approx(found.standard_uncertainty, rel=1e-12)


def test_what_scatters_is_drawn_where_it_scattered():
    """Against weights the tool's value scatters: relative to the torque that hangs, not to what the tool says of it."""
    rng = np.random.default_rng(4)
    reference = ReferenceAtPoint(1e-6)
    shown = 60 * (1 + 0.02 * rng.standard_normal(41))
    of_student = math.sqrt(40 / 38)
    kind = ToolKind(ToolType.INDICATING, "B", 200)
    weighed = budget(Observations.of_indications(shown, 50.0), kind, reference)
    drawn = simulate_budget(weighed, 200_000)
    assert weighed.deviation == pytest.approx(0.2, abs=0.01)
    assert drawn.standard_uncertainty == pytest.approx(weighed.standard_uncertainty * of_student, rel=0.01)
    paired = budget(Observations(tuple(shown), tuple(50 * (1 + 1e-9 * rng.standard_normal(41)))), kind, reference)
    assert simulate_budget(paired, 200_000).standard_uncertainty == pytest.approx(drawn.standard_uncertainty, rel=0.01)
    read = budget(Observations.of_readings(60, 50 * shown / 60), kind, reference)
    enlarged = read.standard_uncertainty * of_student * (1 + read.deviation)
    assert simulate_budget(read, 200_000).standard_uncertainty == pytest.approx(enlarged, rel=0.01)


def test_weights_agree_with_uncertainties_and_with_their_own_simulation():
    tilt, unsure = math.radians(4), WeightUncertainty(0.02, 0.0008, 1e-3, math.radians(0.3), 0.05)
    hanging = Hanging(12, 0.42, 0.5, tilt, 9.8019, OwnWeight(1.35, 0.19))
    m, x, g, a = ufloat(12, 0.02), ufloat(0.42, 0.0008), ufloat(9.8019, 1e-3), ufloat(tilt, math.radians(0.3))
    torque = ((m + 0.5) * x + 1.35 * 0.19) * g * cos(a) + ufloat(0, 0.05)
    found = dead_weight(hanging, unsure)
    assert (found.torque, found.standard_uncertainty) == pytest.approx((torque.n, torque.s), rel=1e-9)
    drawn = simulate_dead_weight(hanging, unsure, 200_000)
    assert (drawn.mean, drawn.standard_uncertainty) == pytest.approx((torque.n, torque.s), rel=0.01)


def test_bracket_walk_and_match_agree_with_their_simulations():
    at_50 = bracket(51.916, 48, 50, torque_uncertainty=0.1)
    rng = np.random.default_rng(2)
    drawn = rng.uniform(48, 50, DRAWN) / rng.normal(51.916, 0.1, DRAWN) - 1
    assert drawn.mean() == pytest.approx(at_50.deviation, abs=1e-4)
    by_parts = math.hypot(1 / math.sqrt(3) / 51.916, (1 + at_50.deviation) * 0.1 / 51.916)
    assert drawn.std() == pytest.approx(by_parts, rel=0.01)
    unsure = WeightUncertainty(0.01, 0.0005, 1e-4)
    walked = walk(48, 12, 0.436, 0.426, own=OwnWeight(1.35, 0.19), pin=Pin(0.03, 0.42), uncertainty=unsure)
    head = rng.uniform(-HEAD_SHARE * 1.35, HEAD_SHARE * 1.35, DRAWN)  # what of the tool does not swing
    hook = rng.uniform(0.426, 0.436, DRAWN) + rng.normal(0, 0.0005, DRAWN) - 0.03
    own = 1.35 * 0.19 - (1.35 - head) * 0.03
    drawn = (rng.normal(12, 0.01, DRAWN) * hook + own) * rng.normal(9.80665, 1e-4, DRAWN) * 0.42 / 0.39
    assert (drawn.mean(), drawn.std()) == pytest.approx((walked.at_grip, walked.standard_uncertainty), rel=0.01)
    hanging = Hanging(12, 0.42, own=OwnWeight(1.35, 0.19), pin=Pin(0.03, 0.45))
    matched = match(48, 12, 11.5, hanging, unsure)
    by_gap = 0.25 / math.sqrt(3) * 9.80665 * 0.42
    assert matched.standard_uncertainty > by_gap > 0
    mass = rng.uniform(11.5, 12, DRAWN) + rng.normal(0, 0.01, DRAWN)
    turning = mass * (rng.normal(0.42, 0.0005, DRAWN) - 0.03) + own
    drawn = turning * rng.normal(9.80665, 1e-4, DRAWN) * 0.45 / 0.42
    assert (drawn.mean(), drawn.std()) == pytest.approx((matched.at_grip, matched.standard_uncertainty), rel=0.01)
    with pytest.raises(InputRefused, match="silent with less weight"):
        match(48, 11, 12, Hanging(12, 0.42))


def test_a_gauge_is_a_reference_whose_lever_and_angle_count():
    gauge = GaugeOnLever(
        0.42,
        0.004,
        math.radians(80),
        OwnWeight(torque=2.5),
        lever_uncertainty=0.001,
        angle_uncertainty_rad=math.radians(1),
    )
    force, lever, angle = ufloat(320, 320 * 0.002), ufloat(0.42, 0.001), ufloat(math.radians(80), math.radians(1))
    from uncertainties.umath import sin

    torque = force * lever * sin(angle) + 2.5
    assert gauge.torques([320])[0] == pytest.approx(torque.n)
    assert gauge.as_reference(320).standard_uncertainty == pytest.approx(torque.s / torque.n, rel=1e-9)
    assert force_shown(10, KilogramBasis.MASS_HERE, 9.80) == pytest.approx(98.0)


@settings(max_examples=15)
@given(st.floats(-1e3, 1e3), st.floats(1e-3, 1e2), st.sampled_from([100, BLOCK, BLOCK + 1, 3 * BLOCK]))
def test_a_simulation_has_the_moments_and_quantiles_of_what_it_draws(mean, spread, trials):
    found = simulate(lambda rng, n: rng.normal(mean, spread, n), trials, seed=5)
    doubt = 6 * spread / math.sqrt(trials)
    assert found.mean == pytest.approx(mean, abs=doubt)
    assert found.standard_uncertainty == pytest.approx(spread, abs=doubt)
    assert found.high_95 - found.low_95 == pytest.approx(2 * 1.96 * spread, abs=6 * doubt)
    assert found == simulate(lambda rng, n: rng.normal(mean, spread, n), trials, seed=5)


def test_no_more_than_a_block_is_drawn_at_once_and_silly_counts_are_refused():
    asked = []
    simulate(lambda rng, n: asked.append(n) or rng.normal(0, 1, n), 10 * BLOCK + 7)
    assert max(asked) == BLOCK
    assert sum(asked) == 10 * BLOCK + 7
    for trials in (0, 99, 10**9):
        with pytest.raises(InputRefused, match="trials"):
            simulate(lambda rng, n: rng.normal(0, 1, n), trials)


def test_the_repeatability_is_drawn_from_student_whatever_the_coverage():
    """JCGM 101:2008, 6.4.9.2: t(97.5 %, 3) = 3.18; of two degrees and fewer there is no standard uncertainty."""
    wrench = replace(WRENCH, resolution=0.0)
    for coverage in Coverage:
        found = budget(
            Observations.of_readings(120, [117, 119, 120, 121]), wrench, ReferenceAtPoint(0.0), coverage=coverage
        )
        drawn = simulate_budget(found, 200_000)
        assert (drawn.high_95 - drawn.low_95) / 2 / found.standard_uncertainty == pytest.approx(3.18, rel=0.03)
    few = budget(Observations.of_readings(120, [117, 119, 120]), WRENCH, ReferenceAtPoint(0.0))
    assert simulate_budget(few, 20_000).standard_uncertainty is None


def test_the_simulation_is_of_the_ratio_and_not_of_its_linear_sum():
    """A reference that is only good to a tenth: the mean of 1/(1 + w·N) lies w² above 1, and the deviation with it."""
    found = budget(
        Observations.of_readings(100, [100.0, 100.0]), replace(WRENCH, resolution=0.0), ReferenceAtPoint(0.2)
    )
    assert simulate_budget(found, 400_000).mean == pytest.approx(0.01 + 3e-4, abs=1e-3)
    half_low = budget(
        Observations.of_readings(100, [50.0, 50.0]), replace(WRENCH, resolution=0.0), ReferenceAtPoint(0.02)
    )
    drawn = simulate_budget(half_low, 400_000)
    assert drawn.standard_uncertainty == pytest.approx(2 * half_low.standard_uncertainty, rel=0.01)
