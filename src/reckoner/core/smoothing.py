"""The zero-phase low-pass behind the analysis of traces, and the choice of its corner.

The filter is a second-order Butterworth run forwards and backwards: its squared magnitude 1/(1 + (f/f_c)⁴) is applied in
the frequency domain, which needs no start-up transients to be guessed and spares the slow import of SciPy's filters.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from reckoner.core.arrays import Values
from reckoner.core.checks import positive

CORNERS = (100.0, 60.0, 35.0, 20.0, 12.0)
"""Corners to choose from, in Hz; the highest that leaves little enough noise."""

OF_RATE = 0.2
"""No corner above this fraction of the sampling rate."""

MAINS = (50.0, 60.0)
"""Frequencies in Hz of the mains."""

MAINS_WITHIN = 0.4
"""How far in Hz the mains may be from its nominal frequency."""

_WINDOW = 0.2
"""Length in s of the stretches from which the noise is taken."""

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


@dataclass(frozen=True)
class Ripple:
    """The mains in a trace: ``amplitude`` in N·m at ``frequency`` in Hz, ``phase_rad`` at the trace's first sample."""

    amplitude: float
    frequency: float
    phase_rad: float

    def at(self, seconds: Values) -> Values:
        """Its torque in N·m, ``seconds`` after the first sample."""
        value: Values = self.amplitude * np.cos(2 * np.pi * self.frequency * seconds + self.phase_rad)
        return value


def find_ripple(values: Values, rate: float, first_at: float = 0.0) -> Ripple | None:
    """The 50 or 60 Hz ripple that runs through the whole of ``values``, or None where neither stands out.

    ``first_at`` is the time of the first of ``values`` in s. Each tenth of a second (a whole number of periods of both) is
    projected on the frequency; the true frequency, within ``MAINS_WITHIN`` of the nominal one, is where the projections
    line up best, and their median counts, so a click does not. Source: synchronous demodulation; median of phasors.
    """
    best: Ripple | None = None
    length = round(0.1 * rate)
    count = len(values) // length
    if rate <= 2.2 * max(MAINS) or count < 5:
        return None
    at = first_at + np.arange(length) / rate
    starts = np.arange(count) * (length / rate)
    stretches = values[: count * length].reshape(count, length)
    x = np.linspace(-1, 1, length)
    slow, _ = np.linalg.qr(np.stack([np.ones(length), x, x**2], axis=1))
    waves = np.stack([wave(2 * np.pi * nominal * at) for nominal in MAINS for wave in (np.cos, np.sin)], axis=1)
    waves -= slow @ (slow.T @ waves)
    projected = stretches @ waves * (2 / length)
    for i, nominal in enumerate(MAINS):
        turn = np.exp(-2j * np.pi * nominal * starts)
        phasors = (projected[:, 2 * i] - 1j * projected[:, 2 * i + 1]) * turn
        sizes = np.abs(phasors)
        directions = phasors / np.maximum(sizes, 1e-300)
        offset = _offset(directions, length / rate)
        aligned = phasors * np.exp(-2j * np.pi * offset * starts)
        phasor = complex(np.median(aligned.real), np.median(aligned.imag))
        doubt = float(np.median(np.abs(aligned - phasor)))
        if abs(phasor) > 3 * doubt and (best is None or abs(phasor) > best.amplitude):
            best = Ripple(abs(phasor), nominal + offset, float(np.angle(phasor)))
    return best


def _offset(directions: npt.NDArray[np.complex128], every: float) -> float:
    """How far from the nominal frequency, in Hz, unit phasors taken ``every`` s line up best."""
    size = 1 << max(8, (4 * len(directions)).bit_length())
    lined_up = np.abs(np.fft.fft(directions, size))
    frequency = np.fft.fftfreq(size, every)
    best = int(np.argmax(np.where(np.abs(frequency) > MAINS_WITHIN, 0.0, lined_up)))
    before, there, after = (float(lined_up[(best + i) % size]) for i in (-1, 0, 1))
    bend = before - 2 * there + after  # the top of the parabola through the three stands between the bins
    beyond = 0.5 * (before - after) / bend if bend < 0 else 0.0
    return float(frequency[best]) + beyond / (size * every)


def choose_corner(values: Values, rate: float, allowed: float) -> tuple[float, float]:
    """The highest of ``CORNERS`` after which four times the noise is at most ``allowed`` (N·m), and that noise (N·m).

    The noise is a median periodogram over short stretches of the upper part of the trace, so that a ripple of the mains
    counts and a click, which only a few stretches hold, does not. The lowest corner when none is quiet enough.
    """
    power, step = _noise_power(values, rate)
    corners = [c for c in CORNERS if c <= OF_RATE * rate] or [OF_RATE * rate]
    frequency = np.arange(len(power)) * step
    noise = 0.0
    for corner in corners:
        left = power / (1 + (frequency / corner) ** 4) ** 2
        noise = float(np.sqrt(left.sum()))
        if 4 * noise <= allowed:
            return corner, noise
    return corners[-1], noise


def _noise_power(values: Values, rate: float) -> tuple[Values, float]:
    """Variance in each frequency bin (N·m²) of the trace less its slow course, and the bins' width in Hz."""
    length = max(8, int(_WINDOW * rate))
    if len(values) < length:
        return np.zeros(1), 1.0
    starts = np.arange(0, len(values) - length + 1, max(1, length // 2))
    starts = starts[values[starts + length // 2] >= 0.3 * max(float(values.max()), -float(values.min()))]
    if not len(starts):
        return np.zeros(1), 1.0
    starts = starts[:: max(1, len(starts) // 48)]
    stretches = np.stack([values[s : s + length] for s in starts])
    x = np.linspace(-1, 1, length)
    slow, _ = np.linalg.qr(np.stack([np.ones(length), x, x**2], axis=1))
    stretches = stretches - (stretches @ slow) @ slow.T
    taper = np.hanning(length)
    spectrum = np.abs(np.fft.rfft(stretches * taper, axis=1)) ** 2
    power = 2 * spectrum / (length * float((taper**2).sum()))
    power[:, :2] = 0.0
    typical: Values = np.median(power, axis=0) / (_MEDIAN_OF_CHI2 if len(starts) > 2 else 1.0)
    return typical, rate / length
