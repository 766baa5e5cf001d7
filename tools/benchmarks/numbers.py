"""The arithmetic: a verdict against `uncertainties` objects, Monte Carlo against its random numbers, a trace against one
pass of a filter."""

from __future__ import annotations

import math
import tracemalloc
import warnings

import numpy as np
from scipy.signal import butter, sosfiltfilt

from benchmarks.row import Row, alternately
from reckoner.core.budget import EFFECT_NAMES, Effects, Observations
from reckoner.core.kinds import ToolKind, ToolType
from reckoner.core.reference import ReferenceAtPoint
from reckoner.core.simulation import BLOCK, simulate_budget
from reckoner.core.trace import analyse
from reckoner.core.verdict import PointInput, Verdict, verdict
from reckoner.formats.rulesets import shipped

READINGS = (
    (40.0, (39.5, 39.7, 39.6, 39.4, 39.5)),
    (120.0, (118.2, 118.9, 118.5, 118.7, 118.4)),
    (200.0, (197.1, 197.5, 197.3, 197.0, 197.2)),
)
WIDTHS = (0.5, 0.4, 0.3, 0.6)
TOOL = ToolKind(ToolType.SETTING, "A", 200.0, 40.0, 1.0)
REFERENCE = ReferenceAtPoint(0.006, resolution=0.1)
EFFECTS = Effects(*WIDTHS)
RULES = shipped("iso-6789-2017")
POINTS = [PointInput(target, Observations.of_readings(target, r), REFERENCE) for target, r in READINGS]
TRIALS = 1_000_000
RATE = 5000


def ours() -> Verdict:
    """The verdict: limit, adequacy, each point's w, W and near zone, its state, and whether it is accepted."""
    return verdict(TOOL, RULES, POINTS, effects=EFFECTS)


def with_objects() -> list[tuple[object, ...]]:
    """The same budget, its deviations built of objects that carry their uncertainties and combine by themselves."""
    from uncertainties import ufloat

    found = []
    for target, values in READINGS:
        n, mean = len(values), sum(values) / len(values)
        s = math.sqrt(sum((v - mean) ** 2 for v in values) / (n - 1))
        half = 1 / (2 * math.sqrt(3)) / mean
        sources = [
            ufloat(1, REFERENCE.standard_uncertainty, "reference"),
            ufloat(1, REFERENCE.resolution * half, "reference_resolution"),
            ufloat(1, TOOL.resolution * half, "resolution"),
            *(ufloat(1, width * half, name) for name, width in zip(EFFECT_NAMES, WIDTHS, strict=True)),
        ]
        readings = [ufloat(value, s, "repeatability") for value in values]
        mean_reading = sum(readings) / n
        deviations = []
        for reading in readings:
            for source in sources:
                reading = reading * source
            deviations.append((target - reading) / reading)
        mean_deviation = sum(deviations) / n
        parts: dict[str, float] = {}
        for variable, part in mean_deviation.error_components().items():
            parts[variable.tag] = math.hypot(parts.get(variable.tag, 0.0), part)
        accepted = max(abs(d.nominal_value) for d in deviations) <= 0.04
        found.append((mean_reading, mean_deviation.nominal_value, mean_deviation.std_dev, parts, accepted))
    return found


def draws(normals: int, uniforms: int) -> None:
    """What NumPy takes to draw the numbers of the full budget, in the same blocks."""
    rng = np.random.default_rng(1)
    for _ in range(TRIALS // BLOCK):
        for _ in range(normals):
            rng.standard_normal(BLOCK)
        for _ in range(uniforms):
            rng.random(BLOCK)


def trace() -> tuple[np.ndarray, np.ndarray]:
    """A minute at 5000 samples a second with ten pulls, each to a click and let go, 0.3 % noise."""
    rng = np.random.default_rng(2)
    still, up, past, down = (np.arange(round(s * RATE)) / RATE for s in (2.4, 3.0, 0.4, 0.2))
    after = 1 - 0.09 * np.minimum(past / 0.018, 1) * np.exp(-np.maximum(0, past - 0.018) / 0.05)
    pull = np.concatenate([still * 0, 118 * up / 3, 118 * after, 118 * after[-1] * (1 - down / 0.2) ** 2])
    torque = np.tile(pull, 10)[: 60 * RATE]
    return np.arange(len(torque)) / RATE, torque + rng.normal(0, 0.35, len(torque))


def peak_memory(trials: int) -> int:
    """Bytes that a simulation of ``trials`` holds at most."""
    point = ours().points[1].budget
    tracemalloc.start()
    simulate_budget(point, trials)
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    return peak


def rows() -> list[Row]:
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        objects, plain = alternately(with_objects, ours, rounds=60, repeat=10)
    point = ours().points[1].budget
    drawn, simulated = alternately(lambda: draws(2, 6), lambda: simulate_budget(point, TRIALS), rounds=7)
    times, torque = trace()
    sections = butter(2, 100, fs=RATE, output="sos")
    filtered, analysed = alternately(
        lambda: sosfiltfilt(sections, torque), lambda: analyse(times, torque, target=120.0), 25
    )
    events = len(analyse(times, torque, target=120.0).events)
    print(
        f"a verdict takes {plain * 1e6:.0f} µs, with objects {objects * 1e6:.0f} µs; a million trials {simulated * 1e3:.0f}"
        f" ms; a trace of {len(torque)} samples and {events} pulls {analysed * 1e3:.0f} ms"
    )
    return [
        Row("a verdict of three points, times faster than uncertainties objects", objects / plain, at_least=50),
        Row("a million trials of the full budget, times drawing their random numbers", simulated / drawn, at_most=2),
        Row("a trace of 300 000 samples, times one zero-phase Butterworth pass", analysed / filtered, at_most=3),
        Row(
            "memory of 4 million trials, times that of 200 000",
            peak_memory(4_000_000) / peak_memory(200_000),
            at_most=1.5,
        ),
    ]
