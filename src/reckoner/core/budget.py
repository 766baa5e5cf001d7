"""The uncertainty budget of the deviation at one point (ISO 6789-2:2017 scheme; first order, JCGM 100).

Every component is relative to the mean reading X̄_r. ``Observations`` holds the values of one point in one
direction, with the roles kept: on a torque meter the target is fixed and the readings vary; with known weights
the torque is fixed and the tool's indication varies.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from reckoner.core.checks import Values, not_negative, positive, positive_array
from reckoner.core.errors import InputRefused
from reckoner.core.kinds import ToolKind
from reckoner.core.reference import ReferenceAtPoint
from reckoner.core.rules import Coverage

COVERAGE_PROBABILITY = 0.9545
"""The probability at which Student's t replaces k = 2 (JCGM 100:2008, table G.2)."""

ROOT3 = math.sqrt(3.0)


@dataclass(frozen=True)
class Effects:
    """The four b values of a characterisation run, in N·m; None where it was not measured (taken as zero, and said).

    Each is the range of the means over remountings, drive positions, adapter positions, or the difference of means
    with the hand ±10 mm.
    """

    reproducibility: float | None = None
    output_drive: float | None = None
    interface: float | None = None
    loading_point: float | None = None

    def __post_init__(self) -> None:
        for name in ("reproducibility", "output_drive", "interface", "loading_point"):
            value = getattr(self, name)
            if value is not None:
                not_negative(f"effects.{name}", value)


@dataclass(frozen=True)
class Observations:
    """One point, one direction: tool values X_a and reference torques X_r in N·m, paired, each above zero."""

    tool: Values
    reference: Values

    @classmethod
    def of_readings(cls, target: float, readings: Sequence[float]) -> Observations:
        """A series on a torque meter: fixed ``target``, varying ``readings``. Raises InputRefused."""
        given = positive_array("readings", readings)
        return cls(np.full_like(given, positive("target", target)), given)

    @classmethod
    def of_indications(cls, indications: Sequence[float], reference_torque: float) -> Observations:
        """A series against a fixed torque: varying ``indications`` of the tool. Raises InputRefused."""
        given = positive_array("indications", indications)
        return cls(given, np.full_like(given, positive("reference_torque", reference_torque)))

    @property
    def deviations(self) -> Values:
        """a_j as fractions (ISO 6789-1:2017, 6.2.5)."""
        return (self.tool - self.reference) / self.reference

    @property
    def mean_reading(self) -> float:
        """X̄_r in N·m."""
        return float(self.reference.mean())

    @property
    def scatter(self) -> float:
        """Standard deviation s in N·m, n − 1, of whichever side varies. Needs two readings."""
        varying = self.reference if np.ptp(self.reference) > 0 else self.tool
        return float(varying.std(ddof=1))

    def __len__(self) -> int:
        return len(self.reference)


@dataclass(frozen=True)
class Component:
    """One line of a budget: relative standard uncertainty w_i, its degrees of freedom, and what it rests on.

    ``basis`` is the formula's input in words; ``assumed`` is True when nothing was measured and zero stands in.
    """

    name: str
    value: float
    degrees_of_freedom: float = math.inf
    assumed: bool = False


@dataclass(frozen=True)
class Budget:
    """The budget of one point; relative values are fractions.

    ``expanded_uncertainty`` is W = k·w and ``uncertainty_interval`` W' = |ā| + W + |b_ep| (ISO 6789-2:2017, 6.3).
    """

    mean_reading: float
    deviations: Values = field(repr=False)
    deviation: float
    standard_deviation: float
    components: tuple[Component, ...]
    standard_uncertainty: float
    degrees_of_freedom: float
    coverage: Coverage
    coverage_factor: float
    reference_error: float

    @property
    def expanded_uncertainty(self) -> float:
        return self.coverage_factor * self.standard_uncertainty

    @property
    def uncertainty_interval(self) -> float:
        return abs(self.deviation) + self.expanded_uncertainty + abs(self.reference_error)

    def component(self, name: str) -> Component:
        return next(c for c in self.components if c.name == name)

    def shares(self) -> tuple[tuple[str, float], ...]:
        """(name, w_i²/w²) for each component; all zero when nothing is uncertain."""
        total = self.standard_uncertainty**2
        return tuple((c.name, c.value**2 / total if total else 0.0) for c in self.components)

    def probability_of_conformity(self, limit: float) -> float:
        """Φ((limit − ā)/w) − Φ((−limit − ā)/w) for ±``limit`` (fraction). Source: JCGM 106:2012, 7.2."""
        positive("limit", limit)
        if self.standard_uncertainty == 0:
            return 1.0 if abs(self.deviation) <= limit else 0.0
        w, a = self.standard_uncertainty, self.deviation
        return normal_cdf((limit - a) / w) - normal_cdf((-limit - a) / w)


