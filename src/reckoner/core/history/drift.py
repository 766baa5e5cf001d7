"""A tool's drift since its last adjustment: line, prediction band, and the dates on which they reach the limit."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from itertools import pairwise
from typing import NamedTuple

import numpy as np

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.arrays import Values
from reckoner.core.quantities.checks import finite, positive
from reckoner.core.translation import tr

YEAR = 365.25
"""Days in a year."""

HORIZON = 50.0
"""Years beyond which no crossing is told."""

BAND = 0.975
"""Upper quantile of the two-sided 95 % prediction band."""


@dataclass(frozen=True)
class DatedDeviation:
    """A result: the day and the mean deviation as a fraction."""

    on: date
    deviation: float


@dataclass(frozen=True)
class Drift:
    """The fitted line: fractions, ``per_year`` a year, ``at_start`` on the first date; ``spread`` is the residual standard
    deviation, ``t95`` Student's factor for its degrees of freedom.

    ``other_tools`` says from how many other tools the slope was pooled; 0 when it is the tool's own. Then ``slopes_differ``
    is the standard uncertainty with which a tool's slope is that one (a fraction a year), ``t95_slopes`` its factor.
    """

    first: date
    last: date
    per_year: float
    at_start: float
    spread: float
    count: int
    mean_year: float
    slopes_differ: float
    t95: float
    t95_slopes: float
    other_tools: int = 0

    def predicted(self, on: date) -> float:
        """The line on a day, a fraction."""
        return self.at_start + self.per_year * self._years(on)

    def half_band(self, on: date) -> float:
        """Half the 95 % prediction band on a day: √(t²·s²·(1 + 1/n) + t_b²·s_b²·(x − x̄)²), with s_b = s/√S_xx and t_b = t
        for a slope of the tool's own."""
        return self._half_band(self._years(on))

    def line_reaches(self, limit: float) -> date | None:
        """The day on which the line leaves ±``limit``; None when not within fifty years after the last result."""
        return self._crossing(limit, lambda _years: 0.0)

    def band_reaches(self, limit: float) -> date | None:
        """The first day from the last result on which the prediction band touches ±``limit``; None as above."""
        return self._crossing(limit, self._half_band)

    def _years(self, on: date) -> float:
        return (on - self.first).days / YEAR

    def _half_band(self, years: float) -> float:
        level = self.t95 * self.spread * math.sqrt(1 + 1 / self.count)
        return math.hypot(level, self.t95_slopes * self.slopes_differ * (years - self.mean_year))

    def _crossing(self, limit: float, half: Callable[[float], float]) -> date | None:
        positive("limit_percent", limit)

        def beyond(years: float) -> bool:
            return abs(self.at_start + self.per_year * years) + half(years) >= limit

        start = self._years(self.last)
        if beyond(start):
            return self.last
        end = start + HORIZON
        steps = np.linspace(start, end, 2001)
        outside = next((i for i, y in enumerate(steps) if beyond(float(y))), None)
        if outside is None:
            return None
        low, high = float(steps[outside - 1]), float(steps[outside])
        for _ in range(60):
            middle = (low + high) / 2
            low, high = (low, middle) if beyond(middle) else (middle, high)
        return self.first + timedelta(days=math.floor(high * YEAR + 1e-6))


def drift(results: Sequence[DatedDeviation]) -> Drift:
    """Least squares of deviation on time, with a Student band. Raises InputRefused with fewer than three results, with
    dates not rising, or with a deviation that is not finite. Source: ISO/IEC Guide 98-3, H.3; Draper & Smith, 1.4.

    >>> days = (date(2023, 3, 6), date(2024, 3, 11), date(2025, 3, 3), date(2026, 3, 9))
    >>> found = drift([DatedDeviation(d, a) for d, a in zip(days, (0.004, 0.009, 0.017, 0.021))])
    >>> round(found.per_year * 100, 3), str(found.line_reaches(0.04)), str(found.band_reaches(0.04))
    (0.589, '2029-04-21', '2027-09-22')
    """
    if len(results) < 3:
        raise InputRefused("results", len(results), tr("a drift needs at least three results"))
    x, y = _columns(results)
    line = _line(x, y)
    spread = math.sqrt(line.residual / (len(results) - 2))
    t95 = _t95(len(results) - 2)
    return Drift(
        first=results[0].on,
        last=results[-1].on,
        per_year=line.slope,
        at_start=float(y.mean() - line.slope * x.mean()),
        spread=spread,
        count=len(results),
        mean_year=float(x.mean()),
        slopes_differ=spread / math.sqrt(line.square_sum),
        t95=t95,
        t95_slopes=t95,
    )


