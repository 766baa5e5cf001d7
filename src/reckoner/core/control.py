"""A control chart of a reference's own checks: its mean, its standard deviation, and what stands off them.

Source: Shewhart's individuals, warning at 2 and action at 3 standard deviations (ISO 7870-2:2013, 6).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.checks import at_most, finite, not_negative
from reckoner.core.translation import mark

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
    against the ``limit`` that the reference has of its own (None: it has none).

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
