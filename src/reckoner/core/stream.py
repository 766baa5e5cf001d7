"""Traces: torque against time from a meter, and the signal found in them.

A pull is watched as it arrives by ``FirstPeakWatch``, which reports the signal as soon as the torque has fallen
far enough from it; nothing waits for the end of the pull. The trigger runs on the raw stream less a moving mean of
``SMOOTHING`` seconds; the value is refined on the raw samples next to it.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reckoner.core.checks import Values, positive

SMOOTHING = 0.004
"""Width of the moving mean, in s; its half-power corner is 0.443/width = 111 Hz."""

DROP = 0.01
"""The fall, as a fraction of the peak, that makes it a signal; four times the noise where that is more."""

THRESHOLD = 0.10
"""The fraction of the target above which a pull has begun."""


@dataclass(frozen=True)
class Signal:
    """The tool's signal: first peak in N·m at ``at`` seconds, and the seconds from 80 % to it."""

    first_peak: float
    at: float
    time_80_to_100: float


@dataclass(frozen=True)
class PullEnded:
    """A pull that fell back below the threshold: its highest torque (N·m) and its signal, if it had one."""

    highest: float
    signal: Signal | None

    @property
    def over_travel(self) -> float:
        """Highest over first peak, less one, as a fraction; 0 without a signal."""
        return self.highest / self.signal.first_peak - 1 if self.signal else 0.0


class FirstPeakWatch:
    """Finds the first peak in a stream of samples.

    Feed blocks in order; each call returns the signals and pull ends found in it. ``target`` in N·m, ``rate`` in
    samples a second. Torque that falls back under half the threshold ends the pull. Source: the first-peak mode of
    ISO 6789-1:2017, 6.2.2; see docs/calculations.md for what the smoothing costs.
    """

    def __init__(self, target: float, rate: float) -> None:
        self.threshold = THRESHOLD * positive("target", target)
        self.rate = positive("rate", rate)
        self.width = max(1, round(SMOOTHING * rate))
        self._begin()
        self._quiet: list[float] = []
        self._tail = np.empty(0)
        self._seen = 0

    def _begin(self) -> None:
        self._pull: list[Values] = []
        self._pull_from = 0
        self._smooth_peak = 0.0
        self._smooth_peak_at = 0
        self._highest = 0.0
        self._signal: Signal | None = None
        self._in_pull = False

    @property
    def in_pull(self) -> bool:
        return self._in_pull

    @property
    def now(self) -> float:
        """Seconds of samples seen, on the clock of ``Signal.at``."""
        return self._seen / self.rate

    @property
    def noise(self) -> float:
        """Standard deviation, in N·m, of what was seen between pulls, from successive differences (a ramp's foot or
        a drifting zero does not count)."""
        if len(self._quiet) < 20:
            return 0.0
        return float(1.4826 * np.median(np.abs(np.diff(self._quiet))) / np.sqrt(2.0))

    def feed(self, samples: Values) -> list[Signal | PullEnded]:
        """Take the next samples (N·m, signed torque counts by magnitude) and return what they brought."""
        block = np.abs(np.asarray(samples, dtype=np.float64))
        if not len(block):
            return []
        joined = np.concatenate([self._tail, block])
        kernel = np.ones(self.width) / self.width
        smooth = np.convolve(joined, kernel, mode="valid")
        smooth = (
            smooth[-len(block) :]
            if len(smooth) >= len(block)
            else np.concatenate([np.full(len(block) - len(smooth), joined[0]), smooth])
        )
        self._tail = joined[-(self.width - 1) :] if self.width > 1 else np.empty(0)
        found: list[Signal | PullEnded] = []
        start = 0
        while start < len(block):
            start = self._advance(block, smooth, start, found)
        self._seen += len(block)
        return found

    def _advance(self, block: Values, smooth: Values, start: int, found: list[Signal | PullEnded]) -> int:
        """Work from ``start`` to the next change of state or the block's end; returns where it got to."""
        if not self._in_pull:
            above = np.flatnonzero(smooth[start:] > self.threshold)
            stop = start + int(above[0]) if len(above) else len(block)
            self._quiet = [*self._quiet, *block[start:stop].tolist()][-500:]
            if len(above):
                self._begin()
                self._in_pull = True
                self._pull_from = self._seen + stop
            return stop
        below = np.flatnonzero(smooth[start:] < self.threshold / 2)
        stop = start + int(below[0]) if len(below) else len(block)
        self._pull.append(block[start:stop].copy())
        if stop > start:
            self._highest = max(self._highest, float(smooth[start:stop].max()))
            if self._signal is None:
                self._look_for_signal(smooth[start:stop], start)
                if self._signal is not None:
                    found.append(self._signal)
        if len(below):
            found.append(PullEnded(max(self._highest, self._signal.first_peak if self._signal else 0.0), self._signal))
            self._begin()
        return stop

    def _look_for_signal(self, smooth: Values, start: int) -> None:
        peaks = np.maximum.accumulate(np.concatenate([[self._smooth_peak], smooth]))[1:]
        fallen = np.flatnonzero(peaks - smooth > np.maximum(DROP * peaks, 4 * self.noise))
        upto = int(fallen[0]) + 1 if len(fallen) else len(smooth)
        best = int(np.argmax(smooth[:upto]))
        if smooth[best] > self._smooth_peak:
            self._smooth_peak = float(smooth[best])
            self._smooth_peak_at = self._seen + start + best
        if len(fallen) and self._smooth_peak > 2 * self.threshold:
            self._signal = self._refine()

    def _refine(self) -> Signal:
        """The value on the raw samples under the moving mean's peak: its highest mean of a half-width."""
        raw = np.concatenate(self._pull)
        centre = self._smooth_peak_at - self._pull_from
        around = raw[max(0, centre - 2 * self.width) : centre + self.width]
        half = max(1, self.width // 2)
        means = np.convolve(around, np.ones(half) / half, mode="valid")
        peak = float(means.max()) if len(means) else self._smooth_peak
        late = np.flatnonzero(raw[: centre + 1] < 0.8 * peak)
        since = centre - int(late[-1]) if len(late) else centre
        return Signal(peak, self._smooth_peak_at / self.rate, since / self.rate)
