"""How often W holds the truth and a rule accepts what it should not: by drawing runs whose truth is known.

A run is a tool that is off by ``truth`` at 120 N·m, n pulls with their scatter, a reference that is wrong by its known error
and by what its certificate leaves open, and a mounting of its own, of whose scatter a characterisation tells by the range of
four means of five readings. `python -m tests.support.coverage` prints the table of docs/calculations.md.
"""

from dataclasses import dataclass

import numpy as np

from reckoner.core.decision.conformity import judge
from reckoner.core.reference.certificate import KnownError, ReferenceAtPoint
from reckoner.core.requirements.rules import Coverage, Decision, Rule
from reckoner.core.requirements.tooltypes import ToolKind, ToolType
from reckoner.core.uncertainty.budget import Effects, Observations, budget
from reckoner.core.uncertainty.characterisation import width_of_means

LIMIT = 0.04
TARGET = 120.0
TOOL = ToolKind(ToolType.SETTING, "A", 200.0, 40.0, 0.0)
PLACES, AT_EACH = 4, 5


@dataclass(frozen=True)
class Of:
    """Where the doubt comes from, relative standard deviations: the ``scatter`` of a pull, w of the ``reference``, and what
    one ``mounting`` differs from another by (0: not characterised)."""

    scatter: float
    reference: float
    mounting: float = 0.0


SCATTER, REFERENCE, MOUNTING = Of(0.01, 0.0005), Of(0.0005, 0.004), Of(0.001, 0.0005, 0.008)
"""Where the one, the other or the third dominates."""


@dataclass(frozen=True)
class Shares:
    """Of the runs: ``covered`` the truth by ā ± (W + |b_ep|); accepted although the tool is off by the limit, by each
    rule."""

    covered: float
    accepted: dict[Rule, float]


def shares(count, dominates, coverage, known, error=0.0, runs=2000, seed=1, truth=LIMIT):
    """The shares of ``runs`` with ``count`` readings each."""
    rng = np.random.default_rng([seed, count])
    torque = TARGET / (1 + truth) * (1 + dominates.scatter * rng.standard_normal((runs, count)))
    mounted = 1 + dominates.mounting * rng.standard_normal((runs, 1))
    shown = torque * mounted * (1 + error) * (1 + dominates.reference * rng.standard_normal((runs, 1)))
    reference = ReferenceAtPoint(2 * dominates.reference, error=error, known=known)
    covered, accepted = 0, dict.fromkeys(Rule, 0)
    for readings in shown.tolist():
        effects = characterised(rng, dominates) if dominates.mounting else None
        found = budget(Observations.of_readings(TARGET, readings), TOOL, reference, effects, coverage)
        covered += abs(found.deviation - truth) <= found.expanded_uncertainty + abs(found.reference_error)
        for rule in Rule:
            accepted[rule] += judge(found, LIMIT, Decision(rule, coverage=coverage)).accepted is True
    return Shares(covered / runs, {rule: hits / runs for rule, hits in accepted.items()})


def characterised(rng, of):
    """What a characterisation finds of the mountings."""
    places = TARGET * (1 + of.mounting * rng.standard_normal((PLACES, 1)))
    readings = places * (1 + of.scatter * rng.standard_normal((PLACES, AT_EACH)))
    scatter = float(np.sqrt(readings.var(axis=1, ddof=1).mean()))
    return Effects(reproducibility=width_of_means(readings.mean(axis=1), scatter, AT_EACH))


def table(runs=4000):
    """Lines of the table in docs/calculations.md, in per cent."""
    for dominates, word in ((SCATTER, "scatter"), (REFERENCE, "reference"), (MOUNTING, "mounting")):
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
