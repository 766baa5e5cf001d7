"""What a meter makes of the torque at its drive: filter, zero, drift, mains, noise, resolution, clipping, knocks on the
bench.

It works on blocks as they come and keeps its state between them; how a stream is cut changes nothing but the noise drawn.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field

import numpy as np

from reckoner.core.quantities.arrays import Values


@dataclass(frozen=True)
class MeterFaults:
    """Torques in N·m. ``noise`` is a standard deviation, ``filter_hz`` the corner of a first-order low-pass (0: none),
    ``ripple`` the amplitude of the mains at ``mains`` Hz, ``drift`` of the zero in N·m a second, ``resolution`` the step to
    which values are rounded, ``clips_at`` the largest magnitude that it can show (0: none)."""

    noise: float = 0.0
    filter_hz: float = 0.0
    ripple: float = 0.0
    mains: float = 50.0
    zero: float = 0.0
    drift: float = 0.0
    resolution: float = 0.0
    clips_at: float = 0.0


@dataclass
class Indicator:
    """A meter with its faults, at ``rate`` samples a second."""

    rng: np.random.Generator
    rate: float
    faults: MeterFaults = field(default_factory=MeterFaults)
    zero: float = 0.0
    _seen: int = 0
    _filtered: float = 0.0

    def __post_init__(self) -> None:
        self.zero = self.faults.zero
        self._phase = float(self.rng.uniform(0, 2 * math.pi))

    def take_zero(self) -> None:
        """What it shows with nothing on it becomes zero."""
        self.zero = -self.faults.drift * self._seen / self.rate

    def shows(self, torque: Values) -> Values:
        """What it shows of the next samples of ``torque`` (N·m)."""
        faults = self.faults
        seconds = (self._seen + np.arange(len(torque))) / self.rate
        self._seen += len(torque)
        shown = self._smoothed(torque) if faults.filter_hz else torque
        if faults.drift:
            shown = shown + faults.drift * seconds
        shown = shown + self.zero
        if faults.ripple:
            shown = shown + faults.ripple * np.sin(2 * math.pi * faults.mains * seconds + self._phase)
        if faults.noise:
            shown = shown + faults.noise * self.rng.standard_normal(len(torque))
        if faults.clips_at:
            shown = np.clip(shown, -faults.clips_at, faults.clips_at)
        if faults.resolution:
            shown = np.round(shown / faults.resolution) * faults.resolution
        return shown

    def _smoothed(self, torque: Values) -> Values:
        keep = math.exp(-2 * math.pi * self.faults.filter_hz / self.rate)
        found = np.empty(len(torque))
        level = self._filtered
        for i, value in enumerate(torque.tolist()):
            level = value + keep * (level - value)
            found[i] = level
        self._filtered = level
        return found
