"""The uncertainty budget of the deviation at one point (ISO 6789-2:2017 scheme; first order, JCGM 100).

Every component is relative to the mean reading X̄_r. ``Observations`` holds the values of one point in one
direction, with the roles kept: on a torque meter the target is fixed and the readings vary; with known weights
the torque is fixed and the tool's indication varies.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property
from typing import NamedTuple

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import not_negative, positive, positive_tuple
from reckoner.core.reference.certificate import KnownError, ReferenceAtPoint
from reckoner.core.requirements.rules import Coverage
from reckoner.core.requirements.tooltypes import ToolKind
from reckoner.core.translation import tr

COVERAGE_PROBABILITY = 0.9545
"""The probability at which Student's t replaces k = 2 (JCGM 100:2008, table G.2)."""

FEW_DEGREES = 10.0
"""Degrees of freedom below which k = 2 says too little and Student's W is shown beside it."""

ROOT3 = math.sqrt(3.0)


class Effect(StrEnum):
    """What a characterisation measures: how much the mean moves with remounting, drive, adapter and hand."""

    REPRODUCIBILITY = "reproducibility"
    OUTPUT_DRIVE = "output_drive"
    INTERFACE = "interface"
    LOADING_POINT = "loading_point"


EFFECT_NAMES = tuple(effect.value for effect in Effect)

COMPONENT_NAMES = ("reference", "reference_resolution", "resolution", "repeatability", *EFFECT_NAMES)
"""The lines of a budget, in order."""


class EffectWidth(NamedTuple):
    """A b value in N·m: the width of the rectangle that stands for an effect, and the degrees of freedom with which it is
    known (infinite where nobody says how well)."""

    b: float
    degrees_of_freedom: float = math.inf


UNMEASURED = EffectWidth(0.0)


@dataclass(frozen=True)
class Effects:
    """The four b values of a characterisation run; None where an effect was not measured (taken as zero, and said).

    They come from the range of the means over remountings, drive positions or adapter positions, or from the difference of
    means with the hand ±10 mm; see ``characterisation``. Raises InputRefused for a b that is negative, or known with no
    degree of freedom.
    """

    reproducibility: EffectWidth | None = None
    output_drive: EffectWidth | None = None
    interface: EffectWidth | None = None
    loading_point: EffectWidth | None = None

    def __post_init__(self) -> None:
        for name in EFFECT_NAMES:
            found: EffectWidth | None = getattr(self, name)
            if found is not None:
                not_negative(f"effects.{name}", found.b)
                if not found.degrees_of_freedom > 0:
                    reason = tr(
                        "is known with {degrees_of_freedom:g} degrees of freedom; they are above zero",
                        degrees_of_freedom=found.degrees_of_freedom,
                    )
                    raise InputRefused(f"effects.{name}", found.degrees_of_freedom, reason)

    @classmethod
    def known(cls, *b: float) -> Effects:
        """Effects whose b values (N·m), in the order of ``EFFECT_NAMES``, are taken as known exactly."""
        return cls(*map(EffectWidth, b))

    @cached_property
    def each(self) -> tuple[EffectWidth, ...]:
        """The four in the order of ``EFFECT_NAMES``, zero for what was not measured."""
        return tuple(getattr(self, name) or UNMEASURED for name in EFFECT_NAMES)

    @cached_property
    def widths(self) -> tuple[float, ...]:
        """The b values in N·m, in the order of ``EFFECT_NAMES``."""
        return tuple(effect.b for effect in self.each)

    @cached_property
    def squares(self) -> float:
        """Σ b² in N·m²: a rectangular distribution of width b has the variance b²/12."""
        return sum(b * b for b in self.widths)

    @cached_property
    def squares_of_a_driver(self) -> float:
        """The same for a screwdriver, whose loading point does not count."""
        return sum(b * b for b in self.widths[:3])

    @cached_property
    def fourths(self) -> float:
        """Σ (b²/12)²/ν in N·m⁴, for Welch–Satterthwaite."""
        return sum(_fourth(effect) for effect in self.each)

    @cached_property
    def fourths_of_a_driver(self) -> float:
        """The same without the loading point."""
        return sum(_fourth(effect) for effect in self.each[:3])


