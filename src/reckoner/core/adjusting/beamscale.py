"""Making or re-marking a beam's scale: a straight line through known torques and their deflections."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import finite, not_negative, positive
from reckoner.core.translation import tr

MOST_MARKS = 500
FEWEST_MARKS = 2


@dataclass(frozen=True)
class Mark:
    """A torque in N·m and the deflection in m (along a rule or an arc)."""

    torque: float
    deflection: float


@dataclass(frozen=True)
class Scale:
    """deflection = ``intercept`` + ``slope``·torque; m and m/(N·m). ``worst_residual`` as a fraction of full deflection; None
    where two marks alone leave none, and nothing tells how straight the beam is."""

    slope: float
    intercept: float
    residuals: tuple[float, ...]
    worst_residual: float | None
    highest: float

    def torque_at(self, deflection: float) -> float:
        """The torque in N·m that a deflection in m reads."""
        return (deflection - self.intercept) / self.slope

    def graduations(self, every: float) -> tuple[Mark, ...]:
        """Marks from 0 to the highest known torque, ``every`` N·m. Raises InputRefused for more than 500."""
        positive("every", every)
        count = math.floor(self.highest / every + 1e-9)
        if not 1 <= count <= MOST_MARKS:
            raise InputRefused(
                "every",
                every,
                tr(
                    "gives {count} marks; choose a step that gives 1 to {most_marks}",
                    count=count,
                    most_marks=MOST_MARKS,
                ),
            )
        return tuple(Mark(i * every, self.intercept + self.slope * i * every) for i in range(count + 1))


def fit(marks: Sequence[Mark]) -> Scale:
    """The least-squares line of deflection on torque. Raises InputRefused with fewer than two marks, marks at one torque
    only, or a beam that does not bend. Choice: the worst residual is told against full deflection; of two marks there is
    none.

    >>> found = fit([Mark(0, 0.0), Mark(20, 0.0125), Mark(40, 0.0251), Mark(60, 0.0374)])
    >>> round(found.slope * 1000, 5), round(found.worst_residual * 100, 2)
    (0.624, 0.29)
    """
    if len(marks) < FEWEST_MARKS:
        raise InputRefused("marks", len(marks), tr("a scale needs at least two marks"))
    x = np.array([not_negative(f"marks[{i}].torque", m.torque) for i, m in enumerate(marks)])
    y = np.array([finite(f"marks[{i}].deflection", m.deflection) for i, m in enumerate(marks)])
    spread = float(((x - x.mean()) ** 2).sum())
    if spread == 0:
        raise InputRefused("marks", len(marks), tr("all marks stand at one torque"))
    slope = float(((x - x.mean()) * (y - y.mean())).sum() / spread)
    if slope == 0:
        raise InputRefused("marks", slope, tr("the deflection does not change with the torque"))
    intercept = float(y.mean() - slope * x.mean())
    residuals = y - intercept - slope * x
    full = abs(slope) * float(x.max())
    worst = None if len(marks) == FEWEST_MARKS else float(np.abs(residuals).max()) / full
    return Scale(slope, intercept, tuple(residuals.tolist()), worst, float(x.max()))
