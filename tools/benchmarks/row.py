"""One line of the table, and how a time is taken."""

from __future__ import annotations

import gc
import time
from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True)
class Row:
    """A figure with its bound; ``unit`` is empty for a ratio. ``low`` and ``high`` are the least and the greatest of the
    rounds that it is the middle of, where there were several."""

    name: str
    figure: float
    at_most: float | None = None
    at_least: float | None = None
    unit: str = ""
    low: float | None = None
    high: float | None = None

    @property
    def kept(self) -> bool:
        return (self.at_most is None or self.figure <= self.at_most) and (
            self.at_least is None or self.figure >= self.at_least
        )

    def __str__(self) -> str:
        bound = f"at most {self.at_most:g}" if self.at_most is not None else f"at least {self.at_least or 0:g}"
        spread = f"{self.low:.2f} to {self.high:.2f}" if self.low is not None and self.high is not None else ""
        verdict = "ok" if self.kept else "MISSED"
        return f"{self.name:<72} {self.figure:8.2f} {self.unit:<3} {bound:<14} {verdict:<6} {spread}".rstrip()


@dataclass(frozen=True)
class Ratio:
    """How many times as long ``other`` takes as ``one``, by the least seconds of each, which a busy machine disturbs least;
    and between what eight in ten of the rounds lie."""

    figure: float
    low: float
    high: float
    one: float
    other: float

    def row(self, name: str, *, at_most: float | None = None, at_least: float | None = None) -> Row:
        return Row(name, self.figure, at_most, at_least, low=self.low, high=self.high)


def ratio(one: Callable[[], object], other: Callable[[], object], rounds: int, repeat: int = 1) -> Ratio:
    """Run both in turns, so that a busy machine disturbs both alike, and go by the processor's time."""
    gc.collect()
    gc.disable()
    took: list[tuple[float, float]] = []
    for _ in range(rounds + 1):
        pair = []
        for function in (one, other):
            begun = time.process_time()
            for _ in range(repeat):
                function()
            pair.append((time.process_time() - begun) / repeat)
        took.append((pair[0], pair[1]))
    gc.enable()
    ratios = sorted(b / a for a, b in took[1:])  # the first round warms up
    cut = len(ratios) // 10
    kept = ratios[cut : len(ratios) - cut]
    one_took, other_took = min(a for a, _ in took[1:]), min(b for _, b in took[1:])
    return Ratio(other_took / one_took, kept[0], kept[-1], one_took, other_took)
