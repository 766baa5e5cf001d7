"""Monte Carlo propagation of distributions (JCGM 101:2008): any model, in blocks, with bounded memory.

A model is drawn block by block; the mean and the standard deviation run along, and the 95 % interval is read from a
histogram whose bounds come from the first block. The memory needed does not depend on the number of trials.
The generator comes from a seed, so a result repeats.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from reckoner.core.quantities.arrays import Values
from reckoner.core.quantities.checks import whole
from reckoner.core.reference.weights import Hanging, WeightUncertainty
from reckoner.core.uncertainty.budget import Budget

BLOCK = 1 << 15
"""Trials drawn at once: a block and its sum stay in the processor's cache."""

STEP = 2.0**-32
"""A rectangle is drawn in this many parts of its width: half the generator's work, and far finer than its trials tell."""

FEWEST, MOST = 100, 10**8
"""Trials allowed; 10⁶ give a 95 % interval to about one part in five hundred (JCGM 101:2008, 7.2)."""

DEFAULT_TRIALS = 1_000_000
DEFAULT_SEED = 1

_BINS = 1 << 13
_REACH = 4.0
"""The histogram reaches this many half-widths of the first block's 95 % interval to both sides."""

Model = Callable[[np.random.Generator, int], Values]
"""Draws that many values of the measurand, into memory of its own that it may use again at the next call."""


@dataclass(frozen=True)
class Simulated:
    """The outcome of ``trials`` draws, in the measurand's unit; ``low_95`` and ``high_95`` are the 2.5 % and 97.5 %
    quantiles. ``standard_uncertainty`` is None where the distribution has none (Student's t of two degrees or fewer).
    """

    mean: float
    standard_uncertainty: float | None
    low_95: float
    high_95: float
    trials: int
    seed: int


def simulate(model: Model, trials: int = DEFAULT_TRIALS, seed: int = DEFAULT_SEED) -> Simulated:
    """Draw ``trials`` values of ``model`` (100 to 10⁸) and sum them up. Raises InputRefused for other counts.

    Source: JCGM 101:2008, 5.9, 7.5 and 7.6.

    >>> found = simulate(lambda rng, n: rng.normal(10.0, 2.0, n), 200_000)
    >>> round(found.mean, 1), round(found.standard_uncertainty, 1), round(found.high_95, 1)
    (10.0, 2.0, 13.9)
    """
    whole("trials", trials, FEWEST, MOST)
    rng = np.random.default_rng(whole("seed", seed, 0, 2**63 - 1))
    first = model(rng, min(BLOCK, trials))
    low, high = np.quantile(first, (0.025, 0.975))
    shift, half = float(first.mean()), float(high - low) / 2
    if len(first) == trials or half == 0:
        spread = float(first.std(ddof=1))
        return Simulated(shift, spread, float(low), float(high), trials, seed)
    centre = float(low + high) / 2
    histogram = _Histogram(centre - _REACH * half, centre + _REACH * half)
    total = squares = 0.0
    done = 0
    block = first
    while True:
        histogram.add(block)
        block -= shift
        total += float(block.sum())
        squares += float(np.dot(block, block))
        done += len(block)
        if done == trials:
            break
        block = model(rng, min(BLOCK, trials - done))
    mean = total / trials
    spread = math.sqrt(max(0.0, squares - trials * mean**2) / (trials - 1))
    return Simulated(shift + mean, spread, histogram.quantile(0.025), histogram.quantile(0.975), trials, seed)


class _Histogram:
    """Counts in equal bins, with one open bin at either end."""

    def __init__(self, low: float, high: float) -> None:
        self._low = low
        self._scale = _BINS / (high - low)
        self._counts = np.zeros(_BINS + 2, dtype=np.int64)
        self._places, self._bins = np.empty(BLOCK), np.empty(BLOCK, dtype=np.intp)

    def add(self, values: Values) -> None:
        place, bins = self._places[: len(values)], self._bins[: len(values)]
        np.subtract(values, self._low - 1 / self._scale, out=place)
        place *= self._scale
        np.clip(place, 0.0, _BINS + 1, out=place)
        np.copyto(bins, place, casting="unsafe")
        self._counts += np.bincount(bins, minlength=_BINS + 2)

    def quantile(self, share: float) -> float:
        """Linear within the bin; the interval's ends never fall in the open bins."""
        passed = np.cumsum(self._counts)
        wanted = share * float(passed[-1])
        at = int(np.searchsorted(passed, wanted))
        before = float(passed[at - 1]) if at else 0.0
        within = (wanted - before) / max(1.0, float(self._counts[at]))
        return self._low + (at - 1 + within) / self._scale


