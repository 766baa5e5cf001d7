"""What a run says, whatever its kind: the sentence on the bench, and the one that is kept with the signature."""

from __future__ import annotations

from reckoner.core.verdict import Verdict
from reckoner.shop.runs.judging import comparisons
from reckoner.shop.runs.state import RunState
from reckoner.shop.sidewords import sides_sentence
from reckoner.shop.wording import characterised_sentence, comparison_sentence, run_sentence


def saying(run: RunState, found: Verdict) -> str:
    """What it measured, what its two sides say of each other, or how its worst point stands."""
    if run.policy.measures:
        return characterised_sentence(run)
    if run.policy.contrasts:
        return sides_sentence(run)
    return run_sentence(run.tool, found)


def concluded_sentence(run: RunState, found: Verdict) -> str:
    """What it says at its signature: the same, after what changed since the last full run."""
    told = comparisons(run) if run.policy.compares else ()
    said = saying(run, found)
    return f"{comparison_sentence(told[0][2], told[0][1].on)}; {said}" if told else said
