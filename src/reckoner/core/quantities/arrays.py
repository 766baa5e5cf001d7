"""Numbers in arrays, refused where no measurement can have them."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

import numpy as np
import numpy.typing as npt

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import finite, positive
from reckoner.core.translation import tr, tr_count

Values = npt.NDArray[np.float64]
"""A one-dimensional array of doubles."""


def block_means(values: Values, length: int) -> Values:
    """The mean of each whole block of ``length`` values (at least 1); what is left at the end is not in them. Refuses
    nothing."""
    if length == 1:
        return values
    means: Values = values[: len(values) // length * length].reshape(-1, length) @ np.full(length, 1 / length)
    return means


def array(field: str, values: Iterable[float], *, at_least: int = 1) -> Values:
    """A one-dimensional array of finite numbers. Raises InputRefused naming the first one that is not."""
    given: Sequence[float] = list(values)
    if len(given) < at_least:
        need = tr_count("a value", "{n} values", at_least)
        raise InputRefused(field, given, tr("needs at least {need}, got {count}", need=need, count=len(given)))
    return np.array([finite(f"{field}[{i}]", v) for i, v in enumerate(given)], dtype=np.float64)


def positive_array(field: str, values: Iterable[float], *, at_least: int = 1) -> Values:
    """Like ``array``, each value above zero. Raises InputRefused."""
    given = array(field, values, at_least=at_least)
    for i, value in enumerate(given):
        positive(f"{field}[{i}]", float(value))
    return given
