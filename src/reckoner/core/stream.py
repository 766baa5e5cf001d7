"""The signal in a stream of torque while it arrives; for whole traces see ``trace``.

``FirstPeakWatch`` reports the signal as soon as the fall after it has shown to be a tool's and not a hand's; nothing waits
for the end of the pull. The trigger runs on the stream less a moving mean of ``SMOOTHING`` seconds; the value is followed to
the knee on the raw samples.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reckoner.core.arrays import Values
from reckoner.core.checks import positive
from reckoner.core.pullshape import DROP, FALL, FLOOR, THRESHOLD, Fall, knee, shape_of_fall

SMOOTHING = 0.004
"""Width of the moving mean, in s; its half-power corner is 0.443/width = 111 Hz."""


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
        self._smoothed: list[Values] = []
        self._searched_from = 0
        self._highest = 0.0
        self._signal: Signal | None = None
        self._let_go = False
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
            return stop
        below = np.flatnonzero(smooth[start:] < self.threshold / 2)
        stop = start + int(below[0]) if len(below) else len(block)
        if stop > start:
            self._pull.append(block[start:stop].copy())
            self._smoothed.append(smooth[start:stop])
            self._highest = max(self._highest, float(smooth[start:stop].max()))
            if self._signal is None and not self._let_go:
                self._signal = self._look_for_signal(self._seen + stop)
                if self._signal is not None:
                    found.append(self._signal)
        if len(below):
            found.append(PullEnded(max(self._highest, self._signal.first_peak if self._signal else 0.0), self._signal))
            self._begin()
        return stop

    def _look_for_signal(self, upto: int) -> Signal | None:
        """The signal, once a fall in the pull so far has shown what it is; ``upto`` samples have been seen in all."""
        smooth = np.concatenate(self._smoothed)
        self._smoothed = [smooth]
        left = self.noise / float(np.sqrt(self.width))
        while True:
            searched = smooth[self._searched_from :]
            if not len(searched):
                return None
            highest = np.maximum.accumulate(searched)
            fallen = np.flatnonzero(highest - searched > np.maximum(DROP * highest, 4 * left))
            if not len(fallen):
                return None
            peak = int(np.argmax(searched[: int(fallen[0]) + 1]))
            after = searched[peak:]
            top = float(after[0])
            shape = shape_of_fall(after, self.rate, max(DROP * top, 4 * left), left)
            if shape is Fall.OPEN:
                risen = np.flatnonzero(after > top)
                if not len(risen):
                    return None
                self._searched_from += peak + int(risen[0])  # a wiggle of the noise: the torque goes on rising
                continue
            if shape is Fall.LET_GO:
                self._let_go = True
                return None
            bottom = peak + int(np.argmin(after[: max(2, round(FALL * self.rate))]))
            if top >= FLOOR * self.threshold / THRESHOLD:
                return self._refine(smooth, self._searched_from + peak, self._searched_from + bottom, upto)
            self._searched_from += max(bottom, peak + 1)

    def _refine(self, smooth: Values, peak: int, bottom: int, upto: int) -> Signal:
        """The value at the knee of the raw samples; ``peak`` and ``bottom`` are those of the moving mean, which lags."""
        raw = np.concatenate(self._pull)
        lag = (self.width - 1) // 2
        centre = max(0, peak - lag)
        fall = smooth[peak : bottom + 1]
        mostly = int(np.argmax(fall <= 0.2 * float(fall[0]) + 0.8 * float(fall[-1])))
        begin = max(0, centre - round(0.3 * self.rate) - 1)
        end = min(len(raw), bottom + 2 * self.width)
        found = knee(raw[begin:end], centre - begin, centre + mostly - begin, max(2, self.width), self.rate)
        value, at = found[0], begin + found[1]
        late = np.flatnonzero(raw[: at + 1] < 0.8 * value)
        since = at - int(late[-1]) if len(late) else at
        return Signal(value, (upto - len(raw) + at) / self.rate, since / self.rate)
