"""The order in which a set of fasteners is tightened: a cross on a circle, from the middle outwards in rows."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import positive, whole
from reckoner.core.translation import tr

MOST = 400


@dataclass(frozen=True)
class Pass:
    """One pass over all fasteners: its name, its torque in N·m, and the fasteners' numbers from 1 in order."""

    stage: str
    torque: float
    order: tuple[int, ...]


def circle(fasteners: int) -> tuple[int, ...]:
    """The cross pattern for 1 to 400 fasteners numbered round a circle. Raises InputRefused. Source: shop practice:
    opposite pairs.

    Even: opposite pairs, each as far as may be from those done. Odd: a star that never goes to a neighbour.

    >>> circle(8), circle(5), circle(12)
    ((1, 5, 3, 7, 2, 6, 4, 8), (1, 3, 5, 2, 4), (1, 7, 4, 10, 2, 8, 5, 11, 3, 9, 6, 12))
    """
    n = whole("fasteners", fasteners, 1, MOST)
    if n <= 3:
        return tuple(range(1, n + 1))
    if n % 2:
        step = (n - 1) // 2
        return tuple(i * step % n + 1 for i in range(n))
    half = n // 2
    done = [0]
    while len(done) < half:
        left = [k for k in range(half) if k not in done]
        done.append(max(left, key=lambda k: (min(_apart(k, d, half) for d in done), _apart(k, done[-1], half), -k)))
    return tuple(number for k in done for number in (k + 1, k + half + 1))


def _apart(one: int, other: int, around: int) -> int:
    return min((one - other) % around, (other - one) % around)


def rows(count: int, columns: int) -> tuple[int, ...]:
    """``count`` rows of ``columns``, numbered along the rows: from the middle outwards, then the opposite one. Raises
    InputRefused. Source: shop practice: from the middle outwards.

    >>> rows(2, 3)
    (2, 5, 1, 6, 3, 4)
    """
    whole("rows", count, 1, MOST)
    whole("columns", columns, 1, MOST)
    whole("fasteners", count * columns, 1, MOST)
    middle = ((count - 1) / 2, (columns - 1) / 2)
    places = [(r, c) for r in range(count) for c in range(columns)]
    left = sorted(places, key=lambda p: (math.dist(p, middle), p))
    order: list[tuple[int, int]] = []
    while left:
        first = left.pop(0)
        order.append(first)
        opposite = (count - 1 - first[0], columns - 1 - first[1])
        if opposite in left:
            left.remove(opposite)
            order.append(opposite)
    return tuple(r * columns + c + 1 for r, c in order)


def passes(order: Sequence[int], stages: Sequence[float], aim: float) -> tuple[Pass, ...]:
    """A pass for each stage (fractions of ``aim``, rising, the last 1), then a check pass round all at ``aim`` N·m. Source:
    shop practice: even parts of the final torque.

    Raises InputRefused when the stages do not rise or do not end at the aim.

    >>> [(p.stage, p.torque) for p in passes(circle(4), (0.3, 0.7, 1.0), 80)]
    [('30 %', 24.0), ('70 %', 56.0), ('100 %', 80.0), ('check', 80.0)]
    """
    aim = positive("aim", aim)
    if not stages:
        raise InputRefused("stages", (), tr("give at least one stage, such as 100 %"))
    for i, stage in enumerate(stages):
        positive(f"stages[{i}]", stage)
        if i and stage <= stages[i - 1]:
            raise InputRefused(f"stages[{i}]", stage, tr("each stage must be higher than the one before it"))
    if not math.isclose(stages[-1], 1.0, rel_tol=1e-9):
        raise InputRefused(f"stages[{len(stages) - 1}]", stages[-1], tr("the last stage must be the aim itself, 100 %"))
    made = [Pass(f"{stage * 100:g} %", stage * aim, tuple(order)) for stage in stages]
    return (*made, Pass("check", aim, tuple(sorted(order))))
