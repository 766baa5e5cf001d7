"""What a short run says of its tool in a word: fine, leave it alone, adjust, or hold; and why."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.printing import percent
from reckoner.core.states import State
from reckoner.shop.runs.adjusting import comfortable
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.state import RunState


class Says(StrEnum):
    """The word."""

    FINE = "Fine"
    LEAVE = "Leave it alone"
    ADJUST = "Adjust"
    HOLD = "Hold"


@dataclass(frozen=True)
class Conclusion:
    """What is said, and ``why``, which completes a sentence."""

    says: Says
    why: str


def conclude(run: RunState) -> Conclusion | None:
    """The word for a run whose readings are complete; None for one that decides nothing by its kind, or a shop check."""
    found = judged(run).verdict
    if found is None or not run.policy.judges or found.state is State.COMPARED:
        return None
    worst = found.worst.decision
    spare = percent(abs(worst.limit - worst.looked_at), 1)
    adjustable = run.tool.adjustment is not None
    if found.accepted is None:
        return Conclusion(Says.HOLD, "nothing was decided with this reference; test it against a better one")
    if found.accepted and comfortable(run):
        return Conclusion(Says.FINE, f"{spare} to spare, more than half of its limit")
    if found.accepted and found.state is State.INSIDE:
        return Conclusion(Says.LEAVE, f"inside with {spare} to spare, and a turn would not make it better for sure")
    how = f"{spare} too much" if worst.looked_at > worst.limit else f"only {spare} to spare"
    if adjustable:
        return Conclusion(Says.ADJUST, f"{how}; put it on the bench for a full run, with as found and as left")
    if found.accepted:
        return Conclusion(Says.LEAVE, f"{how}, and nobody here adjusts this model; have it tested in full soon")
    return Conclusion(Says.HOLD, f"{how}, and nobody here adjusts this model; send it to a laboratory")
