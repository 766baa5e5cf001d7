"""The live trace of the meter on the bench, wherever a pull is waited for."""

from __future__ import annotations

import numpy as np

from reckoner.meters.pull import Pull
from reckoner.ui.bench.panel import Desk
from reckoner.ui.bench.taker import fault_words
from reckoner.ui.widgets.trace import EarlierPull, LiveTrace


def follow(trace: LiveTrace, desk: Desk) -> None:
    """Show in ``trace`` what the meter brings: samples, the signal while the hand pulls, and each pull once it is over."""
    meter = desk.meter
    meter.samples.connect(trace.take)
    meter.signalled.connect(lambda signal: trace.mark_signal(signal.torque, signal.ago))
    meter.pulled.connect(lambda pull: _over(trace, pull))


def _over(trace: LiveTrace, pull: Pull) -> None:
    event = pull.event
    if event is not None and len(pull.samples):
        signal = min(len(pull.samples) - 1, max(0, round(event.at * pull.rate)))
        trace.remember(EarlierPull(np.abs(pull.samples), pull.rate, signal), fault_words(pull.faults))
