"""The arithmetic: a verdict against `uncertainties` objects, Monte Carlo against its random numbers, a trace against one
pass of a filter."""

from __future__ import annotations

import math
import tracemalloc
import warnings

import numpy as np
from scipy.signal import butter, sosfiltfilt

from benchmarks.row import Row, ratio
from reckoner.core.decision.verdict import PointInput, verdict
from reckoner.core.reference.certificate import ReferenceAtPoint
from reckoner.core.requirements.tooltypes import ToolKind, ToolType
from reckoner.core.trace.analysis import analyse
from reckoner.core.uncertainty.budget import EFFECT_NAMES, Effects, Observations
from reckoner.core.uncertainty.simulation import BLOCK, simulate_budget
from reckoner.formats.rulesets import shipped

READINGS = (
    (40.0, (39.5, 39.7, 39.6, 39.4, 39.5)),
    (120.0, (118.2, 118.9, 118.5, 118.7, 118.4)),
    (200.0, (197.1, 197.5, 197.3, 197.0, 197.2)),
)
WIDTHS = (0.5, 0.4, 0.3, 0.6)
TOOL = ToolKind(ToolType.SETTING, "A", 200.0, 40.0, 1.0)
REFERENCE = ReferenceAtPoint(0.006, resolution=0.1)
EFFECTS = Effects.known(*WIDTHS)
RULES = shipped("iso-6789-2017")
POINTS = [PointInput(target, Observations.of_readings(target, r), REFERENCE) for target, r in READINGS]
TRIALS = 1_000_000
RATE = 5000


def ours() -> list[tuple[object, ...]]:
    """The verdict, and of each point every value that the objects give too."""
    found = verdict(TOOL, RULES, POINTS, effects=EFFECTS)
    read = []
    for point in found.points:
        b = point.budget
        read.append(
            (
                b.mean_reading, b.deviations, b.deviation, b.parts,
                b.standard_uncertainty, b.expanded_uncertainty, b.uncertainty_interval, b.worst,
                point.decision.near_zone, point.decision.state, point.decision.accepted,
            )
        )  # fmt: skip
    return read


def with_objects() -> list[tuple[object, ...]]:
    """The same from objects that carry their uncertainties and combine by themselves: each source applied once, to the mean;
    everything else in plain numbers."""
    from uncertainties import ufloat

    found = []
    limit = 0.04
    for target, observations, reference in POINTS:
        values = observations.reference
        n, mean = len(values), sum(values) / len(values)
        s = math.sqrt(sum((v - mean) ** 2 for v in values) / (n - 1))
        half = 1 / (2 * math.sqrt(3)) / mean
        reading = ufloat(mean, s / math.sqrt(n), "repeatability")
        for name, part in (
            ("reference", reference.standard_uncertainty),
            ("reference_resolution", reference.resolution * half),
            ("resolution", TOOL.resolution * half),
            *((name, width * half) for name, width in zip(EFFECT_NAMES, WIDTHS, strict=True)),
        ):
            reading *= ufloat(1, part, name)
        a = (target - reading) / reading
        deviations = tuple((target - v) / v for v in values)
        w = a.std_dev
        parts = list(a.error_components().values())
        mean_deviation = sum(deviations) / n
        expanded = 2 * w
        worst = max(abs(d) for d in deviations)
        near = expanded + abs(reference.error)
        inside = worst <= limit
        state = (worst <= limit - near, inside, worst <= limit + near)
        interval = abs(mean_deviation) + expanded + abs(reference.error)
        found.append((mean, deviations, mean_deviation, parts, w, expanded, interval, worst, near, state, inside))
    return found


def draws(uniforms: int) -> None:
    """What NumPy takes to draw the numbers that the full budget needs, in the same blocks: the reference's normal one,
    Student's t of the repeatability, and the rectangles."""
    rng = np.random.default_rng(1)
    room = np.empty(BLOCK)
    for _ in range(TRIALS // BLOCK):
        rng.standard_normal(out=room)
        rng.standard_t(4, BLOCK)
        for _ in range(uniforms):
            rng.random(out=room)


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
    point = verdict(TOOL, RULES, POINTS, effects=EFFECTS).points[1].budget
    tracemalloc.start()
    simulate_budget(point, trials)
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    return peak


def rows() -> list[Row]:
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        judged = ratio(ours, with_objects, rounds=40, repeat=20)
    point = verdict(TOOL, RULES, POINTS, effects=EFFECTS).points[1].budget
    simulated = ratio(lambda: draws(6), lambda: simulate_budget(point, TRIALS), rounds=15)
    times, torque = trace()
    sections = butter(2, 100, fs=RATE, output="sos")
    analysed = ratio(lambda: sosfiltfilt(sections, torque), lambda: analyse(times, torque, target=120.0), rounds=25)
    events = len(analyse(times, torque, target=120.0).events)
    print(
        f"a verdict takes {judged.one * 1e6:.0f} µs, with objects {judged.other * 1e6:.0f} µs; a million trials "
        f"{simulated.other * 1e3:.0f} ms; a trace of {len(torque)} samples and {events} pulls {analysed.other * 1e3:.0f} ms"
    )
    return [
        judged.row("a verdict of three points, times faster than uncertainties objects", at_least=10),
        simulated.row("a million trials of the full budget, times drawing their random numbers", at_most=1.3),
        analysed.row("a trace of 300 000 samples, times one zero-phase Butterworth pass", at_most=3),
        Row(
            "memory of 4 million trials, times that of 200 000",
            peak_memory(4_000_000) / peak_memory(200_000),
            at_most=1.5,
        ),
    ]
