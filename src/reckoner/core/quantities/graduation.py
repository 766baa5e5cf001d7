"""Settings on a scale: the graduation nearest to a value, and the one that keeps a joint inside its band.

A value half way between two goes away from zero, here and wherever else one is chosen.
"""

from __future__ import annotations

import math

from reckoner.core.quantities.checks import at_least, at_most, positive

_BINARY = 1e-9
"""Of a step: what binary rounding may take from a value half way."""


def nearest_graduation(value: float, step: float) -> float:
    """The multiple of ``step`` nearest to ``value``, both N·m; a tie goes away from zero. Raises InputRefused for a step
    that is not above zero. Source: a scale is set on its marks.

    >>> nearest_graduation(70.25, 0.5), nearest_graduation(-70.25, 0.5), nearest_graduation(0.35, 0.1)
    (70.5, -70.5, 0.4)
    """
    marks = math.floor(abs(value) / positive("graduation", step) + 0.5 + _BINARY)
    return math.copysign(_on(marks, step), value) if marks else 0.0


def graduation_inside(value: float, step: float, low: float, high: float) -> float:
    """The graduation nearest to ``value``, but never below ``low`` or above ``high`` where one lies between them: the low
    end of a band is rounded up, its high end down. All in N·m. Errors as ``nearest_graduation``. Source: a scale is set on
    its marks.

    >>> graduation_inside(76.3, 1, 76.3, 84), graduation_inside(83.7, 1, 76, 83.7), graduation_inside(80.4, 1, 80.2, 80.8)
    (77.0, 83.0, 80.0)
    """
    nearest = nearest_graduation(value, step)
    first, last = math.ceil(low / step - _BINARY), math.floor(high / step + _BINARY)
    if (at_least(nearest, low) and at_most(nearest, high)) or first > last:
        return nearest
    return _on(first, step) if nearest < low else _on(last, step)


def _on(marks: int, step: float) -> float:
    """So many steps, without the dust of a binary product where the step is a decimal one."""
    return float(round(marks * step, 12))
