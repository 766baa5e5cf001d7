"""A diary of abuse: one tool, a baseline, and after each thing that is done to it the same readings again. Each step is held
against the baseline and against the step before, by a quarter of the limit; the tool is held at its end.

To add something that is done to a tool: a member of ``store.terms.Abuse`` and its words in ``ABUSE_WORDS``.
"""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from reckoner.core.history.comparison import Comparison, compare
from reckoner.core.translation import tr
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import command
from reckoner.shop.runs.judging import margin_of
from reckoner.shop.runs.opening import opened, reload
from reckoner.shop.runs.records import SeriesState, Step
from reckoner.shop.runs.state import RunState
from reckoner.store.schema import Series
from reckoner.store.terms import Abuse, PhaseKind

ABUSE_WORDS: dict[Abuse, str] = {
    Abuse.DROPPED: tr("dropped"),
    Abuse.THROWN: tr("thrown"),
    Abuse.OVERLOADED: tr("overloaded"),
    Abuse.EXERCISED: tr("exercised"),
    Abuse.OTHER: tr("something else"),
}
HARMLESS = frozenset({Abuse.EXERCISED})
"""What is done to any tool before it is tested."""

LEAST_BASELINE = 6
"""Readings, fewer of which are no baseline."""

MOST_STEPS = 40


@dataclass(frozen=True)
class DiaryStep:
    """A step's series, what was done ``before`` it (None: the baseline), and what it says beside the baseline and beside the
    step before; None while either has fewer than two readings, and of the baseline."""

    series: SeriesState
    before: Abuse | None
    note: str
    beside_baseline: Comparison | None
    beside_last: Comparison | None

    @property
    def name(self) -> str:
        """Such as "Dropped, from a metre"."""
        if self.before is None:
            return tr("Baseline")
        words = ABUSE_WORDS[self.before]
        said = (
            self.note if self.before is Abuse.OTHER and self.note else f"{words}, {self.note}" if self.note else words
        )
        return f"{said[:1].upper()}{said[1:]}"


def diary_of(run: RunState) -> tuple[DiaryStep, ...]:
    """The steps of a diary, the baseline first."""
    made: list[DiaryStep] = []
    for series in run.found:
        first, last = (made[0].series, made[-1].series) if made else (None, None)
        made.append(
            DiaryStep(series, series.abuse, series.abuse_note, _beside(run, first, series), _beside(run, last, series))
        )
    return tuple(made)


def _beside(run: RunState, before: SeriesState | None, after: SeriesState) -> Comparison | None:
    if before is None or min(len(before.readings), len(after.readings)) < 2:
        return None
    return compare(before.readings, after.readings, margin_of(run))


def harmed(run: RunState) -> bool:
    """Whether something was done to the tool that may have harmed it."""
    return any(series.abuse is not None and series.abuse not in HARMLESS for series in run.found)


@command
def add_step(session: Session, run_id: int, what: Abuse, words: str, act: Act) -> RunState:
    """Record what was done to the tool, and ask for the same readings again. Raises ShopRefused before the step at hand is
    read, in a run of another kind, or without words for what is none of the usual things. Changes: runs."""
    run = opened(session, run_id)
    if not run.policy.diary:
        raise ShopRefused(tr("Only a diary has steps of this kind; begin one for the tool."))
    if run.step is not Step.DECIDE:
        raise ShopRefused(tr("Read this step to its end first, with its zero."))
    if what is Abuse.OTHER and not words.strip():
        raise ShopRefused(tr("Say in a few words what was done to it."))
    if len(run.found) >= MOST_STEPS:
        raise ShopRefused(tr("{most} steps are one diary; sign it, and begin another.", most=MOST_STEPS))
    baseline = run.found[0]
    position = (session.scalar(select(func.max(Series.position)).where(Series.run_id == run_id)) or 0) + 1
    session.add(
        Series(
            run_id=run_id, phase=PhaseKind.MEASURE, direction=baseline.direction, position=position, target=baseline.target,
            wanted=baseline.wanted, place=len(run.found), abuse=what, abuse_note=words.strip(),
        )
    )  # fmt: skip
    note(session, act, tr("added a step to a diary"), run.tool.number, run=run_id, what=what, words=words.strip())
    return reload(session, run_id, act)
