"""The zero-phase low-pass behind the analysis of traces, and the choice of its corner.

The filter is a second-order Butterworth run forwards and backwards: its squared magnitude 1/(1 + (f/f_c)⁴) is applied in
the frequency domain, which needs no start-up transients to be guessed and spares the slow import of SciPy's filters.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np
import numpy.typing as npt

from reckoner.core.arrays import Values
from reckoner.core.checks import positive

CORNERS = (100.0, 60.0, 35.0, 20.0, 12.0)
"""Corners to choose from, in Hz; the highest that leaves little enough noise."""

OF_RATE = 0.2
"""No corner above this fraction of the sampling rate."""

HAND = 25.0
"""Hz up to which a hand may tremble: what is slower than this is not noise."""

_WINDOW = 0.2
"""Length in s of the stretches from which the noise is taken."""

_WINDOWS = 12
_MEDIAN_OF_CHI2 = 0.6931471805599453
"""Median over mean of a periodogram's values (exponential distribution)."""


def low_pass(values: Values, rate: float, corner: float) -> Values:
    """``values`` at ``rate`` samples a second, smoothed at ``corner`` Hz without shifting them in time.

    The ends are continued by point reflection. Raises InputRefused for a rate or corner not above zero.
    Source: Oppenheim & Schafer, forward-backward filtering.
    """
    from scipy.fft import irfft, next_fast_len, rfft  # loads in a tenth of a second; only traces need it

    positive("rate", rate)
    pad = min(len(values) - 1, int(1.5 * rate / positive("corner", corner)))
    if pad < 1:
        return values.copy()
    before = 2 * values[0] - values[pad:0:-1]
    after = 2 * values[-1] - values[-2 : -pad - 2 : -1]
    whole = np.concatenate([before, values, after])
    size = next_fast_len(len(whole), real=True)
    ramp = np.linspace(whole[-1], whole[0], size - len(whole) + 2)[1:-1]
    spectrum = rfft(np.concatenate([whole, ramp]))
    frequency = np.arange(len(spectrum)) * (rate / size / corner)
    frequency *= frequency
    frequency *= frequency
    frequency += 1
    spectrum /= frequency
    smooth: Values = irfft(spectrum, size)[pad : pad + len(values)]
    return smooth


def choose_corner(values: Values, rate: float, allowed: float) -> tuple[float, float]:
    """The highest of ``CORNERS`` after which four times the noise is at most ``allowed`` (N·m), and that noise (N·m).

    The noise is a median periodogram over short stretches of the upper part of the trace, so that a click, which only a few
    stretches hold, does not count; nor does a hand's tremor, which is slower than ``HAND``. The lowest corner when
    none is quiet enough.
    """
    power, step = _noise_power(values, rate)
    corners, gains = _corners(len(power), step, rate)
    noises = np.sqrt(gains @ power).tolist()
    quiet = (pair for pair in zip(corners, noises, strict=True) if 4 * pair[1] <= allowed)
    return next(quiet, (corners[-1], noises[-1]))


@lru_cache(16)
def _corners(bins: int, step: float, rate: float) -> tuple[tuple[float, ...], npt.NDArray[np.float64]]:
    """The corners for a rate, and the part of the noise in each bin of ``step`` Hz that each leaves."""
    corners = tuple(c for c in CORNERS if c <= OF_RATE * rate) or (OF_RATE * rate,)
    frequency = np.arange(bins) * step
    return corners, np.stack([1 / (1 + (frequency / corner) ** 4) ** 2 for corner in corners])


def _noise_power(values: Values, rate: float) -> tuple[Values, float]:
    """Variance in each frequency bin (N·m²) of the trace less its slow course, and the bins' width in Hz."""
    length = max(8, int(_WINDOW * rate))
    if len(values) < length:
        return np.zeros(1), 1.0
    starts = np.arange(0, len(values) - length + 1, max(1, length // 2))
    starts = starts[values[starts + length // 2] >= 0.3 * max(float(values.max()), -float(values.min()))]
    if not len(starts):
        return np.zeros(1), 1.0
    starts = starts[:: max(1, len(starts) // _WINDOWS)]
    slow, taper = _window_of(length)
    stretches = values[starts[:, None] + np.arange(length)]
    stretches = stretches - (stretches @ slow) @ slow.T
    spectrum = np.abs(np.fft.rfft(stretches * taper, axis=1)) ** 2
    spectrum.sort(axis=0)
    middle = (spectrum[len(spectrum) // 2] + spectrum[(len(spectrum) - 1) // 2]) / 2
    scale = 2 / (length * float(taper @ taper)) / (_MEDIAN_OF_CHI2 if len(starts) > 2 else 1.0)
    typical: Values = scale * middle
    hand = int(HAND * length / rate) + 1  # a hand that trembles is no noise: below, the noise is what it is just above
    above = typical[hand : 3 * hand]
    typical[:hand] = float(np.median(above)) if len(above) else 0.0
    return typical, rate / length


@lru_cache(16)
def _window_of(length: int) -> tuple[Values, Values]:
    """The slow courses that are taken out of a stretch, and its taper."""
    x = np.linspace(-1, 1, length)
    slow, _ = np.linalg.qr(np.stack([np.ones(length), x, x**2], axis=1))
    return slow, np.hanning(length)
