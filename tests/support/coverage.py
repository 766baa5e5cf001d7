"""How often W holds the truth and a rule accepts what it should not: by drawing runs whose truth is known.

A run is a tool that is off by ``truth`` at 120 N·m, n pulls with their scatter, and a reference that is wrong by its known
error and by what its certificate leaves open. `python -m tests.support.coverage` prints the table of docs/calculations.md.
"""

from dataclasses import dataclass

import numpy as np

from reckoner.core.budget import Observations, budget
from reckoner.core.decision import judge
from reckoner.core.kinds import ToolKind, ToolType
from reckoner.core.reference import KnownError, ReferenceAtPoint
from reckoner.core.rules import Coverage, Decision, Rule

LIMIT = 0.04
TARGET = 120.0
TOOL = ToolKind(ToolType.SETTING, "A", 200.0, 40.0, 0.0)
SCATTER, REFERENCE = (0.01, 0.0005), (0.0005, 0.004)
"""(scatter of a pull, w of the reference): where the one and where the other dominates."""


@dataclass(frozen=True)
class Shares:
    """Of the runs: ``covered`` the truth by ā ± (W + |b_ep|); accepted although the tool is off by the limit, by each
    rule."""

    covered: float
    accepted: dict[Rule, float]


def shares(count, dominates, coverage, known, error=0.0, runs=2000, seed=1, truth=LIMIT):
    """The shares of ``runs`` with ``count`` readings each."""
    scatter, w = dominates
    rng = np.random.default_rng([seed, count])
    torque = TARGET / (1 + truth) * (1 + scatter * rng.standard_normal((runs, count)))
    shown = torque * (1 + error) * (1 + w * rng.standard_normal((runs, 1)))
    reference = ReferenceAtPoint(2 * w, error=error, known=known)
    covered, accepted = 0, dict.fromkeys(Rule, 0)
    for readings in shown.tolist():
        found = budget(Observations.of_readings(TARGET, readings), TOOL, reference, coverage=coverage)
        covered += abs(found.deviation - truth) <= found.expanded_uncertainty + abs(found.reference_error)
        for rule in Rule:
            accepted[rule] += judge(found, LIMIT, Decision(rule, coverage=coverage)).accepted is True
    return Shares(covered / runs, {rule: hits / runs for rule, hits in accepted.items()})


def table(runs=4000):
    """Lines of the table in docs/calculations.md, in per cent."""
    for dominates, word in ((SCATTER, "scatter"), (REFERENCE, "reference")):
        for coverage in Coverage:
            for known, error in (
                (KnownError.CORRECTED, 0.005),
                (KnownError.COUNTED, 0.005),
                (KnownError.COUNTED, -0.005),
            ):
                for count in (2, 3, 5, 10):
                    found = shares(count, dominates, coverage, known, error, runs)
                    rules = " | ".join(f"{found.accepted[rule] * 100:.1f}" for rule in Rule)
                    treated = "corrected" if known is KnownError.CORRECTED else f"left, {error * 100:+.1f} %"
                    yield f"| {word} | {treated} | {coverage.value} | {count} | {found.covered * 100:.1f} | {rules} |"


if __name__ == "__main__":
    print("\n".join(table()))