def _fourth(effect: EffectWidth) -> float:
    return (effect.b * effect.b / 12) ** 2 / effect.degrees_of_freedom


class Observations(NamedTuple):
    """One point, one direction: tool values X_a and reference torques X_r in N·m, paired, each above zero. One of the two
    sides is fixed, or both vary: a tool whose display keeps its value, read beside the meter pull by pull."""

    tool: tuple[float, ...]
    reference: tuple[float, ...]

    @classmethod
    def of_readings(cls, target: float, readings: Iterable[float]) -> Observations:
        """A series on a torque meter: fixed ``target``, varying ``readings``. Raises InputRefused."""
        given = positive_tuple("readings", readings)
        return cls((positive("target", target),) * len(given), given)

    def corrected(self, error: float) -> Observations:
        """The same with each reference torque less its known ``error``, a fraction: X_r = indication/(1 + e)."""
        return Observations(self.tool, tuple([torque / (1 + error) for torque in self.reference]))

    @property
    def on_a_meter(self) -> bool:
        """Whether the tool's value is fixed, and the reference's torque is what scatters."""
        return self.tool.count(self.tool[0]) == len(self.tool) and self.reference.count(self.reference[0]) < len(
            self.reference
        )

    @property
    def scatter(self) -> float:
        """s in N·m, with n − 1, of whichever side varies; 0 for fewer than two readings."""
        n = len(self.reference)
        if n < 2:
            return 0.0
        mean = sum(self.reference) / n
        if self.on_a_meter:
            return math.dist(self.reference, (mean,) * n) / math.sqrt(n - 1)
        shown = [x * mean / r for x, r in zip(self.tool, self.reference, strict=True)]
        return math.dist(shown, (sum(shown) / n,) * n) / math.sqrt(n - 1)

    @classmethod
    def of_indications(cls, indications: Iterable[float], reference_torque: float) -> Observations:
        """A series against a fixed torque: varying ``indications`` of the tool. Raises InputRefused."""
        given = positive_tuple("indications", indications)
        return cls(given, (positive("reference_torque", reference_torque),) * len(given))


class Component(NamedTuple):
    """One line of a budget: relative standard uncertainty w_i and its degrees of freedom.

    ``assumed`` is True when nothing was measured and zero stands in.
    """

    name: str
    value: float
    degrees_of_freedom: float = math.inf
    assumed: bool = False


