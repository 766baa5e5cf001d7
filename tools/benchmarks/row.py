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


def alternately(
    one: Callable[[], object], other: Callable[[], object], rounds: int, repeat: int = 1
) -> tuple[float, float]:
    """The least seconds that each took, run in turns so that a busy machine disturbs both alike."""
    best = [float("inf"), float("inf")]
    gc.collect()
    gc.disable()
    for _ in range(rounds):
        for i, function in enumerate((one, other)):
            begun = time.perf_counter()
            for _ in range(repeat):
                function()
            best[i] = min(best[i], (time.perf_counter() - begun) / repeat)
    gc.enable()
    return best[0], best[1]
