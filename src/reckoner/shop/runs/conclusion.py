"""What a short run says of its tool in a word: fine, leave it alone, adjust, or hold; and why."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.printing import percent
from reckoner.core.states import State
from reckoner.core.translation import mark, tr
from reckoner.shop.runs.adjusting import comfortable
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.state import RunState


class Says(StrEnum):
    """The word."""

    FINE = mark("Fine")
    LEAVE = mark("Leave it alone")
    ADJUST = mark("Adjust")
    HOLD = mark("Hold")


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
        return Conclusion(Says.HOLD, tr("nothing was decided with this reference; test it against a better one"))
    if found.accepted and comfortable(run):
        return Conclusion(Says.FINE, tr("{spare} to spare, more than half of its limit", spare=spare))
    if found.accepted and found.state is State.INSIDE:
        return Conclusion(
            Says.LEAVE, tr("inside with {spare} to spare, and a turn would not make it better for sure", spare=spare)
        )
    how = (
        tr("{spare} too much", spare=spare)
        if worst.looked_at > worst.limit
        else tr("only {spare} to spare", spare=spare)
    )
    if adjustable:
        return Conclusion(
            Says.ADJUST, tr("{how}; put it on the bench for a full run, with as found and as left", how=how)
        )
    if found.accepted:
        return Conclusion(
            Says.LEAVE, tr("{how}, and nobody here adjusts this model; have it tested in full soon", how=how)
        )
    return Conclusion(Says.HOLD, tr("{how}, and nobody here adjusts this model; send it to a laboratory", how=how))