COMPONENT_NAMES = (
    "reference",
    "reference_resolution",
    "resolution",
    "repeatability",
    "reproducibility",
    "output_drive",
    "interface",
    "loading_point",
)


def budget(
    observations: Observations,
    kind: ToolKind,
    reference: ReferenceAtPoint,
    effects: Effects | None = None,
    coverage: Coverage = Coverage.K2,
) -> Budget:
    """The budget of the deviation for one point in one direction.

    ``kind`` gives the resolution r and its multiplicity m (1 setting tool, 2 indicating: zero and value); the
    loading point does not count for screwdrivers. Raises InputRefused with fewer than two readings.
    Source: ISO 6789-2:2017, 6.2 and annex C; JCGM 100:2008, 4.2, 4.3 and G.4.

    >>> from reckoner.core.kinds import ToolKind, ToolType
    >>> b = budget(
    ...     Observations.of_readings(120, [118.2, 118.9, 118.5, 118.7, 118.4]),
    ...     ToolKind(ToolType.SETTING, "A", 200, 40, 1),
    ...     ReferenceAtPoint(0.006),
    ...     Effects(0.5, 0.4, 0.3, 0.6),
    ... )
    >>> f"{b.deviation:.6f} {b.standard_uncertainty:.7f} {b.expanded_uncertainty:.6f} {b.uncertainty_interval:.6f}"
    '0.012321 0.0045902 0.009180 0.021501'
    """
    n = len(observations)
    if n < 2:
        raise InputRefused("readings", n, "a budget needs at least two readings, got one")
    effects = effects or Effects()
    mean = observations.mean_reading
    s = observations.scatter
    multiplicity = 1 if kind.is_setting else 2
    components = (
        Component("reference", reference.standard_uncertainty),
        Component("reference_resolution", reference.resolution / 2 / ROOT3 / mean),
        Component("resolution", math.sqrt(multiplicity) * kind.resolution / 2 / ROOT3 / mean),
        Component("repeatability", s / math.sqrt(n) / mean, n - 1),
        _effect("reproducibility", effects.reproducibility, mean),
        _effect("output_drive", effects.output_drive, mean),
        _effect("interface", effects.interface, mean),
        _effect("loading_point", 0.0 if kind.is_screwdriver else effects.loading_point, mean),
    )
    w = math.sqrt(sum(c.value**2 for c in components))
    freedom = effective_degrees_of_freedom(components)
    deviations = observations.deviations
    return Budget(
        mean_reading=mean,
        deviations=deviations,
        deviation=float(deviations.mean()),
        standard_deviation=s,
        components=components,
        standard_uncertainty=w,
        degrees_of_freedom=freedom,
        coverage=coverage,
        coverage_factor=coverage_factor(coverage, freedom),
        reference_error=reference.error,
    )


def _effect(name: str, b: float | None, mean: float) -> Component:
    return Component(name, (b or 0.0) / (2 * ROOT3) / mean, assumed=b is None)


def effective_degrees_of_freedom(components: Sequence[Component]) -> float:
    """ν_eff = w⁴ / Σ w_i⁴/ν_i (Welch–Satterthwaite; JCGM 100:2008, G.4.1); infinite when no finite term counts.

    Values are scaled by the largest so that small budgets do not underflow.
    """
    largest = max((c.value for c in components), default=0.0)
    if largest == 0:
        return math.inf
    scaled = [(c.value / largest, c.degrees_of_freedom) for c in components]
    finite_terms = sum(v**4 / nu for v, nu in scaled if math.isfinite(nu))
    if finite_terms == 0:
        return math.inf
    return sum(v**2 for v, _ in scaled) ** 2 / finite_terms


def normal_cdf(z: float) -> float:
    """Φ(z), the standard normal distribution function."""
    return 0.5 * math.erfc(-z / math.sqrt(2.0))


def coverage_factor(coverage: Coverage, degrees_of_freedom: float) -> float:
    """k: 2, or Student's t for 95.45 % two-sided (JCGM 100:2008, table G.2).

    >>> round(coverage_factor(Coverage.STUDENT, 4), 2)
    2.87
    """
    if coverage is Coverage.K2 or math.isinf(degrees_of_freedom):
        return 2.0
    from scipy.special import stdtrit  # takes a quarter of a second to load, and most budgets use k = 2

    return float(stdtrit(degrees_of_freedom, (1 + COVERAGE_PROBABILITY) / 2))
