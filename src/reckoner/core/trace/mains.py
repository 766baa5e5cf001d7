"""The ripple of the mains in a trace: its frequency, 45 to 65 Hz, and its first harmonic, found and taken out."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from reckoner.core.quantities.arrays import Values

MAINS = (45.0, 65.0)
"""Frequencies in Hz between which the mains are looked for; what a generator gives is not what the grid gives."""

_STRETCH = 0.1
"""Seconds that are projected at once."""

_STRETCHES = 5
_APART = 5.0
"""Hz from one frequency that is projected on to the next: half of what stretches of that length can tell apart."""

_CENTRES = tuple(np.arange(MAINS[0] + _APART / 2, MAINS[1], _APART).tolist())
_HARMONICS = tuple(np.arange(2 * MAINS[0] + _APART / 2, 2 * MAINS[1], _APART).tolist())
_ALIASED = 2.2
"""Samples a period without which a frequency cannot be told from another."""

_CHANCE, _AT_MOST = 8.7, 0.95
"""How well n phasors line up by chance: √(8.7/n) once in some hundred traces, over all the frequencies that are tried."""


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
    """The torque of ``ripple`` in N·m, ``seconds`` after the first sample. Refuses nothing. Source: the detector,
    docs/calculations.md, Traces."""
    total: Values = sum((wave.at(seconds) for wave in ripple), np.zeros(len(seconds)))
    return total


def find_ripple(values: Values, rate: float, first_at: float = 0.0) -> Ripple:
    """The ripple of the mains that runs through ``values`` (N·m) at ``rate`` samples a second; empty where none stands out.
    Refuses nothing.

    ``first_at`` is the time of the first of ``values`` in s. Each tenth of a second is projected on frequencies
    ``_APART`` Hz from one another. The true one is where the projections on the nearest line up best; then they are made
    on it and on its first harmonic, and their median counts, so a click does not. Source: synchronous demodulation; median
    of phasors.
    """
    length = round(_STRETCH * rate)
    count = len(values) // length
    if count < _STRETCHES or rate <= _ALIASED * MAINS[0]:
        return ()
    stretches = values[: count * length].reshape(count, length)
    middles: Values = first_at + (np.arange(count, dtype=np.float64) + 0.5) * (length / rate) - 0.5 / rate
    mains = _frequency(stretches, rate, middles)
    if mains is None:
        return ()
    hertz = tuple(h for h in (mains, 2 * mains) if rate > _ALIASED * h)
    phasors = _phasors(stretches, _waves_of(length, rate, hertz), hertz, middles)
    found = (_in_line(phasors[:, i], h) for i, h in enumerate(hertz))
    return tuple(wave for wave in found if wave is not None)


def _frequency(stretches: Values, rate: float, middles: Values) -> float | None:
    """The frequency of the mains in Hz, from itself or else from its harmonic; None where none stands out."""
    every = float(middles[1] - middles[0])
    enough = min(_AT_MOST, math.sqrt(_CHANCE / len(stretches)))
    centres = tuple(c for c in (*_CENTRES, *_HARMONICS) if rate > _ALIASED * (c + _APART / 2))
    if not centres:
        return None
    phasors = _phasors(stretches, _waves(stretches.shape[1], rate, centres), centres, middles)
    sizes = np.abs(phasors)
    offsets, lined_up = _offsets(phasors / np.maximum(sizes, 1e-300), every)
    usual = np.where(lined_up >= enough, np.sort(sizes, axis=0)[len(sizes) // 2], 0.0)
    for harmonic, columns in enumerate((slice(len(_CENTRES)), slice(len(_CENTRES), None)), start=1):
        seen = usual[columns]
        if len(seen) and seen.max() > 0:
            largest = int(np.argmax(seen)) + (columns.start or 0)
            mains = float(centres[largest] + offsets[largest]) / harmonic
            if MAINS[0] <= mains <= MAINS[1]:
                return mains
    return None


@lru_cache(16)
def _waves(length: int, rate: float, hertz: tuple[float, ...]) -> Values:
    return _waves_of(length, rate, hertz)


def _waves_of(length: int, rate: float, hertz: tuple[float, ...]) -> Values:
    """What projects a stretch on the cosine and the sine of each frequency about its middle, apart from its slow course."""
    x, slow = _slow(length)
    at = x * ((length - 1) / 2 / rate)
    waves = np.stack([wave(2 * np.pi * h * at) for h in hertz for wave in (np.cos, np.sin)], axis=1)
    waves -= slow @ (slow.T @ waves)
    projecting: Values = waves / (waves * waves).sum(axis=0)
    return projecting


@lru_cache(16)
def _slow(length: int) -> tuple[Values, Values]:
    x = np.linspace(-1, 1, length)
    return x, np.linalg.qr(np.stack([np.ones(length), x, x**2], axis=1))[0]


def _phasors(stretches: Values, waves: Values, hertz: tuple[float, ...], middles: Values) -> Phasors:
    """Amplitude and phase (at time 0) of each frequency in each stretch; a phasor turns with what the true frequency is
    off."""
    projected: npt.NDArray[np.float64] = np.matmul(stretches, waves)
    turned: Phasors = (projected[:, 0::2] - 1j * projected[:, 1::2]) * np.exp(-2j * np.pi * np.outer(middles, hertz))
    return turned


def _in_line(phasors: Phasors, hertz: float) -> Wave | None:
    """The wave of ``hertz`` in whose direction the phasors lie; None where they lie anyhow."""
    phasor = _middle(phasors)
    doubt = float(np.sort(np.abs(phasors - phasor))[len(phasors) // 2])
    return Wave(abs(phasor), hertz, float(np.angle(phasor))) if abs(phasor) > 3 * doubt else None


def _middle(phasors: Phasors) -> complex:
    """The median of the real parts with that of the imaginary ones."""
    half = len(phasors) // 2
    return complex(np.sort(phasors.real)[half], np.sort(phasors.imag)[half])


def _offsets(directions: Phasors, every: float) -> tuple[Values, Values]:
    """How far from its frequency, in Hz, each column of unit phasors taken ``every`` s lines up best, and how well: 1 is
    perfectly."""
    size = 1 << max(7, (4 * len(directions)).bit_length())
    lined_up = np.abs(np.fft.fft(directions, size, axis=0))
    most = min(size // 2, int(0.6 * _APART * size * every) + 1)
    near = np.concatenate([np.arange(most), np.arange(-most, 0)])
    best = near[np.argmax(lined_up[near], axis=0)]
    columns = np.arange(directions.shape[1])
    before, there, after = (lined_up[(best + i) % size, columns] for i in (-1, 0, 1))
    bend = before - 2 * there + after  # the top of the parabola through the three stands between the bins
    beyond = np.where(bend < 0, 0.5 * (before - after) / np.minimum(bend, -1e-300), 0.0)
    return (best + beyond) / (size * every), there / len(directions)
