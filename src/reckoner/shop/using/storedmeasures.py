"""Stored values of a tool or a meter taken as the measured torques of a job: in their order, into the pass at hand."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy.orm import Session

from reckoner.core.jobs import WANTED, JobStep, StepKind
from reckoner.core.translation import tr
from reckoner.shop.acts import Act, ShopRefused
from reckoner.shop.using.working import enter_measured, opened
from reckoner.shop.using.works import WorkState

TAKES = (StepKind.TIGHTEN, StepKind.LAST, StepKind.MEASURE)
"""The passes in which each fastener has one torque."""


def open_ones(state: WorkState) -> tuple[int, ...]:
    """The fasteners that a file's values would go to, in the order of the pass at hand; empty where it takes none."""
    step = _step(state)
    if step is None or state.stand.next is None or state.closed or state.stand.over:
        return ()
    place, kind = state.stand.next.step, WANTED[step.kind][0]
    done = {e.fastener for e in state.stand.counted if e.step == place and e.kind is kind}
    return tuple(fastener for fastener in step.order if fastener not in done)


def _step(state: WorkState) -> JobStep | None:
    step = state.steps[state.stand.next.step] if state.stand.next is not None else None
    return step if step is not None and step.kind in TAKES else None


def take(session: Session, looked_at: WorkState, values: Sequence[tuple[int, float]], act: Act) -> WorkState:
    """Enter (line in its file, N·m) of each as the measured torque of the next fastener, which is done with it.

    What is over once the pass is full is left. Raises ShopRefused for a pass that takes none and for a job that went on
    meanwhile; nothing of the file is kept then.
    """
    state = opened(session, looked_at.id)
    if len(state.entries) != len(looked_at.entries):
        raise ShopRefused(tr("The job went on meanwhile. Look at what is there now, and take the rest then."))
    fasteners, there = open_ones(state), state.stand.next
    if not fasteners or there is None:
        raise ShopRefused(tr("The pass at hand takes no torques from a file."))
    for (line, value), fastener in zip(values, fasteners, strict=False):
        try:
            state = enter_measured(
                session, state.id, there.step, fastener, act, value, tr("stored, line {line}", line=line)
            )
        except ShopRefused as refusal:
            raise ShopRefused(
                tr("Line {line}: {refusal} Nothing of the file was taken.", line=line, refusal=refusal)
            ) from None
    return state
