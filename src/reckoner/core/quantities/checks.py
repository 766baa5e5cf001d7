"""Refusing numbers that no measurement can have. Used at the door of every public function."""

from __future__ import annotations

import math
from collections.abc import Iterable

from reckoner.core.errors import InputRefused
from reckoner.core.translation import tr

SLACK = 1e-9
"""What a value may lie past a bound for binary rounding, as a part of the bound: a value on a limit is inside, everywhere."""


def at_most(value: float, bound: float) -> bool:
    """Whether ``value`` is no larger than ``bound``, but for binary rounding. Refuses nothing.

    >>> at_most(0.1 + 0.2, 0.3), at_most(0.3001, 0.3)
    (True, False)
    """
    return value <= bound + SLACK * abs(bound)


def at_least(value: float, bound: float) -> bool:
    """Whether ``value`` is no smaller than ``bound``, but for binary rounding. Refuses nothing."""
    return value >= bound - SLACK * abs(bound)


def finite(field: str, value: float) -> float:
    """``value`` as a float. Raises InputRefused unless it is a finite number."""
    try:
        number = float(value)
    except (TypeError, ValueError, OverflowError):
        raise InputRefused(field, value, tr("{value!r} is not a number", value=value)) from None
    if not math.isfinite(number):
        raise InputRefused(field, value, tr("{number} is not a finite number", number=number))
    return number


def positive(field: str, value: float) -> float:
    """``value`` if finite and above zero. Raises InputRefused otherwise."""
    if type(value) is float and 0.0 < value < math.inf:
        return value
    number = finite(field, value)
    if number <= 0:
        raise InputRefused(field, value, tr("must be above zero, not {number:g}", number=number))
    return number


def not_negative(field: str, value: float) -> float:
    """``value`` if finite and zero or above. Raises InputRefused otherwise."""
    number = finite(field, value)
    if number < 0:
        raise InputRefused(field, value, tr("must not be negative, not {number:g}", number=number))
    return number


def between(field: str, value: float, low: float, high: float, unit: str = "") -> float:
    """``value`` if low ≤ value ≤ high. Raises InputRefused otherwise; bounds are named with ``unit``."""
    number = finite(field, value)
    if not low <= number <= high:
        unit = f" {unit}" if unit else ""
        raise InputRefused(
            field,
            value,
            tr(
                "must lie between {low:g} and {high:g}{unit}, not {number:g}",
                low=low,
                high=high,
                unit=unit,
                number=number,
            ),
        )
    return number


def whole(field: str, value: object, low: int, high: int) -> int:
    """``value`` if it is a whole number with low ≤ value ≤ high. Raises InputRefused otherwise."""
    if isinstance(value, bool) or not isinstance(value, int):
        raise InputRefused(field, value, tr("must be a whole number, not {value!r}", value=value))
    if not low <= value <= high:
        raise InputRefused(
            field, value, tr("must lie between {low} and {high}, not {value}", low=low, high=high, value=value)
        )
    return value


def positive_tuple(field: str, values: Iterable[float]) -> tuple[float, ...]:
    """At least one value, each finite and above zero. Raises InputRefused naming the first that is not."""
    given = tuple(values)
    try:
        numbers = tuple(map(float, given))
    except (TypeError, ValueError, OverflowError):
        numbers = ()
    if numbers and min(numbers) > 0.0 and sum(numbers) < math.inf:  # a NaN fails the second
        return numbers
    if not given:
        raise InputRefused(field, list(given), tr("needs at least a value, got 0"))
    return tuple(positive(f"{field}[{i}]", value) for i, value in enumerate(given))