def simulate_budget(found: Budget, trials: int = DEFAULT_TRIALS, seed: int = DEFAULT_SEED) -> Simulated:
    """The deviation ā of a point, drawn from its measurement model; fractions.

    The model is the ratio itself, a = X_a/X_r − 1. X_a is the tool's value with its resolution as rounding (an indicating
    tool's zero and value are rounded both), X_r the mean of n indications, whose repeatability is Student's t of n − 1
    degrees times s/√n, with the reference's rounding and the b values rectangular, all over 1 + w_ref·N: what the reference
    is wrong by. Whichever side varies carries the repeatability: X_r on a meter, X_a against weights, and X_a where both
    do, for its scatter is what the tool would have shown at the mean torque. Raises InputRefused as ``simulate``. Source:
    JCGM 101:2008, 5.4, 6.4.9.2 and 7.
    """
    kind, reference, mean = found.kind, found.reference, found.mean_reading
    shown = mean * (1 + found.deviation)
    n = len(found.deviations)
    scatter, of_tool = found.component("repeatability").value * mean, not found.observations.on_a_meter
    roundings = (kind.resolution,) if kind.is_setting else (kind.resolution, kind.resolution)
    effects = found.effects.widths[:3] if kind.is_screwdriver else found.effects.widths
    above = [width for width in roundings if width]
    below = [width for width in (reference.resolution, *effects) if width]
    room, top, drawn = (np.empty(min(BLOCK, trials)) for _ in range(3))

    def rounded(values: Values, widths: list[float], rng: np.random.Generator, other: Values) -> None:
        for width in widths:
            np.multiply(_steps(rng, len(values)), width * STEP, out=other)
            values += other

    def model(rng: np.random.Generator, count: int) -> Values:
        values, over, other = room[:count], top[:count], drawn[:count]
        rng.standard_normal(out=values)
        values *= reference.standard_uncertainty
        values += 1
        over.fill(mean - sum(below) / 2)
        rounded(over, below, rng, other)
        if scatter and not of_tool:
            over += rng.standard_t(n - 1, count) * scatter
        values *= over
        over.fill(shown - sum(above) / 2)
        rounded(over, above, rng, other)
        if scatter and of_tool:
            over += rng.standard_t(n - 1, count) * scatter
        np.divide(over, values, out=values)
        values -= 1
        return values

    simulated = simulate(model, trials, seed)
    if scatter and n - 1 <= 2:
        return Simulated(simulated.mean, None, simulated.low_95, simulated.high_95, trials, seed)
    return simulated


def _steps(rng: np.random.Generator, count: int) -> npt.NDArray[np.uint32]:
    """Whole numbers from 0 to 2³² − 1, each as likely as the others: two from every one that the generator makes."""
    drawn: npt.NDArray[np.uint64] = rng.bit_generator.random_raw((count + 1) // 2)
    return drawn.view(np.uint32)[:count]


def simulate_dead_weight(
    hanging: Hanging, uncertainty: WeightUncertainty, trials: int = DEFAULT_TRIALS, seed: int = DEFAULT_SEED
) -> Simulated:
    """The torque of ``hanging`` in N·m with every input normal about its value, tilt included.

    Where first order is blind (a level lever's own tilt) this is not: 2° of doubt about level lowers the mean by
    0.06 %. Raises InputRefused as ``simulate``. Source: statics; JCGM 101:2008, 6.4.7.
    """
    h = hanging
    lift = h.buoyancy.factor if h.buoyancy else 1.0
    moment = h.own.mass * h.own.centre

    def model(rng: np.random.Generator, count: int) -> Values:
        mass = _about(rng, h.mass, uncertainty.mass, count) + h.hanger
        lever = _about(rng, h.lever, uncertainty.lever, count)
        gravity = _about(rng, h.gravity, uncertainty.gravity, count)
        level = np.cos(_about(rng, h.tilt_rad, uncertainty.tilt_rad, count))
        torque: Values = (mass * lift * lever + moment) * gravity * level
        return torque + _about(rng, h.own.torque or 0.0, uncertainty.own_torque, count)

    return simulate(model, trials, seed)


def _about(rng: np.random.Generator, value: float, spread: float, count: int) -> Values:
    """Normal about ``value``; the value itself, once, where nothing is in doubt."""
    return rng.normal(value, spread, count) if spread else np.full(count, value)
