"""What a characterisation is worth: the b value that a budget takes for a range of means, and how well it is known."""

from __future__ import annotations

import math
from collections.abc import Sequence

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.arrays import positive_array
from reckoner.core.quantities.checks import between, not_negative, positive, whole
from reckoner.core.translation import tr
from reckoner.core.uncertainty.budget import EffectWidth

RANGE_FACTORS = {2: 1.128, 3: 1.693, 4: 2.059, 5: 2.326, 6: 2.534, 7: 2.704, 8: 2.847, 9: 2.970, 10: 3.078}
"""d₂: the mean range of so many draws from a normal distribution, in its standard deviations (ISO 7870-2:2013, table 2)."""

RANGE_FREEDOMS = {2: 1.00, 3: 1.98, 4: 2.93, 5: 3.83, 6: 4.68, 7: 5.48, 8: 6.25, 9: 6.98, 10: 7.68}
"""ν: the degrees of freedom with which such a range tells of the standard deviation (Patnaik 1950)."""

MOST = max(RANGE_FACTORS)


def width_of_range(spread: float, of: int, scatter: float = 0.0, readings: int = 1) -> EffectWidth:
    """The b value for the range ``spread`` (N·m) of 2 to 10 means over places taken at random, each of so many ``readings``
    that scatter by ``scatter`` (N·m).

    R/d₂ is the standard deviation of the means; their own scatter, s²/n, is taken out of its square, not below zero; b is the
    width of the rectangle that has what is left: 2√3·σ. A budget's b/(2√3) is then what the range really tells. It is known
    with the ν of the range, in the proportion in which something of it is left: a small difference of two estimates is known
    worse than each of them. Raises InputRefused for another number of means, and for numbers that no measurement has.
    Source: ISO 6789-2:2017, 6.2; ISO 7870-2:2013; Patnaik 1950.

    >>> found = width_of_range(0.7, 4)
    >>> round(found.b, 3), found.degrees_of_freedom
    (1.178, 2.93)
    >>> found = width_of_range(0.7, 4, scatter=0.5, readings=5)
    >>> round(found.b, 3), round(found.degrees_of_freedom, 2)
    (0.887, 1.66)
    """
    if of not in RANGE_FACTORS:
        raise InputRefused("of", of, tr("a range of {of} means is not used; take 2 to {most}", of=of, most=MOST))
    whole_range = (not_negative("value", spread) / RANGE_FACTORS[of]) ** 2
    left = max(0.0, whole_range - not_negative("scatter", scatter) ** 2 / whole("readings", readings, 1, 10_000))
    freedom = RANGE_FREEDOMS[of]
    return EffectWidth(math.sqrt(12 * left), freedom * left / whole_range if left else freedom)


def width_of_means(means: Sequence[float], scatter: float = 0.0, readings: int = 1) -> EffectWidth:
    """The same from the ``means`` themselves (N·m). Errors as ``width_of_range``, also for a mean that is not above zero.
    Source: as ``width_of_range``.

    >>> round(width_of_means([118.2, 118.6, 118.4, 118.9]).b, 3)
    1.178
    """
    values = positive_array("means", means, at_least=2)
    return width_of_range(float(values.max() - values.min()), len(values), scatter, readings)


def width_of_difference(difference: float, scatter: float = 0.0, readings: int = 1) -> EffectWidth:
    """The b value for two means at the ends of what the hand does, 10 mm nearer and further out: their ``difference`` itself
    (N·m), less what two means of ``readings`` differ by for their scatter alone, s·√(2/n).

    It is known with ½·(Δu/u)⁻² degrees, Δu that scatter (JCGM 100:2008, G.4.2), and at least with one; infinitely well where
    nothing scatters. Raises InputRefused for numbers that no measurement has. Source: ISO 6789-2:2017, 6.2.

    >>> found = width_of_difference(0.6, scatter=0.2, readings=5)
    >>> round(found.b, 3), round(found.degrees_of_freedom, 2)
    (0.587, 10.75)
    """
    b = abs(difference)
    noise = 2 * not_negative("scatter", scatter) ** 2 / whole("readings", readings, 1, 10_000)
    left = max(0.0, b * b - noise)
    return EffectWidth(math.sqrt(left), max(1.0, left / (2 * noise)) if noise else math.inf)


def freedom_of(reliability: float) -> float:
    """The degrees of freedom of a standard uncertainty that is trusted to ±``reliability`` (a fraction): ½·r⁻².

    Raises InputRefused outside 1 to 100 %. Source: JCGM 100:2008, G.4.2.

    >>> round(freedom_of(0.25), 6)
    8.0
    """
    r = between("reliability", positive("reliability", reliability) * 100, 1, 100, "%") / 100
    return 0.5 / (r * r)
