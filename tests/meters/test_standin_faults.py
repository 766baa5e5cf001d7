"""The stand-in's hand and meter do wrong what they are told to, and the detector says so."""

import numpy as np
import pytest
from click.testing import CliRunner

from reckoner.core.requirements.tooltypes import Mechanism, MeterMode
from reckoner.core.trace.event import Fault
from reckoner.meters.indicator import Indicator, MeterFaults
from reckoner.meters.pull import Pull, PullAim, Watch
from reckoner.meters.wrench import Hand, SimulatedBench, Truth

TRUTH = Truth(scatter=0, first_high=0, pivot=0)


def pulled(hand=None, faults=None, truth=TRUTH, aim=None, seconds=3.0, rest=1.0):
    """What one pull of a bench with its faults gives."""
    wrong = faults or MeterFaults(noise=0.02)
    bench = SimulatedBench(np.random.default_rng(3), truth=truth, hand=hand or Hand(), faults=wrong)
    watch = Watch(aim or PullAim(100.0), 1000.0, signed=True)
    found = list(watch.feed(bench.advance(round(1000 * rest))))
    bench.pull()
    found += watch.feed(bench.advance(round(1000 * seconds)))
    bench.release()
    found += watch.feed(bench.advance(1500))
    return [news for news in found if isinstance(news, Pull)]


@pytest.mark.parametrize(
    ("hand", "faults", "fault"),
    [
        (Hand(careful=2.5), MeterFaults(noise=0.02), None),
        (Hand(careful=2.5, tremor=0.006), MeterFaults(noise=0.02), None),
        (Hand(careful=2.5, easing=1.0), MeterFaults(noise=0.02), Fault.JERK),
        (Hand(snatching=1.0), MeterFaults(noise=0.02), Fault.TOO_FAST),
        (Hand(careful=2.5, knocking=1.0), MeterFaults(noise=0.02), Fault.KNOCK),
        (Hand(careful=2.5), MeterFaults(noise=0.02, ripple=1.5, mains=60.0), None),
        (Hand(careful=2.5), MeterFaults(noise=0.02, filter_hz=60.0), None),
        (Hand(careful=2.5), MeterFaults(noise=0.02, zero=-1.8), Fault.OFF_ZERO_BEFORE),
        (Hand(careful=2.5), MeterFaults(noise=0.02, drift=0.4), Fault.OFF_ZERO_AFTER),
    ],
)
def test_each_fault_is_said_and_the_reading_stays_right(hand, faults, fault):
    (pull,) = pulled(hand, faults, seconds=4.0)
    (reading,) = pull.readings
    assert reading == pytest.approx(100.0, rel=0.003)
    assert (fault in pull.faults) if fault else not pull.faults


def test_a_hand_that_lets_go_and_a_meter_that_clips_give_no_reading():
    (gone,) = pulled(Hand(letting_go=1.0))
    assert (gone.readings, Fault.NO_SIGNAL in gone.faults) == ((), True)
    (clipped,) = pulled(Hand(careful=2.5), MeterFaults(noise=0.02, clips_at=95.0), seconds=4.0)
    assert (clipped.readings, Fault.CLIPPED in clipped.faults) == ((), True)


def test_a_slip_tool_slips_while_it_is_turned_on():
    aim = PullAim(100.0, MeterMode.FIRST_PEAK, Mechanism.SLIP)
    (pull,) = pulled(truth=Truth(scatter=0, first_high=0, pivot=0, slips=True), aim=aim, seconds=2.9)
    assert len(pull.readings) >= 3
    assert pull.readings == pytest.approx([100.0] * len(pull.readings), rel=0.004)
    assert len(pull.announced) == len(pull.readings)


def test_a_meter_is_the_same_however_its_samples_are_asked_for_and_zeroes():
    faults = MeterFaults(filter_hz=40.0, ripple=0.5, zero=2.0, drift=0.1, resolution=0.05, clips_at=90.0)
    torque = np.linspace(0, 100, 900)
    whole = Indicator(np.random.default_rng(1), 1000.0, faults).shows(torque)
    pieces = Indicator(np.random.default_rng(1), 1000.0, faults)
    assert np.allclose(np.concatenate([pieces.shows(part) for part in np.split(torque, 9)]), whole)
    assert whole.max() == 90.0
    rested = Indicator(np.random.default_rng(1), 1000.0, MeterFaults(zero=2.0, drift=0.1))
    rested.shows(np.zeros(1000))
    rested.take_zero()
    assert rested.shows(np.zeros(10)) == pytest.approx([0.0] * 10, abs=0.002)


def test_the_command_refuses_a_fault_that_is_none():
    from reckoner.cli.meter import meter

    for given in ("tremors=0.1", "tremor=much", "tremor"):
        found = CliRunner().invoke(meter, ["--fault", given])
        assert found.exit_code == 2
        assert f'"{given}" is none' in found.output