class Budget(NamedTuple):
    """The budget of one point; relative values are fractions. What only a reader asks for is worked out when asked.

    ``deviations`` are a_j = X_a/X_r − 1 (ISO 6789-1:2017, 6.2.5), ``deviation`` their mean ā. ``standard_deviation`` s in
    N·m, with n − 1, is of whichever side varies; where both do, of what the tool would have shown at the mean torque,
    X_a·X̄_r/X_r, so that a hand that pulls unevenly is not counted as scatter. ``worst`` is the largest |a_j|.
    W = k·w is the ``expanded_uncertainty`` and
    W' = |ā| + W + |b_ep| the ``uncertainty_interval`` (ISO 6789-2:2017, 6.3).
    """

    observations: Observations
    deviations: tuple[float, ...]
    deviation: float
    mean_reading: float
    standard_deviation: float
    worst: float
    standard_uncertainty: float
    coverage: Coverage
    coverage_factor: float
    kind: ToolKind
    reference: ReferenceAtPoint
    effects: Effects

    @property
    def reference_error(self) -> float:
        """b_ep, the reference's error that is left in the readings."""
        return self.reference.left

    @property
    def expanded_uncertainty(self) -> float:
        return self.coverage_factor * self.standard_uncertainty

    @property
    def uncertainty_interval(self) -> float:
        return abs(self.deviation) + self.expanded_uncertainty + abs(self.reference.left)

    @property
    def true_deviation(self) -> float:
        """ā where the torque lies by all that is known: with a counted error of the reference at its sign, (1 + ā)(1 + e) −
        1."""
        if self.reference.known is not KnownError.COUNTED:
            return self.deviation
        return (1 + self.deviation) * (1 + self.reference.error) - 1

    @property
    def student(self) -> tuple[float, float]:
        """(k, W) by Student's t at 95.45 % with ν_eff, whatever the coverage is: shown beside k = 2 where ν_eff is below
        ``FEW_DEGREES``."""
        k = coverage_factor(Coverage.STUDENT, self.degrees_of_freedom)
        return k, k * self.standard_uncertainty

    @property
    def says_too_little(self) -> bool:
        """Whether k = 2 says too little, for the few readings behind it."""
        return self.coverage is _K2 and self.degrees_of_freedom < FEW_DEGREES

    @property
    def components(self) -> tuple[Component, ...]:
        """The budget line by line, in the order of ``COMPONENT_NAMES``."""
        freedoms = (math.inf,) * 3 + (len(self.deviations) - 1.0, *(e.degrees_of_freedom for e in self.effects.each))
        assumed = {name for name in EFFECT_NAMES if getattr(self.effects, name) is None}
        if self.kind.is_screwdriver:
            assumed.discard(Effect.LOADING_POINT)
        return tuple(
            Component(name, value, freedom, name in assumed)
            for name, value, freedom in zip(COMPONENT_NAMES, self.parts, freedoms, strict=True)
        )

    @property
    def parts(self) -> tuple[float, ...]:
        """w_i of each component, in the order of ``COMPONENT_NAMES``."""
        mean, reference = self.mean_reading, self.reference
        half = 1 / (2 * ROOT3 * mean)
        remounting, drive, interface, hand = self.effects.widths
        return (
            reference.standard_uncertainty,
            reference.resolution * half,
            math.sqrt(self.kind.resolution_square) * half,
            self.standard_deviation / (math.sqrt(len(self.deviations)) * mean),
            remounting * half,
            drive * half,
            interface * half,
            0.0 if self.kind.is_screwdriver else hand * half,
        )

    @property
    def degrees_of_freedom(self) -> float:
        """ν_eff = w⁴/Σ(w_i⁴/ν_i): the repeatability has n − 1, a b value those of its range; infinite when none of them
        counts.

        Source: Welch–Satterthwaite; JCGM 100:2008, G.4.1.
        """
        effects = self.effects
        fourths = effects.fourths_of_a_driver if self.kind.is_screwdriver else effects.fourths
        n = len(self.observations.reference)
        return _effective_freedom(self.standard_uncertainty * self.mean_reading, self.standard_deviation, n, fourths)

    def component(self, name: str) -> Component:
        return next(c for c in self.components if c.name == name)

    def shares(self) -> tuple[tuple[str, float], ...]:
        """(name, w_i²/w²) for each component; all zero when nothing is uncertain."""
        total = self.standard_uncertainty**2
        return tuple((c.name, c.value**2 / total if total else 0.0) for c in self.components)

    def probability_of_conformity(self, limit: float) -> float:
        """Φ((limit − ā)/w) − Φ((−limit − ā)/w) for ±``limit`` (fraction), ā where the torque lies by all that is known; under
        Student's coverage with Student's distribution of ν_eff degrees instead of Φ. Source: JCGM 106:2012, 7.2."""
        positive("limit", limit)
        w, a = self.standard_uncertainty, self.true_deviation
        if w == 0:
            return 1.0 if abs(a) <= limit else 0.0
        if self.coverage is _K2:
            return normal_cdf((limit - a) / w) - normal_cdf((-limit - a) / w)
        freedom = self.degrees_of_freedom
        return student_cdf((limit - a) / w, freedom) - student_cdf((-limit - a) / w, freedom)


NO_EFFECTS = Effects()
_K2, _CORRECTED = Coverage.K2, KnownError.CORRECTED  # looked up once, for speed