def pooled_drift(results: Sequence[DatedDeviation], others: Sequence[Sequence[DatedDeviation]]) -> Drift:
    """The drift of a tool with one or two results, its slope taken from ``others``, the histories of its model's tools.

    The slope is Σ S_xy/Σ S_xx over the tools, the spread that of the results about each tool's own line with Σ(n − 2)
    degrees of freedom (about the common slope where no tool has three results), and the line goes through the tool's own
    mean. But tools drift differently: the slope of this one has the variance of the slopes between tools, weighted as they
    are pooled (p = S_xx/Σ S_xx), Σ p·(b − b̄)²/(1 − Σp²), and of their mean; with a factor for 1/Σp² − 1 degrees of
    freedom. One tool alone tells nothing of how they differ: as much as the drift itself is taken. Raises InputRefused
    without a result, or where the histories together leave no degree of freedom. Source: random slopes by the method of
    moments (Searle, Casella & McCulloch, Variance Components, 5).

    >>> history = [DatedDeviation(date(2023 + i, 3, 6), a) for i, a in enumerate((0.004, 0.009, 0.017, 0.021))]
    >>> found = pooled_drift([DatedDeviation(date(2026, 3, 6), 0.01)], [history])
    >>> round(found.per_year * 100, 2), found.other_tools
    (0.59, 1)
    """
    if not results:
        raise InputRefused("results", 0, tr("a drift needs at least one result"))
    told = [h for h in others if len(h) >= 2]
    groups = [_columns(results), *(_columns(h) for h in told)]
    freedom = sum(len(x) for x, _ in groups) - len(groups) - 1
    lines = [_line(x, y) for x, y in groups if len(x) >= 2]
    if freedom < 1 or not lines:
        raise InputRefused("results", len(results), tr("neither this tool nor others of its model have enough results"))
    weights = np.array([line.square_sum for line in lines])
    slopes = np.array([line.slope for line in lines])
    slope = float(weights @ slopes / weights.sum())
    about_each = sum(line.residual for line in lines)
    own_freedom = sum(line.results - 2 for line in lines)
    about_one = about_each + float(weights @ (slopes - slope) ** 2)
    variance = about_each / own_freedom if own_freedom else about_one / freedom
    t95 = _t95(own_freedom or freedom)
    shares = weights / weights.sum()
    left = 1 - float(shares @ shares)
    if len(lines) > 1:
        between, t95_slopes = float(shares @ (slopes - slope) ** 2) / left * (2 - left), _t95(1 / (1 - left) - 1)
    else:
        between, t95_slopes = slope**2 + variance / float(weights.sum()), t95
    x, y = groups[0]
    return Drift(
        first=results[0].on,
        last=results[-1].on,
        per_year=slope,
        at_start=float(y.mean() - slope * x.mean()),
        spread=math.sqrt(variance),
        count=len(results),
        mean_year=float(x.mean()),
        slopes_differ=math.sqrt(between),
        t95=t95,
        t95_slopes=t95_slopes,
        other_tools=len(told),
    )


class _Line(NamedTuple):
    """The least-squares line of one tool: what its results leave to it (a sum of squares), and S_xx."""

    slope: float
    residual: float
    square_sum: float
    results: int


def _line(x: Values, y: Values) -> _Line:
    off, moved = x - x.mean(), y - y.mean()
    square_sum = float(off @ off)
    slope = float(off @ moved) / square_sum
    left = moved - slope * off
    return _Line(slope, float(left @ left), square_sum, len(x))


def _columns(results: Sequence[DatedDeviation]) -> tuple[Values, Values]:
    """Years from the first result, and the deviations."""
    for i, (earlier, later) in enumerate(pairwise(results)):
        if later.on <= earlier.on:
            raise InputRefused(f"results[{i + 1}].date", later.on, tr("must be later than the one before it"))
    x = np.array([(r.on - results[0].on).days / YEAR for r in results])
    y = np.array([finite(f"results[{i}].deviation_percent", r.deviation) for i, r in enumerate(results)])
    return x, y


def _t95(freedom: float) -> float:
    from scipy.special import stdtrit  # loads slowly; only drift and Student's coverage need it

    return float(stdtrit(freedom, BAND))
