"""The ripple of the mains in a trace: 50 or 60 Hz and the first harmonic, found and taken out."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from reckoner.core.arrays import Values

MAINS = (50.0, 60.0)
"""Frequencies in Hz of the mains."""

MAINS_WITHIN = 0.4
"""How far in Hz the mains may be from its nominal frequency."""

_STRETCH = 0.1
"""Seconds that are projected at once: a whole number of periods of both."""

_STRETCHES = 5
_LINED_UP = 0.5


@dataclass(frozen=True)
class Wave:
    """A wave of ``amplitude`` in N·m at ``frequency`` in Hz, ``phase_rad`` at the first sample."""

    amplitude: float
    frequency: float
    phase_rad: float

    def at(self, seconds: Values) -> Values:
        """Its torque in N·m, ``seconds`` after the first sample."""
        value: Values = self.amplitude * np.cos(2 * np.pi * self.frequency * seconds + self.phase_rad)
        return value


Phasors = npt.NDArray[np.complex128]

Ripple = tuple[Wave, ...]
"""What the mains put into a trace: nothing, a wave, or a wave and its first harmonic."""


def ripple_at(ripple: Ripple, seconds: Values) -> Values:
    """The torque of ``ripple`` in N·m, ``seconds`` after the first sample."""
    total: Values = sum((wave.at(seconds) for wave in ripple), np.zeros(len(seconds)))
    return total


def find_ripple(values: Values, rate: float, first_at: float = 0.0) -> Ripple:
    """The ripple of the mains that runs through ``values`` (N·m) at ``rate`` samples a second; empty where none stands out.

    ``first_at`` is the time of the first of ``values`` in s. Each tenth of a second is projected on the frequency and its
    first harmonic; the true frequency, within ``MAINS_WITHIN`` of the nominal one, is where the projections line up best,
    and their median counts, so a click does not. Source: synchronous demodulation; median of phasors.
    """
    length = round(_STRETCH * rate)
    count = len(values) // length
    nominal = [hertz for mains in MAINS for hertz in (mains, 2 * mains) if rate > 2.2 * hertz]
    if not nominal or count < _STRETCHES:
        return ()
    starts: Values = np.arange(count, dtype=np.float64) * (length / rate)
    waves = _waves(length, rate, first_at, tuple(nominal))
    projected: npt.NDArray[np.float64] = np.matmul(values[: count * length].reshape(count, length), waves)
    turns = np.exp(-2j * np.pi * np.outer(starts, nominal))
    phasors = (projected[:, 0::2] - 1j * projected[:, 1::2]) * turns
    offsets, lined_up = _offsets(phasors / np.maximum(np.abs(phasors), 1e-300), length / rate)
    found = {}
    for i, hertz in enumerate(nominal):
        if lined_up[i] >= _LINED_UP:
            wave = _in_line(phasors[:, i], hertz, float(offsets[i]), starts)
            if wave is not None:
                found[hertz] = wave
    best = max(found.values(), key=lambda wave: wave.amplitude, default=None)
    if best is None:
        return ()
    mains = next(m for m in MAINS if min(abs(best.frequency - m), abs(best.frequency - 2 * m)) <= 2 * MAINS_WITHIN)
    return tuple(found[hertz] for hertz in (mains, 2 * mains) if hertz in found)


@lru_cache(16)
def _waves(length: int, rate: float, first_at: float, nominal: tuple[float, ...]) -> Values:
    """What projects a stretch on the cosine and the sine of each frequency, apart from its slow course."""
    at = first_at + np.arange(length) / rate
    x = np.linspace(-1, 1, length)
    slow, _ = np.linalg.qr(np.stack([np.ones(length), x, x**2], axis=1))
    waves = np.stack([wave(2 * np.pi * hertz * at) for hertz in nominal for wave in (np.cos, np.sin)], axis=1)
    projecting: Values = (waves - slow @ (slow.T @ waves)) * (2 / length)
    return projecting


def _in_line(phasors: Phasors, hertz: float, offset: float, starts: Values) -> Wave | None:
    """The wave ``offset`` Hz from ``hertz`` in whose direction the phasors lie; None where they lie anyhow."""
    aligned = phasors * np.exp(-2j * np.pi * offset * starts)
    phasor = complex(np.median(aligned.real), np.median(aligned.imag))
    doubt = float(np.median(np.abs(aligned - phasor)))
    return Wave(abs(phasor), hertz + offset, float(np.angle(phasor))) if abs(phasor) > 3 * doubt else None


def _offsets(directions: Phasors, every: float) -> tuple[Values, Values]:
    """How far from its nominal frequency, in Hz, each column of unit phasors taken ``every`` s lines up best, and how well:
    1 is perfectly."""
    size = 1 << max(7, (4 * len(directions)).bit_length())
    lined_up = np.abs(np.fft.fft(directions, size, axis=0))
    most = int(MAINS_WITHIN * size * every) + 1
    near = np.concatenate([np.arange(most), np.arange(-most, 0)])
    best = near[np.argmax(lined_up[near], axis=0)]
    columns = np.arange(directions.shape[1])
    before, there, after = (lined_up[(best + i) % size, columns] for i in (-1, 0, 1))
    bend = before - 2 * there + after  # the top of the parabola through the three stands between the bins
    beyond = np.where(bend < 0, 0.5 * (before - after) / np.minimum(bend, -1e-300), 0.0)
    return (best + beyond) / (size * every), there / len(directions)
