"""How a hand and a tool move torque, drawn at random: ramps, tremor, letting go, and a tool that gives way. Torques in N·m,
rates in samples a second.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from reckoner.core.quantities.arrays import Values

Rng = np.random.Generator

TREMOR_HZ = (4.0, 12.0)


def between(rng: Rng, low: float, high: float) -> float:
    return float(rng.uniform(low, high))


def sample_count(seconds: float, rate: float) -> int:
    return max(1, round(seconds * rate))


def smooth_step(share: Values) -> Values:
    """From 0 to 1 without a corner, over ``share`` from 0 to 1."""
    eased: Values = (1 - np.cos(np.pi * np.clip(share, 0, 1))) / 2
    return eased


@dataclass(frozen=True)
class Tremor:
    """A hand that trembles by ``amplitude`` of the torque that it holds, at ``hertz``."""

    amplitude: float = 0.0
    hertz: float = 8.0
    phase: float = 0.0

    @classmethod
    def of(cls, rng: Rng, amplitude: float) -> Tremor:
        return cls(amplitude, between(rng, *TREMOR_HZ), between(rng, 0, 2 * math.pi))

    def at(self, seconds: Values) -> Values:
        shaking: Values = 1 + self.amplitude * np.sin(2 * np.pi * self.hertz * seconds + self.phase)
        return shaking


def ramp(rng: Rng, to: float, rate: float, careful: float | None = None) -> Values:
    """A hand that brings up torque to ``to`` N·m: quick at first, and ``careful`` seconds from 80 % on."""
    careful = between(rng, 0.5, 2.5) if careful is None else careful
    quick = min(between(rng, 0.35, 0.9), 4 * careful)
    turn = between(rng, 0.6, 0.8)
    late = careful * (1 - turn) / 0.2
    seconds = np.arange(sample_count(quick + late, rate)) / rate
    early = turn * (seconds / quick) ** between(rng, 1.0, 1.4)
    rising = np.where(seconds < quick, early, turn + (1 - turn) * (seconds - quick) / late)
    shown: Values = to * rising
    return shown


def let_go(rng: Rng, torque: float, rate: float, seconds: float | None = None) -> Values:
    """A hand that lets go of ``torque`` N·m within ``seconds``."""
    seconds = between(rng, 0.12, 0.4) if seconds is None else seconds
    share = np.arange(sample_count(seconds, rate)) / sample_count(seconds, rate)
    shapes = ((1 - share) ** 2, 1 - smooth_step(share), 1 - share, np.exp(-4 * share) * (1 - share))
    left: Values = torque * shapes[int(rng.integers(len(shapes)))]
    return left


def gives_way(rng: Rng, trip: float, rate: float, *, dip: float, fall: float, slope: float) -> Values:
    """What follows when a tool gives way at ``trip`` N·m: a fall by ``dip`` within ``fall`` seconds, then it bears again
    while the hand, which pulled at ``slope`` N·m a second, pushes on until it notices."""
    noticed = between(rng, 0.12, 0.35)
    stays = between(rng, 0.02, 0.15)
    bears = between(rng, 0.02, 0.08)
    seconds = np.arange(1, sample_count(fall + noticed + stays, rate)) / rate
    share = np.clip(seconds / fall, 0, 1)
    fell = (share, np.sin(np.pi / 2 * share), smooth_step(share))[int(rng.integers(3))]
    after = np.maximum(0, seconds - fall)
    risen = 1 - np.exp(-after / bears)
    over = min(between(rng, 0.0, 0.08) + slope / trip * noticed, 0.4)
    course: Values = trip * (1 - dip * fell + (dip + over) * risen * np.clip(after / noticed, 0.4, 1))
    return course


def until_trip(torque: Values, trip: float) -> Values:
    """``torque`` up to where the tool gives way at ``trip``, that point among it."""
    reached = np.flatnonzero(torque >= trip)
    return np.append(torque[: int(reached[0])], trip) if len(reached) else torque
