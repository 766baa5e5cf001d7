"""A control chart of a reference's own checks: its mean, its standard deviation, and what stands off them.

Source: Shewhart's individuals, warning at 2 and action at 3 standard deviations (ISO 7870-2:2013, 6).

A reference held against another one at a torque: the difference, what it is worth, and whether the two agree.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.arrays import positive_array
from reckoner.core.quantities.checks import at_most, finite, not_negative
from reckoner.core.requirements.rules import Coverage
from reckoner.core.translation import mark, tr
from reckoner.core.uncertainty.budget import coverage_factor

FEWEST = 4
"""Earlier checks from which a standard deviation says something."""

WARNING, ACTION = 2.0, 3.0


class Control(StrEnum):
    """How a check stands to those before it, and to what the reference may be off."""

    TOO_FEW = mark("too few before it")
    STEADY = mark("steady")
    WARN = mark("warning")
    STOP = mark("stop")


@dataclass(frozen=True)
class Checked:
    """One check: its relative difference, how it stands, and against which ``mean`` and ``deviation`` of those before it
    (None where they are too few)."""

    difference: float
    control: Control
    mean: float | None = None
    deviation: float | None = None
    beyond_limit: bool = False

    @property
    def distance(self) -> float | None:
        """How many standard deviations it stands off its mean."""
        if self.mean is None or not self.deviation:
            return None
        return (self.difference - self.mean) / self.deviation


def control_chart(differences: Sequence[float], limit: float | None = None, doubt: float = 0.0) -> tuple[Checked, ...]:
    """Each of the ``differences`` (fractions, oldest first) held against those before it, and |difference| + ``doubt``
    against the ``limit`` that the reference has of its own (None: it has none). Source: Shewhart's individuals; ISO
    7870-2:2013, 6.

    A check that stops is not counted among those that later ones are held against. Raises InputRefused.

    >>> [c.control.value for c in control_chart([0.001, 0.0012, 0.0009, 0.0011, 0.0010, 0.0014, 0.003])]
    ['too few before it', 'too few before it', 'too few before it', 'too few before it', 'steady', 'stop', 'stop']
    """
    not_negative("doubt", doubt)
    made: list[Checked] = []
    steady: list[float] = []
    for i, difference in enumerate(differences):
        finite(f"differences[{i}]", difference)
        beyond = limit is not None and not at_most(abs(difference) + doubt, limit)
        mean = deviation = None
        control = Control.TOO_FEW
        if len(steady) >= FEWEST:
            mean = math.fsum(steady) / len(steady)
            deviation = math.sqrt(math.fsum((d - mean) ** 2 for d in steady) / (len(steady) - 1))
            off = abs(difference - mean)
            control = (
                Control.STOP
                if off > ACTION * deviation
                else Control.WARN
                if off > WARNING * deviation
                else Control.STEADY
            )
        if beyond:
            control = Control.STOP
        if control is not Control.STOP:
            steady.append(difference)
        made.append(Checked(difference, control, mean, deviation, beyond))
    return tuple(made)


@dataclass(frozen=True)
class Agreement:
    """The mean relative ``difference`` of what was indicated from what was actual, its expanded uncertainty U (k = 2, or
    Student's where that is larger), the scatter s (None with one reading), and how many readings.

    ``normalised`` is |difference|/√(U² + W²) with the W that the reference claims; None where it claims none.
    """

    difference: float
    expanded_uncertainty: float
    scatter: float | None
    count: int
    normalised: float | None

    @property
    def agrees(self) -> bool | None:
        """Whether both can be right; None where the reference claims nothing."""
        return None if self.normalised is None else self.normalised <= 1.0


def agreement(
    indicated: Sequence[float],
    actual: Sequence[float],
    actual_uncertainty: float,
    resolution: float = 0.0,
    claimed: float | None = None,
) -> Agreement:
    """Pairs of what a reference indicated and what was there, N·m, near one torque.

    ``actual_uncertainty`` and ``claimed`` are W (k = 2) as fractions, ``resolution`` the reference's step in N·m. u² =
    (W/2)² + (r/2√3)² + s²/n, relative. Raises InputRefused for lists that do not pair. Source: JCGM 100:2008, 4.3.7, 5.1.2
    and G.4; the normalised error of ISO 13528:2022, 9.6.

    >>> found = agreement([40.1, 40.12, 40.08], [40, 40, 40], 0.002, 0.01, 0.005)
    >>> round(found.difference, 5), round(found.expanded_uncertainty, 5), found.agrees
    (0.0025, 0.00209, True)
    """
    shown, true = positive_array("indicated", indicated), positive_array("actual", actual)
    if len(shown) != len(true):
        raise InputRefused(
            "actual", len(true), tr("has {count} values for {count_2} indicated", count=len(true), count_2=len(shown))
        )
    not_negative("actual_uncertainty", actual_uncertainty)
    differences = shown / true - 1
    n, difference = len(differences), float(differences.mean())
    scatter = float(differences.std(ddof=1)) if n > 1 else None
    by_scatter = 0.0 if scatter is None else scatter / math.sqrt(n)
    by_step = not_negative("resolution", resolution) / 2 / math.sqrt(3.0) / float(shown.mean())
    u = math.hypot(actual_uncertainty / 2, by_step, by_scatter)
    k = 2.0
    if by_scatter:
        k = max(k, coverage_factor(Coverage.STUDENT, (n - 1) * (u / by_scatter) ** 4))
    expanded = k * u
    normalised = None if claimed is None else abs(difference) / math.hypot(expanded, claimed)
    return Agreement(difference, expanded, scatter, n, normalised)
