"""What a range of means is worth: the factor d₂, and the b value that a budget takes for it."""

from __future__ import annotations

import math
from collections.abc import Sequence

from reckoner.core.arrays import positive_array
from reckoner.core.errors import InputRefused

RANGE_FACTORS = {2: 1.128, 3: 1.693, 4: 2.059, 5: 2.326, 6: 2.534, 7: 2.704, 8: 2.847, 9: 2.970, 10: 3.078}
"""d₂: the mean range of so many draws from a normal distribution, in its standard deviations (ISO 7870-2:2013, table 2)."""


def spread_of_range(means: Sequence[float]) -> float:
    """The standard deviation in N·m that a range of 2 to 10 ``means`` tells of: (largest − smallest)/d₂.

    Raises InputRefused for another number of means, or one that is not above zero. Source: ISO 7870-2:2013.

    >>> round(spread_of_range([118.2, 118.6, 118.4, 118.9]), 4)
    0.34
    """
    values = positive_array("means", means, at_least=2)
    factor = RANGE_FACTORS.get(len(values))
    if factor is None:
        raise InputRefused(
            "means", len(values), f"a range of {len(values)} means is not used; take at most {max(RANGE_FACTORS)}"
        )
    return float(values.max() - values.min()) / factor


def width(means: Sequence[float]) -> float:
    """The b value in N·m for ``means`` over places taken at random: the width of the rectangle that has their standard
    deviation, 2√3·R/d₂. A budget's b/(2√3) is then what the range really tells; the range itself would say 1.7 times too
    little for four. Errors as ``spread_of_range``. Source: ISO 6789-2:2017, 6.2, with d₂.

    >>> round(width([118.2, 118.6, 118.4, 118.9]), 3)
    1.178
    """
    return 2 * math.sqrt(3.0) * spread_of_range(means)