def budget(
    observations: Observations,
    kind: ToolKind,
    reference: ReferenceAtPoint,
    effects: Effects | None = None,
    coverage: Coverage = Coverage.K2,
) -> Budget:
    """The budget of the deviation for one point in one direction.

    ``kind`` gives the resolution r and its multiplicity m (1 setting tool, 2 indicating: zero and value); the
    loading point does not count for screwdrivers. A known error that is corrected divides every torque by 1 + e: the budget's
    observations are those. Raises InputRefused with fewer than two readings.
    Source: ISO 6789-2:2017, 6.2 and annex C; JCGM 100:2008, 4.2, 4.3 and G.4.

    >>> from reckoner.core.requirements.tooltypes import ToolKind, ToolType
    >>> b = budget(
    ...     Observations.of_readings(120, [118.2, 118.9, 118.5, 118.7, 118.4]),
    ...     ToolKind(ToolType.SETTING, "A", 200, 40, 1),
    ...     ReferenceAtPoint(0.006),
    ...     Effects.known(0.5, 0.4, 0.3, 0.6),
    ... )
    >>> f"{b.deviation:.6f} {b.standard_uncertainty:.7f} {b.expanded_uncertainty:.6f} {b.uncertainty_interval:.6f}"
    '0.012321 0.0045902 0.009180 0.021501'
    """
    if reference.error and reference.known is _CORRECTED:
        observations = observations.corrected(reference.error)
    tool, torque = observations
    n = len(torque)
    if n < 2:
        raise InputRefused("readings", n, tr("a budget needs at least two readings, got one"))
    effects = effects or NO_EFFECTS
    mean = sum(torque) / n
    target = tool[0]
    if torque.count(torque[0]) < n:
        if tool.count(target) < n:
            deviations = tuple([x / r - 1 for x, r in zip(tool, torque, strict=True)])
            s = mean * math.dist(deviations, (sum(deviations) / n,) * n) / math.sqrt(n - 1)
        else:
            deviations = tuple([target / r - 1 for r in torque])
            s = math.dist(torque, (mean,) * n) / math.sqrt(n - 1)
    else:
        deviations = tuple([x / mean - 1 for x in tool])
        s = math.dist(tool, (sum(tool) / n,) * n) / math.sqrt(n - 1)
    high, low = max(deviations), -min(deviations)
    widths = effects.squares_of_a_driver if kind.is_screwdriver else effects.squares
    squares = widths + kind.resolution_square + reference.resolution * reference.resolution
    w_ref = reference.expanded_uncertainty / reference.coverage_factor
    w = math.sqrt(w_ref * w_ref + (squares / 12 + s * s / n) / (mean * mean))
    k = 2.0
    if coverage is not _K2:
        fourths = effects.fourths_of_a_driver if kind.is_screwdriver else effects.fourths
        k = coverage_factor(coverage, _effective_freedom(w * mean, s, n, fourths))
    worst = high if high > low else low
    a = sum(deviations) / n
    return Budget(observations, deviations, a, mean, s, worst, w, coverage, k, kind, reference, effects)


def _effective_freedom(u: float, s: float, n: int, fourths: float) -> float:
    """Welch–Satterthwaite for the standard uncertainty ``u``, the scatter ``s`` of n readings and the ``fourths`` of the
    effects, all in N·m."""
    variance, square = u * u, s * s / n
    fourths += square * square / (n - 1)
    return variance * variance / fourths if fourths else math.inf


def normal_cdf(z: float) -> float:
    """Φ(z), the standard normal distribution function. Refuses nothing. Source: Abramowitz and Stegun, 26.2.29."""
    return 0.5 * math.erfc(-z / math.sqrt(2.0))


def student_cdf(t: float, freedom: float) -> float:
    """The distribution function of Student's t with ``freedom`` degrees; of the normal distribution for infinitely many.
    Refuses nothing. Source: Abramowitz and Stegun, 26.7.1."""
    if math.isinf(freedom):
        return normal_cdf(t)
    from scipy.special import stdtr  # takes a quarter of a second to load

    return float(stdtr(freedom, t))


def coverage_factor(coverage: Coverage, degrees_of_freedom: float) -> float:
    """k: 2, or Student's t for 95.45 % two-sided (JCGM 100:2008, table G.2). Refuses nothing.

    >>> round(coverage_factor(Coverage.STUDENT, 4), 2)
    2.87
    """
    if coverage is Coverage.K2 or math.isinf(degrees_of_freedom):
        return 2.0
    from scipy.special import stdtrit  # takes a quarter of a second to load, and most budgets use k = 2

    return float(stdtrit(degrees_of_freedom, (1 + COVERAGE_PROBABILITY) / 2))
